"""Light and wash trials: what pieces get, and what it did to them."""

from collections.abc import Iterable, Sequence
from typing import Annotated, Literal

from pydantic import Field, model_validator

from zesty_grid.core.fade.grey_scale_range import rate_change
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import ColourDifference, cielab_difference
from zesty_grid.core.read.colour_space import Floats, lab_to_hex
from zesty_grid.core.read.difference_uncertainty import Seen, difference_uncertainty, mean_lab
from zesty_grid.core.read.measurement import Lab
from zesty_grid.core.read.readings import Piece

TrialKind = Literal["light", "wash"]

NonNegative = Annotated[float, Field(ge=0, allow_inf_nan=False)]


class StagePlan(Frozen):
    """One point of a trial at which pieces are read; the dose is counted from the start."""

    label: Annotated[str, Field(min_length=1, max_length=60)]
    days: NonNegative = 0
    dose_lxh: NonNegative = 0
    washes: Annotated[int, Field(ge=0, le=1000)] = 0


class TrialPlan(Frozen):
    kind: TrialKind
    name: Annotated[str, Field(min_length=1, max_length=80)]
    swatches: Annotated[tuple[str, ...], Field(min_length=1, max_length=2000)]
    stages: Annotated[tuple[StagePlan, ...], Field(min_length=1, max_length=30)]

    @model_validator(mode="after")
    def _doses_grow(self) -> "TrialPlan":
        doses = [stage_dose(self.kind, stage) for stage in self.stages]
        if any(later <= earlier for earlier, later in zip([0.0, *doses], doses, strict=False)):
            raise ValueError("the dose must grow from each stage to the next, from above 0")
        return self


class StageReading(Frozen):
    """One accepted colour at one stage, as the fade computation needs it; `stage` None: as it was
    before the trial."""

    swatch: str
    piece: Piece
    stage: int | None
    seen: Seen


class FadePoint(Frozen):
    """An exposed piece against its kept-dark piece at one stage, each by the mean of its readings.

    `rating_words` is the range of ratings that the uncertainty leaves. `distinguishable`: it has
    changed by more than what unchanged pieces are read apart.
    """

    swatch: str
    stage: int
    dose: float
    dark_lab: Lab
    exposed_lab: Lab
    dark_hex: str
    exposed_hex: str
    difference: ColourDifference
    def_a05: float
    rating: str
    rating_words: str
    uncertainty_de00: float
    limit_de00: float
    distinguishable: bool
    dark_from_same_stage: bool


def light_dose_lxh(days: float, hours_a_day: float, mean_lux: float) -> float:
    """Accumulated light: days × hours of light a day × mean illuminance."""
    if min(days, hours_a_day, mean_lux) < 0 or hours_a_day > 24:
        raise ValueError("days and light cannot be negative, nor a day longer than 24 h")
    return days * hours_a_day * mean_lux


def stage_dose(kind: TrialKind, stage: StagePlan) -> float:
    """lx·h for a light trial, the number of washes for a wash trial."""
    return stage.dose_lxh if kind == "light" else float(stage.washes)


def fade_points(trial: TrialPlan, readings: Iterable[StageReading]) -> list[FadePoint]:
    """Every exposed piece against its kept-dark piece, ordered by swatch and stage.

    The dark piece read at the same stage counts; without one, the last reading before it. Several
    readings of one piece at one stage count by their mean.
    """
    exposed: dict[tuple[str, int], list[Seen]] = {}
    dark: dict[tuple[str, int], list[Seen]] = {}
    for reading in readings:
        stage = -1 if reading.stage is None else reading.stage
        if reading.piece == trial.kind and stage >= 0:
            exposed.setdefault((reading.swatch, stage), []).append(reading.seen)
        elif reading.piece in ("whole", "dark"):
            dark.setdefault((reading.swatch, stage), []).append(reading.seen)
    stages_of: dict[str, list[int]] = {}
    for name, stage in dark:
        stages_of.setdefault(name, []).append(stage)
    points = []
    for (swatch, stage), sample in sorted(exposed.items()):
        before = [s for s in stages_of.get(swatch, ()) if s <= stage]
        if before:
            reference = dark[swatch, max(before)]
            points.append(
                _fade_point(trial, swatch, stage, reference, sample, max(before) == stage)
            )
    return points


def _fade_point(
    trial: TrialPlan, swatch: str, stage: int, reference: Sequence[Seen], sample: Sequence[Seen],
    same_stage: bool,
) -> FadePoint:  # fmt: skip
    dark_lab, exposed_lab = mean_lab([reference]), mean_lab([sample])
    difference = cielab_difference(dark_lab, exposed_lab)
    uncertain = difference_uncertainty([reference], [sample])
    rating = rate_change(dark_lab, exposed_lab, uncertain.limit_de00)
    return FadePoint(
        swatch=swatch, stage=stage, dose=stage_dose(trial.kind, trial.stages[stage]),
        dark_lab=_triple(dark_lab), exposed_lab=_triple(exposed_lab),
        dark_hex=lab_to_hex(dark_lab), exposed_hex=lab_to_hex(exposed_lab),
        difference=difference, def_a05=rating.found.def_a05, rating=rating.found.rating,
        rating_words=rating.words, uncertainty_de00=uncertain.uncertainty_de00,
        limit_de00=uncertain.limit_de00,
        distinguishable=difference.de00 > uncertain.limit_de00,
        dark_from_same_stage=same_stage,
    )  # fmt: skip


def _triple(lab: Floats) -> Lab:
    lightness, a, b = (float(value) for value in lab)
    return lightness, a, b
