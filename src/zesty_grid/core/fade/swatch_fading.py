"""How one swatch of a trial fades: its curve, the doses that matter, and what to do."""

from collections.abc import Collection, Mapping, Sequence

import numpy as np

from zesty_grid.core.fade.blue_wool import LightFastness, WoolReading, fastness_by_dose, fastness_by_wools
from zesty_grid.core.fade.curve_point import CurvePoint, curve_doses, points_of_curve
from zesty_grid.core.fade.fade_points import FadePoint
from zesty_grid.core.fade.fading_curve import HIGH, LOW, DoseReached, Paths, Threshold, reached_at
from zesty_grid.core.fade.fading_shapes import FadingModel
from zesty_grid.core.fade.grey_scale import def_a05, rating_of
from zesty_grid.core.fade.trial_paths import last_dose_of
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats

COUNTED = {"wash": "washes", "rub": "rubbings", "sweat": "wettings", "store": "days"}
DARK_HALF_OF_DEPTH = 0.5
WHITE_L = 92.0
LEAST_DEPTH = 3.0


class SwatchFading(Frozen):
    """`thresholds`: the dose to each change. `half_depth`: to half of the depth above white cloth.
    `at_last`: the change at the last stage of the trial, by which swatches are put in order."""

    swatch: str
    model: FadingModel
    stages: int
    curve: tuple[CurvePoint, ...]
    thresholds: dict[Threshold, DoseReached]
    half_depth: DoseReached
    at_last: CurvePoint
    rating_at_last: str
    fastness: LightFastness | None
    fastness_beside: LightFastness | None
    renew_at: DoseReached
    words: str


def swatches_fading(
    kind: str,
    points: Sequence[FadePoint],
    paths: Mapping[str, Paths],
    wanted: Collection[str],
    uv: bool,
    wools: Sequence[WoolReading] = (),
) -> list[SwatchFading]:
    """Of the swatches that are wanted and were read; `paths` of all of the trial."""
    last = last_dose_of(paths)
    beside = _wools_at(points, wools)
    return [_swatch(kind, swatch, paths[swatch], last, uv, beside.get(swatch)) for swatch in wanted if swatch in paths]


def _swatch(
    kind: str, swatch: str, paths: Paths, last: float, uv: bool, beside: tuple[float, dict[int, float]] | None
) -> SwatchFading:
    own_last = paths.followed.last_dose
    curve = tuple(points_of_curve(paths, curve_doses(last)))
    thresholds = paths.thresholds
    at_last = points_of_curve(paths, np.array([last]))[0]
    half = _half_depth(paths)
    plain = thresholds["plain"]
    renew = _sooner(thresholds["rating_3"], half)
    fastness = None
    if kind == "light":
        noticeable = thresholds["rating_4"]
        fastness = fastness_by_dose(noticeable.dose, noticeable.low, noticeable.high, own_last, uv)
    beside_ = fastness_by_wools(*beside) if beside else None
    low, high = (rating_of(float(value)) for value in np.percentile(_ratings(paths, last), [HIGH, LOW]))
    return SwatchFading(
        swatch=swatch,
        model=paths.model,
        stages=len(np.unique(paths.followed.doses)),
        curve=curve,
        thresholds=thresholds,
        half_depth=half,
        at_last=at_last,
        rating_at_last=low if low == high else f"{high} to {low}",
        fastness=fastness,
        fastness_beside=beside_,
        renew_at=renew,
        words=_words(kind, at_last, plain, renew),
    )


def _ratings(paths: Paths, dose: float) -> Floats:
    labs = paths.labs(np.array([dose]))[:, 0]
    return def_a05(np.broadcast_to(paths.followed.dark_lab, labs.shape), labs)


def _half_depth(paths: Paths) -> DoseReached:
    """The dose at which half of the difference from white cloth is gone."""
    last = paths.followed.last_dose
    grid = last * np.concatenate([np.geomspace(1e-3, 1, 40), np.geomspace(1, 8, 20)[1:]])
    white = np.array([WHITE_L, 0.0, 4.0])
    dark = float(delta_e_2000(white, paths.followed.dark_lab))
    if dark < LEAST_DEPTH:
        return DoseReached(dose=None, low=None, high=None, reached=False)
    labs = paths.labs(grid)
    depth = np.asarray(delta_e_2000(np.broadcast_to(white, labs.shape), labs)) / dark
    return reached_at(grid, 1 - depth, DARK_HALF_OF_DEPTH, last)


def _sooner(first: DoseReached, second: DoseReached) -> DoseReached:
    """When to dye anew: a plain loss (rating 3), or half of the depth, whichever comes first."""
    if first.dose is None or (second.dose is not None and second.dose < first.dose):
        return second if second.dose is not None or second.low is not None else first
    return first


def _words(kind: str, at_last: CurvePoint, plain: DoseReached, renew: DoseReached) -> str:
    if at_last.low_de00 == 0:
        return f"≈ no change that can be told (at most {at_last.high_de00:.1f})."
    if kind == "light":
        return f"Changed by {at_last.de00:.1f} ({at_last.low_de00:.1f} to {at_last.high_de00:.1f})."
    unit = COUNTED.get(kind, "times")
    if renew.dose is not None:
        return f"Dye it anew after about {renew.dose:.0f} {unit} ({_limits(renew)})."
    if renew.low is not None:
        return f"Lasts beyond what was tried; dye anew after {renew.low:.0f} {unit} or more."
    return "Lasts beyond what was tried." if plain.dose is None else "Plainly changed, not half gone."


def _limits(reached: DoseReached) -> str:
    low = f"{reached.low:.0f}" if reached.low is not None else "?"
    return f"{low} to {reached.high:.0f}" if reached.high is not None else f"{low} or more"


def _wools_at(points: Sequence[FadePoint], wools: Sequence[WoolReading]) -> dict[str, tuple[float, dict[int, float]]]:
    """Each swatch's change at the last stage at which wools were read beside it, and theirs."""
    stages = {one.stage for one in wools}
    found: dict[str, tuple[float, dict[int, float]]] = {}
    for point in sorted(points, key=lambda one: one.stage):
        if point.stage in stages and not point.zone:
            beside = {one.wool: one.de00 for one in wools if one.stage == point.stage}
            found[point.swatch] = (point.difference.de00, beside)
    return found
