"""What a data file shows of its record, as plain JSON; and the file of this version, kept for ever.

`python -m tests.store.landed_file` writes a file of a version that has just landed.
"""

import gzip
import json
import sqlite3
import tempfile
from contextlib import closing
from pathlib import Path
from typing import Any

from starlette.testclient import TestClient
from tests.conftest import ADDRESS, stocked_file
from tests.store.rich_study import rich_study

from zesty_grid.api.application import create_application
from zesty_grid.store.database import Database, newest_version
from zesty_grid.store.dye import list_entries
from zesty_grid.store.fade import list_points
from zesty_grid.store.plan import list_study_ids, list_versions
from zesty_grid.store.read import list_readings
from zesty_grid.store.standing import standing_study
from zesty_grid.store.worked_again import work_out_again

FOLDER = Path(__file__).parent / "landed"


def shown(database: Database) -> dict[str, Any]:
    """Study by study: who stands where, every bath with its amounts, the log, the readings, how they fade."""
    with database.connection() as connection:
        found = {}
        for study in list_study_ids(connection):
            standing = standing_study(connection, study)
            planned = standing.planned
            found[str(study)] = {
                "places": {one.code: [planned.cell(one), one.replicate, one.tie] for one in planned.swatches},
                "baths": {
                    one.name: [
                        one.begun,
                        list(one.vessel.swatches),
                        [[f.name, f.grams, f.volume_ml] for f in one.amounts.figures],
                        [step.key for step in one.steps],
                    ]
                    for one in standing.bench
                    if one.begun
                },
                "entries": [
                    [e.id, e.kind, e.at.isoformat(), e.vessel, e.note] for e in list_entries(connection, study)
                ],
                "readings": [
                    [r.id, r.swatch, r.piece, r.stage, r.run, list(r.lab), r.taken_on, r.counts]
                    for r in list_readings(connection, study)
                ],
                "points": {
                    str(trial): [[p.swatch, p.stage, p.zone, p.dose] for p in points]
                    for trial, points in list_points(connection, study).items()
                },
                "versions": len(list_versions(connection, study)),
            }
        return found


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "grid.db"
        path.write_bytes(stocked_file())
        database = Database(path)
        rich_study(database, TestClient(create_application(database), base_url=ADDRESS))
        with database.transaction() as connection:
            work_out_again(connection)
        with closing(sqlite3.connect(path)) as connection:
            connection.execute("VACUUM")
            connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        name = f"version_{newest_version()}"
        (FOLDER / f"{name}.db.gz").write_bytes(gzip.compress(database.path.read_bytes(), 9, mtime=0))
        (FOLDER / f"{name}.json").write_text(json.dumps(shown(database)) + "\n")


if __name__ == "__main__":
    main()
