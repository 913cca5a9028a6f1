"""Readings of textiles that were never in a grid, and of tiles that should never change."""

from collections.abc import Sequence
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import lab_to_hex
from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.core.read.measurement import Lab

ClothSource = Literal["photo", "instrument", "typed"]
# Readings before the newest that it takes to know what is usual.
FEWEST_FOR_DRIFT = 2


class ClothReading(Frozen):
    """One colour of a reference cloth or a control tile (L*a*b*, D50, 2°). Never overwritten."""

    id: int
    source: ClothSource
    lab: Lab
    hex: str
    colour_words: str
    uncertainty_de00: float
    flags: tuple[str, ...] = ()
    note: str = ""
    photo: int | None = None
    taken_on: str
    kept_at: str


class TypedColour(Frozen):
    """A colour as a person types it, or as it stands in a maker's list (D50, 2°)."""

    lightness: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)]
    a: Annotated[float, Field(ge=-128, le=128, allow_inf_nan=False)]
    b: Annotated[float, Field(ge=-128, le=128, allow_inf_nan=False)]
    uncertainty_de00: Annotated[float, Field(ge=0.1, le=20, allow_inf_nan=False)] = 1.0
    note: Annotated[str, Field(max_length=500)] = ""


class MeanColour(Frozen):
    """Of all readings of a cloth, each weighing by its uncertainty."""

    lab: Lab
    hex: str
    colour_words: str
    uncertainty_de00: float


class Drift(Frozen):
    """The newest reading of a tile against the first ones: ΔE00, its standard uncertainty, and
    whether it is more than chance."""

    de00: float
    uncertainty_de00: float
    is_real: bool
    words: str


def mean_colour(readings: Sequence[ClothReading]) -> MeanColour | None:
    """None where it was never read."""
    if not readings:
        return None
    weights = np.array([1 / max(one.uncertainty_de00, 0.1) ** 2 for one in readings])
    lab = weights @ np.array([one.lab for one in readings]) / weights.sum()
    # What readings of one camera share does not shrink with their number.
    least = min(one.uncertainty_de00 for one in readings)
    lightness, a, b = (float(value) for value in lab)
    return MeanColour(
        lab=(lightness, a, b), hex=lab_to_hex(lab), colour_words=colour_words(lab), uncertainty_de00=least
    )


def tile_drift(readings: Sequence[ClothReading]) -> Drift | None:
    """How the newest reading of a tile lies against those before; None for fewer than two before.

    What is usual is taken from how the earlier ones scatter, and from the uncertainties said where
    they are few.
    """
    if len(readings) <= FEWEST_FOR_DRIFT:
        return None
    earlier = np.array([one.lab for one in readings[:-1]])
    usual = earlier.mean(axis=0)
    newest = np.array(readings[-1].lab)
    scatter = delta_e_2000(earlier, np.broadcast_to(usual, earlier.shape))
    found = float(np.sqrt((scatter**2).sum() / (len(earlier) - 1)))
    said = float(np.median([one.uncertainty_de00 for one in readings]))
    # Few earlier readings say little of their scatter: it counts by their number, and what was
    # said of each as four of them.
    own = float(np.sqrt((4 * said**2 + (len(earlier) - 1) * found**2) / (3 + len(earlier))))
    uncertainty = own * float(np.sqrt(1 + 1 / len(earlier)))
    de00 = float(delta_e_2000(usual, newest))
    is_real = de00 > 2 * uncertainty
    words = (
        f"It was read {de00:.1f} ΔE00 from its usual colour, where {2 * uncertainty:.1f} is "
        "chance: the photo, the chart or the tile has changed."
        if is_real
        else f"As usual: {de00:.1f} ΔE00 from its earlier readings, within chance ({2 * uncertainty:.1f})."
    )
    return Drift(de00=de00, uncertainty_de00=uncertainty, is_real=is_real, words=words)
