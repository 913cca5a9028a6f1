"""Light and wash trials."""

import sqlite3

from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.database import now
from zesty_grid.store.plan import NotFound, swatch_codes


def add_trial(connection: sqlite3.Connection, study_id: int, plan: TrialPlan) -> int:
    """Raises Refusal for swatches that are not of this study."""
    known = set(swatch_codes(connection, study_id).values())
    strange = sorted(set(plan.swatches) - known)
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
    return int(cursor.lastrowid or 0)


def load_trial(connection: sqlite3.Connection, trial_id: int) -> tuple[int, TrialPlan]:
    """The study that a trial belongs to, and its plan."""
    row = connection.execute("SELECT * FROM trial WHERE id = ?", (trial_id,)).fetchone()
    if row is None:
        raise NotFound("trial")
    return row["study_id"], TrialPlan.model_validate_json(row["plan"])


def list_trials(connection: sqlite3.Connection, study_id: int) -> dict[int, TrialPlan]:
    rows = connection.execute("SELECT * FROM trial WHERE study_id = ? ORDER BY id", (study_id,))
    return {row["id"]: TrialPlan.model_validate_json(row["plan"]) for row in rows}
