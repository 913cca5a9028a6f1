"""Pieces that look other than was to be expected: perhaps two lie in each other's cell."""

from collections.abc import Mapping, Sequence

import numpy as np

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.swatch_codes import on_label
from zesty_grid.core.read.cell_labels import CellLabel
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats, lab_to_hex
from zesty_grid.core.read.measurement import Lab

FEWEST_FOR_NEIGHBOURS = 10
NEIGHBOURS_LEAST_DE00 = 8.0
NEIGHBOURS_TIMES_SCATTER = 3.0
RIDGE = 0.3
# A swapped piece fits the other's place this many times better than its own.
FITS_BETTER = 2.0


class Expected(Frozen):
    """What a piece should look like, how far it may be off, and how that is known."""

    lab: Lab
    within_de00: float
    known_by: str


class OddPiece(Frozen):
    """`looks_like`: the swatch that it may be instead. `expected_hex`: what was to be expected,
    None where it is not a matter of colour."""

    cell: str
    swatch: str
    words: str
    expected_hex: str | None = None
    looks_like: str | None = None


class SeenPiece(Frozen):
    cell: str
    swatch: str
    lab: Lab


def questions(pieces: Sequence[SeenPiece], expected: Mapping[str, Expected]) -> list[OddPiece]:
    """Asks about each piece that is further from what is expected of its swatch than it may be."""
    asked = []
    for piece in pieces:
        own = expected.get(piece.cell)
        if own is None:
            continue
        off = _apart(piece.lab, own.lab)
        if off <= own.within_de00:
            continue
        other = _swapped_with(piece, off, pieces, expected)
        words = f"{piece.swatch} is {off:.0f} ΔE00 from {own.known_by}."
        if other:
            words = f"{piece.swatch} looks like {other.swatch}, and the other way round: swapped?"
        asked.append(
            OddPiece(
                cell=piece.cell,
                swatch=piece.swatch,
                words=words,
                expected_hex=lab_to_hex(np.array(own.lab)),
                looks_like=other.swatch if other else None,
            )
        )
    return asked


def by_labels(labels: Sequence[CellLabel], assigned: Mapping[str, str]) -> list[OddPiece]:
    """Asks about each cell whose label is another swatch's than the sheet says."""
    return [
        OddPiece(
            cell=label.cell,
            swatch=assigned[label.cell],
            looks_like=label.code,
            words=f"The label in {label.cell} says {label.code}, the sheet {assigned[label.cell]}.",
        )
        for label in labels
        if label.cell in assigned and label.code not in (assigned[label.cell], on_label(assigned[label.cell]))
    ]


def _swapped_with(
    piece: SeenPiece, off: float, pieces: Sequence[SeenPiece], expected: Mapping[str, Expected]
) -> SeenPiece | None:
    """Another piece whose place this one fits, and which fits this one's."""
    own = expected[piece.cell]
    best: tuple[float, SeenPiece] | None = None
    for other in pieces:
        there = expected.get(other.cell)
        if other.cell == piece.cell or there is None:
            continue
        fits = _apart(piece.lab, there.lab)
        fits_here = _apart(other.lab, own.lab)
        other_off = _apart(other.lab, there.lab)
        if fits * FITS_BETTER < off and fits_here * FITS_BETTER < other_off:
            worth = fits + fits_here
            if best is None or worth < best[0]:
                best = (worth, other)
    return best[1] if best else None


def foretold_by_neighbours(
    levels: Sequence[Mapping[str, str]], labs: Floats, wanted: Mapping[str, str]
) -> Expected | None:
    """What the levels' main effects foretell for a place, from the swatches that were read.

    `labs` (n, 3) of swatches with `levels`. Ridge regression on main effects; None with too few.
    """
    kinds = sorted({kind for one in levels for kind in one} | set(wanted))
    values = [sorted({one.get(kind, "") for one in levels}) for kind in kinds]
    width = 1 + sum(len(found) - 1 for found in values)
    if len(levels) < max(FEWEST_FOR_NEIGHBOURS, 1.5 * width):
        return None
    if any(wanted.get(kind, "") not in found for kind, found in zip(kinds, values, strict=True)):
        return None

    def row(one: Mapping[str, str]) -> list[float]:
        parts = [1.0]
        for kind, found in zip(kinds, values, strict=True):
            parts += [float(one.get(kind, "") == value) for value in found[1:]]
        return parts

    design = np.array([row(one) for one in levels])
    ridge = RIDGE * np.eye(design.shape[1])
    ridge[0, 0] = 0
    effects = np.linalg.solve(design.T @ design + ridge, design.T @ labs)
    scatter = delta_e_2000(design @ effects, labs)
    foretold = np.array(row(wanted)) @ effects
    limit = NEIGHBOURS_TIMES_SCATTER * float(np.sqrt(np.mean(scatter**2)))
    return Expected(
        lab=(float(foretold[0]), float(foretold[1]), float(foretold[2])),
        within_de00=max(NEIGHBOURS_LEAST_DE00, limit),
        known_by="what its neighbours in the grid foretell",
    )


def _apart(one: Lab, other: Lab) -> float:
    return float(delta_e_2000(np.array(one), np.array(other)))
