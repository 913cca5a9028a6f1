"""Files of instruments, their samples, and the readings that are made of them."""

import hashlib
import json
import sqlite3
from collections.abc import Sequence
from datetime import datetime

from zesty_grid.core.read.instrument import ENTERED_LATER, InstrumentSample, NewInstrumentFile
from zesty_grid.core.read.instrument_agreement import BothRead
from zesty_grid.core.read.readings import check_day, moment_of
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.accepting import must_be_rested
from zesty_grid.store.cloths import add_cloth_reading
from zesty_grid.store.counts import COUNTS
from zesty_grid.store.database import stamp
from zesty_grid.store.fade import load_trial, stage_count
from zesty_grid.store.following import follow_readings
from zesty_grid.store.plan import NotFound
from zesty_grid.store.signing import sign
from zesty_grid.store.swatches import project_begun, swatch_ids


def keep_instrument_file(
    connection: sqlite3.Connection,
    study_id: int,
    new: NewInstrumentFile,
    samples: Sequence[InstrumentSample],
    kept_at: datetime,
) -> int:
    """Keeps a file with all its samples, and makes readings of those that can be compared with the
    readings of photos. Answers how many readings were made; raises Refusal for a file that is
    there already, and for pieces that are not ready."""
    check_day(new.measured_on, kept_at.date())
    _must_fit_trial(connection, study_id, new, samples)
    digest = hashlib.sha256(new.content.encode()).hexdigest()
    if connection.execute(
        "SELECT 1 FROM instrument_file WHERE study_id = ? AND sha256 = ?", (study_id, digest)
    ).fetchone():
        raise Refusal("already-kept", "This file's readings are kept already.", "Nothing more to do.")
    ids = swatch_ids(connection, {one.swatch for one in samples if one.swatch})
    moment = moment_of(new.measured_on, None, kept_at)
    if not new.early and new.trial is None:
        must_be_rested(connection, ids, new.run, moment)
    file_id = connection.execute(
        "INSERT INTO instrument_file (study_id, sha256, filename, instrument, measured_on, "
        "content, kept_at) VALUES (?, ?, ?, ?, ?, ?, ?)",
        (
            study_id,
            digest,
            new.filename,
            new.instrument,
            new.measured_on.isoformat(),
            new.content,
            kept_at.isoformat(timespec="seconds"),
        ),
    ).lastrowid
    made = 0
    for one in samples:
        sample_id = connection.execute(
            "INSERT INTO instrument_sample (file_id, swatch_id, document) VALUES (?, ?, ?)",
            (file_id, ids.get(one.swatch or ""), one.model_dump_json()),
        ).lastrowid
        if one.lab is None or not (one.swatch or one.cloth):
            continue
        made += 1
        if one.cloth:
            add_cloth_reading(
                connection,
                one.cloth,
                "instrument",
                one.lab,
                one.uncertainty_de00,
                new.measured_on,
                kept_at,
                sample=sample_id,
                flags=one.warnings,
            )
        elif one.swatch:
            _add_reading(connection, ids[one.swatch], int(sample_id or 0), one, new, moment, kept_at)
    project_begun(connection, ids.values())
    follow_readings(connection, ids.values())
    return made


def list_samples(connection: sqlite3.Connection, study_id: int) -> list[tuple[sqlite3.Row, list[InstrumentSample]]]:
    """The files of a study, newest first, with their samples."""
    files = connection.execute(
        "SELECT id, filename, instrument, measured_on FROM instrument_file WHERE study_id = ? ORDER BY id DESC",
        (study_id,),
    ).fetchall()
    return [
        (
            file,
            [
                InstrumentSample.model_validate_json(row["document"])
                for row in connection.execute(
                    "SELECT document FROM instrument_sample WHERE file_id = ? ORDER BY id", (file["id"],)
                )
            ],
        )
        for file in files
    ]


def read_both_ways(connection: sqlite3.Connection) -> list[BothRead]:
    """Whole swatches of all studies whose one state was read by photo and by instrument: each of
    the photo's readings against the instrument's newest."""
    rows = connection.execute(
        "WITH true_colour AS (SELECT reading.swatch_id, state AS run, lab_l, lab_a, "
        "lab_b, uncertainty_de00, max(reading.id) FROM reading JOIN instrument_sample "
        "ON instrument_sample.id = instrument_sample_id JOIN instrument_file "
        f"ON instrument_file.id = file_id WHERE instrument NOT LIKE '{ENTERED_LATER}%' "
        f"AND piece = 'whole' AND trial_id IS NULL AND {COUNTS} GROUP BY reading.swatch_id, run) "
        "SELECT swatch.code, true_colour.run, (SELECT cell.value ->> '$.untaught_lab' "
        "FROM json_each(measurement.document, '$.cells') AS cell "
        "WHERE cell.value ->> '$.cell' = reading.sheet_cell) AS untaught, photo.camera, "
        "photo.capture_id, reading.lab_l, reading.lab_a, reading.lab_b, "
        "reading.uncertainty_de00, true_colour.lab_l AS true_l, "
        "true_colour.lab_a AS true_a, true_colour.lab_b AS true_b, "
        "true_colour.uncertainty_de00 AS true_uncertainty_de00 "
        "FROM true_colour JOIN reading ON reading.swatch_id = true_colour.swatch_id "
        "AND reading.state = true_colour.run JOIN swatch "
        "ON swatch.id = reading.swatch_id JOIN measurement "
        "ON measurement.id = reading.measurement_id JOIN photo ON photo.id = measurement.photo_id "
        "WHERE reading.piece = 'whole' AND reading.zone_now = '' AND reading.trial_id IS NULL "
        f"AND {COUNTS} ORDER BY reading.id"
    )
    return [
        BothRead(
            swatch=row["code"],
            run=row["run"],
            camera=row["camera"],
            capture=row["capture_id"],
            camera_lab=(lab := (row["lab_l"], row["lab_a"], row["lab_b"])),
            untaught_lab=json.loads(row["untaught"]) if row["untaught"] else lab,
            instrument_lab=(row["true_l"], row["true_a"], row["true_b"]),
            camera_uncertainty_de00=row["uncertainty_de00"],
            instrument_uncertainty_de00=row["true_uncertainty_de00"],
        )
        for row in rows
    ]


def _must_fit_trial(
    connection: sqlite3.Connection, study_id: int, new: NewInstrumentFile, samples: Sequence[InstrumentSample]
) -> None:
    if new.trial is None:
        part = next((one for one in samples if one.swatch and one.piece != "whole"), None)
        if part is not None:
            raise Refusal(
                "trial-needed",
                f"{part.name} is a piece of a trial.",
                "Say which trial and which stage these readings belong to.",
            )
        return
    owner, _ = load_trial(connection, new.trial)
    if owner != study_id:
        raise NotFound("trial")
    if new.stage is None or new.stage >= stage_count(connection, new.trial):
        raise Refusal("no-such-stage", "The trial has no such stage.", "Choose one of its stages.")


def _add_reading(
    connection: sqlite3.Connection,
    swatch_id: int,
    sample_id: int,
    one: InstrumentSample,
    new: NewInstrumentFile,
    moment: datetime,
    kept_at: datetime,
) -> None:
    lightness, red, yellow = one.lab or (0.0, 0.0, 0.0)
    kept = connection.execute(
        "INSERT INTO reading (swatch_id, piece, trial_id, stage, instrument_sample_id, sheet_cell, "
        "lab_l, lab_a, lab_b, hex, colour_words, uncertainty_de00, levelness_de00, flags, "
        "taken_on, accepted_at, said_state, shown_at, warnings) "
        "VALUES (?, ?, ?, ?, ?, '', ?, ?, ?, ?, ?, ?, ?, '[]', ?, ?, ?, ?, ?)",
        (
            swatch_id,
            one.piece,
            new.trial,
            new.stage,
            sample_id,
            lightness,
            red,
            yellow,
            one.hex,
            one.colour_words,
            one.uncertainty_de00,
            one.spread_de00 or 0.0,
            new.measured_on.isoformat(),
            kept_at.isoformat(timespec="seconds"),
            new.run,
            stamp(moment),
            json.dumps(one.warnings),
        ),
    )
    sign(connection, "reading", kept.lastrowid)
