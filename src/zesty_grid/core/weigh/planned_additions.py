"""How much of each planned addition goes into a vessel."""

from collections.abc import Iterable

from zesty_grid.core.plan.planned_addition import BY_FIBRE_OR_BATH, PlannedAddition
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.record.measures import LIQUID_G_ML, TEASPOON_ML, TEASPOONS, VOLUMES_ML, measure_words, teaspoon_g
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.items import DyeLot, Substance
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.measuring_out import dry_or_stock
from zesty_grid.core.weigh.spoons import spoon_words
from zesty_grid.core.weigh.stock_solution import dose_g
from zesty_grid.core.weigh.working import Figure, grams_words, volume_words

FROM_PLAN = "from the plan"


def addition_figures(plan: StudyPlan, vessel: Vessel, shelf: Shelf) -> list[Figure]:
    """A figure for each addition of the vessel's recipe, in the order in which they go in.

    Raises Refusal where the Shelf lacks it.
    """
    return [_figure(plan, vessel, added, shelf) for added in in_order(vessel.additions)]


def in_order(additions: Iterable[PlannedAddition]) -> list[PlannedAddition]:
    """Before all else, once the pH is set, then by the minutes after the pieces."""
    before: dict[str, int] = {"first": -2, "after the pH": -1}
    return sorted(additions, key=lambda one: before.get(one.moment, one.after_min or 0))


def _figure(plan: StudyPlan, vessel: Vessel, added: PlannedAddition, shelf: Shelf) -> Figure:
    if added.what == "dye lot":
        return _more_dye(vessel, added, shelf)
    substance = next((one for one in shelf.substances if one.key == added.item), None)
    if substance is None:
        raise _gone(added.item)
    name = substance.name.lower()
    here, why = _here(vessel, added)
    grams, working = _grams(vessel, here)
    if grams is not None:
        said = f"{why}{working}"
        figure = dry_or_stock(plan, shelf, "addition", name, grams, vessel.dry_fibre_g, said, FROM_PLAN)
        return figure.model_copy(update={"moment": added.when_words})
    return _by_measure(vessel, here, substance, name, why)


def _here(vessel: Vessel, added: PlannedAddition) -> tuple[PlannedAddition, str]:
    """What goes in where it was given for another mass of fibre, and how that was worked out."""
    given = vessel.given_for
    if added.unit in BY_FIBRE_OR_BATH:
        return added, ""
    if given is None or not given.vessel_g:
        return added, "kept as given, whatever the fibre: " if vessel.as_given else ""
    here = added.model_copy(update={"amount": added.amount * vessel.times})
    where = f" in {given.vessel}" if given.vessel else ""
    said = f"{measure_words(added.amount, added.unit)} for {grams_words(given.vessel_g)}{where}"
    return here, f"{said} × {grams_words(vessel.dry_fibre_g)}: "


def _grams(vessel: Vessel, added: PlannedAddition) -> tuple[float | None, str]:
    litres = vessel.volume_ml / 1000
    if added.unit == "g":
        return added.amount, grams_words(added.amount)
    if added.unit == "% WOF":
        grams = dose_g(added.amount, vessel.dry_fibre_g)
        return grams, (f"{added.amount:g} % × {grams_words(vessel.dry_fibre_g)} = {grams_words(grams)}")
    if added.unit == "g/L":
        grams = added.amount * litres
        return grams, f"{added.amount:g} g/L × {litres:.2f} L = {grams_words(grams)}"
    return None, ""


def _by_measure(vessel: Vessel, added: PlannedAddition, substance: Substance, name: str, why: str) -> Figure:
    """Millilitres, drops, spoons or cups: in grams only where what they weigh is known."""
    common = {"role": "addition", "name": name, "moment": added.when_words, "source": FROM_PLAN}
    is_liquid = substance.stock_percent is not None
    measure = measure_words(added.amount, added.unit) if vessel.times == 1 else f"{added.amount:.2g} {added.unit}"
    if added.unit in TEASPOONS and is_liquid:
        volume_ml = added.amount * TEASPOONS[added.unit] * TEASPOON_ML
        facts = {
            "volume_ml": volume_ml,
            "grams": volume_ml * LIQUID_G_ML,
            "spoons": measure if vessel.times == 1 else "",
        }
        return Figure.model_validate(common | facts | {"working": f"{why}{measure} = {volume_words(volume_ml)}"})
    if added.unit in TEASPOONS:
        each_g = teaspoon_g(substance)
        if each_g is None:
            working = f"{why}{measure}; what a spoon of it weighs is not on the Shelf"
            return Figure.model_validate(common | {"words": measure, "working": working})
        grams = added.amount * TEASPOONS[added.unit] * each_g
        working = f"{why}{measure}, {each_g:g} g a level teaspoon = {grams_words(grams)}"
        spoons = measure if vessel.times == 1 else spoon_words(grams, each_g)
        return Figure.model_validate(common | {"grams": grams, "spoons": spoons, "working": working})
    working = f"{why}{measure}"
    volume_ml = added.amount * VOLUMES_ML.get(added.unit, 1.0)
    if added.unit == "mL/L":
        volume_ml = added.amount * vessel.volume_ml / 1000
        working = f"{added.amount:g} mL/L × {vessel.volume_ml / 1000:.2f} L = {volume_words(volume_ml)}"
    return Figure.model_validate(
        common | {"volume_ml": volume_ml, "working": working, "grams": volume_ml * LIQUID_G_ML if is_liquid else None}
    )


def _more_dye(vessel: Vessel, added: PlannedAddition, shelf: Shelf) -> Figure:
    lot: DyeLot | None = shelf.dye_lot(added.item)
    if lot is None:
        raise _gone(added.item)
    here, why = _here(vessel, added)
    more_g, working = _grams(vessel, here)
    said = f"{why}{working}"
    return Figure(
        role="dye stuff", name=lot.name, grams=more_g, working=said, source=FROM_PLAN, moment=added.when_words
    )


def _gone(item: str) -> Refusal:
    return Refusal("not-on-shelf", f"“{item}” is not on the Shelf.", "Put it there, or add something else.")
