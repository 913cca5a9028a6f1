"""What a plan draws on. Every item has a key, a name, a source, and can be retired."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.chart import Chart
from zesty_grid.core.shelf.ph_substance import PhSubstance

FibreClass = Literal["protein", "cellulose", "regenerated cellulose", "synthetic", "polyamide"]
Key = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9.-]{0,39}$")]
Name = Annotated[str, Field(min_length=1, max_length=80)]
Words = Annotated[str, Field(max_length=500)]
Percent = Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)]
Share = Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)]
Temperature = Annotated[float, Field(ge=0, le=110, allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)]
NotNegative = Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]
Minutes = Annotated[int, Field(gt=0, le=60 * 24 * 60)]


class OnShelf(Frozen):
    """`retired` items stay for the studies that use them and are no longer offered."""

    key: Key
    name: Name
    note: Words = ""
    source: Words = "common practice"
    retired: bool = False


class Stocked(OnShelf):
    """What is used up: the amount in hand and its price, where they are known."""

    amount_in_hand_g: NotNegative | None = None
    price_per_100_g: NotNegative | None = None


class BlendPart(Frozen):
    fibre_class: FibreClass
    percent: Share


class Fibre(Stocked):
    """Cloth carries g/m² and its width, yarn g per 100 m; unknown ones are weighed only.

    `twisted`: hanks of it are tightly wound or twisted, and so come out uneven.
    """

    kind: Literal["fibre"] = "fibre"
    fibre_class: FibreClass
    blend: Annotated[tuple[BlendPart, ...], Field(max_length=5)] = ()
    form: Literal["cloth", "yarn", "roving", "garment", "loose"] = "cloth"
    twisted: bool = False
    mass_g_m2: Positive | None = None
    width_cm: Positive | None = None
    mass_g_per_100_m: Positive | None = None
    preparation: Words = ""

    @model_validator(mode="after")
    def _a_blend_adds_up(self) -> "Fibre":
        if self.blend and abs(sum(part.percent for part in self.blend) - 100) > 0.5:
            raise ValueError("the percentages of a blend add up to 100")
        return self

    @property
    def classes(self) -> frozenset[FibreClass]:
        """Every class that is in it."""
        return frozenset(part.fibre_class for part in self.blend) | {self.fibre_class}


class MordantBath(Frozen):
    """One bath of a route; doses in % of the dry weight of fibre, None where unknown, or of a
    liquid in mL for 100 g.

    In several `coats` the pieces dry for `dry_min` after each, and rest `rest_min` after the last.
    """

    kind: Literal["tannin", "mordant", "binder"]
    substance: Name
    dose_percent_wof: Percent | None
    dose_ml_per_100_g: Positive | None = None
    assist: Name | None = None
    assist_percent_wof: Percent | None = None
    temperature_c: Temperature | None = None
    duration_min: Minutes
    then: Words = "Rinse once."
    coats: Annotated[int, Field(ge=1, le=8)] = 1
    dry_min: Annotated[int, Field(ge=0, le=60 * 24 * 14)] = 0
    rest_min: Annotated[int, Field(ge=0, le=60 * 24 * 60)] = 0

    @property
    def is_iron(self) -> bool:
        return "iron" in self.substance.lower()


class MordantRoute(OnShelf):
    kind: Literal["mordant_route"] = "mordant_route"
    suits: tuple[FibreClass, ...]
    baths: Annotated[tuple[MordantBath, ...], Field(max_length=4)] = ()
    school: Words = ""
    unsuited_reason: Words = ""

    @property
    def brings_iron(self) -> bool:
        return any(bath.is_iron for bath in self.baths)

    @property
    def brings_alum(self) -> bool:
        return any("alum" in bath.substance.lower() for bath in self.baths)

    @property
    def iron_percent_wof(self) -> float:
        """All iron of its baths together; 0 where there is none, or where it is not known."""
        return sum(bath.dose_percent_wof or 0 for bath in self.baths if bath.is_iron)


class MixturePart(Frozen):
    lot: Key
    percent: Share


KnownFor = Literal["fugitive", "protein only", "poisonous raw", "stains", "fumes"]


class DyeLot(Stocked):
    """`strength_percent_wof` is grams of dye stuff for 100 g of dry fibre; of a liquid, mL.

    `measured` liquids and extracts go straight into the bath; of a solution of so many g in 100 mL
    (`solution_percent`) the strength counts what is in it. Of counted stuffs (stones, galls)
    `pieces_per_100_g` go with 100 g of fibre, each of `piece_g`, weighed once. `duration_min` is
    the time of its extraction.
    """

    kind: Literal["dye_lot"] = "dye_lot"
    part: Words = ""
    state: Literal["fresh", "dried", "frozen", "extract", "juice", "liquor", ""] = ""
    measured: Literal["weighed", "liquid", "counted"] = "weighed"
    solution_percent: Share | None = None
    piece_name: Annotated[str, Field(max_length=30)] = ""
    piece_g: Positive | None = None
    pieces_per_100_g: Positive | None = None
    teaspoon_g: Positive | None = None
    cup_g: Positive | None = None
    preparation: Words = ""
    known_for: Annotated[tuple[KnownFor, ...], Field(max_length=5)] = ()
    place: Words = ""
    collected: Words = ""
    mixture: Annotated[tuple[MixturePart, ...], Field(max_length=6)] = ()
    strength_percent_wof: Percent = 100
    temperature_c: Temperature = 80
    duration_min: Minutes = 60
    spoils_above_c: Temperature | None = None

    @model_validator(mode="after")
    def _a_mixture_adds_up(self) -> "DyeLot":
        if self.mixture and abs(sum(part.percent for part in self.mixture) - 100) > 0.5:
            raise ValueError("the percentages of a mixture add up to 100")
        if any(part.lot == self.key for part in self.mixture):
            raise ValueError("a lot cannot be a part of itself")
        if self.measured == "counted" and not (self.piece_name and self.pieces_per_100_g):
            raise ValueError("say what is counted, and how many go with 100 g of fibre")
        return self

    @property
    def goes_straight_in(self) -> bool:
        """It is measured into the bath, and not simmered in a bag."""
        return self.state == "extract" or self.measured == "liquid"


class Substance(Stocked):
    """A mordant, assist, adjuster or modifier as it stands in its jar.

    `stock_percent` (g in 100 mL) is the solution it is kept or bought as; None: as a powder.
    `dose_ml_per_100_g` is what a strip showed that a home-made liquor needs, for 100 g of fibre.
    """

    kind: Literal["substance"] = "substance"
    role: Literal["mordant", "tannin", "assist", "acid", "alkali", "modifier", "binder"]
    chemistry: PhSubstance | None = None
    hydrate: Words = ""
    purity_percent: Share = 100
    stock_percent: Share | None = None
    teaspoon_g: Positive | None = None
    dose_ml_per_100_g: Positive | None = None


class ShelfVessel(OnShelf):
    kind: Literal["vessel"] = "vessel"
    litres: Positive
    form: Literal["pot", "jar", "steamer"] = "pot"
    material: Literal["stainless steel", "enamel", "glass", "aluminium", "copper", "iron", "plastic"] = (
        "stainless steel"
    )
    iron_only: bool = False
    count: Annotated[int, Field(ge=1, le=99)] = 1


class HeatPlace(OnShelf):
    kind: Literal["heat_place"] = "heat_place"
    power_w: Positive
    count: Annotated[int, Field(ge=1, le=99)] = 1


class Scale(OnShelf):
    kind: Literal["scale"] = "scale"
    resolution_g: Positive
    capacity_g: Positive = 5000


class Water(OnShelf):
    kind: Literal["water"] = "water"
    ph: Annotated[float, Field(ge=4, le=10.5, allow_inf_nan=False)] = 7.5
    alkalinity_mg_l_caco3: Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)] = 120
    hardness_mg_l_caco3: Annotated[float, Field(ge=0, le=2000, allow_inf_nan=False)] = 150


class ShelfChart(OnShelf):
    """A chart that sheets are printed for and photos are read by."""

    kind: Literal["chart"] = "chart"
    chart: Chart


class ReferenceCloth(OnShelf):
    """A textile that was never in a grid: an old skein, a bought cloth, a standard. `is_tile`:
    a stable thing that lies on sheets to show that the reading has not changed."""

    kind: Literal["cloth"] = "cloth"
    is_tile: bool = False
