"""The rows and files of a study package: the plan and the record of some studies."""

import json
import sqlite3
from collections.abc import Iterable, Iterator
from typing import Any, get_args

from zesty_grid.core.plan.factors import FactorKind
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.packages.answers import cells_of, effects_of, factors_of
from zesty_grid.store.packages.codes import with_codes, with_logs
from zesty_grid.store.packages.held import HELD
from zesty_grid.store.packages.held_table import Held, HeldTable
from zesty_grid.store.packages.names import Names, light_name, names_of
from zesty_grid.store.plan import list_study_ids
from zesty_grid.store.relatives import studies_after, studies_before

ENDINGS = {b"\xff\xd8\xff": "jpg", b"\x89PNG": "png", b"RIFF": "webp", b"II*\0": "tif", b"MM\0*": "tif"}
Row = dict[str, Any]
Rows = list[Row]
NUMBERED_TABLES = ("protocols", "day_plans", "trial_entries", "reading_choices", "probe_readings", "cloth_readings")


def packed_rows(connection: sqlite3.Connection, study_ids: Iterable[int]) -> tuple[dict[str, Rows], list[str]]:
    """The rows of each table, and the factors that the swatches have a column for."""
    ids = list(study_ids)
    rows = recorded_rows(connection, ids)
    kinds: set[str] = set()
    rows |= {"factors": [], "cells": [], "effects": []}
    for study_id in ids:
        factors = factors_of(connection, study_id)
        kinds |= {row["factor"] for row in factors}
        rows["factors"] += factors
        rows["effects"] += effects_of(connection, study_id)
    for row in rows["swatches"]:
        planned = json.loads(row.pop("levels"))
        true = row.pop("true_levels")
        got = json.loads(true) if true else planned
        row |= {
            "cell": ";".join(f"{kind}={level}" for kind, level in planned.items()),
            "misplaced": true is not None,
            **got,
        }
        kinds |= got.keys()
    rows["cells"] = cells_of(rows["swatches"])
    rows["shelf"] = [
        dict(row)
        for row in connection.execute("SELECT kind, key, name, document FROM shelf_item ORDER BY kind, position, key")
    ]
    return rows, [kind for kind in get_args(FactorKind) if kind in kinds]


def recorded_rows(connection: sqlite3.Connection, study_ids: Iterable[int]) -> dict[str, Rows]:
    """The rows of all tables that stand in the file."""
    ids = list(study_ids)
    names = names_of(connection, ids)
    rows: dict[str, Rows] = {
        table.name: [row for one in ids for row in _rows(connection, table, one, names)] for table in HELD
    }
    rows["cloth_readings"] += _typed_cloths(connection, names)
    rows["lights"] = _lights(connection, {row["light"] for row in rows["photos"]})
    for one in ids:
        rows["photos"] += _pictures_in_log(connection, one, names)
    for row in rows["photos"]:
        row["path"] = _path_of_photo(connection, row["photo"])
    for name in NUMBERED_TABLES:
        _number(rows[name])
    return rows


def packed_files(connection: sqlite3.Connection, study_ids: Iterable[int]) -> Iterator[tuple[str, bytes]]:
    """Calibrations and photographs, one at a time, with their paths; each photo once."""
    ids = list(study_ids)
    names = names_of(connection, ids)
    for number, path in sorted(names.numbers("measurement").items()):
        document = connection.execute("SELECT document FROM measurement WHERE id = ?", (number,)).fetchone()["document"]
        yield path, f"{document}\n".encode()
    seen = set()
    for study_id in ids:
        for row in connection.execute(
            "SELECT sha256 FROM photo WHERE study_id = ?1 UNION SELECT photo "
            "FROM bench_entry WHERE study_id = ?1 AND photo IS NOT NULL "
            "ORDER BY 1",
            (study_id,),
        ).fetchall():
            found = connection.execute("SELECT bytes FROM photo_file WHERE sha256 = ?", (row["sha256"],)).fetchone()
            if found is not None and row["sha256"] not in seen:
                seen.add(row["sha256"])
                yield _photo_path(row["sha256"], found["bytes"][:4]), found["bytes"]


def studies_named(connection: sqlite3.Connection, names: Iterable[str]) -> list[int]:
    """Studies by number, name or identity, with those that share swatches with them; all on the
    list where nothing is named. Raises Refusal for one that is not there, or a name that two of
    them have."""
    wanted = list(names)
    start = [_one_named(connection, name) for name in wanted] or list_study_ids(connection)
    found, ahead = set(start), list(start)
    while ahead:
        one = ahead.pop()
        near = {*studies_before(connection, one), *studies_after(connection, one)} - found
        found |= near
        ahead += near
    return sorted(found)


def _one_named(connection: sqlite3.Connection, name: str) -> int:
    found = connection.execute(
        "SELECT id FROM study WHERE deleted_at IS NULL AND (CAST(id AS TEXT) = ?1 OR name = ?1 OR uid = ?1)", (name,)
    ).fetchall()
    if len(found) == 1:
        return int(found[0]["id"])
    if found:
        raise Refusal("two-studies", f"{len(found)} studies are called “{name}”.", "Name it by its number.")
    raise Refusal("no-study", f"There is no study “{name}”.", "Name it by its number.")


def _rows(connection: sqlite3.Connection, table: HeldTable, study_id: int, names: Names) -> Iterator[Row]:
    columns = ", ".join(f'{held.expression} AS "{held.column}"' for held in table.columns)
    found = connection.execute(
        f"SELECT {columns} FROM {table.as_rows or table.stored} {table.joins} "
        f"WHERE {table.where} ORDER BY {table.order}",
        (study_id,),
    )
    for row in found:
        yield {held.column: _told(held, row[held.column], names) for held in table.columns}


def _told(held: Held, value: Any, names: Names) -> Any:
    if value is None or held.kind in ("plain", "json"):
        return value
    if held.kind == "codes":
        return json.dumps(with_codes(json.loads(value), names.codes), ensure_ascii=False)
    if held.kind == "entry_document":
        document = json.loads(value)
        document.pop("about", None)  # stands in a column of its own, by its key
        return json.dumps(with_codes(document, names.codes), ensure_ascii=False)
    if held.kind == "trial_entry_document":
        return json.dumps(with_logs(json.loads(value), names.numbers("log")), ensure_ascii=False)
    if held.kind == "swatch" and isinstance(value, str):
        return names.codes[value]
    return names.of(held.kind, value)


def _typed_cloths(connection: sqlite3.Connection, names: Names) -> Iterator[Row]:
    """Colours of cloths on the Shelf that belong to no study."""
    table = next(one for one in HELD if one.name == "cloth_readings")
    typed = table._replace(where="source = 'typed' AND ?1 IS NOT NULL")
    return _rows(connection, typed, 0, names)


def _lights(connection: sqlite3.Connection, wanted: set[str | None]) -> Rows:
    rows = [
        {"light": light_name(row["camera"], row["response"]), "camera": row["camera"], "response": row["response"]}
        for row in connection.execute("SELECT camera, response FROM capture ORDER BY id")
    ]
    return list({row["light"]: row for row in rows if row["light"] in wanted}.values())


def _pictures_in_log(connection: sqlite3.Connection, study_id: int, names: Names) -> Rows:
    found = connection.execute(
        "SELECT photo, min(received_at) AS uploaded_at FROM bench_entry "
        "WHERE study_id = ?1 AND photo IS NOT NULL AND photo "
        "NOT IN (SELECT sha256 FROM photo WHERE study_id = ?1) GROUP BY 1 ORDER BY 2, 1",
        (study_id,),
    )
    return [dict(row) | {"study": names.of("study", study_id), "filename": "", "camera": ""} for row in found]


def _number(rows: Rows) -> None:
    """Numbers in the order of writing, from 1 for each thing that the rows are about."""
    seen: dict[str, int] = {}
    for row in rows:
        about = row.get("study") or row.get("trial") or row.get("reading") or ""
        seen[about] = row["number"] = seen.get(about, 0) + 1


def _path_of_photo(connection: sqlite3.Connection, digest: str) -> str:
    row = connection.execute(
        "SELECT substr(bytes, 1, 4) AS start FROM photo_file WHERE sha256 = ?", (digest,)
    ).fetchone()
    return _photo_path(digest, row["start"] if row else b"")


def _photo_path(digest: str, start: bytes) -> str:
    ending = next((name for sign, name in ENDINGS.items() if start.startswith(sign)), "bin")
    return f"photos/{digest}.{ending}"
