"""Colour arithmetic against published tables and independent libraries."""

import json
from pathlib import Path

import numpy as np
import pytest
from skimage import color

from zesty_grid.core.read.colour_difference import cielab_difference, delta_e_2000
from zesty_grid.core.read.colour_science import colour_science
from zesty_grid.core.read.colour_space import (
    D50_XYZ,
    SRGB_FROM_XYZ,
    hex_to_lab,
    lab_to_hex,
    lab_to_lch,
    lab_to_xyz,
    xyz_to_lab,
)
from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.core.read.iscc_nbs import named_centroids

ROOT = Path(__file__).parents[3]

# Sharma, Wu and Dalal (2005), The CIEDE2000 Color-Difference Formula, table 1:
# L1 a1 b1 L2 a2 b2 and the difference, 34 pairs.
SHARMA = np.array(
    [
        [float(number) for number in line.split()]
        for line in """
50.0000 2.6772 -79.7751 50.0000 0.0000 -82.7485 2.0425
50.0000 3.1571 -77.2803 50.0000 0.0000 -82.7485 2.8615
50.0000 2.8361 -74.0200 50.0000 0.0000 -82.7485 3.4412
50.0000 -1.3802 -84.2814 50.0000 0.0000 -82.7485 1.0000
50.0000 -1.1848 -84.8006 50.0000 0.0000 -82.7485 1.0000
50.0000 -0.9009 -85.5211 50.0000 0.0000 -82.7485 1.0000
50.0000 0.0000 0.0000 50.0000 -1.0000 2.0000 2.3669
50.0000 -1.0000 2.0000 50.0000 0.0000 0.0000 2.3669
50.0000 2.4900 -0.0010 50.0000 -2.4900 0.0009 7.1792
50.0000 2.4900 -0.0010 50.0000 -2.4900 0.0010 7.1792
50.0000 2.4900 -0.0010 50.0000 -2.4900 0.0011 7.2195
50.0000 2.4900 -0.0010 50.0000 -2.4900 0.0012 7.2195
50.0000 -0.0010 2.4900 50.0000 0.0009 -2.4900 4.8045
50.0000 -0.0010 2.4900 50.0000 0.0010 -2.4900 4.8045
50.0000 -0.0010 2.4900 50.0000 0.0011 -2.4900 4.7461
50.0000 2.5000 0.0000 50.0000 0.0000 -2.5000 4.3065
50.0000 2.5000 0.0000 73.0000 25.0000 -18.0000 27.1492
50.0000 2.5000 0.0000 61.0000 -5.0000 29.0000 22.8977
50.0000 2.5000 0.0000 56.0000 -27.0000 -3.0000 31.9030
50.0000 2.5000 0.0000 58.0000 24.0000 15.0000 19.4535
50.0000 2.5000 0.0000 50.0000 3.1736 0.5854 1.0000
50.0000 2.5000 0.0000 50.0000 3.2972 0.0000 1.0000
50.0000 2.5000 0.0000 50.0000 1.8634 0.5757 1.0000
50.0000 2.5000 0.0000 50.0000 3.2592 0.3350 1.0000
60.2574 -34.0099 36.2677 60.4626 -34.1751 39.4387 1.2644
63.0109 -31.0961 -5.8663 62.8187 -29.7946 -4.0864 1.2630
61.2901 3.7196 -5.3901 61.4292 2.2480 -4.9620 1.8731
35.0831 -44.1164 3.7933 35.0232 -40.0716 1.5901 1.8645
22.7233 20.0904 -46.6940 23.0331 14.9730 -42.5619 2.0373
36.4612 47.8580 18.3852 36.2715 50.5065 21.2231 1.4146
90.8027 -2.0831 1.4410 91.1528 -1.6435 0.0447 1.4441
90.9257 -0.5406 -0.9208 88.6381 -0.8985 -0.7239 1.5381
6.7747 -0.2908 -2.4247 5.8714 -0.0985 -2.2286 0.6377
2.0776 0.0795 -1.1350 0.9033 -0.0636 -0.5514 0.9082
""".strip().splitlines()
    ]
)


def test_ciede2000_gives_the_34_published_differences():
    assert len(SHARMA) == 34
    found = delta_e_2000(SHARMA[:, :3], SHARMA[:, 3:6])
    np.testing.assert_allclose(found, SHARMA[:, 6], atol=5e-5)


def test_lab_under_d50_agrees_with_an_independent_library():
    rng = np.random.default_rng(1)
    xyz = rng.uniform(0.0005, 1, (500, 3))
    # scikit-image rounds its white to five digits, as is done here.
    theirs = color.xyz2lab(xyz, illuminant="D50", observer="2")
    np.testing.assert_allclose(xyz_to_lab(xyz), theirs, atol=0.02)


def test_white_is_100_0_0_and_lab_goes_back_to_xyz():
    np.testing.assert_allclose(xyz_to_lab(D50_XYZ), [100, 0, 0], atol=1e-9)
    lab = np.array([[54.2, 12.0, -30.0], [8.0, 1.0, 2.0]])
    np.testing.assert_allclose(xyz_to_lab(lab_to_xyz(lab)), lab, atol=1e-9)


def test_lch_of_known_points():
    np.testing.assert_allclose(lab_to_lch(np.array([50.0, 3.0, 4.0])), [50, 5, 53.1301], atol=1e-4)
    assert lab_to_lch(np.array([50.0, 0.0, -2.0]))[2] == pytest.approx(270)


@pytest.mark.parametrize(
    ("lab", "srgb"),
    [
        # sRGB primaries seen under D50: values of the ICC sRGB v4 appearance profile, from memory.
        ((100.0, 0.0, 0.0), "#ffffff"),
        ((0.0, 0.0, 0.0), "#000000"),
        ((54.29, 80.80, 69.89), "#ff0000"),
    ],
)
def test_screen_colour(lab, srgb):
    found = lab_to_hex(np.array(lab))
    pairs = [(int(found[i : i + 2], 16), int(srgb[i : i + 2], 16)) for i in (1, 3, 5)]
    assert all(abs(a - b) <= 4 for a, b in pairs), found


def test_difference_parts_add_up_as_cie_15_says():
    d = cielab_difference(np.array([60.0, 20.0, 10.0]), np.array([57.0, 25.0, 2.0]))
    assert d.de_ab**2 == pytest.approx(d.dl**2 + d.da**2 + d.db**2)
    assert d.de_ab**2 == pytest.approx(d.dl**2 + d.dc**2 + d.dh**2)
    assert d.dh < 0  # the hue angle falls from 26.6° to 4.6°


def test_hue_difference_takes_the_short_way_round():
    d = cielab_difference(np.array([50.0, 10.0, -1.0]), np.array([50.0, 10.0, 1.0]))
    assert d.dh == pytest.approx(2.0, abs=0.02)


@pytest.mark.parametrize(
    ("lab", "words"),
    [
        ((96, 0, 0.5), "white"),
        ((53, 0, 0), "medium grey"),
        # What dyers call a dusty pink and a mauve (common practice), once named red and purple.
        ((66, 19, 8), "moderate yellowish pink"),
        ((72, 12, 5), "greyish pink"),
        ((50, 16, -9), "greyish reddish purple"),
        ((78, 8, 65), "strong yellow"),
        ((36, 11, 20), "moderate brown"),
        ((47, -2, 30), "light olive"),
    ],
)
def test_words_for_colours(lab, words):
    assert colour_words(np.array(lab, float)) == words


def test_each_centroid_of_the_system_has_its_own_name_and_agrees_with_the_library():
    # The package of the JavaScript registry, which is installed for this test only.
    lists = ROOT / "frontend" / "node_modules" / "color-name-lists" / "lib" / "colors"
    theirs = json.loads((lists / "nbs-iscc.json").read_text())
    spelled = [(one["name"].lower().replace("gray", "grey").split(",")[0], one["hex"][1:]) for one in theirs]
    assert list(named_centroids()) == spelled
    assert len(spelled) == 267  # Kelly and Judd (1955): 267 blocks at the third level.
    for words, code in spelled:
        assert colour_words(hex_to_lab(code)) == words


def test_a_screen_colour_goes_to_lab_and_back():
    for code in ("be0032", "c4aead", "00304e", "f2f3f4"):
        assert lab_to_hex(hex_to_lab(code)) == f"#{code}"


def test_what_the_screen_shows_is_what_the_colour_library_says():
    colour = colour_science()
    white = D50_XYZ[:2] / D50_XYZ.sum()
    matrix = colour.XYZ_to_RGB(
        np.eye(3), colour.RGB_COLOURSPACES["sRGB"], illuminant=white, chromatic_adaptation_transform="Bradford"
    )
    np.testing.assert_allclose(SRGB_FROM_XYZ, matrix, atol=1e-12)
    lab = np.random.default_rng(1).uniform([0, -80, -80], [100, 80, 80], (200, 3))
    np.testing.assert_allclose(lab_to_xyz(lab), colour.Lab_to_XYZ(lab, illuminant=white), atol=1e-12)
    np.testing.assert_allclose(xyz_to_lab(lab_to_xyz(lab)), lab, atol=1e-10)
