"""How the screens of a file grow: 10, 100 and 400 studies, at last 50,000 swatches and 500,000
readings.

One study is dyed to its last bath, read ten times over, and on trial; the others are its copies,
row by row. One JSON object a line: median and 95th percentile of milliseconds of processor
time through the API, for every request that a screen makes; at last the memory of a server of that
file.
"""

import json
import sqlite3
import subprocess
import sys
from datetime import UTC, datetime, timedelta
from pathlib import Path
from tempfile import TemporaryDirectory

from starlette.testclient import TestClient

sys.path.insert(0, str(Path(__file__).parent.parent))

from asking import ask
from tests.seeded_readings import add_readings, new_study, new_trial
from tests.small_study import levels, small_plan, valued

from zesty_grid.api.application import create_application
from zesty_grid.core.plan.swatch_codes import swatch_code
from zesty_grid.core.record.entry import NewBenchEntry
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.serving.collecting import collect_seldom
from zesty_grid.store.database import Database
from zesty_grid.store.dye import add_entry
from zesty_grid.store.keeping import name_planned
from zesty_grid.store.plan import keep_recipes
from zesty_grid.store.projecting import project_study
from zesty_grid.store.runs import keep_run
from zesty_grid.store.shelf import stock_shelf
from zesty_grid.store.standing import standing_study

SIZES, ROUNDS, TARGET_MS, READ_OVER = (10, 100, 400), 20, 50, 9
TABLES = (
    "study",
    "swatch",
    "place",
    "run",
    "run_member",
    "run_step",
    "passage",
    "bench_entry",
    "planned_vessel",
    "trial",
    "trial_swatch",
    "trial_stage",
    "fade_point",
    "sheet",
    "photo",
    "measurement",
    "reading",
    "state_colour",
    "study_level",
    "plan_version",
)
Rows = list[dict[str, object]]
# Which columns are numbers of rows, and of what.
KEYS = {
    "study_id": "study",
    "swatch_id": "swatch",
    "run_id": "run",
    "last_run_id": "run",
    "parent_id": "swatch",
    "trial_id": "trial",
    "photo_id": "photo",
    "measurement_id": "measurement",
    "entry_id": "bench_entry",
}


def dyed_study(database: Database) -> int:
    plan = small_plan(
        factors=[
            {"kind": "fibre", "levels": levels("wool", "silk", "cotton", "linen")},
            {"kind": "mordant", "levels": levels("none", "alum-hot", "tannin-alum")},
            {"kind": "dye", "levels": levels("dried-flowers", "dried-bark")},
            {"kind": "ph", "levels": valued("ph", 4, 7, 9)},
            {"kind": "iron", "levels": valued("iron", 0, 1)},
        ],
        controls=["undyed"],
        replicates=1,
        swatch_mass_g=3,
    )
    study, codes = new_study(database, plan)
    with database.transaction() as connection:
        keep_recipes(connection, study, STARTING_SHELF)
        standing = standing_study(connection, study)
        at = datetime.now(UTC) - timedelta(days=20)
        for one in standing.bench:
            keep_run(connection, study, 1, one)
            for step in one.steps[: -2 if one.name == "F2" else None]:
                at += timedelta(minutes=20)
                said = NewBenchEntry(vessel=one.name, step=step.key, kind="done", at=at)
                add_entry(connection, study, said, at)
        begun = NewBenchEntry(vessel="F2", step="rinse", kind="begun", minutes=60)
        add_entry(connection, study, begun, datetime.now(UTC) - timedelta(minutes=10))
        project_study(connection, study)
        name_planned(connection, study)
    every = list(codes.values())
    read_at = datetime.now(UTC) - timedelta(hours=READ_OVER)
    for again_and_again in range(READ_OVER):
        for start in range(0, len(every), 12):
            laid = [(code, "whole", (40.0 + start / 3, 5.0, 20.0)) for code in every[start : start + 12]]
            add_readings(database, study, laid, early=True, accepted_at=read_at + timedelta(hours=again_and_again))
    trial = new_trial(
        database,
        study,
        {
            "kind": "light",
            "name": "Window",
            "swatches": every[:12],
            "stages": [{"label": f"{n} days", "days": n, "dose_lxh": n * 1e5} for n in (1, 2, 4)],
        },
    )
    pieces = [(code, piece, (50.0, 5.0, 20.0)) for code in every[:6] for piece in ("dark", "light")]
    add_readings(database, study, pieces, trial, 0, accepted_at=datetime.now(UTC))
    return len(every)


def rows_of_one(connection: sqlite3.Connection) -> dict[str, Rows]:
    found = {}
    for table in TABLES:
        # What is not generated from the rest.
        columns = ", ".join(row["name"] for row in connection.execute(f"PRAGMA table_info({table})"))
        found[table] = [dict(row) for row in connection.execute(f"SELECT {columns} FROM {table}")]
    return found


def copy_rows(database: Database, one: dict[str, Rows], first: int, last: int) -> None:
    """Copies number `first` to `last` of all rows of the one study, with numbers, codes and keys
    of their own."""
    most = {
        table: max(
            (int(row.get("id") or i) if isinstance(row.get("id"), int) else i for i, row in enumerate(rows, 1)),
            default=0,
        )
        for table, rows in one.items()
    }
    with database.transaction() as connection:
        connection.execute("PRAGMA defer_foreign_keys = ON")
        for table, rows in one.items():
            if not rows:
                continue
            columns = list(rows[0])
            marks = ", ".join("?" * len(columns))
            connection.executemany(
                f"INSERT INTO {table} ({', '.join(columns)}) VALUES ({marks})",
                (tuple(again(table, row, k, most).values()) for k in range(first, last + 1) for row in rows),
            )


def again(table: str, row: dict[str, object], k: int, most: dict[str, int]) -> dict[str, object]:
    """One row of copy number k."""
    made = dict(row)
    for column, value in row.items():
        of = table if column == "id" and isinstance(value, int) else KEYS.get(column)
        if of and isinstance(value, int) and value:
            made[column] = value + k * most[of]
    if table == "swatch":
        made["serial"] = int(str(row["serial"])) + k * most["swatch"]
        made["code"] = swatch_code(int(str(made["serial"])))
    for column in ("key", "sheet_id") if table in ("bench_entry", "photo") else ():
        if column in row:
            made[column] = f"{row[column]}-{k}"
    if table == "sheet":
        made["id"] = f"{row['id']}-{k}"
    if table == "study":
        # Counted as the places come, and named anew.
        made |= {"planned_swatches": 0, "read_swatches": 0, "uid": f"{row['uid']}-{k}"}
        made["name"] = f"{row['name']} {k}"
    return made


# Every request that a screen makes; those in COMPUTED really compute something each time.
ASKED = {
    "list of studies": "/api/studies?most=60",
    "Today": "/api/today",
    "what runs at the bench": "/api/today/bench",
    "a study": "/api/studies/{study}",
    "revision": "/api/studies/{study}/revision",
    "telling": "/api/studies/{study}/telling",
    "choices": "/api/studies/{study}/choices",
    "bench": "/api/studies/{study}/dye",
    "log": "/api/studies/{study}/dye/log",
    "readings of a swatch": "/api/studies/{study}/readings?codes={code}",
    "photos": "/api/studies/{study}/photos",
    "sheets": "/api/studies/{study}/sheet-lines",
    "colours": "/api/studies/{study}/colours",
    "trials": "/api/studies/{study}/trials",
    "record of a swatch": "/api/studies/{study}/swatches/{code}",
    "Shelf": "/api/shelf",
    "differences": "/api/studies/{study}/compare/effects",
    "between": "/api/studies/{study}/compare/between",
}
COMPUTED = frozenset({"telling", "differences", "between"})


def ask_all(database: Database, studies: int) -> None:
    client = TestClient(create_application(database), base_url="http://127.0.0.1:8750")
    collect_seldom()
    study = studies - 1
    code = client.get(f"/api/studies/{study}").json()["swatches"][5]["code"]
    for name, path in ASKED.items():
        ask(
            client,
            {"bench": "many studies", "studies": studies},
            name,
            path.format(study=study, code=code),
            None if name in COMPUTED else TARGET_MS,
            ROUNDS,
        )


MEMORY = """
import resource, sys
from pathlib import Path
from starlette.testclient import TestClient
from zesty_grid.api.application import create_application
from zesty_grid.store.database import Database
client = TestClient(create_application(Database(Path(sys.argv[1]))), base_url=sys.argv[2])
for path in sys.argv[3:]:
    assert client.get(path).status_code == 200
print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss // 1024)
"""


def memory_mb(path: Path, study: int, code: str) -> int:
    """Of a process that answers every request once."""
    asked = [one.format(study=study, code=code) for one in ASKED.values()]
    command = [sys.executable, "-c", MEMORY, str(path), "http://127.0.0.1:8750", *asked]
    return int(subprocess.run(command, capture_output=True, check=True, text=True).stdout)


def main() -> None:
    with TemporaryDirectory() as folder:
        database = Database(Path(folder) / "bench.db")
        with database.transaction() as connection:
            stock_shelf(connection, STARTING_SHELF)
        dyed_study(database)
        with database.connection() as connection:
            one = rows_of_one(connection)
        there = 1
        for studies in SIZES:
            copy_rows(database, one, there, studies - 1)
            there = studies
            ask_all(database, studies)
        with database.connection() as connection:
            counts = {
                table: connection.execute(f"SELECT count(*) FROM {table}").fetchone()[0]
                for table in ("study", "swatch", "reading")
            }
            (code,) = connection.execute("SELECT code FROM swatch WHERE study_id = 300").fetchone()
        megabytes = memory_mb(database.path, 300, code)
        print(
            json.dumps(
                {
                    "bench": "memory of a server",
                    **counts,
                    "megabytes": megabytes,
                    "target_mb": 400,
                    "file_mb": database.path.stat().st_size >> 20,
                }
            )
        )


if __name__ == "__main__":
    main()
