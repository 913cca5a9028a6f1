"""The fewest vessels and the fewest knots, against trying everything."""

import itertools

import pytest
from tests.depth import depth

from zesty_grid.core.plan.filling import fewest_vessels
from zesty_grid.core.plan.giving_ties import give_ties
from zesty_grid.core.plan.ties import ties_with

KINDS = [("small", 2, 3), ("middle", 5, 2), ("large", 9, 1)]


def fewest_by_trying(count: int) -> int:
    """Number of vessels of the smallest choice that holds `count` at once."""
    each = [[(room, n) for n in range(there + 1)] for _, room, there in KINDS]
    fits = [
        sum(n for _, n in choice) for choice in itertools.product(*each) if sum(room * n for room, n in choice) >= count
    ]
    return min(fits)


@pytest.mark.parametrize("count", range(1, 26))
def test_the_fewest_vessels_are_found(count):
    chosen = fewest_vessels(count, KINDS)
    assert len(chosen) == fewest_by_trying(count)
    assert sum(load for _, load in chosen) == count
    room = {key: size for key, size, _ in KINDS}
    assert all(0 < load <= room[key] for key, load in chosen)


def test_more_than_all_vessels_hold_goes_in_turns():
    chosen = fewest_vessels(60, KINDS)
    assert sum(load for _, load in chosen) == 60
    assert len(chosen) == 14


def test_no_vessel_that_holds_a_swatch():
    assert fewest_vessels(5, [("thimble", 0, 4)]) == []


def one_slip_apart(a: tuple[int, ...], b: tuple[int, ...]) -> bool:
    """One knot more or less in one group; a group of one may vanish."""
    for longer, shorter in ((a, b), (b, a)):
        for i, knots in enumerate(longer):
            fewer = (*longer[:i], knots - 1, *longer[i + 1 :])
            if tuple(k for k in fewer if k) == shorter:
                return True
    return False


@pytest.mark.parametrize("swatches", range(1, depth(5, 6)))
def test_one_vessel_gets_the_fewest_knots_of_all_safe_sets(swatches):
    every = [tie for knots in range(1, 6) for tie in ties_with(knots)]
    best = min(
        sum(map(sum, chosen))
        for chosen in itertools.combinations(every, swatches)
        if not any(one_slip_apart(a, b) for a, b in itertools.combinations(chosen, 2))
    )
    names = tuple(f"s{i}" for i in range(swatches))
    given = give_ties({}, list(names), [names])
    found = [tuple(map(int, tie.split("·"))) for tie in given.values()]
    assert sum(map(sum, found)) == best
    assert not any(one_slip_apart(a, b) for a, b in itertools.combinations(found, 2))
