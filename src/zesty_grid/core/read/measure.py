"""A photo of a sheet in; the colour of every cloth on it out."""

from collections.abc import Iterable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from zesty_grid import __version__
from zesty_grid.core.read.by_hand import check_cells
from zesty_grid.core.read.camera_tone import fit_camera_tone
from zesty_grid.core.read.card_edge import beyond_slot_mm
from zesty_grid.core.read.cell_labels import labels_in_cells
from zesty_grid.core.read.cell_reader import read_cell
from zesty_grid.core.read.cell_view import Calibrated
from zesty_grid.core.read.chart import Chart
from zesty_grid.core.read.chart_finder import ChartPlace, find_chart, patch_window_points
from zesty_grid.core.read.chart_reader import PatchReadings, check_chart, fits_better, read_patches
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.correction import Correction, choose_correction, fit_tone_curve, usable_greys
from zesty_grid.core.read.dot_pattern import read_open_dots
from zesty_grid.core.read.found_page import FoundPage
from zesty_grid.core.read.light_field import LightField, PaperSamples, fit_light_field, sample_paper
from zesty_grid.core.read.local_light import LocalLight, fit_local_light, paper_around_card
from zesty_grid.core.read.measurement import Calibration, Measurement, PatchMeasurement, Residual
from zesty_grid.core.read.page_checks import look_at_page
from zesty_grid.core.read.page_finder import find_page
from zesty_grid.core.read.page_shape import shape_of_page
from zesty_grid.core.read.picture import Picture
from zesty_grid.core.read.printed_greys import UNTOLD, read_greys
from zesty_grid.core.read.said_by_hand import CellByHand
from zesty_grid.core.read.sheet_code import sheet_id_on
from zesty_grid.core.read.sheet_layout import RectMm, Sheet
from zesty_grid.core.refusal import Refusal

CHART_PX_PER_MM = 6.0
SLOT_MARGIN_MM = 13.0
CHART_GREYS_MM = 14.0
CELLS_AT_ONCE = 4
UNEVEN_WARNING = 0.45
UNEVEN_REFUSED = 0.2
PATCHY_WARNING = 0.02
DOUBTFUL_RESIDUAL_DE00 = 3.0


def measure_sheet(
    picture: Picture, sheet: Sheet, page: FoundPage | None = None, by_hand: Iterable[CellByHand] = ()
) -> Measurement:
    """Measures every cell of the sheet; raises Refusal where the photo cannot be measured.

    `page`: where the sheet lies, if that is known; `by_hand`: what a person says of some cells.
    """
    said = check_cells(by_hand, (cell.cell for cell in sheet.cells))
    found = calibrate(picture, sheet, page)
    photo = found.photo
    with ThreadPoolExecutor(CELLS_AT_ONCE) as threads:
        by_cell = [said.get(cell.cell) for cell in sheet.cells]
        cells = tuple(threads.map(partial(read_cell, photo), sheet.cells, by_cell))
    return Measurement(
        software_version=__version__,
        by_hand=tuple(said.values()),
        sheet_id=sheet.id,
        photo_size_px=(picture.width, picture.height),
        calibration=describe_calibration(
            photo.correction, sheet.chart.chart, found.warnings, picture.camera, found.patch_light
        ),
        cells=cells,
        labels=labels_in_cells(photo.picture, photo.page, sheet.cells),
        patches=describe_patches(photo.correction, sheet.chart.chart, _patch_outlines(photo.page, sheet, found.place)),
    )


@dataclass(frozen=True)
class SheetInPhoto:
    """A sheet found in a photo, ready for its cells to be measured; what is doubtful is said."""

    photo: Calibrated
    place: ChartPlace
    patch_light: Floats
    warnings: tuple[str, ...]


def calibrate(picture: Picture, sheet: Sheet, page: FoundPage | None = None) -> SheetInPhoto:
    """In order: markers, light on blank paper, chart, tone curve, light again on the now linear
    scale, colour correction, and looks at page and chart. Raises Refusal as `measure_sheet` does.
    """
    if page is None:
        page = find_page(picture, sheet)
        _check_code(picture, page, sheet)
    page = shape_of_page(picture, page, sheet)
    card = sheet.chart.chart
    rect = _slot_rect(sheet)
    scale = min(CHART_PX_PER_MM, page.px_per_mm)
    crop = page.crop(picture, rect, scale)
    origin_mm = np.array(rect[:2])
    log_light = np.log(picture.linear(crop).astype(float) + 1e-3)
    place = find_chart(log_light, origin_mm, scale, sheet.chart)
    frame = beyond_slot_mm(log_light.mean(axis=2), origin_mm, scale, sheet, place, page.edge_width_mm)
    place = replace(place, beyond_mm=frame)
    card_mm = place.card_quad_mm(sheet.chart)
    centres = patch_window_points(sheet.chart, place).mean(axis=1)

    def lit(seen: Picture) -> ChartInLight:
        samples = sample_paper(seen, page, sheet, card_mm)
        light = fit_light_field(samples, sheet.page_mm)
        ring = paper_around_card(samples, light, sheet.chart, place)
        local = fit_local_light(ring, _middle(centres))
        readings = read_patches(seen, crop, origin_mm, scale, sheet.chart, place)
        evened = readings.linear / light.at(centres) / local.at(centres)
        return ChartInLight(samples, light, local, readings, evened)

    first = lit(picture)
    if picture.perhaps_straight:
        other = lit(picture.as_raw())
        if fits_better(other.evened, first.evened, card):
            picture, first = picture.as_raw(), other
    used = check_chart(first.readings, first.evened, card)
    straightened = straighten(picture, first.evened, used, card)
    chart = lit(straightened)
    correction = choose_correction(chart.evened, card, used, already_linear=picture.raw)
    if not picture.raw:
        # The greys anew, now that the light on each of them is known: the better of the two stays.
        on_patches = chart.light.at(centres) * chart.local.at(centres)
        bent = unbend(picture, first.readings.linear, on_patches, used, card)
        again = lit(bent) if bent else None
        if bent and again:
            anew = choose_correction(again.evened, card, used)
            if anew.unseen_de00.mean() < correction.unseen_de00.mean():
                straightened, chart, correction = bent, again, anew
    if chart.light.evenness_ratio < UNEVEN_REFUSED:
        raise Refusal(
            "uneven-light",
            f"The darkest part of the sheet gets only {chart.light.evenness_ratio:.0%} of the light.",
            "Turn the sheet or add a light from the other side, and take the photo again.",
        )
    photo = _calibrated(straightened, sheet, page, chart, correction, card_mm)
    looks = look_at_page(photo, sheet, chart.local, place.size_ratio)
    return SheetInPhoto(
        photo=replace(photo, page_doubt_de00=looks.doubt_de00),
        place=place,
        patch_light=chart.evened,
        warnings=(*picture.notes, *_light_warnings(chart.light), *looks.warnings),
    )


def _check_code(picture: Picture, page: FoundPage, sheet: Sheet) -> None:
    """Raises Refusal where the square code is another sheet's: its cells hold other swatches."""
    seen = sheet_id_on(picture, page, sheet.page_mm)
    if seen is not None and seen != sheet.id:
        raise Refusal(
            "other-sheet",
            f"The photo shows sheet {seen}, not {sheet.id}.",
            "Give the layout of the sheet that is in the photo.",
        )


@dataclass(frozen=True)
class ChartInLight:
    """The chart's patches over the light that falls on them: on the page, and on it alone."""

    samples: PaperSamples
    light: LightField
    local: LocalLight
    readings: PatchReadings
    evened: Floats


def _calibrated(
    picture: Picture, sheet: Sheet, page: FoundPage, chart: ChartInLight, correction: Correction, card_mm: Floats
) -> Calibrated:
    reference_lab = sheet.chart.chart.lab
    greys = read_greys(picture, page, sheet.greys, chart.light, card_mm)
    contrast = greys.contrast_near(sheet.chart.rect_mm, CHART_GREYS_MM) if greys else UNTOLD
    middle = np.array([chart.local.centre_mm])
    colour = np.log(chart.light.at(middle) * chart.local.at(middle))[0]
    dots = None
    if sheet.pattern:
        dots = read_open_dots(picture, page, sheet.pattern, chart.samples, chart.light)
    return Calibrated(
        picture,
        page,
        chart.samples,
        chart.light,
        colour - colour.mean(),
        greys,
        contrast,
        dots,
        correction,
        reference_lab[list(correction.used)],
        cut_out=sheet.kind == "window",
    )


def _middle(points_mm: Floats) -> tuple[float, float]:
    x, y = points_mm.mean(axis=0)
    return (float(x), float(y))


def straighten(picture: Picture, patch_linear: Floats, used: tuple[int, ...], chart: Chart) -> Picture:
    """The same picture on the scale of light that the chart's greys ask for.

    Uneven light can be divided out only on a scale that is linear in light.
    """
    greys = usable_greys(used, chart)
    if picture.raw:
        return picture
    tone = fit_tone_curve(patch_linear[greys], chart.xyz[greys], 3)
    if not tone.rises(patch_linear):
        tone = fit_tone_curve(patch_linear[greys], chart.xyz[greys], 1)
    unshifted = replace(tone, shifts=(0.0, 0.0, 0.0))
    curve = unshifted.apply(picture.linear_by_code.T.astype(float)).T
    return replace(picture, linear_by_code=np.ascontiguousarray(curve, dtype=np.float32))


def unbend(
    picture: Picture, patch_linear: Floats, on_patches: Floats, used: tuple[int, ...], chart: Chart
) -> Picture | None:
    """The same picture with the bend undone that its camera gave the coded values; None where the
    greys ask for a curve that does not rise. Patches as the file says them, and the light on them.
    """
    greys = usable_greys(used, chart)
    tone = fit_camera_tone(patch_linear[greys], chart.xyz[greys][:, 1], on_patches[greys])
    if not tone.rises():
        return None
    curve = np.maximum.accumulate(tone.straight(picture.linear_by_code.astype(float)), axis=1)
    return replace(picture, linear_by_code=np.ascontiguousarray(curve, dtype=np.float32))


def describe_calibration(
    correction: Correction, chart: Chart, warnings: tuple[str, ...], camera: str, patch_light: Floats | None = None
) -> Calibration:
    errors = correction.unseen_de00
    said = list(warnings)
    if len(correction.used) < len(chart.patches):
        missing = (name for i, name in enumerate(chart.names) if i not in correction.used)
        left_out = ", ".join(missing)
        said.append(f"Left out of the fit because it is clipped: {left_out}.")
    if float(errors.mean()) > DOUBTFUL_RESIDUAL_DE00:
        said.append(
            "The chart fits badly: check that it is clean, flat, free of reflections, and lit by "
            "the same light as the swatches."
        )
    return Calibration(
        model=correction.model.name,
        residual_de00=Residual(
            mean=round(float(errors.mean()), 3),
            p95=round(float(np.percentile(errors, 95)), 3),
            max=round(float(errors.max()), 3),
        ),
        warnings=tuple(said),
        camera=camera,
        response=tuple(_triple(patch) for patch in correction.response),
        patch_light=tuple(_triple(patch, 6) for patch in patch_light) if patch_light is not None else (),
    )


def describe_patches(correction: Correction, chart: Chart, outlines_px: Floats) -> tuple[PatchMeasurement, ...]:
    """Each patch as measured, beside its reference; `outlines_px` is (n, 4, 2)."""
    reference_lab = chart.lab
    return tuple(
        PatchMeasurement(
            name=chart.names[i],
            lab=_triple(correction.patch_lab[i]),
            reference_lab=_triple(reference_lab[i]),
            outline_px=tuple((round(float(x), 1), round(float(y), 1)) for x, y in outlines_px[i]),
        )
        for i in range(len(chart.patches))
    )


def _triple(values: Floats, digits: int = 4) -> tuple[float, float, float]:
    a, b, c = (round(float(v), digits) for v in values)
    return a, b, c


def _slot_rect(sheet: Sheet) -> RectMm:
    x, y, w, h = sheet.chart.rect_mm
    return (x - SLOT_MARGIN_MM, y - SLOT_MARGIN_MM, w + 2 * SLOT_MARGIN_MM, h + 2 * SLOT_MARGIN_MM)


def _patch_outlines(page: FoundPage, sheet: Sheet, place: ChartPlace) -> Floats:
    points = patch_window_points(sheet.chart, place, per_side=2)[:, [0, 1, 3, 2]]
    return page.to_photo(points.reshape(-1, 2)).reshape(-1, 4, 2)


def _light_warnings(light: LightField) -> tuple[str, ...]:
    said = []
    if light.evenness_ratio < UNEVEN_WARNING:
        said.append(
            f"Uneven light: the darkest part of the sheet gets {light.evenness_ratio:.0%} of the "
            "brightest. It was corrected, at the cost of a larger uncertainty."
        )
    if light.residual_ratio > PATCHY_WARNING:
        said.append("Patchy light or a shadow lies on the paper: move what casts it.")
    return tuple(said)
