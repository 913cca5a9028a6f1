"""The bench log, how a study is worked, its day plans, and what probes read."""

import json
import sqlite3
from datetime import UTC, datetime

from zesty_grid.core.dye.bench_entry import BenchEntry, NewBenchEntry, true_time
from zesty_grid.core.dye.protocol import Protocol
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.database import now
from zesty_grid.store.plan import NotFound

OWN_COLUMNS = {"vessel", "step", "kind", "who", "key", "at", "sent_at", "replaces"}
ENTRY_COLUMNS = "id, key, vessel, step, kind, at, received_at, who, replaces, document"


def list_entries(connection: sqlite3.Connection, study_id: int) -> list[BenchEntry]:
    """Every entry in the order of arrival, those that were corrected since among them."""
    rows = connection.execute(
        f"SELECT {ENTRY_COLUMNS} FROM bench_entry WHERE study_id = ? ORDER BY id", (study_id,)
    )
    return [_entry(row) for row in rows]


def newest_entry(connection: sqlite3.Connection) -> int:
    """The number of the newest entry of all studies; 0 where there is none."""
    return int(connection.execute("SELECT coalesce(max(id), 0) FROM bench_entry").fetchone()[0])


def add_entry(
    connection: sqlite3.Connection, study_id: int, entry: NewBenchEntry,
    received_at: datetime | None = None,
) -> BenchEntry:  # fmt: skip
    """Keeps an entry once: one that was sent before is answered with what is there.

    Raises Refusal where it corrects an entry that has been corrected already.
    """
    known = connection.execute(
        f"SELECT {ENTRY_COLUMNS} FROM bench_entry WHERE key = ?", (entry.key,)
    ).fetchone()
    if known:
        return _entry(known)
    _check_correction(connection, study_id, entry.replaces)
    received = received_at or datetime.now(UTC)
    at = true_time(entry, received)
    cursor = connection.execute(
        "INSERT INTO bench_entry (study_id, key, vessel, step, kind, at, received_at, who, "
        "replaces, document) VALUES (?, coalesce(?, 'here-' || lower(hex(randomblob(12)))), "
        "?, ?, ?, ?, ?, ?, ?, ?)",
        (study_id, entry.key, entry.vessel, entry.step, entry.kind, _stamp(at), _stamp(received),
         entry.who, entry.replaces,
         entry.model_dump_json(exclude=OWN_COLUMNS, exclude_defaults=True)),
    )  # fmt: skip
    row = connection.execute(
        f"SELECT {ENTRY_COLUMNS} FROM bench_entry WHERE id = ?", (cursor.lastrowid,)
    )
    return _entry(row.fetchone())


def load_protocol(connection: sqlite3.Connection, study_id: int) -> Protocol:
    row = connection.execute(
        "SELECT document FROM protocol WHERE study_id = ? ORDER BY id DESC LIMIT 1", (study_id,)
    ).fetchone()
    return Protocol.model_validate_json(row["document"]) if row else Protocol()


def save_protocol(connection: sqlite3.Connection, study_id: int, protocol: Protocol) -> None:
    connection.execute(
        "INSERT INTO protocol (study_id, document, changed_at) VALUES (?, ?, ?)",
        (study_id, protocol.model_dump_json(), now()),
    )


def add_photo(connection: sqlite3.Connection, digest: str, data: bytes) -> None:
    connection.execute(
        "INSERT INTO photo_file (sha256, bytes) VALUES (?, ?) ON CONFLICT DO NOTHING",
        (digest, data),
    )


def load_photo(connection: sqlite3.Connection, study_id: int, digest: str) -> bytes:
    """A picture that an entry of this study shows."""
    row = connection.execute(
        "SELECT bytes FROM photo_file WHERE sha256 = ? AND EXISTS (SELECT 1 FROM bench_entry "
        "WHERE study_id = ? AND document ->> 'photo' = sha256)", (digest, study_id),
    ).fetchone()  # fmt: skip
    if row is None:
        raise NotFound("picture")
    return bytes(row["bytes"])


def _check_correction(
    connection: sqlite3.Connection, study_id: int, replaces: int | None
) -> None:  # fmt: skip
    if replaces is None:
        return
    old = connection.execute(
        "SELECT 1 FROM bench_entry WHERE id = ? AND study_id = ?", (replaces, study_id)
    ).fetchone()
    if old is None:
        raise NotFound("entry")
    over = connection.execute(
        "SELECT 1 FROM bench_entry WHERE replaces = ?", (replaces,)
    ).fetchone()
    if over:
        raise Refusal("corrected-already", "This entry has been corrected already.",
                      "Look at the newer one, and correct that.")  # fmt: skip


def _stamp(moment: datetime) -> str:
    return moment.astimezone(UTC).isoformat(timespec="milliseconds")


def _entry(row: sqlite3.Row) -> BenchEntry:
    columns = {name: row[name] for name in row.keys() if name != "document"}  # noqa: SIM118
    return BenchEntry.model_validate(columns | json.loads(row["document"]))
