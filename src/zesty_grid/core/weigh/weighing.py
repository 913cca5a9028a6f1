"""All that the Weigh lens shows: every bath, extracts, stocks, totals, effort and cautions."""

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.swatches import swatches_of
from zesty_grid.core.plan.vessels import Vessel
from zesty_grid.core.shelf.items import FibreClass
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.amounts import VesselAmounts, stocks_to_make, weigh_vessel
from zesty_grid.core.weigh.cautions import (
    SubstanceCard,
    cards_for,
    vessel_cautions,
    weighing_cautions,
)
from zesty_grid.core.weigh.effort import Effort, effort_of
from zesty_grid.core.weigh.extraction import Extraction, extractions_of, with_extract
from zesty_grid.core.weigh.stock_solution import Stock
from zesty_grid.core.weigh.totals import Total, totals_of_study


class Weighing(Frozen):
    """`vessel_cautions` by vessel key."""

    vessels: tuple[VesselAmounts, ...]
    extractions: tuple[Extraction, ...]
    stocks: tuple[Stock, ...]
    totals: tuple[Total, ...]
    effort: Effort
    cautions: tuple[str, ...]
    vessel_cautions: dict[str, tuple[str, ...]]
    cards: tuple[SubstanceCard, ...]


def amounts_of(
    plan: StudyPlan, vessels: list[Vessel], shelf: Shelf
) -> tuple[list[VesselAmounts], list[Extraction]]:
    """The amounts of every vessel, with what each draws from the shared extracts."""
    amounts = [weigh_vessel(plan, vessel, shelf) for vessel in vessels]
    extractions = extractions_of(vessels, amounts, shelf)
    shares = {share.vessel: share for one in extractions for share in one.shares}
    drawn = [
        with_extract(own, shares[own.vessel]) if own.vessel in shares else own for own in amounts
    ]
    return drawn, extractions


def weigh_study(
    plan: StudyPlan, cells: list[Cell], vessels: list[Vessel], shelf: Shelf
) -> Weighing:
    amounts, extractions = amounts_of(plan, vessels, shelf)
    stocks = stocks_to_make(amounts)
    fibre_of = {cell.key: cell.levels["fibre"] for cell in cells if "fibre" in cell.levels}
    swatches = swatches_of(cells, plan.replicates)
    return Weighing(
        vessels=tuple(amounts),
        extractions=tuple(extractions),
        stocks=tuple(stocks),
        totals=tuple(totals_of_study(plan, swatches, fibre_of, amounts, stocks, shelf)),
        effort=effort_of(plan, vessels, extractions, shelf),
        cautions=weighing_cautions(amounts),
        vessel_cautions={
            vessel.key: vessel_cautions(vessel, own, classes_in(vessel, cells, shelf))
            for vessel, own in zip(vessels, amounts, strict=True)
        },
        cards=cards_for(amounts),
    )


def classes_in(vessel: Vessel, cells: list[Cell], shelf: Shelf) -> frozenset[FibreClass]:
    """Every class of fibre that goes into a vessel."""
    inside = set(vessel.cells)
    keys = {cell.levels.get("fibre", "") for cell in cells if cell.key in inside}
    fibres = [shelf.fibre(key) for key in keys]
    return frozenset().union(*(fibre.classes for fibre in fibres if fibre))
