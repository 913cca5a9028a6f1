"""The bench: vessels with their steps, and the log."""

import sqlite3

from fastapi import APIRouter

from zesty_grid.api.answers import DyeView, StepState, VesselBench
from zesty_grid.api.shared import RowId, Store, WorkedStudy, worked_study
from zesty_grid.core.dye.bench_entry import NewBenchEntry, ticked_at
from zesty_grid.core.dye.steps import Step, steps_of
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.weigh.weighing import amounts_of
from zesty_grid.store.dye import add_entry, list_entries
from zesty_grid.store.plan import keep_recipes, swatch_codes

router = APIRouter(prefix="/api/studies/{study_id}/dye", tags=["dye"])


@router.get("")
def get_bench(study_id: RowId, store: Store) -> DyeView:
    with store.connection() as connection:
        return _bench(connection, study_id)


@router.post("/entries", status_code=201)
def add_bench_entry(study_id: RowId, entry: NewBenchEntry, store: Store) -> DyeView:
    with store.transaction() as connection:
        study = worked_study(connection, study_id)
        vessel = next((v for v in study.vessels if v.key == entry.vessel), None)
        steps = _steps_by_vessel(study)
        if vessel is None or entry.step not in {s.key for s in steps[vessel.key]}:
            raise Refusal(
                "no-such-step",
                "This vessel or step is no longer in the plan.",
                "Reload the page: the plan has changed since.",
            )
        keep_recipes(connection, study_id, study.shelf)
        add_entry(connection, study_id, entry)
        return _bench(connection, study_id)


def _steps_by_vessel(study: WorkedStudy) -> dict[str, list[Step]]:
    amounts, _ = amounts_of(study.stored.plan, study.vessels, study.shelf)
    return {
        vessel.key: steps_of(vessel, own, study.shelf)
        for vessel, own in zip(study.vessels, amounts, strict=True)
    }


def _bench(connection: sqlite3.Connection, study_id: int) -> DyeView:
    study = worked_study(connection, study_id)
    codes = swatch_codes(connection, study_id)
    entries = list_entries(connection, study_id)
    steps = _steps_by_vessel(study)
    return DyeView(
        vessels=tuple(
            VesselBench(
                vessel=vessel,
                codes=tuple(codes[swatch] for swatch in vessel.swatches),
                steps=tuple(
                    StepState(step=step, done_at=ticked_at(entries, vessel.key, step.key))
                    for step in steps[vessel.key]
                ),
            )
            for vessel in study.vessels
        ),
        entries=tuple(entries),
    )
