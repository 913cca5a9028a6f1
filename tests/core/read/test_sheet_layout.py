"""The printed sheet: its file format and that nothing on it overlaps."""

import itertools
import json
from pathlib import Path

import numpy as np
import pytest

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.measure import measure_sheet
from zesty_grid.core.read.readings import assign_pages
from zesty_grid.core.read.sheet_layout import CELL_HEAD_MM, Sheet, id_rect_mm, lay_out_sheet
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.photo import open_photo


@pytest.mark.parametrize("paper", ["A4", "Letter"])
@pytest.mark.parametrize(
    ("count", "kind"),
    [
        (1, "cuttings"),
        (6, "cuttings"),
        (12, "cuttings"),
        (13, "cuttings"),
        (24, "cuttings"),
        (6, "hanks"),
        (1, "large"),
        (1, "window"),
    ],
)
def test_what_is_printed_does_not_overlap_and_lies_on_the_page(count, kind, paper):
    sheet = lay_out_sheet("A", count, kind, paper)
    page_w, page_h = sheet.page_mm
    quad = sheet.chart.quad_mm
    rects = [cell.rect_mm for cell in sheet.cells]
    rects += [(quad[0][0], quad[0][1], quad[2][0] - quad[0][0], quad[2][1] - quad[0][1])]
    rects += [(*m.corners_mm[0], 16.0, 16.0) for m in sheet.markers]
    rects.append(id_rect_mm(sheet.page_mm))
    rects += [spot.rect_mm for spot in sheet.greys]
    rects += sheet.pattern.reference_mm if sheet.pattern else ()
    assert len(sheet.cells) == count
    for x, y, w, h in rects:
        assert x > 5
        assert y > 5
        assert x + w < page_w - 5
        assert y + h < page_h - 5
    for (ax, ay, aw, ah), (bx, by, bw, bh) in itertools.combinations(rects, 2):
        assert ax + aw <= bx or bx + bw <= ax or ay + ah <= by or by + bh <= ay


def test_labels_have_room_above_their_cells():
    sheet = lay_out_sheet("A", 24)
    for upper, lower in itertools.pairwise(sorted({c.rect_mm[1] for c in sheet.cells})):
        height = sheet.cells[0].rect_mm[3]
        assert lower - (upper + height) >= CELL_HEAD_MM - 0.01


def test_the_file_format_is_the_promised_one_and_reads_back():
    sheet = lay_out_sheet("K7M4")
    said = json.loads(sheet.model_dump_json())
    assert said["format"] == "zesty-grid/sheet"
    assert said["version"] == 1
    assert said["page_mm"] == [297, 210]
    assert [m["id"] for m in said["markers"]] == [0, 1, 2, 3]
    assert (said["chart"]["rows"], said["chart"]["columns"]) == (4, 6)
    assert said["chart"]["patches"][0]["name"] == "dark brown"
    assert said["cells"][0]["cell"] == "A1"
    assert Sheet.model_validate_json(sheet.model_dump_json()) == sheet


@pytest.mark.parametrize("count", [0, 25, -3])
def test_too_many_or_too_few_cells_are_refused(count):
    with pytest.raises(Refusal, match="1 to 24"):
        lay_out_sheet("A", count)


def test_each_paper_has_markers_of_its_own():
    ids = [{m.id for m in lay_out_sheet("A", paper=paper).markers} for paper in ("A4", "Letter")]
    assert not ids[0] & ids[1]


def test_a_photo_of_the_former_print_is_read_as_it_was():
    """Page and photo as the version before made them, without dots and greys; words stood under
    the chart, which must not be taken for shaded paper."""
    folder = Path(__file__).parent
    former = json.loads((folder / "sheet_printed_before.json").read_text())
    sheet = Sheet.model_validate(former["sheet"])
    assert sheet.greys == ()
    assert sheet.pattern is None
    photo = open_photo((folder / "sheet_printed_before.jpg").read_bytes())
    measured = measure_sheet(photo, sheet)
    assert measured.calibration.warnings == ()
    found = {cell.cell: cell for cell in measured.cells if cell.lab}
    assert set(found) == set(former["read_then"])
    apart = [float(delta_e_2000(np.array(found[name].lab), np.array(lab))) for name, lab in former["read_then"].items()]
    assert np.mean(apart) < 0.8
    assert all(cell.flags == () for cell in found.values())


def test_the_pieces_of_a_swatch_share_a_page():
    pages = assign_pages([f"S{i}" for i in range(8)], ("dark", "light"), 12)
    assert [len(page) for page in pages] == [12, 4]
    assert pages[0][:2] == [("S0", "dark"), ("S0", "light")]
