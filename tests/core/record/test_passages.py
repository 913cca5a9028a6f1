"""Who was really in a vessel, from when until when: ticked, in silence, taken out, pulled."""

from datetime import timedelta

import pytest
from tests.bench import START, bench_for, entry

from zesty_grid.core.record.bath_facts import facts_of
from zesty_grid.core.record.passages import Passage, who_is_in

BENCH = bench_for()
DYE = BENCH["D1"]
OWN = DYE.vessel.swatches


def at(minutes: float):
    return START + timedelta(minutes=minutes)


def log_of(*said: tuple, vessel: str = "D1"):
    """Entries as (kind, step, minutes, what else)."""
    return [
        entry(i, kind, minutes, **({"vessel": vessel, "step": step} | (more[0] if more else {})))
        for i, (kind, step, minutes, *more) in enumerate(said, 1)
    ]


def by_code(*said: tuple) -> dict[str, Passage]:
    return {one.swatch: one for one in who_is_in(DYE, log_of(*said)).passages}


def test_before_anything_goes_in_all_are_expected():
    who = who_is_in(DYE, log_of(("done", "fill", 0)))
    assert who.passages == ()
    assert set(who.expected) == set(OWN)
    assert who.missed == ()


def test_a_bath_filled_without_a_tick_had_all_of_its_own_in_it():
    found = by_code(("done", "enter", 10), ("done", "finish", 90))
    assert set(found) == set(OWN)
    one = found[OWN[0]]
    assert (one.in_at, one.known, one.ended, one.out_at) == (at(10), "as planned", False, None)
    out = by_code(("done", "enter", 10), ("done", "rinse", 90))[OWN[0]]
    assert (out.out_at, out.ended) == (at(90), True)


def test_where_some_were_ticked_only_those_were_in():
    ticked = {"swatches": list(OWN[:2])}
    who = who_is_in(DYE, log_of(("loaded", "enter", 5, ticked), ("done", "enter", 10)))
    assert {one.swatch for one in who.passages} == set(OWN[:2])
    assert who.missed == OWN[2:]
    assert who.expected == ()
    still = who_is_in(DYE, log_of(("loaded", "enter", 5, ticked)))
    assert set(still.expected) == set(OWN[2:])


def test_a_piece_of_another_vessel_is_a_stray():
    stranger = next(c for c in BENCH["D2"].vessel.swatches if c not in OWN)
    found = by_code(("loaded", "enter", 5, {"swatches": [OWN[0], stranger]}))
    assert found[stranger].stray
    assert not found[OWN[0]].stray


def test_a_look_is_no_leaving_and_taken_out_for_good_is_one():
    ticked = {"swatches": list(OWN)}
    found = by_code(
        ("loaded", "enter", 5, ticked),
        ("done", "enter", 10),
        ("looked", "hold", 20, {"swatches": [OWN[0]]}),
        ("unloaded", "hold", 30, {"swatches": [OWN[1]]}),
    )
    assert found[OWN[0]].out_at is None
    assert (found[OWN[1]].out_at, found[OWN[1]].ended) == (at(30), True)


def test_ticked_out_before_the_lid_went_on_it_was_never_in():
    found = by_code(
        ("loaded", "enter", 5, {"swatches": list(OWN[:2])}),
        ("unloaded", "enter", 6, {"swatches": [OWN[0]]}),
        ("done", "enter", 10),
    )
    assert set(found) == {OWN[1]}


def test_seconds_in_the_iron_are_kept_for_each_swatch():
    iron = BENCH["F1"]
    first, second, third = iron.vessel.swatches[:3]
    who = who_is_in(
        iron,
        log_of(
            ("begun", "dip", 0),
            ("pulled", "dip", 0.755, {"swatches": [first]}),
            ("begun", "dip", 1, {"swatches": [second]}),
            ("pulled", "dip", 3, {"swatches": [second, third]}),
            ("pulled", "dip", 9, {"swatches": [first]}),
            vessel="F1",
        ),
    )
    seconds = {one.swatch: one.seconds for one in who.passages if one.seconds}
    assert seconds == pytest.approx({first: 45.3, second: 120.0, third: 180.0})


def test_a_corrected_pull_keeps_its_seconds():
    """A note put right an hour later does not make the dip an hour longer."""
    iron = BENCH["F1"]
    code = iron.vessel.swatches[0]
    log = log_of(("begun", "dip", 0), ("pulled", "dip", 0.4, {"swatches": [code]}), vessel="F1")
    mended = entry(3, "pulled", 0.4, vessel="F1", step="dip", swatches=[code], note="pale", replaces=2)
    before, after = who_is_in(iron, log), who_is_in(iron, [log[0], mended])
    assert before == after
    assert next(p.seconds for p in after.passages if p.swatch == code) == pytest.approx(24)


def test_facts_say_when_a_bath_began_ended_and_is_rested():
    said = (("done", "fill", 0), ("done", "enter", 10), ("done", "rinse", 90), ("done", "dry", 95))
    facts = facts_of(DYE, log_of(*said))
    assert facts.begun
    assert (facts.begun_at, facts.ended_at, facts.finished_at) == (at(0), at(90), at(95))
    # Dry overnight (12 h) and a day's rest: common practice.
    assert facts.ready_at == at(95) + timedelta(hours=36)
    back = facts_of(DYE, log_of(("done", "fill", 0), ("undone", "fill", 1)))
    assert not back.begun
