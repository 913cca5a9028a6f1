"""The files of the demo and of the worked example, kept on the disk beside the photographs of the tests: made at first
use, and anew where the code that makes them has changed."""

import hashlib
from collections.abc import Callable
from pathlib import Path

from filelock import FileLock
from tests.conftest import stocked_file
from tests.photographs import FOLDER

import zesty_grid
from zesty_grid.demo.build import build_demo
from zesty_grid.demo.worked_example import make_worked_example
from zesty_grid.store.database import Database

KEPT = FOLDER.with_name("files")


def demo_file() -> Path:
    """The demo, a closed file that nobody may write to."""
    return _made_once("demo", lambda database: build_demo(database, lambda _: None))


def example_file() -> Path:
    """The worked example, likewise."""
    return _made_once("example", make_worked_example)


def _made_once(name: str, make: Callable[[Database], object]) -> Path:
    kept = KEPT / f"{name}-{_made_by()}.db"
    KEPT.mkdir(parents=True, exist_ok=True)
    with FileLock(KEPT / f"{name}.lock"):
        if not kept.exists():
            for older in KEPT.glob(f"{name}-*.db*"):
                older.unlink()
            unfinished = kept.with_suffix(".db-unfinished")
            unfinished.write_bytes(stocked_file())
            database = Database(unfinished)
            make(database)
            with database.connection() as connection:
                connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
            unfinished.replace(kept)
    return kept


def _made_by() -> str:
    """All code but what answers requests."""
    root = Path(zesty_grid.__path__[0])
    sources = [one for part in ("core", "store", "demo", "standins", "formats") for one in (root / part).rglob("*.py")]
    sources.append(root / "store" / "schema.sql")
    return hashlib.sha256(b"".join(one.read_bytes() for one in sorted(sources))).hexdigest()[:24]
