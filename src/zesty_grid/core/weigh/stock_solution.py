"""Small amounts: weighed dry where the scale allows, else measured from a stock solution."""

from math import ceil

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.weigh.spoons import spoon_words
from zesty_grid.core.weigh.working import grams_words, volume_words

STOCK_PERCENTS = (1.0, 10.0)
MOST_OF_THE_BATH = 0.15
STOCK_SPARE = 1.1
STOCK_STEP_ML = 10.0


class Stock(Frozen):
    """A stock solution to make up, with a tenth to spare.

    `spoons` where a level spoon is known to hold so much. `dilute_ml`: of a strong solution, which
    the scale can weigh, so much is made up to `volume_ml`; `grams` go into `strong_ml` of that.
    """

    name: str
    strength_percent: float
    volume_ml: float
    grams: float
    spoons: str = ""
    strong_ml: float | None = None
    dilute_ml: float | None = None
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


def least_weighed_g(resolution_g: float, accuracy_percent: float) -> float:
    """The least that a scale weighs within the wanted accuracy.

    A display rounds by up to half a step, at zero and at the load: one step in all.
    """
    if resolution_g <= 0 or accuracy_percent <= 0:
        raise ValueError("resolution and accuracy must be above 0")
    return resolution_g * 100 / accuracy_percent


def stock_percent_for(grams: float, bath_ml: float) -> float:
    """The weakest usual stock that adds no more than 15 % to the bath, else the strongest."""
    fitting = (p for p in STOCK_PERCENTS if stock_volume_ml(grams, p) <= MOST_OF_THE_BATH * bath_ml)
    return next(fitting, STOCK_PERCENTS[-1])


def stock_to_make(
    name: str, wanted_ml: float, stock_percent: float, least_g: float = 0.0, teaspoon_g: float | None = None
) -> Stock:
    """Enough stock for all vessels, with a tenth to spare, rounded up to 10 mL.

    A scale that cannot weigh less than `least_g` well enough weighs that much into a stronger
    solution, of which a part is made up.
    """
    if wanted_ml <= 0:
        raise ValueError("no stock is wanted")
    volume_ml = ceil(round(wanted_ml * STOCK_SPARE / STOCK_STEP_ML, 6)) * STOCK_STEP_ML
    grams = volume_ml * stock_percent / 100
    said = (
        f"{volume_words(wanted_ml)} × {STOCK_SPARE:g} to spare → {volume_words(volume_ml)};"
        f" {stock_percent:g} g in 100 mL → {grams_words(grams)}"
    )
    spoons = spoon_words(grams, teaspoon_g)
    if grams >= least_g:
        return Stock(
            name=name, strength_percent=stock_percent, volume_ml=volume_ml, grams=grams, spoons=spoons, working=said
        )
    strong_percent = STOCK_PERCENTS[-1]
    strong_ml = least_g * 100 / strong_percent
    dilute_ml = volume_ml * stock_percent / strong_percent
    diluted = (
        f"take {volume_words(dilute_ml)} of it and make it up to {volume_words(volume_ml)}"
        if dilute_ml < volume_ml
        else "it is this stock, and more than is needed"
    )
    return Stock(
        name=name,
        strength_percent=stock_percent,
        volume_ml=volume_ml,
        grams=least_g,
        spoons=spoons,
        strong_ml=strong_ml,
        dilute_ml=dilute_ml,
        working=f"{said}: the scale does not show that little well enough. Weigh "
        f"{grams_words(least_g)} into {volume_words(strong_ml)} ({strong_percent:g} %); {diluted}."
        + (f" By spoon, roughly: {spoons} in {volume_words(volume_ml)}." if spoons else ""),
    )
