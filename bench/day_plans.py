"""How good day plans are: against a plain first-come list, and against a longer search.

One JSON object a line. `python bench/day_plans.py LONG_SECONDS` also searches for so long.
"""

import json
import sys
import time
from datetime import datetime

from zesty_grid.core.dye.bench import bench_of
from zesty_grid.core.dye.protocol import Protocol
from zesty_grid.core.dye.scheduling.answer import Progress, Stop
from zesty_grid.core.dye.scheduling.day_plan import DayPlan
from zesty_grid.core.dye.scheduling.from_bench import SoFar
from zesty_grid.core.dye.scheduling.list_schedule import list_schedule
from zesty_grid.core.dye.scheduling.planning import Work, make_day_plan
from zesty_grid.core.dye.scheduling.solver import solve
from zesty_grid.core.plan.factors import Factor, Level
from zesty_grid.core.plan.planned_study import on_paper
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.shelf.items import HeatPlace, ShelfVessel
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.demo.marsh_study import DYE_LOTS, marsh_plan

TUESDAY = datetime(2026, 11, 24, 9, 0)
SECONDS = 20.0
DYES = ("coreopsis", "alder-cones", "elderberry", "dried-bark", "dried-seeds", "dried-flowers")


def shelf_with(pots: int | None) -> Shelf:
    shelf = STARTING_SHELF.model_copy(update={"dye_lots": STARTING_SHELF.dye_lots + DYE_LOTS})
    if pots is None:
        return shelf
    return shelf.model_copy(
        update={
            "vessels": (ShelfVessel(key="pot", name="Pot, 5 L", litres=5, count=pots),),
            "heat_places": (HeatPlace(key="plate", name="Hotplate", power_w=1500, count=3),),
        }
    )


def grid_of_24() -> StudyPlan:
    """Six dyes at four pH, on wool and cotton with two mordants."""

    def levels(*keys: str) -> tuple[Level, ...]:
        return tuple(Level(key=key, label=key) for key in keys)

    ph = tuple(Level(key=f"ph-{v:g}", label=f"pH {v:g}", value=v) for v in (4, 5.5, 7, 9))
    factors = (
        Factor(kind="fibre", levels=levels("wool", "cotton")),
        Factor(kind="mordant", levels=levels("alum-hot", "alum-acetate")),
        Factor(kind="dye", levels=levels(*DYES)),
        Factor(kind="ph", levels=ph),
    )
    return StudyPlan(name="24 dye vessels", factors=factors, rows=("fibre", "mordant"), columns=("dye", "ph"))


def work_for(plan: StudyPlan, shelf: Shelf) -> Work:
    bench = bench_of(on_paper(plan, shelf), Protocol())
    return Work(bench=tuple(bench), shelf=shelf, protocol=Protocol(), start=TUESDAY, so_far=SoFar())


def measure(name: str, work: Work, long_seconds: float) -> dict[str, object]:
    made = work.problem()
    plain = list_schedule(made.problem)
    first: list[float] = []
    began = time.perf_counter()

    def tell(progress: Progress, plan: DayPlan) -> None:
        first.append(time.perf_counter() - began)

    planned = make_day_plan(work, SECONDS, tell, lambda _: None, Stop()).plan
    took = time.perf_counter() - began
    assert planned is not None
    assert plain is not None
    finish = made.tick(planned.ready_at)
    said: dict[str, object] = {
        "bench": "day plan",
        "study": name,
        "vessels": len(work.bench),
        "tasks": len(made.problem.tasks),
        "first_answer_s": round(first[0], 2),
        "took_s": round(took, 1),
        "ready_at": str(planned.ready_at),
        "first_come_ready_at": str(made.moment(plain.finish)),
        "ratio_to_first_come": round((finish - made.problem.not_before) / (plain.finish - made.problem.not_before), 4),
        "at_most_shorter_percent": planned.could_be_shorter_percent,
        "working_days": planned.working_days,
        "against_list": planned.against_list,
    }
    if long_seconds:
        longer = solve(made.problem, long_seconds, tidy=False).solution
        assert longer is not None
        whole = longer.finish - made.problem.not_before
        percent = round(100 * (finish - longer.finish) / whole, 2)
        said |= {"long_s": long_seconds, "longer_than_long_percent": percent}
    return said


def main() -> None:
    long_seconds = float(sys.argv[1]) if len(sys.argv) > 1 else 0.0
    for name, plan, pots in (
        ("demo", marsh_plan(), None),
        ("24 vessels, 8 pots", grid_of_24(), 8),
        ("24 vessels, 4 pots", grid_of_24(), 4),
    ):
        print(json.dumps(measure(name, work_for(plan, shelf_with(pots)), long_seconds)), flush=True)


if __name__ == "__main__":
    main()
