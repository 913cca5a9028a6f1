"""Things for the Shelf from a list that somebody kept: fibres, dye lots, vessels."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Annotated, Any, Literal, get_args

from pydantic import Field, TypeAdapter, ValidationError, model_validator

from zesty_grid.core.entered.cells import Unclear, number_in
from zesty_grid.core.entered.columns import MOST_FAULTS, EnteredTable, by_header, fault_in_table
from zesty_grid.core.entered.on_shelf import class_of, found_on_shelf, new_key, plain_words
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.refusal import Fault
from zesty_grid.core.shelf.items import FibreClass, OnShelf
from zesty_grid.core.shelf.shelf import ShelfItem

ListKind = Literal["fibre", "dye_lot", "vessel"]
_ITEM: TypeAdapter[ShelfItem] = TypeAdapter(ShelfItem)
# Fields that a column can fill, by kind; those of NUMBERS hold a number of so much, from and to.
FIELDS: dict[ListKind, tuple[str, ...]] = {
    "fibre": (
        "name",
        "fibre_class",
        "form",
        "mass_g_m2",
        "width_cm",
        "mass_g_per_100_m",
        "amount_in_hand_g",
        "price_per_100_g",
        "preparation",
        "source",
        "note",
    ),
    "dye_lot": (
        "name",
        "part",
        "state",
        "place",
        "collected",
        "strength_percent_wof",
        "amount_in_hand_g",
        "price_per_100_g",
        "preparation",
        "source",
        "note",
    ),
    "vessel": ("name", "litres", "form", "material", "count", "source", "note"),
}
NUMBERS: dict[str, tuple[float, float, str]] = {
    "mass_g_m2": (1, 5000, "g/m²"),
    "width_cm": (1, 1000, "cm"),
    "mass_g_per_100_m": (0.1, 1e5, "g for 100 m"),
    "amount_in_hand_g": (0, 1e6, "g"),
    "price_per_100_g": (0, 1e6, "a price"),
    "strength_percent_wof": (0.1, 1000, "% of the fibre"),
    "litres": (0.01, 1e5, "litres"),
    "count": (1, 99, "a count"),
}
HEADERS: tuple[tuple[str, str], ...] = (
    ("fibre_class", "class|made of|type"),
    ("mass_g_m2", "g/m|gsm|weight"),
    ("width_cm", "width"),
    ("mass_g_per_100_m", "per 100 m|yarn"),
    ("price_per_100_g", "price|cost"),
    ("strength_percent_wof", "strength|wof"),
    ("litres", "litre|liter|volume|size|capacity"),
    ("count", "count|how many|pieces"),
    ("amount_in_hand_g", "amount|in hand|stock|grams"),
    ("collected", "collected|date|year|harvest"),
    ("place", "place|where|site"),
    ("part", "part"),
    ("state", "state|fresh|dried"),
    ("form", "form|shape"),
    ("material", "material"),
    ("preparation", "prepar|scour"),
    ("source", "source|supplier|from"),
    ("note", "note|remark|comment"),
    ("name", "name|fibre|fiber|dye|plant|vessel|pot|cloth"),
)


class TableShelf(Frozen):
    """`fields`: what each column fills, empty where nothing. `classes`: of fibres whose names do
    not tell."""

    table: EnteredTable
    kind: ListKind
    fields: tuple[Annotated[str, Field(max_length=40)], ...]
    classes: dict[str, FibreClass] = Field(default_factory=dict)

    @model_validator(mode="after")
    def _fields_are_known(self) -> "TableShelf":
        if len(self.fields) != len(self.table.headers):
            raise ValueError("each column fills a field, or none")
        named = [one for one in self.fields if one]
        if len(set(named)) != len(named) or not set(named) <= set(FIELDS[self.kind]):
            raise ValueError(f"each column fills another of {', '.join(FIELDS[self.kind])}")
        return self


@dataclass
class ForShelf:
    """`there`: names that stand on the Shelf already, and are left as they are."""

    items: list[ShelfItem] = field(default_factory=list)
    there: list[str] = field(default_factory=list)
    asked: list[str] = field(default_factory=list)
    faults: list[Fault] = field(default_factory=list)


def guessed_fields(table: EnteredTable, kind: ListKind) -> tuple[str, ...]:
    patterns = [one for one in HEADERS if one[0] in FIELDS[kind]]
    found: list[str] = []
    for header in table.headers:
        found.append(by_header(header, patterns, found))
    return tuple(found)


def shelf_from_table(wanted: TableShelf, on_shelf: Sequence[OnShelf]) -> ForShelf:
    """Every row as a thing; what is wrong is collected by row and column."""
    found = ForShelf()
    taken = {one.key for one in on_shelf}
    if "name" not in wanted.fields:
        found.faults.append(fault_in_table("row 1", "no column", "a column with the names"))
        return found
    for number, row in enumerate(wanted.table.rows, 2):
        cells = {name: row[i].strip() for i, name in enumerate(wanted.fields) if name}
        if not any(row):
            continue
        if not cells["name"]:
            found.faults.append(fault_in_table(f"row {number}, name", "nothing", "a name"))
        elif found_on_shelf(cells["name"], [*on_shelf, *found.items]):
            found.there.append(cells["name"])
        else:
            _read_row(wanted, number, cells, taken, found)
    del found.faults[MOST_FAULTS:]
    return found


def _read_row(wanted: TableShelf, number: int, cells: dict[str, str], taken: set[str], found: ForShelf) -> None:
    header = dict(zip(wanted.fields, wanted.table.headers, strict=True))
    key = new_key(cells["name"], taken)
    source = f"entered from {wanted.table.filename}"
    document: dict[str, Any] = {"kind": wanted.kind, "key": key, "source": source}
    before = len(found.faults)
    for name, cell in cells.items():
        if not cell:
            continue
        if name not in NUMBERS:
            document[name] = cell.casefold() if name in ("form", "state", "material") else cell
            continue
        low, high, unit = NUMBERS[name]
        try:
            value = number_in(cell, low, high, f"{unit}, from {low:g} to {high:g}")
            document[name] = int(value) if name == "count" else value
        except Unclear as unclear:
            found.faults.append(fault_in_table(f"row {number}, {header[name]}", cell, unclear.allowed))
    if wanted.kind == "fibre":
        said = {plain_words(one): known for one, known in wanted.classes.items()}
        told = document.pop("fibre_class", "").casefold()
        known = told if told in get_args(FibreClass) else class_of(told) if told else None
        of_name = known or said.get(plain_words(cells["name"])) or class_of(cells["name"])
        if of_name is None:
            found.asked.append(cells["name"])
            return
        document["fibre_class"] = of_name
    if len(found.faults) > before:
        return
    try:
        found.items.append(_ITEM.validate_python(document))
        taken.add(key)
    except ValidationError as error:
        for one in error.errors():
            name = str(one["loc"][-1])
            place = f"row {number}, {header.get(name, name)}"
            given = str(document.get(name, "nothing"))
            found.faults.append(fault_in_table(place, given, one["msg"].casefold()))
