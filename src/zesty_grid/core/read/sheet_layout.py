"""Where everything lies on the printed sheet: landscape, origin top left, y down, mm."""

import re
from functools import cached_property
from typing import Literal

from pydantic import Field

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.chart import FEWEST_PATCHES, MOST_PATCHES, PATCH24, Chart, ChartPatch, patch24
from zesty_grid.core.read.patch24 import COLUMNS, ROWS
from zesty_grid.core.refusal import Fault, Refusal

PointMm = tuple[float, float]
RectMm = tuple[float, float, float, float]
Paper = Literal["A4", "Letter"]
PrintedKind = Literal["cuttings", "hanks", "large", "window"]
CellKind = PrintedKind | Literal["none"]

# ISO 216 and ANSI/ASME Y14.1.
PAGES_MM: dict[Paper, tuple[float, float]] = {"A4": (297.0, 210.0), "Letter": (279.4, 215.9)}
# Each paper has markers of its own, so that a photo says which it is.
FIRST_MARKER: dict[Paper, int] = {"A4": 0, "Letter": 4}
MARKER_MM = 16.0
MARKER_INSET_MM = 8.0
CARD_RECT_MM: RectMm = (31.0, 11.0, 100.0, 68.0)
ID_MM = 26.0
ID_FROM_RIGHT_MM = 56.0
ID_TOP_MM = 9.0
BAND_SIDE_MM = 30.0
BAND_TOP_MM = 90.0
BAND_FOOT_MM = 8.0
CELL_GAP_MM = 5.5
GREYS_MM = 3.0
CELL_HEAD_MM = 9.5
CELL_FOOT_MM = 2.0
PATTERN_STEP_MM = 1.25
WINDOW_MM = (100.0, 64.0)
# How dark the printed greys are, as a printer takes it: 0 black, 1 the paper.
GREY_LEVELS = (0.3, 0.55, 0.78)
MAX_CELLS = 24
SHEET_ID = re.compile(r"[A-Za-z0-9-]{1,24}")
MOST_CELLS: dict[CellKind, int] = {"cuttings": MAX_CELLS, "hanks": 6, "large": 1, "window": 1, "none": MAX_CELLS}


def corners_of(rect_mm: RectMm) -> tuple[PointMm, PointMm, PointMm, PointMm]:
    """Clockwise from the upper left."""
    x, y, w, h = rect_mm
    return ((x, y), (x + w, y), (x + w, y + h), (x, y + h))


class Marker(Frozen):
    """A coded square; corners clockwise from its own top left."""

    id: int
    corners_mm: tuple[PointMm, PointMm, PointMm, PointMm]


class Patch(Frozen):
    name: str
    centre_mm: PointMm
    size_mm: tuple[float, float]


class ChartSlot(Frozen):
    """Where a chart is laid. `values`: L*a*b* (D50, 2°) of its patches, where it is not the common
    one that goes by its name."""

    name: str = PATCH24
    rows: int = ROWS
    columns: int = COLUMNS
    quad_mm: tuple[PointMm, PointMm, PointMm, PointMm]
    patches: tuple[Patch, ...] = Field(min_length=FEWEST_PATCHES, max_length=MOST_PATCHES)
    values: tuple[tuple[float, float, float], ...] = ()

    @property
    def rect_mm(self) -> RectMm:
        (x0, y0), (x1, y1) = self.quad_mm[0], self.quad_mm[2]
        return (x0, y0, x1 - x0, y1 - y0)

    @cached_property
    def chart(self) -> Chart:
        """The chart that is to lie here; raises ValueError where its values are not known."""
        if not self.values:
            if self.name != PATCH24:
                raise ValueError(f"the values of chart {self.name} are not given")
            return patch24()
        first = self.patches[0]
        across, down = self.patches[1], self.patches[self.columns]
        return Chart(
            name=self.name,
            rows=self.rows,
            columns=self.columns,
            pitch_mm=(across.centre_mm[0] - first.centre_mm[0], down.centre_mm[1] - first.centre_mm[1]),
            patch_mm=first.size_mm,
            patches=tuple(
                ChartPatch(name=patch.name, lab=lab) for patch, lab in zip(self.patches, self.values, strict=True)
            ),
        )


class GreySpot(Frozen):
    """A printed grey; `level` counts from the darkest. All of one level look alike in even light"""

    rect_mm: RectMm
    level: int = Field(ge=0, le=7)


class Pattern(Frozen):
    """Light dots in the cells, which cloth covers, in rows `step_mm` apart, every second row set
    off by one. `reference_mm`: places where they lie open, to know how strong they are in the photo
    """

    step_mm: float = Field(gt=0)
    reference_mm: tuple[RectMm, ...] = ()


class SheetCell(Frozen):
    """`zones`: what lies side by side in a piece laid here, from left to right; empty: one piece of
    as many colours as it has."""

    cell: str
    rect_mm: RectMm
    zones: tuple[str, ...] = Field(default=(), max_length=8)


class Sheet(Frozen):
    """One printed page; the file format `zesty-grid/sheet`, version 1.

    Pages that were printed before have no greys and no pattern, and are read without.
    """

    format: Literal["zesty-grid/sheet"] = "zesty-grid/sheet"
    version: Literal[1] = 1
    id: str
    page_mm: tuple[float, float] = PAGES_MM["A4"]
    markers: tuple[Marker, ...] = Field(min_length=4, max_length=4)
    chart: ChartSlot
    cells: tuple[SheetCell, ...]
    kind: CellKind = "cuttings"
    greys: tuple[GreySpot, ...] = ()
    pattern: Pattern | None = None


def lay_out_sheet(
    sheet_id: str, cell_count: int = 12, kind: CellKind = "cuttings", paper: Paper = "A4", chart: Chart | None = None
) -> Sheet:
    """The sheet with room for `cell_count` pieces; raises Refusal for more than its kind holds."""
    most = MOST_CELLS[kind]
    if not 1 <= cell_count <= most:
        raise Refusal(
            "cells-out-of-range",
            f"A sheet for {kind} holds 1 to {most} swatches.",
            "Use more than one sheet.",
            (Fault(field="cells", given=str(cell_count), allowed=f"1 to {most}", cure="Use more than one sheet."),),
        )
    if not SHEET_ID.fullmatch(sheet_id):
        raise Refusal("sheet-id", "A sheet's name is 1 to 24 letters, digits and hyphens.", "Choose another name.")
    page_mm = PAGES_MM[paper]
    columns, rows = _rows_and_columns(cell_count, kind)
    cells = _cells(cell_count, columns, rows, page_mm)
    if kind == "window":
        cells = [SheetCell(cell="A1", rect_mm=_window(page_mm))]
    greys = (*_greys_round_cells(columns, rows, page_mm), *_greys_round_chart(chart or patch24()))
    return Sheet(
        id=sheet_id,
        page_mm=page_mm,
        markers=_markers(page_mm, FIRST_MARKER[paper]),
        chart=_chart_slot(chart or patch24()),
        cells=tuple(cells),
        kind=kind,
        greys=tuple(greys),
        pattern=None
        if kind == "window"
        else Pattern(step_mm=PATTERN_STEP_MM, reference_mm=_pattern_references(page_mm)),
    )


def no_sheet(sheet_id: str, chart: Chart) -> Sheet:
    """Stands for a sheet where a photo has none: its cells are areas that are drawn by hand."""
    laid = lay_out_sheet(sheet_id, MAX_CELLS, chart=chart)
    cells = tuple(SheetCell(cell=str(number), rect_mm=cell.rect_mm) for number, cell in enumerate(laid.cells, 1))
    return laid.model_copy(update={"kind": "none", "cells": cells, "greys": (), "pattern": None})


def with_chart(sheet: Sheet, chart: Chart) -> Sheet:
    """The sheet with another chart's values; raises Refusal where the chart does not fit it."""
    slot = sheet.chart
    if (slot.rows, slot.columns) != (chart.rows, chart.columns):
        raise Refusal(
            "other-chart",
            f"The sheet was printed for {slot.rows} rows of {slot.columns} patches, the chart has "
            f"{chart.rows} of {chart.columns}.",
            "Print a sheet for this chart.",
        )
    patches = tuple(
        patch.model_copy(update={"name": name}) for patch, name in zip(slot.patches, chart.names, strict=True)
    )
    values = tuple(patch.lab for patch in chart.patches)
    changed = {"name": chart.name, "patches": patches, "values": values}
    return sheet.model_copy(update={"chart": ChartSlot(**(slot.model_dump() | changed))})


def id_rect_mm(page_mm: tuple[float, float]) -> RectMm:
    """Where the square code lies that says which page this is."""
    return (page_mm[0] - ID_FROM_RIGHT_MM, ID_TOP_MM, ID_MM, ID_MM)


def _square(x: float, y: float, size: float) -> tuple[PointMm, PointMm, PointMm, PointMm]:
    return ((x, y), (x + size, y), (x + size, y + size), (x, y + size))


def _markers(page_mm: tuple[float, float], first: int) -> tuple[Marker, ...]:
    near = MARKER_INSET_MM
    right, bottom = (side - near - MARKER_MM for side in page_mm)
    places = ((near, near), (right, near), (right, bottom), (near, bottom))
    return tuple(Marker(id=first + i, corners_mm=_square(x, y, MARKER_MM)) for i, (x, y) in enumerate(places))


def _card_rect(chart: Chart) -> RectMm:
    """The card's place: in the middle of where the common one lies, or from its left when wider."""
    x, y, w, h = CARD_RECT_MM
    width, height = chart.card_mm
    if chart.name == PATCH24:
        return CARD_RECT_MM
    left = x + max(0.0, (w - width) / 2)
    return (round(left, 3), round(y + max(0.0, (h - height) / 2), 3), width, height)


def _chart_slot(chart: Chart) -> ChartSlot:
    x, y, w, h = _card_rect(chart)
    pitch_x, pitch_y = chart.pitch_mm
    first_x = x + (w - (chart.columns - 1) * pitch_x) / 2
    first_y = y + (h - (chart.rows - 1) * pitch_y) / 2
    patches = tuple(
        Patch(
            name=chart.names[row * chart.columns + column],
            centre_mm=(first_x + column * pitch_x, first_y + row * pitch_y),
            size_mm=chart.patch_mm,
        )
        for row in range(chart.rows)
        for column in range(chart.columns)
    )
    return ChartSlot(
        name=chart.name,
        rows=chart.rows,
        columns=chart.columns,
        quad_mm=((x, y), (x + w, y), (x + w, y + h), (x, y + h)),
        patches=patches,
        values=() if chart == patch24() else tuple(patch.lab for patch in chart.patches),
    )


def _rows_and_columns(count: int, kind: CellKind) -> tuple[int, int]:
    if kind in ("large", "window"):
        return 1, 1
    if kind == "hanks":
        return 6, 1
    columns = 6 if count <= 12 else 8
    return columns, max(2, -(-count // columns))


def _pitch(columns: int, rows: int, page_mm: tuple[float, float]) -> tuple[float, float]:
    height = page_mm[1] - BAND_FOOT_MM - GREYS_MM - BAND_TOP_MM
    return (page_mm[0] - 2 * BAND_SIDE_MM) / columns, height / rows


def _cells(count: int, columns: int, rows: int, page_mm: tuple[float, float]) -> list[SheetCell]:
    pitch_x, pitch_y = _pitch(columns, rows, page_mm)
    return [
        SheetCell(
            cell=f"{'ABCD'[i // columns]}{i % columns + 1}",
            rect_mm=(
                round(BAND_SIDE_MM + (i % columns) * pitch_x + CELL_GAP_MM / 2, 3),
                round(BAND_TOP_MM + (i // columns) * pitch_y + CELL_HEAD_MM, 3),
                round(pitch_x - CELL_GAP_MM, 3),
                round(pitch_y - CELL_HEAD_MM - CELL_FOOT_MM, 3),
            ),
        )
        for i in range(count)
    ]


def _window(page_mm: tuple[float, float]) -> RectMm:
    """The part that is cut out, with paper all round, to lay the page on a garment."""
    width, height = WINDOW_MM
    middle = (BAND_TOP_MM + page_mm[1] - BAND_FOOT_MM) / 2
    return (round((page_mm[0] - width) / 2, 3), round(middle - height / 2, 3), width, height)


def _greys_round_cells(columns: int, rows: int, page_mm: tuple[float, float]) -> list[GreySpot]:
    """A strip of greys above each row of cells and one below the last; three to a cell's width."""
    pitch_x, pitch_y = _pitch(columns, rows, page_mm)
    each = max(1, round(pitch_x / 40)) * len(GREY_LEVELS)
    step = (pitch_x - CELL_GAP_MM) / each
    size = min(5.0, 0.7 * step)
    return [
        GreySpot(
            rect_mm=(
                round(BAND_SIDE_MM + column * pitch_x + CELL_GAP_MM / 2 + (n + 0.5) * step - size / 2, 3),
                round(BAND_TOP_MM + row * pitch_y, 3),
                round(size, 3),
                GREYS_MM,
            ),
            level=(n + row) % len(GREY_LEVELS),
        )
        for row in range(rows + 1)
        for column in range(columns)
        for n in range(each)
    ]


def _greys_round_chart(chart: Chart) -> list[GreySpot]:
    """Beside the card, clear of where it may lie 3 mm and 3° off."""
    y = CARD_RECT_MM[1]
    x, _, w, _ = _card_rect(chart)
    x = min(x, CARD_RECT_MM[0]) if chart.name == PATCH24 else CARD_RECT_MM[0]
    w = max(w, CARD_RECT_MM[2])
    spots = []
    for i in range(9):
        level = i % len(GREY_LEVELS)
        if i > 2:
            spots.append(GreySpot(rect_mm=(x - 10.5, y + 1.5 + i * 7, 3.0, 5.0), level=level))
        spots.append(GreySpot(rect_mm=(x + w + 7.5, y + 1.5 + i * 7, 3.0, 5.0), level=level))
    return spots


def _pattern_references(page_mm: tuple[float, float]) -> tuple[RectMm, ...]:
    """Open pieces of the pattern in both side margins."""
    right = page_mm[0] - BAND_SIDE_MM + 6
    return tuple((x, y, 14.0, 14.0) for y in (100.0, 160.0) for x in (10.0, right))
