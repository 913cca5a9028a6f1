"""What is asked of a comparison and what it answers: the shapes that the verb and the API share."""

from typing import Annotated, Literal

from pydantic import ConfigDict, Field

from zesty_grid.core.compare.directions import DirectionChange
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.noise.levels import Noise
from zesty_grid.core.noise.together import Together
from zesty_grid.core.plan.treatment import MOST_SWATCHES
from zesty_grid.core.read.measurement import Lab

Verdict = Literal["different", "same", "untold"]
Name = Annotated[str, Field(min_length=1, max_length=120)]
Sd = Annotated[float, Field(ge=0, le=50, allow_inf_nan=False)]


class ComparedSwatch(Frozen):
    """A swatch as it was really made and read. `vessels` by kind of bath; `day` of its dyeing, empty: not known, taken
    as the same. `uncertainty_de00` of its colour; `own_de00` what of it is shared with no other swatch, in each
    direction of colour (none: all of it). `photos`: camera, light and photo of each reading, which share the rest."""

    code: Name
    levels: dict[Name, str]
    vessels: dict[Name, str] = Field(default_factory=dict)
    day: Annotated[str, Field(max_length=40)] = ""
    lab: tuple[
        Annotated[float, Field(ge=-20, le=200, allow_inf_nan=False)],
        Annotated[float, Field(ge=-300, le=300, allow_inf_nan=False)],
        Annotated[float, Field(ge=-300, le=300, allow_inf_nan=False)],
    ]
    uncertainty_de00: Sd = 0.5
    own_de00: Sd | None = None
    photos: tuple[tuple[str, str, str], ...] = ()


class KnownNoise(Frozen):
    """How vessels differ, taken as known: a standard deviation in ΔE00. `words` say where it comes from."""

    vessel_de00: Annotated[float, Field(gt=0, le=50, allow_inf_nan=False)]
    words: str = "as given"


class CompareQuestion(Frozen):
    """Which of `factors`, and of the pairs in `interactions`, make a difference. `noise`: what other studies taught
    (none: usual values). `words` name factors ("dye") and levels ("dye=alder") where the person knows them by other
    words."""

    swatches: Annotated[tuple[ComparedSwatch, ...], Field(min_length=2, max_length=MOST_SWATCHES)]
    factors: Annotated[tuple[Name, ...], Field(min_length=1, max_length=30)]
    interactions: Annotated[tuple[tuple[Name, Name], ...], Field(max_length=435)] = ()
    level_order: dict[Name, tuple[str, ...]] = Field(default_factory=dict)
    noise: Noise | None = None
    known_noise: KnownNoise | None = None
    words: dict[str, str] = Field(default_factory=dict)


class Depths(Frozen):
    """Whether two levels differ: `pieces`, these swatches as they lie there, against the error of reading; `again`, if
    they were dyed again, against how swatches, vessels and days differ; `rule`, with each level of the others."""

    pieces: Verdict
    again: Verdict
    rule: Verdict


class EffectAt(Frozen):
    """Two levels where all else is the same: at these levels of the others."""

    levels: dict[str, str]
    from_lab: Lab
    to_lab: Lab
    from_hex: str
    to_hex: str
    de00: float
    different: bool


class DependsOn(Frozen):
    """The factor with whose levels a difference varies most: its mean size where it is most and where it is least."""

    factor: str
    most_level: str
    most_de00: float
    least_level: str
    least_de00: float


class RestsOn(Frozen):
    """What the answer to "dyed again" hangs on most, and how well that is known: from `usual` values, `learnt` from
    repeats (so many degrees of freedom), or `known` as given."""

    what: Literal["swatch", "vessel", "day", "reading"]
    how: Literal["usual", "learnt", "known"]
    repeats: float


class FactorEffect(Frozen):
    """`to` less `from`. The range of its size holds 95 in 100. `how`: levels that are alike in all else
    (`combinations` of them), or go `together` with others, or are taken from the sum of what factors do; `never`:
    nothing tells them. `verdict` is that of dyed again. `p_alone` is the chance of noise alone; `p` corrected for all
    pairs of levels and factors (Holm). `alike`: whether it is the same with each level of the others; none: there is
    one. `depends_on`: where not, on what most. `at`: the most and the least of them. `shows_de00`: the smallest
    difference that would be found 8 times in 10, and `one_more_shows_de00` with one more vessel (or swatch) of each;
    `more_needed` of them show what was found, none: more than are worth it. `vessels` (`between` is their kind; none:
    swatches) of either level. `promised_de00`: the smallest that Tell promised when the first bath began."""

    factor: str
    from_level: Annotated[str, Field(alias="from")]
    to_level: Annotated[str, Field(alias="to")]
    how: Literal["alike", "together", "summed", "never"]
    together: tuple[Together, ...] = ()
    combinations: int = 0
    delta_lab: Lab | None = None
    de00: float = 0.0
    low_de00: float = 0.0
    high_de00: float = 0.0
    directions: tuple[DirectionChange, ...] = ()
    verdict: Verdict = "untold"
    verdicts: Depths = Depths(pieces="untold", again="untold", rule="untold")
    p: float | None = None
    p_alone: float | None = None
    df: float | None = None
    alike: bool | None = None
    at: tuple[EffectAt, ...] = ()
    depends_on: DependsOn | None = None
    from_near_white: bool = False
    to_near_white: bool = False
    between: str | None = None
    vessels: tuple[int, int] = (0, 0)
    shows_de00: float | None = None
    one_more_shows_de00: float | None = None
    more_needed: int | None = None
    promised_de00: float | None = None
    rests_on: RestsOn | None = None

    model_config = ConfigDict(populate_by_name=True)


class PairEffect(Frozen):
    """Whether two factors act on each other: what one does depends on the other, by `largest_de00` at most. `untold`
    with no `p`: no two levels of each are there in all four combinations."""

    factors: tuple[str, str]
    verdict: Verdict
    p: float | None = None
    p_alone: float | None = None
    largest_de00: float | None = None


class Compared(Frozen):
    """`swatches` is how many were looked at, `noise` what they were told against (`reading_de00` in each direction);
    `by_chance`: how many of the effects would look different by chance alone if none were; `constant`: factors of which
    all have one level. `words` say it in sentences, the surest first."""

    swatches: int
    noise: Noise
    reading_de00: float
    effects: tuple[FactorEffect, ...]
    interactions: tuple[PairEffect, ...]
    by_chance: float
    constant: tuple[str, ...] = ()
    known_noise: KnownNoise | None = None
    words: tuple[str, ...] = ()
