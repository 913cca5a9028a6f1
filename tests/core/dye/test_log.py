"""What the log says: ticks, timers, pulls, marks; corrections lie over what they correct."""

from datetime import timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError
from tests.bench import START, USUAL, bench_for, entry

from zesty_grid.core.dye.bench_entry import CLOCK_OFF, NewBenchEntry, true_time
from zesty_grid.core.dye.iron_limits import most_seconds
from zesty_grid.core.dye.log import (
    begun_at,
    loaded,
    marks_of,
    pulls_of,
    ready_at,
    standing,
    ticked_at,
    timers_of,
)
from zesty_grid.core.dye.log_words import entry_words, log_lines, search
from zesty_grid.core.dye.swatch_record import left_out_of, lost_of
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF


def test_a_tick_counts_until_it_is_taken_back():
    assert ticked_at([], "v", "s") is None
    assert ticked_at([entry(1, "done"), entry(2, "record")], "v", "s") == START
    assert ticked_at([entry(1, "done"), entry(2, "undone", 1)], "v", "s") is None
    again = [entry(1, "done"), entry(2, "undone", 1), entry(3, "done", 2)]
    assert ticked_at(again, "v", "s") == START + timedelta(minutes=2)


@pytest.mark.parametrize(
    ("kind", "wrong"),
    [
        ("record", {"ph": 15}), ("record", {"temperature_c": 200}), ("record", {}),
        ("loaded", {}), ("pulled", {}), ("timer", {}), ("dose", {"grams": 1}),
        ("cure", {"cure": "repeat"}), ("deviation", {}), ("struck", {}), ("rinses", {}),
        ("done", {"at": "2026-09-14T09:00:00"}), ("done", {"key": "short"}),
    ],
)  # fmt: skip
def test_impossible_and_empty_entries_are_refused(kind, wrong):
    with pytest.raises(ValidationError):
        NewBenchEntry(vessel="v", step="s", kind=kind, **wrong)


@given(st.integers(-(10**6), 10**6), st.integers(0, 10**6))
def test_however_wrong_a_devices_clock_is_the_moment_comes_out_true(off_s, waited_s):
    """It waited so long on the device before it was sent; both its times are off by the same."""
    clock = timedelta(seconds=off_s)
    received = START + timedelta(seconds=waited_s)
    said = NewBenchEntry(kind="note", note="n", at=START + clock, sent_at=received + clock)
    found = true_time(said, received)
    assert abs(found - START) <= CLOCK_OFF
    if abs(clock) > CLOCK_OFF or off_s == 0:
        assert found == START


def test_an_entry_is_never_later_than_its_arrival():
    ahead = NewBenchEntry(kind="note", note="n", at=START + timedelta(days=1))
    assert true_time(ahead, START) == START
    assert true_time(NewBenchEntry(kind="note", note="n"), START) == START


def test_a_correction_counts_and_what_it_corrects_stays_in_the_log():
    first = entry(1, "record", ph=4.0)
    second = entry(2, "record", ph=5.0, replaces=1)
    third = entry(3, "struck", replaces=2)
    assert standing([first, second]) == [second]
    assert standing([first, second, third]) == []
    lines = {line.id: line for line in log_lines([first, second, third], [])}
    assert lines[1].replaced_by == 2
    assert lines[2].words.endswith("in place of no. 1")
    assert lines[3].kind_words == "struck out"


def test_entries_that_arrive_late_stand_at_their_own_time():
    late = entry(2, "done", -30)
    early = entry(1, "undone", -60)
    assert standing([early, late])[0] == early
    assert ticked_at(standing([entry(1, "undone", -10), late]), "v", "s") is None


def test_a_timer_runs_from_begun_to_done_and_can_be_made_longer():
    dye = bench_for()["D1"]
    where = {"vessel": dye.vessel.key, "step": "hold"}
    log = [entry(1, "begun", 0, minutes=60, **where)]
    (timer,) = timers_of(7, [dye], log)
    assert (timer.study, timer.vessel_name, timer.step) == (7, "D1", "hold")
    assert timer.due_at == START + timedelta(minutes=60)
    # Stirred every ten minutes: common practice.
    assert timer.stir_every_min == 10
    log.append(entry(2, "timer", 61, **where | {"minutes": 5}))
    assert timers_of(7, [dye], log)[0].due_at == START + timedelta(minutes=65)
    assert timers_of(7, [dye], [*log, entry(3, "done", 64, **where)]) == []
    assert timers_of(7, [dye], [*log, entry(3, "undone", 64, **where)]) == []
    assert begun_at([*log, entry(3, "undone", 64, **where)], dye.vessel.key, "hold") is None


def test_who_is_in_is_who_went_in_and_did_not_come_out():
    log = [
        entry(1, "loaded", swatches=["AAAA", "CCCC"]),
        entry(2, "unloaded", swatches=["AAAA"]),
        entry(3, "loaded", swatches=["EEEE"], vessel="other"),
    ]
    assert loaded(log, "v") == ["CCCC"]


def test_seconds_in_the_iron_are_kept_for_each_swatch():
    iron = bench_for()["F1"]
    where = {"vessel": iron.vessel.key, "step": "dip"}
    log = [
        entry(1, "begun", 0, **where),
        entry(2, "pulled", 0.755, **where, swatches=["AAAA"]),
        entry(3, "begun", 1, **where, swatches=["CCCC"]),
        entry(4, "pulled", 3, **where, swatches=["CCCC", "EEEE"]),
        entry(5, "pulled", 9, **where, swatches=["AAAA"]),
    ]
    seconds = {pull.swatch: pull.seconds for pull in pulls_of([iron], log)}
    assert seconds == pytest.approx({"AAAA": 45.3, "CCCC": 120.0, "EEEE": 180.0})


def test_wool_may_stay_five_minutes_in_iron_and_all_else_one():
    # Cotton and silk shift in under 60 s, wool in up to 5 min: common practice.
    limits = {key: most_seconds(STARTING_SHELF.fibre(key)) for key in ("wool", "silk", "cotton")}
    assert limits == {"wool": 300, "silk": 60, "cotton": 60}
    assert most_seconds(None) == 60


def test_swatches_carry_what_went_wrong_and_what_is_done_about_it():
    log = [
        entry(1, "deviation", deviation="boiled"),
        entry(2, "deviation", deviation="felted", swatches=["CCCC"]),
        entry(3, "cure", cure="leave out", about=1),
        entry(4, "cure", cure="repeat", about=2),
    ]
    marks = marks_of(log, {"v": ("AAAA", "CCCC")})
    assert [(m.swatch, m.deviation, m.cure) for m in marks] == [
        ("AAAA", "boiled", "leave out"), ("CCCC", "boiled", "leave out"),
        ("CCCC", "felted", "repeat"),
    ]  # fmt: skip
    assert left_out_of(marks) == {"AAAA", "CCCC"}
    assert lost_of(marks) == {"CCCC"}


def test_pieces_are_ready_when_dry_and_rested():
    iron = bench_for()["F1"]
    hung = entry(1, "done", 0, vessel=iron.vessel.key, step="dry")
    # Dry overnight, and a day's rest: common practice.
    assert ready_at(iron, [hung], USUAL) == START + timedelta(hours=36)
    assert ready_at(iron, [], USUAL) is None
    assert ready_at(bench_for()["M1"], [hung], USUAL) is None


def test_the_log_is_searched_by_every_word():
    lines = log_lines(
        [
            entry(1, "record", 0, ph=4.5, who="Imke", note="smells of hay"),
            entry(2, "deviation", 1, deviation="boiled", who="Tarek", swatches=["AAAA"]),
        ],
        [],
    )
    assert [line.id for line in lines] == [2, 1]
    assert [line.id for line in search(lines, "HAY 4.5")] == [1]
    assert [line.id for line in search(lines, "aaaa")] == [2]
    assert search(lines, "hay boiled") == []
    assert [line.id for line in search(lines, who="Tarek", kind="deviation")] == [2]


def test_words_say_all_that_an_entry_holds():
    said = entry(1, "rinses", count=3, clear=True, bled="much", note="")
    assert entry_words(said) == "3 rinses, clear, bled: much"
    assert "9 swatches" in entry_words(entry(2, "loaded", swatches=[f"AA{n}" for n in range(9)]))
