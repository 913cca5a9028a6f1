"""The bench papers: pages that can be read, labels that can be scanned, harmless tables."""

import csv
import io

import cv2
import numpy as np
import pypdfium2
import pytest
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from tests.small_study import levels, small_plan

from zesty_grid.core.plan.planned_study import on_paper
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.swatch_codes import swatch_code
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.core.weigh.bench_papers import BenchPapers, bench_papers
from zesty_grid.formats.bench_csv import amounts_csv, cut_list_csv, swatches_csv
from zesty_grid.formats.bench_pdf import bench_pdf
from zesty_grid.formats.swatch_label import SwatchLabel, label_code_text


def papers_of(**changes) -> BenchPapers:
    plan = StudyPlan.model_validate(small_plan(**changes))
    return bench_papers(on_paper(plan, STARTING_SHELF))


@pytest.fixture(scope="module")
def pages() -> tuple[BenchPapers, pypdfium2.PdfDocument]:
    papers = papers_of(replicates=2)
    return papers, pypdfium2.PdfDocument(bench_pdf(papers))


def text_of(document: pypdfium2.PdfDocument) -> str:
    found = " ".join(page.get_textpage().get_text_range() for page in document)
    return " ".join(found.split())


def test_every_swatch_vessel_and_caution_is_on_paper(pages):
    papers, document = pages
    said = text_of(document)
    for swatch in papers.swatches:
        assert f"{swatch.code} ({swatch.tie})" in said
    for vessel in papers.vessels:
        assert f"{vessel.name} {vessel.title}" in said
    for words in ("Key to the ties", "Cutting", "Extracts", "Totals", "dust mask", "Order seed 1"):
        assert words in said


def test_it_is_black_on_white(pages):
    _, document = pages
    for page in document:
        pixels = page.render(scale=1).to_numpy()[..., :3].astype(int)
        assert np.ptp(pixels, axis=2).max() <= 2


def test_on_letter_all_of_it_stands_within_the_page(pages):
    papers, plain = pages
    letter = pypdfium2.PdfDocument(bench_pdf(papers, "Letter"))
    assert len(letter) == len(plain)
    assert text_of(letter) == text_of(plain)
    for page in letter:
        # Letter is 11 by 8.5 inches of 72 points.
        assert page.get_size() == pytest.approx((792, 612))
        ink = np.argwhere(page.render(scale=1).to_numpy()[..., 0] < 128)
        assert ink.min() > 8
        assert ink[:, 1].max() < 792 - 8
        assert ink[:, 0].max() < 612 - 8


@pytest.mark.parametrize("number", range(1, 200, 13))
def test_a_label_is_read_by_another_library(pages, number):
    # OpenCV's reader on the label as it is printed, at 300 dpi.
    code = swatch_code(number)
    buffer = io.BytesIO()
    canvas = Canvas(buffer, pagesize=(50 * mm, 22 * mm))
    SwatchLabel(code, "2 1", "Wool, Alum").drawOn(canvas, 3 * mm, 3 * mm)
    canvas.save()
    page = pypdfium2.PdfDocument(buffer.getvalue())[0].render(scale=300 / 72).to_numpy()[..., :3]
    text, _, _ = cv2.QRCodeDetector().detectAndDecode(np.ascontiguousarray(page))
    assert text == label_code_text(code)


def test_names_in_any_script_do_not_stop_the_printing():
    assert bench_pdf(papers_of(name="羊毛 <b>&amp; → Ü")).startswith(b"%PDF")


def test_tables_open_in_a_spreadsheet_and_a_formula_stays_text():
    factors = small_plan()["factors"]
    factors[0]["levels"] = [{"key": "wool", "label": "=1+1"}, *levels("cotton")]
    papers = papers_of(factors=factors)
    rows = list(csv.DictReader(io.StringIO(swatches_csv(papers))))
    assert len(rows) == 18
    assert {row["fibre"] for row in rows} == {"'=1+1", "Cotton"}
    assert {row["vessels"] for row in rows if row["control"] == "undyed"} == {""}
    amounts = list(csv.DictReader(io.StringIO(amounts_csv(papers))))
    alum = next(row for row in amounts if row["what"] == "potassium alum")
    assert (alum["vessel"], alum["grams"], alum["spoons"]) == ("M1", "7.2", "1½ tsp")
    assert len(list(csv.DictReader(io.StringIO(cut_list_csv(papers))))) == 2


def test_a_map_of_what_lies_where_is_printed_for_each_cloth():
    factors = [
        {"kind": "fibre", "levels": levels("silk", "wool")},
        {"kind": "source", "levels": levels("fresh-leaves", "dry-skins")},
    ]
    papers = papers_of(factors=factors, rows=["fibre"], columns=["source"], controls=[])
    said = text_of(pypdfium2.PdfDocument(bench_pdf(papers)))
    assert "What lies where" in said
    assert said.count("Dry-skins") >= 2
    for swatch in papers.swatches:
        assert [zone.zone for zone in swatch.zones] == ["Fresh-leaves", "Dry-skins"]
