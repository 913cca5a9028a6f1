"""The fonts of the bench papers: they come with reportlab and are free."""

from pathlib import Path

import reportlab
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont

FONT, BOLD = "BenchText", "BenchBold"
_FOLDER = Path(reportlab.__file__).parent / "fonts"


def use_bench_fonts() -> None:
    """Makes the fonts known to reportlab; once is enough."""
    if FONT not in pdfmetrics.getRegisteredFontNames():
        pdfmetrics.registerFont(TTFont(FONT, _FOLDER / "Vera.ttf"))
        pdfmetrics.registerFont(TTFont(BOLD, _FOLDER / "VeraBd.ttf"))
        pdfmetrics.registerFontFamily(FONT, normal=FONT, bold=BOLD)
