"""Where everything lies on the printed sheet: A4 landscape, origin top left, y down, mm."""

import re
from typing import Literal

from pydantic import Field

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.patch24 import COLUMNS, PATCH_NAMES, ROWS
from zesty_grid.core.refusal import Fault, Refusal

PointMm = tuple[float, float]
RectMm = tuple[float, float, float, float]

PAGE_MM = (297.0, 210.0)
MARKER_MM = 16.0
MARKER_INSET_MM = 8.0
CARD_RECT_MM: RectMm = (31.0, 11.0, 100.0, 68.0)
PATCH_PITCH_MM = 16.0
PATCH_MM = 13.5
ID_RECT_MM: RectMm = (241.0, 9.0, 26.0, 26.0)
CELL_BAND_MM: RectMm = (30.0, 96.0, 237.0, 106.0)
CELL_GAP_MM = 4.5
CELL_LABEL_MM = 8.0
MAX_CELLS = 24
SHEET_ID = re.compile(r"[A-Za-z0-9-]{1,24}")


class Marker(Frozen):
    """A coded square; corners clockwise from its own top left."""

    id: int
    corners_mm: tuple[PointMm, PointMm, PointMm, PointMm]


class Patch(Frozen):
    name: str
    centre_mm: PointMm
    size_mm: tuple[float, float]


class ChartSlot(Frozen):
    name: Literal["patch24"] = "patch24"
    rows: int = ROWS
    columns: int = COLUMNS
    quad_mm: tuple[PointMm, PointMm, PointMm, PointMm]
    patches: tuple[Patch, ...] = Field(min_length=24, max_length=24)


class SheetCell(Frozen):
    cell: str
    rect_mm: RectMm


class Sheet(Frozen):
    """One printed page; the file format `zesty-grid/sheet`, version 1."""

    format: Literal["zesty-grid/sheet"] = "zesty-grid/sheet"
    version: Literal[1] = 1
    id: str
    page_mm: tuple[float, float] = PAGE_MM
    markers: tuple[Marker, ...] = Field(min_length=4, max_length=4)
    chart: ChartSlot
    cells: tuple[SheetCell, ...]


def lay_out_sheet(sheet_id: str, cell_count: int = 12) -> Sheet:
    """The sheet with room for `cell_count` swatches (1 to 24); raises Refusal outside of that."""
    if not 1 <= cell_count <= MAX_CELLS:
        raise Refusal(
            "cells-out-of-range",
            f"A sheet holds 1 to {MAX_CELLS} swatches.",
            "Use more than one sheet.",
            (Fault(field="cells", given=str(cell_count), allowed=f"1 to {MAX_CELLS}",
                   cure="Use more than one sheet."),),
        )  # fmt: skip
    if not SHEET_ID.fullmatch(sheet_id):
        raise Refusal(
            "sheet-id",
            "A sheet's name is 1 to 24 letters, digits and hyphens.",
            "Choose another name.",
        )
    return Sheet(
        id=sheet_id, markers=_markers(), chart=_chart_slot(), cells=tuple(_cells(cell_count))
    )


def _square(x: float, y: float, size: float) -> tuple[PointMm, PointMm, PointMm, PointMm]:
    return ((x, y), (x + size, y), (x + size, y + size), (x, y + size))


def _markers() -> tuple[Marker, ...]:
    near = MARKER_INSET_MM
    right, bottom = (side - near - MARKER_MM for side in PAGE_MM)
    places = ((near, near), (right, near), (right, bottom), (near, bottom))
    return tuple(
        Marker(id=i, corners_mm=_square(x, y, MARKER_MM)) for i, (x, y) in enumerate(places)
    )


def _chart_slot() -> ChartSlot:
    x, y, w, h = CARD_RECT_MM
    first_x = x + (w - (COLUMNS - 1) * PATCH_PITCH_MM) / 2
    first_y = y + (h - (ROWS - 1) * PATCH_PITCH_MM) / 2
    patches = tuple(
        Patch(
            name=PATCH_NAMES[row * COLUMNS + column],
            centre_mm=(first_x + column * PATCH_PITCH_MM, first_y + row * PATCH_PITCH_MM),
            size_mm=(PATCH_MM, PATCH_MM),
        )
        for row in range(ROWS)
        for column in range(COLUMNS)
    )
    return ChartSlot(quad_mm=((x, y), (x + w, y), (x + w, y + h), (x, y + h)), patches=patches)


def _cells(count: int) -> list[SheetCell]:
    columns = 6 if count <= 12 else 8
    rows = max(2, -(-count // columns))
    x0, y0, band_w, band_h = CELL_BAND_MM
    pitch_x, pitch_y = band_w / columns, band_h / rows
    width, height = pitch_x - CELL_GAP_MM, pitch_y - CELL_LABEL_MM - 2
    return [
        SheetCell(
            cell=f"{'ABCD'[i // columns]}{i % columns + 1}",
            rect_mm=(
                round(x0 + (i % columns) * pitch_x + CELL_GAP_MM / 2, 3),
                round(y0 + (i // columns) * pitch_y + CELL_LABEL_MM, 3),
                round(width, 3),
                round(height, 3),
            ),
        )
        for i in range(count)
    ]
