"""Sheets, photographs, measurements and readings."""

import hashlib
import json
import sqlite3

import numpy as np

from zesty_grid.core.read.colour_space import lab_to_hex
from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.core.read.measurement import Measurement
from zesty_grid.core.read.readings import (
    AssignedSheet,
    Assignment,
    NewReadings,
    Photo,
    Reading,
)
from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.database import now
from zesty_grid.store.plan import NotFound


def add_sheet(connection: sqlite3.Connection, study_id: int, assigned: AssignedSheet) -> None:
    assignments = json.dumps([a.model_dump() for a in assigned.assignments])
    connection.execute(
        "INSERT INTO sheet (id, study_id, trial_id, page, layout, assignments, created_at) "
        "VALUES (?, ?, ?, ?, ?, ?, ?)",
        (assigned.sheet.id, study_id, assigned.trial, assigned.page,
         assigned.sheet.model_dump_json(), assignments, now()),
    )  # fmt: skip


def list_sheets(connection: sqlite3.Connection, study_id: int) -> list[AssignedSheet]:
    rows = connection.execute(
        "SELECT * FROM sheet WHERE study_id = ? ORDER BY trial_id, page, id", (study_id,)
    )
    return [_sheet(row) for row in rows]


def load_sheet(connection: sqlite3.Connection, sheet_id: str) -> tuple[int, AssignedSheet]:
    """The study that a sheet belongs to, and the sheet."""
    row = connection.execute("SELECT * FROM sheet WHERE id = ?", (sheet_id,)).fetchone()
    if row is None:
        raise NotFound("sheet")
    return row["study_id"], _sheet(row)


def add_photo(
    connection: sqlite3.Connection, study_id: int, sheet_id: str, filename: str, data: bytes,
    taken_on: str | None = None,
) -> int:  # fmt: skip
    """Keeps a photo and returns its id; the same bytes again give the photo that is there."""
    digest = hashlib.sha256(data).hexdigest()
    connection.execute(
        "INSERT INTO photo_file (sha256, bytes) VALUES (?, ?) ON CONFLICT DO NOTHING",
        (digest, data),
    )
    connection.execute(
        "INSERT INTO photo (study_id, sheet_id, sha256, filename, uploaded_at, taken_on) "
        "VALUES (?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING",
        (study_id, sheet_id, digest, filename[:200], now(), taken_on),
    )
    row = connection.execute(
        "SELECT id FROM photo WHERE study_id = ? AND sha256 = ?", (study_id, digest)
    ).fetchone()
    return int(row["id"])


def add_measurement(connection: sqlite3.Connection, photo_id: int, measurement: Measurement) -> int:
    cursor = connection.execute(
        "INSERT INTO measurement (photo_id, document, measured_at) VALUES (?, ?, ?)",
        (photo_id, measurement.model_dump_json(), now()),
    )
    return int(cursor.lastrowid or 0)


def photo_bytes(connection: sqlite3.Connection, photo_id: int) -> bytes:
    row = connection.execute(
        "SELECT bytes FROM photo JOIN photo_file USING (sha256) WHERE photo.id = ?", (photo_id,)
    ).fetchone()
    if row is None:
        raise NotFound("photo")
    return bytes(row["bytes"])


_PHOTO = """
SELECT photo.id, photo.filename, photo.uploaded_at, photo.taken_on, sheet.id AS sheet_id,
  sheet.trial_id, sheet.page, sheet.layout, sheet.assignments, measurement.id AS measurement_id,
  measurement.document,
  EXISTS (SELECT 1 FROM reading WHERE reading.measurement_id = measurement.id) AS accepted
FROM photo
JOIN sheet ON sheet.id = photo.sheet_id
JOIN measurement ON measurement.id =
  (SELECT max(id) FROM measurement AS newest WHERE newest.photo_id = photo.id)
"""


def load_photo(connection: sqlite3.Connection, photo_id: int) -> Photo:
    row = connection.execute(_PHOTO + "WHERE photo.id = ?", (photo_id,)).fetchone()
    if row is None:
        raise NotFound("photo")
    return _photo(row)


def list_photos(connection: sqlite3.Connection, study_id: int) -> list[Photo]:
    rows = connection.execute(
        _PHOTO + "WHERE photo.study_id = ? ORDER BY photo.id DESC", (study_id,)
    )
    return [_photo(row) for row in rows]


def accept(
    connection: sqlite3.Connection,
    photo: Photo,
    wanted: NewReadings,
    accepted_at: str | None = None,
) -> int:
    """Makes readings of the wanted cells; raises Refusal for what cannot be accepted."""
    if wanted.measurement_id != photo.measurement_id:
        raise Refusal(
            "measured-again",
            "This photo has been measured again since.",
            "Look at the new measurement and accept that.",
        )
    if (photo.sheet.trial is None) != (wanted.stage is None):
        raise Refusal(
            "stage-needed" if wanted.stage is None else "stage-not-wanted",
            "A sheet of a trial needs the stage at which it was photographed; others have none.",
            "Choose the stage.",
        )
    measured = {cell.cell: cell for cell in photo.measurement.cells}
    assigned = {a.cell: a for a in photo.sheet.assignments}
    for name in wanted.cells:
        cell, assignment = measured.get(name), assigned.get(name)
        if cell is None or assignment is None or cell.status != "measured":
            raise Refusal(
                "cell-not-measured",
                f"Cell {name} has no measured colour of a swatch.",
                "Leave it out, or photograph the sheet again.",
            )
        try:
            connection.execute(
                "INSERT INTO reading (swatch_id, piece, trial_id, stage, measurement_id, "
                "sheet_cell, lab_l, lab_a, lab_b, uncertainty_de00, levelness_de00, flags, "
                "taken_on, accepted_at) VALUES ((SELECT id FROM swatch WHERE code = ?), "
                "?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
                (assignment.swatch, assignment.piece, photo.sheet.trial, wanted.stage,
                 photo.measurement_id, name, *(cell.lab or (0, 0, 0)), cell.uncertainty_de00,
                 cell.levelness_de00, json.dumps(cell.flags), wanted.taken_on,
                 accepted_at or now()),
            )  # fmt: skip
        except sqlite3.IntegrityError as error:
            raise Refusal(
                "already-accepted",
                "This measurement has already been accepted.",
                "Nothing more to do: its readings are kept.",
            ) from error
    return len(wanted.cells)


def list_readings(connection: sqlite3.Connection, study_id: int) -> list[Reading]:
    """All readings of a study, oldest first: of a piece at a stage, the last one counts."""
    rows = connection.execute(
        "SELECT reading.*, swatch.code, swatch.cell, measurement.photo_id FROM reading "
        "JOIN swatch ON swatch.id = reading.swatch_id "
        "JOIN measurement ON measurement.id = reading.measurement_id "
        "WHERE swatch.study_id = ? ORDER BY reading.id",
        (study_id,),
    )
    return [_reading(row) for row in rows]


def _sheet(row: sqlite3.Row) -> AssignedSheet:
    return AssignedSheet(
        sheet=Sheet.model_validate_json(row["layout"]),
        page=row["page"],
        trial=row["trial_id"],
        assignments=tuple(Assignment(**a) for a in json.loads(row["assignments"])),
    )


def _photo(row: sqlite3.Row) -> Photo:
    return Photo(
        id=row["id"],
        filename=row["filename"],
        uploaded_at=row["uploaded_at"],
        taken_on=row["taken_on"],
        sheet=_sheet(row),
        measurement_id=row["measurement_id"],
        measurement=Measurement.model_validate_json(row["document"]),
        accepted=bool(row["accepted"]),
    )


def _reading(row: sqlite3.Row) -> Reading:
    lab = (row["lab_l"], row["lab_a"], row["lab_b"])
    return Reading(
        id=row["id"],
        swatch=row["code"],
        cell=row["cell"],
        piece=row["piece"],
        trial=row["trial_id"],
        stage=row["stage"],
        lab=lab,
        hex=lab_to_hex(np.array(lab)),
        colour_words=colour_words(np.array(lab)),
        uncertainty_de00=row["uncertainty_de00"],
        levelness_de00=row["levelness_de00"],
        flags=tuple(json.loads(row["flags"])),
        photo=row["photo_id"],
        taken_on=row["taken_on"],
        accepted_at=row["accepted_at"],
    )
