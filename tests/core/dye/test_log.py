"""What the log says: ticks, timers, times that are true; corrections lie over what they correct."""

from datetime import timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError
from tests.bench import START, bench_for, entry

from zesty_grid.core.dye.iron_limits import most_seconds
from zesty_grid.core.dye.log_words import entry_words, log_lines, search
from zesty_grid.core.record.entry import CLOCK_OFF, NewBenchEntry, true_times
from zesty_grid.core.record.log import StepTimes, begun_at, has_begun, loaded, standing, step_times, ticked_at
from zesty_grid.core.record.ready import ready_after
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF


def times_of(one, log) -> dict[str, StepTimes]:
    return {step.key: step for step in step_times(one, log)}


def test_a_tick_counts_until_it_is_taken_back():
    assert ticked_at([], "v", "s") is None
    assert ticked_at([entry(1, "done"), entry(2, "record")], "v", "s") == START
    assert ticked_at([entry(1, "done"), entry(2, "undone", 1)], "v", "s") is None
    again = [entry(1, "done"), entry(2, "undone", 1), entry(3, "done", 2)]
    assert ticked_at(again, "v", "s") == START + timedelta(minutes=2)


@pytest.mark.parametrize(
    ("kind", "wrong"),
    [
        ("record", {"ph": 15}),
        ("record", {"temperature_c": 200}),
        ("record", {}),
        ("loaded", {}),
        ("pulled", {}),
        ("timer", {}),
        ("addition", {}),
        ("reheat", {}),
        ("addition", {"addition": {"what": "water", "amount": 0, "unit": "mL"}}),
        ("addition", {"addition": {"what": "water", "amount": 5, "unit": "drops of"}}),
        (
            "addition",
            {"addition": {"what": "substance", "item": "alum", "amount": 5, "unit": "g", "stock_percent": 10}},
        ),
        ("placed", {"swatches": ["AAAA"]}),
        ("placed", {"swatches": ["AAAA", "CCCC"], "levels": {"dye": "weld"}}),
        ("cure", {"cure": "repeat"}),
        ("deviation", {}),
        ("struck", {}),
        ("rinses", {}),
        ("done", {"at": "2026-09-14T09:00:00"}),
        ("done", {"key": "short"}),
    ],
)
def test_impossible_and_empty_entries_are_refused(kind, wrong):
    with pytest.raises(ValidationError):
        NewBenchEntry.model_validate({"vessel": "v", "step": "s", "kind": kind} | wrong)


@given(st.integers(-(10**6), 10**6), st.integers(0, 10**6))
def test_however_wrong_a_devices_clock_is_the_moment_comes_out_true(off_s, waited_s):
    """It waited so long on the device before it was sent; both its times are off by the same."""
    clock = timedelta(seconds=off_s)
    received = START + timedelta(seconds=waited_s)
    said = NewBenchEntry(kind="note", note="n", at=START + clock, sent_at=received + clock)
    found = true_times(said, received)
    assert abs(found.at - START) <= CLOCK_OFF
    if abs(clock) > CLOCK_OFF or off_s == 0:
        assert found.at == START


def test_an_entry_is_never_later_than_its_arrival():
    ahead = NewBenchEntry(kind="note", note="n", at=START + timedelta(days=1))
    assert true_times(ahead, START).at == START
    assert true_times(NewBenchEntry(kind="note", note="n"), START).at == START


def test_what_is_said_of_an_earlier_hour_stands_there_and_says_when_it_was_written():
    said = NewBenchEntry(kind="note", note="n", at=START - timedelta(hours=3), entered_at=START, sent_at=START)
    found = true_times(said, START)
    assert found.at == START - timedelta(hours=3)
    assert found.entered_at == START
    late = entry(1, "note").model_copy(update=dict(found))
    (line,) = log_lines([late], [])
    assert line.entered_later
    assert not log_lines([entry(2, "note")], [])[0].entered_later


@given(st.integers(0, 10**7), st.booleans())
def test_a_correction_keeps_the_time_unless_it_says_another(later_s, says_when):
    received = START + timedelta(seconds=later_s)
    at = START + timedelta(seconds=later_s // 2) if says_when else None
    said = NewBenchEntry(kind="note", note="n", replaces=1, at=at)
    found = true_times(said, received, corrects=START)
    assert found.at == (at if says_when else START)
    assert found.entered_at == received


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
    where = {"vessel": "D1", "step": "hold"}
    log = [entry(1, "begun", 0, minutes=60, **where)]
    hold = times_of(dye, log)["hold"]
    assert hold.runs
    assert hold.due_at == START + timedelta(minutes=60)
    # Stirred every ten minutes: common practice.
    assert hold.stir_every_min == 10
    log.append(entry(2, "timer", 61, **where | {"minutes": 5}))
    assert times_of(dye, log)["hold"].due_at == START + timedelta(minutes=65)
    assert not times_of(dye, [*log, entry(3, "done", 64, **where)])["hold"].runs
    assert not times_of(dye, [*log, entry(3, "undone", 64, **where)])["hold"].runs
    assert begun_at([*log, entry(3, "undone", 64, **where)], "D1", "hold") is None


def test_an_overnight_reheat_is_a_step_with_a_timer_of_its_own():
    dye = bench_for()["D1"]
    log = [entry(7, "reheat", 60, vessel="D1", step="", temperature_c=60, minutes=30)]
    again = times_of(dye, log)["reheat-7"]
    assert (again.title, again.runs) == ("Heat again to 60 °C", True)
    assert again.due_at == START + timedelta(minutes=90)
    longer = entry(8, "timer", 80, vessel="D1", step="reheat-7", minutes=15)
    assert times_of(dye, [*log, longer])["reheat-7"].due_at == START + timedelta(minutes=105)
    done = entry(9, "done", 95, vessel="D1", step="reheat-7")
    assert times_of(dye, [*log, done])["reheat-7"].done_at == START + timedelta(minutes=95)


def test_a_bath_has_begun_when_something_was_done_that_stands():
    dye = bench_for()["D1"]
    where = {"vessel": "D1", "step": "fill"}
    assert not has_begun(dye, [])
    assert not has_begun(dye, [entry(1, "note", **where)])
    assert has_begun(dye, [entry(1, "done", **where)])
    assert not has_begun(dye, [entry(1, "done", **where), entry(2, "undone", 1, **where)])
    ticked = [entry(1, "loaded", **where, swatches=["AAAA"])]
    assert has_begun(dye, ticked)
    assert not has_begun(dye, [*ticked, entry(2, "unloaded", 1, **where, swatches=["AAAA"])])


def test_who_is_ticked_in_is_who_went_in_and_did_not_come_out():
    log = [
        entry(1, "loaded", swatches=["AAAA", "CCCC"]),
        entry(2, "unloaded", swatches=["AAAA"]),
        entry(3, "loaded", swatches=["EEEE"], vessel="other"),
    ]
    assert loaded(log, "v") == ["CCCC"]


def test_wool_may_stay_five_minutes_in_iron_and_all_else_one():
    # Cotton and silk shift in under 60 s, wool in up to 5 min: common practice.
    limits = {key: most_seconds(STARTING_SHELF.fibre(key)) for key in ("wool", "silk", "cotton")}
    assert limits == {"wool": 300, "silk": 60, "cotton": 60}
    assert most_seconds(None) == 60


def test_pieces_are_ready_when_dry_and_rested():
    bench = bench_for()
    hung = [entry(1, "done", 0, vessel="F1", step="dry")]
    # Dry overnight, and a day's rest: common practice.
    assert ready_after(bench["F1"], step_times(bench["F1"], hung)) == START + timedelta(hours=36)
    assert ready_after(bench["F1"], step_times(bench["F1"], [])) is None
    lifted = [entry(1, "done", 0, vessel="M1", step="finish")]
    assert ready_after(bench["M1"], step_times(bench["M1"], lifted)) is not None


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
