"""Mounting cards as PDF, to scale, one a page, with the plan of stages beside them."""

import io
from collections.abc import Sequence

from reportlab.lib.pagesizes import A4, landscape, letter
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from zesty_grid.core.fade.mounting_card import CARD_MM, MountingCard, Place
from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.fade.trial_state import TrialState
from zesty_grid.core.read.sheet_layout import Paper
from zesty_grid.formats.bench_fonts import BOLD, FONT, use_bench_fonts

LEFT_MM, TOP_MM = 15.0, 15.0
NOTCH_MM = 3.0


def mounting_cards_pdf(
    plan: TrialPlan, state: TrialState, cards: Sequence[MountingCard], study_name: str, paper: Paper = "A4"
) -> bytes:
    """To scale on either paper."""
    use_bench_fonts()
    buffer = io.BytesIO()
    width, height = landscape(A4 if paper == "A4" else letter)
    canvas = Canvas(buffer, pagesize=(width, height), invariant=True)
    canvas.setTitle(f"Cards of {plan.name}")
    for card in cards:
        _card(canvas, height, plan, card, len(cards), study_name)
        _stages(canvas, height, plan, state)
        canvas.showPage()
    canvas.save()
    return buffer.getvalue()


def _card(canvas: Canvas, height: float, plan: TrialPlan, card: MountingCard, count: int, study_name: str) -> None:
    top = height - TOP_MM * mm
    canvas.setStrokeGray(0.2)
    canvas.rect(LEFT_MM * mm, top - CARD_MM[1] * mm, CARD_MM[0] * mm, CARD_MM[1] * mm)
    canvas.setFont(BOLD, 10)
    canvas.drawString((LEFT_MM + 8) * mm, top - 8 * mm, f"{plan.name[:50]} · card {card.number} of {count}")
    canvas.setFont(FONT, 8)
    canvas.drawString((LEFT_MM + 8) * mm, top - 12 * mm, study_name[:80])
    canvas.drawRightString((LEFT_MM + CARD_MM[0] - 8) * mm, top - 8 * mm, "this edge up · turn by a half at each stage")
    for place in card.places:
        _place(canvas, top, place)


def _place(canvas: Canvas, top: float, place: Place) -> None:
    x, y = (LEFT_MM + place.x_mm) * mm, top - (place.y_mm + place.h_mm) * mm
    canvas.setDash()
    canvas.setLineWidth(0.5)
    canvas.rect(x, y, place.w_mm * mm, place.h_mm * mm)
    canvas.setFont(BOLD, 9)
    canvas.drawString(x + 1.5 * mm, y + place.h_mm * mm - 4 * mm, place.swatch)
    canvas.setFont(FONT, 7)
    if place.lines_mm:
        canvas.drawString(x + 1.5 * mm, y + 2 * mm, "covered")
    for number, line in enumerate(place.lines_mm, 1):
        at = x + line * mm
        canvas.setDash(2, 2)
        canvas.line(at, y, at, y + place.h_mm * mm)
        canvas.setDash()
        # A notch at the edge shows where the cover lies once the piece is off the card.
        for edge, way in ((y, 1), (y + place.h_mm * mm, -1)):
            canvas.line(at - 1 * mm, edge, at, edge + way * NOTCH_MM * mm)
            canvas.line(at + 1 * mm, edge, at, edge + way * NOTCH_MM * mm)
        if len(place.lines_mm) > 1:
            canvas.drawRightString(at - 0.6 * mm, y + place.h_mm / 2 * mm, str(number))


def _stages(canvas: Canvas, height: float, plan: TrialPlan, state: TrialState) -> None:
    x, y = (LEFT_MM + CARD_MM[0] + 6) * mm, height - (TOP_MM + 6) * mm
    canvas.setFont(BOLD, 9)
    canvas.drawString(x, y, "Stages")
    canvas.setFont(FONT, 8)
    if state.starts_on:
        y -= 5 * mm
        canvas.drawString(x, y, f"from {state.starts_on:%-d %b %Y}")
    for stage in state.stages:
        y -= 6 * mm
        due = f" · due {stage.due_on:%-d %b %Y}" if stage.due_on else ""
        canvas.drawString(x, y, f"{stage.plan.label}{due}")
        canvas.rect(x - 4 * mm, y - 0.4 * mm, 2.8 * mm, 2.8 * mm)
        y -= 4 * mm
        canvas.drawString(x + 4 * mm, y, "done on ______________")
    y = height - (TOP_MM + CARD_MM[1] + 8) * mm
    canvas.setFont(FONT, 9)
    for words in _advice(plan):
        canvas.drawString(LEFT_MM * mm, y, words)
        y -= 5 * mm


def _advice(plan: TrialPlan) -> tuple[str, ...]:
    if plan.mount == "half covered":
        own = "Cover the left part of each piece up to the dashed line, with opaque card, tight."
    elif plan.mount == "strip":
        own = "Cover all but the rightmost part; at each stage move the cover one line to the left."
    else:
        own = "Mount the pieces to be exposed; keep the others of each swatch in a dark drawer."
    return (
        own,
        "Cut notches where the lines are: they show the cover's place once the piece is off.",
        "Print at 100 %: the frame is 190 × 130 mm. Card without brighteners; no glue on cloth.",
    )
