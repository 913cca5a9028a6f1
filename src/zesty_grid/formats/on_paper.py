"""Pages that are laid out for A4, on Letter too."""

from reportlab.lib.pagesizes import A4, landscape, letter
from reportlab.pdfgen.canvas import Canvas

from zesty_grid.core.read.sheet_layout import Paper


def begin_page(canvas: Canvas, paper: Paper, lying: bool = True) -> None:
    """Call it before anything is drawn on a page. On Letter all of it is drawn smaller, by 6 %, and
    in the middle; what must be to scale is no matter for this."""
    if paper == "A4":
        return
    (wide, high), (width, height) = (landscape(A4), landscape(letter)) if lying else (A4, letter)
    canvas.setPageSize((width, height))
    share = min(width / wide, height / high)
    canvas.translate((width - wide * share) / 2, (height - high * share) / 2)
    canvas.scale(share, share)
