"""Swatches laid side by side, printed in colour on neutral grey."""

import io

from reportlab.lib.pagesizes import A4, landscape
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from zesty_grid.core.compare.coloured import Coloured
from zesty_grid.core.compare.laid_table import Ground, LaidTable, Neighbours, TableLook
from zesty_grid.core.read.sheet_layout import Paper
from zesty_grid.formats.bench_fonts import BOLD, FONT, use_bench_fonts
from zesty_grid.formats.bench_pdf import printable
from zesty_grid.formats.on_cloth_colours import paper_colour, profile_words
from zesty_grid.formats.on_paper import begin_page

GREYS: dict[Ground, float] = {"light": 0.93, "grey": 0.6, "dark": 0.18}
LEFT_MM, TOP_MM, PIECE_MM, WORDS_MM, GAP_MM = 12.0, 22.0, 62.0, 22.0, 3.0
ACROSS, DOWN = 4, 2


def laid_table_pdf(table: LaidTable, look: TableLook, paper: Paper = "A4") -> bytes:
    """Landscape, eight pieces a page; neighbours touch, so that the edge between is seen."""
    use_bench_fonts()
    buffer = io.BytesIO()
    width, height = landscape(A4)
    canvas = Canvas(buffer, pagesize=(width, height), invariant=True)
    canvas.setTitle(printable(table.name))
    between = {one.first: one for one in look.neighbours}
    undyed = {one.key: one for one in look.undyed} if table.undyed else {}
    each = ACROSS * DOWN
    for start in range(0, max(1, len(look.pieces)), each):
        begin_page(canvas, paper)
        _page(canvas, width, height, table, look.pieces[start : start + each], between, undyed)
        canvas.setFont(FONT, 7)
        canvas.setFillGray(0)
        words = profile_words(one.lab for one in look.pieces)
        canvas.drawString(LEFT_MM * mm, 8 * mm, printable(words))
        canvas.showPage()
    canvas.save()
    return buffer.getvalue()


def _page(
    canvas: Canvas,
    width: float,
    height: float,
    table: LaidTable,
    pieces: tuple[Coloured, ...],
    between: dict[str, Neighbours],
    undyed: dict[str, Coloured],
) -> None:
    canvas.setFillGray(GREYS[table.ground])
    canvas.rect(0, 12 * mm, width, height - 30 * mm, stroke=0, fill=1)
    canvas.setFillGray(0)
    canvas.setFont(BOLD, 13)
    canvas.drawString(LEFT_MM * mm, height - 12 * mm, printable(table.name))
    ink = 1 if table.ground == "dark" else 0
    for number, piece in enumerate(pieces):
        column, row = number % ACROSS, number // ACROSS
        gap = GAP_MM * (column // 2) if table.pairs else 0
        x = (LEFT_MM + column * PIECE_MM + gap * 2) * mm
        y = height - (TOP_MM + (row + 1) * PIECE_MM + row * WORDS_MM) * mm
        canvas.setFillColor(paper_colour(piece.lab))
        canvas.rect(x, y, PIECE_MM * mm, PIECE_MM * mm, stroke=0, fill=1)
        if piece.undyed in undyed:
            canvas.setFillColor(paper_colour(undyed[piece.undyed].lab))
            canvas.rect(x, y, PIECE_MM * mm, 8 * mm, stroke=0, fill=1)
        canvas.setFillGray(ink)
        _words(canvas, x, y, piece, between.get(piece.key))


def _words(canvas: Canvas, x: float, y: float, piece: Coloured, next_to: Neighbours | None) -> None:
    canvas.setFont(BOLD, 8)
    canvas.drawString(x, y - 4 * mm, printable(f"{piece.name} · {piece.state}"[:44]))
    canvas.setFont(FONT, 7)
    canvas.drawString(x, y - 7.5 * mm, printable(piece.words[:52]))
    lightness, a, b = piece.lab
    said = f"L* {lightness:.1f} a* {a:.1f} b* {b:.1f} ±{piece.uncertainty_de00:.1f}"
    canvas.drawString(x, y - 11 * mm, said)
    if next_to:
        words = f"to the next: ΔE00 {next_to.difference.de00:.1f}, {next_to.words}"
        canvas.drawString(x, y - 14.5 * mm, printable(words[:60]))
