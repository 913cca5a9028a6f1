"""Something that a recipe puts into a bath: before the pieces, or minutes after them."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.record.measures import Unit
from zesty_grid.core.shelf.items import Key
from zesty_grid.core.weigh.working import duration_words

# "% WOF", "g/L" and "mL/L" go with the fibre or with the bath; all others are for one vessel.
PlannedUnit = Literal[Unit, "% WOF", "g/L", "mL/L"]
BY_FIBRE_OR_BATH = ("% WOF", "g/L", "mL/L")
AddedTo = Literal["mordant", "dye", "adjust", "iron", "overdye"]
Moment = Literal["first", "after the pH", "with the pieces in"]
WEEKS_MIN = 60 * 24 * 60


class PlannedAddition(Frozen):
    """`item` is the key of a substance or of a dye lot. `into` says in which bath, `dip` in which
    dip of an exhaust bath.

    `moment`: before all else, once the pH is set, or `after_min` minutes after the pieces went in.
    """

    what: Literal["substance", "dye lot"] = "substance"
    item: Key
    amount: Annotated[float, Field(gt=0, le=1e5, allow_inf_nan=False)]
    unit: PlannedUnit
    into: AddedTo = "dye"
    dip: Annotated[int, Field(ge=1, le=6)] = 1
    moment: Moment = "first"
    after_min: Annotated[int, Field(ge=0, le=WEEKS_MIN)] | None = None

    @model_validator(mode="after")
    def _says_when(self) -> "PlannedAddition":
        if (self.moment == "with the pieces in") != (self.after_min is not None):
            raise ValueError("say how long after the pieces, or that it goes in before them")
        if self.what == "dye lot" and self.unit not in ("g", "% WOF"):
            raise ValueError("more of a dye is said in g or in % WOF: its extract follows")
        return self

    @property
    def when_words(self) -> str:
        if self.after_min:
            return f"{duration_words(self.after_min)} after the pieces"
        if self.after_min == 0:
            return "with the pieces"
        return "once the pH is set" if self.moment == "after the pH" else "before the pieces"
