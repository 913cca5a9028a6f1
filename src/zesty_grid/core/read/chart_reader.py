"""Reads the patches of a chart in a crop of evenly lit pixels, and checks that it is one."""

from dataclasses import dataclass

import numpy as np

from zesty_grid.core.read.chart import Chart
from zesty_grid.core.read.chart_finder import ChartPlace, patch_window_points
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats, xyz_to_lab
from zesty_grid.core.read.correction import fit_root_polynomial, root_polynomial_terms
from zesty_grid.core.read.picture import Picture, Pixels
from zesty_grid.core.read.sheet_layout import ChartSlot
from zesty_grid.core.refusal import Refusal

NOT_A_CHART_DE00 = 9.0
CLIPPED_SHARE = 0.05
MOST_CLIPPED_SHARE = 2 / 24


@dataclass(frozen=True)
class PatchReadings:
    """Mean linear light of each patch (n, 3) and which of them are clipped."""

    linear: Floats
    clipped: tuple[int, ...]


def read_patches(
    picture: Picture, crop: Pixels, origin_mm: Floats, px_per_mm: float, slot: ChartSlot, place: ChartPlace
) -> PatchReadings:
    """Trimmed mean light within each patch of the card as it lies in the crop."""
    points = patch_window_points(slot, place)
    index = np.floor((points - origin_mm) * px_per_mm).astype(int)
    row = np.clip(index[..., 1], 0, crop.shape[0] - 1)
    column = np.clip(index[..., 0], 0, crop.shape[1] - 1)
    codes = crop[row, column]
    clipped_share = (codes >= picture.top_code - picture.top_code // 128).any(axis=-1).mean(axis=1)
    linear = np.sort(picture.linear(codes).astype(float), axis=1)
    trim = linear.shape[1] // 10
    return PatchReadings(
        linear[:, trim:-trim].mean(axis=1), tuple(int(i) for i in np.flatnonzero(clipped_share > CLIPPED_SHARE))
    )


def check_chart(readings: PatchReadings, evened: Floats, chart: Chart) -> tuple[int, ...]:
    """Indices of the patches to be used, from evenly lit patch light (n, 3).

    Raises Refusal for clipped patches, for a chart upside down and where there is no chart.
    """
    count = len(chart.patches)
    used = tuple(i for i in range(count) if i not in readings.clipped)
    turned = tuple(sorted(count - 1 - i for i in used))
    own = seen_misfit(evened, used, chart)
    if len(used) >= 0.75 * count and seen_misfit(evened[::-1], turned, chart) < 0.6 * own:
        raise Refusal(
            "chart-upside-down",
            "The chart lies upside down in its slot.",
            f"Turn it so that {chart.names[0]} is at the upper left.",
        )
    if len(readings.clipped) > MOST_CLIPPED_SHARE * count:
        names = ", ".join(chart.names[i] for i in readings.clipped)
        raise Refusal(
            "clipped",
            f"The highlights of {len(readings.clipped)} chart patches are clipped ({names}).",
            "Lower the exposure and take the photo again.",
        )
    if own > NOT_A_CHART_DE00:
        raise Refusal(
            "chart-missing",
            f"No {chart.label} was found in its slot.",
            "Lay the chart in the marked slot, all patches in sight, and take the photo again.",
        )
    return used


def fits_better(one: Floats, other: Floats, chart: Chart) -> bool:
    """Whether the chart's patches (n, 3) look more like a chart on one scale of light than on
    another."""
    everything = tuple(range(len(chart.patches)))
    return seen_misfit(one, everything, chart) < seen_misfit(other, everything, chart)


def seen_misfit(evened: Floats, used: tuple[int, ...], chart: Chart) -> float:
    """Mean ΔE00 of the simplest correction on the very patches that it is fitted on."""
    rows = list(used)
    reference = chart.xyz[rows]
    matrix = fit_root_polynomial(evened[rows], reference, 1)
    fitted = np.maximum(root_polynomial_terms(evened[rows], 1) @ matrix, 1e-5)
    return float(delta_e_2000(xyz_to_lab(fitted), xyz_to_lab(reference)).mean())
