"""The Shelf: what is on it, added, changed, retired or taken away."""

import sqlite3

from fastapi import APIRouter

from zesty_grid.api.shared import Store
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.in_use import uses_of
from zesty_grid.core.shelf.refused_materials import refuse_materials
from zesty_grid.core.shelf.shelf import Shelf, ShelfItem, ShelfKind
from zesty_grid.store import shelf as shelf_store
from zesty_grid.store.cloths import cloth_readings
from zesty_grid.store.plan import all_plans

router = APIRouter(prefix="/api/shelf", tags=["shelf"])


@router.get("")
def get_shelf(store: Store) -> Shelf:
    with store.connection() as connection:
        return shelf_store.load_shelf(connection)


@router.post("", status_code=201)
def add_item(item: ShelfItem, store: Store) -> Shelf:
    refuse_materials(item)
    with store.transaction() as connection:
        shelf_store.add_item(connection, item)
        return shelf_store.load_shelf(connection)


@router.put("")
def change_item(item: ShelfItem, store: Store) -> Shelf:
    """Saves an item over the one of the same kind and key; retiring is such a change."""
    refuse_materials(item)
    with store.transaction() as connection:
        shelf_store.replace_item(connection, item)
        return shelf_store.load_shelf(connection)


@router.delete("/{kind}/{key}")
def remove_item(kind: ShelfKind, key: str, store: Store) -> Shelf:
    with store.transaction() as connection:
        _refuse_if_used(connection, kind, key)
        shelf_store.remove_item(connection, kind, key)
        return shelf_store.load_shelf(connection)


def _refuse_if_used(connection: sqlite3.Connection, kind: ShelfKind, key: str) -> None:
    if kind == "cloth" and cloth_readings(connection, key):
        raise Refusal(
            "in-use",
            "It has readings, and cannot be taken away.",
            "Retire it instead: its readings stay, and it is no longer offered.",
        )
    names = uses_of(kind, key, all_plans(connection), shelf_store.load_shelf(connection))
    if names:
        raise Refusal(
            "in-use",
            f"It is used by {', '.join(names[:3])}, and cannot be taken away.",
            "Retire it instead: it stays for what uses it, and is no longer offered.",
        )
