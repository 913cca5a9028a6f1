"""The bench papers as PDF: the grid, the tie key, cutting, stocks, a card a vessel, labels."""

import io
from collections.abc import Iterable
from html import escape

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4, landscape
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import (
    Flowable,
    KeepTogether,
    PageBreak,
    Paragraph,
    SimpleDocTemplate,
    Spacer,
    Table,
    TableStyle,
)

from zesty_grid.core.read.sheet_layout import Paper
from zesty_grid.core.weigh.bench_papers import BenchPapers, BenchSwatch, amount_words
from zesty_grid.core.weigh.cautions import DEFER
from zesty_grid.core.weigh.totals import needed_words
from zesty_grid.core.weigh.working import counted, duration_words, grams_words, volume_words
from zesty_grid.formats.bench_fonts import BOLD, FONT, use_bench_fonts
from zesty_grid.formats.bench_grid import grid_blocks
from zesty_grid.formats.cloth_map import ClothMapOnPaper
from zesty_grid.formats.on_paper import begin_page
from zesty_grid.formats.swatch_label import SwatchLabel

_STAND_INS = {
    "→": "-",
    "–": "-",
    "—": "-",
    "≈": "about ",
    "Δ": "d",
    "⅛": "1/8",
    "₂": "2",
    "○": "o",
    "≥": "at least ",
    "≤": "at most ",
    "\u202e": "",
}
_LINE = TableStyle(
    [
        ("FONT", (0, 0), (-1, -1), FONT, 8),
        ("FONT", (0, 0), (-1, 0), BOLD, 8),
        ("GRID", (0, 0), (-1, -1), 0.4, colors.black),
        ("VALIGN", (0, 0), (-1, -1), "MIDDLE"),
        ("TOPPADDING", (0, 0), (-1, -1), 2),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 2),
    ]
)
_LABEL_CELLS = TableStyle(
    [
        ("GRID", (0, 0), (-1, -1), 0.3, colors.black),
        ("LEFTPADDING", (0, 0), (-1, -1), 3),
        ("TOPPADDING", (0, 0), (-1, -1), 3),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 3),
    ]
)
LABELS_ACROSS = 6
MAPS_ACROSS = 3


def bench_pdf(papers: BenchPapers, paper: Paper = "A4") -> bytes:
    """Landscape, black on white; laid out for A4, and all of it smaller by 6 % on Letter."""
    use_bench_fonts()
    buffer = io.BytesIO()
    document = SimpleDocTemplate(
        buffer,
        pagesize=landscape(A4),
        leftMargin=12 * mm,
        rightMargin=12 * mm,
        topMargin=12 * mm,
        bottomMargin=12 * mm,
        title=printable(papers.plan.name),
        invariant=1,
    )
    document.build(
        [
            *_front(papers),
            *_grid(papers),
            *_tie_key(papers),
            *_cutting(papers),
            *_stocks(papers),
            PageBreak(),
            *_vessel_cards(papers),
            *_maps(papers),
            PageBreak(),
            *_labels(papers),
        ],
        onFirstPage=_foot(papers, paper),
        onLaterPages=_foot(papers, paper),
    )
    return buffer.getvalue()


def printable(text: str) -> str:
    """The text with what the printed font lacks written otherwise, or as a question mark."""
    use_bench_fonts()
    glyphs = pdfmetrics.getFont(FONT).face.charToGlyph
    replaced = "".join(_STAND_INS.get(c, c) if ord(c) not in glyphs else c for c in text)
    return "".join(c if ord(c) in glyphs or c == " " else "?" for c in replaced)


def _style(size: float, bold: bool = False, before: float = 0) -> ParagraphStyle:
    return ParagraphStyle(
        f"s{size}{bold}",
        fontName=BOLD if bold else FONT,
        fontSize=size,
        leading=size * 1.25,
        spaceBefore=before,
        spaceAfter=2,
    )


def _text(words: str, size: float = 8, bold: bool = False) -> Paragraph:
    return Paragraph(escape(printable(words)), _style(size, bold))


def _heading(words: str) -> Paragraph:
    return Paragraph(escape(printable(words)), _style(13, True, before=8))


def _table(rows: Iterable[Iterable[str]], widths_mm: Iterable[float]) -> Table:
    made = [[_text(cell, 8, i == 0) for cell in row] for i, row in enumerate(rows)]
    return Table(made, colWidths=[width * mm for width in widths_mm], repeatRows=1, style=_LINE, hAlign="LEFT")


def _front(papers: BenchPapers) -> list[Flowable]:
    effort = papers.weighing.effort
    return [
        _text(papers.plan.name, 18, True),
        _text(papers.plan.question, 10),
        Spacer(1, 3 * mm),
        _text(
            f"{counted(len(papers.swatches), 'swatch')} of {_mass_words(papers)} in "
            f"{counted(len(papers.vessels), 'vessel')}; {effort.water_l:.1f} L of water, about "
            f"{effort.energy_kwh:.1f} kWh, {effort.hands_h:.1f} hours of hands. Order seed "
            f"{papers.plan.order_seed}.",
            9,
        ),
        *(_text(f"Caution. {caution}", 9, True) for caution in papers.weighing.cautions),
    ]


def _grid(papers: BenchPapers) -> list[Flowable]:
    blocks = grid_blocks(papers)
    found: list[Flowable] = [_heading("The grid: code, and tie below it")]
    for block in blocks:
        width = min(38.0, (273 - 45) / max(1, len(block[0]) - 1))
        found += [_table(block, [45, *[width] * (len(block[0]) - 1)]), Spacer(1, 4 * mm)]
    return found


def _tie_key(papers: BenchPapers) -> list[Flowable]:
    rows = [["Tie", "Swatches that carry it"]]
    by_tie: dict[str, list[BenchSwatch]] = {}
    for swatch in papers.swatches:
        by_tie.setdefault(swatch.tie, []).append(swatch)
    for tie in sorted(by_tie, key=lambda one: (sum(map(int, one.split("·"))), one)):
        named = (f"{s.code} ({' '.join(s.vessels) or 'no bath'})" for s in by_tie[tie])
        rows.append([tie, ", ".join(named)])
    return [
        _heading("Key to the ties"),
        _text(
            "Knots on the thread (or notches on the edge), read from the looped end; a dot is a "
            "gap. In one vessel no two are alike, and none becomes another by one knot. Where a "
            "tie is there more than once, only the code tells its swatches apart."
        ),
        _table(rows, [22, 250]),
    ]


def _cutting(papers: BenchPapers) -> list[Flowable]:
    cut = papers.cut_list
    rows = [["Fibre", "Swatches", "Dry mass", "Each", "Cloth or yarn", "How"]]
    for fibre in cut.fibres:
        size = f"{fibre.width_cm:.1f} × {fibre.height_cm:.1f} cm" if fibre.width_cm else ""
        length = f"{fibre.cloth_length_cm:.0f} cm" if fibre.cloth_length_cm else ""
        yarn = f"{fibre.yarn_m:.0f} m" if fibre.yarn_m else ""
        rows.append(
            [
                fibre.name,
                str(fibre.swatches),
                grams_words(fibre.grams),
                size,
                length or yarn,
                f"{fibre.working}. {fibre.tie_words}",
            ]
        )
    return [
        _heading("Cutting"),
        _text(
            f"Each swatch is dyed whole and then cut: {', '.join(cut.pieces)}. "
            f"{cut.sheets_as_dyed} sheets as dyed, {cut.sheets_of_pieces} for the pieces."
        ),
        _table(rows, [40, 20, 25, 32, 26, 130]),
    ]


def _stocks(papers: BenchPapers) -> list[Flowable]:
    found: list[Flowable] = []
    if papers.weighing.stocks:
        rows = [["Stock solution", "Strength", "Weigh", "Make up to", "How"]]
        rows += [
            [s.name, f"{s.strength_percent:g} %", grams_words(s.grams), volume_words(s.volume_ml), s.working]
            for s in papers.weighing.stocks
        ]
        found += [_heading("Stocks to make"), _table(rows, [60, 22, 28, 32, 130])]
    if papers.weighing.extractions:
        rows = [["Extract", "Dye stuff", "Water", "Heat and time", "To each vessel"]]
        for one in papers.weighing.extractions:
            shares = ", ".join(f"{s.vessel} {volume_words(s.volume_ml)}" for s in one.shares)
            heat = f"{one.temperature_c:g} °C, " if one.temperature_c else ""
            stuff = f"{grams_words(one.grams)} {one.spelled and f'({one.spelled})'}".strip()
            rows.append(
                [
                    f"{one.name}, {one.way}",
                    stuff,
                    volume_words(one.water_ml),
                    f"{heat}{duration_words(one.duration_min)}",
                    shares,
                ]
            )
        found += [_heading("Extracts"), _table(rows, [50, 25, 25, 38, 135])]
    rows = [["To have ready", "Needed", "In hand", "Missing"]]
    rows += [
        [
            t.name,
            needed_words(t),
            "" if t.in_hand_g is None else grams_words(t.in_hand_g),
            grams_words(t.short_g) if t.short_g else "",
        ]
        for t in papers.weighing.totals
    ]
    return [*found, _heading("Totals"), _table(rows, [80, 40, 40, 40])]


def _vessel_cards(papers: BenchPapers) -> list[Flowable]:
    by_name = {vessel.name: vessel for vessel in papers.vessels}
    ties = {s.code: s.tie for s in papers.swatches}
    heat = {one.vessel: one for one in papers.weighing.effort.vessels}
    found: list[Flowable] = [_heading("A card for each vessel")]
    kinds = list(dict.fromkeys(vessel.bath for vessel in papers.vessels))
    in_order = sorted(
        papers.weighing.vessels, key=lambda one: (kinds.index(by_name[one.vessel].bath), by_name[one.vessel].run_order)
    )
    for own in in_order:
        vessel = by_name[own.vessel]
        inside = [f"{code} ({ties[code]})" if code in ties else code for code in vessel.swatches]
        amounts = [["", "In this order", "Amount", "Working"]]
        amounts += [
            [str(i), f"{f.name}, {f.moment}" if f.moment else f.name, amount_words(f), f.working]
            for i, f in enumerate(own.figures, 1)
        ]
        lines = [
            f"{vessel.on_shelf_name or 'no vessel fits'}; {volume_words(vessel.volume_ml)}; "
            f"{_heat_words(vessel.temperature_c, vessel.duration_min)}; run as number "
            f"{vessel.run_order}.",
            "Goes in, by position: " + "  ".join(inside),
        ]
        if own.ph:
            lines.append(f"pH {own.ph.target_ph:g}: {own.ph.words}")
            lines += own.ph.warnings
        water = heat[own.vessel].heat.steam_water_l
        if water:
            lines.append(f"Steamer: {water:.1f} L, so that it does not boil dry.")
        cautions = papers.weighing.vessel_cautions[own.vessel]
        found.append(
            KeepTogether(
                [
                    _text(f"{vessel.name}  {vessel.title}", 11, True),
                    *(_text(line) for line in lines),
                    _table(amounts, [8, 65, 70, 130]),
                    *(_text(f"! {caution}") for caution in cautions),
                    Spacer(1, 5 * mm),
                ]
            )
        )
    return [*found, _text(DEFER)]


def _maps(papers: BenchPapers) -> list[Flowable]:
    maps: list[Flowable] = [
        ClothMapOnPaper(printable(f"{s.code} ({s.tie})  {s.words}")[:70], s.zones) for s in papers.swatches if s.zones
    ]
    if not maps:
        return []
    rows = [maps[i : i + MAPS_ACROSS] for i in range(0, len(maps), MAPS_ACROSS)]
    rows[-1] = [*rows[-1], *[Spacer(1, 1) for _ in range(MAPS_ACROSS - len(rows[-1]))]]
    return [
        PageBreak(),
        _heading("What lies where"),
        _text(
            "A map to begin with: draw in it where each source, or each place with its thread, "
            "really lies, and keep it at the bench."
        ),
        Table(rows, colWidths=[91 * mm] * MAPS_ACROSS),
    ]


def _labels(papers: BenchPapers) -> list[Flowable]:
    labels: list[Flowable] = [SwatchLabel(s.code, printable(s.tie), printable(s.words)) for s in papers.swatches]
    if not labels:
        return []
    rows = [labels[i : i + LABELS_ACROSS] for i in range(0, len(labels), LABELS_ACROSS)]
    rows[-1] = [*rows[-1], *[Spacer(1, 1) for _ in range(LABELS_ACROSS - len(rows[-1]))]]
    return [_heading("Labels"), Table(rows, style=_LABEL_CELLS)]


def _mass_words(papers: BenchPapers) -> str:
    masses = sorted({swatch.mass_g for swatch in papers.swatches})
    if len(masses) > 1:
        return f"{masses[0]:g} to {masses[-1]:g} g"
    return f"{(masses or [papers.plan.swatch_mass_g])[0]:g} g"


def _heat_words(temperature_c: float | None, duration_min: int | None) -> str:
    heat = f"{temperature_c:g} °C" if temperature_c else "room temperature"
    return f"{heat}, {duration_words(duration_min)}" if duration_min else heat


def _foot(papers: BenchPapers, paper: Paper):  # type: ignore[no-untyped-def]
    name = printable(papers.plan.name)[:90]

    def draw(canvas: Canvas, document: SimpleDocTemplate) -> None:
        begin_page(canvas, paper)
        canvas.setFont(FONT, 7)
        canvas.drawString(12 * mm, 6 * mm, name)
        canvas.drawRightString(285 * mm, 6 * mm, f"page {document.page}")

    return draw
