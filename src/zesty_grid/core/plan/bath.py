"""A bath of the chain that a swatch goes through, and the place that it has in the work."""

from typing import Literal

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.extraction_recipe import ExtractionRecipe
from zesty_grid.core.plan.given_for import GivenFor
from zesty_grid.core.plan.planned_addition import PlannedAddition
from zesty_grid.core.plan.printing import Folding, Rolling

BathKind = Literal[
    "scour", "extract", "tannin", "mordant", "binder", "iron mordant", "dye", "overdye", "adjust", "iron", "wash"
]
# Iron comes last in its day; letters name the vessels on paper.
BATH_ORDER: dict[BathKind, str] = {
    "scour": "S",
    "extract": "E",
    "tannin": "T",
    "mordant": "M",
    "binder": "B",
    "iron mordant": "FM",
    "dye": "D",
    "overdye": "O",
    "adjust": "A",
    "iron": "F",
    "wash": "W",
}
KIND_OF_LETTERS: dict[str, BathKind] = {letters: kind for kind, letters in BATH_ORDER.items()}
IN_ORDER: tuple[BathKind, ...] = tuple(BATH_ORDER)
# The stage of a piece that was dyed before the record began.
PAST_ALL_BATHS = f"{IN_ORDER[-1]}:9"


class Bath(Frozen):
    """What acts in a bath. Baths with the same key are one and the same.

    `treatment` is the key of the further treatment that it belongs to, `again` the name of the
    bath whose liquor it uses once more, `seconds` the planned time of an iron dip. A second bath
    of a kind has the `turn` 1. `dose_g` and `iron_g` are doses for the whole bath, instead of those
    in % WOF, `recipe` its own way of extracting the dye. It is heated `reheats` times more, and
    pieces rest in it for `rest_min` when it is off the heat. Printed cloths carry `sources`, some
    `hammered`, in rolls; folded ones go in up to `times_in` times. `given_for` is the fibre for which
    its doses were given. Of a recipe that is followed it has its `place`, and its own `ml_per_g`.
    """

    key: str
    bath: BathKind
    title: str
    route: str | None = None
    route_bath: int | None = None
    dye: str | None = None
    strength_percent_wof: float | None = None
    extraction: str | None = None
    process: str | None = None
    temperature_c: float | None = None
    duration_min: int | None = None
    ph: float | None = None
    dip: int | None = None
    iron_percent_wof: float | None = None
    seconds: int | None = None
    adjuster: str | None = None
    treatment: str | None = None
    again: str | None = None
    has_iron: bool = False
    turn: int = 0
    dose_g: float | None = None
    iron_g: float | None = None
    recipe: ExtractionRecipe | None = None
    additions: tuple[PlannedAddition, ...] = ()
    reheats: int = 0
    rest_min: int = 0
    sources: tuple[str, ...] = ()
    pretreatments: tuple[str, ...] = ()
    hammered: bool = False
    rolling: Rolling | None = None
    folding: Folding | None = None
    times_in: int = 0
    given_for: GivenFor | None = None
    place: int | None = None
    ml_per_g: float | None = None

    @property
    def brings_iron_in(self) -> bool:
        """Iron is weighed into it."""
        return bool(self.iron_percent_wof or self.iron_g)

    @property
    def stage(self) -> str:
        """What a piece is past once it was in this bath, whatever the recipe."""
        if self.treatment:
            return f"treatment:{self.treatment}"
        if self.place is not None:
            return f"followed:{self.place}"
        if self.route_bath is not None:
            return f"mordant route:{self.route_bath}"
        return f"{self.bath}:{self.turn}"


def stage_order(stage: str) -> int | None:
    """The place of a stage in the order of the work; None for further treatments."""
    kind, _, number = stage.partition(":")
    if kind == "treatment":
        return None
    if kind == "followed":
        return place_in_order(int(number))
    if kind == "mordant route":
        return 10 * IN_ORDER.index("tannin") + int(number)
    return 10 * next(i for i, bath in enumerate(IN_ORDER) if bath == kind) + int(number)


def place_in_order(place: int) -> int:
    """Of a bath of a recipe that is followed: after scouring and extracting."""
    return 10 * (IN_ORDER.index("extract") + 1 + place)
