"""Reads pH strips, and the printed scales of their boxes, from a photo that holds a chart."""

import numpy as np

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.areas import measure_area
from zesty_grid.core.read.chart import Chart
from zesty_grid.core.read.chart_alone import ChartInPhoto, chart_in_photo
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.measurement import CellMeasurement
from zesty_grid.core.read.ph_of_strip import PhRange, ph_of_strip
from zesty_grid.core.read.picture import Picture
from zesty_grid.core.read.said_by_hand import CellByHand, PointPx
from zesty_grid.core.read.strip_finder import rows_of_pads
from zesty_grid.core.read.strip_pads import area_around, pads_between, reach_of, scale_between
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.ph_strip import PhStep, PhStrip

# Of what may be a strip, no more is tried.
MOST_TRIED = 150
ALONE_SHARE = 0.02


class PadSeen(Frozen):
    """A colour where it lies in the photo, its outline in pixels."""

    outline_px: tuple[PointPx, ...]
    hex: str


class StripRead(Frozen):
    """The pH of a strip, the pads that it was read from, and the size of the photo in pixels. `found`:
    the pads were not pointed at, they were looked for."""

    range: PhRange
    pads: tuple[PadSeen, ...]
    photo_size_px: tuple[int, int]
    found: bool


class ScaleRead(Frozen):
    """A printed scale, lowest pH first, and where each of its colours lies."""

    steps: tuple[PhStep, ...]
    colours: tuple[PadSeen, ...]
    photo_size_px: tuple[int, int]


def read_strip(
    picture: Picture, chart: Chart, strip: PhStrip, ends_px: tuple[PointPx, ...] = (), late: bool = False
) -> StripRead:
    """`ends_px`: the middles of the first and the last pad, of a strip with one pad that one; none: the
    strip is looked for. Raises Refusal where chart or strip cannot be found or measured."""
    found = chart_in_photo(picture, chart)
    ends = [np.array(point) for point in ends_px]
    middles = pads_between(ends[0], ends[-1], strip.pads) if ends else _likeliest(found, strip)
    cells, seen = _measured(found, middles)
    scale_uncertainty = float(np.sqrt(np.mean([step.uncertainty_de00**2 for step in strip.steps])))
    return StripRead(
        range=ph_of_strip(
            np.array([step.ph for step in strip.steps]),
            np.array([step.pads for step in strip.steps]),
            np.array([cell.lab for cell in cells], dtype=float),
            np.hypot([_uncertainty(cell) for cell in cells], scale_uncertainty),
            late,
        ),
        pads=seen,
        photo_size_px=(picture.width, picture.height),
        found=not ends,
    )


def read_scale(
    picture: Picture, chart: Chart, phs: tuple[float, ...], pads: int, corners_px: tuple[PointPx, PointPx, PointPx]
) -> ScaleRead:
    """`corners_px`: the middles of the first and the last pad's colour at the lowest pH, and of the last
    pad's at the highest; of one pad the first two are the same. Raises Refusal as `read_strip`."""
    found = chart_in_photo(picture, chart)
    first, tip_end, last = (np.array(point) for point in corners_px)
    middles = scale_between(first, tip_end, last, len(phs), pads)
    cells, seen = _measured(found, middles.reshape(-1, 2))
    steps = []
    for number, ph in enumerate(phs):
        own = cells[number * pads : (number + 1) * pads]
        worst = max(_uncertainty(cell) for cell in own)
        labs, hexes = tuple(cell.lab for cell in own if cell.lab), tuple(cell.hex or "" for cell in own)
        steps.append(PhStep(ph=ph, pads=labs, hexes=hexes, uncertainty_de00=worst))
    return ScaleRead(steps=tuple(steps), colours=seen, photo_size_px=(picture.width, picture.height))


def _measured(found: ChartInPhoto, middles: Floats) -> tuple[list[CellMeasurement], tuple[PadSeen, ...]]:
    reach = reach_of(middles, ALONE_SHARE * min(found.picture.width, found.picture.height))
    cells, seen = [], []
    for middle in middles:
        area = area_around(found.picture, middle, reach)
        cell = measure_area(found, CellByHand(cell="strip", areas=(area,)))
        if cell.lab is None:
            raise Refusal(
                "strip-too-bright",
                "A colour of the strip is too bright to be measured.",
                "Take the photo darker, or without the light's reflection.",
            )
        cells.append(cell)
        seen.append(PadSeen(outline_px=area.outline_px, hex=cell.hex or ""))
    return cells, tuple(seen)


def _uncertainty(cell: CellMeasurement) -> float:
    """Of its colour, without that of how much light lay there."""
    return cell.parts.model_copy(update={"light_de00": 0.0}).combined_de00 if cell.parts else 0.0


def _likeliest(found: ChartInPhoto, strip: PhStrip) -> Floats:
    """The row whose colours lie nearest to the scale."""
    rows = rows_of_pads(found, strip.pads)[:MOST_TRIED]
    phs = np.array([step.ph for step in strip.steps])
    scale = np.array([step.pads for step in strip.steps])
    best: tuple[float, Floats] | None = None
    for row in rows:
        labs = found.correction.lab(_light_at(found, row))
        away = ph_of_strip(phs, scale, labs, np.zeros(strip.pads), late=False).away_de00
        if best is None or away < best[0]:
            best = (away, row)
    if best is None:
        raise Refusal(
            "strip-missing",
            "No strip was found beside the chart.",
            "Tap its first pad and its last; or lay it flat and whole on a plain ground, beside the chart.",
        )
    return best[1]


def _light_at(found: ChartInPhoto, middles: Floats) -> Floats:
    """Linear light of a small square at each place, (n, 3)."""
    columns, rows = np.round(middles).astype(int).T
    return np.array(
        [
            found.picture.linear(found.picture.pixels[max(0, r - 3) : r + 4, max(0, c - 3) : c + 4])
            .reshape(-1, 3)
            .mean(axis=0)
            for c, r in zip(columns, rows, strict=True)
        ],
        dtype=float,
    )
