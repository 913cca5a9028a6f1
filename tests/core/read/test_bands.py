"""Zones that are known by their place: halves, steps of a strip, a ribbon's fibres."""

import numpy as np
import pytest
from tests.cloth_spectra import NM, dyed, true_lab
from tests.photographs import photograph

from zesty_grid.core.read.bands import find_bands
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.measure import measure_sheet
from zesty_grid.core.read.readings import AssignedSheet, Assignment, zones_of_pieces
from zesty_grid.core.read.sheet_layout import lay_out_sheet
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.cloth import Cloth
from zesty_grid.standins.scene import Scene

MADDER = 0.05 + 0.6 / (1 + np.exp(-(NM - 600) / 16))
FADED = 0.11 + 0.56 / (1 + np.exp(-(NM - 598) / 17))
FIBRES = ("acetate", "cotton", "polyamide", "polyester", "acrylic", "wool")


@pytest.mark.parametrize("degrees", [-8, 0, 5])
def test_bands_are_of_equal_width_however_the_piece_lies(degrees):
    rows, columns = np.indices((120, 200))
    turn = np.radians(degrees)
    along = (columns - 100) * np.cos(turn) + (rows - 60) * np.sin(turn)
    across = -(columns - 100) * np.sin(turn) + (rows - 60) * np.cos(turn)
    whole = (np.abs(along) < 70) & (np.abs(across) < 30)
    zones = find_bands(whole, whole, 4.0, 3)
    assert zones.shares == pytest.approx([1 / 3] * 3, abs=0.02)
    first = along[(zones.labels == 1) & zones.core]
    second = along[(zones.labels == 2) & zones.core]
    # Left to right, and off the border between them by about 2 mm, as common practice has it.
    assert first.max() < -70 + 140 / 3 - 6
    assert second.min() > -70 + 140 / 3 + 6


def laid(cells, bands):
    sheet = lay_out_sheet("BANDS", 6)
    zones = {"A1": ("covered", "exposed"), "A2": FIBRES, "A3": ()}
    return sheet.model_copy(
        update={"cells": tuple(c.model_copy(update={"zones": zones.get(c.cell, ())}) for c in sheet.cells)}
    )


def test_halves_and_ribbons_are_read_by_place_even_where_nothing_has_changed():
    rng = np.random.default_rng(5)
    ribbon = tuple(0.82 - 0.05 * i * np.exp(-(((NM - 520) / 60) ** 2)) for i in range(6))
    sheet = laid(None, None)
    cloths = (
        Cloth("A1", MADDER, 0.85, bands=(MADDER, FADED)),
        Cloth("A2", MADDER, 0.85, bands=ribbon),
        Cloth("A3", dyed(rng), 0.8),
    )
    shot = Shot(width_px=2400, height_px=1800)
    found = measure_sheet(open_photo(photograph(Scene(sheet, cloths), shot)), sheet)
    halves, strips, plain = found.cells[:3]
    assert [zone.name for zone in halves.zones] == ["covered", "exposed"]
    assert "more than one colour" not in halves.flags
    for zone, reflectance in zip(halves.zones, (MADDER, FADED), strict=True):
        apart = delta_e_2000(true_lab(Cloth("x", reflectance)), np.array(zone.lab))
        assert apart < 3 * zone.uncertainty_de00
    assert [zone.name for zone in strips.zones] == list(FIBRES)
    greens = [zone.lab[1] for zone in strips.zones]
    assert greens[0] > greens[-1] - 60
    assert plain.zones == ()
    assigned = AssignedSheet(
        sheet=sheet,
        page=1,
        trial=1,
        assignments=(
            Assignment(cell="A1", swatch="AAAA", piece="halves"),
            Assignment(cell="A2", swatch="AAAA", piece="neighbour"),
            Assignment(cell="A3", swatch="AAAA", piece="dark"),
        ),
    )
    named = {(one.cell, one.zone): (one.piece, one.name) for one in zones_of_pieces(assigned, found)}
    assert named["A1", "1"] == ("dark", "")
    assert named["A1", "2"] == ("light", "")
    assert named["A2", "6"] == ("neighbour", "wool")
    assert ("A3", "1") not in named


def test_steps_of_a_strip_keep_their_names():
    sheet = lay_out_sheet("STRIP", 6)
    names = ("covered", "step 2", "step 1")
    sheet = sheet.model_copy(update={"cells": (sheet.cells[0].model_copy(update={"zones": names}), *sheet.cells[1:])})
    cloth = Cloth("A1", MADDER, 0.85, bands=(MADDER, MADDER, FADED))
    shot = Shot(width_px=2400, height_px=1800)
    found = measure_sheet(open_photo(photograph(Scene(sheet, (cloth,)), shot)), sheet)
    assigned = AssignedSheet(
        sheet=sheet, page=1, trial=1, assignments=(Assignment(cell="A1", swatch="AAAA", piece="halves"),)
    )
    zones = zones_of_pieces(assigned, found)
    assert [(one.piece, one.name) for one in zones] == [("dark", ""), ("light", "step 2"), ("light", "step 1")]
    light = {one.name: one.lab for one in found.cells[0].zones}
    assert delta_e_2000(np.array(light["covered"]), np.array(light["step 2"])) < 1.0
    assert delta_e_2000(np.array(light["covered"]), np.array(light["step 1"])) > 3.0
