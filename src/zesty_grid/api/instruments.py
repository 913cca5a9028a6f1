"""Readings of an instrument: looked at, kept, and compared with the camera's."""

from datetime import datetime

from fastapi import APIRouter

from zesty_grid.api.answers import AcceptedCount, InstrumentFileKept, InstrumentLook, InstrumentView, TeachCamera
from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.read.instrument import NewInstrumentFile, as_named, samples_of
from zesty_grid.core.read.instrument_agreement import Agreement, agreements
from zesty_grid.formats.cgats import read_colour_table
from zesty_grid.store.camera_profiles import forget_camera, taught_captures, teach_camera
from zesty_grid.store.database import Database
from zesty_grid.store.instruments import keep_instrument_file, list_samples, read_both_ways
from zesty_grid.store.keeping import must_be_known
from zesty_grid.store.swatches import codes_of_study

router = APIRouter(prefix="/api/studies/{study_id}/instruments", tags=["read"])


@router.post("/look")
def look_at_file(study_id: RowId, new: NewInstrumentFile, store: Store) -> InstrumentLook:
    """What a file holds and whose readings they would be; nothing is kept."""
    return _look(study_id, new, store)


@router.post("", status_code=201)
def keep_file(study_id: RowId, new: NewInstrumentFile, store: Store) -> AcceptedCount:
    look = _look(study_id, new, store)
    with store.transaction() as connection:
        known = codes_of_study(connection, study_id)
        must_be_known([one.swatch for one in look.samples if one.swatch], known)
        made = keep_instrument_file(connection, study_id, new, look.samples, datetime.now().astimezone())
        return AcceptedCount(readings=made)


@router.get("")
def list_files(study_id: RowId, store: Store) -> InstrumentView:
    """The files of a study, and how the cameras of all studies compare with instruments."""
    with store.connection() as connection:
        files = list_samples(connection, study_id)
        both = read_both_ways(connection)
        taught = taught_captures(connection)
    return InstrumentView(
        files=tuple(
            InstrumentFileKept(
                id=row["id"],
                filename=row["filename"],
                instrument=row["instrument"],
                measured_on=row["measured_on"],
                samples=tuple(samples),
            )
            for row, samples in files
        ),
        agreements=tuple(_with_use(one, taught) for one in agreements(both)),
    )


@router.post("/teach")
def teach(study_id: RowId, wanted: TeachCamera, store: Store) -> InstrumentView:
    """Photos of this camera in such a light are from now on corrected by what the instrument says
    of its swatches, or no longer."""
    with store.transaction() as connection:
        if wanted.in_use:
            teach_camera(connection, wanted.camera, wanted.capture)
        else:
            forget_camera(connection, wanted.camera, wanted.capture)
    return list_files(study_id, store)


def _with_use(agreement: Agreement, taught: set[tuple[str, int]]) -> Agreement:
    key = (agreement.camera, agreement.capture or 0)
    if agreement.teaching is None or key not in taught:
        return agreement
    teaching = agreement.teaching.model_copy(update={"in_use": True})
    return agreement.model_copy(update={"teaching": teaching})


def _look(study_id: int, new: NewInstrumentFile, store: Database) -> InstrumentLook:
    with store.connection() as connection:
        codes = codes_of_study(connection, study_id)
    table = read_colour_table(new.content)
    samples = as_named(samples_of(table, codes, new.said), new.named)
    return InstrumentLook(samples=tuple(samples))
