"""Photos with something wrong: read all the same, or said, or refused; nothing wrong in silence.

Every fault is one of the simulated camera, which knows the truth (`tests/photo_conditions.py`).
"""

from functools import cache

import pytest
from tests.depth import depth
from tests.photo_conditions import CONDITIONS, CellOutcome, look

pytestmark = pytest.mark.slow

SEEDS = depth((310,), (310, 311))
# Faults of the chart alone that one photo cannot show: they need what is known from before.
KNOWN_FROM_BEFORE = {"chart yellowed", "chart bleached"}
SAID_ON_THE_CELL = {
    "shadow on a cell 10%": "shadow",
    "shadow on a cell 20%": "shadow",
    "shadow on a cell 40%": "shadow",
    "saturated": "beyond the chart",
    "skein shallow": "yarn",
    "skein deep": "yarn",
    "gauze": "see-through",
    "thin silk": "see-through",
    "two colours": "more than one colour",
    "two pieces": "more than one piece",
    "hole": "hole",
}
SAID_OF_THE_PHOTO = {
    "shadow on the chart 10%": "paper around the chart",
    "shadow on the chart 20%": "lighter than paper is",
    "shadow on the chart 40%": "lighter than paper is",
    "local tone narrow": "from place to place",
    "local tone strong": "from place to place",
    "sheen 3 %": "sheen on the chart",
    "sheen 6 %": "sheen on the chart",
}
READ_WELL = {
    "plain": 1.5,
    "shadow on a cell 10%": 1.5,
    "skein shallow": 2.0,
    "skein deep": 2.3,
    "thin silk": 2.5,
    "hole": 1.5,
    "over the edge": 1.5,
    "white silk": 2.5,
    "white silk to the edge": 2.5,
    "cream paper": 1.6,
    "bluish paper": 1.6,
}


@cache
def outcomes(name: str) -> tuple[CellOutcome, ...]:
    return tuple(one for seed in SEEDS for one in look(name, seed))


def faulty(name: str) -> list[CellOutcome]:
    return [one for one in outcomes(name) if one.faulty]


@pytest.mark.parametrize("name", [name for name in CONDITIONS if name not in KNOWN_FROM_BEFORE])
def test_what_is_read_wrongly_is_said(name):
    """At most one cell in a hundred is silently off by more than three times its uncertainty."""
    silent = [one for one in outcomes(name) if one.silent]
    assert len(silent) <= len(outcomes(name)) / 100


@pytest.mark.parametrize(("name", "flag"), SAID_ON_THE_CELL.items())
def test_the_right_cell_is_warned_about(name, flag):
    allowed = {flag, "more than one colour"} if name == "two pieces" else {flag}
    assert all(one.cell and allowed & set(one.cell.flags) for one in faulty(name))


@pytest.mark.parametrize(("name", "words"), SAID_OF_THE_PHOTO.items())
def test_faults_of_chart_and_camera_are_said_of_the_photo(name, words):
    for one in faulty(name):
        assert any(words in warning for warning in one.warnings)


def test_a_good_photo_warns_of_nothing():
    assert not any(one.warned for one in outcomes("plain"))


def test_mixed_light_is_said_where_it_differs_from_the_charts():
    flagged = [one for one in outcomes("two lights") if one.cell and "other light" in one.cell.flags]
    assert len(flagged) >= len(outcomes("two lights")) / 2


@pytest.mark.parametrize(("name", "limit_de00"), READ_WELL.items())
def test_what_can_be_put_right_is_read_well(name, limit_de00):
    errors = [one.error_de00 for one in faulty(name)]
    assert None not in errors
    assert sum(errors) / len(errors) < limit_de00


@pytest.mark.parametrize("name", ["shadow on a cell 20%", "two lights", "sheen 6 %", "gauze"])
def test_the_uncertainty_grows_with_the_fault(name):
    held = [one.error_de00 <= 2.5 * one.uncertainty_de00 for one in faulty(name)]
    assert sum(held) >= 0.75 * len(held)


def test_white_silk_on_white_paper_is_found():
    for name in ("white silk", "white silk to the edge", "over the edge"):
        assert all(one.found for one in faulty(name))
