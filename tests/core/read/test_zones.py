"""Zones of a piece, and yarn, on scenes whose truth is known."""

from dataclasses import replace

import cv2
import numpy as np
import pytest
from tests.cloth_spectra import NM, cloths_on, dyed, true_lab
from tests.photographs import photograph

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.measure import measure_sheet
from zesty_grid.core.read.sheet_layout import lay_out_sheet
from zesty_grid.core.read.yarn import facing_the_light, strands_angle
from zesty_grid.core.read.zones import find_zones
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.cloth import Cloth, Motif
from zesty_grid.standins.scene import Scene

pytestmark = pytest.mark.slow

SHEET = lay_out_sheet("ZONES")
SHOT = Shot(width_px=3000, height_px=2250, light="daylight D65")
PRINTS = (("half", 0.5), ("half", 0.3), ("corner", 0.25), ("stripes", 0.4), ("blotches", 0.3), ("half", 0.2))


def printed(seed: int, least_apart_de00: float) -> Scene:
    rng = np.random.default_rng(seed)
    cloths = []
    for i, cloth in enumerate(cloths_on(SHEET, seed)):
        other = dyed(rng)
        while (
            not least_apart_de00
            < delta_e_2000(true_lab(cloth), true_lab(replace(cloth, reflectance=other)))
            < 2 * least_apart_de00
        ):
            other = dyed(rng)
        kind, share = PRINTS[i % len(PRINTS)]
        motif = Motif(kind, other, share)
        cloths.append(replace(cloth, motifs=(motif,), width_share=0.9, uneven=0.03))
    return Scene(SHEET, tuple(cloths))


@pytest.mark.parametrize("least_apart_de00", [6, 14])
def test_two_colours_of_a_print_are_found_with_their_shares_and_colours(least_apart_de00):
    scene = printed(330, least_apart_de00)
    cells = measure_sheet(open_photo(photograph(scene, SHOT)), SHEET).cells
    found, errors, shares_off = 0, [], []
    for cloth, cell in zip(scene.cloths, cells, strict=True):
        motif = cloth.motifs[0]
        truth = {
            motif.share: true_lab(replace(cloth, reflectance=motif.reflectance)),
            1 - motif.share - 1e-9: true_lab(cloth),
        }
        found += len(cell.zones) == 2
        assert sum(zone.share for zone in cell.zones) in (0, pytest.approx(1, abs=0.01))
        for share, lab in truth.items():
            off = [float(delta_e_2000(lab, np.array(zone.lab))) for zone in cell.zones]
            if off:
                errors.append(min(off))
                shares_off.append(abs(cell.zones[int(np.argmin(off))].share - share))
    assert found >= 11
    assert np.mean(errors) < 1.5
    assert np.median(shares_off) < 0.04
    assert np.mean(np.array(shares_off) < 0.05) > 0.8
    assert max(shares_off) < 0.2


def test_a_piece_of_one_colour_has_no_zones_however_blotchy():
    cloths = tuple(replace(cloth, uneven=0.12) for cloth in cloths_on(SHEET, 331))
    cells = measure_sheet(open_photo(photograph(Scene(SHEET, cloths), SHOT)), SHEET).cells
    assert [cell.zones for cell in cells] == [()] * 12


def test_a_print_of_three_colours_has_three_zones():
    base = cloths_on(SHEET, 332)[0]
    white = 0.85 - 0.1 * np.exp(-(NM - 380) / 90)
    red = 0.05 + 0.7 / (1 + np.exp(-(NM - 600) / 12))
    blue = 0.08 + 0.35 * np.exp(-(((NM - 470) / 45) ** 2))
    cloth = replace(
        base, reflectance=white, width_share=0.9, motifs=(Motif("half", red, 0.4), Motif("corner", blue, 0.25))
    )
    cell = measure_sheet(open_photo(photograph(Scene(SHEET, (cloth,)), SHOT)), SHEET).cells[0]
    assert len(cell.zones) == 3
    assert [zone.zone for zone in cell.zones] == ["1", "2", "3"]
    assert "more than one colour" in cell.flags


def plain_lab(colours: list[tuple[float, float, float]], noise: float = 0.3) -> np.ndarray:
    rng = np.random.default_rng(2)
    stripes = np.repeat(np.array(colours, dtype=float), 120 // len(colours), axis=0)
    return np.tile(stripes[None], (90, 1, 1)) + rng.normal(0, noise, (90, 120, 3))


def test_zones_are_as_many_as_is_said():
    lab = plain_lab([(60, 20, 10), (62, 20, 10), (40, -5, 20)])
    everything = np.ones(lab.shape[:2], dtype=bool)
    assert len(find_zones(lab, everything, everything, 3.0).shares) == 2
    assert len(find_zones(lab, everything, everything, 3.0, count=3).shares) == 3
    assert len(find_zones(lab, everything, everything, 3.0, count=1).shares) == 1


def test_shares_are_of_the_area():
    lab = plain_lab([(60, 20, 10), (60, 20, 10), (60, 20, 10), (40, -5, 20)])
    everything = np.ones(lab.shape[:2], dtype=bool)
    shares = find_zones(lab, everything, everything, 3.0).shares
    assert shares == pytest.approx((0.75, 0.25), abs=0.02)


@pytest.mark.parametrize("angle_deg", [0, 35, 90, 120])
def test_strands_that_run_any_way_are_known_and_read_at_their_crest(angle_deg):
    angle = np.radians(angle_deg)
    x, y = np.meshgrid(np.arange(240), np.arange(240))
    across = (-x * np.sin(angle) + y * np.cos(angle)) / 9.6
    shade = 1 - 0.6 * (2 * np.abs(across % 1 - 0.5)) ** 2
    rng = np.random.default_rng(0)
    light = (shade[..., None] * [0.5, 0.3, 0.2] * rng.normal(1, 0.03, (240, 240, 1))).astype("f4")
    inner = np.zeros((240, 240), dtype=bool)
    inner[30:210, 30:210] = True
    found = strands_angle(light, inner, 6.0)
    assert found is not None
    assert np.sin(found - angle) == pytest.approx(0, abs=0.03)
    crest = facing_the_light(light, inner, 6.0, found)
    assert light[crest].mean(axis=0) == pytest.approx([0.5, 0.3, 0.2], rel=0.03)


def test_woven_cloth_and_prints_are_no_yarn():
    x, y = np.meshgrid(np.arange(240), np.arange(240))
    weave = 1 + 0.07 * np.sin(2 * np.pi * x / 3.3) * np.sin(2 * np.pi * y / 3.3)
    inner = np.ones((240, 240), dtype=bool)
    assert strands_angle(weave[..., None] * np.full(3, 0.4), inner, 6.0) is None
    stripes = np.where((x // 6) % 2 == 0, 1.0, 0.0)[..., None]
    two = stripes * [0.5, 0.2, 0.1] + (1 - stripes) * [0.2, 0.3, 0.5]
    two = cv2.GaussianBlur(two, (0, 0), 1.0)
    assert strands_angle(two, inner, 6.0) is None


def test_each_colour_of_a_variegated_hank_is_read_where_it_faces_the_light():
    red = 0.06 + 0.6 / (1 + np.exp(-(NM - 590) / 15))
    base = Cloth(SHEET.cells[0].cell, 0.6 - 0.3 * np.exp(-(NM - 380) / 120), width_share=0.9)
    hank = replace(base, strands=0.6, motifs=(Motif("corner", red, 0.4),))
    cell = measure_sheet(open_photo(photograph(Scene(SHEET, (hank,)), SHOT)), SHEET).cells[0]
    assert {"yarn", "more than one colour"} <= set(cell.flags)
    truths = [true_lab(base), true_lab(replace(base, reflectance=red))]
    for truth in truths:
        assert min(delta_e_2000(truth, np.array(zone.lab)) for zone in cell.zones) < 4.0
