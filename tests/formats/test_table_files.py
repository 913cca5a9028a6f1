"""Spreadsheets and text tables as people have them."""

import io
import zipfile
from datetime import date

import openpyxl
import pytest
from hypothesis import given
from hypothesis import strategies as st

from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.table_file import read_table_file

TABLE = [["Name", "Colour"], ["A1", "#8a5a2b"], ["Ä2", "#6d4a2a"]]


def spreadsheet(rows, *before) -> bytes:
    book = openpyxl.Workbook()
    for sheet in before:
        book.create_sheet(sheet, 0)
    for row in rows:
        book.worksheets[-1].append(row)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def text(separator: str, code: str = "utf-8") -> bytes:
    return "\r\n".join(separator.join(row) for row in TABLE).encode(code)


@pytest.mark.parametrize(
    "data",
    [
        text(","),
        text(";"),
        text("\t"),
        text(";", "utf-8-sig"),
        text(";", "cp1252"),
        spreadsheet(TABLE),
        spreadsheet(TABLE, "Empty"),
        spreadsheet([[], [None, None], *TABLE]),
    ],
)
def test_the_same_table_however_it_was_saved(data):
    table = read_table_file(data, "swatches")
    assert table.headers == ("Name", "Colour")
    assert table.rows == (("A1", "#8a5a2b"), ("Ä2", "#6d4a2a"))


def test_numbers_and_days_of_a_spreadsheet_are_text_that_reads_the_same():
    rows = [["n", "day", "share"], [50, date(2023, 11, 3), 0.1 + 0.2]]
    assert read_table_file(spreadsheet(rows), "").rows == (("50", "2023-11-03", "0.3"),)


def test_a_formula_gives_its_value_and_never_itself():
    rows = [["Name", "Sum"], ["A1", "=1+1"]]
    assert read_table_file(spreadsheet(rows), "").rows == (("A1", ""),)


def test_short_rows_are_filled_and_empty_ones_left_out():
    table = read_table_file(b"a,b,c\n1\n\n,,\n4,5,6\n", "t.csv")
    assert table.rows == (("1", "", ""), ("4", "5", "6"))


def bomb() -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr("xl/workbook.xml", b"0" * (201 * 2**20))
    return out.getvalue()


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (b"", "no-table"),
        (b"only a header", "no-table"),
        (b"\xd0\xcf\x11\xe0rest", "old-spreadsheet"),
        (b"PK\x03\x04 broken", "broken-spreadsheet"),
        (b"a,b\n\0,1", "no-table"),
        (b"a\n" + b"1\n" * 2001, "table-too-large"),
        (b"a,b\n" + b"x" * 2001 + b",1", "cell-too-long"),
        (b",".join([b"a"] * 61) + b"\n1", "table-too-large"),
        (bomb, "table-too-large"),
    ],
)
def test_what_is_no_table_is_said(data, code):
    content = data() if callable(data) else data
    with pytest.raises(Refusal) as refused:
        read_table_file(content, "")
    assert refused.value.code == code
    assert refused.value.cure


@given(st.binary(max_size=300))
def test_any_bytes_are_a_table_or_refused(data):
    for start in (b"", b"PK\x03\x04", b"a,b\n"):
        try:
            table = read_table_file(start + data, "")
        except Refusal:
            continue
        assert all(len(row) == len(table.headers) for row in table.rows)
