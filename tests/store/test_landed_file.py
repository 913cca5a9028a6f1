"""A file of every version that ever landed opens, with its tables those of a new file, and all that was dyed and
read in place; beside it stands what its own version showed of it."""

import gzip
import json
import sqlite3
from pathlib import Path

import pytest
from tests.store.landed_file import FOLDER, shown

from zesty_grid.store.database import Database
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
