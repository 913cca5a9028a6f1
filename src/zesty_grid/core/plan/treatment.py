"""Further treatments: what is done to swatches beyond the baths that their levels ask for."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.factors import Code
from zesty_grid.core.shelf.items import Key, Minutes, Name, Percent, Temperature

TreatmentKind = Literal["iron", "adjust", "dye", "again", "wash"]
IronTreatment = Literal["after-bath", "hot bath"]
VesselName = Annotated[str, Field(min_length=1, max_length=20)]
MAX_TREATMENTS = 60
MOST_SWATCHES = 2000
# What each kind must say.
NEEDS: dict[TreatmentKind, tuple[str, str]] = {
    "iron": ("iron_percent_wof", "how much iron"),
    "adjust": ("ph", "which pH"),
    "dye": ("dye", "which dye"),
    "again": ("again", "which bath is used again"),
    "wash": ("temperature_c", "how warm the wash is"),
}


class Treatment(Frozen):
    """One more bath for the named swatches, in the order in which the plan lists it.

    `swatches` are codes, of this study or of others. Iron goes by `route`: dipped and watched by
    the second, or warm for an hour. `again` names the bath whose liquor is used once more.
    """

    key: Key
    name: Name
    kind: TreatmentKind
    swatches: Annotated[tuple[Code, ...], Field(min_length=1, max_length=MOST_SWATCHES)]
    iron_percent_wof: Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)] | None = None
    route: IronTreatment | None = None
    seconds: Annotated[int, Field(ge=1, le=3600)] | None = None
    ph: Annotated[float, Field(ge=1, le=13, allow_inf_nan=False)] | None = None
    adjust_with: Key | None = None
    dye: Key | None = None
    strength_percent_wof: Percent | None = None
    again: VesselName | None = None
    temperature_c: Temperature | None = None
    duration_min: Minutes | None = None

    @model_validator(mode="after")
    def _says_what_is_done(self) -> "Treatment":
        field, words = NEEDS[self.kind]
        if getattr(self, field) is None:
            raise ValueError(f"a treatment of this kind says {words}")
        if len(set(self.swatches)) != len(self.swatches):
            raise ValueError("a swatch is named twice in one treatment")
        return self
