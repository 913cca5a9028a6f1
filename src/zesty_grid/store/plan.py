"""Studies, the versions of their plans, and the levels that they ever had."""

import sqlite3
from dataclasses import dataclass

from pydantic import TypeAdapter

from zesty_grid.core.plan.factors import FactorKind, Level
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.store.database import now
from zesty_grid.store.parsed import parsed
from zesty_grid.store.signing import sign

KINDS: TypeAdapter[FactorKind] = TypeAdapter(FactorKind)


@dataclass(frozen=True)
class StoredStudy:
    id: int
    revision: int
    plan: StudyPlan
    deleted: bool
    kept_shelf: Shelf | None


@dataclass(frozen=True)
class PlanVersion:
    """A version of a plan as it was saved, and in words what was changed by it."""

    revision: int
    words: str
    saved_at: str


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


def list_study_ids(connection: sqlite3.Connection) -> list[int]:
    rows = connection.execute("SELECT id FROM study WHERE deleted_at IS NULL ORDER BY id")
    return [row["id"] for row in rows]


def all_plans(connection: sqlite3.Connection) -> list[StudyPlan]:
    """The plan of every study, also of those that are off the list: they can come back."""
    rows = connection.execute("SELECT plan FROM study ORDER BY id")
    return [parsed(StudyPlan, row["plan"]) for row in rows]


def load_study(connection: sqlite3.Connection, study_id: int) -> StoredStudy:
    row = connection.execute("SELECT * FROM study WHERE id = ?", (study_id,)).fetchone()
    if row is None:
        raise NotFound("study")
    return StoredStudy(
        row["id"],
        row["revision"],
        parsed(StudyPlan, row["plan"]),
        row["deleted_at"] is not None,
        parsed(Shelf, row["kept_shelf"]) if row["kept_shelf"] else None,
    )


def entered_from(connection: sqlite3.Connection, study_id: int) -> str:
    """The table from which its swatches were entered when they had been dyed; empty: none."""
    row = connection.execute(
        "SELECT coalesce(origin_filename, '') AS name FROM study WHERE id = ?", (study_id,)
    ).fetchone()
    return str(row["name"])


def study_names(connection: sqlite3.Connection) -> dict[int, str]:
    return {row["id"]: row["name"] for row in connection.execute("SELECT id, name FROM study")}


def insert_plan(connection: sqlite3.Connection, plan: StudyPlan, words: str) -> int:
    cursor = connection.execute(
        "INSERT INTO study (plan, name, question, created_at) VALUES (?, ?, ?, ?)",
        (plan.model_dump_json(), plan.name, plan.question, now()),
    )
    study_id = int(cursor.lastrowid or 0)
    _keep_version(connection, study_id, 1, plan, words)
    return study_id


def update_plan(connection: sqlite3.Connection, study_id: int, revision: int, plan: StudyPlan, words: str) -> None:
    """Saves over exactly `revision`; raises StudyChangedElsewhere where it is not the newest."""
    changed = connection.execute(
        "UPDATE study SET plan = ?, name = ?, question = ?, revision = revision + 1 WHERE id = ? AND revision = ?",
        (plan.model_dump_json(), plan.name, plan.question, study_id, revision),
    )
    if changed.rowcount == 0:
        raise StudyChangedElsewhere(load_study(connection, study_id))
    _keep_version(connection, study_id, revision + 1, plan, words)


def list_versions(connection: sqlite3.Connection, study_id: int) -> list[PlanVersion]:
    """The newest first."""
    rows = connection.execute(
        "SELECT revision, words, saved_at FROM plan_version WHERE study_id = ? ORDER BY revision DESC", (study_id,)
    )
    return [PlanVersion(row["revision"], row["words"], row["saved_at"]) for row in rows]


def load_version(connection: sqlite3.Connection, study_id: int, revision: int) -> StudyPlan:
    row = connection.execute(
        "SELECT plan FROM plan_version WHERE study_id = ? AND revision = ?", (study_id, revision)
    ).fetchone()
    if row is None:
        raise NotFound("version of this plan")
    return parsed(StudyPlan, row["plan"])


def level_archive(connection: sqlite3.Connection, study_id: int) -> dict[tuple[FactorKind, str], Level]:
    rows = connection.execute("SELECT kind, key, document FROM study_level WHERE study_id = ?", (study_id,))
    return {(KINDS.validate_python(row["kind"]), row["key"]): parsed(Level, row["document"]) for row in rows}


def level_labels(connection: sqlite3.Connection, study_id: int) -> dict[tuple[FactorKind, str], str]:
    """Of every level that the study ever had, by factor and key."""
    return {level: found.label for level, found in level_archive(connection, study_id).items()}


def keep_recipes(connection: sqlite3.Connection, study_id: int, shelf: Shelf) -> None:
    """Keeps the Shelf as it stands for a study that begins to be dyed; later calls do nothing."""
    connection.execute(
        "UPDATE study SET kept_shelf = ? WHERE id = ? AND kept_shelf IS NULL", (shelf.model_dump_json(), study_id)
    )


def take_recipes_of_today(connection: sqlite3.Connection, study_id: int, shelf: Shelf) -> None:
    """What has not begun follows the Shelf as it is now; what has begun keeps what it had."""
    connection.execute("UPDATE study SET kept_shelf = ? WHERE id = ?", (shelf.model_dump_json(), study_id))


def set_deleted(connection: sqlite3.Connection, study_id: int, deleted: bool) -> None:
    """Takes a study off the list, or puts it back; nothing in it is touched."""
    load_study(connection, study_id)
    connection.execute("UPDATE study SET deleted_at = ? WHERE id = ?", (now() if deleted else None, study_id))


def _keep_version(connection: sqlite3.Connection, study_id: int, revision: int, plan: StudyPlan, words: str) -> None:
    kept = connection.execute(
        "INSERT INTO plan_version (study_id, revision, plan, words, saved_at) VALUES (?, ?, ?, ?, ?)",
        (study_id, revision, plan.model_dump_json(), words, now()),
    )
    sign(connection, "plan_version", kept.lastrowid)
    connection.executemany(
        "INSERT INTO study_level (study_id, kind, key, document) VALUES (?, ?, ?, ?) "
        "ON CONFLICT (study_id, kind, key) DO UPDATE SET document = excluded.document",
        (
            (study_id, factor.kind, level.key, level.model_dump_json())
            for factor in plan.factors
            for level in factor.levels
        ),
    )
