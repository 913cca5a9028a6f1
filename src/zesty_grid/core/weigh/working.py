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
    "addition",
]


class Figure(Frozen):
    """One amount, with the arithmetic that led to it and where its default comes from.

    `volume_ml` of a stock solution where it is too little to weigh; `spoons` where a level spoon
    is known to hold so much. None for all three: as much as it takes. `spelled`
    says it another way: what a mixture is made of, stones by count, drops, cups. `moment` says when
    a planned addition goes in; empty for what the bath is made of.
    """

    role: Role
    name: str
    grams: float | None = None
    volume_ml: float | None = None
    stock_percent: float | None = None
    spoons: str = ""
    words: str = ""
    spelled: str = ""
    moment: str = ""
    working: str
    source: str


def grams_words(grams: float) -> str:
    return f"{grams:.2f} g" if grams < 10 else f"{grams:.1f} g"


def volume_words(volume_ml: float) -> str:
    if volume_ml >= 1000:
        return f"{volume_ml / 1000:.2f} L"
    return f"{volume_ml:.0f} mL" if volume_ml >= 10 else f"{volume_ml:.1f} mL"


HOUR_MIN, DAY_MIN, WEEK_MIN = 60, 24 * 60, 7 * 24 * 60


def duration_words(minutes: float) -> str:
    """45 min, 1 h 30 min, 2 days 12 h, 3 weeks; nothing is rounded away but parts of a minute."""
    whole = round(minutes)
    if whole and whole % WEEK_MIN == 0:
        return counted(whole // WEEK_MIN, "week")
    days, rest = divmod(whole, DAY_MIN)
    if whole < 2 * DAY_MIN and rest:
        days, rest = 0, whole
    hours, minutes_left = divmod(rest, HOUR_MIN)
    parts = [
        counted(days, "day") if days else "",
        f"{hours} h" if hours else "",
        f"{minutes_left} min" if minutes_left or not whole else "",
    ]
    return " ".join(part for part in parts if part)


def counted(number: int, unit: str) -> str:
    """1 swatch, 2 swatches."""
    several = f"{unit}es" if unit.endswith(("s", "ch")) else f"{unit}s"
    return f"{number:,} {unit if number == 1 else several}"
