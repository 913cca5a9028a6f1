"""A study of swatches that were dyed before, from a table that somebody kept."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import date
from typing import Annotated

import numpy as np
from pydantic import Field, ValidationError, model_validator

from zesty_grid.core.entered.cells import Unclear, colour_in, day_in, number_in
from zesty_grid.core.entered.columns import MOST_FAULTS, ColumnRole, EnteredTable, fault_in_table
from zesty_grid.core.entered.on_shelf import (
    class_of,
    found_on_shelf,
    mordant_key,
    new_dye_lot,
    new_fibre,
    new_route,
    plain_words,
)
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.cells import cell_key, cross
from zesty_grid.core.plan.factors import FACTOR_ORDER, MAX_LEVELS, FactorKind, Level
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.read.colour_space import lab_to_hex
from zesty_grid.core.read.measurement import Lab
from zesty_grid.core.record.swatch import Levels
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.core.shelf.items import FibreClass, Key, OnShelf
from zesty_grid.core.shelf.shelf import Shelf, ShelfItem

MOST_REPEATS = 6
DOUBT_OF_HEX_DE00, DOUBT_OF_LAB_DE00 = 5.0, 2.0
ON_ROWS: tuple[FactorKind, ...] = ("fibre", "mordant")
# Lowest and highest number of a column, what it means without one, and its words.
NUMBERS: dict[ColumnRole, tuple[float, float, str]] = {
    "strength": (0.1, 1000, "a strength in % of the fibre's weight, from 0.1 to 1000"),
    "temperature": (0, 100, "a temperature in °C, from 0 to 100"),
    "duration": (1, 86_400, "minutes, from 1"),
    "ph": (1, 13, "a pH from 1 to 13"),
    "iron": (0, 10, "iron in % of the fibre's weight, from 0 to 10"),
}
WORDS: dict[ColumnRole, Callable[[float], str]] = {
    "strength": lambda v: f"{v:g} %",
    "temperature": lambda v: f"{v:g} °C",
    "duration": lambda v: f"{v:g} min",
    "ph": lambda v: f"pH {v:g}",
    "iron": lambda v: f"Iron {v:g} %" if v else "No iron",
}


class TableStudy(Frozen):
    """What a person says of a table: what its columns are, and what no column says.

    `fibre`: of all swatches, by its key on the Shelf, where no column says it. `classes`: what
    fibres are made of whose names do not tell. `doubt_de00`: where no cell says it, and none is
    given here, 2 of L*a*b* and 5 of hex.
    """

    table: EnteredTable
    roles: tuple[ColumnRole, ...]
    name: Annotated[str, Field(min_length=1, max_length=120)]
    question: Annotated[str, Field(max_length=500)] = ""
    fibre: Key | None = None
    classes: dict[str, FibreClass] = Field(default_factory=dict)
    read_on: date
    doubt_de00: Annotated[float, Field(gt=0, le=50, allow_inf_nan=False)] | None = None
    who: Annotated[str, Field(max_length=60)] = ""

    @model_validator(mode="after")
    def _a_role_for_each_column(self) -> "TableStudy":
        if len(self.roles) != len(self.table.headers):
            raise ValueError("each column has a role")
        named = [role for role in self.roles if role not in ("leave", "note", "recipe")]
        if len(set(named)) != len(named):
            raise ValueError("two columns are said to be the same")
        return self


class EarlierSwatch(Frozen):
    """One row. `words`: its levels as they will stand in the grid; `said`: its recipe and notes."""

    row: int
    name: str
    levels: Levels
    words: str
    replicate: int
    lab: Lab | None
    hex: str
    doubt_de00: float
    day: date
    said: str


@dataclass
class FromTable:
    """`new_items`: what the Shelf does not have yet. `asked`: fibres of which must be said what
    they are made of. Where there are `faults` there is no plan."""

    swatches: list[EarlierSwatch] = field(default_factory=list)
    new_items: list[ShelfItem] = field(default_factory=list)
    asked: list[str] = field(default_factory=list)
    faults: list[Fault] = field(default_factory=list)
    plan: StudyPlan | None = None


def study_from_table(wanted: TableStudy, shelf: Shelf) -> FromTable:
    """Reads every row; what is wrong is collected by row and column."""
    return _Reading(wanted, shelf).read()


class _Reading:
    def __init__(self, wanted: TableStudy, shelf: Shelf) -> None:
        self._wanted = wanted
        self._shelf = shelf
        self._found = FromTable()
        self._source = f"entered from {wanted.table.filename or 'a table'}"
        self._items: dict[FactorKind, list[OnShelf]] = {
            "fibre": list(shelf.fibres),
            "mordant": list(shelf.mordant_routes),
            "dye": list(shelf.dye_lots),
        }
        self._column: dict[ColumnRole, int] = {role: i for i, role in enumerate(wanted.roles) if role != "leave"}
        self._labels: dict[tuple[FactorKind, str], Level] = {}

    def read(self) -> FromTable:
        self._must_say_enough()
        seen: dict[tuple[tuple[str, str], ...], int] = {}
        for number, row in enumerate(self._wanted.table.rows, 2):
            if not any(cell.strip() for cell in row):
                continue
            levels = self._levels(number, row)
            lab, hex_code = self._colour(number, row)
            key = tuple(sorted((str(kind), level) for kind, level in levels.items()))
            seen[key] = seen.get(key, 0) + 1
            if seen[key] > MOST_REPEATS:
                self._fault(
                    number, "name", f"repeat {seen[key]}", f"at most {MOST_REPEATS} swatches with the same recipe"
                )
            self._found.swatches.append(
                EarlierSwatch(
                    row=number,
                    name=self._text("name", row)[:80],
                    levels=levels,
                    words=", ".join(self._labels[kind, one].label for kind, one in levels.items()),
                    replicate=seen[key],
                    lab=lab,
                    hex=hex_code,
                    doubt_de00=self._doubt(number, row),
                    day=self._day(number, row),
                    said=self._said(row),
                )
            )
        if not self._found.swatches:
            self._fault(1, "", "no rows", "at least one row with a swatch")
        if not self._found.faults and not self._found.asked:
            self._plan()
        return self._found

    def _must_say_enough(self) -> None:
        if "fibre" not in self._column and self._wanted.fibre is None:
            self._fault(1, "fibre", "no column", "a column that says the fibre, or one for all")
        some = {"lightness", "a", "b"} & self._column.keys()
        if some and len(some) < 3:
            self._fault(1, "lightness", ", ".join(sorted(some)), "all three of L*, a* and b*")

    def _levels(self, number: int, row: tuple[str, ...]) -> Levels:
        levels: Levels = {}
        for kind in FACTOR_ORDER:
            if kind == "recipe":
                continue  # a column of that name holds words
            role: ColumnRole | None = next((one for one in self._column if one == kind), None)
            if kind == "fibre" and role is None and self._wanted.fibre:
                level = self._all_of_one_fibre()
            elif role is None:
                continue
            else:
                level = self._level(kind, role, number, row)
            if level is not None:
                self._labels.setdefault((kind, level.key), level)
                levels[kind] = level.key
        return levels

    def _all_of_one_fibre(self) -> Level | None:
        item = next((o for o in self._items["fibre"] if o.key == self._wanted.fibre), None)
        if item is None:
            self._fault(1, "fibre", self._wanted.fibre or "", "a fibre on the Shelf")
            return None
        return Level(key=item.key, label=item.name)

    def _level(self, kind: FactorKind, role: ColumnRole, number: int, row: tuple[str, ...]) -> Level | None:
        words = self._text(role, row)
        if role in NUMBERS:
            return self._valued(kind, role, number, words)
        if kind == "mordant":
            key = mordant_key(words, self._items["mordant"])
        elif not words:
            self._fault(number, role, "nothing", f"the {role}; or leave the row out")
            return None
        else:
            key = found_on_shelf(words, self._items[kind])
        if key is None:
            key = self._added(kind, words)
        if key is None:
            return None
        name = next((one.name for one in self._items[kind] if one.key == key), words)
        return Level(key=key, label=name)

    def _added(self, kind: FactorKind, words: str) -> str | None:
        taken = {one.key for one in self._items[kind]}
        if kind == "fibre":
            known = {plain_words(name): one for name, one in self._wanted.classes.items()}
            fibre_class = known.get(plain_words(words)) or class_of(words)
            if fibre_class is None:
                if words not in self._found.asked:
                    self._found.asked.append(words)
                return None
            made: ShelfItem = new_fibre(words, fibre_class, taken, self._source)
        elif kind == "mordant":
            made = new_route(words, taken, self._source)
        else:
            made = new_dye_lot(words, taken, self._source)
        self._found.new_items.append(made)
        self._items[kind].append(made)
        return made.key

    def _valued(self, kind: FactorKind, role: ColumnRole, number: int, words: str) -> Level | None:
        if not words and role == "ph":
            return Level(key="as-it-is", label="pH as it is")
        if role == "iron" and plain_words(words) in ("", "-", "–", "no", "none", "without"):
            words = "0"
        low, high, allowed = NUMBERS[role]
        value = self._number(number, role, words, low, high, allowed)
        if value is None:
            return None
        return Level(key=f"{kind}-{value:g}", label=WORDS[role](value), value=value)

    def _colour(self, number: int, row: tuple[str, ...]) -> tuple[Lab | None, str]:
        cells = [self._text(role, row) for role in ("lightness", "a", "b")]
        code = self._text("hex", row)
        if any(cells):
            lightness = self._number(number, "lightness", cells[0], 0, 100, "L* from 0 to 100")
            a = self._number(number, "a", cells[1], -128, 128, "a* from −128 to 128")
            b = self._number(number, "b", cells[2], -128, 128, "b* from −128 to 128")
            if lightness is None or a is None or b is None:
                return None, ""
            return (lightness, a, b), lab_to_hex(np.array((lightness, a, b)))
        if code:
            try:
                return colour_in(code), f"#{code.removeprefix('#').lower()}"
            except Unclear as unclear:
                self._fault(number, "hex", code, unclear.allowed)
        return None, ""

    def _doubt(self, number: int, row: tuple[str, ...]) -> float:
        words = self._text("doubt", row)
        if words:
            allowed = "a doubt in ΔE00, above 0 and at most 50"
            return self._number(number, "doubt", words.lstrip("±"), 0.01, 50, allowed) or 1.0
        if self._wanted.doubt_de00 is not None:
            return self._wanted.doubt_de00
        by_hex = not self._text("lightness", row)
        return DOUBT_OF_HEX_DE00 if by_hex else DOUBT_OF_LAB_DE00

    def _day(self, number: int, row: tuple[str, ...]) -> date:
        words = self._text("day", row)
        if not words:
            return self._wanted.read_on
        try:
            day = day_in(words)
        except Unclear as unclear:
            self._fault(number, "day", words, unclear.allowed)
            return self._wanted.read_on
        if not date(1900, 1, 1) <= day <= self._wanted.read_on:
            self._fault(number, "day", words, f"a day from 1900 to {self._wanted.read_on}")
        return day

    def _said(self, row: tuple[str, ...]) -> str:
        parts = [
            f"{header}: {row[i].strip()}"
            for i, (header, role) in enumerate(zip(self._wanted.table.headers, self._wanted.roles, strict=True))
            if role in ("recipe", "note") and row[i].strip()
        ]
        return "\n".join(parts)[:1800]

    def _number(self, number: int, role: ColumnRole, words: str, low: float, high: float, allowed: str) -> float | None:
        try:
            return number_in(words, low, high, allowed)
        except Unclear as unclear:
            self._fault(number, role, words or "nothing", unclear.allowed)
            return None

    def _text(self, role: ColumnRole, row: tuple[str, ...]) -> str:
        column = self._column.get(role)
        return "" if column is None else row[column].strip()

    def _fault(self, number: int, role: ColumnRole | str, given: str, allowed: str) -> None:
        if len(self._found.faults) >= MOST_FAULTS:
            return
        column = next((i for one, i in self._column.items() if one == role), None)
        header = role if column is None else self._wanted.table.headers[column] or role
        place = f"row {number}, {header}" if header else f"row {number}"
        self._found.faults.append(fault_in_table(place, given, allowed))

    def _plan(self) -> None:
        kinds = [kind for kind in FACTOR_ORDER if any(one == kind for one, _ in self._labels)]
        factors = []
        for kind in kinds:
            levels = [level for (one, _), level in self._labels.items() if one == kind]
            if kind in NUMBERS:
                levels.sort(key=lambda level: -1.0 if level.value is None else level.value)
            if len(levels) > MAX_LEVELS:
                self._fault(
                    1, kind, f"{len(levels)} of them", f"at most {MAX_LEVELS} in one study: enter the table in parts"
                )
                return
            factors.append({"kind": kind, "levels": levels})
        rows = [kind for kind in kinds if kind in ON_ROWS]
        document = {
            "name": self._wanted.name,
            "question": self._wanted.question,
            "factors": factors,
            "rows": rows,
            "columns": [kind for kind in kinds if kind not in rows],
        }
        try:
            whole = StudyPlan.model_validate(document)
            crossed = cross(whole, self._shelf)
        except (Refusal, ValidationError) as error:
            first = error.reason if isinstance(error, Refusal) else error.errors()[0]["msg"]
            self._fault(1, "", first[:80], "a smaller table: enter it in parts")
            return
        there = {cell_key(one.levels, None) for one in self._found.swatches}
        left_out = tuple(cell.key for cell in crossed if cell.key not in there)
        self._found.plan = whole.model_copy(update={"left_out": left_out})


def levels_by_cell(swatches: list[EarlierSwatch]) -> Mapping[str, list[EarlierSwatch]]:
    """Those of one recipe together, in the order of the table."""
    found: dict[str, list[EarlierSwatch]] = {}
    for one in swatches:
        found.setdefault(cell_key(one.levels, None), []).append(one)
    return found
