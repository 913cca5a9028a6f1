"""A chart's layout and values from a file: the project's own JSON, CGATS text or CSV."""

import json
import math

import numpy as np
from pydantic import ValidationError

from zesty_grid.core.read.chart import Chart, ChartPatch
from zesty_grid.core.read.colour_space import xyz_to_lab
from zesty_grid.core.read.colour_table import ColourRow, ColourTable
from zesty_grid.core.read.spectra import spectrum_lab
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.cgats import read_colour_table

USUAL_PITCH_MM, PATCH_SHARE = 16.0, 0.84
ROOM_MM = (194.0, 66.0)
CELL_NAME_LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"


def read_chart(
    text: str, name: str, columns: int = 0, pitch_mm: float | None = None, patch_mm: float | None = None
) -> Chart:
    """`columns` of a table's patches; 0: as their names say (A1, A2 … B1), else rows of six.
    `pitch_mm` from middle to middle and `patch_mm`: as measured; None: as large as fits.

    Raises Refusal with what is wrong.
    """
    if text.lstrip()[:1] == "{":
        try:
            return Chart.model_validate(json.loads(text))
        except (ValidationError, json.JSONDecodeError) as error:
            raise _wrong(error) from error
    table = read_colour_table(text)
    other_light = (table.illuminant or "D50", table.observer or "2") != ("D50", "2")
    if other_light and not table.wavelengths_nm:
        raise Refusal(
            "other-light",
            f"The chart's values are for {table.illuminant or 'D50'} and the {table.observer or '2'}° observer.",
            "Give values for D50 and the 2° observer, or spectra.",
        )
    wide = columns or _columns(table)
    patches = [ChartPatch(name=row.name, lab=_lab(row, table)) for row in table.rows]
    rows = math.ceil(len(patches) / wide)
    # A table does not say how large the card is: as large as fits, up to the common one's patches.
    pitch = min(USUAL_PITCH_MM, ROOM_MM[0] / wide, ROOM_MM[1] / rows)
    pitch = pitch_mm or math.floor(10 * pitch) / 10
    size = patch_mm or round(PATCH_SHARE * pitch, 1)
    try:
        return Chart(
            name=name, rows=rows, columns=wide, pitch_mm=(pitch, pitch), patch_mm=(size, size), patches=tuple(patches)
        )
    except ValidationError as error:
        raise _wrong(error) from error


def _columns(table: ColourTable) -> int:
    """How many patches share the first one's letter; six where the names do not say."""
    first = table.rows[0].name[:1].upper()
    if first in CELL_NAME_LETTERS and table.rows[0].name[1:].isdigit():
        return sum(row.name[:1].upper() == first for row in table.rows)
    return 6


def _lab(row: ColourRow, table: ColourTable) -> tuple[float, float, float]:
    if row.reflectance:
        return spectrum_lab(table.wavelengths_nm, row.reflectance)
    if row.lab:
        return row.lab
    lab = xyz_to_lab(np.array(row.xyz) / 100)
    return (float(lab[0]), float(lab[1]), float(lab[2]))


def _wrong(error: Exception) -> Refusal:
    if isinstance(error, ValidationError):
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"])
        said = str(first["msg"]).removeprefix("Value error, ")
        return Refusal("chart-file", f"{where}: {said}." if where else f"{said}.", "Mend the file.")
    return Refusal("chart-file", "The chart's file is no JSON.", "Write it out again.")
