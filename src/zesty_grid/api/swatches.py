"""One swatch from the Shelf to its last reading, and the colours of all of a study's states."""

from fastapi import APIRouter

from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.dye.swatch_record import SwatchRecord
from zesty_grid.core.read.readings import Reading, ReadingChoice
from zesty_grid.core.record.states import StudyColours
from zesty_grid.store.following import follow_readings
from zesty_grid.store.plan import NotFound
from zesty_grid.store.read import choose_reading, load_reading
from zesty_grid.store.state_colours import colours_of_study
from zesty_grid.store.swatch_record import record_of

router = APIRouter(prefix="/api", tags=["read"])


@router.get("/studies/{study_id}/colours")
def get_colours(study_id: RowId, store: Store) -> StudyColours:
    """The states of every swatch, and the mean colour of each that was read."""
    with store.connection() as connection:
        return colours_of_study(connection, study_id)


@router.get("/studies/{study_id}/swatches/{code}")
def swatch_record(study_id: RowId, code: str, store: Store) -> SwatchRecord:
    with store.connection() as connection:
        found = record_of(connection, study_id, code)
    if found is None:
        raise NotFound("swatch")
    return found


@router.post("/readings/{reading_id}/choice")
def choose(reading_id: RowId, choice: ReadingChoice, store: Store) -> Reading:
    """Says whether a reading counts; it stays what it is."""
    with store.transaction() as connection:
        swatch, _ = load_reading(connection, reading_id)
        choose_reading(connection, reading_id, choice)
        follow_readings(connection, [swatch])
        return load_reading(connection, reading_id)[1]
