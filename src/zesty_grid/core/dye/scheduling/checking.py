"""What is wrong with a day plan after a step was moved by hand, in words."""

from zesty_grid.core.dye.scheduling.from_bench import HEAT, BenchProblem
from zesty_grid.core.dye.scheduling.problem import HANDS, Solution


def faults_after_move(made: BenchProblem, solution: Solution, names: dict[str, str]) -> list[str]:
    """Everything that cannot be so; `names` gives each task in words. Empty: it holds."""
    return [
        *_order(made, solution, names),
        *_hours(made, solution, names),
        *_too_many(made, solution, names),
        *_iron_order(made, solution, names),
    ]


def _clock(made: BenchProblem, tick: int) -> str:
    return f"{made.moment(tick):%a %-d %b %H:%M}"


def _order(made: BenchProblem, solution: Solution, names: dict[str, str]) -> list[str]:
    found = []
    problem = made.problem
    for link in problem.links:
        end = solution.starts[link.first] + problem.task[link.first].length
        start = solution.starts[link.then]
        if start < end + link.least:
            found.append(
                f"{names[link.then]} cannot begin before {_clock(made, end + link.least)}: "
                f"{names[link.first]} comes first."
            )
        if link.most is not None and start > end + link.most and link.first not in problem.fixed:
            found.append(
                f"{names[link.then]} is to begin by {_clock(made, end + link.most)}: "
                f"{names[link.first]} may not wait longer."
            )
    return found


def _hours(made: BenchProblem, solution: Solution, names: dict[str, str]) -> list[str]:
    problem = made.problem
    found = []
    for task in problem.tasks:
        start = solution.starts[task.key]
        if task.key in problem.fixed and start < problem.not_before:
            continue
        if start < problem.not_before:
            found.append(f"{names[task.key]} would begin in the past.")
        elif problem.next_start(task, start) != start:
            found.append(f"{names[task.key]} does not fit into the working hours at {_clock(made, start)}.")
    return found


def _too_many(made: BenchProblem, solution: Solution, names: dict[str, str]) -> list[str]:
    problem = made.problem
    uses: dict[str, list[tuple[int, int, str]]] = {name: [] for name in problem.capacity}
    for task in problem.tasks:
        at = solution.starts[task.key]
        for need in task.needs:
            uses[need.resource].append((at + need.start, at + need.end, task.key))
    for claim in problem.claims:
        end = solution.starts[claim.last] + problem.task[claim.last].length
        uses[solution.choices[claim.key]].append((solution.starts[claim.first], end, claim.first))
    words = {HANDS: "pair of hands", HEAT: "heat place"}
    found = []
    for resource, spans in uses.items():
        for start, _, _ in spans:
            at_once = [key for s, e, key in spans if s <= start < e]
            if len(at_once) > problem.capacity[resource]:
                what = words.get(resource, f"vessel “{resource}”")
                who = " and ".join(dict.fromkeys(names[key] for key in at_once))
                found.append(f"{_clock(made, start)}: {who} want the same {what}.")
    return list(dict.fromkeys(found))


def _iron_order(made: BenchProblem, solution: Solution, names: dict[str, str]) -> list[str]:
    problem = made.problem
    day = problem.day_ticks
    hands = [task for task in problem.tasks if task.hands]
    return [
        f"{names[other.key]} would come after iron ({names[late.key]}) on the same day."
        for late in hands
        if day and late.late
        for other in hands
        if not other.late
        and solution.starts[late.key] // day == solution.starts[other.key] // day
        and solution.starts[other.key] + other.hands > solution.starts[late.key]
    ]
