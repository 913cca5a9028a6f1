"""Sheets, photographs, measurements and readings."""

import hashlib
import json
import sqlite3
from collections.abc import Iterable, Sequence
from datetime import datetime
from typing import NamedTuple

from zesty_grid.core.read.difference_uncertainty import Seen, same_response
from zesty_grid.core.read.instrument import ENTERED_LATER
from zesty_grid.core.read.measurement import Measurement
from zesty_grid.core.read.readings import (
    AssignedSheet,
    Assignment,
    LiesIn,
    Photo,
    PhotoLine,
    Piece,
    Reading,
    ReadingChoice,
    SheetLine,
)
from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.store.database import now
from zesty_grid.store.parsed import parsed
from zesty_grid.store.plan import NotFound
from zesty_grid.store.proposing import zones_of_photo
from zesty_grid.store.signing import sign


def add_sheet(connection: sqlite3.Connection, study_id: int, assigned: AssignedSheet) -> None:
    assignments = json.dumps([a.model_dump() for a in assigned.assignments])
    connection.execute(
        "INSERT INTO sheet (id, study_id, trial_id, page, layout, assignments, created_at) "
        "VALUES (?, ?, ?, ?, ?, ?, ?)",
        (
            assigned.sheet.id,
            study_id,
            assigned.trial,
            assigned.page,
            assigned.sheet.model_dump_json(),
            assignments,
            now(),
        ),
    )


def list_sheets(connection: sqlite3.Connection, study_id: int) -> list[AssignedSheet]:
    rows = connection.execute(
        "SELECT * FROM sheet WHERE study_id = ? AND page > 0 ORDER BY trial_id, page, id", (study_id,)
    )
    return [_sheet(row) for row in rows]


def load_sheet(connection: sqlite3.Connection, sheet_id: str) -> tuple[int, AssignedSheet]:
    """The study that a sheet belongs to, and the sheet."""
    row = connection.execute("SELECT * FROM sheet WHERE id = ?", (sheet_id,)).fetchone()
    if row is None:
        raise NotFound("sheet")
    return row["study_id"], _sheet(row)


def add_photo(
    connection: sqlite3.Connection,
    study_id: int,
    sheet_id: str,
    filename: str,
    data: bytes,
    taken_at: datetime | None = None,
    camera: str = "",
) -> int:
    """Keeps a photo and returns its id; the same bytes again give the photo that is there."""
    digest = hashlib.sha256(data).hexdigest()
    connection.execute("INSERT INTO photo_file (sha256, bytes) VALUES (?, ?) ON CONFLICT DO NOTHING", (digest, data))
    connection.execute(
        "INSERT INTO photo (study_id, sheet_id, sha256, filename, uploaded_at, taken_on, taken_at, "
        "camera) VALUES (?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING",
        (
            study_id,
            sheet_id,
            digest,
            filename[:200],
            now(),
            taken_at.date().isoformat() if taken_at else None,
            taken_at.isoformat() if taken_at else None,
            camera,
        ),
    )
    row = connection.execute("SELECT id FROM photo WHERE study_id = ? AND sha256 = ?", (study_id, digest)).fetchone()
    sign(connection, "photo", row["id"])
    return int(row["id"])


def add_measurement(connection: sqlite3.Connection, photo_id: int, measurement: Measurement) -> int:
    """Keeps what was measured; the photo then waits to be accepted."""
    cursor = connection.execute(
        "INSERT INTO measurement (photo_id, document, measured_at) VALUES (?, ?, ?)",
        (photo_id, measurement.model_dump_json(), now()),
    )
    connection.execute(
        "UPDATE photo SET capture_id = ?, waiting = 1, discarded = 0 WHERE id = ?",
        (_capture(connection, measurement), photo_id),
    )
    return int(cursor.lastrowid or 0)


def _capture(connection: sqlite3.Connection, measurement: Measurement) -> int | None:
    """The group of photos that saw the chart alike; a new one where there is none."""
    camera, response = measurement.calibration.camera, measurement.calibration.response
    if not response:
        return None
    rows = connection.execute("SELECT id, response FROM capture WHERE camera = ?", (camera,))
    for row in rows:
        if same_response(response, json.loads(row["response"])):
            return int(row["id"])
    cursor = connection.execute("INSERT INTO capture (camera, response) VALUES (?, ?)", (camera, json.dumps(response)))
    return int(cursor.lastrowid or 0)


def photo_bytes(connection: sqlite3.Connection, photo_id: int) -> bytes:
    row = connection.execute(
        "SELECT bytes FROM photo JOIN photo_file USING (sha256) WHERE photo.id = ?", (photo_id,)
    ).fetchone()
    if row is None:
        raise NotFound("photo")
    return bytes(row["bytes"])


_PHOTO = """
SELECT coalesce((SELECT stage FROM trial_stage WHERE trial_stage.trial_id = sheet.trial_id
    AND is_read = 0 AND left_out = 0
    AND due_on <= photo.taken_on ORDER BY due_on DESC LIMIT 1), (SELECT stage FROM trial_stage
    WHERE trial_stage.trial_id = sheet.trial_id AND is_read = 0 AND left_out = 0
    ORDER BY coalesce(due_on, ''), stage LIMIT 1)) AS due_stage,
  photo.id, photo.study_id, photo.discarded, photo.filename,
  photo.uploaded_at, photo.taken_on, photo.taken_at,
  sheet.id AS sheet_id, sheet.trial_id, sheet.page, sheet.layout, sheet.assignments,
  measurement.id AS measurement_id, measurement.document,
  EXISTS (SELECT 1 FROM reading WHERE reading.measurement_id = measurement.id) AS accepted,
  EXISTS (SELECT 1 FROM reading JOIN measurement AS earlier ON earlier.id = reading.measurement_id
    JOIN photo AS other ON other.id = earlier.photo_id WHERE earlier.id <> measurement.id AND
    (other.id = photo.id OR (other.sheet_id = photo.sheet_id AND other.taken_at IS NOT NULL
      AND other.taken_at = photo.taken_at))) AS read_before
FROM photo
JOIN sheet ON sheet.id = photo.sheet_id
JOIN measurement ON measurement.id =
  (SELECT max(id) FROM measurement AS newest WHERE newest.photo_id = photo.id)
"""


def load_photo(connection: sqlite3.Connection, photo_id: int) -> Photo:
    row = connection.execute(_PHOTO + "WHERE photo.id = ?", (photo_id,)).fetchone()
    if row is None:
        raise NotFound("photo")
    return _photo(connection, row)


def waiting_photos(connection: sqlite3.Connection, study_id: int) -> list[Photo]:
    """Those that were neither accepted nor set aside, the newest first."""
    return [
        load_photo(connection, one.id)
        for one in photo_lines(connection, study_id)
        if not one.accepted and not one.discarded
    ]


def photo_lines(connection: sqlite3.Connection, study_id: int) -> list[PhotoLine]:
    """The photos of a study, the newest first, without what was measured in them."""
    rows = connection.execute(
        "SELECT own.*, sheet.kind, page, trial_id, (SELECT "
        "count(DISTINCT sheet_cell) FROM reading WHERE measurement_id = newest) AS readings "
        "FROM (SELECT id, filename, sheet_id, discarded, taken_on, (SELECT max(id) FROM measurement "
        "WHERE photo_id = photo.id) AS newest FROM photo WHERE study_id = ?) AS own "
        "JOIN sheet ON sheet.id = sheet_id WHERE newest IS NOT NULL ORDER BY own.id DESC",
        (study_id,),
    ).fetchall()
    return [
        PhotoLine.model_construct(
            id=row["id"],
            filename=row["filename"],
            sheet=row["sheet_id"],
            sheet_kind=row["kind"],
            page=row["page"],
            trial=row["trial_id"],
            measured=row["readings"] or _measured_cells(connection, row["newest"]),
            accepted=row["readings"] > 0,
            discarded=bool(row["discarded"]),
            taken_on=row["taken_on"],
        )
        for row in rows
    ]


def _measured_cells(connection: sqlite3.Connection, measurement: int) -> int:
    row = connection.execute(
        "SELECT count(*) FROM measurement, json_each(document, '$.cells') AS cell "
        "WHERE measurement.id = ? AND cell.value ->> '$.status' = 'measured'",
        (measurement,),
    )
    return int(row.fetchone()[0])


def sheet_lines(connection: sqlite3.Connection, study_id: int) -> list[SheetLine]:
    """The sheets of a study in the order in which they were laid out, without their layouts."""
    rows = connection.execute(
        "SELECT id, page, trial_id, kind, assignments FROM sheet "
        "WHERE study_id = ? AND page > 0 ORDER BY trial_id, page, id",
        (study_id,),
    )
    return [
        SheetLine.model_construct(
            id=row["id"],
            page=row["page"],
            trial=row["trial_id"],
            kind=row["kind"],
            swatches=tuple(one["swatch"] for one in json.loads(row["assignments"])),
        )
        for row in rows
    ]


def discard_photo(connection: sqlite3.Connection, photo_id: int, discarded: bool) -> None:
    """Sets a photo aside, or brings it back; its readings stay what they are."""
    connection.execute(
        "UPDATE photo SET discarded = ?, waiting = ? AND NOT EXISTS (SELECT 1 FROM reading "
        "WHERE measurement_id = (SELECT max(id) FROM measurement WHERE photo_id = photo.id)) "
        "WHERE id = ?",
        (int(discarded), int(not discarded), photo_id),
    )


_READING = """
SELECT reading.*, swatch.code, measurement.photo_id, coalesce((SELECT counts FROM reading_choice
  WHERE reading_id = reading.id ORDER BY reading_choice.id DESC LIMIT 1), 1 - reading.damp)
  AS counts, reading.zone_now = '' AND EXISTS (SELECT 1 FROM reading AS part
  WHERE part.measurement_id = reading.measurement_id AND part.sheet_cell > reading.sheet_cell || '/'
  AND part.sheet_cell < reading.sheet_cell || '0' AND part.zone_now NOT GLOB 'zone [0-9]*')
  AS is_mean_of_zones, photo.capture_id, coalesce(photo.camera, '') AS camera,
  instrument_sample.file_id, coalesce(instrument_file.instrument, '') AS instrument
FROM reading JOIN swatch ON swatch.id = reading.swatch_id
LEFT JOIN measurement ON measurement.id = reading.measurement_id
LEFT JOIN photo ON photo.id = measurement.photo_id
LEFT JOIN instrument_sample ON instrument_sample.id = reading.instrument_sample_id
LEFT JOIN instrument_file ON instrument_file.id = instrument_sample.file_id
"""


def last_photographed(connection: sqlite3.Connection, code: str, run: int) -> tuple[int, str] | None:
    """The photo, and the cell of its sheet, of the newest dry reading of a whole swatch in a state;
    None where no photo shows it."""
    row = connection.execute(
        "SELECT measurement.photo_id, reading.sheet_cell FROM reading "
        "JOIN measurement ON measurement.id = reading.measurement_id "
        "JOIN swatch ON swatch.id = reading.swatch_id WHERE swatch.code = ? "
        "AND reading.state = ? AND piece = 'whole' AND zone_now = '' AND damp = 0 "
        "ORDER BY reading.id DESC LIMIT 1",
        (code, run),
    ).fetchone()
    return (row["photo_id"], row["sheet_cell"]) if row else None


def list_readings(connection: sqlite3.Connection, study_id: int, codes: Sequence[str] = ()) -> list[Reading]:
    """The readings of the swatches of a study, or of some of them, oldest first."""
    narrowed = f"AND swatch.code IN ({','.join('?' * len(codes))}) " if codes else ""
    rows = connection.execute(
        _READING + "WHERE reading.swatch_id IN (SELECT swatch_id FROM study_swatch "
        f"JOIN swatch ON swatch.id = swatch_id WHERE study_swatch.study_id = ? {narrowed}) "
        "ORDER BY reading.id",
        (study_id, *codes),
    )
    return [_reading(row) for row in rows]


def readings_of(connection: sqlite3.Connection, swatch_id: int) -> list[Reading]:
    rows = connection.execute(_READING + "WHERE reading.swatch_id = ? ORDER BY reading.id", (swatch_id,))
    return [_reading(row) for row in rows]


def load_reading(connection: sqlite3.Connection, reading_id: int) -> tuple[int, Reading]:
    """The row number of the swatch, and the reading."""
    row = connection.execute(_READING + "WHERE reading.id = ?", (reading_id,)).fetchone()
    if row is None:
        raise NotFound("reading")
    return row["swatch_id"], _reading(row)


def choose_reading(connection: sqlite3.Connection, reading_id: int, choice: ReadingChoice) -> None:
    """Says whether a reading counts; what was said before stays."""
    chosen = connection.execute(
        "INSERT INTO reading_choice (reading_id, counts, said_state, zone_name, who, note, at) "
        "VALUES (?, ?, ?, ?, ?, ?, ?)",
        (reading_id, int(choice.counts), choice.run, choice.zone, choice.who, choice.note, now()),
    )
    sign(connection, "reading_choice", chosen.lastrowid)


class SeenReading(NamedTuple):
    """A reading that counts, as far as errors and means need it. `is_mean_of_zones`: what has named
    zones of its own has no one colour."""

    swatch: str
    piece: Piece
    trial: int | None
    stage: int | None
    run: int
    seen: Seen
    uncertainty_de00: float
    taken_on: str
    zone: str = ""
    levelness_de00: float = 0.0
    is_mean_of_zones: bool = False


def seen_readings(
    connection: sqlite3.Connection, study_id: int | None = None, swatch_ids: Iterable[int] = (), zones: bool = False
) -> list[SeenReading]:
    """Readings that a state is known by, of a study's swatches or of some swatches, oldest first:
    those that count, and of these only the best kind where there are several. Of whole pieces, or
    of their `zones`."""
    if study_id is not None:
        where, values = "(SELECT swatch_id FROM study_swatch WHERE study_id = ?)", [study_id]
    else:
        values = sorted(set(swatch_ids))
        where = f"({','.join('?' * len(values))})"
    rows = connection.execute(
        _READING + f"WHERE (reading.zone_now <> '') = ? AND reading.swatch_id IN {where} ORDER BY reading.id",
        [int(zones), *values],
    )
    found = [_seen(row) for row in rows if row["counts"]]
    best: dict[tuple[object, ...], int] = {}
    for one in found:
        best[_shows(one)] = max(best.get(_shows(one), 0), _worth(one))
    return [one for one in found if _worth(one) == best[_shows(one)]]


def _worth(one: SeenReading) -> int:
    """An instrument's reading is worth more than a photo's, and what was entered later less."""
    if one.seen.instrument.startswith(ENTERED_LATER):
        return 1
    return 3 if one.seen.instrument else 2


def _shows(one: SeenReading) -> tuple[object, ...]:
    return (one.swatch, one.piece, one.trial, one.stage, one.run, one.zone)


def _seen(row: sqlite3.Row) -> SeenReading:
    by_photo = row["photo_id"] is not None
    return SeenReading(
        swatch=row["code"],
        piece=row["piece"],
        trial=row["trial_id"],
        stage=row["stage"],
        run=row["state"],
        uncertainty_de00=row["uncertainty_de00"],
        taken_on=row["taken_on"],
        zone=row["zone_now"],
        levelness_de00=row["levelness_de00"],
        is_mean_of_zones=bool(row["is_mean_of_zones"]),
        seen=Seen.model_construct(
            lab=(row["lab_l"], row["lab_a"], row["lab_b"]),
            photo=row["photo_id"] if by_photo else -row["file_id"],
            capture=row["capture_id"],
            camera=row["camera"],
            evenness_de00=row["evenness_de00"] if by_photo else row["uncertainty_de00"],
            chart_de00=row["chart_de00"],
            instrument=row["instrument"],
        ),
    )


def _sheet(row: sqlite3.Row) -> AssignedSheet:
    return AssignedSheet(
        sheet=parsed(Sheet, row["layout"]),
        page=row["page"],
        trial=row["trial_id"],
        assignments=tuple(Assignment(**a) for a in json.loads(row["assignments"])),
    )


def _photo(connection: sqlite3.Connection, row: sqlite3.Row) -> Photo:
    cloths = connection.execute(
        "SELECT sheet_cell, cloth, max(cloth_reading.id) FROM cloth_reading JOIN measurement "
        "ON measurement.id = cloth_reading.measurement_id JOIN photo "
        "ON photo.id = measurement.photo_id WHERE photo.sheet_id = ? GROUP BY sheet_cell",
        (row["sheet_id"],),
    )
    sheet = _sheet(row)
    measurement = Measurement.model_validate_json(row["document"])
    return Photo(
        id=row["id"],
        filename=row["filename"],
        uploaded_at=row["uploaded_at"],
        taken_on=row["taken_on"],
        taken_at=datetime.fromisoformat(row["taken_at"]) if row["taken_at"] else None,
        sheet=sheet,
        measurement_id=row["measurement_id"],
        measurement=measurement,
        own_zones=zones_of_photo(connection, row["study_id"], sheet, measurement),
        accepted=bool(row["accepted"]),
        discarded=bool(row["discarded"]),
        read_before=bool(row["read_before"]),
        study=row["study_id"],
        due_stage=row["due_stage"],
        cloths=tuple(LiesIn(cell=c["sheet_cell"], cloth=c["cloth"]) for c in cloths),
    )


def _reading(row: sqlite3.Row) -> Reading:
    # Straight from the table, which holds nothing that was not checked: a study has thousands.
    return Reading.model_construct(
        id=row["id"],
        swatch=row["code"],
        piece=row["piece"],
        trial=row["trial_id"],
        stage=row["stage"],
        run=row["state"],
        lab=(row["lab_l"], row["lab_a"], row["lab_b"]),
        hex=row["hex"],
        colour_words=row["colour_words"],
        uncertainty_de00=row["uncertainty_de00"],
        levelness_de00=row["levelness_de00"],
        flags=tuple(json.loads(row["flags"])),
        photo=row["photo_id"],
        taken_on=row["taken_on"],
        accepted_at=row["accepted_at"],
        damp=bool(row["damp"]),
        backing=row["backing"],
        layers=row["layers"],
        note=row["note"],
        counts=bool(row["counts"]),
        zone=row["zone_now"],
        share=row["share"],
        warnings=tuple(json.loads(row["warnings"])),
        instrument=row["instrument"],
    )
