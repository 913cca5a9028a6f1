"""Differences from a chosen reference."""

from fastapi import APIRouter

from zesty_grid.api.shared import RowId, Store, worked_study
from zesty_grid.core.compare.reference import (
    CellDifference,
    Reference,
    colours_of_cells,
    compare_cells,
)
from zesty_grid.core.read.readings import as_dyed
from zesty_grid.store.read import list_readings

router = APIRouter(prefix="/api/studies/{study_id}/compare", tags=["compare"])


@router.post("")
def compare(study_id: RowId, reference: Reference, store: Store) -> list[CellDifference]:
    """Every read cell against the reference; nothing is changed."""
    with store.connection() as connection:
        cells = worked_study(connection, study_id).cells
        newest = as_dyed(list_readings(connection, study_id))
    colours = colours_of_cells(newest.values())
    return compare_cells([cell for cell in cells if cell.included], colours, reference)
