"""A study report as PDF, and as one page that holds all it needs."""

import io
from html import escape

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4, landscape
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import (
    Flowable,
    KeepTogether,
    LongTable,
    Paragraph,
    SimpleDocTemplate,
    Spacer,
    Table,
    TableStyle,
)

from zesty_grid.core.compare.report import Report, ReportGrid, ReportSection, ReportTable
from zesty_grid.core.read.sheet_layout import Paper
from zesty_grid.formats.bench_fonts import BOLD, FONT, use_bench_fonts
from zesty_grid.formats.bench_pdf import printable
from zesty_grid.formats.on_cloth_colours import paper_colour, profile_words
from zesty_grid.formats.on_paper import begin_page

_TITLE = ParagraphStyle("title", fontName=BOLD, fontSize=18, leading=22, spaceAfter=6)
_HEAD = ParagraphStyle("head", fontName=BOLD, fontSize=12, leading=15, spaceBefore=10, spaceAfter=4)
_TEXT = ParagraphStyle("text", fontName=FONT, fontSize=9, leading=12, spaceAfter=3)
_SMALL = ParagraphStyle("small", fontName=FONT, fontSize=7, leading=8.5)
COLUMNS_ACROSS = 12
WIDE_MM = 273.0


def study_report_pdf(report: Report, paper: Paper = "A4") -> bytes:
    """Landscape."""
    use_bench_fonts()
    buffer = io.BytesIO()
    document = SimpleDocTemplate(
        buffer,
        pagesize=landscape(A4),
        leftMargin=12 * mm,
        rightMargin=12 * mm,
        topMargin=12 * mm,
        bottomMargin=14 * mm,
        title=printable(report.title),
        invariant=1,
    )
    story: list[Flowable] = [
        Paragraph(escape(printable(report.title)), _TITLE),
        Paragraph(escape(printable(f"Written on {report.made_on}.")), _TEXT),
    ]
    for section in report.sections:
        story += _section(section)
    story.append(Paragraph(escape(printable(profile_words(report.labs))), _SMALL))
    document.build(story, onFirstPage=_foot(paper), onLaterPages=_foot(paper))
    return buffer.getvalue()


def _section(section: ReportSection) -> list[Flowable]:
    head = Paragraph(escape(printable(section.heading)), _HEAD)
    found: list[Flowable] = [Paragraph(escape(printable(words)), _TEXT) for words in section.paragraphs]
    if section.grid:
        found += _grid(section.grid)
    if section.table and section.table.rows:
        found.append(_table(section.table))
    return [KeepTogether([head, *found[:1]]), *found[1:]]


def _grid(grid: ReportGrid) -> list[Flowable]:
    """In stretches of columns; each cell is its colour, with the code below."""
    found: list[Flowable] = []
    for start in range(0, len(grid.columns), COLUMNS_ACROSS):
        names = grid.columns[start : start + COLUMNS_ACROSS]
        side = (WIDE_MM - 45) / max(len(names), 6)
        cells: list[list[object]] = [["", *(_small(name) for name in names)]]
        style = [
            ("FONT", (0, 0), (-1, -1), FONT, 7),
            ("VALIGN", (0, 0), (-1, -1), "BOTTOM"),
            ("LEFTPADDING", (0, 0), (-1, -1), 2),
            ("RIGHTPADDING", (0, 0), (-1, -1), 2),
        ]
        for number, (name, row) in enumerate(grid.rows, 1):
            own = row[start : start + COLUMNS_ACROSS]
            cells.append([_small(name), *("" for _ in own)])
            cells.append(["", *(cell.caption for cell in own)])
            for column, cell in enumerate(own, 1):
                if cell.lab:
                    at = (column, 2 * number - 1)
                    style.append(("BACKGROUND", at, at, paper_colour(cell.lab)))
        heights = [None] + [13 * mm, 4 * mm] * len(grid.rows)
        table = Table(cells, colWidths=[45 * mm, *[side * mm] * len(names)], rowHeights=heights, repeatRows=1)
        table.setStyle(TableStyle(style))
        found += [table, Spacer(1, 4 * mm)]
    return found


def _table(table: ReportTable) -> Flowable:
    rows = [[_small(words) for words in row] for row in (table.head, *table.rows)]
    widest = [max(len(row[i]) for row in (table.head, *table.rows)) for i in range(len(table.head))]
    share = [min(max(one, 5), 60) for one in widest]
    laid = LongTable(rows, colWidths=[WIDE_MM * mm * one / sum(share) for one in share], repeatRows=1)
    laid.setStyle(
        TableStyle(
            [
                ("LINEBELOW", (0, 0), (-1, -1), 0.3, colors.black),
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("TOPPADDING", (0, 0), (-1, -1), 1.5),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 1.5),
            ]
        )
    )
    return laid


def _small(words: str) -> Paragraph:
    return Paragraph(escape(printable(words)), _SMALL)


def _foot(paper: Paper):  # type: ignore[no-untyped-def]
    def draw(canvas: Canvas, document: SimpleDocTemplate) -> None:
        begin_page(canvas, paper)
        canvas.setFont(FONT, 7)
        canvas.drawRightString(285 * mm, 7 * mm, f"page {document.page}")

    return draw


def study_report_html(report: Report) -> str:
    """One file; nothing is loaded from elsewhere, and nothing in it runs."""
    body = "".join(_html_section(section) for section in report.sections)
    return (
        '<!doctype html><html lang="en"><meta charset="utf-8">'
        '<meta name="viewport" content="width=device-width">'
        f"<title>{escape(report.title)}</title><style>{_STYLE}</style>"
        f"<h1>{escape(report.title)}</h1><p>Written on {escape(report.made_on)}.</p>{body}"
        f"<footer>{escape(profile_words(report.labs))}</footer></html>"
    )


_STYLE = (
    "body{font:15px/1.45 sans-serif;max-width:75rem;margin:2rem auto;padding:0 1rem;"
    "background:#eee;color:#1c1c1c}h2{font-size:1.15rem;margin-top:2rem}"
    "table{border-collapse:collapse;font-size:.85rem}td,th{text-align:left;vertical-align:top;"
    "padding:.15rem .6rem .15rem 0}.t td,.t th{border-bottom:1px solid #bbb}.scroll{overflow:auto}"
    ".g td.c{min-width:4.5rem;padding:0 1px 6px}.g .b{height:3.2rem}footer{font-size:.75rem;"
    "margin-top:2rem}"
)


def _html_section(section: ReportSection) -> str:
    parts = [f"<h2>{escape(section.heading)}</h2>"]
    parts += [f"<p>{escape(words)}</p>" for words in section.paragraphs]
    if section.grid:
        head = "".join(f"<th>{escape(name)}</th>" for name in section.grid.columns)
        rows = "".join(
            f"<tr><th>{escape(name)}</th>"
            + "".join(
                f'<td class="c"><div class="b" style="background:{escape(cell.hex)}"></div>{escape(cell.caption)}</td>'
                if cell.hex
                else f'<td class="c">{escape(cell.caption)}</td>'
                for cell in row
            )
            + "</tr>"
            for name, row in section.grid.rows
        )
        parts.append(f'<div class="scroll"><table class="g"><tr><th></th>{head}</tr>{rows}</table></div>')
    if section.table and section.table.rows:
        head = "".join(f"<th>{escape(name)}</th>" for name in section.table.head)
        rows = "".join(
            "<tr>" + "".join(f"<td>{escape(words)}</td>" for words in row) + "</tr>" for row in section.table.rows
        )
        parts.append(f'<div class="scroll"><table class="t"><tr>{head}</tr>{rows}</table></div>')
    return "".join(parts)
