"""A file of every version that ever landed opens, with its tables those of a new file, and all that was dyed and
read in place; beside it stands what its own version showed of it."""

import gzip
import json
import sqlite3
from contextlib import closing
from datetime import datetime, timedelta
from pathlib import Path

import pytest
from tests.store.landed_file import FOLDER, shown

from zesty_grid.store.database import Database
from zesty_grid.store.opening import open_data
from zesty_grid.store.safekeeping import check

VERSIONS = sorted(path.name.removesuffix(".db.gz") for path in FOLDER.glob("*.db.gz"))


@pytest.fixture(scope="module", params=VERSIONS)
def landed(request, tmp_path_factory) -> tuple[str, Database]:
    path = tmp_path_factory.mktemp("landed") / "grid.db"
    path.write_bytes(gzip.decompress((FOLDER / f"{request.param}.db.gz").read_bytes()))
    return request.param, Database(path)


def tables_of(connection: sqlite3.Connection) -> dict[str, object]:
    """Every table with its columns, every index and trigger by its words."""
    made = connection.execute("SELECT type, name, sql FROM sqlite_schema WHERE sql IS NOT NULL").fetchall()
    return {
        name: sorted(tuple(column)[1:] for column in connection.execute(f"PRAGMA table_xinfo({name})").fetchall())
        if kind == "table"
        else " ".join(sql.split())
        for kind, name, sql in map(tuple, made)
    }


def test_its_tables_are_those_of_a_new_file(landed, tmp_path):
    with landed[1].connection() as old, Database(tmp_path / "new.db").connection() as new:
        assert tables_of(old) == tables_of(new)


def test_the_file_is_sound_and_opens_again_as_it_is(landed):
    path = landed[1].path
    assert check(path) == []
    before = path.stat().st_mtime_ns
    Database(path)
    assert path.stat().st_mtime_ns == before


def test_all_that_was_dyed_and_read_is_as_it_was_shown(landed):
    name, database = landed
    assert json.loads(json.dumps(shown(database))) == json.loads(Path(FOLDER / f"{name}.json").read_text())


def test_what_follows_from_its_record_is_worked_out_when_it_is_brought_up_to_date(tmp_path):
    """A state between, which the version that wrote the file did not know."""
    path = tmp_path / "grid.db"
    path.write_bytes(gzip.decompress((FOLDER / "version_13.db.gz").read_bytes()))
    with closing(sqlite3.connect(path)) as connection, connection:
        study, name, begun_at = connection.execute(
            "SELECT study_id, name, begun_at FROM run WHERE stage = 'dye:0' LIMIT 1"
        ).fetchone()
        # Its pieces were in from an hour after the bath had begun until two hours after it.
        middle = (datetime.fromisoformat(begun_at) + timedelta(minutes=90)).isoformat(timespec="milliseconds")
        document = json.dumps({"temperature_c": 80})
        connection.execute(
            "INSERT INTO bench_entry (study_id, key, vessel, step, kind, at, entered_at, received_at, document) "
            "VALUES (?1, 'heated-again', ?2, '', 'reheat', ?4, ?4, ?4, ?3)",
            (study, name, document, middle),
        )
    database = open_data(path)
    with database.connection() as connection:
        kinds = {row["kind"] for row in connection.execute("SELECT kind FROM pause")}
    assert kinds == {"heating"}
    assert check(path) == []
