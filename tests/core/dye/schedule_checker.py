"""An independent check of a schedule: walks through time, and shares no code with the model."""

from collections.abc import Iterator

from zesty_grid.core.dye.scheduling.problem import ScheduleProblem, Solution


def faults_of(problem: ScheduleProblem, solution: Solution) -> list[str]:
    """Everything that is wrong with a schedule, in words."""
    return [
        *_missing(problem, solution),
        *_waits(problem, solution),
        *_crowding(problem, solution),
        *_hours(problem, solution),
        *_iron_before_others(problem, solution),
    ]


def _missing(problem: ScheduleProblem, solution: Solution) -> Iterator[str]:
    if {t.key for t in problem.tasks} != set(solution.starts):
        yield "a task is missing, or there is one too many"
    for key, at in problem.fixed.items():
        if solution.starts[key] != at:
            yield f"{key} was started at {at} and is said to start at {solution.starts[key]}"
    for task in problem.tasks:
        if task.key not in problem.fixed and solution.starts[task.key] < problem.not_before:
            yield f"{task.key} starts in the past"
    last = max(solution.starts[t.key] + t.length + t.tail for t in problem.tasks)
    if last != solution.finish:
        yield f"it is said to finish at {solution.finish} and does at {last}"


def _waits(problem: ScheduleProblem, solution: Solution) -> Iterator[str]:
    lengths = {t.key: t.length for t in problem.tasks}
    for link in problem.links:
        wait = solution.starts[link.then] - solution.starts[link.first] - lengths[link.first]
        if wait < link.least:
            yield f"{link.then} comes {link.least - wait} too early after {link.first}"
        if link.most is not None and wait > link.most and link.first not in problem.fixed:
            yield f"{link.then} comes {wait - link.most} too late after {link.first}"


def _crowding(problem: ScheduleProblem, solution: Solution) -> Iterator[str]:
    """Counts, tick by tick, how many hold each resource."""
    held: dict[tuple[str, int], int] = {}
    for task in problem.tasks:
        for need in task.needs:
            at = solution.starts[task.key]
            for tick in range(at + need.start, at + need.end):
                held[need.resource, tick] = held.get((need.resource, tick), 0) + 1
    ends = {t.key: solution.starts[t.key] + t.length for t in problem.tasks}
    taken: dict[str, str] = {}
    for claim in problem.claims:
        choice = solution.choices[claim.key]
        if choice not in claim.choices:
            yield f"{claim.key} is in {choice}, which is not right for it"
        if claim.alike and taken.setdefault(claim.alike, choice) != choice:
            yield f"{claim.key} is not in the same kind of vessel as the others"
        for tick in range(solution.starts[claim.first], ends[claim.last]):
            held[choice, tick] = held.get((choice, tick), 0) + 1
    for (resource, tick), count in held.items():
        if count > problem.capacity[resource]:
            yield f"{count} hold {resource} at {tick}: more than {problem.capacity[resource]}"


def _hours(problem: ScheduleProblem, solution: Solution) -> Iterator[str]:
    open_ticks = {tick for opens, closes in problem.windows for tick in range(opens, closes)}
    for task in problem.tasks:
        at = solution.starts[task.key]
        if not problem.windows or task.key in problem.fixed or not task.open_ticks:
            continue
        if any(tick not in open_ticks for tick in range(at - task.lead, at + task.open_ticks)):
            yield f"{task.key} at {at} is not within working hours"


def _iron_before_others(problem: ScheduleProblem, solution: Solution) -> Iterator[str]:
    day = problem.day_ticks
    if not day:
        return
    hands = [
        (solution.starts[t.key], max(n.end for n in t.needs if n.resource == "hands"), t)
        for t in problem.tasks
        if t.key not in problem.fixed and any(n.resource == "hands" for n in t.needs)
    ]
    for at, _, late in hands:
        for other_at, other_length, other in hands:
            same_day = at // day == other_at // day
            if late.late and not other.late and same_day and other_at + other_length > at:
                yield f"{other.key} comes after iron in {late.key} on the same day"
