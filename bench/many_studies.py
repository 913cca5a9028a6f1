"""How fast the questions that every screen asks are answered with 400 studies of 124 swatches.

One study is dyed to its last bath, read, and on trial; the others are its copies, row by row. One
JSON object a line: median and worst milliseconds of processor time through the API.
"""

import gc
import json
import statistics
import sys
import time
from datetime import UTC, datetime, timedelta
from pathlib import Path
from tempfile import TemporaryDirectory

from starlette.testclient import TestClient

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.seeded_readings import add_readings, new_study, new_trial
from tests.small_study import levels, small_plan, valued

from zesty_grid.api.application import create_application
from zesty_grid.core.plan.swatch_codes import swatch_code
from zesty_grid.core.record.entry import NewBenchEntry
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.store.database import Database
from zesty_grid.store.dye import add_entry
from zesty_grid.store.keeping import name_planned
from zesty_grid.store.plan import keep_recipes
from zesty_grid.store.projecting import project_study
from zesty_grid.store.runs import keep_run
from zesty_grid.store.shelf import stock_shelf
from zesty_grid.store.standing import standing_study

STUDIES, ROUNDS, TARGET_MS = 400, 20, 50
TABLES = ("study", "swatch", "place", "run", "run_member", "run_step", "passage", "bench_entry",
          "planned_vessel", "trial", "trial_swatch", "trial_stage", "fade_point", "sheet", "photo",
          "measurement", "reading", "state_colour", "study_level", "plan_version")  # fmt: skip
# Which columns are numbers of rows, and of what.
KEYS = {"study_id": "study", "swatch_id": "swatch", "run_id": "run", "last_run_id": "run",
        "parent_id": "swatch", "trial_id": "trial", "photo_id": "photo",
        "measurement_id": "measurement", "entry_id": "bench_entry"}  # fmt: skip


def dyed_study(database: Database) -> int:
    plan = small_plan(
        factors=[
            {"kind": "fibre", "levels": levels("wool", "silk", "cotton", "linen")},
            {"kind": "mordant", "levels": levels("none", "alum-hot", "tannin-alum")},
            {"kind": "dye", "levels": levels("dried-flowers", "dried-bark")},
            {"kind": "ph", "levels": valued("ph", 4, 9)},
            {"kind": "iron", "levels": valued("iron", 0, 1)},
        ],
        controls=["undyed"], replicates=1, swatch_mass_g=3,
    )  # fmt: skip
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
    for start in range(0, 96, 12):
        laid = [
            (code, "whole", (40.0 + start / 3, 5.0, 20.0)) for code in every[start : start + 12]
        ]
        add_readings(database, study, laid, early=True, accepted_at=datetime.now(UTC))
    trial = new_trial(database, study, {
        "kind": "light", "name": "Window", "swatches": every[:12],
        "stages": [{"label": f"{n} days", "days": n, "dose_lxh": n * 1e5} for n in (1, 2, 4)],
    })  # fmt: skip
    pieces = [(code, piece, (50.0, 5.0, 20.0)) for code in every[:6] for piece in ("dark", "light")]
    add_readings(database, study, pieces, trial, 0, accepted_at=datetime.now(UTC))
    return len(every)


def copy_rows(database: Database, times: int) -> None:
    """Copies of all rows of the one study, with numbers, codes and keys of their own."""
    with database.transaction() as connection:
        connection.execute("PRAGMA defer_foreign_keys = ON")
        most = {
            table: connection.execute(f"SELECT coalesce(max(rowid), 0) FROM {table}").fetchone()[0]
            for table in TABLES
        }
        for table in TABLES:
            rows = [dict(row) for row in connection.execute(f"SELECT * FROM {table}")]
            if not rows:
                continue
            columns = list(rows[0])
            marks = ", ".join("?" * len(columns))
            connection.executemany(
                f"INSERT INTO {table} ({', '.join(columns)}) VALUES ({marks})",
                (tuple(again(table, row, k, most).values())
                 for k in range(1, times) for row in rows),
            )  # fmt: skip


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


def asked(client: TestClient, name: str, path: str, target_ms: int | None) -> None:
    times = []
    client.get(path)  # the first answer of a kind builds how it is written
    for _ in range(ROUNDS):
        start = time.process_time()
        answer = client.get(path)
        times.append(1000 * (time.process_time() - start))
        assert answer.status_code == 200, answer.text[:200]
    print(json.dumps({"bench": "400 studies", "asked": name, "rounds": ROUNDS,
                      "median_ms": round(statistics.median(times), 1),
                      "worst_ms": round(max(times), 1), "target_ms": target_ms,
                      "answer_kb": round(len(answer.content) / 1024)}), flush=True)  # fmt: skip


def main() -> None:
    with TemporaryDirectory() as folder:
        database = Database(Path(folder) / "bench.db")
        with database.transaction() as connection:
            stock_shelf(connection, STARTING_SHELF)
        dyed_study(database)
        copy_rows(database, STUDIES)
        client = TestClient(create_application(database), base_url="http://127.0.0.1:8750")
        gc.collect()
        gc.freeze()  # as `zesty-grid serve` does
        code = client.get("/api/studies/300").json()["swatches"][5]["code"]
        asked(client, "list of studies", "/api/studies", TARGET_MS)
        asked(client, "Today", "/api/today", TARGET_MS)
        asked(client, "what runs at the bench", "/api/today/bench", TARGET_MS)
        asked(client, "readings of a study", "/api/studies/300/readings", TARGET_MS)
        asked(client, "colours of a study", "/api/studies/300/colours", TARGET_MS)
        asked(client, "trials of a study", "/api/studies/300/trials", TARGET_MS)
        asked(client, "record of a swatch", f"/api/studies/300/swatches/{code}", None)
        asked(client, "a study", "/api/studies/300", None)
        asked(client, "the bench of a study", "/api/studies/300/dye", None)


if __name__ == "__main__":
    main()
