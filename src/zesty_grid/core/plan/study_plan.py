"""What a study crosses, and how it is laid out."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.shelf.items import Key, Name

FactorKind = Literal["fibre", "mordant", "dye", "ph", "iron"]
# The order in which the factors act on a piece.
FACTOR_ORDER: tuple[FactorKind, ...] = ("fibre", "mordant", "dye", "ph", "iron")
ControlKind = Literal["undyed", "unmordanted"]
MAX_CELLS = 2000
MAX_LEVELS = 12
NEUTRAL_PH = 7.0


class Level(Frozen):
    """One setting of a factor. `key` names the Shelf's item; pH and iron carry a value."""

    key: Key
    label: Name
    value: Annotated[float, Field(ge=0, le=100)] | None = None


class Factor(Frozen):
    kind: FactorKind
    levels: Annotated[tuple[Level, ...], Field(min_length=1, max_length=MAX_LEVELS)]

    @model_validator(mode="after")
    def _levels_are_sound(self) -> "Factor":
        keys = [level.key for level in self.levels]
        if len(set(keys)) != len(keys):
            raise ValueError(f"the factor {self.kind} has the same level twice")
        if self.kind == "ph" and any(
            v.value is None or not 1 <= v.value <= 13 for v in self.levels
        ):
            raise ValueError("each pH level needs a value from 1 to 13")
        if self.kind == "iron" and any(v.value is None or v.value > 10 for v in self.levels):
            raise ValueError("each iron level needs a value from 0 to 10 % WOF")
        return self


class StudyPlan(Frozen):
    """A study as the person sets it up; all else follows from it and the Shelf."""

    name: Annotated[str, Field(min_length=1, max_length=120)]
    question: Annotated[str, Field(max_length=500)] = ""
    factors: Annotated[tuple[Factor, ...], Field(max_length=len(FACTOR_ORDER))] = ()
    rows: tuple[FactorKind, ...] = ()
    columns: tuple[FactorKind, ...] = ()
    left_out: Annotated[tuple[str, ...], Field(max_length=MAX_CELLS)] = ()
    controls: tuple[ControlKind, ...] = ()
    swatch_mass_g: Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)] = 5.0
    liquor_ratio_ml_per_g: Annotated[float, Field(ge=5, le=200, allow_inf_nan=False)] = 30.0

    @model_validator(mode="after")
    def _axes_hold_each_factor_once(self) -> "StudyPlan":
        kinds = [factor.kind for factor in self.factors]
        if len(set(kinds)) != len(kinds):
            raise ValueError("a factor is there twice")
        if sorted(self.rows + self.columns) != sorted(kinds):
            raise ValueError("each factor belongs on the rows or on the columns, once")
        return self

    def factor(self, kind: FactorKind) -> Factor | None:
        return next((factor for factor in self.factors if factor.kind == kind), None)
