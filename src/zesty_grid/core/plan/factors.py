"""The factors that a grid can cross: where each acts, and what its levels are."""

from typing import Annotated, Literal, get_args

from pydantic import Field, model_validator

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.bath import Bath
from zesty_grid.core.plan.extraction_recipe import ExtractionRecipe
from zesty_grid.core.plan.planned_addition import PlannedAddition
from zesty_grid.core.shelf.items import Key, Name

# In the order in which the factors act on a piece; cell keys are written in it.
FactorKind = Literal[
    "fibre",
    "recipe",
    "mordant",
    "mordant_temperature",
    "mordant_duration",
    "dye",
    "source",
    "pretreatment",
    "side",
    "printing",
    "times_in",
    "strength",
    "extraction",
    "process",
    "temperature",
    "duration",
    "ph",
    "addition",
    "reheats",
    "rest",
    "iron",
    "iron_temperature",
    "iron_duration",
    "after_ph",
    "after_temperature",
    "after_duration",
    "dip",
    "second_dye",
    "second_temperature",
    "second_duration",
    "second_iron",
]
FACTOR_ORDER: tuple[FactorKind, ...] = get_args(FactorKind)
IronRoute = Literal["mordant", "pot", "after-bath"]
MAX_LEVELS = 12
# A study may start from many earlier swatches, each a level of its fibre.
MAX_SOURCES = 60
APART = "apart"
NO_SECOND_DYE = "none"
MOST_ADDITIONS = 12
MOST_BATHS = 24
# A level without a value: the bath is left as it is, or there is no such bath.
WITHOUT_VALUE: dict[FactorKind, str] = {"ph": "as-it-is", "after_ph": "none"}
_TEMPERATURE = (0.0, 100.0, "a temperature from 0 to 100 °C")
_DURATION = (1.0, 60.0 * 24 * 60, "a duration from 1 min to 60 days, in minutes")

# Lowest and highest value of the factors that carry one, with the unit in words.
VALUES: dict[FactorKind, tuple[float, float, str]] = {
    "strength": (0.1, 1000, "a dye strength from 0.1 to 1000 % WOF"),
    "mordant_temperature": _TEMPERATURE,
    "iron_temperature": _TEMPERATURE,
    "temperature": _TEMPERATURE,
    "after_temperature": _TEMPERATURE,
    "second_temperature": _TEMPERATURE,
    "mordant_duration": _DURATION,
    "iron_duration": _DURATION,
    "duration": _DURATION,
    "after_duration": _DURATION,
    "second_duration": _DURATION,
    "times_in": (0, 12, "0 to 12 times that a zone went in"),
    "reheats": (0, 10, "0 to 10 times heated again"),
    "rest": (0, 60 * 24 * 60, "a rest of up to 60 days, in minutes"),
    "second_iron": (0, 10, "an iron dose from 0 to 10 % WOF"),
    "ph": (1, 13, "a pH from 1 to 13"),
    "iron": (0, 10, "an iron dose from 0 to 10 % WOF"),
    "after_ph": (1, 13, "a pH from 1 to 13"),
    "dip": (1, 6, "a dip from 1 to 6"),
}


DOSES: frozenset[FactorKind] = frozenset({"strength", "iron"})
Code = Annotated[str, Field(min_length=1, max_length=20)]


class WayOfWorking(Frozen):
    """A way of extracting or dyeing, with its usual heat and time (common practice)."""

    key: Key
    name: Name
    temperature_c: float | None
    duration_min: int
    note: str


EXTRACTIONS = (
    WayOfWorking(
        key="hot",
        name="Hot",
        temperature_c=None,
        duration_min=60,
        note="Simmer 30 to 60 min in a mesh bag; steep overnight; lift the bag out.",
    ),
    WayOfWorking(
        key="repeated",
        name="Repeated",
        temperature_c=None,
        duration_min=180,
        note="An hour a day on three days, pooled: for barks and seeds.",
    ),
    WayOfWorking(
        key="room",
        name="Room temperature",
        temperature_c=20,
        duration_min=2880,
        note="Soak one to three days; decant without stirring up the sediment.",
    ),
    WayOfWorking(
        key="sun",
        name="In the sun",
        temperature_c=30,
        duration_min=10080,
        note="In the jar with the fibre, two days to four weeks.",
    ),
)
PROCESSES = (
    WayOfWorking(
        key="hot-bath",
        name="Hot bath",
        temperature_c=None,
        duration_min=60,
        note="Warm slowly, 45 to 60 min below a simmer; cool in the bath.",
    ),
    WayOfWorking(
        key="room",
        name="Room temperature",
        temperature_c=20,
        duration_min=2880,
        note="A soak of one to three days, without heat.",
    ),
    WayOfWorking(
        key="sun-jar",
        name="Sun jar",
        temperature_c=30,
        duration_min=10080,
        note="A closed but not sealed jar in the sun, two days to four weeks.",
    ),
    WayOfWorking(
        key="water-bath",
        name="Jars in a water bath",
        temperature_c=None,
        duration_min=60,
        note="Covered jars in a pot of water: one heat place for all that stand in it.",
    ),
    WayOfWorking(
        key="bundle-print",
        name="Bundle print",
        temperature_c=100,
        duration_min=150,
        note="Rolled with the plants, steamed 2 to 3 h, cooled overnight.",
    ),
    WayOfWorking(
        key="dip", name="Dip and fold", temperature_c=20, duration_min=15, note="Short dips; fold, and dip again."
    ),
)
NAMED_LEVELS: dict[FactorKind, frozenset[str]] = {
    "extraction": frozenset(way.key for way in EXTRACTIONS),
    "process": frozenset(way.key for way in PROCESSES),
    "pretreatment": frozenset({"none", "iron-water", "copper-water", "boiled"}),
    "side": frozenset({"upper", "lower"}),
    "printing": frozenset({"rolled", "hammered"}),
}


class Level(Frozen):
    """One setting of a factor. `key` names the Shelf's item or the way of working.

    Iron also has its route, and the seconds that a piece stays in an after-bath. A dose may be
    `grams` for the whole bath, instead of a value in % WOF. An extraction may have a `recipe` of
    its own. A fibre may be the cloth of earlier `swatches`, by their codes: taken whole, or pieces
    `cut` from them. A recipe that is followed names the swatch whose it is (`of_swatch`, and its
    state by the number of the bath) and has its `baths`, as they were kept.
    """

    key: Key
    label: Name
    value: Annotated[float, Field(ge=0, le=50_000, allow_inf_nan=False)] | None = None
    route: IronRoute | None = None
    seconds: Annotated[int, Field(ge=1, le=3600)] | None = None
    grams: Annotated[float, Field(gt=0, le=1e5, allow_inf_nan=False)] | None = None
    recipe: ExtractionRecipe | None = None
    additions: Annotated[tuple[PlannedAddition, ...], Field(max_length=MOST_ADDITIONS)] = ()
    swatches: Annotated[tuple[Code, ...], Field(max_length=200)] = ()
    cut: bool = False
    baths: Annotated[tuple[Bath, ...], Field(max_length=MOST_BATHS)] = ()
    of_swatch: Code | None = None
    of_run: int | None = None

    @property
    def dose_words(self) -> str:
        return f"{self.grams:g} g" if self.grams else f"{self.value or 0:g} %"

    @property
    def is_dosed(self) -> bool:
        return bool(self.value or self.grams)


class Factor(Frozen):
    """One level holds a factor fixed; two or more compare.

    `begun_as`: the level that swatches have which were begun before this factor came; "apart":
    none of them. It is asked for when there are such swatches.
    """

    kind: FactorKind
    levels: Annotated[tuple[Level, ...], Field(min_length=1, max_length=MAX_SOURCES)]
    begun_as: Key | None = None

    @model_validator(mode="after")
    def _levels_are_sound(self) -> "Factor":
        keys = [level.key for level in self.levels]
        if len(set(keys)) != len(keys):
            raise ValueError(f"the factor {self.kind} has the same level twice")
        if self.kind in VALUES:
            low, high, words = VALUES[self.kind]
            for level in self.levels:
                if level.key == WITHOUT_VALUE.get(self.kind) and level.value is None:
                    continue
                if level.grams is not None and level.value is None and self.kind in DOSES:
                    continue
                if level.value is None or not low <= level.value <= high:
                    raise ValueError(f"each level needs {words}")
        allowed = NAMED_LEVELS.get(self.kind)
        own = {level.key for level in self.levels if level.recipe is not None}
        if own and self.kind != "extraction":
            raise ValueError("only an extraction has a recipe")
        if allowed and not set(keys) - own <= allowed:
            raise ValueError(f"each level of {self.kind} is one of {', '.join(sorted(allowed))}")
        if self.kind != "iron" and any(v.route or v.seconds for v in self.levels):
            raise ValueError("only iron has a route and seconds")
        if self.kind not in DOSES and any(v.grams for v in self.levels):
            raise ValueError("only a dye strength or iron is dosed in grams")
        if self.kind != "addition" and any(v.additions for v in self.levels):
            raise ValueError("what is put in belongs to a level of what is added")
        if self.kind != "fibre" and any(v.swatches for v in self.levels):
            raise ValueError("only a fibre can be the cloth of earlier swatches")
        if any(bool(v.baths) != (self.kind == "recipe") for v in self.levels):
            raise ValueError("a recipe, and only a recipe, has baths of its own")
        if len(self.levels) > MAX_LEVELS and self.kind != "fibre":
            raise ValueError(f"a factor has at most {MAX_LEVELS} levels")
        if self.begun_as not in (None, APART, *keys):
            raise ValueError("swatches that were begun count as one of the levels, or apart")
        return self

    def level(self, key: str) -> Level | None:
        for level in self.levels:
            if level.key == key:
                return level
        return None


def makes_no_difference(kind: FactorKind, level: Level) -> bool:
    """Whether a swatch at this level is treated as if the factor were not there at all."""
    if kind in ("iron", "second_iron", "reheats", "rest"):
        return not level.is_dosed
    if kind == "dip":
        return level.value == 1
    if kind == "addition":
        return not level.additions
    if kind in WITHOUT_VALUE:
        return level.value is None
    return level.key == {"mordant": "none", "second_dye": NO_SECOND_DYE}.get(kind)
