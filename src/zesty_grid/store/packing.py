"""The rows of a study package: the record and the plan of some studies, by names that last."""

import json
import sqlite3
from collections.abc import Iterable, Iterator
from typing import Any, get_args

from zesty_grid.core.compare.real_effects import real_effects
from zesty_grid.core.plan.factors import FactorKind
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.compared_swatches import swatches_looked_at
from zesty_grid.store.plan import list_study_ids
from zesty_grid.store.standing import StandingStudy, standing_study

FEWEST_TO_COMPARE = 3
ENDINGS = {b"\xff\xd8\xff": "jpg", b"\x89PNG": "png", b"RIFF": "webp", b"II*\0": "tif",
           b"MM\0*": "tif"}  # fmt: skip
Rows = list[dict[str, Any]]

RUN_NAME = (
    "(SELECT uid FROM study WHERE id = run.study_id) || '/run-' || printf('%04d', (SELECT "
    "count(*) FROM run AS earlier WHERE earlier.study_id = run.study_id AND earlier.id <= run.id))"
)
TRIAL_NAME = (
    "study.uid || '/trial-' || printf('%03d', (SELECT count(*) FROM trial AS earlier "
    "WHERE earlier.study_id = trial.study_id AND earlier.id <= trial.id))"
)
# A measurement is named by its photo and which one of that photo it is.
CALIBRATION = (
    "'calibrations/' || photo.sha256 || '-' || (SELECT count(*) FROM measurement AS "
    "earlier WHERE earlier.photo_id = measurement.photo_id AND earlier.id <= measurement.id) "
    "|| '.json'"
)
SQL = {
    "studies": "SELECT uid AS study, name, question, created_at, revision, "
    "plan ->> '$.swatch_mass_g' AS swatch_mass_g, "
    "plan ->> '$.liquor_ratio_ml_per_g' AS liquor_ratio_ml_per_g, plan, kept_shelf "
    "FROM study WHERE study.id = ?",
    "levels": "SELECT study.uid AS study, kind AS factor, key AS level, "
    "document ->> '$.label' AS label, document ->> '$.value' AS value, document "
    "FROM study_level JOIN study ON study.id = study_level.study_id WHERE study.id = ? "
    "ORDER BY kind, key",
    "runs": f"SELECT {RUN_NAME} AS run, study.uid AS study, run.name AS vessel, bath, begun_at, "
    "ended_at, void, document FROM run JOIN study ON study.id = run.study_id "
    "WHERE study.id = ? ORDER BY run.id",
    "run_members": f"SELECT {RUN_NAME} AS run, swatch.code AS swatch, in_at, out_at, seconds, "
    "stray FROM passage JOIN run ON run.id = passage.run_id "
    "JOIN swatch ON swatch.id = passage.swatch_id WHERE run.study_id = ? "
    "ORDER BY run.id, swatch.serial",
    "entries": "SELECT bench_entry.key AS entry, study.uid AS study, bench_entry.vessel, step, "
    "kind, at, entered_at, received_at, who, coalesce(device.name, '') AS device, "
    "(SELECT key FROM bench_entry AS older WHERE older.id = bench_entry.replaces) AS corrects, "
    "document FROM bench_entry JOIN study ON study.id = bench_entry.study_id "
    "LEFT JOIN signature ON written = 'bench_entry' AND row_id = bench_entry.id "
    "LEFT JOIN device ON device.id = device_id WHERE study.id = ? ORDER BY bench_entry.id",
    "trials": f"SELECT {TRIAL_NAME} AS trial, study.uid AS study, trial.plan ->> '$.kind' AS kind, "
    "trial.plan ->> '$.name' AS name, trial.created_at, trial.plan FROM trial "
    "JOIN study ON study.id = trial.study_id WHERE study.id = ? ORDER BY trial.id",
    "stages": f"SELECT {TRIAL_NAME} AS trial, stage, label, due_on, left_out FROM trial_stage "
    "JOIN trial ON trial.id = trial_stage.trial_id JOIN study ON study.id = trial.study_id "
    "WHERE study.id = ? ORDER BY trial.id, stage",
    # Of sheets, and pictures in the log.
    "photos": "SELECT photo.sha256 AS photo, study.uid AS study, photo.filename, uploaded_at, "
    "taken_at, camera, substr(bytes, 1, 4) AS start FROM photo "
    "JOIN study ON study.id = photo.study_id JOIN photo_file USING (sha256) WHERE study.id = ?1 "
    "UNION ALL SELECT sha256, study.uid, '', min(received_at), NULL, '', substr(bytes, 1, 4) "
    "FROM bench_entry JOIN study ON study.id = bench_entry.study_id "
    "JOIN photo_file ON sha256 = document ->> '$.photo' WHERE study.id = ?1 AND sha256 NOT IN "
    "(SELECT sha256 FROM photo WHERE study_id = ?1) GROUP BY sha256 ORDER BY uploaded_at, photo",
    "readings": "SELECT study.uid || '/reading-' || printf('%06d', row_number() OVER "
    "(ORDER BY reading.id)) AS reading, swatch.code AS swatch, study.uid AS study, "
    f"(SELECT {RUN_NAME} FROM run WHERE run.id = reading.run_id) AS state, piece, zone, "
    f"(SELECT {TRIAL_NAME} FROM trial JOIN study ON study.id = trial.study_id "
    "WHERE trial.id = reading.trial_id) AS trial, stage, lab_l AS lightness, lab_a AS a_star, "
    "lab_b AS b_star, hex, uncertainty_de00, levelness_de00, coalesce((SELECT counts FROM "
    "reading_choice WHERE reading_id = reading.id ORDER BY reading_choice.id DESC LIMIT 1), "
    "1 - damp) AS counts, damp, reading.taken_on, accepted_at, "
    "coalesce(instrument_file.instrument, '') AS instrument, photo.sha256 AS photo, sheet_cell, "
    f"CASE WHEN measurement.id IS NOT NULL THEN {CALIBRATION} END AS calibration, flags, note "
    "FROM reading JOIN swatch ON swatch.id = reading.swatch_id "
    "JOIN study ON study.id = swatch.study_id "
    "LEFT JOIN measurement ON measurement.id = reading.measurement_id "
    "LEFT JOIN photo ON photo.id = measurement.photo_id "
    "LEFT JOIN instrument_sample ON instrument_sample.id = reading.instrument_sample_id "
    "LEFT JOIN instrument_file ON instrument_file.id = instrument_sample.file_id "
    "WHERE study.id = ? ORDER BY reading.id",
}


def packed_rows(
    connection: sqlite3.Connection, study_ids: Iterable[int]
) -> tuple[dict[str, Rows], list[str]]:
    """The rows of each table, and the factors that the swatches have a column for."""
    rows: dict[str, Rows] = {name: [] for name in (*SQL, "factors", "cells", "swatches",
                                                   "effects", "shelf")}  # fmt: skip
    kinds: set[str] = set()
    for study_id in study_ids:
        for name, sql in SQL.items():
            rows[name] += [dict(row) for row in connection.execute(sql, (study_id,))]
        standing = standing_study(connection, study_id)
        uid = rows["studies"][-1]["study"]
        rows["factors"] += _factors(uid, standing)
        own = _swatches(connection, uid, study_id)
        kinds |= {str(factor.kind) for factor in standing.plan.factors}
        kinds |= {kind for row in own for kind in row["levels"]}
        rows["swatches"] += [row | row["levels"] for row in own]
        rows["cells"] += _cells(uid, own)
        rows["effects"] += _effects(connection, uid, standing)
    rows["swatches"] += _of_other_studies(connection, rows)
    for photo in rows["photos"]:
        photo["path"] = _photo_path(photo["photo"], photo["start"])
    rows["shelf"] = [
        dict(row)
        for row in connection.execute(
            "SELECT kind, key, document ->> '$.name' AS name, document FROM shelf_item "
            "ORDER BY kind, position, key"
        )
    ]
    return rows, [kind for kind in get_args(FactorKind) if kind in kinds]


def packed_files(
    connection: sqlite3.Connection, study_ids: Iterable[int]
) -> Iterator[tuple[str, bytes]]:
    """Photographs and calibrations, one at a time, with their paths; each photo once."""
    seen = set()
    for study_id in study_ids:
        for row in connection.execute(
            f"SELECT {CALIBRATION} AS path, document FROM measurement "
            "JOIN photo ON photo.id = measurement.photo_id WHERE photo.study_id = ? "
            "ORDER BY measurement.id",
            (study_id,),
        ).fetchall():
            if row["path"] not in seen:
                seen.add(row["path"])
                yield row["path"], f"{row['document']}\n".encode()
        for row in connection.execute(SQL["photos"], (study_id,)).fetchall():
            data = connection.execute(
                "SELECT bytes FROM photo_file WHERE sha256 = ?", (row["photo"],)
            ).fetchone()["bytes"]
            path = _photo_path(row["photo"], data[:4])
            if path not in seen:
                seen.add(path)
                yield path, data


def studies_named(connection: sqlite3.Connection, names: Iterable[str]) -> list[int]:
    """Studies by number, name or identity; all on the list where nothing is named. Raises Refusal
    for one that is not there, or a name that two of them have."""
    wanted = list(names)
    if not wanted:
        return list_study_ids(connection)
    return [_one_named(connection, name) for name in wanted]


def _one_named(connection: sqlite3.Connection, name: str) -> int:
    found = connection.execute(
        "SELECT id FROM study WHERE deleted_at IS NULL AND (CAST(id AS TEXT) = ?1 OR name = ?1 "
        "OR uid = ?1)",
        (name,),
    ).fetchall()
    if len(found) == 1:
        return int(found[0]["id"])
    if found:
        raise Refusal("two-studies", f"{len(found)} studies are called “{name}”.",
                      "Name it by its number.")  # fmt: skip
    raise Refusal("no-study", f"There is no study “{name}”.", "Name it by its number.")


def _factors(uid: str, standing: StandingStudy) -> Rows:
    rows = set(standing.plan.rows)
    return [
        {"study": uid, "factor": str(factor.kind), "position": position,
         "axis": "row" if factor.kind in rows else "column"}
        for position, factor in enumerate(standing.plan.factors)
    ]  # fmt: skip


def _swatches(connection: sqlite3.Connection, uid: str, study_id: int) -> Rows:
    """`levels` are those that it really got."""
    found = connection.execute(
        "SELECT swatch.code, place.levels, replicate, control, tie, fibre, mass_g, planned, "
        "true_levels, (SELECT code FROM swatch AS whole WHERE whole.id = swatch.parent_id) AS "
        "parent FROM swatch JOIN place ON place.swatch_id = swatch.id "
        "AND place.study_id = swatch.study_id WHERE swatch.study_id = ? ORDER BY serial",
        (study_id,),
    )
    return [
        {
            "swatch": row["code"], "study": uid, "cell": _cell_name(row["levels"]),
            "replicate": row["replicate"], "control": row["control"], "tie": row["tie"],
            "fibre_key": row["fibre"], "mass_g": row["mass_g"], "parent": row["parent"],
            "planned": row["planned"], "misplaced": row["true_levels"] is not None,
            "levels": json.loads(row["true_levels"] or row["levels"]),
        }
        for row in found
    ]  # fmt: skip


def _of_other_studies(connection: sqlite3.Connection, rows: dict[str, Rows]) -> Rows:
    """Who was in a bath here and belongs to a study that is not packed: by its code alone."""
    here = {row["swatch"] for row in rows["swatches"]}
    guests = sorted({row["swatch"] for row in rows["run_members"]} - here)
    return [
        dict(row)
        for code in guests
        for row in connection.execute(
            "SELECT code AS swatch, tie, fibre AS fibre_key, mass_g FROM swatch WHERE code = ?",
            (code,),
        )
    ]


def _cell_name(levels: str) -> str:
    return ";".join(f"{kind}={level}" for kind, level in json.loads(levels).items())


def _cells(uid: str, swatches: Rows) -> Rows:
    cells: dict[str, dict[str, Any]] = {}
    for row in swatches:
        cell = cells.setdefault(
            row["cell"],
            {"study": uid, "cell": row["cell"], "control": row["control"], "swatches": 0},
        )
        cell["swatches"] += 1
    return list(cells.values())


def _effects(connection: sqlite3.Connection, uid: str, standing: StandingStudy) -> Rows:
    looked = swatches_looked_at(connection, standing)
    if len(looked.swatches) < FEWEST_TO_COMPARE or not looked.factors:
        return []
    return [
        {
            "study": uid, "factor": one.factor, "from_level": one.from_level,
            "to_level": one.to_level, "delta_lightness": one.delta_lab[0],
            "delta_a_star": one.delta_lab[1], "delta_b_star": one.delta_lab[2],
            "de00": one.de00, "low_de00": one.low_de00, "high_de00": one.high_de00, "p": one.p,
            "verdict": one.verdict, "error": one.error,
        }
        for one in real_effects(looked.question()).effects
    ]  # fmt: skip


def _photo_path(digest: str, start: bytes) -> str:
    ending = next((name for sign, name in ENDINGS.items() if start.startswith(sign)), "bin")
    return f"photos/{digest}.{ending}"
