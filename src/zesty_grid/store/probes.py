"""Which probe hangs in which bath, and what it read there."""

import sqlite3
from datetime import UTC, datetime
from typing import NamedTuple

from zesty_grid.core.dye.watching import BathReading


class Hung(NamedTuple):
    probe: str
    study: int
    vessel: str


def hung_probes(connection: sqlite3.Connection) -> list[Hung]:
    """Where each probe hangs by the newest entry about it, if it was not taken out."""
    rows = connection.execute(
        "SELECT study_id, vessel, probe, max(id) FROM bench_entry WHERE kind = 'probe' GROUP BY probe"
    )
    return [Hung(row["probe"], row["study_id"], row["vessel"]) for row in rows if row["vessel"]]


def add_reading(connection: sqlite3.Connection, hung: Hung, reading: BathReading) -> None:
    connection.execute(
        "INSERT INTO probe_reading (study_id, vessel, probe, at, temperature_c, ph) VALUES (?, ?, ?, ?, ?, ?)",
        (
            hung.study,
            hung.vessel,
            hung.probe,
            reading.at.astimezone(UTC).isoformat(timespec="milliseconds"),
            reading.temperature_c,
            reading.ph,
        ),
    )


def list_readings(connection: sqlite3.Connection, study_id: int, vessel: str, since: datetime) -> list[BathReading]:
    rows = connection.execute(
        "SELECT at, temperature_c, ph, probe FROM probe_reading WHERE study_id = ? AND vessel = ? "
        "AND at >= ? ORDER BY at",
        (study_id, vessel, since.astimezone(UTC).isoformat(timespec="milliseconds")),
    )
    return [BathReading.model_validate(dict(row)) for row in rows]
