"""States between: what the log of one bath says of when a piece was out of it, or when it was heated again."""

from datetime import timedelta

import pytest
from tests.bench import START

from zesty_grid.core.record.entry import BenchEntry
from zesty_grid.core.record.log import StepTimes
from zesty_grid.core.record.passages import Passage
from zesty_grid.core.record.pauses import pauses_of
from zesty_grid.core.record.states import (
    AS_IT_CAME,
    EndedBath,
    StateName,
    bath_of,
    in_order,
    name_between,
    pause_in,
    state_at,
    state_between,
)


def at(hours: float):
    return START + timedelta(hours=hours)


def entry(number: int, hours: float, kind: str, **said) -> BenchEntry:
    moment = at(hours)
    times = {"at": moment, "entered_at": moment, "received_at": moment}
    return BenchEntry(id=number, key=f"entry-{number:04d}", vessel="D1", kind=kind, **times, **said)


def pauses(*said: tuple, out_at: float | None = 100, code: str = "AAAA"):
    """What a log of (hours, kind) says of one piece that went in at 0."""
    more = {"reheat": {"temperature_c": 80.0}}
    log = [entry(i, h, kind, **more.get(kind, {"swatches": (code,)})) for i, (h, kind) in enumerate(said, 1)]
    passage = Passage(
        swatch="AAAA",
        vessel="D1",
        in_at=at(0),
        out_at=None if out_at is None else at(out_at),
        ended=out_at is not None,
        known="ticked",
        stray=False,
    )
    hours = [h for h, kind in said if kind == "reheat"]
    heats = [StepTimes(key=f"reheat-{i}", title="", begun_at=at(h)) for i, h in enumerate(hours)]
    hour = timedelta(hours=1)
    return [
        (one.kind, one.number, (one.from_at - START) / hour, (one.go_ended_at - START) / hour)
        for one in pauses_of([passage], log, heats)
    ]


def test_a_vessel_heated_on_four_days_has_three_states_between():
    assert pauses((24, "reheat"), (48, "reheat"), (72, "reheat")) == [
        ("heating", 1, 0, 24),
        ("heating", 2, 24, 48),
        ("heating", 3, 48, 72),
    ]


def test_a_heating_that_was_planned_counts_as_one_that_came():
    kept = [StepTimes(key=key, title="") for key in ("again-2", "reheat-17", "hold", "cool-1")]
    assert [one.heats_again for one in kept] == [True, True, False, False]


def test_a_piece_that_is_ticked_out_and_in_is_between_while_it_is_out():
    assert pauses((1, "unloaded"), (2, "loaded"), (3, "unloaded"), (4, "loaded")) == [
        ("out", 1, 1, 1),
        ("out", 2, 3, 3),
    ]


@pytest.mark.parametrize(
    "said", [[(20, "unloaded"), (24, "reheat"), (24.2, "loaded")], [(20, "unloaded"), (24, "loaded"), (24.2, "reheat")]]
)
def test_out_and_heated_again_is_one_pause(said):
    assert pauses(*said) == [("heating", 1, 20, 20)]


def test_a_heating_long_after_it_went_in_again_is_another():
    assert pauses((1, "unloaded"), (2, "loaded"), (24, "reheat")) == [("out", 1, 1, 1), ("heating", 1, 2, 24)]


def test_a_look_in_between_is_a_pause():
    assert pauses((1, "looked"), (2, "looked")) == [("out", 1, 1, 1), ("out", 2, 2, 2)]


def test_a_piece_that_stays_out_and_one_that_was_never_out_have_none():
    assert pauses((1, "unloaded"), out_at=1) == []
    assert pauses((1, "unloaded"), (2, "loaded"), code="BBBB") == []


def test_what_comes_after_the_piece_is_out_is_not_its_own():
    assert pauses((24, "reheat"), (48, "reheat"), out_at=30) == [("heating", 1, 0, 24)]


def test_states_between_lie_in_order_and_a_reading_finds_its_own():
    first, second = state_between(7, "heating", 1), state_between(7, "heating", 2)
    behind = [EndedBath(run=3, out_at=at(-5)), EndedBath(run=first, out_at=at(0)), EndedBath(run=second, out_at=at(24))]
    behind.append(EndedBath(run=7, out_at=at(60)))
    assert in_order(behind) == [AS_IT_CAME, 3, first, second, 7]
    assert [state_at(behind, at(hours)) for hours in (-6, -1, 20, 40, 61)] == [AS_IT_CAME, 3, first, second, 7]


def test_a_state_between_knows_its_bath_and_has_its_own_name():
    dyed = StateName(run=7, study=1, vessel="D1", kind="dye", label="as dyed")
    heated, out = state_between(7, "heating", 2), state_between(7, "out", 11)
    assert (bath_of(heated), bath_of(out), bath_of(7), bath_of(AS_IT_CAME)) == (7, 7, 7, AS_IT_CAME)
    assert [name_between(one, dyed).label for one in (heated, out)] == ["after the second heating", "out the 11th time"]
    assert len({name_between(one, dyed).kind for one in (heated, out)} | {dyed.kind}) == 3
    with pytest.raises(ValueError, match="no such pause"):
        pause_in(7, 200)
