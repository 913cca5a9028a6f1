"""From a study's bench to a day plan, or to what is short and what would cure it."""

from collections.abc import Callable
from datetime import datetime

from zesty_grid.core.dye.protocol import Protocol
from zesty_grid.core.dye.scheduling.answer import Answer, Progress, Stop
from zesty_grid.core.dye.scheduling.bounds import Bound
from zesty_grid.core.dye.scheduling.checking import faults_after_move
from zesty_grid.core.dye.scheduling.curing import Cure, cures_for, what_is_short
from zesty_grid.core.dye.scheduling.day_plan import DayPlan, day_plan
from zesty_grid.core.dye.scheduling.from_bench import BenchProblem, SoFar, problem_of
from zesty_grid.core.dye.scheduling.problem import Solution
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.shelf import Shelf


class Planned(Frozen):
    """`plan` None: none was found; `short` says what is in the way, `cures` what was tried."""

    plan: DayPlan | None
    short: tuple[str, ...] = ()
    cures: tuple[Cure, ...] = ()


class Work(Frozen):
    """All that a day plan is made from."""

    bench: tuple[BenchVessel, ...]
    shelf: Shelf
    protocol: Protocol
    start: datetime
    so_far: SoFar

    def problem(self) -> BenchProblem:
        return problem_of(list(self.bench), self.shelf, self.protocol, self.start, self.so_far)

    def names(self, made: BenchProblem) -> dict[str, str]:
        """Each stretch of work in words."""
        vessels = {one.name: one for one in self.bench}
        named = {}
        for stretch in made.stretches:
            one = vessels[stretch.vessel]
            step = one.step(stretch.steps[0])
            named[stretch.task] = f"{one.vessel.name} “{step.title if step else stretch.task}”"
        return named

    def as_plan(self, made: BenchProblem, solution: Solution, answer: Answer) -> DayPlan:
        pinned = set(self.so_far.pinned) & {stretch.task for stretch in made.stretches}
        return day_plan(made, solution, answer, list(self.bench), self.shelf, set(self.so_far.done), pinned)


def make_day_plan(
    work: Work,
    seconds: float,
    tell: Callable[[Progress, DayPlan], None],
    say: Callable[[str], None],
    stop: Stop,
    with_cures: bool = False,
) -> Planned:
    """The best plan within `seconds`; cures are tried where there is none, it is late, or asked."""
    # The solver takes half a second to load, and most sessions plan no days.
    from zesty_grid.core.dye.scheduling.solver import solve

    made = work.problem()

    def told(progress: Progress) -> None:
        so_far = Answer(
            solution=progress.solution,
            proven=False,
            first_come_finish=None,
            bound=Bound(finish=progress.bound, why="search"),
        )
        tell(progress, work.as_plan(made, progress.solution, so_far))

    answer = solve(made.problem, seconds, told, stop)
    plan = work.as_plan(made, answer.solution, answer) if answer.solution else None
    short = what_is_short(made, work.names(made)) if plan is None else []
    by = work.protocol.finish_by
    if plan and by and plan.ready_at.date() > by:
        proof = "" if plan.bound_at.date() <= by else " No plan is: that is proven."
        short.append(f"It is ready on {plan.ready_at:%-d %b %Y}, not by {by:%-d %b %Y}.{proof}")
    if plan is None and not short:
        short.append("No plan was found: the waits between the baths leave no way through.")
    cures: list[Cure] = []
    if (short or with_cures) and not stop.asked:
        cures = cures_for(
            list(work.bench), work.shelf, work.protocol, work.start, work.so_far, answer.solution, made, stop, say
        )
    if plan:
        plan = plan.model_copy(update={"short": tuple(short)})
    return Planned(plan=plan, short=tuple(short), cures=tuple(cures))


def move_by_hand(work: Work, old: DayPlan, task: str, to: datetime) -> tuple[list[str], DayPlan | None]:
    """The plan with one stretch of work moved, all others as they were, and what is wrong then.

    Raises Refusal where the task is not in the plan, is done or runs, or the plan is outdated.
    """
    made = work.problem()
    starts = {one.task: made.tick(one.starts_at) for one in old.work}
    if set(starts) != {stretch.task for stretch in made.stretches}:
        raise Refusal("plan-outdated", "The study has changed since this day plan was made.", "Plan anew, then move.")
    if task not in starts or task in work.so_far.begun:
        raise Refusal(
            "cannot-move", "This step has begun already, or is not in the day plan.", "Move one that has not begun."
        )
    starts |= made.problem.fixed
    starts[task] = made.tick(to)
    kinds = {stay.vessel: stay.kind for stay in old.stays}
    choices = {claim.key: kinds.get(claim.key, claim.choices[0]) for claim in made.problem.claims}
    solution = Solution(starts=starts, choices=choices, finish=made.problem.finish_of(starts))
    faults = faults_after_move(made, solution, work.names(made))
    if faults:
        return faults, None
    bound = Bound(finish=made.tick(old.bound_at), why="search")
    answer = Answer(solution=solution, bound=bound, proven=False, first_come_finish=None)
    moved = work.as_plan(made, solution, answer)
    return [], moved.model_copy(update={"why": old.why, "first_come_ready_at": old.first_come_ready_at})
