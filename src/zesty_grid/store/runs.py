"""Baths that have begun, kept as they stood then, and the names of those that have not."""

import json
import sqlite3
from collections.abc import Iterable
from dataclasses import dataclass

from zesty_grid.core.plan.bath import PAST_ALL_BATHS
from zesty_grid.core.plan.liquors import BegunLiquor
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.marks import LEAVES_OPEN
from zesty_grid.core.record.taken import NamedVessel, Taken
from zesty_grid.store.database import now
from zesty_grid.store.parsed import parsed
from zesty_grid.store.swatches import project_begun, swatch_ids


@dataclass(frozen=True)
class StoredRun:
    """`vessel` is what was kept when the bath began."""

    id: int
    study_id: int
    vessel: BenchVessel

    @property
    def name(self) -> str:
        return self.vessel.name


_RUN = "SELECT id, study_id, document FROM run "


def list_runs(connection: sqlite3.Connection, study_id: int) -> list[StoredRun]:
    """Every bath of a study that has begun and was not taken back, in the order of beginning."""
    rows = connection.execute(_RUN + "WHERE study_id = ? AND void = 0 ORDER BY id", (study_id,))
    return [_run(row) for row in rows]


def open_runs(connection: sqlite3.Connection, study_id: int) -> list[str]:
    """Names of the baths of a study that have begun and are not finished."""
    rows = connection.execute(
        "SELECT name FROM run WHERE study_id = ? AND void = 0 AND finished_at IS NULL ORDER BY id", (study_id,)
    )
    return [row["name"] for row in rows]


def run_named(connection: sqlite3.Connection, study_id: int, name: str) -> StoredRun | None:
    """The newest bath that began under a name, also where all of it was taken back since."""
    row = connection.execute(
        _RUN + "WHERE study_id = ? AND name = ? ORDER BY id DESC LIMIT 1", (study_id, name)
    ).fetchone()
    return _run(row) if row else None


def is_void(connection: sqlite3.Connection, run_id: int) -> bool:
    row = connection.execute("SELECT void FROM run WHERE id = ?", (run_id,)).fetchone()
    return bool(row["void"])


def runs_of_swatch(connection: sqlite3.Connection, swatch_id: int) -> list[StoredRun]:
    """The baths of all studies that a swatch was in or belongs in."""
    rows = connection.execute(
        _RUN + "WHERE void = 0 AND id IN (SELECT run_id FROM passage WHERE swatch_id = ? UNION "
        "SELECT run_id FROM run_member WHERE swatch_id = ? AND held = 1) ORDER BY id",
        (swatch_id, swatch_id),
    )
    return [_run(row) for row in rows]


def keep_run(connection: sqlite3.Connection, study_id: int, revision: int, vessel: BenchVessel) -> StoredRun:
    """Keeps a bath as it stands; from now on it is never worked out again."""
    begun = vessel.model_copy(update={"begun": True})
    cursor = connection.execute(
        "INSERT INTO run (study_id, name, bath, stage, revision, document, kept_at) VALUES (?, ?, ?, ?, ?, ?, ?)",
        (study_id, begun.name, begun.vessel.bath, begun.vessel.stage, revision, begun.model_dump_json(), now()),
    )
    run_id = int(cursor.lastrowid or 0)
    ids = swatch_ids(connection, begun.vessel.swatches)
    connection.executemany(
        "INSERT INTO run_member (run_id, swatch_id) VALUES (?, ?)", ((run_id, swatch) for swatch in ids.values())
    )
    project_begun(connection, ids.values())
    connection.execute("UPDATE planned_vessel SET planned = 0 WHERE study_id = ? AND name = ?", (study_id, begun.name))
    return StoredRun(run_id, study_id, begun)


def load_taken(connection: sqlite3.Connection, study_id: int) -> Taken:
    """What the record of a study holds already, as far as its plan has to go round it."""
    held = _stages(
        connection,
        "SELECT swatch.code, run.stage FROM run JOIN run_member ON run_member.run_id = run.id "
        "JOIN swatch ON swatch.id = run_member.swatch_id "
        "WHERE run.study_id = ? AND run.void = 0 AND run_member.held = 1",
        study_id,
    )
    been = _stages(
        connection,
        "SELECT swatch.code, run.stage FROM run JOIN passage ON passage.run_id = run.id "
        "JOIN swatch ON swatch.id = passage.swatch_id WHERE run.study_id = ? AND run.void = 0",
        study_id,
    )
    been = _dyed_before(connection, study_id) | been
    nobody: frozenset[str] = frozenset()
    past = {code: held.get(code, nobody) | been.get(code, nobody) for code in held.keys() | been}
    names = connection.execute("SELECT name FROM run WHERE study_id = ? AND void = 0", (study_id,))
    return Taken(
        past=past,
        been=been,
        has_record=has_record(connection, study_id),
        names=frozenset(row["name"] for row in names),
        kept=tuple(_kept(connection, study_id)),
        liquors=tuple(_liquors(connection, study_id)),
        lost=_lost(connection, study_id),
    )


def _lost(connection: sqlite3.Connection, study_id: int) -> frozenset[str]:
    rows = connection.execute(
        f"SELECT swatch.code FROM mark JOIN swatch ON swatch.id = mark.swatch_id WHERE mark.cure IN "
        f"({', '.join('?' * len(LEAVES_OPEN))}) AND mark.swatch_id IN "
        "(SELECT swatch_id FROM study_swatch WHERE study_id = ?)",
        (*LEAVES_OPEN, study_id),
    )
    return frozenset(row["code"] for row in rows)


def _dyed_before(connection: sqlite3.Connection, study_id: int) -> dict[str, frozenset[str]]:
    """Swatches that were entered when they were dyed already: past all baths of the plan."""
    rows = connection.execute(
        "SELECT one.value AS code FROM study, json_each(origin, '$.swatches') AS one "
        "WHERE study.id = ? AND origin_kind = 'table'",
        (study_id,),
    )
    return {row["code"]: frozenset({PAST_ALL_BATHS}) for row in rows}


def _liquors(connection: sqlite3.Connection, study_id: int) -> list[BegunLiquor]:
    rows = connection.execute(
        "SELECT name, bath_key AS key, dip, on_shelf, on_shelf_name, volume_ml, "
        "document ->> '$.vessel.dry_fibre_g' AS dry_fibre_g, "
        "document ->> '$.vessel.bath_fibre_g' AS bath_fibre_g, document ->> '$.vessel.parts' AS parts "
        "FROM run WHERE study_id = ? AND void = 0 ORDER BY id",
        (study_id,),
    )
    return [BegunLiquor.model_validate(dict(row)) for row in rows]


def _stages(connection: sqlite3.Connection, sql: str, study_id: int) -> dict[str, frozenset[str]]:
    found: dict[str, set[str]] = {}
    for row in connection.execute(sql, (study_id,)):
        found.setdefault(row["code"], set()).add(row["stage"])
    return {code: frozenset(stages) for code, stages in found.items()}


def has_record(connection: sqlite3.Connection, study_id: int) -> bool:
    """Whether anything was ever logged in a study."""
    row = connection.execute("SELECT EXISTS (SELECT 1 FROM bench_entry WHERE study_id = ?)", (study_id,)).fetchone()
    return bool(row[0])


def last_runs(connection: sqlite3.Connection, study_id: int) -> dict[str, str]:
    """The bath of this study in which each swatch was last, or is expected, by code."""
    rows = connection.execute(
        "SELECT swatch.code, run.name, run.id FROM run JOIN run_member "
        "ON run_member.run_id = run.id JOIN swatch ON swatch.id = run_member.swatch_id "
        "WHERE run.study_id = ?1 AND run.void = 0 AND run_member.held = 1 UNION "
        "SELECT swatch.code, run.name, run.id FROM run JOIN passage ON passage.run_id = run.id "
        "JOIN swatch ON swatch.id = passage.swatch_id "
        "WHERE run.study_id = ?1 AND run.void = 0 ORDER BY 3",
        (study_id,),
    )
    return {row["code"]: row["name"] for row in rows}


def save_planned(connection: sqlite3.Connection, study_id: int, vessels: Iterable[NamedVessel]) -> None:
    """The names of the vessels that have not begun. As long as a study has no record, names that
    are not needed are forgotten."""
    if has_record(connection, study_id):
        connection.execute("UPDATE planned_vessel SET planned = 0 WHERE study_id = ?", (study_id,))
    else:
        connection.execute("DELETE FROM planned_vessel WHERE study_id = ?", (study_id,))
    connection.executemany(
        "INSERT INTO planned_vessel (study_id, name, bath, key, swatches, planned) "
        "VALUES (?, ?, ?, ?, ?, 1) ON CONFLICT (study_id, name) DO UPDATE SET "
        "bath = excluded.bath, key = excluded.key, swatches = excluded.swatches, planned = 1",
        ((study_id, one.name, one.bath, one.key, json.dumps(one.swatches)) for one in vessels),
    )


def past_treatments(connection: sqlite3.Connection, study_id: int) -> set[str]:
    """Keys of the further treatments that have begun."""
    rows = connection.execute(
        "SELECT DISTINCT stage FROM run WHERE study_id = ? AND stage LIKE 'treatment:%'", (study_id,)
    )
    return {row["stage"].removeprefix("treatment:") for row in rows}


def _kept(connection: sqlite3.Connection, study_id: int) -> list[NamedVessel]:
    rows = connection.execute(
        "SELECT name, bath, key, swatches FROM planned_vessel WHERE study_id = ? ORDER BY name", (study_id,)
    )
    return [
        NamedVessel(name=row["name"], bath=row["bath"], key=row["key"], swatches=tuple(json.loads(row["swatches"])))
        for row in rows
    ]


def _run(row: sqlite3.Row) -> StoredRun:
    return StoredRun(row["id"], row["study_id"], parsed(BenchVessel, row["document"]))


def held_by_run(connection: sqlite3.Connection, study_id: int) -> dict[int, tuple[str, ...]]:
    """Codes of those for whom each bath counts: who was in it, or is still expected."""
    rows = connection.execute(
        "SELECT run.id, swatch.code FROM run JOIN run_member ON run_member.run_id = run.id "
        "JOIN swatch ON swatch.id = run_member.swatch_id "
        "WHERE run.study_id = ?1 AND run.void = 0 AND run_member.held = 1 UNION "
        "SELECT run.id, swatch.code FROM run JOIN passage ON passage.run_id = run.id "
        "JOIN swatch ON swatch.id = passage.swatch_id WHERE run.study_id = ?1 AND run.void = 0",
        (study_id,),
    )
    found: dict[int, tuple[str, ...]] = {}
    for row in rows:
        found[row["id"]] = (*found.get(row["id"], ()), row["code"])
    return found
