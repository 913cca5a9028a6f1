"""Sets of colours: checked against every set that there is."""

from itertools import combinations

import numpy as np
import pytest
from pydantic import ValidationError

from zesty_grid.core.compare.colour_set import SetQuestion, far_apart, in_steps, nearest_two, with_fewer_pots
from zesty_grid.core.read.colour_difference import delta_e_2000

RNG = np.random.default_rng(29)
SOME = np.column_stack([RNG.uniform(20, 90, 14), RNG.uniform(-40, 50, 14), RNG.uniform(-40, 60, 14)])


def always(place: int) -> bool:
    return True


@pytest.mark.parametrize("count", [2, 3, 4, 5])
def test_a_set_lies_at_least_half_as_far_apart_as_the_best_that_there_is(count):
    # The bound of the farthest-first choice is of Gonzalez 1985, for a metric; ΔE00 is nearly one.
    chosen = far_apart(SOME, count, always)
    best = max(nearest_two(SOME[list(every)]) for every in combinations(range(len(SOME)), count))
    assert len(set(chosen)) == count
    assert nearest_two(SOME[chosen]) >= best / 2


def test_what_is_not_kept_is_passed_over():
    kept = far_apart(SOME, 5, lambda place: place % 2 == 0)
    assert len(kept) == 5
    assert all(place % 2 == 0 for place in kept)
    assert far_apart(SOME, 5, lambda place: place < 2) in ([0, 1], [1, 0])
    assert far_apart(np.empty((0, 3)), 5, always) == []


def test_steps_are_even_and_each_colour_is_taken_once():
    ends = np.array([30.0, 40.0, 10.0]), np.array([80.0, -10.0, 50.0])
    line = np.linspace(*ends, 9)
    others = SOME[:4]
    labs = np.vstack([others, line])
    assert in_steps(labs, ends, 5, always) == [4, 6, 8, 10, 12]
    # One colour that lies near two of the steps serves one of them only.
    few = np.vstack([line[0], line[4], line[8]])
    assert in_steps(few, ends, 3, always) == [0, 1, 2]


def test_a_colour_gives_way_to_one_that_serves_as_well_in_fewer_pots():
    labs = np.array([[50.0, 40, 10], [50.5, 40, 10.5], [80, 0, 50]])
    baths = {0: {"alum", "red"}, 1: {"iron", "alum 2", "red"}, 2: {"alum", "yellow"}}
    found = with_fewer_pots(labs, [1, 2], always, lambda place: frozenset(baths[place]))
    assert found == [0, 2]
    # One that is another colour never takes its place.
    assert float(delta_e_2000(labs[0], labs[2])) > 20
    assert with_fewer_pots(labs[:2], [1], always, lambda place: frozenset(baths[place])) == [0]


def test_steps_say_where_they_end():
    with pytest.raises(ValidationError, match="last colour"):
        SetQuestion.model_validate({"how": "steps", "first": {"hex": "#aa8833"}})
