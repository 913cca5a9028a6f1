"""Files of instruments: whose reading each sample is, under which light, and how sure."""

import numpy as np
import pytest
from tests.cloth_spectra import NM

from zesty_grid.core.read.cloth_readings import ClothReading, mean_colour, tile_drift
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_table import ColourRow, ColourTable
from zesty_grid.core.read.difference_uncertainty import Seen, difference_uncertainty
from zesty_grid.core.read.instrument import OURS, SampleNamed, ViewedUnder, as_named, named_swatch, samples_of
from zesty_grid.core.read.instrument_agreement import BothRead, agreements
from zesty_grid.core.read.spectra import spectrum_lab
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.cgats import read_colour_table
from zesty_grid.standins.spectrophotometer import Spectrophotometer

CODES = ("JTMY", "RF3X", "MKTA")
RED = 0.05 + 0.5 / (1 + np.exp(-(NM - 600) / 15))
D65_10 = ViewedUnder(illuminant="D65", observer="10")


def table_of(*rows: ColourRow, **said) -> ColourTable:
    return ColourTable(rows=rows, **said)


@pytest.mark.parametrize(
    ("name", "found"),
    [
        ("JTMY", ("JTMY", "whole")),
        ("wool jtmy", ("JTMY", "whole")),
        ("MKTA-2 exposed", ("MKTA", "light")),
        ("RF3X covered half", ("RF3X", "dark")),
        ("JTM", (None, "whole")),
        ("weld on silk", (None, "whole")),
    ],
)
def test_a_sample_is_known_by_the_code_in_its_name(name, found):
    assert named_swatch(name, CODES) == found


def test_places_of_one_swatch_are_one_sample_with_their_spread():
    text = Spectrophotometer(places=5, uneven=0.03).export({"JTMY": RED, "MKTA": 0.5 + 0 * RED})
    first, second = samples_of(read_colour_table(text), CODES)
    assert (first.swatch, second.swatch, first.repeats) == ("JTMY", "MKTA", 5)
    truth = spectrum_lab(tuple(NM), tuple(RED))
    assert delta_e_2000(np.array(first.lab), np.array(truth)) < 2 * first.uncertainty_de00
    assert 0.3 < first.uncertainty_de00 < 0.8
    assert first.spread_de00 > 0.3
    assert first.warnings == ()


def test_spectra_give_d50_whatever_light_the_file_s_own_values_are_for():
    text = Spectrophotometer(noise=0, uneven=0, zero=0, places=1).export({"JTMY": RED}, "D65", "10")
    (one,) = samples_of(read_colour_table(text), CODES)
    assert one.lab == pytest.approx(spectrum_lab(tuple(NM), tuple(RED)), abs=0.05)
    assert one.given_lab == pytest.approx(spectrum_lab(tuple(NM), tuple(RED), "D65", "10"), abs=0.05)
    assert one.given_under == "D65/10°"


def test_values_for_another_light_without_spectra_stay_apart():
    text = Spectrophotometer().export({"JTMY": RED}, "D65", "10", with_spectra=False)
    (one,) = samples_of(read_colour_table(text), CODES)
    assert one.lab is None
    assert one.hex == ""
    assert one.given_under == "D65/10°"


def test_a_file_that_names_no_light_has_to_be_asked_about():
    table = table_of(ColourRow(name="JTMY", lab=(50, 20, 10)))
    with pytest.raises(Refusal) as refused:
        samples_of(table, CODES)
    assert refused.value.code == "which-light"
    assert samples_of(table, CODES, OURS)[0].lab == (50, 20, 10)
    assert samples_of(table, CODES, D65_10)[0].lab is None


def test_xyz_is_referred_to_the_white_of_its_own_light():
    """The perfect diffuser is L* 100, a* 0, b* 0 in any light; white points of D65 and 10° from
    CIE 15:2004, table T.3."""
    white = table_of(ColourRow(name="JTMY", xyz=(94.81, 100.0, 107.32)))
    (one,) = samples_of(white, CODES, D65_10)
    assert one.given_lab == pytest.approx((100, 0, 0), abs=0.05)


def test_a_file_whose_values_are_not_those_of_its_spectra_is_told():
    lab = spectrum_lab(tuple(NM), tuple(RED), "D65", "10")
    row = ColourRow(name="JTMY", lab=lab, reflectance=tuple(RED))
    table = table_of(row, wavelengths_nm=tuple(NM), illuminant="D50", observer="2")
    (one,) = samples_of(table, CODES)
    assert "the spectrum is used" in one.warnings[0]
    assert one.lab == pytest.approx(spectrum_lab(tuple(NM), tuple(RED)))


def test_a_light_that_is_not_known_is_refused():
    row = ColourRow(name="JTMY", lab=(50, 0, 0))
    with pytest.raises(Refusal, match="not known here"):
        samples_of(table_of(row, illuminant="D93", observer="2"), CODES)


def test_what_a_person_says_of_a_sample_stands_before_its_name():
    table = table_of(ColourRow(name="JTMY", lab=(50, 0, 0)), ColourRow(name="x", lab=(60, 0, 0)))
    named = [SampleNamed(name="JTMY", swatch="RF3X"), SampleNamed(name="x", cloth="old")]
    first, second = as_named(samples_of(table, CODES, OURS), named)
    assert (first.swatch, second.swatch, second.cloth) == ("RF3X", None, "old")


def test_bias_and_scatter_are_told_apart():
    """Worked by hand: every pair off by (2, 0, 0) and, in turn, by (0, ±1, 0)."""
    true = [(50.0, 10.0, 10.0), (60.0, -10.0, 5.0), (40.0, 0.0, -20.0), (70.0, 5.0, 30.0)]
    both = [
        BothRead(
            swatch=f"s{i}",
            run=0,
            camera="A",
            capture=1,
            camera_lab=(lab[0] + 2, lab[1] + (-1) ** i, lab[2]),
            untaught_lab=lab,
            instrument_lab=lab,
            camera_uncertainty_de00=1.5,
            instrument_uncertainty_de00=0.3,
        )
        for i, lab in enumerate(true)
    ]
    (found,) = agreements(both)
    assert found.bias == pytest.approx((2, 0, 0))
    assert found.bias_de00 == pytest.approx(2.0, abs=0.2)
    assert found.scatter_de00 == pytest.approx(1.0, abs=0.35)
    assert found.within_twice == 1
    other = both[0].model_copy(update={"camera": "B"})
    assert [len(one.pairs) for one in agreements([*both, other])] == [4, 1]


def test_an_instrument_s_differences_are_surer_than_a_camera_s():
    labs = [(50.0, 10.0, 10.0), (52.0, 10.0, 10.0)]
    by_camera = [[Seen(lab=lab, photo=1, capture=1, camera="A")] for lab in labs]
    measured = [[Seen(lab=lab, photo=-1, instrument="S", evenness_de00=0.3)] for lab in labs]
    camera = difference_uncertainty(by_camera[:1], by_camera[1:]).uncertainty_de00
    instrument = difference_uncertainty(measured[:1], measured[1:]).uncertainty_de00
    mixed = difference_uncertainty(measured[:1], by_camera[1:]).uncertainty_de00
    assert instrument == pytest.approx(np.hypot(0.3, 0.3), abs=0.05)
    # A photo's whole error stands between the two, where two in one photo share the most of it.
    assert instrument < camera < mixed


def tile(i: int, lab, uncertainty=0.8) -> ClothReading:
    return ClothReading(
        id=i,
        source="photo",
        lab=lab,
        hex="#888888",
        colour_words="grey",
        uncertainty_de00=uncertainty,
        taken_on=f"2026-05-{i:02d}",
        kept_at="2026-06-01T10:00:00",
    )


def test_a_tile_that_is_read_otherwise_than_before_is_told():
    rng = np.random.default_rng(3)
    usual = [tile(i, tuple(np.array([70.0, -20.0, 3.0]) + rng.normal(0, 0.3, 3))) for i in range(1, 9)]
    assert tile_drift(usual[:2]) is None
    calm = tile_drift(usual)
    assert not calm.is_real
    off = tile_drift([*usual, tile(9, (70.0, -20.0, 9.0))])
    assert off.is_real
    assert off.de00 > 3
    assert "tile has changed" in off.words


def test_the_mean_of_a_cloth_s_readings_leans_to_the_surer_ones():
    mean = mean_colour([tile(1, (50.0, 0.0, 0.0), 2.0), tile(2, (60.0, 0.0, 0.0), 0.5)])
    assert mean.lab[0] == pytest.approx(50 + 10 * 4 / (4 + 0.25))
    assert mean_colour([]) is None
