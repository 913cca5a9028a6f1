"""The bench log."""

import sqlite3

from zesty_grid.core.dye.bench_entry import BenchEntry, NewBenchEntry
from zesty_grid.store.database import now


def list_entries(connection: sqlite3.Connection, study_id: int) -> list[BenchEntry]:
    rows = connection.execute(
        "SELECT id, vessel, step, kind, at, temperature_c, ph, note FROM bench_entry "
        "WHERE study_id = ? ORDER BY id",
        (study_id,),
    )
    return [BenchEntry(**dict(row)) for row in rows]


def add_entry(
    connection: sqlite3.Connection, study_id: int, entry: NewBenchEntry, at: str | None = None
) -> None:
    connection.execute(
        "INSERT INTO bench_entry (study_id, vessel, step, kind, at, temperature_c, ph, note) "
        "VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
        (study_id, entry.vessel, entry.step, entry.kind, at or now(), entry.temperature_c,
         entry.ph, entry.note),
    )  # fmt: skip
