"""Sheets to print, photos to measure, readings to keep."""

import secrets
import sqlite3
from datetime import date, datetime
from typing import Annotated, Literal

from fastapi import APIRouter, File, Query, UploadFile
from fastapi.responses import Response

from zesty_grid.api.answers import AcceptedCount, ClearAccepted, Discarding, MeasureAgain, NewSheets, StillWaiting
from zesty_grid.api.shared import Codes, RowId, Store, as_json, codes_in
from zesty_grid.core.fade.trial import TrialPlan, with_zones
from zesty_grid.core.plan.swatch_codes import ALPHABET
from zesty_grid.core.read.areas import measure_areas
from zesty_grid.core.read.by_hand import said_last
from zesty_grid.core.read.cell_pixels import cell_pixels
from zesty_grid.core.read.chart import patch24
from zesty_grid.core.read.flags import FLAGS, Flag
from zesty_grid.core.read.joining import join
from zesty_grid.core.read.measure import calibrate, measure_sheet
from zesty_grid.core.read.measurement import Measurement
from zesty_grid.core.read.nothing_to_ask import everything_of, what_it_asks
from zesty_grid.core.read.odd_ones import OddPiece
from zesty_grid.core.read.readings import (
    AssignedSheet,
    NewReadings,
    Photo,
    PhotoLine,
    Piece,
    Reading,
    SheetLine,
    assigned_page,
    must_show_one_moment,
    next_pages,
)
from zesty_grid.core.read.said_by_hand import CellByHand
from zesty_grid.core.read.sheet_code import read_sheet_id
from zesty_grid.core.read.sheet_layout import MOST_CELLS, Sheet, lay_out_sheet, no_sheet
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.exif import camera_notes
from zesty_grid.formats.on_screen import cell_png, screen_jpeg
from zesty_grid.formats.photo import MAX_BYTES, open_photo
from zesty_grid.formats.sheet_page import sheet_pdf, sheet_png
from zesty_grid.store import read as readings_store
from zesty_grid.store.accepting import accept
from zesty_grid.store.camera_profiles import as_taught
from zesty_grid.store.database import Database
from zesty_grid.store.expecting import questions_about
from zesty_grid.store.fade import due_stage, list_trials, load_trial, stage_count
from zesty_grid.store.keeping import must_be_known
from zesty_grid.store.plan import NotFound, load_study
from zesty_grid.store.shelf import chart_for
from zesty_grid.store.standing import standing_study

router = APIRouter(prefix="/api", tags=["read"])


@router.get("/read/flags")
def list_flags() -> list[Flag]:
    """What the flags of a measurement mean, and what to do."""
    return list(FLAGS)


@router.get("/studies/{study_id}/sheets")
def list_sheets(study_id: RowId, store: Store) -> list[AssignedSheet]:
    with store.connection() as connection:
        return readings_store.list_sheets(connection, study_id)


@router.get("/studies/{study_id}/sheet-lines")
def list_sheet_lines(study_id: RowId, store: Store) -> list[SheetLine]:
    """The sheets of a study with who lies on them, without their layouts."""
    with store.connection() as connection:
        return readings_store.sheet_lines(connection, study_id)


@router.post("/studies/{study_id}/sheets", status_code=201)
def lay_out_sheets(study_id: RowId, wanted: NewSheets, store: Store) -> list[AssignedSheet]:
    with store.transaction() as connection:
        add_sheets(connection, study_id, wanted)
        return readings_store.list_sheets(connection, study_id)


def add_sheets(connection: sqlite3.Connection, study_id: int, wanted: NewSheets) -> list[Sheet]:
    """Pages for every swatch that is planned or was begun and has none yet, or for every piece of
    a trial."""
    laid = readings_store.list_sheets(connection, study_id)
    trial: TrialPlan | None = None
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
        swatches, pieces = list(trial.swatches), trial.pieces
    must_be_known(wanted.swatches, swatches)
    swatches = list(dict.fromkeys(wanted.swatches)) or swatches
    chart = chart_for(connection, wanted.chart)
    made = []
    anew = bool(wanted.swatches)
    per_page = min(wanted.cells_per_page, MOST_CELLS[wanted.kind])
    filled = max(1, per_page - wanted.free_cells)
    pages = next_pages(swatches, pieces, laid, wanted.trial, filled, anew)
    for number, page in pages:
        cells = max(per_page, len(page))
        sheet = lay_out_sheet(_new_sheet_id(), cells, wanted.kind, wanted.paper, chart)
        if trial:
            sheet = with_zones(sheet, page, trial)
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
def list_photos(study_id: RowId, store: Store) -> list[PhotoLine]:
    """The photos of a study, the newest first, without what was measured in them."""
    with store.connection() as connection:
        return readings_store.photo_lines(connection, study_id)


@router.get("/photos/{photo_id}")
def get_photo(photo_id: RowId, store: Store) -> Photo:
    """A photo with all that was measured in it."""
    with store.connection() as connection:
        return readings_store.load_photo(connection, photo_id)


@router.post("/studies/{study_id}/photos", status_code=201)
def measure_photo(study_id: RowId, store: Store, photo: Annotated[UploadFile, File()]) -> Photo:
    """Measures a photo of one of the study's sheets; a refused photo is not kept."""
    return _measure_upload(store, photo, study_id)


@router.post("/photos", status_code=201)
def measure_any_photo(store: Store, photo: Annotated[UploadFile, File()]) -> Photo:
    """Measures a photo of a sheet of any study: its square code says of which."""
    return _measure_upload(store, photo, None)


def _measure_upload(store: Database, photo: UploadFile, study_id: int | None) -> Photo:
    data = photo.file.read(MAX_BYTES + 1)
    picture = open_photo(data)
    sheet_id, page = read_sheet_id(picture)
    with store.connection() as connection:
        owner, assigned = _known_sheet(connection, sheet_id)
    if study_id is not None and owner != study_id:
        raise Refusal(
            "other-study", f"Sheet {sheet_id} belongs to another study.", "Open that study and drop the photo there."
        )
    measurement = measure_sheet(picture, assigned.sheet, page)
    with store.transaction() as connection:
        return _kept(connection, owner, sheet_id, photo, data, measurement)


def _kept(
    connection: sqlite3.Connection,
    study_id: int,
    sheet_id: str,
    photo: UploadFile,
    data: bytes,
    measurement: Measurement,
) -> Photo:
    notes = camera_notes(data)
    photo_id = readings_store.add_photo(
        connection, study_id, sheet_id, photo.filename or "photo", data, notes.taken_at, notes.camera
    )
    readings_store.add_measurement(connection, photo_id, as_taught(connection, measurement))
    return readings_store.load_photo(connection, photo_id)


@router.post("/studies/{study_id}/photos/without-sheet", status_code=201)
def keep_photo_without_sheet(
    study_id: RowId,
    store: Store,
    photo: Annotated[UploadFile, File()],
    chart: Annotated[str | None, Query(max_length=40)] = None,
) -> Photo:
    """Keeps a photo that holds a chart and no sheet; areas drawn on it are then measured."""
    data = photo.file.read(MAX_BYTES + 1)
    picture = open_photo(data)
    with store.connection() as connection:
        known = chart_for(connection, chart)
    sheet = no_sheet(_new_sheet_id(), known or patch24())
    measurement = measure_areas(picture, sheet)
    with store.transaction() as connection:
        assigned = AssignedSheet(sheet=sheet, page=0, assignments=())
        readings_store.add_sheet(connection, study_id, assigned)
        return _kept(connection, study_id, sheet.id, photo, data, measurement)


@router.post("/photos/{photo_id}/measure", status_code=201)
def measure_again(photo_id: RowId, wanted: MeasureAgain, store: Store) -> Photo:
    """Reads a photo that is kept once more, by what the program knows today and by what a person
    says of some cells. What was accepted stays; the new measurement waits to be looked at."""
    with store.connection() as connection:
        kept = readings_store.load_photo(connection, photo_id)
        data = readings_store.photo_bytes(connection, photo_id)
    said = said_last(kept.measurement.by_hand, wanted.cells)
    measurement = _measured(data, kept.sheet.sheet, said)
    joined = [one for one in wanted.join if one != photo_id]
    if joined:
        others = [_read_for_joining(store, one) for one in joined]
        must_show_one_moment([kept, *others])
        names = [kept.filename, *(other.filename for other in others)]
        measurement = join([measurement, *(other.measurement for other in others)], names)
    with store.transaction() as connection:
        readings_store.add_measurement(connection, photo_id, as_taught(connection, measurement))
        for one in joined:
            readings_store.discard_photo(connection, one, discarded=True)
        return readings_store.load_photo(connection, photo_id)


def _measured(data: bytes, sheet: Sheet, said: tuple[CellByHand, ...]) -> Measurement:
    measure = measure_areas if sheet.kind == "none" else measure_sheet
    return measure(open_photo(data), sheet, by_hand=said)


def _read_for_joining(store: Database, photo_id: int) -> Photo:
    """A photo as it was measured; read once more where that was by an older version."""
    with store.connection() as connection:
        photo = readings_store.load_photo(connection, photo_id)
        calibration = photo.measurement.calibration
        untouched = not photo.measurement.photos and calibration.taught is None
        if calibration.patch_light and untouched:
            return photo
        data = readings_store.photo_bytes(connection, photo_id)
    measurement = _measured(data, photo.sheet.sheet, photo.measurement.by_hand)
    return photo.model_copy(update={"measurement": measurement})


@router.post("/photos/{photo_id}/discard")
def discard(photo_id: RowId, wanted: Discarding, store: Store) -> Photo:
    """Sets a photo aside, or brings it back."""
    with store.transaction() as connection:
        readings_store.load_photo(connection, photo_id)
        readings_store.discard_photo(connection, photo_id, wanted.discarded)
        return readings_store.load_photo(connection, photo_id)


@router.get("/photos/{photo_id}/questions")
def photo_questions(photo_id: RowId, store: Store) -> list[OddPiece]:
    """Pieces that look other than was to be expected."""
    with store.connection() as connection:
        return questions_about(connection, readings_store.load_photo(connection, photo_id))


@router.get("/photos/{photo_id}/cells/{cell}.png", response_class=Response)
def cell_image(
    photo_id: RowId, cell: str, store: Store, shown: Literal["photo", "use", "levelness"] = "photo"
) -> Response:
    """A cell enlarged: as photographed, with what was used of it, or as a map of levelness."""
    with store.connection() as connection:
        photo = readings_store.load_photo(connection, photo_id)
        data = readings_store.photo_bytes(connection, photo_id)
    headers = {"Cache-Control": "private, max-age=3600"}
    return Response(picture_of_cell(photo, data, cell, shown), media_type="image/png", headers=headers)


def picture_of_cell(photo: Photo, data: bytes, cell: str, shown: Literal["photo", "use", "levelness"]) -> bytes:
    """PNG. Raises NotFound where the sheet has no such cell, Refusal where nothing lies in it."""
    spot = next((one for one in photo.sheet.sheet.cells if one.cell == cell), None)
    if spot is None or photo.sheet.sheet.kind == "none":
        raise NotFound("cell")
    found = calibrate(open_photo(data), photo.sheet.sheet).photo
    said = {one.cell: one for one in photo.measurement.by_hand}
    pixels = cell_pixels(found, spot, said.get(cell))
    if pixels is None:
        raise Refusal("empty", f"Nothing was found in cell {cell}.", "Draw what lies there.")
    return cell_png(pixels, found.picture, shown)


@router.get("/photos/{photo_id}/image", response_class=Response)
def photo_image(photo_id: RowId, store: Store, width: Annotated[int, Query(ge=100, le=2400)] = 1200) -> Response:
    """The photo upright, as JPEG, at most `width` pixels wide."""
    with store.connection() as connection:
        data = readings_store.photo_bytes(connection, photo_id)
    jpeg = screen_jpeg(open_photo(data), width)
    headers = {"Cache-Control": "private, max-age=86400"}
    return Response(jpeg, media_type="image/jpeg", headers=headers)


@router.post("/photos/{photo_id}/accept", status_code=201)
def accept_readings(photo_id: RowId, wanted: NewReadings, store: Store) -> AcceptedCount:
    with store.transaction() as connection:
        photo = readings_store.load_photo(connection, photo_id)
        last = stage_count(connection, photo.sheet.trial) if photo.sheet.trial else 0
        if photo.sheet.trial is not None and (wanted.stage or 0) >= last:
            raise Refusal("no-such-stage", "The trial has no such stage.", "Choose one of its stages.")
        now = datetime.now().astimezone()
        return AcceptedCount(readings=accept(connection, photo, wanted, now))


@router.post("/studies/{study_id}/photos/accept-clear", status_code=201)
def accept_clear(study_id: RowId, store: Store) -> ClearAccepted:
    """Accepts every waiting photo that has nothing to ask; the others go on waiting."""
    accepted, left = [], []
    now = datetime.now().astimezone()
    with store.transaction() as connection:
        for photo in readings_store.waiting_photos(connection, study_id):
            day = date.fromisoformat(photo.taken_on) if photo.taken_on else None
            stage = due_stage(connection, photo.sheet.trial, day) if photo.sheet.trial else None
            asks = what_it_asks(photo, questions_about(connection, photo), stage)
            if asks:
                left.append(StillWaiting(photo=photo.id, filename=photo.filename, asks=tuple(asks)))
                continue
            wanted = everything_of(photo, stage, now.date())
            try:
                accept(connection, photo, wanted, now)
            except Refusal as refusal:
                left.append(StillWaiting(photo=photo.id, filename=photo.filename, asks=(str(refusal),)))
                continue
            accepted.append(photo.id)
    return ClearAccepted(accepted=tuple(accepted), left=tuple(left))


@router.get("/studies/{study_id}/readings", response_model=list[Reading])
def list_readings(study_id: RowId, store: Store, codes: Codes = "") -> Response:
    """All readings of a study, or those of some of its swatches, oldest first."""
    wanted = codes_in(codes)
    with store.connection() as connection:
        found = readings_store.list_readings(connection, study_id, wanted)
        return as_json(list[Reading], found)


def _new_sheet_id() -> str:
    return "".join(secrets.choice(ALPHABET) for _ in range(6))


def _known_sheet(connection: sqlite3.Connection, sheet_id: str) -> tuple[int, AssignedSheet]:
    try:
        return readings_store.load_sheet(connection, sheet_id)
    except NotFound as error:
        raise Refusal(
            "unknown-sheet",
            f"Sheet {sheet_id} was not made by this application, or by another data file.",
            "Photograph a sheet that was printed from this study.",
        ) from error


def _printed(sheet_id: str, store: Store) -> bytes:
    with store.connection() as connection:
        study_id, assigned = readings_store.load_sheet(connection, sheet_id)
        name = load_study(connection, study_id).plan.name
        trials = list_trials(connection, study_id)
    trial = trials.get(assigned.trial) if assigned.trial else None
    zones = {cell.cell: " | ".join(cell.zones) for cell in assigned.sheet.cells}
    labels = {
        a.cell: a.swatch if a.piece == "whole" else f"{a.swatch} {zones[a.cell] or a.piece}"
        for a in assigned.assignments
    }
    part = f"{trial.name}, page" if trial else "page"
    return sheet_pdf(assigned.sheet, f"{name[:44]} · {part} {assigned.page}", labels)
