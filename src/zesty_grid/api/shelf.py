"""The Shelf."""

from fastapi import APIRouter

from zesty_grid.api.shared import Store
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.items import DyeLot, Fibre, Shelf
from zesty_grid.core.shelf.starting_shelf import REFUSED_MATERIALS
from zesty_grid.store.shelf import add_item, load_shelf

router = APIRouter(prefix="/api/shelf", tags=["shelf"])


@router.get("")
def get_shelf(store: Store) -> Shelf:
    with store.connection() as connection:
        return load_shelf(connection)


@router.post("/fibres", status_code=201)
def add_fibre(fibre: Fibre, store: Store) -> Shelf:
    with store.transaction() as connection:
        add_item(connection, "fibre", fibre)
        return load_shelf(connection)


@router.post("/dye-lots", status_code=201)
def add_dye_lot(lot: DyeLot, store: Store) -> Shelf:
    for material, reason in REFUSED_MATERIALS.items():
        if material in lot.name.lower().split():
            raise Refusal("refused-material", f"{material} is not planned here. {reason}", "")
    with store.transaction() as connection:
        add_item(connection, "dye_lot", lot)
        return load_shelf(connection)
