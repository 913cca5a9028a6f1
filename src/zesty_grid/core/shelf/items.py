"""What a plan draws on: fibres, mordant routes and dye lots."""

from typing import Annotated, Literal

from pydantic import Field

from zesty_grid.core.frozen import Frozen

FibreClass = Literal["protein", "cellulose", "regenerated cellulose", "synthetic", "polyamide"]
Key = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9.-]{0,39}$")]
Name = Annotated[str, Field(min_length=1, max_length=80)]
Percent = Annotated[float, Field(gt=0, le=1000)]
Temperature = Annotated[float, Field(ge=0, le=110)]


class Fibre(Frozen):
    key: Key
    name: Name
    fibre_class: FibreClass
    note: str = ""
    source: str = "common practice"


class MordantBath(Frozen):
    """One bath of a route; doses in % of the dry weight of fibre."""

    kind: Literal["tannin", "mordant"]
    substance: Name
    dose_percent_wof: Percent
    assist: Name | None = None
    assist_percent_wof: Percent | None = None
    temperature_c: Temperature | None = None
    duration_min: Annotated[int, Field(gt=0)]
    then: str = "Rinse once."


class MordantRoute(Frozen):
    key: Key
    name: Name
    suits: tuple[FibreClass, ...]
    baths: tuple[MordantBath, ...] = ()
    unsuited_reason: str = ""
    note: str = ""
    source: str = "common practice"


class DyeLot(Frozen):
    """`strength_percent_wof` is grams of dye stuff for 100 g of dry fibre."""

    key: Key
    name: Name
    part: str = ""
    state: Literal["fresh", "dried", "frozen", "extract", ""] = ""
    collected: str = ""
    strength_percent_wof: Percent = 100
    temperature_c: Temperature = 80
    duration_min: Annotated[int, Field(gt=0, le=60 * 24 * 60)] = 60
    note: str = ""
    source: str = "common practice"


class Shelf(Frozen):
    fibres: tuple[Fibre, ...]
    mordant_routes: tuple[MordantRoute, ...]
    dye_lots: tuple[DyeLot, ...]

    def fibre(self, key: str) -> Fibre | None:
        return next((item for item in self.fibres if item.key == key), None)

    def mordant_route(self, key: str) -> MordantRoute | None:
        return next((item for item in self.mordant_routes if item.key == key), None)

    def dye_lot(self, key: str) -> DyeLot | None:
        return next((item for item in self.dye_lots if item.key == key), None)
