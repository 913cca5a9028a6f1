"""The day plan: when each stretch of work is done, in which vessel, and how good the plan is."""

from datetime import datetime

from zesty_grid.core.dye.scheduling.answer import Answer
from zesty_grid.core.dye.scheduling.from_bench import HEAT, BenchProblem, StretchOfWork
from zesty_grid.core.dye.scheduling.problem import HANDS, ScheduleProblem, Solution, Task
from zesty_grid.core.dye.step import Step
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.shelf.shelf import Shelf


class PlannedWork(Frozen):
    """Hands from `starts_at` to `hands_until`; what runs then ends at `ends_at`.

    Times are the bench's own, without a zone. `soak_from`: the pieces go into water.
    """

    task: str
    vessel: str
    vessel_title: str
    steps: tuple[str, ...]
    words: str
    runs: str
    soak_from: datetime | None
    starts_at: datetime
    hands_until: datetime
    ends_at: datetime
    pot: str
    iron: bool
    state: str
    pinned: bool
    then: str = ""


class Stay(Frozen):
    """A bath in its vessel on the Shelf, from filling to emptying; `pot` tells equal ones apart."""

    vessel: str
    kind: str
    pot: str
    starts_at: datetime
    ends_at: datetime


class DayPlan(Frozen):
    """`ready_at`: everything dry, rested and ready to read; no plan is ready before `bound_at`.

    `could_be_shorter_percent` is how much of the way from `made_from` the best plan might save at
    most. `first_come_ready_at` is that of the plain first-come list.
    """

    made_from: datetime
    work: tuple[PlannedWork, ...]
    stays: tuple[Stay, ...]
    ready_at: datetime
    bound_at: datetime
    could_be_shorter_percent: float
    proven: bool
    why: str
    first_come_ready_at: datetime | None
    working_days: int
    hands_min: int
    idle_min: int
    pairs_of_hands: int
    against_list: str = ""
    short: tuple[str, ...] = ()

    def stretches(self) -> list[StretchOfWork]:
        """The stretches of work as they were planned, in the order of each vessel."""
        return [
            StretchOfWork(
                task=one.task, vessel=one.vessel, steps=one.steps, runs=None, hands_ticks=0, lead_ticks=0, iron=one.iron
            )
            for one in sorted(self.work, key=lambda one: (one.vessel, one.starts_at))
        ]


WHY = {
    "chain": "the longest way of a piece through its baths takes so long",
    HANDS: "the hands have so much to do in the working hours",
    HEAT: "the heat places are so full in the working hours",
    "search": "of what the search has ruled out",
    "proven": "the search has ruled out everything sooner",
    "day by day": "the search has ruled out each earlier day",
}


def day_plan(
    made: BenchProblem,
    solution: Solution,
    answer: Answer,
    bench: list[BenchVessel],
    shelf: Shelf,
    done: set[str],
    pinned: set[str],
) -> DayPlan:
    """A solution in the bench's own terms."""
    problem = made.problem
    stays = _stays(made, solution, bench, shelf)
    pot_of = {stay.vessel: stay.pot for stay in stays}
    by_key = {one.name: one for one in bench}
    work = []
    for stretch in made.stretches:
        one, task = by_key[stretch.vessel], problem.task[stretch.task]
        at = solution.starts[stretch.task]
        steps = [step for step in one.steps if step.key in stretch.steps]
        begun = stretch.task in problem.fixed and stretch.task not in pinned
        state = "done" if stretch.task in done else "runs" if begun else "planned"
        run = one.step(stretch.runs) if stretch.runs else None
        hands = min(stretch.hands_ticks, task.length)
        work.append(
            PlannedWork(
                task=stretch.task,
                vessel=stretch.vessel,
                vessel_title=one.vessel.title,
                steps=stretch.steps,
                words="; ".join(step.title for step in steps if step.hands_min > 0),
                then="; ".join(step.title for step in steps if _only_waits(step)),
                runs=_run_words(run.title, run.temperature_c, run.duration_min) if run else "",
                soak_from=made.moment(at - stretch.lead_ticks) if stretch.lead_ticks else None,
                starts_at=made.moment(at),
                hands_until=made.moment(at + hands),
                ends_at=made.moment(at + task.length),
                pot=pot_of.get(task.chain or stretch.vessel, ""),
                iron=stretch.iron,
                state=state,
                pinned=stretch.task in pinned,
            )
        )
    hands_min, idle_min, days = _hands(problem, solution)
    finish, bound = solution.finish, min(answer.bound.finish, solution.finish)
    whole = max(1, finish - problem.not_before)
    return DayPlan(
        made_from=made.moment(problem.not_before),
        work=tuple(sorted(work, key=lambda one: (one.starts_at, one.task))),
        stays=tuple(stays),
        ready_at=made.moment(finish),
        bound_at=made.moment(bound),
        could_be_shorter_percent=round(100 * (finish - bound) / whole, 1),
        proven=answer.proven or bound >= finish,
        why=_why(answer.bound.why, shelf),
        first_come_ready_at=(made.moment(answer.first_come_finish) if answer.first_come_finish else None),
        working_days=days,
        hands_min=hands_min,
        idle_min=idle_min,
        pairs_of_hands=problem.capacity[HANDS],
        against_list=_against_list(made, finish, bound, answer, _why(answer.bound.why, shelf)),
    )


def _against_list(made: BenchProblem, finish: int, bound: int, answer: Answer, why: str) -> str:
    """What the search gained over first come, first served, in days; or why nothing more can be."""
    if answer.first_come_finish is None:
        return ""
    plain, ready = made.moment(answer.first_come_finish), made.moment(finish)
    saved = (plain.date() - ready.date()).days
    if saved > 0:
        return f"{saved} {'day' if saved == 1 else 'days'} sooner than first come, first served."
    sooner = int((plain - ready).total_seconds() // 60)
    gained = f"{sooner // 60} h {sooner % 60:02} min sooner than" if sooner else "As soon as"
    no_day = (
        f"no day can be saved, as {why}."
        if made.moment(bound).date() == ready.date()
        else "whether a day could be saved is not known: none was found, and none is ruled out."
    )
    return f"{gained} first come, first served; {no_day}"


def _only_waits(step: Step) -> bool:
    return not step.heat and not step.hands_min


def _run_words(title: str, temperature_c: float | None, minutes: int | None) -> str:
    warm = f", {temperature_c:g} °C" if temperature_c is not None else ""
    return f"{title}{warm}{f', {minutes} min' if minutes else ''}"


def _why(why: str, shelf: Shelf) -> str:
    if why in WHY:
        return WHY[why]
    names = [pot.name for key in why.split("|") if (pot := shelf.vessel(key))]
    return f"the vessels ({', '.join(names)}) are taken for so long"


def _hands(problem: ScheduleProblem, solution: Solution) -> tuple[int, int, int]:
    """Minutes of hands, minutes between the first and the last of each day that are idle, days."""
    spans: dict[int, list[tuple[int, int]]] = {}
    day = problem.day_ticks or 1
    for task in problem.tasks:
        if task.hands:
            at = solution.starts[task.key]
            spans.setdefault(at // day, []).append((at, at + task.hands))
    worked = sum(end - start for own in spans.values() for start, end in own)
    stretches = sum(max(e for _, e in own) - min(s for s, _ in own) for own in spans.values())
    minutes = 24 * 60 // day
    idle = max(0, stretches - worked // problem.capacity[HANDS])
    return worked * minutes, idle * minutes, len(spans)


def _stays(made: BenchProblem, solution: Solution, bench: list[BenchVessel], shelf: Shelf) -> list[Stay]:
    """Which of the equal vessels each bath takes: the first that is free."""
    dips = {task.key: task for task in made.problem.tasks}
    free_at: dict[tuple[str, int], int] = {}
    stays = []
    for claim in sorted(made.problem.claims, key=lambda one: solution.starts[one.first]):
        kind = solution.choices[claim.key]
        start, end = solution.starts[claim.first], _end(dips[claim.last], solution)
        number = next(n for n in range(1, len(made.problem.claims) + 2) if free_at.get((kind, n), 0) <= start)
        free_at[kind, number] = end
        pot = shelf.vessel(kind)
        one_of = f" {number}" if pot and pot.count > 1 else ""
        stays.append(
            Stay(
                vessel=claim.key,
                kind=kind,
                pot=f"{pot.name if pot else kind}{f', no.{one_of}' if one_of else ''}",
                starts_at=made.moment(start),
                ends_at=made.moment(end),
            )
        )
    return stays


def _end(task: Task, solution: Solution) -> int:
    return solution.starts[task.key] + task.length
