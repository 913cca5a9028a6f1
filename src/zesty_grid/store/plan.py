"""Studies and their swatches."""

import sqlite3
from dataclasses import dataclass

from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.swatch_codes import swatch_code
from zesty_grid.core.plan.swatches import swatch_key, swatches_of
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.store.database import now


@dataclass(frozen=True)
class StoredStudy:
    id: int
    revision: int
    plan: StudyPlan
    deleted: bool
    kept_shelf: Shelf | None


class StudyChangedElsewhere(Refusal):
    """Another tab or device saved this study first; `current` is what it saved."""

    def __init__(self, current: StoredStudy) -> None:
        super().__init__(
            "changed-elsewhere",
            "This study was changed in another tab or on another device.",
            "Look at the newer version; then make your change again.",
        )
        self.current = current


class NotFound(Refusal):
    def __init__(self, what: str) -> None:
        super().__init__("not-found", f"There is no such {what}.", "Choose one from the list.")


def list_studies(connection: sqlite3.Connection) -> list[StoredStudy]:
    rows = connection.execute("SELECT * FROM study WHERE deleted_at IS NULL ORDER BY id")
    return [_study(row) for row in rows]


def all_plans(connection: sqlite3.Connection) -> list[StudyPlan]:
    """The plan of every study, also of those that are off the list: they can come back."""
    rows = connection.execute("SELECT plan FROM study ORDER BY id")
    return [StudyPlan.model_validate_json(row["plan"]) for row in rows]


def load_study(connection: sqlite3.Connection, study_id: int) -> StoredStudy:
    row = connection.execute("SELECT * FROM study WHERE id = ?", (study_id,)).fetchone()
    if row is None:
        raise NotFound("study")
    return _study(row)


def create_study(connection: sqlite3.Connection, plan: StudyPlan, cells: list[Cell]) -> int:
    cursor = connection.execute(
        "INSERT INTO study (plan, created_at) VALUES (?, ?)", (plan.model_dump_json(), now())
    )
    study_id = int(cursor.lastrowid or 0)
    _give_codes(connection, study_id, cells, plan.replicates)
    return study_id


def save_study(
    connection: sqlite3.Connection, study_id: int, revision: int, plan: StudyPlan,
    cells: list[Cell],
) -> StoredStudy:  # fmt: skip
    """Saves over exactly `revision`; raises StudyChangedElsewhere where it is not the newest."""
    changed = connection.execute(
        "UPDATE study SET plan = ?, revision = revision + 1 WHERE id = ? AND revision = ?",
        (plan.model_dump_json(), study_id, revision),
    )
    if changed.rowcount == 0:
        raise StudyChangedElsewhere(load_study(connection, study_id))
    _give_codes(connection, study_id, cells, plan.replicates)
    return load_study(connection, study_id)


def keep_recipes(connection: sqlite3.Connection, study_id: int, shelf: Shelf) -> None:
    """Keeps the Shelf as it stands for a study; the first time counts, later ones do nothing."""
    connection.execute(
        "UPDATE study SET kept_shelf = ? WHERE id = ? AND kept_shelf IS NULL",
        (shelf.model_dump_json(), study_id),
    )


def set_deleted(connection: sqlite3.Connection, study_id: int, deleted: bool) -> None:
    """Takes a study off the list, or puts it back; nothing in it is touched."""
    load_study(connection, study_id)
    connection.execute(
        "UPDATE study SET deleted_at = ? WHERE id = ?", (now() if deleted else None, study_id)
    )


def swatch_codes(connection: sqlite3.Connection, study_id: int) -> dict[str, str]:
    """Swatch code by swatch key."""
    rows = connection.execute(
        "SELECT cell, replicate, code FROM swatch WHERE study_id = ?", (study_id,)
    )
    return {swatch_key(row["cell"], row["replicate"]): row["code"] for row in rows}


def _give_codes(
    connection: sqlite3.Connection, study_id: int, cells: list[Cell], replicates: int
) -> None:
    """A code for each swatch of an included cell that has none; codes are kept for ever."""
    known = swatch_codes(connection, study_id)
    serial = connection.execute("SELECT coalesce(max(serial) + 1, 1) FROM swatch").fetchone()[0]
    new = [swatch for swatch in swatches_of(cells, replicates) if swatch.key not in known]
    connection.executemany(
        "INSERT INTO swatch (study_id, cell, replicate, serial, code) VALUES (?, ?, ?, ?, ?)",
        (
            (study_id, swatch.cell, swatch.replicate, serial + i, swatch_code(serial + i))
            for i, swatch in enumerate(new)
        ),
    )


def _study(row: sqlite3.Row) -> StoredStudy:
    return StoredStudy(
        row["id"], row["revision"], StudyPlan.model_validate_json(row["plan"]),
        row["deleted_at"] is not None,
        Shelf.model_validate_json(row["kept_shelf"]) if row["kept_shelf"] else None,
    )  # fmt: skip
