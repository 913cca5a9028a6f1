"""A recipe card, as PDF and as a page that holds all it needs."""

import io
from base64 import b64encode
from collections.abc import Sequence
from html import escape

from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader, simpleSplit
from reportlab.pdfgen.canvas import Canvas

from zesty_grid.core.compare.coloured import Coloured
from zesty_grid.core.compare.recipe import Recipe, RecipeBath, RecipeStep
from zesty_grid.core.read.sheet_layout import Paper
from zesty_grid.core.weigh.working import duration_words
from zesty_grid.formats.bench_fonts import BOLD, FONT, use_bench_fonts
from zesty_grid.formats.bench_pdf import printable
from zesty_grid.formats.on_cloth_colours import paper_colour, profile_words
from zesty_grid.formats.on_paper import begin_page

LEFT_MM, TOP_MM, WIDE_MM, CLOTH_MM = 15.0, 15.0, 180.0, 58.0
BOTTOM_MM, TYPE = 14.0, 8.5
PICTURE_MM = 55.0
AS_PHOTOGRAPHED = "as photographed; the plain colour is what was measured"
NOT_LOGGED = "Its baths were not logged: this is how it was planned."


def recipe_card_pdf(
    recipe: Recipe, piece: Coloured | None, lasting: Sequence[str], picture: bytes | None = None, paper: Paper = "A4"
) -> bytes:
    """Upright, on as many pages as it takes. `picture`: the cloth as it was photographed, as PNG."""
    use_bench_fonts()
    buffer = io.BytesIO()
    canvas = Canvas(buffer, pagesize=A4, invariant=True)
    canvas.setTitle(printable(f"{recipe.code} {recipe.words}"))
    begin_page(canvas, paper, lying=False)
    _head(canvas, recipe, piece, picture)
    y = A4[1] - (TOP_MM + CLOTH_MM + 10) * mm
    for bold, words in _lines(recipe, piece, lasting):
        font = BOLD if bold else FONT
        for line in simpleSplit(printable(words), font, TYPE, WIDE_MM * mm):
            if y < BOTTOM_MM * mm:
                canvas.showPage()
                begin_page(canvas, paper, lying=False)
                y = A4[1] - TOP_MM * mm
            y -= TYPE * 1.28
            canvas.setFont(font, TYPE)
            canvas.drawString(LEFT_MM * mm, y, line)
        y -= 1.0 if not bold else 0.0
    canvas.setFont(FONT, 6.5)
    if piece:
        canvas.drawString(LEFT_MM * mm, 8 * mm, printable(profile_words([piece.lab])))
    canvas.save()
    return buffer.getvalue()


def recipe_card_html(
    recipe: Recipe, piece: Coloured | None, lasting: Sequence[str], picture: bytes | None = None
) -> str:
    """One file; nothing is loaded from elsewhere."""
    cloth = f'<div class="cloth" style="background:{escape(piece.hex)}"></div>' if piece else ""
    if picture:
        shot = b64encode(picture).decode()
        cloth += (
            f'<figure><img alt="The cloth" src="data:image/png;base64,{shot}">'
            f"<figcaption>{AS_PHOTOGRAPHED}</figcaption></figure>"
        )
    body = "".join(
        f"<h2>{escape(words)}</h2>" if bold else f"<p>{escape(words)}</p>"
        for bold, words in _lines(recipe, piece, lasting)
    )
    title = escape(f"{recipe.code} {recipe.words}")
    foot = escape(profile_words([piece.lab])) if piece else ""
    return (
        '<!doctype html><html lang="en"><meta charset="utf-8">'
        f"<title>{title}</title><style>body{{font:15px/1.4 sans-serif;max-width:46rem;"
        "margin:2rem auto;padding:0 1rem;background:#eee;color:#1c1c1c}.cloth{height:14rem}"
        "figure{margin:.5rem 0;font-size:.8rem}img{max-width:16rem}"
        "h2{font-size:1rem;margin:1rem 0 .2rem}p{margin:.15rem 0}footer{font-size:.75rem;"
        "margin-top:1.5rem}</style>"
        f"<h1>{title}</h1>{cloth}{body}<footer>{foot}</footer></html>"
    )


def _head(canvas: Canvas, recipe: Recipe, piece: Coloured | None, picture: bytes | None) -> None:
    top = A4[1] - TOP_MM * mm
    if piece:
        canvas.setFillColor(paper_colour(piece.lab))
        high = CLOTH_MM - 12
        wide = WIDE_MM - (PICTURE_MM if picture else 0)
        canvas.rect(LEFT_MM * mm, top - CLOTH_MM * mm, wide * mm, high * mm, stroke=0, fill=1)
        if picture:
            canvas.drawImage(
                ImageReader(io.BytesIO(picture)),
                (LEFT_MM + wide) * mm,
                top - CLOTH_MM * mm,
                PICTURE_MM * mm,
                high * mm,
                preserveAspectRatio=True,
            )
            canvas.setFillGray(0)
            canvas.setFont(FONT, 6.5)
            canvas.drawRightString((LEFT_MM + WIDE_MM) * mm, top - (CLOTH_MM + 3) * mm, AS_PHOTOGRAPHED)
        canvas.setFillGray(0)
    canvas.setFont(BOLD, 14)
    for i, line in enumerate(simpleSplit(printable(f"{recipe.code} · {recipe.words}"), BOLD, 14, WIDE_MM * mm)[:2]):
        canvas.drawString(LEFT_MM * mm, top - (3 + 5.5 * i) * mm, line)


def _lines(recipe: Recipe, piece: Coloured | None, lasting: Sequence[str]) -> list[tuple[bool, str]]:
    """Head lines and plain ones, in the order of the card."""
    found: list[tuple[bool, str]] = []
    if piece:
        lightness, a, b = piece.lab
        found.append(
            (
                False,
                f"{piece.colour_words}, {piece.state}: L* {lightness:.1f} a* {a:.1f} "
                f"b* {b:.1f} (D50, 2°) ±{piece.uncertainty_de00:.1f} ΔE00, "
                f"{piece.hex}",
            )
        )
    found.append((True, f"For {recipe.mass_g:g} g of dry {recipe.fibre}"))
    if not recipe.logged:
        found.append((False, NOT_LOGGED))
    for number, bath in enumerate(recipe.baths, 1):
        found += _bath(number, bath)
    found.append((True, "Lasting"))
    if lasting:
        found += [(False, words) for words in lasting]
    else:
        found.append((False, "Not tried in light."))
    cost = f" Stuffs cost {recipe.cost:.2f}." if recipe.cost is not None else ""
    found.append((True, "Where it comes from"))
    found.append((False, f"Swatch {recipe.code} of “{recipe.study_name}”.{cost}"))
    return found


def _step(step: RecipeStep) -> str:
    at = [f"{step.temperature_c:.0f} °C"] if step.temperature_c is not None else []
    at += [duration_words(step.duration_min)] if step.duration_min else []
    said = [f"{step.title} ({', '.join(at)})" if at else step.title, step.detail]
    caution = f" Caution. {step.caution}" if step.caution else ""
    return ". ".join(words.rstrip(".") for words in said if words) + f".{caution}"


def _bath(number: int, bath: RecipeBath) -> list[tuple[bool, str]]:
    how = []
    if bath.temperature_c is not None:
        how.append(f"{bath.temperature_c:.0f} °C")
    if bath.duration_min is not None:
        how.append(duration_words(bath.duration_min))
    said = f" ({', '.join(how)})" if how else ""
    found = [(True, f"{number}. {bath.title}{said}")]
    if bath.amounts:
        found.append((False, "; ".join(bath.amounts)))
    found += [(False, f"Caution. {words}") for words in bath.cautions]
    found += [(False, f"{number}. {_step(step)}") for number, step in enumerate(bath.steps, 1)]
    if bath.really:
        found.append((False, f"As it was done: {bath.really}."))
    return found
