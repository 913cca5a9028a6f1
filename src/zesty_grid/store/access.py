"""Access codes and the devices that came in with them."""

import sqlite3
from datetime import UTC, datetime, timedelta
from typing import NamedTuple

from argon2 import PasswordHasher
from argon2.exceptions import Argon2Error, InvalidHashError

from zesty_grid.core.record.access import CodeKind, as_typed, hash_of_secret, new_code, new_secret
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.database import now

SEEN_EVERY = timedelta(minutes=10)
_hasher = PasswordHasher()


class Device(NamedTuple):
    """`kind` is that of the code with which it came in."""

    id: int
    name: str
    kind: CodeKind
    came_in_at: str
    seen_at: str


def make_code(connection: sqlite3.Connection, kind: CodeKind, staying: Device | None = None) -> str:
    """A new code in place of the one of this kind, of which the devices have to enter again, but
    for the one that is `staying`. It is answered once; the file keeps only its argon2 hash."""
    revoke_code(connection, kind, staying)
    code = new_code()
    made = connection.execute(
        "INSERT INTO access_code (kind, hash, made_at) VALUES (?, ?, ?)", (kind, _hasher.hash(code), now())
    )
    if staying is not None and staying.kind == kind:
        connection.execute("UPDATE device SET code_id = ? WHERE id = ?", (made.lastrowid, staying.id))
    return code


def revoke_code(connection: sqlite3.Connection, kind: CodeKind, staying: Device | None = None) -> None:
    """Nobody comes in with it any more, and who came in with it is out."""
    moment = now()
    connection.execute(
        "UPDATE device SET revoked_at = ? WHERE revoked_at IS NULL AND id IS NOT ? AND code_id IN "
        "(SELECT id FROM access_code WHERE kind = ?)",
        (moment, staying.id if staying else None, kind),
    )
    connection.execute("UPDATE access_code SET revoked_at = ? WHERE kind = ? AND revoked_at IS NULL", (moment, kind))


def codes_in_force(connection: sqlite3.Connection) -> dict[CodeKind, datetime]:
    """When each was made."""
    rows = connection.execute("SELECT kind, made_at FROM access_code WHERE revoked_at IS NULL")
    return {row["kind"]: datetime.fromisoformat(row["made_at"]) for row in rows}


def code_that_fits(connection: sqlite3.Connection, typed: str) -> int | None:
    """The row of the code in force that was typed."""
    rows = connection.execute("SELECT id, hash FROM access_code WHERE revoked_at IS NULL ORDER BY id")
    for row in rows.fetchall():
        try:
            if _hasher.verify(row["hash"], as_typed(typed)):
                return int(row["id"])
        except (Argon2Error, InvalidHashError):
            continue
    return None


def let_in(connection: sqlite3.Connection, code_id: int, name: str) -> str:
    """A device that typed a code; answers the secret for its cookie."""
    secret, moment = new_secret(), now()
    connection.execute(
        "INSERT INTO device (code_id, secret_hash, name, came_in_at, seen_at) VALUES (?, ?, ?, ?, ?)",
        (code_id, hash_of_secret(secret), name, moment, moment),
    )
    return secret


def device_with(connection: sqlite3.Connection, secret: str) -> Device | None:
    row = connection.execute(
        "SELECT device.id, name, kind, came_in_at, seen_at FROM device "
        "JOIN access_code ON access_code.id = device.code_id WHERE secret_hash = ? "
        "AND device.revoked_at IS NULL AND access_code.revoked_at IS NULL",
        (hash_of_secret(secret),),
    ).fetchone()
    return Device(*row) if row else None


def is_long_unseen(device: Device) -> bool:
    return datetime.now(UTC) - datetime.fromisoformat(device.seen_at) > SEEN_EVERY


def note_seen(connection: sqlite3.Connection, device: Device) -> None:
    connection.execute("UPDATE device SET seen_at = ? WHERE id = ?", (now(), device.id))


def list_devices(connection: sqlite3.Connection) -> list[Device]:
    """Those that may come in, newest first."""
    rows = connection.execute(
        "SELECT device.id, name, kind, came_in_at, seen_at FROM device "
        "JOIN access_code ON access_code.id = device.code_id "
        "WHERE device.revoked_at IS NULL AND access_code.revoked_at IS NULL "
        "ORDER BY device.id DESC"
    )
    return [Device(*row) for row in rows]


def revoke_device(connection: sqlite3.Connection, device_id: int) -> None:
    """Raises Refusal for one that is not there."""
    done = connection.execute(
        "UPDATE device SET revoked_at = ? WHERE id = ? AND revoked_at IS NULL", (now(), device_id)
    )
    if done.rowcount == 0:
        raise Refusal("no-device", "There is no such device.", "Look at the list again.")
