"""A trial as it is planned: what is exposed, how, and when it is looked at."""

from collections.abc import Sequence
from datetime import date
from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, model_validator

from zesty_grid.core.fade.conditions import Conditions
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.readings import COVERED, UNCOVERED, Piece
from zesty_grid.core.read.sheet_layout import Sheet

TrialKind = Literal["light", "wash", "rub", "sweat", "store"]
Mount = Literal["two pieces", "half covered", "strip"]
NonNegative = Annotated[float, Field(ge=0, allow_inf_nan=False)]
Text = Annotated[str, Field(min_length=1, max_length=40)]

# What lies beside a dyed piece in a wash, in the ribbon's order (ISO 105-F10, from memory).
MULTIFIBRE = ("acetate", "cotton", "polyamide", "polyester", "acrylic", "wool")
EXPOSED: dict[TrialKind, Piece] = {
    "light": "light",
    "wash": "wash",
    "rub": "treated",
    "sweat": "treated",
    "store": "treated",
}
# A strip is uncovered in so many steps at most.
MOST_STEPS = 6


class StagePlan(Frozen):
    """One point of a trial at which pieces are read; days, dose and washes count from the start."""

    label: Annotated[str, Field(min_length=1, max_length=60)]
    days: NonNegative = 0
    dose_lxh: NonNegative = 0
    washes: Annotated[int, Field(ge=0, le=1000)] = 0


class WoolBeside(Frozen):
    """A blue wool reference that lies beside the swatches, and its name on the Shelf."""

    number: Annotated[int, Field(ge=1, le=8)]
    cloth: Text


class TrialPlan(Frozen):
    """`mount`: two pieces of a swatch, one that is half covered, or a strip that is uncovered step
    by step. `neighbours`: white cloths that may be stained. `seed` shuffles places on the cards."""

    kind: TrialKind
    name: Annotated[str, Field(min_length=1, max_length=80)]
    swatches: Annotated[tuple[str, ...], Field(min_length=1, max_length=2000)]
    stages: Annotated[tuple[StagePlan, ...], Field(min_length=1, max_length=30)]
    mount: Mount = "two pieces"
    starts_on: date | None = None
    conditions: Conditions | None = None
    neighbours: Annotated[tuple[Text, ...], Field(max_length=8)] = ()
    wools: Annotated[tuple[WoolBeside, ...], Field(max_length=8)] = ()
    seed: Annotated[int, Field(ge=0, le=10**6)] = 1

    @model_validator(mode="after")
    def _stages_grow(self) -> "TrialPlan":
        for measure in ("dose_lxh", "days", "washes"):
            known = [float(getattr(stage, measure)) for stage in self.stages]
            if all(known) and all(b > a for a, b in pairwise(known)):
                return self
        raise ValueError("the dose, the days or the washes must grow from each stage to the next")

    @model_validator(mode="after")
    def _fits_its_kind(self) -> "TrialPlan":
        if self.mount != "two pieces" and self.kind != "light":
            raise ValueError("only in light is a piece half covered, or uncovered step by step")
        if self.kind == "light" and self.neighbours:
            raise ValueError("light stains no neighbour")
        if len(set(self.neighbours)) < len(self.neighbours):
            raise ValueError("a neighbour is named once")
        if len({wool.number for wool in self.wools}) < len(self.wools):
            raise ValueError("a blue wool is named once")
        return self

    @property
    def exposed(self) -> Piece:
        """The piece of a swatch that gets the light, the washing or another treatment."""
        return EXPOSED[self.kind]

    @property
    def steps(self) -> int:
        """Zones of a piece that are read apart: steps of a strip with its covered end."""
        return {"two pieces": 0, "half covered": 2}.get(self.mount, min(len(self.stages), MOST_STEPS - 1) + 1)

    @property
    def pieces(self) -> tuple[Piece, ...]:
        """What of a swatch lies on a sheet, in order."""
        if self.mount != "two pieces":
            return ("halves",)
        own: tuple[Piece, ...] = ("dark", self.exposed)
        return (*own, "neighbour") if self.neighbours else own


def planned_dose(kind: TrialKind, stage: StagePlan) -> float | None:
    """lx·h for a light trial, days in store, else the number of washes or treatments; None where
    the plan does not say."""
    planned = {"light": stage.dose_lxh, "store": stage.days}.get(kind, float(stage.washes))
    return planned or None


def with_zones(sheet: Sheet, page: Sequence[tuple[str, Piece]], plan: TrialPlan) -> Sheet:
    """The sheet with the zones of each piece that lies on it, from left to right."""
    steps = tuple(f"step {n}" for n in range(plan.steps - 1, 0, -1))
    names: dict[Piece, tuple[str, ...]] = {
        "halves": (COVERED, *((UNCOVERED,) if plan.mount == "half covered" else steps)),
        "neighbour": plan.neighbours if len(plan.neighbours) > 1 else (),
    }
    cells = [
        cell.model_copy(update={"zones": names.get(piece, ())})
        for cell, (_, piece) in zip(sheet.cells, page, strict=False)
    ]
    return sheet.model_copy(update={"cells": (*cells, *sheet.cells[len(cells) :])})
