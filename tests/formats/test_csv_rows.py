"""Tables of text: separators, and line ends as RFC 4180 and others have them."""

import csv

import pytest

from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.csv_rows import csv_rows, separator_of


@pytest.mark.parametrize("end", ["\r\n", "\n", "\r"])
def test_lines_end_in_any_way(end: str):
    assert csv_rows(f'a,b{end}1,"x, y"{end}', ",") == [["a", "b"], ["1", "x, y"]]


def test_what_is_no_table_is_refused():
    whole = csv.field_size_limit(1000)
    try:
        with pytest.raises(Refusal, match="cannot be read"):
            csv_rows('"' + "x" * 2000, ",")
    finally:
        csv.field_size_limit(whole)


@pytest.mark.parametrize(
    ("text", "separator"),
    [
        ("name;L*;a*;b*\nred;40,1;30,2;10,3\nblue;20,5;1,0;-20,1\n", ";"),
        ("Serial 12, made in spring\ntime\tlux\n9:00\t1,200\n9:05\t1,300\n", "\t"),
        ("name,L*,a*\nred,40.1,30\n", ","),
        ("time|lux\n1|2\n", "|"),
        ("alone\n", "\t"),
        ("", "\t"),
    ],
)
def test_the_separator_is_what_lines_hold_equally_often(text: str, separator: str):
    assert separator_of(text, 40) == separator
