"""A map of what lies where on a cloth, to lie on the table while it is laid."""

from collections.abc import Sequence

from reportlab.lib.units import mm
from reportlab.platypus import Flowable

from zesty_grid.core.record.laid import LaidZone
from zesty_grid.formats.bench_fonts import BOLD, FONT, use_bench_fonts

WIDTH_MM, HEIGHT_MM, HEAD_MM = 84.0, 58.0, 6.0
LINE_MM, POINTS = 3.4, 7


class ClothMapOnPaper(Flowable):  # type: ignore[misc]
    def __init__(self, title: str, zones: Sequence[LaidZone]) -> None:
        super().__init__()
        self.title, self.zones = title, zones
        self.width, self.height = WIDTH_MM * mm, (HEIGHT_MM + HEAD_MM) * mm

    def draw(self) -> None:
        use_bench_fonts()
        canvas = self.canv
        canvas.setFont(BOLD, 9)
        canvas.drawString(0, HEIGHT_MM * mm + 2 * mm, self.title)
        canvas.rect(0, 0, WIDTH_MM * mm, HEIGHT_MM * mm, stroke=1, fill=0)
        canvas.setDash(2, 2)
        for zone in self.zones:
            left, wide = zone.x * WIDTH_MM, zone.width * WIDTH_MM
            top, high = (1 - zone.y) * HEIGHT_MM, zone.height * HEIGHT_MM
            canvas.rect(left * mm, (top - high) * mm, wide * mm, high * mm, stroke=1, fill=0)
            canvas.setFont(FONT, POINTS)
            for i, line in enumerate(self._lines(zone.zone, wide - 2)):
                if (i + 1) * LINE_MM < high:
                    canvas.drawString((left + 1) * mm, (top - (i + 1) * LINE_MM) * mm, line)
        canvas.setDash()

    def _lines(self, words: str, width_mm: float) -> list[str]:
        lines = [""]
        for word in words.split(" "):
            longer = f"{lines[-1]} {word}".strip()
            if self.canv.stringWidth(longer, FONT, POINTS) > width_mm * mm and lines[-1]:
                lines.append(word)
            else:
                lines[-1] = longer
        return lines
