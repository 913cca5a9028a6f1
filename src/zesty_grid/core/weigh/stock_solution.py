"""Small amounts: weighed dry where the scale allows, else measured from a stock solution."""

from math import ceil

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.weigh.working import grams_words, volume_words

STOCK_PERCENTS = (1.0, 10.0)
MOST_OF_THE_BATH = 0.15
STOCK_SPARE = 1.1
STOCK_STEP_ML = 10.0


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


def stock_to_make(name: str, wanted_ml: float, stock_percent: float) -> Stock:
    """Enough stock for all vessels, with a tenth to spare, rounded up to 10 mL."""
    if wanted_ml <= 0:
        raise ValueError("no stock is wanted")
    volume_ml = ceil(round(wanted_ml * STOCK_SPARE / STOCK_STEP_ML, 6)) * STOCK_STEP_ML
    grams = volume_ml * stock_percent / 100
    return Stock(
        name=name, strength_percent=stock_percent, volume_ml=volume_ml, grams=grams,
        working=f"{volume_words(wanted_ml)} × {STOCK_SPARE:g} to spare → {volume_words(volume_ml)};"
        f" {stock_percent:g} g in 100 mL → {grams_words(grams)}",
    )  # fmt: skip
