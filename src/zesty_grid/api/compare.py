"""Differences from a chosen reference."""

from fastapi import APIRouter

from zesty_grid.api.benches import study_bench
from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.compare.reference import (
    CellDifference,
    Reference,
    colours_of_cells,
    compare_cells,
)
from zesty_grid.core.dye.swatch_record import left_out_of
from zesty_grid.core.read.readings import as_dyed
from zesty_grid.store.read import list_readings

router = APIRouter(prefix="/api/studies/{study_id}/compare", tags=["compare"])


@router.post("")
def compare(study_id: RowId, reference: Reference, store: Store) -> list[CellDifference]:
    """Every read cell against the reference, without swatches that went wrong and are left out."""
    with store.connection() as connection:
        at_bench = study_bench(connection, study_id)
        cells = at_bench.study.cells
        out = left_out_of(at_bench.marks())
        newest = as_dyed(r for r in list_readings(connection, study_id) if r.swatch not in out)
    colours = colours_of_cells(newest.values())
    return compare_cells([cell for cell in cells if cell.included], colours, reference)
