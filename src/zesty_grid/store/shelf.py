"""The Shelf: fibres, mordant routes and dye lots."""

import sqlite3
from typing import Literal

from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.core.shelf.items import DyeLot, Fibre, MordantRoute, Shelf

ShelfKind = Literal["fibre", "mordant_route", "dye_lot"]
Item = Fibre | MordantRoute | DyeLot


def load_shelf(connection: sqlite3.Connection) -> Shelf:
    def documents(kind: ShelfKind) -> list[str]:
        rows = connection.execute(
            "SELECT document FROM shelf_item WHERE kind = ? ORDER BY position, key", (kind,)
        )
        return [row["document"] for row in rows]

    return Shelf(
        fibres=tuple(Fibre.model_validate_json(d) for d in documents("fibre")),
        mordant_routes=tuple(
            MordantRoute.model_validate_json(d) for d in documents("mordant_route")
        ),
        dye_lots=tuple(DyeLot.model_validate_json(d) for d in documents("dye_lot")),
    )


def stock_shelf(connection: sqlite3.Connection, shelf: Shelf) -> None:
    """Puts the given items on an empty Shelf; does nothing on one that has any."""
    if connection.execute("SELECT count(*) FROM shelf_item").fetchone()[0]:
        return
    kinds: tuple[tuple[ShelfKind, tuple[Item, ...]], ...] = (
        ("fibre", shelf.fibres),
        ("mordant_route", shelf.mordant_routes),
        ("dye_lot", shelf.dye_lots),
    )
    for kind, items in kinds:
        for item in items:
            add_item(connection, kind, item)


def add_item(connection: sqlite3.Connection, kind: ShelfKind, item: Item) -> None:
    """Adds an item; raises Refusal where the key is taken."""
    taken = connection.execute(
        "SELECT 1 FROM shelf_item WHERE kind = ? AND key = ?", (kind, item.key)
    ).fetchone()
    if taken:
        raise Refusal(
            "key-taken",
            f"“{item.key}” is already on the Shelf.",
            "Choose another short name.",
            (Fault(field="key", given=item.key, allowed="a short name that is not there yet",
                   cure="Choose another short name."),),
        )  # fmt: skip
    connection.execute(
        "INSERT INTO shelf_item (kind, key, position, document) VALUES "
        "(?, ?, (SELECT count(*) FROM shelf_item WHERE kind = ?), ?)",
        (kind, item.key, kind, item.model_dump_json()),
    )
