"""A label for one swatch: its code in a square code and in letters, its tie, what it is."""

import segno
from reportlab.lib.units import mm
from reportlab.platypus import Flowable

from zesty_grid.core.plan.swatch_codes import label_code_text
from zesty_grid.formats.bench_fonts import BOLD, FONT, use_bench_fonts

# The square code keeps four of its modules clear around it (ISO/IEC 18004).
WIDTH_MM, HEIGHT_MM, CODE_MM, QUIET_MM = 43.0, 16.0, 11.5, 2.2
CHARACTERS_A_LINE, LINES = 22, 3


class SwatchLabel(Flowable):  # type: ignore[misc]
    def __init__(self, code: str, tie: str, words: str) -> None:
        super().__init__()
        self.code, self.tie, self.words = code, tie, words
        self.width, self.height = WIDTH_MM * mm, HEIGHT_MM * mm

    def draw(self) -> None:
        use_bench_fonts()
        canvas = self.canv
        matrix = segno.make(label_code_text(self.code), micro=False, error="m").matrix
        step = CODE_MM * mm / len(matrix)
        for r, row in enumerate(matrix):
            for c, dark in enumerate(row):
                if dark:
                    top = self.height - (r + 1) * step - QUIET_MM * mm
                    canvas.rect(QUIET_MM * mm + c * step, top, step, step, stroke=0, fill=1)
        left = (CODE_MM + 2 * QUIET_MM) * mm
        canvas.setFont(BOLD, 10)
        canvas.drawString(left, self.height - 4.5 * mm, self.code)
        canvas.setFont(FONT, 7)
        canvas.drawString(
            left + canvas.stringWidth(self.code, BOLD, 10) + 2 * mm, self.height - 4.5 * mm, f"tie {self.tie}"
        )
        canvas.setFont(FONT, 5)
        for i, line in enumerate(_broken(self.words)[:LINES]):
            canvas.drawString(left, self.height - (7.5 + 2.4 * i) * mm, line)


def _broken(words: str) -> list[str]:
    lines = [""]
    for word in words.split(" "):
        if len(lines[-1]) + len(word) > CHARACTERS_A_LINE and lines[-1]:
            lines.append("")
        lines[-1] = f"{lines[-1]} {word}".strip()
    return lines
