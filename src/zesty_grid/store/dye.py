"""The bench log, and how a study is worked."""

import json
import sqlite3
from collections.abc import Collection
from datetime import UTC, datetime

from zesty_grid.core.dye.protocol import Protocol
from zesty_grid.core.record.entry import BenchEntry, NewBenchEntry, true_times
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.database import now, stamp
from zesty_grid.store.plan import NotFound
from zesty_grid.store.signing import sign

OWN_COLUMNS = {"vessel", "step", "kind", "who", "key", "at", "entered_at", "sent_at", "replaces", "sure"}
ENTRY_COLUMNS = "id, key, vessel, step, kind, at, entered_at, received_at, who, replaces, document"
STANDS = "kind <> 'struck' AND NOT EXISTS (SELECT 1 FROM bench_entry AS over WHERE over.replaces = bench_entry.id)"


def list_entries(connection: sqlite3.Connection, study_id: int) -> list[BenchEntry]:
    """Every entry in the order of arrival, those that were corrected since among them."""
    rows = connection.execute(f"SELECT {ENTRY_COLUMNS} FROM bench_entry WHERE study_id = ? ORDER BY id", (study_id,))
    return [_entry(row) for row in rows]


def standing_entries(
    connection: sqlite3.Connection, study_id: int, vessel: str | None = None, kinds: Collection[str] = ()
) -> list[BenchEntry]:
    """What of the log was not corrected or struck out, in the order of its true times; of one
    vessel (who was not in it, as was said later, included), or of some kinds only, where asked."""
    narrowed = ""
    values: list[object] = [study_id]
    if vessel is not None:
        narrowed = " AND (vessel = ? OR kind = 'placed' AND document ->> '$.instead_of' = ?)"
        values = [*values, vessel, vessel]
    if kinds:
        narrowed += f" AND kind IN ({','.join('?' * len(kinds))})"
        values = [*values, *kinds]
    rows = connection.execute(
        f"SELECT {ENTRY_COLUMNS} FROM bench_entry WHERE study_id = ? AND {STANDS}{narrowed} ORDER BY at, id", values
    )
    return [_entry(row) for row in rows]


def known_entry(connection: sqlite3.Connection, key: str | None) -> BenchEntry | None:
    """The entry that a device sent before under this key."""
    row = connection.execute(f"SELECT {ENTRY_COLUMNS} FROM bench_entry WHERE key = ?", (key,)).fetchone()
    return _entry(row) if row else None


def load_entry(connection: sqlite3.Connection, study_id: int, entry_id: int) -> BenchEntry:
    row = connection.execute(
        f"SELECT {ENTRY_COLUMNS} FROM bench_entry WHERE id = ? AND study_id = ?", (entry_id, study_id)
    ).fetchone()
    if row is None:
        raise NotFound("entry")
    return _entry(row)


def add_entry(
    connection: sqlite3.Connection, study_id: int, entry: NewBenchEntry, received_at: datetime | None = None
) -> BenchEntry:
    """Keeps an entry once: one that was sent before is answered with what is there.

    Raises Refusal where it corrects an entry that has been corrected already.
    """
    known = known_entry(connection, entry.key)
    if known:
        return known
    corrects = _corrected(connection, study_id, entry.replaces)
    received = received_at or datetime.now(UTC)
    times = true_times(entry, received, corrects.at if corrects else None)
    cursor = connection.execute(
        "INSERT INTO bench_entry (study_id, key, vessel, step, kind, at, entered_at, received_at, "
        "who, replaces, document) "
        "VALUES (?, coalesce(?, 'here-' || lower(hex(randomblob(12)))), ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        (
            study_id,
            entry.key,
            entry.vessel,
            entry.step,
            entry.kind,
            stamp(times.at),
            stamp(times.entered_at),
            stamp(received),
            entry.who,
            entry.replaces,
            entry.model_dump_json(exclude=OWN_COLUMNS, exclude_defaults=True),
        ),
    )
    sign(connection, "bench_entry", cursor.lastrowid)
    row = connection.execute(f"SELECT {ENTRY_COLUMNS} FROM bench_entry WHERE id = ?", (cursor.lastrowid,))
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
    connection.execute("INSERT INTO photo_file (sha256, bytes) VALUES (?, ?) ON CONFLICT DO NOTHING", (digest, data))


def load_photo(connection: sqlite3.Connection, study_id: int, digest: str) -> bytes:
    """A picture that an entry of this study shows."""
    row = connection.execute(
        "SELECT bytes FROM photo_file WHERE sha256 = ? AND EXISTS (SELECT 1 FROM bench_entry "
        "WHERE study_id = ? AND photo = sha256)",
        (digest, study_id),
    ).fetchone()
    if row is None:
        raise NotFound("picture")
    return bytes(row["bytes"])


def _corrected(connection: sqlite3.Connection, study_id: int, replaces: int | None) -> BenchEntry | None:
    """The entry that is corrected; it may be corrected once only."""
    if replaces is None:
        return None
    old = load_entry(connection, study_id, replaces)
    over = connection.execute("SELECT 1 FROM bench_entry WHERE replaces = ?", (replaces,)).fetchone()
    if over:
        raise Refusal(
            "corrected-already", "This entry has been corrected already.", "Look at the newer one, and correct that."
        )
    return old


def _entry(row: sqlite3.Row) -> BenchEntry:
    columns = {name: row[name] for name in row.keys() if name != "document"}  # noqa: SIM118
    return BenchEntry.model_validate(columns | json.loads(row["document"]))
