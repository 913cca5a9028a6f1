"""The baths that swatches have behind them, and so the states that they are in."""

import json
import sqlite3
from collections.abc import Iterable
from datetime import datetime

from zesty_grid.core.plan.bath import stage_order
from zesty_grid.core.record.passages import Passage
from zesty_grid.core.record.ready import Rest
from zesty_grid.core.record.states import EndedBath, state_between

# A further treatment comes after all that is crossed.
LAST = 10_000


def ended_baths(connection: sqlite3.Connection, swatch_ids: Iterable[int]) -> dict[str, list[EndedBath]]:
    """By swatch code, in the order in which they ended; pauses of a bath among them."""
    wanted = json.dumps(sorted(set(swatch_ids)))
    found: dict[str, list[EndedBath]] = {}
    rows = connection.execute(
        "SELECT swatch.code, passage.run_id, passage.out_at, run.stage FROM passage "
        "JOIN run ON run.id = passage.run_id JOIN swatch ON swatch.id = passage.swatch_id "
        "WHERE passage.swatch_id IN (SELECT value FROM json_each(?)) AND passage.ended = 1 AND run.void = 0",
        (wanted,),
    )
    for row in rows:
        found.setdefault(row["code"], []).append(ended_bath(row["run_id"], row["out_at"], row["stage"]))
    between = connection.execute(
        "SELECT swatch.code, pause.*, run.stage FROM pause JOIN run ON run.id = pause.run_id "
        "JOIN swatch ON swatch.id = pause.swatch_id "
        "WHERE pause.swatch_id IN (SELECT value FROM json_each(?)) AND run.void = 0",
        (wanted,),
    )
    for row in between:
        state = state_between(row["run_id"], row["kind"], row["number"])
        found.setdefault(row["code"], []).append(ended_bath(state, row["from_at"], row["stage"]))
    return {code: sorted(baths, key=lambda bath: bath.order) for code, baths in found.items()}


def ended_bath(run: int, out_at: str, stage: str) -> EndedBath:
    place = stage_order(stage)
    return EndedBath(run=run, out_at=datetime.fromisoformat(out_at), place=LAST if place is None else place)


def ended_baths_of_study(connection: sqlite3.Connection, study_id: int) -> dict[str, list[EndedBath]]:
    rows = connection.execute("SELECT swatch_id FROM study_swatch WHERE study_id = ?", (study_id,))
    return ended_baths(connection, (row["swatch_id"] for row in rows))


def passages_of_study(connection: sqlite3.Connection, study_id: int) -> list[Passage]:
    """Who really was in each bath of a study that has begun."""
    rows = connection.execute(
        "SELECT swatch.code, run.name, passage.* FROM passage JOIN run ON run.id = passage.run_id "
        "JOIN swatch ON swatch.id = passage.swatch_id WHERE run.study_id = ? AND run.void = 0 "
        "ORDER BY run.id, passage.in_at, swatch.serial",
        (study_id,),
    )
    return [_passage(row) for row in rows]


def passages_of_swatch(connection: sqlite3.Connection, swatch_id: int) -> dict[int, Passage]:
    """By the number of the bath, of whatever study."""
    rows = connection.execute(
        "SELECT swatch.code, run.name, passage.* FROM passage JOIN run ON run.id = passage.run_id "
        "JOIN swatch ON swatch.id = passage.swatch_id "
        "WHERE passage.swatch_id = ? AND run.void = 0 ORDER BY passage.in_at",
        (swatch_id,),
    )
    return {row["run_id"]: _passage(row) for row in rows}


def pause_ended_at(connection: sqlite3.Connection, swatch_id: int, state: int) -> datetime | None:
    """Until when its bath had worked on a swatch in a state between; None in any other state."""
    rows = connection.execute("SELECT run_id, kind, number, go_ended_at FROM pause WHERE swatch_id = ?", (swatch_id,))
    for row in rows:
        if state_between(row["run_id"], row["kind"], row["number"]) == state:
            return datetime.fromisoformat(row["go_ended_at"])
    return None


def rests(connection: sqlite3.Connection, swatch_ids: Iterable[int]) -> dict[str, Rest]:
    """Whether swatches are in work, and when they have dried and rested, by code."""
    found = {}
    for swatch in sorted(set(swatch_ids)):
        row = connection.execute("SELECT code, in_work, ready_at FROM swatch WHERE id = ?", (swatch,)).fetchone()
        ready = datetime.fromisoformat(row["ready_at"]) if row["ready_at"] else None
        found[row["code"]] = Rest(in_work=bool(row["in_work"]), ready_at=ready)
    return found


def _passage(row: sqlite3.Row) -> Passage:
    # There are thousands, and the table holds nothing else.
    return Passage.model_construct(
        swatch=row["code"],
        vessel=row["name"],
        in_at=datetime.fromisoformat(row["in_at"]),
        out_at=datetime.fromisoformat(row["out_at"]) if row["out_at"] else None,
        ended=bool(row["ended"]),
        known=row["known"],
        stray=bool(row["stray"]),
        seconds=row["seconds"],
    )
