"""Keeps in tables what follows from the log, so that it can be asked for by index.

Nothing here is the record itself: all of it is worked out again from the log whenever an entry
touches it, and `check` compares the two.
"""

import json
import sqlite3
from collections.abc import Iterable
from datetime import datetime, timedelta
from typing import NamedTuple, cast

from zesty_grid.core.record.bath_facts import BathFacts, facts_of
from zesty_grid.core.record.entry import BenchEntry
from zesty_grid.core.record.marks import Mark, marks_of
from zesty_grid.core.record.placing import true_levels_of
from zesty_grid.store.database import stamp
from zesty_grid.store.dye import standing_entries
from zesty_grid.store.runs import StoredRun, is_void, list_runs, run_named
from zesty_grid.store.states import ended_bath
from zesty_grid.store.swatches import project_begun, swatch_ids

TOUCHES_MARKS = frozenset({"deviation", "cure", "struck"})


class Followed(NamedTuple):
    """`ahead`: what is ahead may have changed; `passed` are swatches with another path behind them
    than before, by row number."""

    ahead: bool
    passed: frozenset[int] = frozenset()


def project_entry(
    connection: sqlite3.Connection, study_id: int, entry: BenchEntry, corrects: BenchEntry | None, first: bool
) -> Followed:
    """Brings the tables up to date after an entry; `first`: a bath has begun with it."""
    said = [e for e in (entry, corrects) if e is not None]
    names = dict.fromkeys(name for e in said for name in (e.vessel, e.instead_of) if name)
    baths = [project_bath(connection, study_id, name) for name in names]
    moved = any(bath.ahead for bath in baths)
    passed = frozenset(swatch for bath in baths for swatch in bath.passed)
    kinds = {e.kind for e in (entry, corrects) if e is not None}
    # A bath that begins takes over what went wrong with its extract; one that ends is past harm.
    if moved or first or passed or kinds & TOUCHES_MARKS:
        project_marks(connection, study_id)
    placed = "placed" in kinds
    if placed or moved:
        placed = project_places(connection, study_id) or placed
    return Followed(ahead=moved or placed, passed=passed)


def project_study(connection: sqlite3.Connection, study_id: int) -> None:
    """All that follows from the log of one study."""
    for run in list_runs(connection, study_id):
        project_bath(connection, study_id, run.name)
    project_marks(connection, study_id)
    project_places(connection, study_id)


def project_bath(connection: sqlite3.Connection, study_id: int, name: str) -> Followed:
    """One bath that has begun: its steps, who was in it, and whether it stands at all."""
    run = run_named(connection, study_id, name)
    if run is None:
        return Followed(ahead=False)
    facts = facts_of(run.vessel, standing_entries(connection, study_id, name))
    was_void = is_void(connection, run.id)
    before, behind = _holds(connection, run.id), _ended_in(connection, run.id)
    _save_facts(connection, run, facts)
    _save_steps(connection, run.id, facts)
    touched = _save_who(connection, run, facts)
    project_begun(connection, touched)
    project_swatches(connection, touched)
    ahead = was_void == facts.begun or before != _holds(connection, run.id)
    changed = behind ^ _ended_in(connection, run.id)
    passed = touched if was_void == facts.begun else {swatch for swatch, _ in changed}
    return Followed(ahead, frozenset(passed))


def project_swatches(connection: sqlite3.Connection, ids: Iterable[int]) -> None:
    """Whether swatches are in work, when they are ready, and in which state they are."""
    for swatch in set(ids):
        rows = connection.execute(
            "SELECT run.id, run.stage, run.ready_at, passage.out_at, passage.ended, "
            "run.rests_h, EXISTS (SELECT 1 FROM swatch, "
            "json_each(run.document, '$.vessel.outs') AS out, "
            "json_each(out.value, '$.swatches') AS sooner "
            "WHERE swatch.id = passage.swatch_id AND sooner.value = swatch.code) AS sooner "
            "FROM run JOIN passage ON passage.run_id = run.id "
            "WHERE run.void = 0 AND passage.swatch_id = ?",
            (swatch,),
        ).fetchall()
        waits = connection.execute(
            "SELECT EXISTS (SELECT 1 FROM run_member JOIN run ON run.id = run_member.run_id "
            "WHERE run.void = 0 AND swatch_id = ?1 AND held = 1 AND NOT EXISTS (SELECT 1 FROM "
            "passage WHERE passage.run_id = run.id AND passage.swatch_id = ?1))",
            (swatch,),
        ).fetchone()[0]
        ended = [row for row in rows if row["ended"]]
        last = max(ended, key=lambda r: ended_bath(r["id"], r["out_at"], r["stage"]).order, default=None)
        ready_at = _ready_at(last) if last else None
        in_work = waits or any(not row["ended"] for row in rows) or (last is not None and ready_at is None)
        connection.execute(
            "UPDATE swatch SET in_work = ?, ready_at = ?, state = ?, state_is_read = EXISTS "
            "(SELECT 1 FROM state_colour WHERE swatch_id = swatch.id AND state = ?) OR EXISTS "
            "(SELECT 1 FROM reading WHERE reading.swatch_id = swatch.id AND zone_now <> '' "
            "AND reading.state = ?) WHERE id = ?",
            (
                int(bool(in_work)),
                ready_at,
                last["id"] if last else 0,
                last["id"] if last else 0,
                last["id"] if last else 0,
                swatch,
            ),
        )


def _ready_at(last: sqlite3.Row) -> str | None:
    """When a swatch is dry and rested; one that came out before the rest hangs since then."""
    if not last["sooner"]:
        return cast(str | None, last["ready_at"])
    rests = timedelta(hours=float(last["rests_h"] or 0))
    return stamp(datetime.fromisoformat(last["out_at"]) + rests)


def project_marks(connection: sqlite3.Connection, study_id: int) -> None:
    """What went wrong, by swatch."""
    connection.execute("DELETE FROM mark WHERE study_id = ?", (study_id,))
    log = standing_entries(connection, study_id, kinds=("deviation", "cure"))
    if not log:
        return
    runs = list_runs(connection, study_id)
    inside = {run.name: _codes_in(connection, run.id) for run in runs}
    marks = marks_of(log, [run.vessel for run in runs], inside, _ended(connection, study_id))
    ids = swatch_ids(connection, (mark.swatch for mark in marks))
    connection.executemany(
        "INSERT INTO mark (entry_id, swatch_id, study_id, vessel, step, at, deviation, note, cure, "
        "through) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        (
            (
                mark.entry,
                ids[mark.swatch],
                study_id,
                mark.vessel,
                mark.step,
                stamp(mark.at),
                mark.deviation,
                mark.note,
                mark.cure,
                mark.through,
            )
            for mark in marks
        ),
    )


def project_places(connection: sqlite3.Connection, study_id: int) -> bool:
    """True levels as they were said, and who went another way with nothing said of it yet.

    Says whether a true place changed.
    """
    said = true_levels_of(standing_entries(connection, study_id, kinds=("placed",)))
    rows = connection.execute(
        "SELECT swatch.id, swatch.code, place.true_levels, EXISTS (SELECT 1 FROM passage JOIN run "
        "ON run.id = passage.run_id WHERE run.study_id = place.study_id AND run.void = 0 AND "
        "passage.stray = 1 AND passage.swatch_id = swatch.id) AS went FROM place "
        "JOIN swatch ON swatch.id = place.swatch_id WHERE place.study_id = ?",
        (study_id,),
    ).fetchall()
    changed = False
    for row in rows:
        levels = said.get(row["code"])
        before = json.loads(row["true_levels"]) if row["true_levels"] else None
        changed = changed or before != levels
        connection.execute(
            "UPDATE place SET true_levels = ?, stray = ? WHERE study_id = ? AND swatch_id = ?",
            (json.dumps(levels) if levels else None, int(bool(row["went"]) and levels is None), study_id, row["id"]),
        )
    return changed


def marks_for(connection: sqlite3.Connection, study_id: int | None = None, swatch_id: int | None = None) -> list[Mark]:
    """Marks that the log of a study made, or those that one swatch carries from anywhere; of a
    study also those that its own swatches carry from other studies."""
    where, value = (
        ("mark.swatch_id = ?", swatch_id)
        if swatch_id is not None
        else (
            "(mark.study_id = ?1 OR mark.swatch_id IN (SELECT swatch_id FROM study_swatch WHERE study_id = ?1))",
            study_id,
        )
    )
    rows = connection.execute(
        "SELECT mark.*, swatch.code FROM mark JOIN swatch ON swatch.id = mark.swatch_id "
        f"WHERE {where} ORDER BY mark.at, mark.entry_id, swatch.serial",
        (value,),
    )
    return [
        Mark(
            swatch=row["code"],
            entry=row["entry_id"],
            vessel=row["vessel"],
            step=row["step"],
            at=datetime.fromisoformat(row["at"]),
            deviation=row["deviation"],
            note=row["note"],
            cure=row["cure"],
            through=row["through"],
        )
        for row in rows
    ]


def _save_facts(connection: sqlite3.Connection, run: StoredRun, facts: BathFacts) -> None:
    connection.execute(
        "UPDATE run SET void = ?, begun_at = ?, ended_at = ?, finished_at = ?, ready_at = ? WHERE id = ?",
        (
            int(not facts.begun),
            _stamp(facts.begun_at),
            _stamp(facts.ended_at),
            _stamp(facts.finished_at),
            _stamp(facts.ready_at),
            run.id,
        ),
    )


def _save_steps(connection: sqlite3.Connection, run_id: int, facts: BathFacts) -> None:
    connection.execute("DELETE FROM run_step WHERE run_id = ?", (run_id,))
    connection.executemany(
        "INSERT INTO run_step (run_id, key, title, begun_at, due_at, done_at, stir_every_min, "
        "iron_watch) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
        (
            (
                run_id,
                step.key,
                step.title,
                _stamp(step.begun_at),
                _stamp(step.due_at),
                _stamp(step.done_at),
                step.stir_every_min,
                int(step.iron_watch),
            )
            for step in facts.steps
            if step.begun_at or step.done_at
        ),
    )


def _save_who(connection: sqlite3.Connection, run: StoredRun, facts: BathFacts) -> set[int]:
    """Who is in it and who is expected; answers everybody for whom that may have changed."""
    before = {
        row["swatch_id"] for row in connection.execute("SELECT swatch_id FROM passage WHERE run_id = ?", (run.id,))
    }
    members = {
        row["swatch_id"] for row in connection.execute("SELECT swatch_id FROM run_member WHERE run_id = ?", (run.id,))
    }
    ids = swatch_ids(connection, facts.who.held)
    held = set(ids.values())
    connection.execute("UPDATE run_member SET held = 0 WHERE run_id = ?", (run.id,))
    connection.executemany(
        "UPDATE run_member SET held = 1 WHERE run_id = ? AND swatch_id = ?",
        ((run.id, swatch) for swatch in held & members),
    )
    connection.execute("DELETE FROM passage WHERE run_id = ?", (run.id,))
    connection.executemany(
        "INSERT INTO passage (run_id, swatch_id, in_at, out_at, ended, known, stray, seconds) "
        "VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
        (
            (
                run.id,
                ids[one.swatch],
                stamp(one.in_at),
                _stamp(one.out_at),
                int(one.ended),
                one.known,
                int(one.stray),
                one.seconds,
            )
            for one in facts.who.passages
        ),
    )
    connection.execute("DELETE FROM pause WHERE run_id = ?", (run.id,))
    connection.executemany(
        "INSERT INTO pause (run_id, swatch_id, kind, number, from_at, go_ended_at) VALUES (?, ?, ?, ?, ?, ?)",
        (
            (run.id, ids[one.swatch], one.kind, one.number, stamp(one.from_at), stamp(one.go_ended_at))
            for one in facts.pauses
        ),
    )
    return before | members | held


def _holds(connection: sqlite3.Connection, run_id: int) -> frozenset[int]:
    rows = connection.execute(
        "SELECT swatch_id FROM run_member WHERE run_id = ? AND held = 1 UNION "
        "SELECT swatch_id FROM passage WHERE run_id = ?",
        (run_id, run_id),
    )
    return frozenset(row["swatch_id"] for row in rows)


def _ended_in(connection: sqlite3.Connection, run_id: int) -> frozenset[tuple[int, str]]:
    """Who has this bath, or a pause of it, behind them, and since when."""
    rows = connection.execute(
        "SELECT swatch_id, out_at FROM passage WHERE run_id = ?1 AND ended = 1 "
        "UNION ALL SELECT swatch_id, from_at FROM pause WHERE run_id = ?1",
        (run_id,),
    )
    return frozenset((row["swatch_id"], row["out_at"]) for row in rows)


def _codes_in(connection: sqlite3.Connection, run_id: int) -> list[str]:
    rows = connection.execute(
        "SELECT code FROM swatch WHERE id IN (SELECT swatch_id FROM run_member WHERE run_id = ?1 "
        "AND held = 1 UNION SELECT swatch_id FROM passage WHERE run_id = ?1) ORDER BY serial",
        (run_id,),
    )
    return [row["code"] for row in rows]


def _ended(connection: sqlite3.Connection, study_id: int) -> dict[str, datetime]:
    rows = connection.execute(
        "SELECT name, ended_at FROM run WHERE study_id = ? AND void = 0 AND ended_at IS NOT NULL", (study_id,)
    )
    return {row["name"]: datetime.fromisoformat(row["ended_at"]) for row in rows}


def _stamp(moment: datetime | None) -> str | None:
    return stamp(moment) if moment else None
