"""Differences from a chosen reference, or of pieces from their own state before."""

from fastapi import APIRouter

from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.compare.reference import (
    BeforeReference,
    Comparison,
    FactorReference,
    Reference,
    compare_before,
    compare_cells,
    error_words,
)
from zesty_grid.core.plan.grid import grid_of
from zesty_grid.core.plan.noise import estimate_noise
from zesty_grid.core.plan.told import Effect
from zesty_grid.store.compare import pieces_around, pieces_in_last_state
from zesty_grid.store.noise import colours_that_should_be_alike
from zesty_grid.store.standing import standing_study
from zesty_grid.store.telling import study_tells

router = APIRouter(prefix="/api/studies/{study_id}/compare", tags=["compare"])


@router.post("")
def compare(study_id: RowId, reference: Reference, store: Store) -> Comparison:
    """Every read cell against the reference, without swatches that went wrong and do not count."""
    effect: Effect | None = None
    with store.connection() as connection:
        standing = standing_study(connection, study_id)
        if isinstance(reference, BeforeReference):
            before, after = pieces_around(connection, standing, reference.vessel)
            found = compare_before(before, after)
        else:
            seen = pieces_in_last_state(connection, standing)
            cells = grid_of(standing.planned).cells
            found = compare_cells(cells, seen, reference)
        if isinstance(reference, FactorReference):
            noise = estimate_noise(*colours_that_should_be_alike(connection))
            told = study_tells(connection, standing, noise)
            effect = next((e for e in told.effects if e.factor == reference.factor), None)
    return Comparison(differences=tuple(found), error_words=error_words(reference, effect))
