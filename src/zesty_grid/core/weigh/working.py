"""A figure with its working, and amounts in words."""

from typing import Literal

from zesty_grid.core.frozen import Frozen

Role = Literal[
    "water",
    "tannin",
    "mordant",
    "binder",
    "assist",
    "dye stuff",
    "dye liquor",
    "iron",
    "adjuster",
    "detergent",
]


class Figure(Frozen):
    """One amount, with the arithmetic that led to it and where its default comes from.

    `volume_ml` of a stock solution where it is too little to weigh; `spoons` where a level spoon
    is known to hold so much. None for all three: as much as it takes.
    """

    role: Role
    name: str
    grams: float | None = None
    volume_ml: float | None = None
    stock_percent: float | None = None
    spoons: str = ""
    words: str = ""
    working: str
    source: str


def grams_words(grams: float) -> str:
    return f"{grams:.2f} g" if grams < 10 else f"{grams:.1f} g"


def volume_words(volume_ml: float) -> str:
    if volume_ml >= 1000:
        return f"{volume_ml / 1000:.2f} L"
    return f"{volume_ml:.0f} mL" if volume_ml >= 10 else f"{volume_ml:.1f} mL"
