"""The schedule by constraint programming (CP-SAT): shortest finish, fewest days, least idling."""

from collections.abc import Callable
from typing import Literal

from ortools.sat.python import cp_model

from zesty_grid.core.dye.scheduling.answer import Answer, Progress, Stop
from zesty_grid.core.dye.scheduling.bounds import Bound, best_bound, earliest_starts, next_finish
from zesty_grid.core.dye.scheduling.list_schedule import best_list_schedule, list_schedule
from zesty_grid.core.dye.scheduling.problem import Claim, ScheduleProblem, Solution, Task

WORKERS = 4
REFUTE_SHARE = 0.15
FINISH_SHARE = 0.6


def solve(
    problem: ScheduleProblem,
    seconds: float,
    tell: Callable[[Progress], None] | None = None,
    stop: Stop | None = None,
    tidy: bool = True,
) -> Answer:
    """The best schedule found within `seconds`.

    First a plain list schedule, at once; then the shortest finish; then, with that finish, the
    fewest days with work for hands and the shortest stretches of hands (`tidy`).
    """
    say, halt = tell or (lambda _: None), stop or Stop()
    plain = list_schedule(problem)
    if plain:
        say(Progress(aim="finish", solution=plain, bound=problem.not_before))
    bound = best_bound(problem)
    first = best_list_schedule(problem)
    if first:
        say(Progress(aim="finish", solution=first, bound=bound.finish))
    best, proven = first, False
    if not (first and first.finish <= bound.finish):
        share = FINISH_SHARE if tidy and problem.windows else 1.0
        if first and problem.windows and not halt.asked:
            bound = _after_refuting(problem, bound, first.finish, seconds * REFUTE_SHARE, halt)
        model = _Model(problem, bound.finish, first.finish if first else None)
        best, reached, proven = model.shortest(seconds * share, first, say, halt)
        if reached > bound.finish:
            bound = Bound(finish=reached, why="search" if not proven else "proven")
    else:
        proven = True
    if best and tidy and problem.windows and not halt.asked:
        model = _Model(problem, bound.finish, best.finish)
        spare = seconds * (1 - FINISH_SHARE - REFUTE_SHARE) if not proven else seconds / 2
        best = model.tidiest(spare, best, bound.finish, say, halt)
    return Answer(solution=best, bound=bound, proven=proven, first_come_finish=plain.finish if plain else None)


def _after_refuting(problem: ScheduleProblem, bound: Bound, finish: int, seconds: float, stop: Stop) -> Bound:
    """Raises the bound past each working day by which the search proves it cannot be done."""
    heads = earliest_starts(problem)
    tail = min((task.tail for task in problem.tasks if task.tail), default=0)
    for _, closes in problem.windows:
        latest = closes + tail
        if latest < bound.finish:
            continue
        if latest >= finish or stop.asked:
            break
        if not _Model(problem, bound.finish, latest).is_refuted(seconds, stop):
            break
        later = next_finish(problem, latest, heads)
        bound = Bound(finish=max(bound.finish, min(later, finish)), why="day by day")
    return bound


class _Telling(cp_model.CpSolverSolutionCallback):
    def __init__(
        self, model: "_Model", aim: Literal["finish", "days"], bound: int, say: Callable[[Progress], None]
    ) -> None:
        super().__init__()
        self._model, self._aim, self._bound, self._say = model, aim, bound, say

    def on_solution_callback(self) -> None:
        found = self._model.read(self.value)
        self._say(Progress(aim=self._aim, solution=found, bound=self._bound))


class _Model:
    """`latest` is a finish that a known schedule has: nothing later is looked for."""

    def __init__(self, problem: ScheduleProblem, earliest: int, latest: int | None) -> None:
        self.problem = problem
        self.cp = cp_model.CpModel()
        ends = [closes for _, closes in problem.windows]
        work = sum(task.length + task.tail for task in problem.tasks)
        longest_wait = sum(link.least for link in problem.links)
        self.horizon = (
            latest
            if latest is not None
            else (
                max(ends) + max((t.tail for t in problem.tasks), default=0)
                if ends
                else problem.not_before + work + longest_wait
            )
        )
        self.finish = self.cp.new_int_var(min(earliest, self.horizon), self.horizon, "finish")
        self.starts = {task.key: self._start(task) for task in problem.tasks}
        self.taken: dict[str, list[cp_model.IntervalVar]] = {n: [] for n in problem.capacity}
        for task in problem.tasks:
            self.cp.add(self.finish >= self.starts[task.key] + task.length + task.tail)
            for need in task.needs:
                self.taken[need.resource].append(
                    self.cp.new_fixed_size_interval_var(
                        self.starts[task.key] + need.start, need.end - need.start, f"{task.key} {need.resource}"
                    )
                )
        for link in problem.links:
            self._link(link.first, link.then, link.least, link.most)
        self.presence: dict[str, dict[str, cp_model.IntVar]] = {}
        self.alike: dict[str, dict[str, cp_model.IntVar]] = {}
        for claim in problem.claims:
            self._claim(claim)
        for name, intervals in self.taken.items():
            self._keep_capacity(name, intervals)
        self._iron_last()

    def _start(self, task: Task) -> cp_model.IntVar:
        if task.key in self.problem.fixed:
            at = self.problem.fixed[task.key]
            return self.cp.new_int_var(at, at, task.key)
        latest = self.horizon - task.length - task.tail
        intervals = self.problem.start_intervals(task, latest)
        domain = cp_model.Domain.from_intervals([list(pair) for pair in intervals])
        return self.cp.new_int_var_from_domain(domain, task.key)

    def _link(self, first: str, then: str, least: int, most: int | None) -> None:
        if first in self.problem.fixed and then in self.problem.fixed:
            return
        end = self.starts[first] + self.problem.task[first].length
        self.cp.add(self.starts[then] >= end + least)
        # What is running already may have waited too long: it goes on as soon as it can.
        if most is not None and first not in self.problem.fixed:
            self.cp.add(self.starts[then] <= end + most)

    def _claim(self, claim: Claim) -> None:
        start = self.starts[claim.first]
        end = self.starts[claim.last] + self.problem.task[claim.last].length
        size = self.cp.new_int_var(0, self.horizon, "")
        choices = self.problem.allowed(claim)
        if len(choices) == 1:
            self.taken[choices[0]].append(self.cp.new_interval_var(start, size, end, claim.key))
            return
        known = self.alike.get(claim.alike or "")
        if known is None:
            known = {name: self.cp.new_bool_var("") for name in choices}
            self.cp.add_exactly_one(known.values())
            if claim.alike:
                self.alike[claim.alike] = known
        self.presence[claim.key] = known
        for name, there in known.items():
            self.taken[name].append(self.cp.new_optional_interval_var(start, size, end, there, claim.key))

    def _keep_capacity(self, name: str, intervals: list[cp_model.IntervalVar]) -> None:
        capacity = self.problem.capacity[name]
        if len(intervals) <= capacity:
            return
        if capacity == 1:
            self.cp.add_no_overlap(intervals)
        else:
            self.cp.add_cumulative(intervals, [1] * len(intervals), capacity)

    def _iron_last(self) -> None:
        """On a day with both, the hands of late tasks come after those of all others."""
        day = self.problem.day_ticks
        late = [task for task in self.problem.tasks if task.late and task.hands]
        others = [task for task in self.problem.tasks if not task.late and task.hands]
        if not day or not late or not others:
            return
        days = self.horizon // day + 1
        for task in late:
            today = self.cp.new_int_var(0, days, "")
            start = self.starts[task.key]
            self.cp.add(start >= today * day)
            self.cp.add(start < (today + 1) * day)
            for other in others:
                first = self.cp.new_bool_var("")
                begins = self.starts[other.key]
                self.cp.add(begins + other.hands <= start).only_enforce_if(first)
                self.cp.add(begins >= (today + 1) * day).only_enforce_if(~first)

    def shortest(
        self, seconds: float, hint: Solution | None, say: Callable[[Progress], None], stop: Stop
    ) -> tuple[Solution | None, int, bool]:
        """The solution, the solver's own bound, and whether that settles it."""
        self.cp.minimize(self.finish)
        self._hint(hint)
        solver = _solver(seconds)
        bound = min(self.finish.proto.domain[0], self.horizon)
        status = self._run(solver, _Telling(self, "finish", bound, say), stop)
        if status in (cp_model.OPTIMAL, cp_model.FEASIBLE):
            found = self.read(solver.value)
            reached = int(solver.best_objective_bound + 0.5)
            return found, min(reached, found.finish), status == cp_model.OPTIMAL
        return hint, 0, status == cp_model.INFEASIBLE

    def is_refuted(self, seconds: float, stop: Stop) -> bool:
        """Whether it is proven that nothing finishes by `latest`."""
        solver = _solver(seconds)
        stop.watch(solver)
        return bool(solver.solve(self.cp) == cp_model.INFEASIBLE)

    def tidiest(
        self, seconds: float, hint: Solution, bound: int, say: Callable[[Progress], None], stop: Stop
    ) -> Solution:
        """With the finish kept: few days with work, and short stretches of hands on each."""
        self.cp.minimize(self._days_and_stretches())
        self._hint(hint)
        solver = _solver(seconds)
        status = self._run(solver, _Telling(self, "days", bound, say), stop)
        return self.read(solver.value) if status in (cp_model.OPTIMAL, cp_model.FEASIBLE) else hint

    def _days_and_stretches(self) -> cp_model.LinearExprT:
        windows = [w for w in self.problem.windows if w[0] <= self.horizon]
        longest = max(closes - opens for opens, closes in windows)
        used, stretches = [], []
        for opens, closes in windows:
            used.append(self.cp.new_bool_var(""))
            first = self.cp.new_int_var(opens, closes, "")
            last = self.cp.new_int_var(opens, closes, "")
            stretch = self.cp.new_int_var(0, closes - opens, "")
            self.cp.add(stretch == last - first)
            stretches.append((first, last, stretch))
        for task in self.problem.tasks:
            if not task.hands or task.key in self.problem.fixed:
                continue
            there = []
            start = self.starts[task.key]
            for i, (opens, closes) in enumerate(windows):
                here = self.cp.new_bool_var("")
                self.cp.add(start >= opens).only_enforce_if(here)
                self.cp.add(start + task.hands <= closes).only_enforce_if(here)
                self.cp.add_implication(here, used[i])
                self.cp.add(stretches[i][0] <= start - task.lead).only_enforce_if(here)
                self.cp.add(stretches[i][1] >= start + task.hands).only_enforce_if(here)
                there.append(here)
            self.cp.add_exactly_one(there)
        whole_day = longest * len(windows) + 1
        return sum(used) * whole_day + sum(stretch for _, _, stretch in stretches)

    def _run(self, solver: cp_model.CpSolver, telling: _Telling, stop: Stop) -> int:
        stop.watch(solver)
        if stop.asked:
            solver.parameters.max_time_in_seconds = 0.01
        return int(solver.solve(self.cp, telling))

    def _hint(self, hint: Solution | None) -> None:
        if hint is None:
            return
        for key, start in hint.starts.items():
            self.cp.add_hint(self.starts[key], start)
        for key, known in self.presence.items():
            for name, there in known.items():
                self.cp.add_hint(there, hint.choices.get(key) == name)

    def read(self, value: Callable[[cp_model.IntVar], int]) -> Solution:
        starts = {key: int(value(start)) for key, start in self.starts.items()}
        choices = {
            claim.key: next(
                (n for n, there in self.presence.get(claim.key, {}).items() if value(there)),
                self.problem.allowed(claim)[0],
            )
            for claim in self.problem.claims
        }
        return Solution(starts=starts, choices=choices, finish=self.problem.finish_of(starts))


def _solver(seconds: float) -> cp_model.CpSolver:
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.num_workers = WORKERS
    solver.parameters.random_seed = 1
    return solver
