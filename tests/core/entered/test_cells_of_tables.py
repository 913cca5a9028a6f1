"""What people write in tables: numbers, days, colours, names of columns."""

from datetime import date

import colour
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from zesty_grid.core.entered.cells import Unclear, colour_in, day_in, number_in
from zesty_grid.core.entered.columns import EnteredTable, guessed_roles
from zesty_grid.core.entered.on_shelf import class_of, new_key
from zesty_grid.core.shelf.items import Key


@pytest.mark.parametrize(("cell", "value"), [("54,3", 54.3), ("54.3", 54.3), (" -4 ", -4), ("50 %", 50), ("+7", 7)])
def test_numbers_with_point_or_comma_and_a_unit(cell, value):
    assert number_in(cell, -100, 100, "a number") == value


@pytest.mark.parametrize("cell", ["", "1.234,5", "about 5", "1e3", "nan", "101", "5 6"])
def test_what_is_no_number_is_not_guessed(cell):
    with pytest.raises(Unclear):
        number_in(cell, -100, 100, "a number")


@pytest.mark.parametrize("cell", ["2023-11-03", "3.11.2023", "2023-11-03T00:00:00", "2023-11-03 14:00", "3. 11. 2023"])
def test_days_as_people_write_them(cell):
    assert day_in(cell) == date(2023, 11, 3)


def test_a_day_that_could_be_two_is_asked():
    assert day_in("25/11/2023") == day_in("11/25/2023") == date(2023, 11, 25)
    assert day_in("4/4/2023") == date(2023, 4, 4)
    with pytest.raises(Unclear, match="which of 3 and 11"):
        day_in("3/11/2023")
    for cell in ("31.2.2023", "yesterday", "2023"):
        with pytest.raises(Unclear):
            day_in(cell)


@pytest.mark.parametrize("code", ["#8a5a2b", "FFFFFF", "000000", "#c9a13b"])
def test_hex_is_the_colour_that_colour_science_gives(code):
    """Reference: colour-science, sRGB (IEC 61966-2-1), Bradford to D50."""
    rgb = np.array([int(code.lstrip("#")[i : i + 2], 16) / 255 for i in (0, 2, 4)])
    d50 = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D50"]
    xyz = colour.RGB_to_XYZ(
        rgb, colour.RGB_COLOURSPACES["sRGB"], d50, chromatic_adaptation_transform="Bradford", apply_cctf_decoding=True
    )
    assert np.allclose(colour_in(code), colour.XYZ_to_Lab(xyz, d50), atol=0.05)


@pytest.mark.parametrize("cell", ["brown", "#8a5", "8a5a2g", "#8a5a2b00"])
def test_what_is_no_hex_is_refused(cell):
    with pytest.raises(Unclear):
        colour_in(cell)


def test_columns_are_guessed_by_headers_and_cells():
    headers = ("No", "Yarn", "Mordant", "Plant", "% WOF", "pH", "L*", "a*", "b*", "±", "Read on", "How", "Shelf mark")
    rows = (("1", "wool", "alum", "weld", "50", "7", "70", "1", "2", "2", "2023-01-01", "hot", "X"),)
    assert guessed_roles(EnteredTable(headers=headers, rows=rows)) == (
        "name",
        "fibre",
        "mordant",
        "dye",
        "strength",
        "ph",
        "lightness",
        "a",
        "b",
        "doubt",
        "day",
        "recipe",
        "leave",
    )


def test_a_colour_column_is_one_only_where_it_holds_hex():
    def role(*cells: str) -> str:
        table = EnteredTable(headers=("Colour",), rows=tuple((cell,) for cell in cells))
        return guessed_roles(table)[0]

    assert role("#8a5a2b", "6d4a2a") == "hex"
    assert role("#8a5a2b", "brown") == "hex"  # the odd one is then named
    assert role("brown", "dull red") == "leave"


def test_a_fibre_tells_its_class_by_its_name_or_is_asked():
    """Common knowledge of textile fibres."""
    assert class_of("Merino wool, 4-ply") == "protein"
    assert class_of("Cotton sheet") == "cellulose"
    assert class_of("Silk and linen") is None
    assert class_of("Grandma's skein") is None


@given(st.lists(st.text(max_size=60), max_size=8))
def test_keys_are_such_as_the_shelf_takes_and_each_is_new(names):
    taken: set[str] = set()
    for name in names:
        key = new_key(name, taken)
        assert key not in taken
        assert TypeAdapter(Key).validate_python(key) == key
        taken.add(key)
