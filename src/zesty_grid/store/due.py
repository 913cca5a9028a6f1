"""What runs, what is due and how much is read: questions to the tables, by index."""

import sqlite3
from datetime import UTC, date, datetime
from typing import NamedTuple

from zesty_grid.core.record.due import StageDue, StudyCounts
from zesty_grid.store.database import stamp


class RunningStep(NamedTuple):
    """A step that was begun and is not done; times as they are kept."""

    study: int
    vessel: str
    vessel_title: str
    step: str
    title: str
    begun_at: str
    due_at: str | None
    stir_every_min: int | None
    iron_watch: bool


class StudyLine(NamedTuple):
    """One line of the list of studies."""

    id: int
    name: str
    question: str
    swatches: int
    read: int


def newest_of_record(connection: sqlite3.Connection) -> int:
    """A number that grows with every entry, photo, reading, and choice of one, of any study."""
    tables = ("bench_entry", "photo", "measurement", "reading", "reading_choice")
    parts = " + ".join(f"(SELECT coalesce(max(id), 0) FROM {table})" for table in tables)
    return int(connection.execute(f"SELECT {parts}").fetchone()[0])


def newest_moment(connection: sqlite3.Connection) -> datetime | None:
    """When the server took the newest entry or reading, by its own clock then."""
    rows = connection.execute(
        "SELECT (SELECT received_at FROM bench_entry ORDER BY id DESC LIMIT 1), "
        "(SELECT accepted_at FROM reading ORDER BY id DESC LIMIT 1)"
    ).fetchone()
    found = [datetime.fromisoformat(at) for at in rows if at]
    return max((at if at.tzinfo else at.replace(tzinfo=UTC) for at in found), default=None)


def running_steps(connection: sqlite3.Connection) -> list[RunningStep]:
    """Of all studies that are on the list, the one that is due first in front."""
    rows = connection.execute(
        "SELECT run.study_id, run.name, run.title AS vessel_title, "
        "run_step.* FROM run_step JOIN run ON run.id = run_step.run_id "
        "JOIN study ON study.id = run.study_id WHERE run_step.begun_at IS NOT NULL "
        "AND run_step.done_at IS NULL AND run.void = 0 AND study.deleted_at IS NULL "
        "ORDER BY coalesce(run_step.due_at, run_step.begun_at)"
    )
    return [
        RunningStep(
            row["study_id"],
            row["name"],
            row["vessel_title"],
            row["key"],
            row["title"],
            row["begun_at"],
            row["due_at"],
            row["stir_every_min"],
            bool(row["iron_watch"]),
        )
        for row in rows
    ]


def study_lines(connection: sqlite3.Connection, text: str = "", after: int = 0, most: int = -1) -> list[StudyLine]:
    """Studies on the list, with how many swatches each has and how many of them are read: those
    with `text` in their name or question, `most` of them after the number `after` (-1: all)."""
    rows = connection.execute(
        "SELECT id, name, question, planned_swatches, read_swatches FROM study "
        "WHERE deleted_at IS NULL AND id > ?1 AND (instr(lower(name), lower(?2)) "
        "OR instr(lower(question), lower(?2))) ORDER BY id LIMIT ?3",
        (after, text, most),
    )
    return [StudyLine(*row) for row in rows]


def study_counts(connection: sqlite3.Connection, moment: datetime) -> list[StudyCounts]:
    """What is left to do in each study on the list."""
    lines = study_lines(connection)
    open_runs = _counted(
        connection, "SELECT study_id, count(*) FROM run WHERE void = 0 AND finished_at IS NULL GROUP BY study_id"
    )
    ahead = _counted(connection, "SELECT study_id, count(*) FROM planned_vessel WHERE planned = 1 GROUP BY study_id")
    ready = {
        row[0]: row[1]
        for row in connection.execute(
            "SELECT place.study_id, count(*) FROM swatch JOIN place "
            "ON place.swatch_id = swatch.id AND place.study_id = swatch.study_id "
            "WHERE swatch.in_work = 0 AND swatch.state_is_read = 0 AND swatch.ready_at <= ? "
            "GROUP BY place.study_id",
            (stamp(moment),),
        )
    }
    strays = _counted(connection, "SELECT study_id, count(*) FROM place WHERE stray = 1 GROUP BY study_id")
    photos = _counted(connection, "SELECT study_id, count(*) FROM photo WHERE waiting = 1 GROUP BY study_id")
    stages = _stages_due(connection, moment)
    return [
        StudyCounts(
            study=line.id,
            name=line.name,
            vessels_open=_one(open_runs, line.id) + _one(ahead, line.id),
            ready=ready.get(line.id, 0),
            unread=line.swatches - line.read,
            strays=_one(strays, line.id),
            photos_waiting=_one(photos, line.id),
            stages=tuple(stages.get(line.id, ())),
        )
        for line in lines
    ]


def _stages_due(connection: sqlite3.Connection, moment: datetime) -> dict[int, list[StageDue]]:
    rows = connection.execute(
        "SELECT trial.study_id, trial.name, trial_stage.label, "
        "trial_stage.due_on, min(coalesce(trial_stage.due_on, '~') || "
        "printf('%04d', trial_stage.stage)), count(*) AS remaining FROM trial_stage "
        "JOIN trial ON trial.id = trial_stage.trial_id WHERE trial_stage.is_read = 0 "
        "AND trial_stage.left_out = 0 GROUP BY trial.id ORDER BY trial.id"
    )
    found: dict[int, list[StageDue]] = {}
    for row in rows:
        due_on = date.fromisoformat(row["due_on"]) if row["due_on"] else None
        late = (moment.date() - due_on).days if due_on else None
        stage = StageDue(row["name"], row["label"], row["remaining"], due_on, late)
        found.setdefault(row["study_id"], []).append(stage)
    return found


def _counted(connection: sqlite3.Connection, sql: str) -> dict[int, tuple[int, ...]]:
    return {row[0]: tuple(row)[1:] for row in connection.execute(sql)}


def _one(counts: dict[int, tuple[int, ...]], study_id: int) -> int:
    return counts.get(study_id, (0,))[0]
