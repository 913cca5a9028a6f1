"""The printed sheet: one drawing, as PDF and as PNG at 300 dpi."""

import io
from collections.abc import Mapping

import pypdfium2
import segno
from PIL import Image
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from zesty_grid.core.read.page_finder import MARKER_DICTIONARY, MARKER_MODULES
from zesty_grid.core.read.sheet_code import PREFIX
from zesty_grid.core.read.sheet_layout import (
    CELL_HEAD_MM,
    GREY_LEVELS,
    GreySpot,
    Marker,
    Pattern,
    RectMm,
    Sheet,
    SheetCell,
    id_rect_mm,
)

# As printers take it: 0 black, 1 the paper.
DOT_GREY = 0.7
DOT_SHARE = 0.46
LABEL_UNDER_GREYS_MM = 7.6
ON_CELLS = "Lay one swatch flat in each cell, over the dots; thin cloth folded."
ADVICE = (
    "Lay a 24-patch chart in the frame, the greys at the bottom.",
    ON_CELLS,
    "One kind of light, from two sides; no shadow, flash or reflections.",
    "Photograph from straight above, all four markers in the picture.",
    "Print at 100 %, on plain white paper without a gloss.",
)
ON_WINDOW = "Cut out the frame, and lay the page on the cloth, flat."


def sheet_code_text(sheet_id: str) -> str:
    """What the square code on the page says."""
    return f"{PREFIX}{sheet_id}"


def sheet_pdf(sheet: Sheet, title: str = "", labels: Mapping[str, str] | None = None) -> bytes:
    """The page as PDF; `labels` gives the text over each cell."""
    buffer = io.BytesIO()
    width, height = sheet.page_mm
    canvas = Canvas(buffer, pagesize=(width * mm, height * mm), invariant=True)
    canvas.setTitle(f"Zesty Grid sheet {sheet.id}")
    page = _Page(canvas, height)
    for marker in sheet.markers:
        page.marker(marker)
    page.code(sheet_code_text(sheet.id), id_rect_mm(sheet.page_mm))
    page.slot(sheet)
    page.heading(sheet, title)
    for spot in sheet.greys:
        page.grey(spot)
    if sheet.pattern:
        for rect in (*sheet.pattern.reference_mm, *(cell.rect_mm for cell in sheet.cells)):
            page.pattern(sheet.pattern, rect)
    for cell in sheet.cells:
        page.cell(cell, (labels or {}).get(cell.cell, ""))
    canvas.showPage()
    canvas.save()
    return buffer.getvalue()


def sheet_image(pdf: bytes, dpi: float = 300) -> Image.Image:
    """The page drawn as pixels."""
    document = pypdfium2.PdfDocument(pdf)
    return document[0].render(scale=dpi / 72).to_pil().convert("RGB")


def sheet_png(pdf: bytes) -> bytes:
    buffer = io.BytesIO()
    sheet_image(pdf).save(buffer, "PNG", dpi=(300, 300), optimize=True)
    return buffer.getvalue()


class _Page:
    """Draws in millimetres from the top left, as the sheet counts."""

    def __init__(self, canvas: Canvas, height_mm: float) -> None:
        self.canvas = canvas
        self.height_mm = height_mm

    def box(self, x: float, y: float, w: float, h: float) -> None:
        self.canvas.rect(x * mm, (self.height_mm - y - h) * mm, w * mm, h * mm, stroke=0, fill=1)

    def text(self, x: float, y: float, size: float, words: str, bold: bool = False) -> None:
        self.canvas.setFont("Helvetica-Bold" if bold else "Helvetica", size)
        self.canvas.drawString(x * mm, (self.height_mm - y) * mm, words)

    def line(self, x0: float, y0: float, x1: float, y1: float) -> None:
        top = self.height_mm
        self.canvas.line(x0 * mm, (top - y0) * mm, x1 * mm, (top - y1) * mm)

    def modules(self, dark: list[list[bool]], rect: RectMm) -> None:
        x, y, w, _ = rect
        size = w / len(dark)
        self.canvas.setFillGray(0)
        for row, line in enumerate(dark):
            for column, is_dark in enumerate(line):
                if is_dark:
                    self.box(x + column * size, y + row * size, size + 0.02, size + 0.02)

    def marker(self, marker: Marker) -> None:
        bits = MARKER_DICTIONARY.generateImageMarker(marker.id, MARKER_MODULES)
        (x, y), (x1, _) = marker.corners_mm[:2]
        self.modules([[value == 0 for value in row] for row in bits], (x, y, x1 - x, x1 - x))

    def code(self, text: str, rect: RectMm) -> None:
        symbol = segno.make(text, error="m", micro=False)
        self.modules([[value == 1 for value in row] for row in symbol.matrix], rect)

    def slot(self, sheet: Sheet) -> None:
        quad = sheet.chart.quad_mm
        (x0, y0), (x1, y1) = quad[0], quad[2]
        self._ticks(x0 - 1, y0 - 1, x1 + 1, y1 + 1, 6)

    def heading(self, sheet: Sheet, title: str) -> None:
        left = 146.0
        self.canvas.setFillGray(0)
        self.text(left, 17, 15, "Zesty Grid", bold=True)
        self.text(left, 23, 9, f"Sheet {sheet.id}")
        self.text(left, 28, 9, title[:44])
        for i, advice in enumerate(ADVICE):
            said = ON_WINDOW if sheet.kind == "window" and advice == ON_CELLS else advice
            self.text(left, 44 + i * 5, 8, f"{i + 1}. {said}")

    def grey(self, spot: GreySpot) -> None:
        self.canvas.setFillGray(GREY_LEVELS[spot.level])
        self.box(*spot.rect_mm)

    def pattern(self, pattern: Pattern, rect: RectMm) -> None:
        """Dots counted from the rectangle's corner; rectangles of one size are drawn once."""
        x, y, w, h = rect
        name = f"dots{1000 * w:.0f}x{1000 * h:.0f}"
        if not self.canvas.hasForm(name):
            self.canvas.beginForm(name, 0, 0, w * mm, h * mm)
            self.canvas.setFillGray(DOT_GREY)
            step, radius = pattern.step_mm, DOT_SHARE * pattern.step_mm
            for row in range(int(h // step)):
                for column in range(row % 2, int(w // step), 2):
                    centre = ((column + 0.5) * step * mm, (h - (row + 0.5) * step) * mm)
                    self.canvas.circle(*centre, radius * mm, stroke=0, fill=1)
            self.canvas.endForm()
        self.canvas.saveState()
        self.canvas.translate(x * mm, (self.height_mm - y - h) * mm)
        self.canvas.doForm(name)
        self.canvas.restoreState()

    def cell(self, cell: SheetCell, label: str) -> None:
        x, y, w, h = cell.rect_mm
        self._ticks(x - 0.6, y - 0.6, x + w + 0.6, y + h + 0.6, 3)
        self.canvas.setFillGray(0)
        under_greys = y - CELL_HEAD_MM + LABEL_UNDER_GREYS_MM
        self.text(x, under_greys, 8, f"{cell.cell}  {label}".strip())

    def _ticks(self, x0: float, y0: float, x1: float, y1: float, length: float) -> None:
        self.canvas.setStrokeGray(0.45)
        self.canvas.setLineWidth(0.5)
        for x, inward_x in ((x0, length), (x1, -length)):
            for y, inward_y in ((y0, length), (y1, -length)):
                self.line(x, y, x + inward_x, y)
                self.line(x, y, x, y + inward_y)
