"""Reads a spreadsheet (XLSX) or a text table (CSV, TSV) as cells of text."""

import io
import zipfile
from datetime import date, datetime
from typing import Any

from zesty_grid.core.entered.columns import MOST_COLUMNS, MOST_LETTERS, MOST_ROWS, EnteredTable
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.formats.csv_rows import csv_rows, separator_of
from zesty_grid.formats.spreadsheet_text import as_it_was

MOST_BYTES = 20 * 2**20
MOST_UNPACKED = 200 * 2**20
ZIP_START = b"PK\x03\x04"


def read_table_file(data: bytes, filename: str) -> EnteredTable:
    """The first sheet that holds anything; its first row that holds anything is the header.

    Raises Refusal for what is no table, is too large, or was made by a program of before 2007.
    """
    if len(data) > MOST_BYTES:
        raise _refused(
            "table-too-large",
            f"The file is larger than {MOST_BYTES >> 20} MB.",
            "Save the part with the swatches by itself.",
        )
    if data.startswith(b"\xd0\xcf\x11\xe0"):
        raise _refused("old-spreadsheet", "This spreadsheet is of a kind from before 2007.", "Save it as XLSX or CSV.")
    rows = _of_spreadsheet(data) if data.startswith(ZIP_START) else _of_text(data)
    rows = [row for row in rows if any(cell.strip() for cell in row)]
    if len(rows) < 2:
        raise _refused(
            "no-table",
            "This file holds no table: a header and a row at least.",
            "Choose a CSV or XLSX file whose first row names its columns.",
        )
    width = max(len(row) for row in rows)
    if len(rows) - 1 > MOST_ROWS or width > MOST_COLUMNS:
        raise _refused(
            "table-too-large",
            f"The table has {len(rows) - 1} rows and {width} columns.",
            f"Enter it in parts: at most {MOST_ROWS} rows and {MOST_COLUMNS} columns.",
        )
    long = next(((i, j) for i, row in enumerate(rows) for j, cell in enumerate(row) if len(cell) > MOST_LETTERS), None)
    if long:
        place = f"row {long[0] + 1}, column {long[1] + 1}"
        raise Refusal(
            "cell-too-long",
            f"{place} holds more than {MOST_LETTERS} letters.",
            "Shorten it.",
            (
                Fault(
                    field=place,
                    given=rows[long[0]][long[1]][:40],
                    allowed=f"{MOST_LETTERS} letters",
                    cure="Shorten it.",
                ),
            ),
        )
    header, *below = [row + [""] * (width - len(row)) for row in rows]
    return EnteredTable(filename=filename[:200], headers=tuple(header), rows=tuple(map(tuple, below)))


def _of_spreadsheet(data: bytes) -> list[list[str]]:
    # Only where it is needed: it takes a third of a second to load.
    from openpyxl import load_workbook

    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            if sum(one.file_size for one in packed.infolist()) > MOST_UNPACKED:
                raise _refused(
                    "table-too-large", "The spreadsheet is too large.", "Save the part with the swatches by itself."
                )
        book = load_workbook(io.BytesIO(data), read_only=True, data_only=True)
        for sheet in book.worksheets:
            rows = [
                [_text(cell) for cell in row]
                for row in sheet.iter_rows(max_row=MOST_ROWS + 20, max_col=MOST_COLUMNS + 1, values_only=True)
            ]
            if any(cell for row in rows for cell in row):
                return [_without_tail(row) for row in rows]
    except Refusal:
        raise
    except Exception as error:  # whatever a damaged spreadsheet does to the library
        raise _refused(
            "broken-spreadsheet",
            "The spreadsheet is damaged, or is none.",
            "Open it in the program that made it, and save it as CSV.",
        ) from error
    return []


def _text(cell: Any) -> str:
    if cell is None:
        return ""
    if isinstance(cell, datetime):
        return cell.date().isoformat()
    if isinstance(cell, date):
        return cell.isoformat()
    if isinstance(cell, float):
        return f"{cell:.10g}"
    return as_it_was(str(cell))


def _without_tail(row: list[str]) -> list[str]:
    while row and not row[-1]:
        row = row[:-1]
    return row


def _of_text(data: bytes) -> list[list[str]]:
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        try:
            text = data.decode("cp1252")  # what older spreadsheets write
        except UnicodeDecodeError as error:
            raise _refused("no-table", "This is no text, and no spreadsheet.", "Choose a CSV or XLSX file.") from error
    if "\0" in text:
        raise _refused("no-table", "This is no text, and no spreadsheet.", "Choose a CSV or XLSX file.")
    rows = csv_rows(text, separator_of(text, 40))
    return [_without_tail([as_it_was(cell) for cell in row]) for row in rows]


def _refused(code: str, reason: str, cure: str) -> Refusal:
    return Refusal(code, reason, cure)
