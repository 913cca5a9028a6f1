"""Signs what is written with the device from which it came."""

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar

_writing: ContextVar[int | None] = ContextVar("writing_device", default=None)


@contextmanager
def written_by(device_id: int | None) -> Iterator[None]:
    """What is written inside is signed with this device."""
    token = _writing.set(device_id)
    try:
        yield
    finally:
        _writing.reset(token)


def sign(connection: sqlite3.Connection, written: str, row_id: int | None) -> None:
    """Notes which device wrote a row; nothing for the computer itself."""
    device = _writing.get()
    if device is not None and row_id is not None:
        connection.execute(
            "INSERT OR IGNORE INTO signature (written, row_id, device_id) VALUES (?, ?, ?)", (written, row_id, device)
        )


def signed_entries(connection: sqlite3.Connection, study_id: int) -> dict[int, str]:
    """Which device wrote which entries of a study's log, by the entry's number; also in the file
    from which the study was taken."""
    rows = connection.execute(
        "SELECT signature.row_id, device.name FROM bench_entry "
        "JOIN signature ON signature.row_id = bench_entry.id AND written = 'bench_entry' "
        "JOIN device ON device.id = signature.device_id WHERE bench_entry.study_id = ?1 UNION ALL "
        "SELECT row_id, device FROM bench_entry JOIN brought_signature "
        "ON row_id = bench_entry.id AND written = 'bench_entry' WHERE bench_entry.study_id = ?1",
        (study_id,),
    )
    return {row["row_id"]: row["name"] for row in rows}
