"""Boxes of pH strips: the colours that a box prints for each pH, taught once by a photo."""

from datetime import date
from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, model_validator

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.measurement import Lab
from zesty_grid.core.shelf.items import OnShelf

MOST_PADS = 6
Hex = Annotated[str, Field(pattern=r"^#[0-9a-f]{6}$")]
Ph = Annotated[float, Field(ge=0, le=14, allow_inf_nan=False)]


class PhStep(Frozen):
    """What the box prints for one pH: the colour of each pad, from the tip on, and how sure they are."""

    ph: Ph
    pads: Annotated[tuple[Lab, ...], Field(min_length=1, max_length=MOST_PADS)]
    hexes: Annotated[tuple[Hex, ...], Field(max_length=MOST_PADS)]
    uncertainty_de00: Annotated[float, Field(ge=0, le=50, allow_inf_nan=False)]


class PhStrip(OnShelf):
    """A box of strips with one pad or several; `taught_on`: when its colours were read."""

    kind: Literal["ph_strip"] = "ph_strip"
    steps: Annotated[tuple[PhStep, ...], Field(min_length=2, max_length=40)]
    taught_on: date

    @property
    def pads(self) -> int:
        return len(self.steps[0].pads)

    @model_validator(mode="after")
    def _is_a_scale(self) -> "PhStrip":
        phs = [step.ph for step in self.steps]
        if any(after <= before for before, after in pairwise(phs)):
            raise ValueError("the pH values of a scale rise, each said once")
        if any(len(step.pads) != self.pads for step in self.steps):
            raise ValueError("every pH of a scale has as many colours as the strip has pads")
        return self
