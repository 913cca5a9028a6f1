"""A plain list schedule: one chain after the other, each as early as it fits."""

from collections.abc import Iterable

from zesty_grid.core.dye.scheduling.problem import Claim, ScheduleProblem, Solution, Task

MOST_PUSHES = 4000
MOST_RESTARTS = 40


def list_schedule(problem: ScheduleProblem, order: Iterable[str] | None = None) -> Solution | None:
    """Puts whole chains in order, first come first; `order` names tasks, the first of each counts.

    Where a chain comes too late after another, the other one is put later and all is begun anew.
    None where a chain finds no place, which does not prove that there is none.
    """
    chains = _chains(problem, list(order or (task.key for task in problem.tasks)))
    floors: dict[str, int] = {}
    for _ in range(MOST_RESTARTS):
        run = _Run(problem, floors)
        if not all(run.place(chain) for chain in chains):
            return None
        late = _too_late(problem, run.starts)
        if late is None:
            return Solution(starts=run.starts, choices=run.choices, finish=problem.finish_of(run.starts))
        floors[late[0]] = late[1]
    return None


def best_list_schedule(problem: ScheduleProblem) -> Solution | None:
    """The best of a few plain orders: as given, longest way to go first, shortest first."""
    togo = _way_to_go(problem)
    keys = [task.key for task in problem.tasks]
    by_length = sorted(keys, key=lambda key: -togo[key])
    found = [list_schedule(problem, order) for order in (keys, by_length, by_length[::-1])]
    return min((one for one in found if one), key=lambda one: one.finish, default=None)


class _Run:
    """What is taken so far."""

    def __init__(self, problem: ScheduleProblem, floors: dict[str, int]) -> None:
        self.problem = problem
        self.floors = floors
        self.starts: dict[str, int] = {}
        self.choices: dict[str, str] = {}
        self.taken: dict[str, list[tuple[int, int]]] = {name: [] for name in problem.capacity}
        self.alike: dict[str, str] = {}
        for key, start in problem.fixed.items():
            self._take(problem.task[key], start)
        for claim in problem.claims:
            if claim.first in problem.fixed and claim.last in problem.fixed:
                self._take_claim(claim, problem.allowed(claim)[0])

    def place(self, chain: list[Task]) -> bool:
        """Places a chain as early as it goes; False where it does not go."""
        open_ones = [task for task in chain if task.key not in self.problem.fixed]
        if not open_ones:
            return True
        floor = {task.key: max(self.problem.not_before, self.floors.get(task.key, 0)) for task in open_ones}
        for _ in range(MOST_PUSHES):
            tried = self._lay(open_ones, floor)
            if tried is None:
                return False
            push = self._too_early(open_ones, tried) or self._vessel_busy(chain, tried)
            if push is None:
                for task in open_ones:
                    self._take(task, tried[task.key])
                for claim, choice in self._claims(chain, tried):
                    self._take_claim(claim, choice)
                return True
            key, at_least = push
            floor[key] = max(floor[key], at_least)
        return False

    def _lay(self, tasks: list[Task], floor: dict[str, int]) -> dict[str, int] | None:
        """Each task as early as its links, the hours and the resources allow."""
        tried: dict[str, int] = {}
        for task in tasks:
            start = floor[task.key]
            for link in self.problem.links_into[task.key]:
                before = tried.get(link.first, self.starts.get(link.first))
                if before is not None:
                    length = self.problem.task[link.first].length
                    start = max(start, before + length + link.least)
            found = self._free_from(task, start, tried)
            if found is None:
                return None
            tried[task.key] = found
        return tried

    def _free_from(self, task: Task, start: int, tried: dict[str, int]) -> int | None:
        while True:
            within = self.problem.next_start(task, start)
            if within is None:
                return None
            later = self._order_of_day(task, within)
            for need in task.needs:
                own = [
                    (at + other.start, at + other.end)
                    for key, at in tried.items()
                    for other in self.problem.task[key].needs
                    if other.resource == need.resource
                ]
                busy = _busy_until(
                    [*self.taken[need.resource], *own],
                    within + need.start,
                    within + need.end,
                    self.problem.capacity[need.resource],
                )
                if busy is not None:
                    later = max(later, busy - need.start)
            if later <= within:
                return within
            start = later

    def _order_of_day(self, task: Task, start: int) -> int:
        """Late tasks come after all others of their day, and others never after a late one."""
        day = self.problem.day_ticks
        if not day or not task.hands:
            return start
        today = start // day
        later = start
        for key, at in self.starts.items():
            other = self.problem.task[key]
            if other.late == task.late or not other.hands or at // day != today:
                continue
            if task.late and at + other.hands > start:
                later = max(later, at + other.hands)
            if other.late and start + task.hands > at:
                later = max(later, (today + 1) * day)
        return later

    def _too_early(self, tasks: list[Task], tried: dict[str, int]) -> tuple[str, int] | None:
        """A task that has to wait because the next one comes too late after it."""
        for task in reversed(tasks):
            for link in self.problem.links_into[task.key]:
                before = tried.get(link.first)
                if link.most is None or before is None:
                    continue
                latest = tried[task.key] - link.most - self.problem.task[link.first].length
                if before < latest:
                    return link.first, latest
        return None

    def _vessel_busy(self, chain: list[Task], tried: dict[str, int]) -> tuple[str, int] | None:
        keys = {task.key for task in chain}
        for claim in self.problem.claims:
            if claim.first not in keys or claim.first in self.problem.fixed:
                continue
            start, end = self._span(claim, tried)
            frees = [
                _busy_until(self.taken[name], start, end, self.problem.capacity[name]) for name in self._allowed(claim)
            ]
            if all(free is not None for free in frees):
                return claim.first, min(free for free in frees if free is not None)
        return None

    def _claims(self, chain: list[Task], tried: dict[str, int]) -> list[tuple[Claim, str]]:
        keys = {task.key for task in chain}
        found = []
        for claim in self.problem.claims:
            if claim.first in keys and claim.key not in self.choices:
                start, end = self._span(claim, tried)
                free = (
                    name
                    for name in self._allowed(claim)
                    if _busy_until(self.taken[name], start, end, self.problem.capacity[name]) is None
                )
                choice = next(free, self._allowed(claim)[0])
                found.append((claim, choice))
                if claim.alike:
                    self.alike[claim.alike] = choice
        return found

    def _allowed(self, claim: Claim) -> tuple[str, ...]:
        own = self.problem.allowed(claim)
        same = self.alike.get(claim.alike or "")
        return (same,) if same in own else own

    def _span(self, claim: Claim, tried: dict[str, int]) -> tuple[int, int]:
        starts = self.starts | tried
        return starts[claim.first], starts[claim.last] + self.problem.task[claim.last].length

    def _take(self, task: Task, start: int) -> None:
        self.starts[task.key] = start
        for need in task.needs:
            self.taken[need.resource].append((start + need.start, start + need.end))

    def _take_claim(self, claim: Claim, choice: str) -> None:
        self.choices[claim.key] = choice
        self.taken[choice].append(self._span(claim, {}))


def _busy_until(taken: list[tuple[int, int]], start: int, end: int, capacity: int) -> int | None:
    """When one of those in the way ends, if all are taken at some moment; None where it is free."""
    if start >= end:
        return None
    inside = [(s, e) for s, e in taken if s < end and e > start]
    if len(inside) < capacity:
        return None
    for moment in sorted({start, *(s for s, _ in inside if s > start)}):
        running = [e for s, e in inside if s <= moment < e]
        if len(running) >= capacity:
            return max(start + 1, min(running))
    return None


def _too_late(problem: ScheduleProblem, starts: dict[str, int]) -> tuple[str, int] | None:
    """A task that has to wait, as one of another chain comes too late after it."""
    for link in problem.links:
        if link.most is None or link.first in problem.fixed:
            continue
        earliest = starts[link.then] - link.most - problem.task[link.first].length
        if starts[link.first] < earliest:
            return link.first, earliest
    return None


def _chains(problem: ScheduleProblem, order: list[str]) -> list[list[Task]]:
    """The tasks of each chain in the order of its links, after the chains that it waits for."""
    chain = {task.key: task.chain or task.key for task in problem.tasks}
    members: dict[str, list[Task]] = {}
    for task in problem.in_order:
        members.setdefault(chain[task.key], []).append(task)
    waits: dict[str, set[str]] = {name: set() for name in members}
    for link in problem.links:
        if chain[link.first] != chain[link.then]:
            waits[chain[link.then]].add(chain[link.first])
    wanted = list(dict.fromkeys(chain[key] for key in order))
    running = {chain[key] for key in problem.fixed}
    wanted.sort(key=lambda name: name not in running)
    placed: dict[str, None] = {}
    while len(placed) < len(wanted):
        left = [name for name in wanted if name not in placed]
        ready = (name for name in left if waits[name] <= placed.keys())
        placed[next(ready, left[0])] = None
    return [members[name] for name in placed]


def _way_to_go(problem: ScheduleProblem) -> dict[str, int]:
    """Ticks from the start of a task to the finish, along its longest way."""
    togo = {task.key: task.length + task.tail for task in problem.tasks}
    for task in reversed(problem.in_order):
        for link in problem.links_into[task.key]:
            first = problem.task[link.first]
            togo[first.key] = max(togo[first.key], first.length + link.least + togo[task.key])
    return togo
