"""A bench to stand at in tests: the small study, its vessels by name, and entries with times."""

from datetime import UTC, datetime, timedelta
from typing import Any

from tests.small_study import cells_of, small_plan

from zesty_grid.core.dye.bench import BenchVessel, bench_of
from zesty_grid.core.dye.bench_entry import BenchEntry
from zesty_grid.core.dye.protocol import Protocol
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF

START = datetime(2026, 9, 14, 9, 0, tzinfo=UTC)
USUAL = Protocol()
SMALL = StudyPlan.model_validate(small_plan())


def bench_for(
    plan: StudyPlan = SMALL, protocol: Protocol = USUAL, shelf: Shelf = STARTING_SHELF
) -> dict[str, BenchVessel]:
    """The vessels of a plan by their names."""
    cells = cells_of(plan)
    vessels = vessels_of(plan, cells, shelf)
    return {one.vessel.name: one for one in bench_of(plan, cells, vessels, shelf, protocol)}


def entry(number: int, kind: str, after_min: float = 0, **more: Any) -> BenchEntry:
    """Entry `number`, so many minutes after the start of the day."""
    at = START + timedelta(minutes=after_min)
    said = {"vessel": "v", "step": "s", "note": "n"} | more
    return BenchEntry.model_validate(
        {"id": number, "key": f"entry-{number:04}", "kind": kind, "at": at, "received_at": at}
        | said
    )
