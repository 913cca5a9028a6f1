"""What is asked of a search for a colour."""

from typing import Annotated

import numpy as np
from pydantic import Field, model_validator

from zesty_grid.core.compare.coloured import ColouredKey
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_space import hex_to_lab

Part = Annotated[float, Field(ge=-150, le=150, allow_inf_nan=False)]
Key = Annotated[str, Field(max_length=60)]


class Lasting(Frozen):
    """Still within so much after so many years in a place of the Shelf, at the upper limit."""

    place: Key
    years: Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)] = 10
    within_de00: Annotated[float, Field(gt=0, le=50, allow_inf_nan=False)] = 2


class FindQuestion(Frozen):
    """One of: L*a*b* (D50, 2°), six hexadecimal digits of sRGB, or the key of anything that was
    read. `gentle`: no iron, no copper, no heat, pH 5 to 8. `mass_g` is what the cost is for."""

    lab: tuple[Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)], Part, Part] | None = None
    hex: Annotated[str, Field(pattern=r"^#?[0-9a-fA-F]{6}$")] | None = None
    key: ColouredKey | None = None
    uncertainty_de00: Annotated[float, Field(ge=0, le=30, allow_inf_nan=False)] = 0.0
    fibres: Annotated[tuple[Key, ...], Field(max_length=40)] = ()
    lasting: Lasting | None = None
    gentle: bool = False
    in_hand: bool = False
    cost_at_most: Annotated[float, Field(gt=0, le=1e7, allow_inf_nan=False)] | None = None
    mass_g: Annotated[float, Field(gt=0, le=100_000, allow_inf_nan=False)] = 100
    most: Annotated[int, Field(ge=1, le=100)] = 12

    @model_validator(mode="after")
    def _one_colour_is_said(self) -> "FindQuestion":
        if sum(one is not None for one in (self.lab, self.hex, self.key)) != 1:
            raise ValueError("say one colour: as L*a*b*, as six hexadecimal digits, or a piece")
        return self


def wanted_lab(question: FindQuestion) -> tuple[float, float, float]:
    """L*a*b* (D50, 2°) of a colour that is said as such or as sRGB."""
    if question.lab is not None:
        return question.lab
    lightness, a, b = (float(v) for v in np.asarray(hex_to_lab((question.hex or "").lstrip("#"))))
    return (lightness, a, b)
