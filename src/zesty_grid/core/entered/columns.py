"""A table that somebody kept before, and what its columns say."""

import re
from collections.abc import Collection, Iterable
from typing import Annotated, Literal

from pydantic import Field, TypeAdapter, model_validator

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.refusal import Fault

ColumnRole = Literal[
    "leave",
    "name",
    "fibre",
    "mordant",
    "dye",
    "strength",
    "temperature",
    "duration",
    "ph",
    "iron",
    "recipe",
    "note",
    "lightness",
    "a",
    "b",
    "hex",
    "doubt",
    "day",
]
MOST_ROWS, MOST_COLUMNS, MOST_LETTERS = 2000, 60, 2000
Cell = Annotated[str, Field(max_length=MOST_LETTERS)]
# Words in headers, the most telling first; as people write them.
HEADERS: tuple[tuple[str, str], ...] = (
    ("doubt", r"doubt|uncertain|±|\+/-|error|\bde\b|δe|accuracy"),
    ("hex", r"\bhex\b|\brgb\b|^colou?r$"),
    ("lightness", r"^(cie)?\s*l\*?$|lightness"),
    ("a", r"^(cie)?\s*a\*?$"),
    ("b", r"^(cie)?\s*b\*?$"),
    ("day", r"date|\bday\b|\bwhen\b|measured on|read on"),
    ("ph", r"\bph\b"),
    ("iron", r"iron|ferrous|sadden"),
    ("mordant", r"mordant|alum"),
    ("strength", r"strength|wof|owf|depth|%|per ?cent"),
    ("temperature", r"temp|°c"),
    ("duration", r"duration|minutes|\bmin\b|\btime\b|hours"),
    ("fibre", r"fib(re|er)|cloth|yarn|fabric|material|textile"),
    ("dye", r"\bdye|plant|dyestuff|pigment|species"),
    ("recipe", r"recipe|method|process|how"),
    ("note", r"note|remark|comment"),
    ("name", r"name|code|swatch|sample|\bno\b|number|\bid\b|label"),
)
_ROLE: TypeAdapter[ColumnRole] = TypeAdapter(ColumnRole)
MOST_FAULTS = 50
HEX = re.compile(r"#?[0-9a-fA-F]{6}")


class EnteredTable(Frozen):
    """The cells of a file as text, without its header."""

    filename: Annotated[str, Field(max_length=200)] = ""
    headers: Annotated[tuple[Cell, ...], Field(min_length=1, max_length=MOST_COLUMNS)]
    rows: Annotated[tuple[tuple[Cell, ...], ...], Field(max_length=MOST_ROWS)]

    @model_validator(mode="after")
    def _every_row_is_as_wide_as_the_header(self) -> "EnteredTable":
        if any(len(row) != len(self.headers) for row in self.rows):
            raise ValueError("every row has a cell for each header")
        return self


def guessed_roles(table: EnteredTable) -> tuple[ColumnRole, ...]:
    """What each column seems to be, by its header and its cells; each role once."""
    found: list[ColumnRole] = []
    for i, header in enumerate(table.headers):
        cells = [row[i].strip() for row in table.rows if row[i].strip()]
        role = _ROLE.validate_python(by_header(header, HEADERS, found) or "leave")
        if role == "hex" and cells and not any(HEX.fullmatch(cell) for cell in cells):
            role = "leave"
        if role == "leave" and cells and all(HEX.fullmatch(cell) for cell in cells):
            role = "leave" if "hex" in found else "hex"
        found.append(role)
    return tuple(found)


def by_header(header: str, patterns: Iterable[tuple[str, str]], taken: Collection[str]) -> str:
    """The first name whose pattern is in the header and that no column has yet; empty: none."""
    words = header.strip().casefold()
    return next((name for name, pattern in patterns if name not in taken and re.search(pattern, words)), "")


def fault_in_table(place: str, given: str, allowed: str) -> Fault:
    """`place` names row and column."""
    return Fault(
        field=place, given=given[:80], allowed=allowed, cure="Put it right in the file, or leave the column out."
    )
