"""A bench to stand at in tests: the small study, its vessels by name, and entries with times."""

from datetime import UTC, datetime, timedelta
from typing import Any

from tests.small_study import small_plan

from zesty_grid.core.dye.bench import bench_of
from zesty_grid.core.dye.protocol import Protocol
from zesty_grid.core.plan.planned_study import on_paper
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.entry import BenchEntry
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF

START = datetime(2026, 9, 14, 9, 0, tzinfo=UTC)
USUAL = Protocol()
SMALL = StudyPlan.model_validate(small_plan())


def bench_for(
    plan: StudyPlan = SMALL, protocol: Protocol = USUAL, shelf: Shelf = STARTING_SHELF
) -> dict[str, BenchVessel]:
    """The vessels of a plan by their names."""
    return {one.name: one for one in bench_of(on_paper(plan, shelf), protocol)}


def begun(one: BenchVessel) -> BenchVessel:
    """A vessel as it is kept when its first step is logged."""
    return one.model_copy(update={"begun": True})


def entry(number: int, kind: str, after_min: float = 0, **more: Any) -> BenchEntry:
    """Entry `number`, so many minutes after the start of the day."""
    at = START + timedelta(minutes=after_min)
    said = {"vessel": "v", "step": "s", "note": "n"} | more
    return BenchEntry.model_validate(
        {"id": number, "key": f"entry-{number:04}", "kind": kind, "at": at, "entered_at": at, "received_at": at} | said
    )
