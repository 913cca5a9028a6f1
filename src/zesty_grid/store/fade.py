"""Trials: their swatches in the state that they were in, what is noted, and what follows."""

import hashlib
import json
import sqlite3
from datetime import date

import numpy as np
from pydantic import TypeAdapter

from zesty_grid.core.fade.blue_wool import WoolDose, WoolReading, doses_by_stage, wool_reading
from zesty_grid.core.fade.fade_points import (
    FadePoint,
    StageReading,
    StageSpectrum,
    StainPoint,
    fade_points,
    stages_read,
    stain_points,
    with_standard_ratings,
)
from zesty_grid.core.fade.light_record import LightLog, LightSample
from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.fade.trial_entry import LightSaid, LoggerLight, StageAdded, TrialEntry
from zesty_grid.core.fade.trial_state import TrialState, has_uv, trial_state
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.counts import COUNTS
from zesty_grid.store.database import now
from zesty_grid.store.parsed import parsed
from zesty_grid.store.plan import NotFound
from zesty_grid.store.read import SeenReading, seen_readings
from zesty_grid.store.signing import sign
from zesty_grid.store.swatches import project_begun, swatch_ids

_ENTRY: TypeAdapter[TrialEntry] = TypeAdapter(TrialEntry)
_SAMPLES = TypeAdapter(tuple[LightSample, ...])


def add_trial(connection: sqlite3.Connection, study_id: int, plan: TrialPlan) -> int:
    """Raises Refusal for swatches that have no place in this study."""
    rows = connection.execute(
        "SELECT swatch.code FROM place JOIN swatch ON swatch.id = place.swatch_id WHERE place.study_id = ?", (study_id,)
    )
    strange = sorted(set(plan.swatches) - {row["code"] for row in rows})
    if strange:
        raise Refusal(
            "unknown-swatch", f"No swatch of this study has the code {', '.join(strange[:5])}.", "Check the code."
        )
    _must_have_wools(connection, plan)
    cursor = connection.execute(
        "INSERT INTO trial (study_id, plan, created_at) VALUES (?, ?, ?)", (study_id, plan.model_dump_json(), now())
    )
    trial_id = int(cursor.lastrowid or 0)
    sign(connection, "trial", trial_id)
    ids = swatch_ids(connection, plan.swatches)
    connection.executemany(
        "INSERT INTO trial_swatch (trial_id, swatch_id, state) VALUES (?, ?, (SELECT state FROM swatch WHERE id = ?))",
        ((trial_id, swatch, swatch) for swatch in ids.values()),
    )
    keep_stages(connection, trial_id, plan)
    project_begun(connection, ids.values())
    project_trial(connection, trial_id)
    return trial_id


def _must_have_wools(connection: sqlite3.Connection, plan: TrialPlan) -> None:
    known = {row[0] for row in connection.execute("SELECT key FROM shelf_item WHERE kind = 'cloth'")}
    strange = [wool.cloth for wool in plan.wools if wool.cloth not in known]
    if strange:
        raise Refusal(
            "unknown-wool",
            f"“{strange[0]}” is no reference cloth on the Shelf.",
            "Put the blue wool on the Shelf as a reference cloth first.",
        )


def keep_stages(connection: sqlite3.Connection, trial_id: int, plan: TrialPlan) -> None:
    connection.executemany(
        "INSERT INTO trial_stage (trial_id, stage, label) VALUES (?, ?, ?)",
        ((trial_id, i, stage.label) for i, stage in enumerate(plan.stages)),
    )


def add_entry(connection: sqlite3.Connection, trial_id: int, entry: TrialEntry) -> int:
    """Notes something of a trial; answers the entry's number. Raises Refusal for a stage or a log
    that the trial has not."""
    _, plan = load_trial(connection, trial_id)
    before = trial_entries(connection, trial_id)
    count = len(plan.stages) + sum(isinstance(one, StageAdded) for one in before)
    stage = getattr(entry, "stage", None)
    if isinstance(stage, int) and stage >= count:
        raise Refusal("no-such-stage", "The trial has no such stage.", "Choose one of its stages.")
    if isinstance(entry, LightSaid):
        known = set(light_logs(connection, trial_id))
        if any(isinstance(one, LoggerLight) and one.log not in known for one in entry.sources):
            raise Refusal("no-such-log", "The trial has no such log.", "Give the logger's file.")
    cursor = connection.execute(
        "INSERT INTO trial_entry (trial_id, document, at) VALUES (?, ?, ?)", (trial_id, entry.model_dump_json(), now())
    )
    if isinstance(entry, StageAdded):
        connection.execute(
            "INSERT INTO trial_stage (trial_id, stage, label) VALUES (?, ?, ?)", (trial_id, count, entry.stage.label)
        )
    project_trial(connection, trial_id)
    return int(cursor.lastrowid or 0)


def trial_entries(connection: sqlite3.Connection, trial_id: int) -> list[TrialEntry]:
    rows = connection.execute("SELECT document FROM trial_entry WHERE trial_id = ? ORDER BY id", (trial_id,))
    return [_ENTRY.validate_json(row["document"]) for row in rows]


def add_light_log(connection: sqlite3.Connection, trial_id: int, filename: str, data: bytes, log: LightLog) -> int:
    """Keeps a logger's file; the same file twice is the same log."""
    digest = hashlib.sha256(data).hexdigest()
    connection.execute(
        "INSERT INTO light_log (trial_id, filename, sha256, column_name, watts, samples, kept_at) "
        "VALUES (?, ?, ?, ?, ?, ?, ?) ON CONFLICT (trial_id, sha256) DO NOTHING",
        (trial_id, filename, digest, log.column, int(log.watts), _SAMPLES.dump_json(log.samples).decode(), now()),
    )
    row = connection.execute(
        "SELECT id FROM light_log WHERE trial_id = ? AND sha256 = ?", (trial_id, digest)
    ).fetchone()
    return int(row["id"])


def log_lines(connection: sqlite3.Connection, trial_id: int) -> list[dict[str, object]]:
    """The loggers' files of a trial without their samples."""
    rows = connection.execute(
        'SELECT id, filename, column_name AS "column", watts, json_array_length(samples) AS '
        'samples, first_at AS start, last_at AS "end" '
        "FROM light_log WHERE trial_id = ? ORDER BY id",
        (trial_id,),
    )
    return [dict(row) for row in rows]


def light_logs(connection: sqlite3.Connection, trial_id: int) -> dict[int, tuple[LightSample, ...]]:
    rows = connection.execute("SELECT id, samples FROM light_log WHERE trial_id = ?", (trial_id,))
    return {row["id"]: _SAMPLES.validate_json(row["samples"]) for row in rows}


def due_stage(connection: sqlite3.Connection, trial_id: int, on: date | None = None) -> int | None:
    """The stage that pieces photographed on a day were taken for: the last that was due by then and
    is not read, else the first that is not; None where all were read or left out."""
    rows = connection.execute(
        "SELECT stage, due_on FROM trial_stage WHERE trial_id = ? AND is_read = 0 "
        "AND left_out = 0 ORDER BY coalesce(due_on, ''), stage",
        (trial_id,),
    ).fetchall()
    due = [row["stage"] for row in rows if on and row["due_on"] and row["due_on"] <= str(on)]
    return due[-1] if due else rows[0]["stage"] if rows else None


def load_trial(connection: sqlite3.Connection, trial_id: int) -> tuple[int, TrialPlan]:
    """The study that a trial belongs to, and its plan."""
    row = connection.execute("SELECT * FROM trial WHERE id = ?", (trial_id,)).fetchone()
    if row is None:
        raise NotFound("trial")
    return row["study_id"], parsed(TrialPlan, row["plan"])


def stage_count(connection: sqlite3.Connection, trial_id: int) -> int:
    """Planned and added stages."""
    sql = "SELECT count(*) FROM trial_stage WHERE trial_id = ?"
    return int(connection.execute(sql, (trial_id,)).fetchone()[0])


def list_trials(connection: sqlite3.Connection, study_id: int) -> dict[int, TrialPlan]:
    rows = connection.execute("SELECT * FROM trial WHERE study_id = ? ORDER BY id", (study_id,))
    return {row["id"]: parsed(TrialPlan, row["plan"]) for row in rows}


def trial_states(connection: sqlite3.Connection, trial_id: int) -> dict[str, int]:
    """The bath after which each swatch of a trial is exposed, by code; 0 as it came."""
    rows = connection.execute(
        "SELECT swatch.code, trial_swatch.state FROM trial_swatch "
        "JOIN swatch ON swatch.id = trial_swatch.swatch_id WHERE trial_id = ?",
        (trial_id,),
    )
    return {row["code"]: row["state"] for row in rows}


def points_as_kept(connection: sqlite3.Connection, trial_id: int) -> list[str]:
    """What was found at every stage of a trial that was read, as JSON."""
    rows = connection.execute(
        "SELECT fade_point.document FROM fade_point JOIN swatch "
        "ON swatch.id = fade_point.swatch_id WHERE trial_id = ? "
        "ORDER BY swatch.code, fade_point.stage, fade_point.zone",
        (trial_id,),
    )
    return [row["document"] for row in rows]


def list_points(connection: sqlite3.Connection, study_id: int) -> dict[int, list[FadePoint]]:
    """What was found at every stage that was read, by trial."""
    rows = connection.execute(
        "SELECT fade_point.trial_id, fade_point.document FROM fade_point "
        "JOIN trial ON trial.id = fade_point.trial_id JOIN swatch "
        "ON swatch.id = fade_point.swatch_id WHERE trial.study_id = ? "
        "ORDER BY swatch.code, fade_point.stage, fade_point.zone",
        (study_id,),
    )
    found: dict[int, list[FadePoint]] = {}
    for row in rows:
        point = FadePoint.model_validate_json(row["document"])
        found.setdefault(row["trial_id"], []).append(point)
    return found


def points_of(connection: sqlite3.Connection, trial_id: int) -> list[FadePoint]:
    rows = connection.execute(
        "SELECT document FROM fade_point WHERE trial_id = ? ORDER BY swatch_id, stage, zone", (trial_id,)
    )
    return [FadePoint.model_validate_json(row["document"]) for row in rows]


def list_stains(connection: sqlite3.Connection, trial_id: int) -> list[StainPoint]:
    rows = connection.execute(
        "SELECT document FROM stain_point WHERE trial_id = ? ORDER BY swatch_id, stage, neighbour", (trial_id,)
    )
    return [StainPoint.model_validate_json(row["document"]) for row in rows]


def wool_readings(connection: sqlite3.Connection, trial_id: int, plan: TrialPlan) -> list[WoolReading]:
    """How the blue wools beside a trial's pieces changed: read in the same photos, each against its
    own reading before the trial."""
    found = []
    for wool in plan.wools:
        rows = connection.execute(
            "SELECT lab_l, lab_a, lab_b, uncertainty_de00, (SELECT max(reading.stage) FROM reading "
            "WHERE reading.measurement_id = cloth_reading.measurement_id AND reading.trial_id = ?) "
            "AS stage FROM cloth_reading WHERE cloth = ? ORDER BY taken_on, id",
            (trial_id, wool.cloth),
        ).fetchall()
        first = next((row for row in rows if row["stage"] is None), None)
        if first is None:
            continue
        start = np.array([first["lab_l"], first["lab_a"], first["lab_b"]])
        for row in rows:
            if row["stage"] is not None:
                lab = np.array([row["lab_l"], row["lab_a"], row["lab_b"]])
                found.append(wool_reading(wool.number, row["stage"], start, lab, row["uncertainty_de00"]))
    return found


def doses_by_wools(connection: sqlite3.Connection, trial_id: int, plan: TrialPlan, uv: bool) -> dict[int, WoolDose]:
    return doses_by_stage(wool_readings(connection, trial_id, plan), uv)


def state_of(connection: sqlite3.Connection, trial_id: int) -> TrialState:
    """The trial as it stands."""
    _, plan = load_trial(connection, trial_id)
    entries = trial_entries(connection, trial_id)
    said = [one for one in entries if isinstance(one, LightSaid)]
    uv = has_uv(said[-1] if said else None)
    wools = doses_by_wools(connection, trial_id, plan, uv)
    read_on = stages_read(_days_of_stages(connection, trial_id))
    return trial_state(plan, entries, read_on, light_logs(connection, trial_id), wools)


def _days_of_stages(connection: sqlite3.Connection, trial_id: int) -> list[tuple[int, str]]:
    """The stages of a trial that have readings which count, and the last day of each."""
    rows = connection.execute(
        f"SELECT stage, max(taken_on) AS day FROM reading WHERE trial_id = ? AND {COUNTS} GROUP BY stage", (trial_id,)
    )
    return [(row["stage"], row["day"]) for row in rows]


def _seen(connection: sqlite3.Connection, trial_id: int, plan: TrialPlan) -> list[SeenReading]:
    """Readings of the trial, and those before it that show its swatches as they went in."""
    ids = swatch_ids(connection, plan.swatches).values()
    states = trial_states(connection, trial_id)
    both = [*seen_readings(connection, swatch_ids=ids), *seen_readings(connection, swatch_ids=ids, zones=True)]
    return [one for one in both if one.trial == trial_id or (one.trial is None and one.run == states.get(one.swatch))]


def _spectra(connection: sqlite3.Connection, trial_id: int) -> list[StageSpectrum]:
    """What instruments measured of a trial's pieces, where they gave spectra."""
    rows = connection.execute(
        "SELECT swatch.code, reading.piece, reading.stage, "
        "wavelengths_nm AS wavelengths, "
        "reflectance FROM reading "
        "JOIN swatch ON swatch.id = reading.swatch_id JOIN instrument_sample "
        "ON instrument_sample.id = reading.instrument_sample_id WHERE reading.trial_id = ? "
        "AND json_array_length(reflectance) > 0",
        (trial_id,),
    )
    return [
        StageSpectrum(
            row["code"],
            row["piece"],
            row["stage"],
            tuple(json.loads(row["wavelengths"])),
            tuple(json.loads(row["reflectance"])),
        )
        for row in rows
    ]


def project_trial(connection: sqlite3.Connection, trial_id: int) -> None:
    """What a trial's readings and entries say, kept so that no look works it out anew."""
    _, plan = load_trial(connection, trial_id)
    ids = swatch_ids(connection, plan.swatches)
    seen = _seen(connection, trial_id, plan)
    state = state_of(connection, trial_id)
    readings = [StageReading(swatch=o.swatch, piece=o.piece, stage=o.stage, seen=o.seen, zone=o.zone) for o in seen]
    points = fade_points(plan, readings, {one.index: one.dose for one in state.stages})
    points = with_standard_ratings(points, _spectra(connection, trial_id), plan.exposed)
    connection.execute("DELETE FROM fade_point WHERE trial_id = ?", (trial_id,))
    connection.executemany(
        "INSERT INTO fade_point (trial_id, swatch_id, stage, zone, document) VALUES (?, ?, ?, ?, ?)",
        ((trial_id, ids[p.swatch], p.stage, p.zone, p.model_dump_json()) for p in points),
    )
    connection.execute("DELETE FROM stain_point WHERE trial_id = ?", (trial_id,))
    connection.executemany(
        "INSERT INTO stain_point (trial_id, swatch_id, stage, neighbour, document) VALUES (?, ?, ?, ?, ?)",
        ((trial_id, ids[p.swatch], p.stage, p.neighbour, p.model_dump_json()) for p in stain_points(readings)),
    )
    connection.executemany(
        "UPDATE trial_stage SET is_read = ?, left_out = ?, due_on = ? WHERE trial_id = ? AND stage = ?",
        (
            (int(one.is_read), int(one.left_out), one.due_on.isoformat() if one.due_on else None, trial_id, one.index)
            for one in state.stages
        ),
    )
