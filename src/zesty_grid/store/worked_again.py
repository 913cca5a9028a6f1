"""Works out again, beside a file, all that its tables keep of its log, and says what differs."""

import json
import sqlite3
from collections.abc import Collection, Iterator
from math import isclose

from zesty_grid.store.database import written_columns
from zesty_grid.store.fade import project_trial
from zesty_grid.store.following import follow_readings
from zesty_grid.store.projecting import project_study, project_swatches
from zesty_grid.store.swatches import project_begun

# What is kept beside the record itself, by the columns that name a row and those that follow.
DERIVED = {
    "run": (("id",), ("void", "begun_at", "ended_at", "finished_at", "ready_at")),
    "run_member": (("run_id", "swatch_id"), ("held",)),
    "run_step": (("run_id", "key"), ("begun_at", "due_at", "done_at", "iron_watch")),
    "passage": (("run_id", "swatch_id"), ("in_at", "out_at", "ended", "known", "stray", "seconds")),
    "pause": (("run_id", "swatch_id", "kind", "number"), ("from_at", "go_ended_at")),
    "mark": (("entry_id", "swatch_id"), ("deviation", "cure", "through")),
    "place": (("study_id", "swatch_id"), ("begun", "is_read", "stray", "true_levels")),
    "swatch": (("code",), ("settled", "in_work", "ready_at", "state", "state_is_read")),
    "reading": (("id",), ("state",)),
    "state_colour": (("swatch_id", "state"), ("document",)),
    "fade_point": (("trial_id", "swatch_id", "stage", "zone"), ("document",)),
    "stain_point": (("trial_id", "swatch_id", "stage", "neighbour"), ("document",)),
    "trial_stage": (("trial_id", "stage"), ("is_read", "due_on", "left_out")),
}
MISCOUNTED = (
    "SELECT id FROM study WHERE (planned_swatches, read_swatches) <> (SELECT count(*), "
    "coalesce(sum(is_read), 0) FROM place WHERE study_id = study.id AND planned = 1)"
)
# Large, and nothing follows from them.
NOT_NEEDED = {"photo_file", "probe_reading"}
MOST_SAID = 20
Rows = dict[tuple[object, ...], tuple[object, ...]]


def work_out_again(connection: sqlite3.Connection, study_ids: Collection[int] | None = None) -> None:
    """Puts into the tables all that follows from the log and the readings of every study, or of
    some of them."""
    every = [row[0] for row in connection.execute("SELECT id FROM study ORDER BY id")]
    wanted = [one for one in every if study_ids is None or one in study_ids]
    swatches = sorted(
        {
            row[0]
            for one in wanted
            for row in connection.execute(
                "SELECT swatch_id FROM study_swatch WHERE study_id = ?1 UNION "
                "SELECT id FROM swatch WHERE study_id = ?1",
                (one,),
            )
        }
    )
    project_begun(connection, swatches)
    for one in wanted:
        project_study(connection, one)
    follow_readings(connection, swatches)
    project_swatches(connection, swatches)
    for one in wanted:
        for row in connection.execute("SELECT id FROM trial WHERE study_id = ? ORDER BY id", (one,)).fetchall():
            project_trial(connection, row[0])


def differences_from_log(file: sqlite3.Connection) -> list[str]:
    """What the tables of an open file say otherwise than its log and readings; nothing is changed.

    The words name the table and the row.
    """
    again = _copy(file)
    try:
        work_out_again(again)
        found = [words for table in DERIVED for words in _differences(table, file, again)]
    finally:
        again.close()
    found += [f"study (id {row[0]}) counts its places wrong" for row in file.execute(MISCOUNTED)]
    more = len(found) - MOST_SAID
    return [*found[:MOST_SAID], *([f"and {more} more"] if more > 0 else [])]


def _differences(table: str, file: sqlite3.Connection, again: sqlite3.Connection) -> Iterator[str]:
    there, wanted = _rows(file, table), _rows(again, table)
    names = DERIVED[table][0]
    for key in sorted(there.keys() | wanted.keys(), key=repr):
        old, new = there.get(key), wanted.get(key)
        if old is None or new is None or not all(map(_same, old, new)):
            row = ", ".join(f"{name} {value}" for name, value in zip(names, key, strict=True))
            yield f"{table} ({row}) is not what the log gives"


def _rows(connection: sqlite3.Connection, table: str) -> Rows:
    names, facts = DERIVED[table]
    found = connection.execute(f"SELECT {', '.join((*names, *facts))} FROM {table}")
    return {tuple(row)[: len(names)]: tuple(row)[len(names) :] for row in found}


def _same(old: object, new: object) -> bool:
    """Alike but for the last digits, which another machine may round otherwise."""
    if isinstance(old, str) and isinstance(new, str) and old[:1] in "[{" and old != new:
        return _same(json.loads(old), json.loads(new))
    if isinstance(old, dict) and isinstance(new, dict):
        return old.keys() == new.keys() and all(_same(old[key], new[key]) for key in old)
    if isinstance(old, list) and isinstance(new, list):
        return len(old) == len(new) and all(map(_same, old, new))
    if isinstance(old, float) and isinstance(new, float):
        return isclose(old, new, rel_tol=1e-6, abs_tol=1e-6)
    return old == new


def _copy(file: sqlite3.Connection) -> sqlite3.Connection:
    """The tables in memory, without photographs; what is derived is worked out in this copy."""
    again = sqlite3.connect(":memory:", isolation_level=None)
    again.row_factory = sqlite3.Row
    made = file.execute("SELECT name, type, sql FROM sqlite_master WHERE sql IS NOT NULL").fetchall()
    for _, kind, sql in made:
        if kind == "table":
            again.execute(sql)
    for name, kind, _ in made:
        if kind != "table" or name in NOT_NEEDED:
            continue
        columns = written_columns(file, name)
        rows = file.execute(f"SELECT {', '.join(columns)} FROM {name}")
        places = ", ".join("?" * len(columns))
        put = f"INSERT INTO {name} ({', '.join(columns)}) VALUES ({places})"
        again.executemany(put, map(tuple, rows))
    for _, kind, sql in made:
        if kind in ("index", "view"):
            again.execute(sql)
    return again
