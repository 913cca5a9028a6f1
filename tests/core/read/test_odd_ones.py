"""Pieces that look other than was to be expected."""

import itertools

import numpy as np

from zesty_grid.core.read.odd_ones import Expected, SeenPiece, foretold_by_neighbours, questions

LEVELS = [
    {"fibre": fibre, "mordant": mordant, "iron": iron}
    for fibre, mordant, iron in itertools.product(("wool", "silk", "cotton"), ("none", "alum"), ("0", "1"))
]
EFFECTS = {
    "wool": (0, 0, 0),
    "silk": (5, 0, 4),
    "cotton": (9, -3, -8),
    "none": (0, 0, 0),
    "alum": (-6, 2, 22),
    "0": (0, 0, 0),
    "1": (-20, -2, -15),
}


def colour_of(one: dict[str, str]) -> np.ndarray:
    """A study whose factors add up, as far as any do."""
    return np.array([75.0, 4, 30]) + sum(np.array(EFFECTS[level]) for level in one.values())


def seen(cell: str, lab) -> SeenPiece:
    return SeenPiece(cell=cell, swatch=f"S{cell}", lab=tuple(float(v) for v in lab))


def expected(lab, within: float = 5.0) -> Expected:
    return Expected(lab=tuple(float(v) for v in lab), within_de00=within, known_by="its repeats")


def test_neighbours_foretell_a_place_that_was_not_read():
    labs = np.array([colour_of(one) for one in LEVELS])
    for i, left_out in enumerate(LEVELS):
        others = [j for j in range(len(LEVELS)) if j != i]
        found = foretold_by_neighbours([LEVELS[j] for j in others], labs[others], left_out)
        assert found is not None
        assert np.linalg.norm(np.array(found.lab) - labs[i]) < 6
        assert found.within_de00 >= 8


def test_too_few_neighbours_and_levels_that_were_never_read_foretell_nothing():
    labs = np.array([colour_of(one) for one in LEVELS])
    assert foretold_by_neighbours(LEVELS[:6], labs[:6], LEVELS[7]) is None
    assert foretold_by_neighbours(LEVELS, labs, LEVELS[0] | {"fibre": "hemp"}) is None


def test_a_piece_as_expected_is_not_asked_about():
    lab = (60, 10, 40)
    assert questions([seen("A1", lab)], {"A1": expected(lab)}) == []
    assert questions([seen("A1", lab)], {}) == []


def test_a_piece_far_from_its_repeats_is_asked_about():
    (asked,) = questions([seen("A1", (60, 10, 40))], {"A1": expected((60, -20, 10))})
    assert asked.looks_like is None
    assert "ΔE00 from its repeats" in asked.words
    assert asked.expected_hex.startswith("#")


def test_two_that_fit_each_others_place_are_named_as_swapped():
    yellow, blue, red = (80, 2, 70), (40, 0, -35), (45, 50, 25)
    pieces = [seen("A1", blue), seen("A2", yellow), seen("A3", red)]
    wanted = {"A1": expected(yellow), "A2": expected(blue), "A3": expected(red)}
    asked = {one.cell: one for one in questions(pieces, wanted)}
    assert set(asked) == {"A1", "A2"}
    assert asked["A1"].looks_like == "SA2"
    assert "swapped?" in asked["A2"].words


def test_an_odd_piece_beside_one_as_expected_is_no_swap():
    yellow, blue = (80, 2, 70), (40, 0, -35)
    pieces = [seen("A1", blue), seen("A2", blue)]
    (asked,) = questions(pieces, {"A1": expected(yellow), "A2": expected(blue)})
    assert (asked.cell, asked.looks_like) == ("A1", None)
