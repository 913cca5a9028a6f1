"""Tables of colours as text, charts from files, and spectra to colours."""

import json

import numpy as np
import pytest

from zesty_grid.core.read.colour_table import ColourRow, ColourTable
from zesty_grid.core.read.patch24 import WAVELENGTHS_NM, patch24_spectra, patch24_xyz
from zesty_grid.core.read.spectra import spectrum_lab, spectrum_xyz
from zesty_grid.core.refusal import Refusal
from zesty_grid.demo.station_chart import station_chart, station_spectra
from zesty_grid.formats.cgats import read_colour_table, write_cgats
from zesty_grid.formats.chart_file import read_chart

NM = [float(nm) for nm in WAVELENGTHS_NM]
# XYZ of the perfect diffuser, ASTM E308-01, tables of tristimulus weighting factors.
WHITES = {
    ("D50", "2"): (96.422, 82.521),
    ("D65", "2"): (95.047, 108.883),
    ("D65", "10"): (94.811, 107.304),
    ("A", "2"): (109.850, 35.585),
    ("D50", "10"): (96.720, 81.427),
    ("A", "10"): (111.144, 35.200),
}


@pytest.mark.parametrize(("light", "white"), WHITES.items())
def test_the_perfect_diffuser_has_the_published_white(light, white):
    illuminant, observer = light
    nm = np.arange(360, 781, 10)
    x, y, z = 100 * spectrum_xyz(nm, np.ones(len(nm)), illuminant, observer)
    assert y == pytest.approx(100, abs=0.01)
    assert (x, z) == pytest.approx(white, abs=0.06)
    assert spectrum_lab(nm, np.full(len(nm), 0.184), illuminant, observer) == pytest.approx(
        (49.98, 0, 0), abs=0.1
    )  # L* of 18.4 % is 50 (CIE 15)


def test_spectra_of_the_common_chart_give_its_colours():
    for spectrum, xyz in zip(patch24_spectra(), patch24_xyz(), strict=True):
        np.testing.assert_allclose(spectrum_xyz(NM, spectrum), xyz, atol=0.002)


@pytest.mark.parametrize(
    ("nm", "words"),
    [
        (np.arange(500, 701, 10), "visible"),
        (np.arange(380, 731, 35), "far apart"),
        (np.arange(730, 379, -10), "visible|order"),
    ],
)
def test_spectra_that_say_too_little_are_refused(nm, words):
    with pytest.raises(Refusal, match=words):
        spectrum_xyz(nm, np.full(len(nm), 0.5))


def a_table() -> ColourTable:
    rows = tuple(
        ColourRow(name=f"JT{i}", lab=(50.0 + i, 1.5, -2.25), reflectance=tuple(station_spectra()[i])) for i in range(5)
    )
    return ColourTable(rows=rows, wavelengths_nm=tuple(NM), illuminant="D50", observer="2")


def test_cgats_goes_out_and_comes_back():
    again = read_colour_table(write_cgats(a_table(), "swatches"))
    assert (again.illuminant, again.observer) == ("D50", "2")
    for there, here in zip(again.rows, a_table().rows, strict=True):
        assert there.name == here.name
        assert there.lab == pytest.approx(here.lab, abs=1e-4)
        assert there.reflectance == pytest.approx(here.reflectance, abs=1e-4)


CGATS = """CGATS.17
ORIGINATOR "some instrument"
WEIGHTING_FUNCTION "ILLUMINANT, D65"
WEIGHTING_FUNCTION "OBSERVER, 10 degree"
NUMBER_OF_FIELDS 5
BEGIN_DATA_FORMAT
SAMPLE_ID SAMPLE_NAME LAB_L LAB_A
LAB_B
END_DATA_FORMAT
NUMBER_OF_SETS 2
BEGIN_DATA
1 "RF3X dark" 52.1 10.0 -3.5
2 JTMY 70.25 1.5 44.0
END_DATA
"""


def test_cgats_of_another_writer_is_read_with_its_light_and_observer():
    table = read_colour_table(CGATS)
    assert (table.illuminant, table.observer) == ("D65", "10")
    assert [row.name for row in table.rows] == ["RF3X dark", "JTMY"]
    assert table.rows[0].lab == (52.1, 10.0, -3.5)


@pytest.mark.parametrize(
    "text",
    [
        "Name,L*,a*,b*\nJTMY,70.25,1.5,44\n",
        "name;L;a;b\nJTMY;70,25;1,5;44\n",
        "SWATCH\tLab_L\tLab_a\tLab_b\nJTMY\t70.25\t1.5\t44\n",
    ],
)
def test_csv_is_read_however_it_is_separated(text):
    (row,) = read_colour_table(text).rows
    assert row.name == "JTMY"
    assert row.lab == (70.25, 1.5, 44.0)


def test_spectra_in_per_cent_are_taken_as_such():
    head = ",".join(["name", *(f"{nm:.0f} nm" for nm in NM)])
    line = ",".join(["JTMY", *(f"{100 * v:.3f}" for v in station_spectra()[3])])
    (row,) = read_colour_table(f"{head}\n{line}\n").rows
    assert row.reflectance == pytest.approx(tuple(station_spectra()[3]), abs=1e-4)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "no samples"),
        ("a,b\n1,2\n", "no columns"),
        ("name,L,a,b\nX,1,2,\n", "missing or no number"),
        ("name,L,a,b\nX,1,2,nan\n", "no number"),
        (CGATS.replace('"RF3X dark"', '"RF3X dark'), "quotation mark"),
        (CGATS.replace(" -3.5", ""), "missing"),
        ("BEGIN_DATA\nEND_DATA\n", "no samples"),
        ("\0\1\2", "no samples|no columns"),
    ],
)
def test_what_is_no_table_of_colours_is_refused_in_words(text, words):
    with pytest.raises(Refusal, match=words) as refused:
        read_colour_table(text)
    assert refused.value.cure


def as_cgats() -> str:
    chart = station_chart()
    rows = tuple(ColourRow(name=p.name, lab=p.lab) for p in chart.patches)
    return write_cgats(ColourTable(rows=rows, illuminant="D50", observer="2"), "forty")


def test_a_chart_comes_from_cgats_from_spectra_and_from_its_own_json():
    from_text = read_chart(as_cgats(), "Forty")
    assert (from_text.rows, from_text.columns) == (5, 8)
    np.testing.assert_allclose(from_text.lab, station_chart().lab, atol=1e-3)
    rows = tuple(
        ColourRow(name=p.name, reflectance=tuple(s))
        for p, s in zip(station_chart().patches, station_spectra(), strict=True)
    )
    spectral = write_cgats(ColourTable(rows=rows, wavelengths_nm=tuple(NM)), "forty")
    np.testing.assert_allclose(read_chart(spectral, "Forty").lab, station_chart().lab, atol=0.15)
    assert read_chart(station_chart().model_dump_json(), "any") == station_chart()


def test_values_for_another_light_are_not_mixed_in():
    with pytest.raises(Refusal, match="D65 and the 10° observer"):
        read_chart(CGATS, "other")


@pytest.mark.parametrize("text", ["{", json.dumps({"name": "x"}), '{"rows": "many"}'])
def test_broken_chart_files_are_refused(text):
    with pytest.raises(Refusal):
        read_chart(text, "x")


@pytest.mark.parametrize(
    "text",
    [
        "name,L,a,b\nx,1e9,1,1\n",
        "name,L,a,b\nx,1e300,1,1\n",
        "name,L,a,b\nx,-50,0,0\n",
        "name,L,a,b\nx,50,900,0\n",
        "name,X,Y,Z\nx,-5,-5,-5\n",
        "name,X,Y,Z\nx,1e200,1,1\n",
        f"name,{','.join(map(str, range(400, 701, 10)))}\nx,{','.join(['1e10'] * 31)}\n",
        f"name,{','.join(map(str, range(400, 701, 10)))}\nx,{','.join(['-0.5'] * 31)}\n",
        f"name,L,a,b\n{'y' * 1000},1,2,3\n",
    ],
)
def test_values_that_no_cloth_has_are_refused_with_their_sample(text):
    with pytest.raises(Refusal) as refused:
        read_colour_table(text)
    assert "ample 1" in str(refused.value)


@pytest.mark.parametrize(
    "text",
    [
        "JT1\t72.3\t3.1\t40.2\nJT2\t70.1\t2\t-38\n",
        "JT1\t72,3\t3,1\t40,2\r\nJT2\t70,1\t2\t-38\r\n",
        "JT1;72,3;3,1;40,2\nJT2;70,1;2;-38",
    ],
)
def test_columns_pasted_without_headings_are_a_code_and_its_colour(text):
    table = read_colour_table(text)
    assert [(row.name, row.lab) for row in table.rows] == [("JT1", (72.3, 3.1, 40.2)), ("JT2", (70.1, 2.0, -38.0))]


def test_four_columns_of_numbers_are_no_colours():
    with pytest.raises(Refusal, match="no columns of L"):
        read_colour_table("1\t72.3\t3.1\t40.2\n2\t70.1\t2\t38")
