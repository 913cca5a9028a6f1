"""A study of which every bath was logged, step by step, for tests of what really happened."""

from datetime import UTC, datetime, timedelta

import numpy as np
from tests.compared_studies import three_strengths, true_lab
from tests.seeded_readings import add_readings, new_study

from zesty_grid.core.record.entry import NewBenchEntry
from zesty_grid.store import dye
from zesty_grid.store.database import Database
from zesty_grid.store.keeping import name_planned
from zesty_grid.store.plan import keep_recipes
from zesty_grid.store.projecting import project_study
from zesty_grid.store.runs import keep_run
from zesty_grid.store.shelf import load_shelf
from zesty_grid.store.standing import standing_study

BEGUN_AT = datetime(2026, 9, 1, 8, 0, tzinfo=UTC)


def logged_study(database: Database, **changes) -> tuple[int, dict[str, str]]:
    """Every step done, the dye baths read at 78 and 82 °C; every swatch read afterwards."""
    study, codes = new_study(database, three_strengths(**changes))
    with database.transaction() as connection:
        keep_recipes(connection, study, load_shelf(connection))
        standing = standing_study(connection, study)
        at = BEGUN_AT
        for one in standing.bench:
            keep_run(connection, study, standing.stored.revision, one)
        for one in standing.bench:
            for step in one.steps:
                at += timedelta(minutes=20)
                said = NewBenchEntry(vessel=one.name, step=step.key, kind="done", at=at)
                dye.add_entry(connection, study, said, at)
                if one.vessel.bath == "dye" and step.key in ("hold", "enter"):
                    warm = 78.0 if step.key == "enter" else 82.0
                    read = NewBenchEntry(
                        vessel=one.name, step=step.key, kind="record", at=at, temperature_c=warm, ph=5.5
                    )
                    dye.add_entry(connection, study, read, at)
        project_study(connection, study)
        name_planned(connection, study)
    laid = []
    for cell, code in codes.items():
        parts = dict(part.split("=") for part in cell.split("#")[0].split(";"))
        lab = (85.0, 1.0, 12.0)
        if "control" not in parts:
            found = true_lab(
                parts["fibre"], float(parts["strength"].split("-")[-1]), float(parts["iron"].split("-")[-1])
            )
            lab = tuple(float(value) for value in np.round(found, 3))
        laid.append((code, "whole", lab))
    read_at = at + timedelta(days=4)
    for start in range(0, len(laid), 12):
        add_readings(database, study, laid[start : start + 12], accepted_at=read_at)
    return study, codes
