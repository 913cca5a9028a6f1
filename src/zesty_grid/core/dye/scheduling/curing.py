"""What is short where a plan cannot be made or comes too late, and what would cure it."""

from collections.abc import Callable
from datetime import datetime

from zesty_grid.core.dye.protocol import SATURDAY, Protocol, WorkingHours
from zesty_grid.core.dye.scheduling.answer import Stop
from zesty_grid.core.dye.scheduling.from_bench import BenchProblem, SoFar, problem_of
from zesty_grid.core.dye.scheduling.problem import Solution
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.shelf.shelf import Shelf

SECONDS_EACH = 3.0
AN_HOUR = 60
MIDNIGHT = 24 * 60


class Cure(Frozen):
    """A change, and when everything would be ready with it; tried out, not guessed."""

    words: str
    ready_at: datetime


def what_is_short(made: BenchProblem, names: dict[str, str]) -> list[str]:
    """Tasks that fit into no working day at all."""
    problem = made.problem
    longest = max((closes - opens for opens, closes in problem.windows), default=0)
    said = []
    for task in problem.tasks:
        if task.key in problem.fixed or not task.open_ticks:
            continue
        wanted = task.lead + task.open_ticks
        if wanted > longest:
            said.append(
                f"{names[task.key]} takes {_hours(wanted)} in one stretch; the longest "
                f"working day has {_hours(longest)}."
            )
    return said


def cures_for(
    bench: list[BenchVessel],
    shelf: Shelf,
    protocol: Protocol,
    start: datetime,
    so_far: SoFar,
    known: Solution | None,
    made: BenchProblem,
    stop: Stop,
    tell: Callable[[str], None],
) -> list[Cure]:
    """Each single change that makes it possible, or sooner, the best first."""
    # The solver takes half a second to load, and most sessions plan no days.
    from zesty_grid.core.dye.scheduling.solver import solve

    before = made.moment(known.finish) if known else None
    found = []
    for words, other_shelf, other in _changes(made, shelf, protocol):
        if stop.asked:
            break
        tell(words)
        tried = problem_of(bench, other_shelf, other, start, so_far)
        answer = solve(tried.problem, SECONDS_EACH, stop=stop, tidy=False)
        if answer.solution:
            ready = tried.moment(answer.solution.finish)
            if before is None or ready < before:
                found.append(Cure(words=words, ready_at=ready))
    return sorted(found, key=lambda cure: cure.ready_at)


def _changes(made: BenchProblem, shelf: Shelf, protocol: Protocol) -> list[tuple[str, Shelf, Protocol]]:
    changes: list[tuple[str, Shelf, Protocol]] = []
    hours = next(day for day in protocol.week if day)
    longer = WorkingHours(
        opens_min=max(0, hours.opens_min - AN_HOUR), closes_min=min(MIDNIGHT, hours.closes_min + AN_HOUR)
    )
    if protocol.week[SATURDAY] is None:
        week = (*protocol.week[:SATURDAY], hours, *protocol.week[SATURDAY + 1 :])
        changes.append(("Work on Saturdays too", shelf, protocol.model_copy(update={"week": week})))
    week = tuple(longer if day else None for day in protocol.week)
    changes.append(("An hour more at each end of the day", shelf, protocol.model_copy(update={"week": week})))
    hands = protocol.pairs_of_hands + 1
    changes.append((f"{_count(hands)} pairs of hands", shelf, protocol.model_copy(update={"pairs_of_hands": hands})))
    used = {name for claim in made.problem.claims for name in claim.choices}
    for pot in shelf.vessels:
        if pot.key in used:
            more = pot.model_copy(update={"count": pot.count + 1})
            others = tuple(more if one.key == pot.key else one for one in shelf.vessels)
            changes.append(
                (
                    f"One more of “{pot.name}” ({pot.count + 1} in all)",
                    shelf.model_copy(update={"vessels": others}),
                    protocol,
                )
            )
    if shelf.heat_places:
        first = shelf.heat_places[0]
        more_heat = first.model_copy(update={"count": first.count + 1})
        changes.append(
            (
                "One more heat place",
                shelf.model_copy(update={"heat_places": (more_heat, *shelf.heat_places[1:])}),
                protocol,
            )
        )
    return changes


def _count(n: int) -> str:
    return {2: "Two", 3: "Three", 4: "Four"}.get(n, str(n))


def _hours(ticks: int) -> str:
    minutes = ticks * 5
    return f"{minutes // 60} h {minutes % 60:02} min"
