"""What a package brings to the Shelf."""

import json
import sqlite3
from collections.abc import Mapping
from typing import Any, NamedTuple

from zesty_grid.core.shelf.shelf import SHELF_KINDS, Shelf
from zesty_grid.store.packages.codes import as_text
from zesty_grid.store.packages.sound import broken, must_be_sound
from zesty_grid.store.shelf import FIELD

Row = dict[str, Any]
ItemKey = tuple[str, str]


class ShelfTaken(NamedTuple):
    """Names of things that are new, and of those of which this file keeps its own."""

    added: tuple[str, ...]
    kept: tuple[str, ...]


def take_shelf(connection: sqlite3.Connection, rows: Mapping[str, list[Row]], starting: Shelf) -> ShelfTaken:
    """Adds what is not there. Of what is there in another form this file keeps its own, but for
    things that nobody has touched since they came with the application. A file without studies
    whose Shelf is as it came takes the package's Shelf as a whole.

    A study of the package that has not begun, and would find other recipes here, keeps its own.
    """
    theirs = _checked(rows["shelf"])
    ours = {
        (row["kind"], row["key"]): _document(row["kind"], row["document"])
        for row in connection.execute("SELECT kind, key, document FROM shelf_item")
    }
    came: dict[ItemKey, Row] = {
        (kind, item.key): json.loads(item.model_dump_json())
        for kind in SHELF_KINDS
        for item in getattr(starting, FIELD[kind])
    }
    if ours == came and not connection.execute("SELECT 1 FROM study").fetchone() and theirs:
        connection.execute("DELETE FROM shelf_item")
        ours = {}
    added, kept = [], []
    for (kind, key), document in theirs.items():
        there = ours.get((kind, key))
        if there == document:
            continue
        if there is None or there == came.get((kind, key)):
            _put(connection, kind, key, document, there is None)
            added += [] if (kind, key) in came else [str(document.get("name", key))]
        elif document != came.get((kind, key)):
            kept.append(str(document.get("name", key)))
    if kept:
        _keep_recipes(rows, theirs)
    return ShelfTaken(tuple(added), tuple(kept))


def _checked(rows: list[Row]) -> dict[ItemKey, Row]:
    found: dict[ItemKey, Row] = {}
    for number, row in enumerate(rows, 1):
        document = _document(row["kind"], row["document"] or "{}")
        if (document["kind"], document.get("key")) != (row["kind"], row["key"]):
            raise broken("shelf", number, "key", "It is another one than the document says.")
        must_be_sound("shelf", number, "document", as_text(document))
        found[row["kind"], row["key"]] = document
    return found


def _document(kind: str, text: str) -> Row:
    """Documents of the first version do not name their kind."""
    document: Row = json.loads(text)
    return document if "kind" in document else {"kind": kind} | document


def _put(connection: sqlite3.Connection, kind: str, key: str, document: Row, is_new: bool) -> None:
    if is_new:
        connection.execute(
            "INSERT INTO shelf_item (kind, key, position, document) VALUES (?1, ?2, (SELECT "
            "coalesce(max(position) + 1, 0) FROM shelf_item WHERE kind = ?1), ?3)",
            (kind, key, as_text(document)),
        )
    else:
        connection.execute(
            "UPDATE shelf_item SET document = ? WHERE kind = ? AND key = ?", (as_text(document), kind, key)
        )


def _keep_recipes(rows: Mapping[str, list[Row]], theirs: Mapping[ItemKey, Row]) -> None:
    shelf = {FIELD[kind]: [document for (one, _), document in theirs.items() if one == kind] for kind in SHELF_KINDS}
    for row in rows["studies"]:
        if row["kept_shelf"] is None:
            row["kept_shelf"] = as_text(shelf)
