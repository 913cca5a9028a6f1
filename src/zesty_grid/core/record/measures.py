"""Measures of a bench, and what a spoon or a drop of something weighs (common practice)."""

from typing import Literal

from zesty_grid.core.shelf.items import Substance

Unit = Literal["g", "mL", "L", "drops", "pinch", "tsp", "tbsp", "cup"]
DROP_ML, TEASPOON_ML, CUP_ML, PINCH_OF_TEASPOON = 0.05, 5.0, 250.0, 1 / 16
LIQUID_G_ML = 1.0
TEASPOONS: dict[str, float] = {"pinch": PINCH_OF_TEASPOON, "tsp": 1.0, "tbsp": 3.0, "cup": CUP_ML / TEASPOON_ML}
VOLUMES_ML: dict[str, float] = {"mL": 1.0, "L": 1000.0, "drops": DROP_ML}


def teaspoon_g(substance: Substance | None) -> float | None:
    """What a level teaspoon of it weighs; None: nobody has weighed one."""
    if substance is None or substance.teaspoon_g is not None:
        return substance.teaspoon_g if substance else None
    return TEASPOON_ML * LIQUID_G_ML if substance.stock_percent is not None else None


def measure_words(amount: float, unit: str) -> str:
    """5 mL, 1 drop, 2 cups."""
    if unit in ("drops", "cup"):
        one, several = ("drop", "drops") if unit == "drops" else ("cup", "cups")
        return f"{amount:g} {one if amount == 1 else several}"
    return f"{amount:g} {unit}"
