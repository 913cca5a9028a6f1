"""How early a schedule can finish at all: what chains, hands, heat and vessels must at least take.

Each bound holds for every schedule; the largest one counts. Working hours are taken into account.
"""

import itertools
from typing import NamedTuple

from zesty_grid.core.dye.scheduling.problem import Claim, ScheduleProblem, Task
from zesty_grid.core.frozen import Frozen


class Bound(Frozen):
    """No schedule finishes before tick `finish`, because of `why` (chain, hands, or a resource)."""

    finish: int
    why: str


def best_bound(problem: ScheduleProblem) -> Bound:
    """The largest of all bounds."""
    heads = earliest_starts(problem)
    tails = shortest_tails(problem)
    found = [chain_bound(problem, heads)]
    for resource, capacity in problem.capacity.items():
        found.append(work_bound(problem, resource, capacity, heads, tails))
    found += vessel_bounds(problem, heads, tails)
    return max(found, key=lambda bound: bound.finish)


def earliest_starts(problem: ScheduleProblem) -> dict[str, int]:
    """When each task can start at the earliest if it had everything to itself."""
    heads: dict[str, int] = {}
    for task in problem.in_order:
        if task.key in problem.fixed:
            heads[task.key] = problem.fixed[task.key]
            continue
        earliest = problem.not_before
        for link in problem.links_into[task.key]:
            first = problem.task[link.first]
            earliest = max(earliest, heads[link.first] + first.length + link.least)
        start = problem.next_start(task, earliest)
        heads[task.key] = earliest if start is None else start
    return heads


def shortest_tails(problem: ScheduleProblem) -> dict[str, int]:
    """Ticks from the end of each task to the finish at the least, without working hours."""
    tails = {task.key: task.tail for task in problem.tasks}
    for task in reversed(problem.in_order):
        for link in problem.links_into[task.key]:
            after = link.least + task.length + tails[task.key]
            tails[link.first] = max(tails[link.first], after)
    return tails


def chain_bound(problem: ScheduleProblem, heads: dict[str, int]) -> Bound:
    finish = max((heads[t.key] + t.length + t.tail for t in problem.tasks), default=0)
    return Bound(finish=finish, why="chain")


class _Work(NamedTuple):
    """One run on a resource: when it can begin, how long it is, what must follow it."""

    head: int
    length: int
    tail: int
    task: Task
    offset: int


def work_bound(
    problem: ScheduleProblem, resource: str, capacity: int, heads: dict[str, int], tails: dict[str, int]
) -> Bound:
    """All work on a resource that can start only at r and needs q after it, for every r and q.

    A run that may not be cut fills a working day only as far as whole runs fit into it, after what
    must come before it on the same day; what follows the last run keeps to working hours too.
    """
    jobs = [
        _Work(
            heads[task.key] + need.start,
            need.end - need.start,
            tails[task.key] + task.length - need.end,
            task,
            need.start,
        )
        for task in problem.tasks
        if task.key not in problem.fixed
        for need in task.needs
        if need.resource == resource and need.end > need.start
    ]
    best = 0
    inside = all(job.task.open_ticks >= job.offset + job.length for job in jobs)
    for release in {job.head for job in jobs}:
        later = [job for job in jobs if job.head >= release]
        for tail in {job.tail for job in later}:
            some = [job for job in later if job.tail >= tail]
            lengths = [job.length for job in some]
            if inside and problem.windows:
                before = min(_lead_in(problem, job.task) + job.offset for job in some)
                end = _fill_hours(problem, release, before, lengths, capacity)
            else:
                end = release + max(-(-sum(lengths) // capacity), max(lengths))
            last = min(_finish_after(problem, job, end) for job in some)
            best = max(best, end + tail, last)
    return Bound(finish=best, why=resource)


def _lead_in(problem: ScheduleProblem, task: Task) -> int:
    """Ticks that the tasks before one take on the same day, as they may not wait overnight."""
    nights = [b[0] - a[1] for a, b in itertools.pairwise(problem.windows)]
    shortest_night = min(nights, default=0)
    same_day = [
        _lead_in(problem, first) + first.length + link.least
        for link in problem.links_into[task.key]
        if link.most is not None and link.most < shortest_night
        for first in [problem.task[link.first]]
        if first.key not in problem.fixed and first.open_ticks >= first.length
    ]
    return max([task.lead, *same_day])


def _finish_after(problem: ScheduleProblem, job: _Work, end: int) -> int:
    """The earliest finish of all that follows a run which ends at `end`."""
    ends = {job.task.key: end + job.task.length - job.offset - job.length}
    finish = ends[job.task.key] + job.task.tail
    for task in problem.in_order:
        after = [ends[link.first] + link.least for link in problem.links_into[task.key] if link.first in ends]
        if not after or task.key in ends:
            continue
        start = problem.next_start(task, max(after))
        ends[task.key] = (max(after) if start is None else start) + task.length
        finish = max(finish, ends[task.key] + task.tail)
    return finish


def next_finish(problem: ScheduleProblem, after: int, heads: dict[str, int]) -> int:
    """The earliest moment later than `after` at which the last task can be ready at all."""
    moments = []
    for task in problem.tasks:
        way = task.length + task.tail
        earliest = max(heads[task.key], after + 1 - way)
        start = problem.next_start(task, earliest)
        if start is not None:
            moments.append(start + way)
    return min(moments, default=after)


def _fill_hours(problem: ScheduleProblem, release: int, before: int, lengths: list[int], capacity: int) -> int:
    """When so much work is done at the earliest, on `capacity` places side by side."""
    left = sum(lengths)
    sums = _reachable(sorted(set(lengths)), max(c - o for o, c in problem.windows))
    end = release
    for opens, closes in problem.windows:
        start = max(opens + before, release)
        if start >= closes:
            continue
        room = max((s for s in sums if s <= closes - start), default=0) * capacity
        if room >= left:
            return start + next(s for s in sums if s * capacity >= left)
        left -= room
        end = closes
    return end


def _reachable(lengths: list[int], most: int) -> list[int]:
    """All sums of whole runs up to `most`, ascending."""
    can = [True] + [False] * most
    for total in range(1, most + 1):
        can[total] = any(total >= one and can[total - one] for one in lengths)
    return [total for total, there in enumerate(can) if there]


def vessel_bounds(problem: ScheduleProblem, heads: dict[str, int], tails: dict[str, int]) -> list[Bound]:
    """Claims on the same vessels: the fullest vessel holds one after the other."""
    groups: dict[frozenset[str], list[Claim]] = {}
    for claim in problem.claims:
        if claim.first not in problem.fixed:
            groups.setdefault(frozenset(claim.choices), []).append(claim)
    found = []
    for names, _ in groups.items():
        claims = [c for own, some in groups.items() if own <= names for c in some]
        vessels = sum(problem.capacity.get(name, 0) for name in names)
        if not vessels:
            continue
        rounds = -(-len(claims) // vessels)
        between = {claim.key: _between(problem, claim) for claim in claims}
        end = min(heads[claim.first] for claim in claims)
        for _ in range(rounds):
            end = min(_claim_end(problem, between[claim.key], end) for claim in claims)
        tail = min(tails[claim.last] for claim in claims)
        work = _claim_work_bound(problem, claims, vessels, heads, tails)
        found.append(Bound(finish=max(end + tail, work), why="|".join(sorted(names))))
    return found


def _claim_work_bound(
    problem: ScheduleProblem, claims: list[Claim], vessels: int, heads: dict[str, int], tails: dict[str, int]
) -> int:
    """Every stay takes working hours of its vessel; each night hides one wait of each vessel."""
    if not problem.windows:
        return 0
    night = min((b[0] - a[1] for a, b in itertools.pairwise(problem.windows)), default=0)
    jobs, hides = [], 0
    for claim in claims:
        tasks = _between(problem, claim)
        inside = tasks[0][0].open_ticks
        for (before, _), (task, least) in itertools.pairwise(tasks):
            link = next(x for x in problem.links_into[task.key] if x.first == before.key)
            inside += task.open_ticks + least
            if link.most is None or link.most >= night:
                hides = max(hides, least)
        jobs.append((heads[claim.first], inside, tails[claim.last]))
    best = 0
    for release in {job[0] for job in jobs}:
        for tail in {job[2] for job in jobs if job[0] >= release}:
            left = sum(work for head, work, q in jobs if head >= release and q >= tail)
            best = max(best, _use_hours(problem, release, left, vessels, hides) + tail)
    return best


def _use_hours(problem: ScheduleProblem, release: int, left: int, capacity: int, hides: int) -> int:
    """When so much work is done at the earliest that may be cut anywhere."""
    end = release
    for opens, closes in problem.windows:
        start = max(opens, release)
        room = max(0, closes - start)
        if room * capacity >= left:
            return start - (-left // capacity)
        left -= (room + hides) * capacity
        end = max(end, closes)
        if left <= 0:
            return end
    return end


def _between(problem: ScheduleProblem, claim: Claim) -> list[tuple[Task, int]]:
    """The tasks on the way from a claim's first to its last, each with the wait before it."""
    way: list[tuple[Task, int]] = []
    at = claim.last
    while at != claim.first:
        chain = problem.task[at].chain
        into = [
            link
            for link in problem.links_into[at]
            if link.first == claim.first or (chain and problem.task[link.first].chain == chain)
        ]
        if not into:
            return [(problem.task[claim.first], 0)]
        way.append((problem.task[at], into[0].least))
        at = into[0].first
    return [(problem.task[claim.first], 0), *reversed(way)]


def _claim_end(problem: ScheduleProblem, way: list[tuple[Task, int]], earliest: int) -> int:
    end = earliest
    for task, least in way:
        start = problem.next_start(task, end + least)
        end = (end + least if start is None else start) + task.length
    return end
