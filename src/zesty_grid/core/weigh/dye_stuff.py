"""How much of a dye goes with so much fibre: weighed, measured, counted, or mixed from parts."""

from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.record.measures import CUP_ML, DROP_ML, TEASPOON_ML
from zesty_grid.core.shelf.items import DyeLot
from zesty_grid.core.shelf.mixtures import parts_of_lot
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.measuring_out import dry_or_stock
from zesty_grid.core.weigh.spoons import spoon_words
from zesty_grid.core.weigh.stock_solution import dose_g
from zesty_grid.core.weigh.working import Figure, counted, grams_words, volume_words

FEW_DROPS_ML = 2.0
STRAIGHT_IN = "straight into the bath"


def dye_figure(plan: StudyPlan, vessel: Vessel, lot: DyeLot, shelf: Shelf) -> Figure:
    """The dye of a bath. What goes straight in says so in `words`."""
    mass_g = vessel.dry_fibre_g
    own = vessel.dose_g is not None or vessel.strength_percent_wof is not None
    source = "from the plan" if own else lot.source
    if lot.measured == "counted" and not own:
        return _counted(lot, mass_g, source)
    percent = vessel.strength_percent_wof or lot.strength_percent_wof
    amount = vessel.dose_g or dose_g(percent, mass_g)
    working = (
        weight_given(vessel, amount)
        if vessel.dose_g
        else f"{percent:g} % × {grams_words(mass_g)} = {grams_words(amount)}"
    )
    if lot.measured == "liquid":
        return _liquid(lot, amount, working, source)
    if lot.goes_straight_in:
        figure = dry_or_stock(plan, shelf, "dye stuff", lot.name, amount, mass_g, working, source)
        return figure.model_copy(update={"words": STRAIGHT_IN, "spelled": _spelled(lot, amount)})
    return Figure(
        role="dye stuff",
        name=lot.name,
        grams=amount,
        working=working,
        source=source,
        spelled=spelled_out(lot, amount, shelf),
    )


def weight_given(vessel: Vessel, grams: float) -> str:
    """How a weight that a recipe gives for a whole bath came to be what goes in."""
    if vessel.given_for is None:
        return f"{grams_words(grams)} for this bath, by weight"
    whole_g = vessel.given_for.bath_g
    given_g = grams * whole_g / vessel.dry_fibre_g
    given = f"{grams_words(given_g)} for {grams_words(whole_g)}"
    return f"{given} × {grams_words(vessel.dry_fibre_g)} = {grams_words(grams)}"


def parts_taken(figure: Figure, lot: DyeLot, shelf: Shelf) -> list[tuple[DyeLot, float]]:
    """What a figure takes of the lots in hand; none where a count was never weighed.

    A juice or liquor is counted by the millilitre, of about a gram.
    """
    amount = figure.grams or figure.volume_ml
    return parts_of_lot(lot, amount, shelf) if amount else []


def spelled_out(lot: DyeLot, grams: float, shelf: Shelf) -> str:
    """What a mixture is made of, or how many stones, cups or spoons so many grams are."""
    return _mixture(lot, grams, shelf) or _spelled(lot, grams)


def _liquid(lot: DyeLot, amount: float, working: str, source: str) -> Figure:
    """Juice and liquor by the millilitre; a solution by what is in it."""
    if lot.solution_percent:
        volume_ml = amount * 100 / lot.solution_percent
        said = f"{working}; {lot.solution_percent:g} g in 100 mL → {volume_words(volume_ml)}"
        grams: float | None = amount
    else:
        volume_ml, grams = amount, None
        said = working.replace(grams_words(amount), volume_words(amount)).replace(" % ×", " mL for 100 g ×")
    drops = f"about {counted(round(volume_ml / DROP_ML), 'drop')}" if volume_ml < FEW_DROPS_ML else ""
    return Figure(
        role="dye stuff",
        name=lot.name,
        grams=grams,
        volume_ml=volume_ml,
        words=STRAIGHT_IN,
        spelled=drops,
        working=said,
        source=source,
    )


def _counted(lot: DyeLot, mass_g: float, source: str) -> Figure:
    each = lot.pieces_per_100_g or 0.0
    number = max(1, round(each * mass_g / 100))
    count = counted(number, lot.piece_name)
    said = f"{each:g} for 100 g × {grams_words(mass_g)} = {count}"
    if lot.piece_g is None:
        said += f"; weigh one {lot.piece_name} once and write it on the Shelf"
        return Figure(role="dye stuff", name=lot.name, words=count, working=said, source=source)
    grams = number * lot.piece_g
    said += f" of {grams_words(lot.piece_g)} = {grams_words(grams)}"
    return Figure(role="dye stuff", name=lot.name, grams=grams, spelled=count, working=said, source=source)


def _mixture(lot: DyeLot, grams: float, shelf: Shelf) -> str:
    """ "40.0 g Bark (crushed) + 60.0 g Cones"; empty for a plain lot."""
    parts = parts_of_lot(lot, grams, shelf)
    if len(parts) < 2:
        return ""
    return " + ".join(
        f"{grams_words(own)} {part.name}{f' ({part.preparation})' if part.preparation else ''}" for part, own in parts
    )


def _spelled(lot: DyeLot, grams: float) -> str:
    """Stones, cups or spoons, where it is known what they weigh."""
    if lot.piece_g and lot.piece_name:
        return f"about {counted(max(1, round(grams / lot.piece_g)), lot.piece_name)}"
    if lot.cup_g and grams >= lot.cup_g / 2:
        return f"about {round(2 * grams / lot.cup_g) / 2:g} cups of {CUP_ML:g} mL"
    teaspoon_g = lot.teaspoon_g or (lot.cup_g * TEASPOON_ML / CUP_ML if lot.cup_g else None)
    return spoon_words(grams, teaspoon_g)
