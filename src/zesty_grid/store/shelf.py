"""The Shelf: one row an item, with the item as JSON."""

import sqlite3

from zesty_grid.core.read.chart import Chart
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.core.shelf.shelf import SHELF_KINDS, Shelf, ShelfItem, ShelfKind
from zesty_grid.store.parsed import parsed
from zesty_grid.store.plan import NotFound

FIELD: dict[ShelfKind, str] = {
    "fibre": "fibres",
    "mordant_route": "mordant_routes",
    "dye_lot": "dye_lots",
    "substance": "substances",
    "vessel": "vessels",
    "heat_place": "heat_places",
    "scale": "scales",
    "water": "waters",
    "chart": "charts",
    "cloth": "cloths",
    "light_place": "light_places",
    "ph_strip": "ph_strips",
}


def load_shelf(connection: sqlite3.Connection) -> Shelf:
    rows = connection.execute("SELECT kind, document FROM shelf_item ORDER BY position, key")
    # Documents of the first version do not name their kind.
    documents: dict[str, list[str]] = {field: [] for field in FIELD.values()}
    for row in rows:
        documents[FIELD[row["kind"]]].append(row["document"])
    fields = (f'"{field}": [{",".join(those)}]' for field, those in documents.items())
    return parsed(Shelf, "{" + ",".join(fields) + "}")


def items_of(connection: sqlite3.Connection, kind: ShelfKind) -> list[ShelfItem]:
    return list(getattr(load_shelf(connection), FIELD[kind]))


def chart_for(connection: sqlite3.Connection, key: str | None) -> Chart | None:
    """A chart of the Shelf; None: the common one."""
    if key is None:
        return None
    found = load_shelf(connection).chart(key)
    if found is None:
        raise NotFound("chart on the Shelf")
    return found.chart


def stock_shelf(connection: sqlite3.Connection, shelf: Shelf) -> None:
    """Puts the given items on the Shelf, for each kind of which there is nothing yet."""
    there = {row["kind"] for row in connection.execute("SELECT DISTINCT kind FROM shelf_item")}
    for kind in SHELF_KINDS:
        for item in getattr(shelf, FIELD[kind]) if kind not in there else ():
            add_item(connection, item)


def add_item(connection: sqlite3.Connection, item: ShelfItem) -> None:
    """Adds an item; raises Refusal where the key is taken."""
    taken = connection.execute("SELECT 1 FROM shelf_item WHERE kind = ? AND key = ?", (item.kind, item.key)).fetchone()
    if taken:
        raise Refusal(
            "key-taken",
            f"“{item.key}” is already on the Shelf.",
            "Choose another short name.",
            (
                Fault(
                    field="key",
                    given=item.key,
                    allowed="a short name that is not there yet",
                    cure="Choose another short name.",
                ),
            ),
        )
    connection.execute(
        "INSERT INTO shelf_item (kind, key, position, document) VALUES "
        "(?, ?, (SELECT coalesce(max(position) + 1, 0) FROM shelf_item WHERE kind = ?), ?)",
        (item.kind, item.key, item.kind, item.model_dump_json()),
    )


def replace_item(connection: sqlite3.Connection, item: ShelfItem) -> None:
    """Saves an item over the one of the same kind and key; its place stays."""
    changed = connection.execute(
        "UPDATE shelf_item SET document = ? WHERE kind = ? AND key = ?", (item.model_dump_json(), item.kind, item.key)
    )
    if changed.rowcount == 0:
        raise NotFound("item on the Shelf")


def remove_item(connection: sqlite3.Connection, kind: ShelfKind, key: str) -> None:
    """Takes an item away for good; the caller has made sure that no study uses it."""
    gone = connection.execute("DELETE FROM shelf_item WHERE kind = ? AND key = ?", (kind, key))
    if gone.rowcount == 0:
        raise NotFound("item on the Shelf")
