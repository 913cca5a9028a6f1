"""Day plans; the newest counts, and none is thrown away."""

import sqlite3

from zesty_grid.core.dye.scheduling.day_plan import DayPlan
from zesty_grid.store.database import now


def load_day_plan(connection: sqlite3.Connection, study_id: int) -> DayPlan | None:
    row = connection.execute(
        "SELECT document FROM schedule WHERE study_id = ? ORDER BY id DESC LIMIT 1", (study_id,)
    ).fetchone()
    return DayPlan.model_validate_json(row["document"]) if row else None


def save_day_plan(connection: sqlite3.Connection, study_id: int, plan: DayPlan) -> None:
    connection.execute(
        "INSERT INTO schedule (study_id, document, made_at) VALUES (?, ?, ?)", (study_id, plan.model_dump_json(), now())
    )
