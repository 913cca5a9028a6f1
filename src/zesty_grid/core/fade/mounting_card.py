"""Cards on which pieces are mounted for a trial, to scale: places, cover lines, notches, a turn."""

import numpy as np

from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.frozen import Frozen

CARD_MM = (190.0, 130.0)
MARGIN_MM, HEAD_MM, GAP_MM = 8.0, 14.0, 5.0
PIECE_MM = (50.0, 28.0)
STRIP_MM = (80.0, 28.0)


class Place(Frozen):
    """One piece on a card. `lines_mm`: how far from its left edge the cover lies, step by step;
    `knots`: nothing to read wet, so the code is written beside it."""

    swatch: str
    x_mm: float
    y_mm: float
    w_mm: float
    h_mm: float
    lines_mm: tuple[float, ...]
    wool: int | None = None


class MountingCard(Frozen):
    number: int
    places: tuple[Place, ...]


def lay_out_cards(plan: TrialPlan) -> list[MountingCard]:
    """Swatches in an order shuffled by the trial's seed; blue wools on the first card."""
    width, height = STRIP_MM if plan.mount == "strip" else PIECE_MM
    columns = int((CARD_MM[0] - 2 * MARGIN_MM + GAP_MM) // (width + GAP_MM))
    rows = int((CARD_MM[1] - MARGIN_MM - HEAD_MM + GAP_MM) // (height + GAP_MM))
    order = np.random.default_rng(plan.seed).permutation(len(plan.swatches))
    pieces: list[tuple[str, int | None]] = [(f"blue wool {wool.number}", wool.number) for wool in plan.wools]
    pieces += [(plan.swatches[i], None) for i in order]
    lines = tuple(width * n / plan.steps for n in range(1, plan.steps))
    per_card = columns * rows
    cards = []
    for start in range(0, len(pieces), per_card):
        places = []
        for n, (name, wool) in enumerate(pieces[start : start + per_card]):
            row, column = divmod(n, columns)
            places.append(
                Place(
                    swatch=name,
                    x_mm=MARGIN_MM + column * (width + GAP_MM),
                    y_mm=HEAD_MM + row * (height + GAP_MM),
                    w_mm=width,
                    h_mm=height,
                    lines_mm=lines if wool is None or lines else (width / 2,),
                    wool=wool,
                )
            )
        cards.append(MountingCard(number=start // per_card + 1, places=tuple(places)))
    return cards
