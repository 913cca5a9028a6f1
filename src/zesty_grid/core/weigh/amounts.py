"""Weights and volumes for each vessel, every figure with its working."""

from typing import Literal

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessels import Vessel
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.items import Shelf

IRON_STOCK_PERCENT = 1.0
STOCK_SPARE = 1.1
Role = Literal["water", "tannin", "mordant", "assist", "dye stuff", "iron"]


class Figure(Frozen):
    """One amount, with the arithmetic that led to it and where its default comes from."""

    role: Role
    name: str
    grams: float | None = None
    volume_ml: float | None = None
    working: str
    source: str


class VesselAmounts(Frozen):
    vessel: str
    dry_fibre_g: float
    dry_fibre_working: str
    figures: tuple[Figure, ...]


class Stock(Frozen):
    """A stock solution to make up, with a tenth to spare."""

    name: str
    strength_percent: float
    volume_ml: float
    grams: float
    working: str


def dose_g(percent_wof: float, dry_fibre_g: float) -> float:
    """Grams for a dose in % of the dry weight of fibre. Common practice."""
    if dry_fibre_g <= 0 or percent_wof < 0:
        raise ValueError("the dry mass must be above 0 and the dose not below 0")
    return percent_wof / 100 * dry_fibre_g


def stock_volume_ml(grams: float, stock_percent: float) -> float:
    """Millilitres of a stock of `stock_percent` (g in 100 mL) that hold `grams`."""
    if stock_percent <= 0:
        raise ValueError("a stock solution must be stronger than 0 %")
    return grams * 100 / stock_percent


def weigh_vessel(plan: StudyPlan, vessel: Vessel, shelf: Shelf) -> VesselAmounts:
    """Everything that goes into one vessel, in the order in which it goes in."""
    count = len(vessel.cells)
    mass_g = count * plan.swatch_mass_g
    water = _water(plan, mass_g)
    if vessel.bath in ("tannin", "mordant"):
        figures = _mordant_figures(vessel, mass_g, shelf)
    elif vessel.bath == "dye":
        figures = _dye_figures(vessel, mass_g, shelf)
    else:
        figures = _iron_figures(vessel, mass_g)
    return VesselAmounts(
        vessel=vessel.key,
        dry_fibre_g=mass_g,
        dry_fibre_working=f"{count} swatches × {plan.swatch_mass_g:g} g = {_g(mass_g)}",
        figures=(water, *figures),
    )


def iron_stock(amounts: list[VesselAmounts]) -> Stock | None:
    """The iron stock that all vessels together need, with spare; None without iron."""
    wanted_ml = sum(
        figure.volume_ml or 0 for a in amounts for figure in a.figures if figure.role == "iron"
    )
    if wanted_ml == 0:
        return None
    volume_ml = wanted_ml * STOCK_SPARE
    grams = volume_ml * IRON_STOCK_PERCENT / 100
    return Stock(
        name="iron(II) sulphate",
        strength_percent=IRON_STOCK_PERCENT,
        volume_ml=volume_ml,
        grams=grams,
        working=f"{_ml(wanted_ml)} × {STOCK_SPARE:g} to spare = {_ml(volume_ml)}; "
        f"{IRON_STOCK_PERCENT:g} g in 100 mL → {_g(grams)}",
    )


def _water(plan: StudyPlan, mass_g: float) -> Figure:
    volume_ml = plan.liquor_ratio_ml_per_g * mass_g
    return Figure(
        role="water", name="water", volume_ml=volume_ml,
        working=f"{plan.liquor_ratio_ml_per_g:g} mL/g × {_g(mass_g)} = {_ml(volume_ml)}",
        source="common practice: liquor ratio 20 to 40 mL/g",
    )  # fmt: skip


def _dose(role: Role, name: str, percent_wof: float, mass_g: float, source: str) -> Figure:
    grams = dose_g(percent_wof, mass_g)
    return Figure(
        role=role, name=name, grams=grams,
        working=f"{percent_wof:g} % × {_g(mass_g)} = {_g(grams)}", source=source,
    )  # fmt: skip


def _mordant_figures(vessel: Vessel, mass_g: float, shelf: Shelf) -> list[Figure]:
    route = shelf.mordant_route(vessel.route or "")
    if route is None or vessel.route_bath is None:
        raise _gone("mordant route", vessel.route or "")
    bath = route.baths[vessel.route_bath]
    figures = [_dose(bath.kind, bath.substance, bath.dose_percent_wof, mass_g, route.source)]
    if bath.assist and bath.assist_percent_wof:
        figures.append(_dose("assist", bath.assist, bath.assist_percent_wof, mass_g, route.source))
    return figures


def _dye_figures(vessel: Vessel, mass_g: float, shelf: Shelf) -> list[Figure]:
    lot = shelf.dye_lot(vessel.dye or "")
    if lot is None:
        raise _gone("dye lot", vessel.dye or "")
    return [_dose("dye stuff", lot.name, lot.strength_percent_wof, mass_g, lot.source)]


def _iron_figures(vessel: Vessel, mass_g: float) -> list[Figure]:
    percent = vessel.iron_percent_wof or 0.0
    grams = dose_g(percent, mass_g)
    volume_ml = stock_volume_ml(grams, IRON_STOCK_PERCENT)
    return [
        Figure(
            role="iron", name="iron(II) sulphate", grams=grams, volume_ml=volume_ml,
            working=f"{percent:g} % × {_g(mass_g)} = {_g(grams)} → {_ml(volume_ml)} of the "
            f"{IRON_STOCK_PERCENT:g} % stock",
            source="common practice: 0.5 to 2 % WOF as after-bath",
        )
    ]  # fmt: skip


def _gone(what: str, key: str) -> Refusal:
    return Refusal(
        "not-on-shelf", f"The {what} “{key}” is not on the Shelf.", "Choose another level."
    )


def _g(grams: float) -> str:
    return f"{grams:.2f} g" if grams < 10 else f"{grams:.1f} g"


def _ml(volume_ml: float) -> str:
    return f"{volume_ml:.0f} mL" if volume_ml >= 10 else f"{volume_ml:.1f} mL"
