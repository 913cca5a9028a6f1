"""What the whole study takes, against what is in hand, with its cost."""

from typing import Literal

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.swatches import SwatchPlace
from zesty_grid.core.shelf.items import Stocked
from zesty_grid.core.shelf.mixtures import parts_of_lot
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.amounts import VesselAmounts
from zesty_grid.core.weigh.stock_solution import Stock
from zesty_grid.core.weigh.working import grams_words


class Total(Frozen):
    """`short_g` is what is missing; None where the amount in hand is not written down."""

    kind: Literal["fibre", "substance", "dye lot"]
    name: str
    grams: float
    in_hand_g: float | None
    short_g: float | None
    cost: float | None
    working: str


def totals_of_study(
    plan: StudyPlan, swatches: list[SwatchPlace], fibre_of: dict[str, str],
    amounts: list[VesselAmounts], stocks: list[Stock], shelf: Shelf,
) -> list[Total]:  # fmt: skip
    """Fibres, dye lots (mixtures taken apart) and substances; `fibre_of` by cell key."""
    fibres: dict[str, int] = {}
    for swatch in swatches:
        key = fibre_of.get(swatch.cell)
        if key:
            fibres[key] = fibres.get(key, 0) + 1
    found = []
    for key, count in fibres.items():
        fibre = shelf.fibre(key)
        grams = count * plan.swatch_mass_g
        working = f"{count} swatches × {plan.swatch_mass_g:g} g = {grams_words(grams)}"
        found.append(_total("fibre", fibre.name if fibre else key, grams, fibre, working))
    return found + _lots(amounts, shelf) + _substances(amounts, stocks, shelf)


def _lots(amounts: list[VesselAmounts], shelf: Shelf) -> list[Total]:
    wanted: dict[str, float] = {}
    for one in amounts:
        for figure in one.figures:
            lot = next((lot for lot in shelf.dye_lots if lot.name == figure.name), None)
            if figure.role == "dye stuff" and figure.grams and lot:
                for part, grams in parts_of_lot(lot, figure.grams, shelf):
                    wanted[part.key] = wanted.get(part.key, 0.0) + grams
    return [
        _total("dye lot", lot.name, grams, lot, f"all vessels together: {grams_words(grams)}")
        for key, grams in wanted.items()
        if (lot := shelf.dye_lot(key))
    ]


def _substances(amounts: list[VesselAmounts], stocks: list[Stock], shelf: Shelf) -> list[Total]:
    wanted: dict[str, float] = {}
    for one in amounts:
        for figure in one.figures:
            if figure.role in ("water", "dye stuff", "dye liquor") or figure.grams is None:
                continue
            if figure.stock_percent is None:
                wanted[figure.name] = wanted.get(figure.name, 0.0) + figure.grams
    for stock in stocks:
        wanted[stock.name] = wanted.get(stock.name, 0.0) + stock.grams
    return [
        _total("substance", name, grams, shelf.substance_named(name),
               f"weighed in and made into stock: {grams_words(grams)}")
        for name, grams in wanted.items()
    ]  # fmt: skip


def _total(
    kind: Literal["fibre", "substance", "dye lot"], name: str, grams: float,
    item: Stocked | None, working: str,
) -> Total:  # fmt: skip
    in_hand = item.amount_in_hand_g if item else None
    price = item.price_per_100_g if item else None
    return Total(
        kind=kind, name=name, grams=grams, in_hand_g=in_hand,
        short_g=max(0.0, grams - in_hand) if in_hand is not None else None,
        cost=grams * price / 100 if price is not None else None, working=working,
    )  # fmt: skip
