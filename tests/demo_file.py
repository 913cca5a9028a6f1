"""The demo's file, kept on the disk beside the photographs of the tests: made at first use, and anew where the code
that makes it has changed."""

import hashlib
from pathlib import Path

from filelock import FileLock
from tests.conftest import stocked_file
from tests.photographs import FOLDER

import zesty_grid
from zesty_grid.demo.build import build_demo
from zesty_grid.store.database import Database

DEMOS = FOLDER.with_name("demos")


def demo_file() -> Path:
    """A closed file that nobody may write to."""
    kept = DEMOS / f"{_made_by()}.db"
    DEMOS.mkdir(parents=True, exist_ok=True)
    with FileLock(DEMOS / "being-made.lock"):
        if not kept.exists():
            for older in DEMOS.glob("*.db*"):
                older.unlink()
            unfinished = kept.with_suffix(".db-unfinished")
            unfinished.write_bytes(stocked_file())
            database = Database(unfinished)
            build_demo(database, lambda _: None)
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
