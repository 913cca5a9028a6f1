"""How fast the API answers a changed plan of 1,000 cells, and a budget chooses 96 of them."""

import json
import statistics
import time
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
from starlette.testclient import TestClient

from zesty_grid.api.application import create_application
from zesty_grid.core.plan.budget import Candidates, choose_cells, information_of, log_determinant
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.store.database import Database

ROUNDS = 15
STARTS = 50


def thousand_cells() -> dict:
    def named(items, count):
        return [{"key": item.key, "label": item.name} for item in items[:count]]

    def valued(kind, values):
        return [{"key": f"{kind}-{v:g}", "label": f"{v:g}", "value": v} for v in values]

    return {
        "name": "A thousand",
        "factors": [
            {"kind": "fibre", "levels": named(STARTING_SHELF.fibres, 5)},
            {"kind": "mordant", "levels": named(STARTING_SHELF.mordant_routes, 5)},
            {"kind": "dye", "levels": named(STARTING_SHELF.dye_lots, 5)},
            {"kind": "ph", "levels": valued("ph", (4, 5.5, 7, 9))},
            {"kind": "iron", "levels": valued("iron", (0, 1))},
        ],
        "rows": ["fibre", "mordant"],
        "columns": ["dye", "ph", "iron"],
    }


def changed_plan(client: TestClient) -> dict:
    plan = thousand_cells()
    study = client.post("/api/studies", json=plan).json()["id"]
    times = []
    for revision in range(1, ROUNDS + 1):
        plan["swatch_mass_g"] = 4 + revision / 10
        start = time.perf_counter()
        answer = client.put(f"/api/studies/{study}", json={"revision": revision, "plan": plan})
        times.append(time.perf_counter() - start)
        assert answer.status_code == 200
    return {
        "benchmark": "changed plan of 1,000 cells, through the API",
        "rounds": ROUNDS,
        "median_ms": round(1000 * statistics.median(times), 1),
        "worst_ms": round(1000 * max(times), 1),
        "target_ms": 120,
        "answer_kb": round(len(answer.content) / 1024),
    }


def budget(client: TestClient) -> dict:
    start = time.perf_counter()
    answer = client.post("/api/studies/1/budget", json={"swatches": 96, "vessels": 20})
    seconds = time.perf_counter() - start
    return {
        "benchmark": "96 of 1,000 cells in 20 dye vessels, through the API",
        "seconds": round(seconds, 2),
        "target_seconds": 5,
        "efficiency": round(answer.json()["efficiency"], 3),
    }


def against_random_starts() -> dict:
    """The chosen cells against the best of 50 random starts of the same exchange."""
    rng = np.random.default_rng(0)
    coded = np.hstack([np.ones((1000, 1)), rng.choice([-1.0, 0.0, 1.0], size=(1000, 15))])
    of = Candidates(coded, np.repeat(np.arange(20), 50), 1.6)
    own = log_determinant(information_of(of, choose_cells(of, 96, 12, 3, seed=1)))
    tries = [log_determinant(information_of(of, choose_cells(of, 96, 12, 1, seed=10 + i))) for i in range(STARTS)]
    return {
        "benchmark": "budget against the best of 50 random starts",
        "relative_efficiency": round(float(np.exp((own - max(tries)) / coded.shape[1])), 4),
        "target": 0.98,
    }


def main() -> None:
    with TemporaryDirectory() as folder:
        app = create_application(Database(Path(folder) / "bench.db"))
        client = TestClient(app, base_url="http://127.0.0.1:8750")
        print(json.dumps(changed_plan(client)))
        print(json.dumps(budget(client)))
    print(json.dumps(against_random_starts()))


if __name__ == "__main__":
    main()
