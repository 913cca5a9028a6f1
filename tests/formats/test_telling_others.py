"""Cards, reports and palettes as files: in the colours read, with nothing injected."""

import io

import numpy as np
import pypdfium2
import pytest

from zesty_grid.core.compare.coloured import Coloured
from zesty_grid.core.compare.recipe import Gentleness, Recipe, RecipeBath, RecipeStep
from zesty_grid.core.compare.report import Report, ReportCell, ReportGrid, ReportSection, ReportTable
from zesty_grid.core.fade.life import YearsTo
from zesty_grid.core.read.colour_space import lab_to_hex
from zesty_grid.core.words.lasting import life_words
from zesty_grid.formats.on_cloth_colours import profile_words
from zesty_grid.formats.palette import colours_csv, palette_css, palette_svg, palette_text
from zesty_grid.formats.recipe_card import recipe_card_html, recipe_card_pdf
from zesty_grid.formats.study_report import study_report_html, study_report_pdf

HOSTILE = '"><script>alert(1)</script>'
LAB = (62.5, 3.3, 34.8)


def piece(**changes) -> Coloured:
    base = {
        "key": "EYFC@4",
        "kind": "swatch",
        "study": 1,
        "study_name": "Marsh",
        "code": "EYFC",
        "name": "EYFC",
        "words": "Wool, Alum",
        "state": "as dyed",
        "lab": LAB,
        "hex": lab_to_hex(np.array(LAB)),
        "colour_words": "dark yellow",
        "uncertainty_de00": 0.4,
    }
    return Coloured(**(base | changes))


def step(title: str, **changes) -> RecipeStep:
    plain = {"title": title, "detail": "", "temperature_c": None, "duration_min": None, "caution": ""}
    return RecipeStep(**(plain | changes))


def recipe(baths: int, **changes) -> Recipe:
    bath = RecipeBath(
        title="Alum 15 %",
        amounts=("water: 3.00 L", "potassium alum: 15.0 g"),
        temperature_c=82,
        duration_min=60,
        steps=(
            step("Fill the vessel"),
            step("Warm slowly and hold", detail="Move the pieces gently.", temperature_c=82, duration_min=60),
        ),
        really="82 °C, 3 h in it",
        cautions=("Powder: dust mask, gloves, eye protection.",),
    )
    base = {
        "code": "EYFC",
        "study": 1,
        "study_name": "Marsh",
        "words": "Wool, Alum",
        "fibre": "wool",
        "mass_g": 100,
        "baths": (bath,) * baths,
        "needed": (),
        "cost": 4.8,
        "in_hand": True,
        "gentle": Gentleness(iron=False, copper=False, hottest_c=82, ph_low=None, ph_high=None),
        "logged": True,
    }
    return Recipe(**(base | changes))


def text_of(pdf: bytes) -> tuple[int, str]:
    document = pypdfium2.PdfDocument(pdf)
    return len(document), " ".join(one.get_textpage().get_text_bounded() for one in document)


@pytest.mark.parametrize("baths", [1, 4, 12])
def test_a_card_takes_the_pages_that_it_needs_and_leaves_nothing_out(baths):
    lasting = [life_words("Museum", YearsTo(middle=30, low=12, high=None, beyond=True))]
    pages, text = text_of(recipe_card_pdf(recipe(baths), piece(), lasting))
    assert pages == (1 if baths < 12 else 2)
    assert text.count("15.0 g") == text.count("2. Warm slowly and hold (82 °C, 1 h).") == baths
    assert "In “Museum” it changes plainly" in text
    assert "after about 30 years (12 or more, beyond what was tried)" in text
    assert "Where it comes from" in text


def test_a_card_without_a_reading_or_a_log_says_so():
    _, text = text_of(recipe_card_pdf(recipe(1, logged=False), None, []))
    assert "not logged" in text
    assert "Not tried in light." in text


def test_the_cloth_on_the_card_has_the_colour_that_was_read():
    page = pypdfium2.PdfDocument(recipe_card_pdf(recipe(1), piece(), []))[0]
    shot = np.asarray(page.render(scale=1).to_pil().convert("RGB")).astype(int)
    wanted = [int(piece().hex[i : i + 2], 16) for i in (1, 3, 5)]
    assert (np.abs(shot - wanted).max(axis=2) <= 1).mean() > 0.1


def test_pages_hold_no_foreign_words():
    card = recipe_card_html(recipe(1, words=HOSTILE, study_name=HOSTILE), piece(words=HOSTILE), [])
    assert "<script" not in card
    page = study_report_html(report(title=HOSTILE, words=HOSTILE))
    assert "<script" not in page
    assert "&lt;script&gt;" in page


def report(title="Marsh", words="Iron is darker."):
    cell = ReportCell(lab=LAB, hex=piece().hex, caption="EYFC")
    empty = ReportCell(lab=None, hex="", caption="")
    return Report(
        title=title,
        made_on="26 Nov 2026",
        labs=(LAB,),
        sections=(
            ReportSection(heading="What is real", paragraphs=(words,)),
            ReportSection(
                heading="The grid",
                grid=ReportGrid(
                    columns=tuple(f"Column {i}" for i in range(30)),
                    rows=tuple((f"Row {i}", (cell,) * 29 + (empty,)) for i in range(20)),
                ),
            ),
            ReportSection(
                heading="Every swatch",
                table=ReportTable(head=("code", "recipe"), rows=tuple((f"C{i}", words) for i in range(200))),
            ),
            ReportSection(heading="Nothing here", table=ReportTable(head=("a",), rows=())),
        ),
    )


def test_a_large_grid_and_a_long_table_go_over_pages():
    pages, text = text_of(study_report_pdf(report()))
    assert pages > 4
    assert "Column 29" in text
    assert "C199" in text
    assert "Written on 26 Nov 2026." in text


def test_a_report_of_hostile_words_is_still_a_report():
    pages, text = text_of(study_report_pdf(report(words=f"{HOSTILE} & <b>bold</b>")))
    assert pages > 1
    assert "<b>bold</b>" in text


def test_what_lies_outside_the_profile_is_said():
    assert "outside" not in profile_words([LAB])
    # A yellow of chroma 130 is in no sRGB.
    assert "1 colour lies outside" in profile_words([LAB, (85, 0, 130)])
    assert "2 colours lie outside" in profile_words([(85, 0, 130), (30, 90, -120)])


def test_palettes_hold_only_what_is_theirs():
    hostile = piece(name=HOSTILE, words="*/ body{} /*", code="", state="=1+1")
    css = palette_css([hostile])
    # The only ends of comments are our own.
    assert css.count("*/") == 1
    svg = palette_svg([hostile, piece()])
    assert "<script" not in svg
    assert svg.count("<rect") == 2
    assert palette_svg([]).startswith("<svg")
    csv = colours_csv([hostile])
    assert "'=1+1" in csv
    assert io.StringIO(csv).readline().startswith("key,code,study")
    assert palette_text([piece()]) == f"EYFC\t{piece().hex}\tL* 62.5 a* 3.3 b* 34.8\tWool, Alum\n"
