"""How long comparing takes to work out. One JSON object a line: milliseconds of processor time."""

import json
import sys
import time
from collections.abc import Callable
from itertools import combinations
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
from starlette.testclient import TestClient

sys.path.insert(0, str(Path(__file__).parent.parent))

from bench.many_studies import copy_rows, dyed_study, rows_of_one

from zesty_grid.api.application import create_application
from zesty_grid.core.compare.between import foreteller
from zesty_grid.core.compare.compared import ComparedSwatch, CompareQuestion
from zesty_grid.core.compare.nearest import nearest
from zesty_grid.core.compare.real_effects import real_effects
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.store.database import Database
from zesty_grid.store.shelf import stock_shelf

STUDIES, TIMES, FOUND = 53, 5, 5000


def main() -> None:
    rng = np.random.default_rng(1)
    labs = np.column_stack([rng.uniform(20, 90, FOUND), rng.uniform(-40, 60, (FOUND, 2))])
    off = np.full(FOUND, 0.5)
    said("the nearest of 5,000 colours", 100, lambda: nearest((50, 10, 30), 0.5, labs, off))
    question = crossed(rng)
    said(f"effects and pairs of a study of {len(question.swatches)} swatches", 2000, lambda: real_effects(question))
    said("colours between the swatches, fitted", None, lambda: foreteller(question.swatches, question.factors, {}))
    through_the_api()


def crossed(rng: np.random.Generator) -> CompareQuestion:
    """Five fibres, four mordants, five dyes, without and with iron: each dye in two pots."""
    found = []
    for fibre in range(5):
        for mordant in range(4):
            for dye in range(5):
                for iron in range(2):
                    lab = (80 - 6 * dye - 9 * iron - 2 * mordant, 5 + dye, 30 - fibre)
                    levels = {"fibre": str(fibre), "mordant": str(mordant), "dye": str(dye), "iron": str(iron)}
                    pot = f"D{dye}{(fibre + mordant) % 2}"
                    found.append(
                        ComparedSwatch(
                            code="".join(levels.values()),
                            levels=levels,
                            vessels={"dye": pot},
                            lab=tuple(float(v) for v in np.array(lab) + rng.normal(0, 0.8, 3)),
                        )
                    )
    factors = ("fibre", "mordant", "dye", "iron")
    return CompareQuestion(swatches=tuple(found), factors=factors, interactions=tuple(combinations(factors, 2)))


def through_the_api() -> None:
    with TemporaryDirectory() as folder:
        database = Database(Path(folder) / "many.db")
        with database.transaction() as connection:
            stock_shelf(connection, STARTING_SHELF)
        dyed_study(database)
        with database.connection() as connection:
            one = rows_of_one(connection)
        copy_rows(database, one, 1, STUDIES - 1)
        client = TestClient(create_application(database), base_url="http://127.0.0.1:8750")
        count = client.post("/api/find", json={"lab": [50, 5, 20]}).json()["searched"]
        said(
            f"find a colour among {count} of {STUDIES} studies, through the API",
            None,
            lambda: client.post("/api/find", json={"lab": [50, 5, 20]}),
        )
        for name in ("effects", "chart", "between", "odd"):
            said(
                f"{name} of a study, through the API",
                None,
                lambda name=name: client.get(f"/api/studies/1/compare/{name}"),
            )


def said(name: str, target_ms: int | None, work: Callable[[], object]) -> None:
    work()
    start = time.process_time()
    for _ in range(TIMES):
        work()
    cpu_ms = (time.process_time() - start) / TIMES * 1000
    print(json.dumps({"what": name, "cpu_ms": round(cpu_ms, 1), "target_ms": target_ms}), flush=True)


if __name__ == "__main__":
    main()
