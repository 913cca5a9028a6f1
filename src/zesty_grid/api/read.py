"""Sheets to print, photos to measure, readings to keep."""

import io
import secrets
import sqlite3
from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, File, Query, UploadFile
from fastapi.responses import Response
from PIL import Image

from zesty_grid.api.answers import AcceptedCount, NewSheets
from zesty_grid.api.shared import RowId, Store, as_json
from zesty_grid.core.plan.swatch_codes import ALPHABET
from zesty_grid.core.read.measure import measure_sheet
from zesty_grid.core.read.readings import (
    AssignedSheet,
    NewReadings,
    Photo,
    Piece,
    Reading,
    assigned_page,
    next_pages,
)
from zesty_grid.core.read.sheet_code import read_sheet_id
from zesty_grid.core.read.sheet_layout import Sheet, lay_out_sheet
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.exif import camera_notes
from zesty_grid.formats.photo import MAX_BYTES, open_photo
from zesty_grid.formats.sheet_page import sheet_pdf, sheet_png
from zesty_grid.store import read as readings_store
from zesty_grid.store.accepting import accept
from zesty_grid.store.fade import list_trials, load_trial
from zesty_grid.store.keeping import must_be_known
from zesty_grid.store.plan import NotFound, load_study
from zesty_grid.store.standing import standing_study

router = APIRouter(prefix="/api", tags=["read"])
PIECES: dict[str, tuple[Piece, ...]] = {"light": ("dark", "light"), "wash": ("dark", "wash")}


@router.get("/studies/{study_id}/sheets")
def list_sheets(study_id: RowId, store: Store) -> list[AssignedSheet]:
    with store.connection() as connection:
        return readings_store.list_sheets(connection, study_id)


@router.post("/studies/{study_id}/sheets", status_code=201)
def lay_out_sheets(study_id: RowId, wanted: NewSheets, store: Store) -> list[AssignedSheet]:
    with store.transaction() as connection:
        add_sheets(connection, study_id, wanted)
        return readings_store.list_sheets(connection, study_id)


def add_sheets(connection: sqlite3.Connection, study_id: int, wanted: NewSheets) -> list[Sheet]:
    """Pages for every swatch that is planned or was begun and has none yet, or for every piece of
    a trial."""
    laid = readings_store.list_sheets(connection, study_id)
    if wanted.trial is None:
        planned = standing_study(connection, study_id).planned
        shown = (one for one in planned.swatches if one.begun and not one.planned)
        swatches = [one.code for one in (*planned.planned, *shown)]
        swatches += [code for code in planned.guests if code not in set(swatches)]
        pieces: tuple[Piece, ...] = ("whole",)
    else:
        owner, trial = load_trial(connection, wanted.trial)
        if owner != study_id:
            raise NotFound("trial")
        swatches, pieces = list(trial.swatches), PIECES[trial.kind]
    must_be_known(wanted.swatches, swatches)
    swatches = list(dict.fromkeys(wanted.swatches)) or swatches
    made = []
    anew = bool(wanted.swatches)
    pages = next_pages(swatches, pieces, laid, wanted.trial, wanted.cells_per_page, anew)
    for number, page in pages:
        sheet = lay_out_sheet(_new_sheet_id(), wanted.cells_per_page)
        assigned = assigned_page(sheet, number, wanted.trial, page)
        readings_store.add_sheet(connection, study_id, assigned)
        made.append(sheet)
    return made


@router.get("/sheets/{sheet_id}.pdf", response_class=Response)
def sheet_as_pdf(sheet_id: str, store: Store) -> Response:
    return Response(_printed(sheet_id, store), media_type="application/pdf")


@router.get("/sheets/{sheet_id}.png", response_class=Response)
def sheet_as_png(sheet_id: str, store: Store) -> Response:
    return Response(sheet_png(_printed(sheet_id, store)), media_type="image/png")


@router.get("/studies/{study_id}/photos")
def list_photos(study_id: RowId, store: Store) -> list[Photo]:
    with store.connection() as connection:
        return readings_store.list_photos(connection, study_id)


@router.post("/studies/{study_id}/photos", status_code=201)
def measure_photo(study_id: RowId, store: Store, photo: Annotated[UploadFile, File()]) -> Photo:
    """Measures a photo of one of the study's sheets; a refused photo is not kept."""
    data = photo.file.read(MAX_BYTES + 1)
    picture = open_photo(data)
    sheet_id, page = read_sheet_id(picture)
    with store.connection() as connection:
        assigned = _own_sheet(connection, study_id, sheet_id)
    measurement = measure_sheet(picture, assigned.sheet, page)
    notes = camera_notes(data)
    with store.transaction() as connection:
        photo_id = readings_store.add_photo(
            connection,
            study_id,
            sheet_id,
            photo.filename or "photo",
            data,
            notes.taken_at,
            notes.camera,
        )
        readings_store.add_measurement(connection, photo_id, measurement)
        return readings_store.load_photo(connection, photo_id)


@router.get("/photos/{photo_id}/image", response_class=Response)
def photo_image(
    photo_id: RowId, store: Store, width: Annotated[int, Query(ge=100, le=2400)] = 1200
) -> Response:
    """The photo upright, as JPEG, at most `width` pixels wide."""
    with store.connection() as connection:
        data = readings_store.photo_bytes(connection, photo_id)
    picture = open_photo(data)
    pixels = picture.pixels if picture.top_code == 255 else (picture.pixels >> 8).astype("uint8")
    image = Image.fromarray(pixels)
    image.thumbnail((width, width * 2))
    buffer = io.BytesIO()
    image.save(buffer, "JPEG", quality=85)
    headers = {"Cache-Control": "private, max-age=86400"}
    return Response(buffer.getvalue(), media_type="image/jpeg", headers=headers)


@router.post("/photos/{photo_id}/accept", status_code=201)
def accept_readings(photo_id: RowId, wanted: NewReadings, store: Store) -> AcceptedCount:
    with store.transaction() as connection:
        photo = readings_store.load_photo(connection, photo_id)
        if photo.sheet.trial is not None and wanted.stage is not None:
            _, trial = load_trial(connection, photo.sheet.trial)
            if wanted.stage >= len(trial.stages):
                raise Refusal(
                    "no-such-stage", "The trial has no such stage.", "Choose one of its stages."
                )
        now = datetime.now().astimezone()
        return AcceptedCount(readings=accept(connection, photo, wanted, now))


@router.get("/studies/{study_id}/readings", response_model=list[Reading])
def list_readings(study_id: RowId, store: Store) -> Response:
    with store.connection() as connection:
        load_study(connection, study_id)
        return as_json(list[Reading], readings_store.list_readings(connection, study_id))


def _new_sheet_id() -> str:
    return "".join(secrets.choice(ALPHABET) for _ in range(6))


def _own_sheet(connection: sqlite3.Connection, study_id: int, sheet_id: str) -> AssignedSheet:
    try:
        owner, assigned = readings_store.load_sheet(connection, sheet_id)
    except NotFound as error:
        raise Refusal(
            "unknown-sheet",
            f"Sheet {sheet_id} was not made by this application, or by another data file.",
            "Photograph a sheet that was printed from this study.",
        ) from error
    if owner != study_id:
        raise Refusal(
            "other-study",
            f"Sheet {sheet_id} belongs to another study.",
            "Open that study and drop the photo there.",
        )
    return assigned


def _printed(sheet_id: str, store: Store) -> bytes:
    with store.connection() as connection:
        study_id, assigned = readings_store.load_sheet(connection, sheet_id)
        name = load_study(connection, study_id).plan.name
        trials = list_trials(connection, study_id)
    trial = trials.get(assigned.trial) if assigned.trial else None
    labels = {
        a.cell: a.swatch if a.piece == "whole" else f"{a.swatch} {a.piece}"
        for a in assigned.assignments
    }
    part = f"{trial.name}, page" if trial else "page"
    return sheet_pdf(assigned.sheet, f"{name[:44]} · {part} {assigned.page}", labels)
