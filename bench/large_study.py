"""One study of 2,000 swatches, read, and exposed to light in five stages: what its screens take."""

import json
import sys
import time
from datetime import UTC, datetime, timedelta
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest.mock import patch

import numpy as np
from starlette.testclient import TestClient

sys.path.insert(0, str(Path(__file__).parent.parent))

from asking import ask
from tests.seeded_readings import add_readings, codes_by_cell, new_trial
from thousand_cells import thousand_cells

from zesty_grid.api.application import create_application
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.record.entry import NewBenchEntry
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.serving.collecting import collect_seldom
from zesty_grid.store import dye
from zesty_grid.store.database import Database
from zesty_grid.store.keeping import create_study, name_planned
from zesty_grid.store.plan import keep_recipes
from zesty_grid.store.runs import keep_run
from zesty_grid.store.shelf import stock_shelf
from zesty_grid.store.standing import standing_study
from zesty_grid.store.worked_again import work_out_again

STAGES = 5
ROUNDS, TARGET_MS = 10, 300
ASKED = {
    "a study": "",
    "bench": "/dye",
    "log": "/dye/log",
    "photos": "/photos",
    "sheets": "/sheet-lines",
    "colours": "/colours",
    "trials": "/trials",
    "choices": "/choices",
    "telling": "/telling",
    "record of a swatch": "/swatches/{code}",
    "readings of a swatch": "/readings?codes={code}",
    "pieces found": "/coloured?text=silk+exposed&most=60",
}
# The first answer after a write computes what depends on every swatch; the next ones are kept.
FIRST = {
    "order of lasting": "/trials/1/lasting",
    "effects": "/compare/effects",
    "unevenness": "/compare/unevenness",
    "what fading does": "/compare/fading",
    "between": "/compare/between",
    "odd ones": "/compare/odd",
    "colour chart": "/compare/chart",
}
AT = datetime(2026, 3, 1, 9, tzinfo=UTC)


def two_thousand_cells() -> dict:
    plan = thousand_cells()
    doses = next(one for one in plan["factors"] if one["kind"] == "iron")
    doses["levels"] = [{"key": f"iron-{v:g}", "label": f"{v:g}", "value": v} for v in (0, 0.5, 1, 2)]
    return plan | {"name": "Two thousand"}


def planned_study(path: Path) -> Database:
    """Planned, and nothing more."""
    database = Database(path)
    with database.transaction() as connection:
        stock_shelf(connection, STARTING_SHELF)
        create_study(connection, StudyPlan.model_validate(two_thousand_cells()))
    return database


def large_study(path: Path) -> Database:
    """Every bath logged, every swatch read, all of them in one light trial of five stages."""
    database = Database(path)
    with database.transaction() as connection:
        stock_shelf(connection, STARTING_SHELF)
        study = create_study(connection, StudyPlan.model_validate(two_thousand_cells()))
        keep_recipes(connection, study, STARTING_SHELF)
        standing = standing_study(connection, study)
        at = AT
        for one in standing.bench:
            keep_run(connection, study, 1, one)
            for step in one.steps:
                at += timedelta(minutes=5)
                said = NewBenchEntry(vessel=one.name, step=step.key, kind="done", at=at)
                dye.add_entry(connection, study, said, at)
        codes = list(codes_by_cell(connection, study).values())
        work_out_again(connection, [study])
        name_planned(connection, study)
    rng = np.random.default_rng(1)
    colours = np.column_stack(
        [rng.uniform(30, 85, len(codes)), rng.uniform(-5, 30, len(codes)), rng.uniform(0, 60, len(codes))]
    )
    read_at = at + timedelta(days=4)
    # What follows is worked out once, at the end.
    with patch("zesty_grid.store.accepting.follow_readings"), patch("zesty_grid.store.accepting.project_begun"):
        laid = [(code, "whole", tuple(lab)) for code, lab in zip(codes, colours, strict=True)]
        for start in range(0, len(laid), 12):
            add_readings(database, study, laid[start : start + 12], accepted_at=read_at)
    with database.transaction() as connection:
        work_out_again(connection, [study])
    trial = new_trial(
        database,
        study,
        {
            "kind": "light",
            "name": "Window",
            "swatches": codes,
            "stages": [{"label": f"{n} days", "days": n, "dose_lxh": n * 1e5} for n in (1, 2, 4, 8, 16)],
        },
    )
    with patch("zesty_grid.store.accepting.follow_readings"), patch("zesty_grid.store.accepting.project_begun"):
        for stage in range(STAGES):
            faded = colours + np.array([1.5, -0.5, -3.0]) * (stage + 1)
            pieces = [
                (code, piece, tuple(lab + rng.normal(0, 0.2, 3)))
                for piece, labs in (("dark", colours), ("light", faded))
                for code, lab in zip(codes, labs, strict=True)
            ]
            for start in range(0, len(pieces), 12):
                add_readings(
                    database,
                    study,
                    pieces[start : start + 12],
                    trial,
                    stage,
                    accepted_at=read_at + timedelta(days=stage + 1),
                )
    with database.transaction() as connection:
        work_out_again(connection, [study])
    return database


def first_answers(client: TestClient, bench: dict[str, object]) -> None:
    """What the first look takes; fading is worked out in steps, as the screen does it."""
    start, done, of = time.process_time(), 0, 1
    while done < of:
        ahead = client.get(f"/api/studies/1/trials/1/lasting/ahead?after={done}").json()
        done, of = ahead["done"], ahead["of"]
    _said(bench, "fading worked out", start)
    for name, path in FIRST.items():
        start = time.process_time()
        assert client.get("/api/studies/1" + path).status_code == 200
        _said(bench, name, start)


def _said(bench: dict[str, object], name: str, start: float) -> None:
    took_ms = round(1000 * (time.process_time() - start))
    print(json.dumps(bench | {"first answer of": name, "ms": took_ms}), flush=True)


def main() -> None:
    with TemporaryDirectory() as folder:
        database = large_study(Path(folder) / "bench.db")
        client = TestClient(create_application(database), base_url="http://127.0.0.1:8750")
        collect_seldom()
        bench: dict[str, object] = {"bench": "a study of 2,000 swatches"}
        code = client.get("/api/studies/1").json()["swatches"][5]["code"]
        first_answers(client, bench)
        for name, path in (ASKED | FIRST).items():
            path = "/api/studies/1" + path.format(code=code)
            ask(client, bench, name, path, TARGET_MS, ROUNDS)


if __name__ == "__main__":
    main()
