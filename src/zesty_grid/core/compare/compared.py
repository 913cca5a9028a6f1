"""What is asked of a comparison and what it answers: the shapes that the verb and the API share."""

from typing import Annotated, Literal

from pydantic import ConfigDict, Field

from zesty_grid.core.compare.directions import DirectionChange
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.treatment import MOST_SWATCHES
from zesty_grid.core.read.measurement import Lab

Verdict = Literal["different", "same", "untold"]
Name = Annotated[str, Field(min_length=1, max_length=120)]


class ComparedSwatch(Frozen):
    """A swatch as it was really made and read. `vessels` by kind of bath. `photos`: camera, light
    and photo of each reading, which share a part of their error."""

    code: Name
    levels: dict[Name, str]
    vessels: dict[Name, str] = Field(default_factory=dict)
    lab: tuple[
        Annotated[float, Field(ge=-20, le=200, allow_inf_nan=False)],
        Annotated[float, Field(ge=-300, le=300, allow_inf_nan=False)],
        Annotated[float, Field(ge=-300, le=300, allow_inf_nan=False)],
    ]
    uncertainty_de00: Annotated[float, Field(ge=0, le=50, allow_inf_nan=False)] = 0.5
    photos: tuple[tuple[str, str, str], ...] = ()


class KnownNoise(Frozen):
    """How vessels differ, from earlier studies: a standard deviation in ΔE00 along the noisiest
    direction. `words` say where it comes from."""

    vessel_de00: Annotated[float, Field(gt=0, le=50, allow_inf_nan=False)]
    words: str = "as given"


class CompareQuestion(Frozen):
    """Which of `factors`, and of the pairs in `interactions`, make a difference. `words` name
    factors ("dye") and levels ("dye=alder") where the person knows them by other words."""

    swatches: Annotated[tuple[ComparedSwatch, ...], Field(min_length=2, max_length=MOST_SWATCHES)]
    factors: Annotated[tuple[Name, ...], Field(min_length=1, max_length=30)]
    interactions: Annotated[tuple[tuple[Name, Name], ...], Field(max_length=435)] = ()
    level_order: dict[Name, tuple[str, ...]] = Field(default_factory=dict)
    known_noise: KnownNoise | None = None
    words: dict[str, str] = Field(default_factory=dict)


class FoundNoise(Frozen):
    """Standard deviations in ΔE00 along the noisiest direction of colour; None: nothing says it.
    `vessel` is that of the noisiest kind, `vessels` has each."""

    swatch: float | None
    vessel: float | None
    reading: float
    vessels: dict[str, float | None] = Field(default_factory=dict)


class EffectAt(Frozen):
    """What a factor does at one level of another."""

    factor: str
    level: str
    delta_lab: Lab
    de00: float
    low_de00: float
    high_de00: float


class FactorEffect(Frozen):
    """`to` less `from`, averaged over all else. The range holds 95 in 100; `p` is corrected for
    the directions of colour, the pairs of levels and the factors that are looked at (Holm),
    `p_alone` for the directions only. `df` None: the noise is known. `why` says what stands in the
    way of a verdict, `would_take` what would settle it; `at` what it does at each level of others.
    """

    factor: str
    from_level: Annotated[str, Field(alias="from")]
    to_level: Annotated[str, Field(alias="to")]
    from_lab: Lab
    to_lab: Lab
    from_hex: str
    to_hex: str
    delta_lab: Lab
    de00: float
    low_de00: float
    high_de00: float
    furthest_de00: float
    df: float | None
    p: float | None
    p_alone: float | None
    verdict: Verdict
    error: str
    between: str | None = None
    directions: tuple[DirectionChange, ...] = ()
    at: tuple[EffectAt, ...] = ()
    why: str = ""
    would_take: str = ""
    words: str = ""

    model_config = ConfigDict(populate_by_name=True)


class PairEffect(Frozen):
    """Whether two factors act on each other: what one does depends on the other. `largest_de00` is
    by how much at most, with its furthest."""

    factors: tuple[str, str]
    p: float | None
    p_alone: float | None = None
    verdict: Verdict
    error: str = ""
    df: float | None = None
    largest_de00: float | None = None
    furthest_de00: float | None = None
    why: str = ""


class Compared(Frozen):
    """`swatches` is how many were looked at; `words` say it in sentences, the surest first."""

    swatches: int
    noise: FoundNoise
    effects: tuple[FactorEffect, ...]
    interactions: tuple[PairEffect, ...]
    words: tuple[str, ...] = ()
    warnings: tuple[str, ...] = ()
