"""Whether a chart has changed: yellowed, bleached or soiled, as its photos tell over time.

A chart that fades carries its correction with it, so that one photo cannot tell. Photos of one
camera in light of one kind can: the correction that fits the first of them is put on the later
ones, and each patch is followed against the paper beside it. What is chance is taken from how the
first photos scatter among themselves.
"""

from collections.abc import Sequence

import numpy as np

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.chart import Chart
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats, lab_to_hex
from zesty_grid.core.read.correction import choose_correction
from zesty_grid.core.read.difference_uncertainty import LIKE_RESPONSE, response_distance
from zesty_grid.core.read.measurement import Lab

FIRST_PHOTOS, FEWEST_PHOTOS, NEWEST_PHOTOS = 6, 6, 3
# A patch that moved by less does no harm; chance is told from change at three standard errors.
HARMFUL_DE00, STANDARD_ERRORS = 0.7, 3.0
# Lights of one kind differ a little from day to day: common practice, and as simulated.
DAY_TO_DAY_DE00 = 0.2


class ChartPhoto(Frozen):
    """A photo of a chart as far as its patches go: their light over the paper's, and the response
    of camera and light together."""

    taken_on: str
    camera: str
    response: tuple[Lab, ...]
    patch_light: tuple[Lab, ...]


class PatchDrift(Frozen):
    name: str
    hex: str
    de00: float
    standard_error_de00: float
    moved: Lab
    is_real: bool


class ChartWatch(Frozen):
    """One camera in light of one kind: `photos` from `since` to `until`. `words`: what is to be
    done about it."""

    camera: str
    photos: int
    since: str
    until: str
    patches: tuple[PatchDrift, ...]
    words: str


def watch_chart(chart: Chart, photos: Sequence[ChartPhoto]) -> list[ChartWatch]:
    """For each camera and kind of light with enough photos, oldest first in `photos`."""
    groups: list[list[ChartPhoto]] = []
    for photo in photos:
        if len(photo.patch_light) != len(chart.patches):
            continue
        own = next((group for group in groups if _alike(group[0], photo)), None)
        if own is None:
            groups.append([photo])
        else:
            own.append(photo)
    return [_watch(chart, group) for group in groups if len(group) >= FEWEST_PHOTOS]


def _alike(first: ChartPhoto, second: ChartPhoto) -> bool:
    apart = response_distance(first.response, second.response)
    return first.camera == second.camera and apart < LIKE_RESPONSE


def _watch(chart: Chart, photos: Sequence[ChartPhoto]) -> ChartWatch:
    first_count = min(FIRST_PHOTOS, len(photos) - NEWEST_PHOTOS)
    light = np.array([photo.patch_light for photo in photos])
    usual = light[:first_count].mean(axis=0)
    every = tuple(range(len(chart.patches)))
    correction = choose_correction(usual, chart, every, already_linear=True)
    labs = np.array([correction.lab(one) for one in light])
    before, after = labs[:first_count], labs[-NEWEST_PHOTOS:]
    drifts = [_drift(chart, i, before[:, i], after[:, i]) for i in every]
    return ChartWatch(
        camera=photos[0].camera,
        photos=len(photos),
        since=photos[0].taken_on,
        until=photos[-1].taken_on,
        patches=tuple(drifts),
        words=_words(drifts, photos[0].taken_on),
    )


def _drift(chart: Chart, patch: int, before: Floats, after: Floats) -> PatchDrift:
    usual, now = before.mean(axis=0), after.mean(axis=0)
    scatter = delta_e_2000(before, np.broadcast_to(usual, before.shape))
    single = float(np.hypot(np.sqrt((scatter**2).sum() / (len(before) - 1)), DAY_TO_DAY_DE00))
    error = single * float(np.sqrt(1 / len(before) + 1 / len(after)))
    de00 = float(delta_e_2000(usual, now))
    lightness, a, b = (float(value) for value in now - usual)
    return PatchDrift(
        name=chart.patches[patch].name,
        hex=lab_to_hex(chart.lab[patch]),
        de00=de00,
        standard_error_de00=error,
        moved=(lightness, a, b),
        is_real=de00 > max(HARMFUL_DE00, STANDARD_ERRORS * error),
    )


def _words(drifts: Sequence[PatchDrift], since: str) -> str:
    real = sorted((one for one in drifts if one.is_real), key=lambda one: -one.de00)
    if not real:
        return "No patch has moved by more than chance."
    yellowed = np.mean([one.moved[2] for one in real]) > 0.5
    named = ", ".join(one.name for one in real[:4])
    more = f" and {len(real) - 4} more" if len(real) > 4 else ""
    how = "grown yellower" if yellowed and len(real) > len(drifts) / 3 else "moved"
    return (
        f"{named}{more} {'has' if len(real) == 1 else 'have'} {how} by up to "
        f"{real[0].de00:.1f} ΔE00 since {since}: clean the chart, keep it dark, or use a new one."
    )
