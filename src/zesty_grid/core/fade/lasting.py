"""How the swatches of a trial fade, all together.

What those of one dye share is pooled, so that few stages suffice; then each swatch has its curve,
the doses that matter, and its place among those that last longer.
"""

from collections.abc import Mapping, Sequence
from functools import lru_cache
from itertools import pairwise

import numpy as np

from zesty_grid.core.fade.blue_wool import (
    LightFastness,
    WoolReading,
    fastness_by_dose,
    fastness_by_wools,
)
from zesty_grid.core.fade.fade_points import FadePoint
from zesty_grid.core.fade.fading_curve import (
    HIGH,
    LOW,
    DoseReached,
    Paths,
    Threshold,
    draw_paths,
    foretell,
    reached_at,
)
from zesty_grid.core.fade.fading_fit import ChangeSeen, FadingFit, bends_of, fit_fading
from zesty_grid.core.fade.fading_shapes import FadingModel, known_shapes
from zesty_grid.core.fade.grey_scale import def_a05, rating_of
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats, lab_to_hex

CURVE_STEPS = 25
COUNTED = {"wash": "washes", "rub": "rubbings", "sweat": "wettings", "store": "days"}
BEYOND = 2.0
# One swatch's worth of not knowing stays beside what the others of its dye show.
OWN_WORD = 1.0
DARK_HALF_OF_DEPTH = 0.5
WHITE_L = 92.0
LEAST_DEPTH = 3.0


class CurvePoint(Frozen):
    """The expected colour at a dose, its change, and the change's 90 % limits."""

    dose: float
    hex: str
    de00: float
    low_de00: float
    high_de00: float
    beyond: bool


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


class GroupFading(Frozen):
    """The mean change of all swatches that share their dye, with its 90 % limits."""

    group: str
    swatches: tuple[str, ...]
    curve: tuple[CurvePoint, ...]


class Gap(Frozen):
    """Whether one swatch lasts better than another: how sure that is, and by how much."""

    better: str
    worse: str
    difference_de00: float
    low_de00: float
    high_de00: float
    real: bool


class TrialFading(Frozen):
    """All curves, from what lasts best to what lasts least; `gaps` between neighbours in order."""

    kind: str
    last_dose: float
    swatches: tuple[SwatchFading, ...]
    gaps: tuple[Gap, ...]
    groups: tuple[GroupFading, ...] = ()
    warnings: tuple[str, ...]


def trial_fading(
    kind: str, points: Sequence[FadePoint], groups: Mapping[str, str], uv: bool,
    wools: Sequence[WoolReading] = (),
) -> TrialFading:  # fmt: skip
    """`groups`: for each swatch, what it shares its way of fading with (its dye)."""
    seen = {
        swatch: found
        for swatch in dict.fromkeys(point.swatch for point in points)
        if (found := changes_of(points, swatch))
    }
    if not seen:
        return TrialFading(kind=kind, last_dose=0, swatches=(), gaps=(),
                           warnings=_unknown_doses(points))  # fmt: skip
    paths = paths_of(tuple(sorted(seen.items())), tuple(sorted(groups.items())))
    last = max(one.dose for found in seen.values() for one in found)
    beside = _wools_at(points, wools)
    made = [
        _swatch(kind, swatch, path, last, uv, beside.get(swatch)) for swatch, path in paths.items()
    ]
    made.sort(key=lambda one: (one.at_last.de00, one.swatch))
    gaps = tuple(_gap(first.swatch, second.swatch, paths, last) for first, second in pairwise(made))
    return TrialFading(
        kind=kind, last_dose=last, swatches=tuple(made), gaps=gaps,
        groups=tuple(_groups(paths, groups, last)), warnings=_unknown_doses(points),
    )  # fmt: skip


def changes_of(points: Sequence[FadePoint], swatch: str) -> tuple[ChangeSeen, ...]:
    """The stages of one swatch whose dose is known."""
    return tuple(
        ChangeSeen(dose=point.dose, dark_lab=point.dark_lab, exposed_lab=point.exposed_lab,
                   uncertainty_de00=point.uncertainty_de00)
        for point in points
        if point.swatch == swatch and point.dose and not point.turned_round
    )  # fmt: skip


def fading_groups(levels: Mapping[str, Mapping[str, str]]) -> dict[str, str]:
    """What is dyed alike fades alike: the dye (or what printed) makes the group in which bends are
    shared, else all are one. `levels` by code and factor."""
    return {code: own.get("dye", own.get("source", "")) for code, own in levels.items()}


def paths_of_trial(points: Sequence[FadePoint], groups: Mapping[str, str]) -> dict[str, Paths]:
    """Of every swatch of a trial that was read."""
    seen = {
        code: found
        for code in dict.fromkeys(point.swatch for point in points)
        if (found := changes_of(points, code))
    }
    return paths_of(tuple(sorted(seen.items())), tuple(sorted(groups.items())))


@lru_cache(maxsize=8)
def paths_of(
    seen: tuple[tuple[str, tuple[ChangeSeen, ...]], ...], groups: tuple[tuple[str, str], ...]
) -> dict[str, Paths]:
    """The ways that each swatch may take, each fitted once alone, then beside others of its group.

    What the others show of their bends counts as a prior, and what one swatch alone would not know
    as one more word (empirical Bayes: Robbins 1956).
    """
    alone = {swatch: fit_fading(points) for swatch, points in seen}
    group_of = dict(groups)
    found = {}
    for swatch, points in seen:
        others = [
            fit for other, fit in alone.items()
            if other != swatch and group_of.get(other) == group_of.get(swatch)
        ]  # fmt: skip
        fit = fit_fading(points, _shared(others)) if others else alone[swatch]
        found[swatch] = draw_paths(fit)
    return found


def _shared(others: Sequence[FadingFit]) -> list[Floats]:
    bends = [bends_of(fit) for fit in others]
    shared = []
    for i, shape in enumerate(known_shapes()):
        count = len(shape.parameters)
        # Doses are in parts of each swatch's last one: bends agree where those do.
        mean = np.mean([own[i] for own in bends], axis=0)
        weight = len(others) / (len(others) + OWN_WORD)
        shared.append(np.log(weight * mean + (1 - weight) / count))
    return shared


def _swatch(
    kind: str, swatch: str, paths: Paths, last: float, uv: bool,
    beside: tuple[float, dict[int, float]] | None,
) -> SwatchFading:  # fmt: skip
    own_last = paths.fit.last_dose
    doses = np.linspace(0, BEYOND * last, CURVE_STEPS)
    # Halfway the curve meets the last stage itself.
    curve = tuple(_curve(paths, doses))
    thresholds = paths.thresholds
    at_last = _curve(paths, np.array([last]))[0]
    half = _half_depth(paths)
    plain = thresholds["plain"]
    renew = _sooner(thresholds["rating_3"], half)
    fastness = None
    if kind == "light":
        noticeable = thresholds["rating_4"]
        fastness = fastness_by_dose(noticeable.dose, noticeable.low, noticeable.high, own_last, uv)
    beside_ = fastness_by_wools(*beside) if beside else None
    low, high = (
        rating_of(float(value)) for value in np.percentile(_ratings(paths, last), [HIGH, LOW])
    )
    return SwatchFading(
        swatch=swatch, model=paths.fit.model, stages=len(np.unique(paths.fit.doses)), curve=curve,
        thresholds=thresholds, half_depth=half, at_last=at_last,
        rating_at_last=low if low == high else f"{high} to {low}", fastness=fastness,
        fastness_beside=beside_, renew_at=renew, words=_words(kind, at_last, plain, renew),
    )  # fmt: skip


def _groups(
    paths: Mapping[str, Paths], groups: Mapping[str, str], last: float
) -> list[GroupFading]:
    """A curve for each group of two or more swatches."""
    doses = np.linspace(0, BEYOND * last, CURVE_STEPS)
    found = []
    for group in dict.fromkeys(groups.get(code, "") for code in paths):
        own = {code: path for code, path in paths.items() if groups.get(code, "") == group}
        if len(own) < 2 or not group:
            continue
        rng = np.random.default_rng(len(own))
        # Swatches err apart from each other: their draws are matched by chance.
        changes, labs = [], []
        for path in own.values():
            seen = path.labs(doses)
            dark = np.broadcast_to(path.fit.dark_lab, seen.shape)
            changes.append(rng.permutation(np.asarray(delta_e_2000(dark, seen))))
            labs.append(seen.mean(axis=0))
        mean = np.mean(changes, axis=0)
        low, middle, high = np.percentile(mean, [LOW, 50, HIGH], axis=0)
        reach = max(path.fit.last_dose for path in own.values())
        found.append(
            GroupFading(
                group=group, swatches=tuple(own),
                curve=tuple(
                    CurvePoint(dose=float(d), hex=lab_to_hex(np.mean(labs, axis=0)[i]),
                               de00=float(middle[i]), low_de00=float(low[i]),
                               high_de00=float(high[i]), beyond=bool(d > reach))
                    for i, d in enumerate(doses)
                ),
            )
        )  # fmt: skip
    return found


def _curve(paths: Paths, doses: Floats) -> list[CurvePoint]:
    return [
        CurvePoint(dose=one.dose, hex=lab_to_hex(np.array(one.lab)), de00=one.de00,
                   low_de00=one.low_de00, high_de00=one.high_de00,
                   beyond=one.dose > paths.fit.last_dose)
        for one in foretell(paths, [float(dose) for dose in doses])
    ]  # fmt: skip


def _ratings(paths: Paths, dose: float) -> Floats:
    labs = paths.labs(np.array([dose]))[:, 0]
    return def_a05(np.broadcast_to(paths.fit.dark_lab, labs.shape), labs)


def _half_depth(paths: Paths) -> DoseReached:
    """The dose at which half of the difference from white cloth is gone."""
    last = paths.fit.last_dose
    grid = last * np.concatenate([np.geomspace(1e-3, 1, 40), np.geomspace(1, 8, 20)[1:]])
    white = np.array([WHITE_L, 0.0, 4.0])
    dark = float(delta_e_2000(white, paths.fit.dark_lab))
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
    return (
        "Lasts beyond what was tried." if plain.dose is None else "Plainly changed, not half gone."
    )


def _limits(reached: DoseReached) -> str:
    low = f"{reached.low:.0f}" if reached.low is not None else "?"
    return f"{low} to {reached.high:.0f}" if reached.high is not None else f"{low} or more"


def _gap(first: str, second: str, paths: Mapping[str, Paths], dose: float) -> Gap:
    """By how much the second changes more than the first at a dose."""
    changes = []
    for name in (first, second):
        labs = paths[name].labs(np.array([dose]))[:, 0]
        dark = np.broadcast_to(paths[name].fit.dark_lab, labs.shape)
        changes.append(np.asarray(delta_e_2000(dark, labs)))
    apart = np.random.default_rng(7).permutation(changes[1]) - changes[0]
    low, middle, high = (float(v) for v in np.percentile(apart, [LOW, 50, HIGH]))
    return Gap(better=first, worse=second, difference_de00=middle, low_de00=low, high_de00=high,
               real=low > 0)  # fmt: skip


def _wools_at(
    points: Sequence[FadePoint], wools: Sequence[WoolReading]
) -> dict[str, tuple[float, dict[int, float]]]:
    """Each swatch's change at the last stage at which wools were read beside it, and theirs."""
    stages = {one.stage for one in wools}
    found: dict[str, tuple[float, dict[int, float]]] = {}
    for point in sorted(points, key=lambda one: one.stage):
        if point.stage in stages and not point.zone:
            beside = {one.wool: one.de00 for one in wools if one.stage == point.stage}
            found[point.swatch] = (point.difference.de00, beside)
    return found


def _unknown_doses(points: Sequence[FadePoint]) -> tuple[str, ...]:
    said = []
    if any(point.dose is None for point in points):
        said.append("Some stages have no dose: say where the pieces hung and since when.")
    turned = sorted({point.swatch for point in points if point.turned_round})
    if turned:
        said.append(f"{', '.join(turned[:6])}: the covered half changed and the exposed did not. "
                    "The piece lay the other way round in its photo.")  # fmt: skip
    return tuple(said)
