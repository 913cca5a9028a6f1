"""Saves all that can still be read from a damaged data file into a new one."""

import json
import sqlite3
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from zesty_grid.core.refusal import Refusal
from zesty_grid.store.database import Database, written_columns
from zesty_grid.store.file_in_use import settle_log
from zesty_grid.store.safekeeping import check
from zesty_grid.store.worked_again import work_out_again

FIRST_ROWS = 2**14


@dataclass
class Rescued:
    """Rows saved and rows lost, by table; `apart`: rows that lead to something lost."""

    file: str
    saved: dict[str, int] = field(default_factory=dict)
    lost: dict[str, int] = field(default_factory=dict)
    apart: dict[str, int] = field(default_factory=dict)
    faults: list[str] = field(default_factory=list)


def rescue(source: Path, target: Path) -> Rescued:
    """Writes every readable row of `source` to `target`, which must not exist yet.

    Rows that lead to something lost would break the application: they go to a file beside the
    target, a JSON object a line. Raises Refusal where even the list of tables cannot be read.
    """
    if target.exists():
        raise Refusal("file-exists", f"{target} exists already.", "Name a new file.")
    settle_log(source)
    damaged = sqlite3.connect(f"{source.absolute().as_uri()}?mode=ro", uri=True)
    damaged.row_factory = sqlite3.Row
    # A text of which a byte was lost is no reason to lose its row.
    damaged.text_factory = lambda data: data.decode(errors="replace")
    fresh = sqlite3.connect(target, isolation_level=None)
    try:
        schema = _schema_of(damaged)
        report = Rescued(str(target))
        fresh.execute("BEGIN")
        for table in (row for row in schema if row["type"] == "table"):
            fresh.execute(table["sql"])
            _copy_table(damaged, fresh, table["name"], report)
        for other in (row for row in schema if row["type"] != "table" and row["sql"]):
            if other["type"] != "trigger":
                fresh.execute(other["sql"])
        _set_apart(fresh, target, report)
        for trigger in (row for row in schema if row["type"] == "trigger"):
            fresh.execute(trigger["sql"])
        fresh.execute("COMMIT")
    finally:
        damaged.close()
        fresh.close()
    database = Database(target)  # brings an older file up to date
    with database.transaction() as connection:
        work_out_again(connection)
    report.faults = check(target)
    return report


def _schema_of(damaged: sqlite3.Connection) -> list[sqlite3.Row]:
    try:
        rows = damaged.execute(
            "SELECT type, name, sql FROM sqlite_schema WHERE name NOT LIKE 'sqlite_%' ORDER BY rowid"
        ).fetchall()
    except sqlite3.DatabaseError as error:
        raise Refusal(
            "beyond-rescue", "The list of what is in the file cannot be read.", "Restore the newest backup."
        ) from error
    if not any(row["name"] == "migration" for row in rows):
        raise Refusal("no-data-file", "This is no data file of Zesty Grid.", "Name another file.")
    return rows


def _copy_table(damaged: sqlite3.Connection, fresh: sqlite3.Connection, table: str, report: Rescued) -> None:
    columns = written_columns(damaged, table)
    put = f"INSERT INTO {table} (rowid, {', '.join(columns)}) VALUES (?, {', '.join('?' * len(columns))})"
    saved = lost = 0
    for row in _readable_rows(damaged, table):
        try:
            fresh.execute(put, tuple(row))
            saved += 1
        except sqlite3.Error:
            lost += 1  # not what the table may hold: its bytes were changed
    report.saved[table] = saved
    lost += _missing(damaged, table, saved + lost)
    if lost:
        report.lost[table] = lost


def _readable_rows(damaged: sqlite3.Connection, table: str) -> Iterator[sqlite3.Row]:
    """Where the ends of a table cannot be read, its rows are looked for in steps that double, as
    long as the last step found any."""
    try:
        ends = damaged.execute(f"SELECT min(rowid), max(rowid) FROM {table}").fetchone()
    except sqlite3.DatabaseError:
        low, high, found = 1, FIRST_ROWS, True
        while found:
            found = False
            for row in _rows_between(damaged, table, low, high):
                found = True
                yield row
            low, high = high + 1, 2 * high
        return
    if ends[0] is not None:
        yield from _rows_between(damaged, table, int(ends[0]), int(ends[1]))


def _rows_between(damaged: sqlite3.Connection, table: str, low: int, high: int) -> Iterator[sqlite3.Row]:
    """By halving: where a range of rows cannot be read, its two halves are tried."""
    columns = ", ".join(written_columns(damaged, table))
    ranges = [(low, high)]
    while ranges:
        low, high = ranges.pop()
        try:
            yield from damaged.execute(
                f"SELECT rowid, {columns} FROM {table} WHERE rowid BETWEEN ? AND ?", (low, high)
            ).fetchall()
        except (sqlite3.DatabaseError, OverflowError):
            if low < high:
                middle = (low + high) // 2
                ranges += [(middle + 1, high), (low, middle)]


def _missing(damaged: sqlite3.Connection, table: str, found: int) -> int:
    """How many rows an index still knows of that were not found; 0 where nothing can tell."""
    try:
        known = damaged.execute(f"SELECT count(*) FROM {table}").fetchone()[0]
    except sqlite3.DatabaseError:
        return 0
    return max(0, int(known) - found)


def _set_apart(fresh: sqlite3.Connection, target: Path, report: Rescued) -> None:
    """Takes out rows that refer to lost ones, until none is left, and writes them down."""
    apart = target.with_name(f"{target.name}.apart.jsonl")
    with apart.open("w", encoding="utf-8") as file:
        while dangling := fresh.execute("PRAGMA foreign_key_check").fetchall():
            for table, rowid in {(row[0], row[1]) for row in dangling}:
                row = fresh.execute(f"SELECT * FROM {table} WHERE rowid = ?", (rowid,))
                names = [column[0] for column in row.description]
                values = row.fetchone()
                file.write(json.dumps(_plain(table, dict(zip(names, values, strict=True)))) + "\n")
                fresh.execute(f"DELETE FROM {table} WHERE rowid = ?", (rowid,))
                report.apart[table] = report.apart.get(table, 0) + 1
    if not report.apart:
        apart.unlink()


def _plain(table: str, row: dict[str, Any]) -> dict[str, Any]:
    return {"table": table} | {name: value.hex() if isinstance(value, bytes) else value for name, value in row.items()}
