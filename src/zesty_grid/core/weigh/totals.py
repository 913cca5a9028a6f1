"""What the whole study takes, against what is in hand, with its cost."""

from collections.abc import Collection
from typing import Literal

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.vessel_filling import dry_fibre
from zesty_grid.core.record.swatch import Swatch
from zesty_grid.core.shelf.items import Stocked
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.amounts import VesselAmounts
from zesty_grid.core.weigh.dye_stuff import parts_taken
from zesty_grid.core.weigh.stock_solution import Stock
from zesty_grid.core.weigh.working import grams_words, volume_words

TotalKind = Literal["fibre", "substance", "dye lot"]
NOT_WEIGHED = ("water", "dye stuff", "dye liquor", "detergent")


class Total(Frozen):
    """`used_g` went into baths that have begun; the rest of `grams` is still needed.

    `short_g` is what is missing of that; None where the amount in hand is not written down.
    `volume_ml`: of what is measured and not weighed, instead of `grams`.
    """

    kind: TotalKind
    name: str
    grams: float
    used_g: float
    in_hand_g: float | None
    short_g: float | None
    cost: float | None
    working: str
    volume_ml: float | None = None


def needed_words(total: Total) -> str:
    return grams_words(total.grams) if total.volume_ml is None else volume_words(total.volume_ml)


def totals_of_study(
    study: PlannedStudy,
    ahead: list[VesselAmounts],
    used: list[VesselAmounts],
    stocks: list[Stock],
    put_by: Collection[str],
) -> list[Total]:
    """Fibres, dye lots (mixtures taken apart), substances and detergents, for baths ahead and those
    begun, scours among them.

    `put_by` names baths ahead whose dye is extracted already.
    """
    by_fibre: dict[str, list[Swatch]] = {}
    for swatch in study.planned:
        if swatch.fibre and swatch.parent is None:
            by_fibre.setdefault(swatch.fibre, []).append(swatch)
    found = []
    for key, swatches in by_fibre.items():
        fibre = study.shelf.fibre(key)
        grams, working = dry_fibre(swatches)
        cut_g = sum(swatch.mass_g for swatch in swatches if swatch.settled)
        found.append(_total("fibre", fibre.name if fibre else key, grams, cut_g, fibre, working))
    extracted = [*used, *(one for one in ahead if one.vessel in put_by)]
    lots = _lots([*ahead, *used], extracted, study.shelf)
    return found + lots + _substances(ahead, used, stocks, study.shelf) + _detergents(ahead, used)


def _detergents(ahead: list[VesselAmounts], used: list[VesselAmounts]) -> list[Total]:
    found: dict[str, list[float]] = {}
    for one in [*ahead, *used]:
        for figure in one.figures:
            if figure.role == "detergent" and figure.volume_ml is not None:
                found.setdefault(figure.name, []).append(figure.volume_ml)
    return [
        Total(
            kind="substance",
            name=name,
            grams=0.0,
            used_g=0.0,
            in_hand_g=None,
            short_g=None,
            cost=None,
            volume_ml=sum(volumes),
            working=f"{len(volumes)} baths together: {volume_words(sum(volumes))}",
        )
        for name, volumes in found.items()
    ]


def _lots(every: list[VesselAmounts], used: list[VesselAmounts], shelf: Shelf) -> list[Total]:
    def wanted(amounts: list[VesselAmounts]) -> dict[str, float]:
        found: dict[str, float] = {}
        for one in amounts:
            for figure in one.figures:
                lot = next((lot for lot in shelf.dye_lots if lot.name == figure.name), None)
                if figure.role == "dye stuff" and lot:
                    for part, grams in parts_taken(figure, lot, shelf):
                        found[part.key] = found.get(part.key, 0.0) + grams
        return found

    needed, gone = wanted(every), wanted(used)
    return [
        _total("dye lot", lot.name, grams, gone.get(key, 0.0), lot, f"all vessels together: {grams_words(grams)}")
        for key, grams in needed.items()
        if (lot := shelf.dye_lot(key))
    ]


def _substances(
    ahead: list[VesselAmounts], used: list[VesselAmounts], stocks: list[Stock], shelf: Shelf
) -> list[Total]:
    def weighed_in(amounts: list[VesselAmounts], from_stock: bool) -> dict[str, float]:
        found: dict[str, float] = {}
        for one in amounts:
            for figure in one.figures:
                if figure.role in NOT_WEIGHED or figure.grams is None:
                    continue
                if from_stock or figure.stock_percent is None:
                    found[figure.name] = found.get(figure.name, 0.0) + figure.grams
        return found

    needed, gone = weighed_in(ahead, from_stock=False), weighed_in(used, from_stock=True)
    for stock in stocks:
        needed[stock.name] = needed.get(stock.name, 0.0) + stock.grams
    for name, grams in gone.items():
        needed[name] = needed.get(name, 0.0) + grams
    return [
        _total(
            "substance",
            name,
            grams,
            gone.get(name, 0.0),
            shelf.substance_named(name),
            f"weighed in and made into stock: {grams_words(grams)}",
        )
        for name, grams in needed.items()
    ]


def _total(kind: TotalKind, name: str, grams: float, used_g: float, item: Stocked | None, working: str) -> Total:
    in_hand = item.amount_in_hand_g if item else None
    price = item.price_per_100_g if item else None
    said = f"{working}; {grams_words(used_g)} of it in baths that have begun" if used_g else working
    return Total(
        kind=kind,
        name=name,
        grams=grams,
        used_g=used_g,
        in_hand_g=in_hand,
        short_g=max(0.0, grams - used_g - in_hand) if in_hand is not None else None,
        cost=grams * price / 100 if price is not None else None,
        working=said,
    )
