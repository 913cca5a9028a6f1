"""What single cells of such a table say: numbers, days, colours."""

import math
import re
from datetime import date

from zesty_grid.core.entered.columns import HEX
from zesty_grid.core.read.colour_space import hex_to_lab
from zesty_grid.core.read.measurement import Lab

ISO = re.compile(r"(\d{4})-(\d{1,2})-(\d{1,2})(?:[T ].*)?")
DOTTED = re.compile(r"(\d{1,2})\.\s*(\d{1,2})\.\s*(\d{4})")
SLASHED = re.compile(r"(\d{1,2})/(\d{1,2})/(\d{4})")


class Unclear(ValueError):
    """A cell that does not say what its column should; `allowed` tells what would."""

    def __init__(self, allowed: str) -> None:
        super().__init__(allowed)
        self.allowed = allowed


def number_in(cell: str, low: float, high: float, allowed: str) -> float:
    """With a point or a decimal comma; a unit after it does not count."""
    match = re.fullmatch(r"\s*([+-]?\d+(?:[.,]\d+)?)\s*(?:%|°\s*C|min|± *)?\s*", cell)
    if match is None:
        raise Unclear(allowed)
    value = float(match[1].replace(",", "."))
    if not (math.isfinite(value) and low <= value <= high):
        raise Unclear(allowed)
    return value


def day_in(cell: str) -> date:
    """2025-11-03, 3.11.2025, or 25/11/2025 where only one of the two can be the month."""
    allowed = "a day as 2025-11-03 or 3.11.2025"
    if match := ISO.fullmatch(cell.strip()):
        year, month, day = (int(part) for part in match.groups())
    elif match := DOTTED.fullmatch(cell.strip()):
        day, month, year = (int(part) for part in match.groups())
    elif match := SLASHED.fullmatch(cell.strip()):
        first, second, year = (int(part) for part in match.groups())
        if first <= 12 and second <= 12 and first != second:
            raise Unclear(f"{allowed}: which of {first} and {second} is the month?")
        day, month = (first, second) if first > 12 else (second, first)
    else:
        raise Unclear(allowed)
    try:
        return date(year, month, day)
    except ValueError:
        raise Unclear(allowed) from None


def colour_in(cell: str) -> Lab:
    """L*a*b* (D50) of six hexadecimal digits in sRGB."""
    if not HEX.fullmatch(cell.strip()):
        raise Unclear("six hexadecimal digits, as #c9a13b")
    lightness, a, b = (float(value) for value in hex_to_lab(cell.strip().removeprefix("#")))
    return (round(lightness, 2), round(a, 2), round(b, 2))
