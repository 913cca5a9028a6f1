"""Something put into a bath at a moment, in any measure, with its grams worked out."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.record.measures import DROP_ML, LIQUID_G_ML, TEASPOONS, VOLUMES_ML, Unit, measure_words, teaspoon_g
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.core.shelf.items import Share, Substance
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.working import grams_words, volume_words

What = Literal["substance", "dye lot", "water", "extract"]
# A few drops of what was not planned are not worth a question.
MOST_AS_PLANNED, UNPLANNED_G = 1.5, 0.25


class Addition(Frozen):
    """`item` is the key of a substance or dye lot on the Shelf, or the name of an extract's vessel.

    `stock_percent`: measured from a stock solution of so many g in 100 mL. What the server fills
    in: `name`, `grams` (None for water), `volume_ml` (None for what is dry) and the `working`.
    """

    what: What
    item: Annotated[str, Field(max_length=80)] = ""
    amount: Annotated[float, Field(gt=0, le=1e5, allow_inf_nan=False)]
    unit: Unit
    stock_percent: Share | None = None
    name: Annotated[str, Field(max_length=80)] = ""
    grams: Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)] | None = None
    volume_ml: Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)] | None = None
    working: Annotated[str, Field(max_length=300)] = ""

    @model_validator(mode="after")
    def _says_what(self) -> "Addition":
        if self.what != "water" and not (self.item or self.name):
            raise ValueError("an addition says what was put in")
        if self.what in ("water", "extract") and self.unit not in VOLUMES_ML:
            raise ValueError("water and extracts are measured in mL or L")
        if self.stock_percent is not None and self.unit not in ("mL", "L", "drops"):
            raise ValueError("a stock solution is measured in mL or drops")
        return self


def worked_out(addition: Addition, shelf: Shelf) -> Addition:
    """The same with its name, grams and volume. Raises Refusal for what is not on the Shelf, or
    where a spoon of it was never weighed."""
    if addition.what in ("water", "extract"):
        volume_ml = addition.amount * VOLUMES_ML[addition.unit]
        name = "water" if addition.what == "water" else f"extract of {addition.item}"
        return addition.model_copy(update={"name": name, "volume_ml": volume_ml, "working": volume_words(volume_ml)})
    if addition.what == "dye lot":
        lot = shelf.dye_lot(addition.item)
        if lot is None:
            raise _not_there(addition)
        return _filled(addition, lot.name, None)
    substance = next((s for s in shelf.substances if s.key == addition.item), None)
    if substance is None:
        raise _not_there(addition)
    return _filled(addition, substance.name, substance)


def words_of(addition: Addition) -> str:
    """As it is read in the log: "5 mL of the 1 % stock of iron(II) sulphate (0.05 g)"."""
    said = _measure(addition)
    if addition.stock_percent is not None:
        said += f" of the {addition.stock_percent:g} % stock of {addition.name}"
    else:
        said += f" {addition.name}"
    if addition.grams is not None and addition.unit != "g":
        said += f" ({grams_words(addition.grams)})"
    return said


def far_from_planned(addition: Addition, planned_g: float | None, given_g: float, in_bath_ml: float) -> str | None:
    """What to ask before an addition that is far from what was planned; None where it is not.

    `planned_g` None: none of it was planned. `in_bath_ml` is the volume of the bath.
    """
    if addition.what in ("water", "extract"):
        if addition.volume_ml and in_bath_ml and addition.volume_ml > in_bath_ml:
            return (
                f"{volume_words(addition.volume_ml)} is more than the whole bath of "
                f"{volume_words(in_bath_ml)}. Is that right?"
            )
        return None
    grams = addition.grams or 0.0
    total = given_g + grams
    if planned_g is None:
        if grams < UNPLANNED_G:
            return None
        return f"No {addition.name} is planned for this bath. Put in {grams_words(grams)}?"
    if total <= MOST_AS_PLANNED * planned_g:
        return None
    in_all = f", with the {grams_words(given_g)} that are in already {grams_words(total)} in all," if given_g else ""
    return f"That is {grams_words(grams)}{in_all} where {grams_words(planned_g)} are planned. Is that right?"


def _filled(addition: Addition, name: str, substance: Substance | None) -> Addition:
    grams, volume_ml, working = _grams(addition, name, substance)
    return addition.model_copy(update={"name": name, "grams": grams, "volume_ml": volume_ml, "working": working})


def _grams(addition: Addition, name: str, substance: Substance | None) -> tuple[float, float | None, str]:
    """Grams, volume in mL where it is a liquid, and the working."""
    amount, unit = addition.amount, addition.unit
    if unit == "g":
        return amount, None, grams_words(amount)
    if unit in VOLUMES_ML:
        volume_ml = amount * VOLUMES_ML[unit]
        drops = f"{_measure(addition)} × {DROP_ML:g} mL = " if unit == "drops" else ""
        if addition.stock_percent is not None:
            grams = volume_ml * addition.stock_percent / 100
            by = f"{addition.stock_percent:g} g in 100 mL"
        elif substance is not None and substance.stock_percent is None:
            raise _needs_a_stock(addition, name)
        else:
            grams, by = volume_ml * LIQUID_G_ML, f"{LIQUID_G_ML:g} g/mL"
        return grams, volume_ml, f"{drops}{volume_ml:g} mL × {by} = {grams_words(grams)}"
    each_g = teaspoon_g(substance)
    if each_g is None:
        raise _never_weighed(addition, name)
    teaspoons = amount * TEASPOONS[unit]
    grams = teaspoons * each_g
    spoons = f"{_measure(addition)} = {teaspoons:g} level tsp" if unit != "tsp" else f"{amount:g} tsp"
    return grams, None, f"{spoons} × {each_g:g} g = {grams_words(grams)}"


def _measure(addition: Addition) -> str:
    return measure_words(addition.amount, addition.unit)


def _refusal(code: str, words: str, addition: Addition, cure: str) -> Refusal:
    given = f"{addition.amount:g} {addition.unit}"
    fault = Fault(field="addition", given=given, allowed="a measure that can be told in grams", cure=cure)
    return Refusal(code, words, cure, (fault,))


def _not_there(addition: Addition) -> Refusal:
    return _refusal(
        "not-on-shelf", f"“{addition.item}” is not on the Shelf.", addition, "Put it there first, or write a note."
    )


def _needs_a_stock(addition: Addition, name: str) -> Refusal:
    return _refusal(
        "which-stock",
        f"{name} is a powder: millilitres of it say nothing.",
        addition,
        "Say of which stock, in g in 100 mL, or weigh it in grams.",
    )


def _never_weighed(addition: Addition, name: str) -> Refusal:
    return _refusal(
        "spoon-unknown",
        f"How much a spoon of {name} weighs is not on the Shelf.",
        addition,
        "Weigh a level teaspoon once and write it on the Shelf, or give it in grams.",
    )
