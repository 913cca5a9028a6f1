"""Light and wash trials: their swatches in the state that they were in, stages, and fade points."""

import json
import sqlite3

from zesty_grid.core.fade.trial import FadePoint, StageReading, TrialPlan, fade_points
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.database import now
from zesty_grid.store.plan import NotFound
from zesty_grid.store.read import seen_readings
from zesty_grid.store.swatches import project_begun, swatch_ids


def add_trial(connection: sqlite3.Connection, study_id: int, plan: TrialPlan) -> int:
    """Raises Refusal for swatches that have no place in this study."""
    rows = connection.execute(
        "SELECT swatch.code FROM place JOIN swatch ON swatch.id = place.swatch_id "
        "WHERE place.study_id = ?",
        (study_id,),
    )
    strange = sorted(set(plan.swatches) - {row["code"] for row in rows})
    if strange:
        raise Refusal(
            "unknown-swatch",
            f"No swatch of this study has the code {', '.join(strange[:5])}.",
            "Check the code.",
        )
    cursor = connection.execute(
        "INSERT INTO trial (study_id, plan, created_at) VALUES (?, ?, ?)",
        (study_id, plan.model_dump_json(), now()),
    )
    trial_id = int(cursor.lastrowid or 0)
    ids = swatch_ids(connection, plan.swatches)
    connection.executemany(
        "INSERT INTO trial_swatch (trial_id, swatch_id, run_id) VALUES (?, ?, coalesce((SELECT "
        "last_run_id FROM swatch WHERE id = ?), 0))",
        ((trial_id, swatch, swatch) for swatch in ids.values()),
    )
    keep_stages(connection, trial_id, plan)
    project_begun(connection, ids.values())
    return trial_id


def keep_stages(connection: sqlite3.Connection, trial_id: int, plan: TrialPlan) -> None:
    connection.executemany(
        "INSERT INTO trial_stage (trial_id, stage, label) VALUES (?, ?, ?)",
        ((trial_id, i, stage.label) for i, stage in enumerate(plan.stages)),
    )


def due_stage(connection: sqlite3.Connection, trial_id: int) -> int | None:
    """The first stage of a trial that was not read; None where all were."""
    row = connection.execute(
        "SELECT min(stage) AS stage FROM trial_stage WHERE trial_id = ? AND is_read = 0",
        (trial_id,),
    ).fetchone()
    return None if row["stage"] is None else int(row["stage"])


def load_trial(connection: sqlite3.Connection, trial_id: int) -> tuple[int, TrialPlan]:
    """The study that a trial belongs to, and its plan."""
    row = connection.execute("SELECT * FROM trial WHERE id = ?", (trial_id,)).fetchone()
    if row is None:
        raise NotFound("trial")
    return row["study_id"], TrialPlan.model_validate_json(row["plan"])


def list_trials(connection: sqlite3.Connection, study_id: int) -> dict[int, TrialPlan]:
    rows = connection.execute("SELECT * FROM trial WHERE study_id = ? ORDER BY id", (study_id,))
    return {row["id"]: TrialPlan.model_validate_json(row["plan"]) for row in rows}


def trial_states(connection: sqlite3.Connection, trial_id: int) -> dict[str, int]:
    """The bath after which each swatch of a trial is exposed, by code; 0 as it came."""
    rows = connection.execute(
        "SELECT swatch.code, trial_swatch.run_id FROM trial_swatch "
        "JOIN swatch ON swatch.id = trial_swatch.swatch_id WHERE trial_id = ?",
        (trial_id,),
    )
    return {row["code"]: row["run_id"] for row in rows}


def list_points(connection: sqlite3.Connection, study_id: int) -> dict[int, list[FadePoint]]:
    """What was found at every stage that was read, by trial."""
    rows = connection.execute(
        "SELECT fade_point.trial_id, fade_point.document FROM fade_point "
        "JOIN trial ON trial.id = fade_point.trial_id JOIN swatch "
        "ON swatch.id = fade_point.swatch_id WHERE trial.study_id = ? "
        "ORDER BY swatch.code, fade_point.stage",
        (study_id,),
    )
    found: dict[int, list[FadePoint]] = {}
    for row in rows:
        point = FadePoint.model_validate_json(row["document"])
        found.setdefault(row["trial_id"], []).append(point)
    return found


def project_trial(connection: sqlite3.Connection, trial_id: int) -> None:
    """What a trial's readings say, kept so that it need not be worked out at each look."""
    _, plan = load_trial(connection, trial_id)
    ids = swatch_ids(connection, plan.swatches)
    states = trial_states(connection, trial_id)
    own = [
        one
        for one in seen_readings(connection, swatch_ids=ids.values())
        if one.trial == trial_id or (one.trial is None and one.run == states.get(one.swatch))
    ]
    points = fade_points(
        plan,
        (StageReading(swatch=o.swatch, piece=o.piece, stage=o.stage, seen=o.seen) for o in own),
    )
    connection.execute("DELETE FROM fade_point WHERE trial_id = ?", (trial_id,))
    connection.executemany(
        "INSERT INTO fade_point (trial_id, swatch_id, stage, document) VALUES (?, ?, ?, ?)",
        ((trial_id, ids[p.swatch], p.stage, p.model_dump_json()) for p in points),
    )
    read = {one.stage for one in own if one.trial == trial_id}
    connection.execute(
        "UPDATE trial_stage SET is_read = stage IN (SELECT value FROM json_each(?)) "
        "WHERE trial_id = ?",
        (json.dumps(sorted(stage for stage in read if stage is not None)), trial_id),
    )
