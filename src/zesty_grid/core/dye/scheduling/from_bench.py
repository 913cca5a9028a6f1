"""The bench as a schedule problem: steps become tasks, vessels claims, the week working hours."""

from datetime import date, datetime, timedelta
from math import ceil

from pydantic import Field

from zesty_grid.core.dye.bench import liquors_taken_over
from zesty_grid.core.dye.extracting import drawing_step
from zesty_grid.core.dye.protocol import Protocol
from zesty_grid.core.dye.scheduling.problem import HANDS, Claim, Link, Need, ScheduleProblem, Task
from zesty_grid.core.dye.step import Step
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.filling import CLOSE, room_ml
from zesty_grid.core.plan.vessel import Vessel, fits
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.shelf import Shelf

TICK_MIN = 5
DAY_TICKS = 24 * 60 // TICK_MIN
HEAT = "heat"
# A bath in a pot that is much too large is too shallow to cover the pieces; common practice.
LEAST_FILL = 0.2
MOST_DAYS = 365
WATER_BATH_CLAIM = ", the water bath"
# Steps of an iron vessel at which hands meet the iron.
TOUCHES_IRON = (
    "enter",
    "dip",
    "stock",
    "iron",
    "finish",
    "rinse",
    "dissolve",
    "add",
    "out",
    "air",
    "unfold",
    "again",
    "unroll",
)
# Jars may stand so long in the pot before and after its heat.
SLACK_MIN = 12 * 60


class StretchOfWork(Frozen):
    """A task in words: the steps that are done in one go, and what runs after them."""

    task: str
    vessel: str
    steps: tuple[str, ...]
    runs: str | None
    hands_ticks: int
    lead_ticks: int
    iron: bool


class SoFar(Frozen):
    """What has happened, by task, in the bench's own time, and what a person has set by hand.

    `done` tasks are over; `begun` ones that are not done run; `vessels` says by claim what each is
    in; `pinned` tasks start when the person says.
    """

    begun: dict[str, datetime] = Field(default_factory=dict)
    done: dict[str, datetime] = Field(default_factory=dict)
    vessels: dict[str, str] = Field(default_factory=dict)
    pinned: dict[str, datetime] = Field(default_factory=dict)


class BenchProblem(Frozen):
    """`origin` is midnight of day 0, in the bench's own time."""

    problem: ScheduleProblem
    stretches: tuple[StretchOfWork, ...]
    origin: datetime

    def moment(self, tick: int) -> datetime:
        return self.origin + timedelta(minutes=tick * TICK_MIN)

    def tick(self, moment: datetime) -> int:
        return int((moment - self.origin).total_seconds() // 60) // TICK_MIN


def ticks(minutes: float) -> int:
    """Whole ticks that hold so many minutes."""
    return ceil(minutes / TICK_MIN - 1e-9)


def problem_of(
    bench: list[BenchVessel],
    shelf: Shelf,
    protocol: Protocol,
    start: datetime,
    so_far: SoFar | None = None,
    days: int = 120,
) -> BenchProblem:
    """Everything on the bench from `start` (the bench's own time) on.

    Raises Refusal where the Shelf lacks a vessel or a heat place for a bath.
    """
    so_far = so_far or SoFar()
    origin = datetime.combine(min([start, *so_far.begun.values()]).date(), datetime.min.time())
    tasks: list[Task] = []
    stretches: list[StretchOfWork] = []
    links: list[Link] = []
    claims: list[Claim] = []
    first_of: dict[str, str] = {}
    enter_of: dict[str, str] = {}
    last_of: dict[str, str] = {}
    rests_of: dict[str, int] = {}
    by_key = {one.name: one for one in bench}
    takes_over = liquors_taken_over([one.vessel for one in bench])
    first_dip = _first_dips(takes_over, set(by_key))
    leader_of = _leaders(bench)
    for one in bench:
        follows = leader_of.get(one.name, one.name) != one.name
        own = _stretches(one, follows)
        for i, (stretch, run, waits) in enumerate(own):
            final = i == len(own) - 1
            task = _task(one, stretch, run, protocol, final)
            chain = first_dip.get(one.name, leader_of.get(one.name, one.name))
            tasks.append(task.model_copy(update={"chain": chain}))
            stretches.append(stretch)
            if not final:
                links.append(_wait(stretch.task, own[i + 1][0].task, waits))
        key = one.name
        first_of[key], last_of[key] = own[0][0].task, own[-1][0].task
        enter_of[key] = next((s.task for s, _, _ in own if {"enter", "dip"} & set(s.steps)), own[0][0].task)
        if key not in first_dip and (one.vessel.on_shelf or not one.begun):
            claims.append(_claim(one.vessel, first_of[key], last_of[key], shelf))
        hot = next((s.task for s, run, _ in own if run is not None), None)
        if one.water_bath and one.water_bath.pot and hot and not follows and not one.begun:
            claims.append(Claim(key=f"{key}{WATER_BATH_CLAIM}", first=hot, last=hot, choices=(one.water_bath.pot,)))
        rests_of[key] = sum(ticks(step.shortest_min) for step in own[-1][2])
    links += _in_one_pot(leader_of, stretches, links)
    drawn_in = {(s.vessel, step): s.task for s in stretches for step in s.steps}
    for one in bench:
        links += [
            _between(
                by_key[key].vessel,
                one.vessel,
                protocol,
                takes_over,
                first_of,
                enter_of,
                last_of | _drawn_early(by_key[key], one.name, drawn_in),
                rests_of,
            )
            for key in one.after
            if key in by_key
        ]
    last_dip = {first: dip for dip, first in first_dip.items()}
    problem = ScheduleProblem(
        tasks=tuple(tasks),
        links=tuple(links),
        claims=tuple(
            claim.model_copy(update={"last": last_of.get(last_dip.get(claim.key, claim.key), claim.last)})
            for claim in claims
        ),
        capacity=_capacity(shelf, protocol, tasks),
        windows=windows_of(protocol, origin.date(), days),
        day_ticks=DAY_TICKS,
        not_before=ticks((start - origin).total_seconds() / 60),
    )
    made = BenchProblem(problem=problem, stretches=tuple(stretches), origin=origin)
    return made.model_copy(update={"problem": _as_it_stands(made, so_far)})


def _capacity(shelf: Shelf, protocol: Protocol, tasks: list[Task]) -> dict[str, int]:
    capacity = {HANDS: protocol.pairs_of_hands}
    capacity |= {pot.key: pot.count for pot in shelf.vessels if not pot.retired}
    places = sum(place.count for place in shelf.heat_places if not place.retired)
    if places:
        capacity[HEAT] = places
    elif any(need.resource == HEAT for task in tasks for need in task.needs):
        raise Refusal("no-heat-place", "There is no heat place on the Shelf.", "Add one there, or dye cold.")
    return capacity


def _as_it_stands(made: BenchProblem, so_far: SoFar) -> ScheduleProblem:
    """What is done or runs stays where it was, whatever the plan would have said of it.

    Work of the past takes nothing any more; what runs keeps its heat and its vessel, also where
    that is more than there should be. What has no place left in the order is let go.
    """
    problem = made.problem
    known = problem.task
    begun = {k: made.tick(at) for k, at in so_far.begun.items() if k in known}
    pinned = {k: made.tick(at) for k, at in so_far.pinned.items() if k in known and k not in begun}
    now = problem.not_before
    tasks, running = [], dict.fromkeys(problem.capacity, 0)
    for task in problem.tasks:
        if task.key in begun:
            ended = task.key in so_far.done
            left = tuple(
                need for need in task.needs if need.resource != HANDS and begun[task.key] + need.end > now and not ended
            )
            for need in left:
                running[need.resource] += 1
            length = task.length
            if ended:
                length = max(1, min(length, made.tick(so_far.done[task.key]) - begun[task.key]))
            task = task.model_copy(update={"needs": left, "length": length, "open_ticks": 0})
        tasks.append(task)
    links = [link for link in problem.links if link.then not in begun]
    claims = [claim for claim in problem.claims if claim.last not in begun]
    for claim in claims:
        if claim.first in begun:
            running[so_far.vessels.get(claim.key, claim.choices[0])] += 1
    chosen = {
        claim.key: name
        for claim in claims
        if claim.first in begun and (name := so_far.vessels.get(claim.key)) in claim.choices
    }
    return problem.model_copy(
        update={
            "tasks": tuple(tasks),
            "links": tuple(links),
            "claims": tuple(claims),
            "fixed": begun | pinned,
            "chosen": chosen,
            "capacity": {k: max(n, running[k]) for k, n in problem.capacity.items()},
        }
    )


def _wait(first: str, then: str, waits: list[Step]) -> Link:
    least = sum(ticks(step.shortest_min) for step in waits)
    most = _most(waits)
    return Link(first=first, then=then, least=least, most=None if most is None else max(least, most))


def windows_of(protocol: Protocol, first: date, days: int) -> tuple[tuple[int, int], ...]:
    """The working hours of so many days from `first`, in ticks."""
    found = []
    for i in range(min(days, MOST_DAYS)):
        day = first + timedelta(days=i)
        hours = protocol.week[day.weekday()]
        if hours and day not in protocol.days_off:
            opens = i * DAY_TICKS + ticks(hours.opens_min)
            found.append((opens, i * DAY_TICKS + hours.closes_min // TICK_MIN))
    return tuple(found)


def _leaders(bench: list[BenchVessel]) -> dict[str, str]:
    """For each jar in a water bath the first jar in its pot, whose heat it shares."""
    there = {one.name for one in bench if not one.begun}
    found = {}
    for one in bench:
        if one.water_bath and not one.begun:
            jars = [name for name in one.water_bath.vessels if name in there]
            found[one.name] = jars[0] if jars else one.name
    return found


def _in_one_pot(leader_of: dict[str, str], stretches: list[StretchOfWork], links: list[Link]) -> list[Link]:
    """The pot is heated once all jars are in, and none comes out before."""
    hot_of = {one.vessel: one.task for one in stretches if one.runs and one.vessel in leader_of}
    found = []
    for name, leader in leader_of.items():
        hot = hot_of.get(leader)
        entry = next((one for one in stretches if one.vessel == name and "enter" in one.steps), None)
        if name == leader or hot is None or entry is None:
            continue
        found.append(Link(first=entry.task, then=hot))
        found += [Link(first=hot, then=one.then) for one in links if one.first == entry.task]
    return found


def _stretches(one: BenchVessel, follows: bool = False) -> list[tuple[StretchOfWork, Step | None, list[Step]]]:
    """Steps done in one go, the hot run at their end if there is one, and the waits after it.

    `follows`: another jar in the same pot has the heat; for this one it is a wait.
    """
    found: list[tuple[StretchOfWork, Step | None, list[Step]]] = []
    steps: list[str] = []
    hands, lead = 0.0, 0
    waits: list[Step] = []
    run: Step | None = None

    def close() -> None:
        nonlocal steps, hands, lead, waits, run
        if steps:
            stretch = StretchOfWork(
                task=f"{one.name}|{steps[0]}",
                vessel=one.name,
                steps=tuple(steps),
                runs=run.key if run else None,
                hands_ticks=max(1, ticks(hands)),
                lead_ticks=lead,
                iron=one.vessel.has_iron,
            )
            found.append((stretch, run, waits))
        steps, hands, lead, waits, run = [], 0.0, 0, [], None

    for step in one.steps:
        if step.place in ("bowl", "iron bowl"):
            if run or waits:
                close()
            lead = ticks(step.duration_min or step.shortest_min)
            continue
        runs = step.heat or step.shortest_min > 0 or step.key.startswith("steep")
        hot = step.heat and not follows
        if (run or waits) and (step.hands_min or not runs or hot):
            close()
        steps.append(step.key)
        hands += step.hands_min
        if hot:
            run = step
        elif step.heat:
            waits.append(step.model_copy(update={"longest_min": step.shortest_min + SLACK_MIN}))
        elif runs:
            waits.append(step)
    close()
    return found


def _task(one: BenchVessel, stretch: StretchOfWork, run: Step | None, protocol: Protocol, final: bool) -> Task:
    hands = stretch.hands_ticks
    hot = ticks(run.warm_min + (run.duration_min or run.shortest_min)) if run else 0
    needs = [Need(resource=HANDS, start=0, end=hands)]
    if hot:
        needs.append(Need(resource=HEAT, start=hands, end=hands + hot))
    dries = final and any(step.key == "dry" for step in one.steps)
    return Task(
        key=stretch.task,
        length=hands + hot,
        needs=tuple(needs),
        open_ticks=hands + hot if run and run.attended else hands,
        lead=stretch.lead_ticks,
        tail=ticks(60 * (protocol.dry_h + protocol.rest_h)) if dries else 0,
        late=protocol.iron_last and one.vessel.has_iron and not _clean(stretch),
    )


def _clean(stretch: StretchOfWork) -> bool:
    """Filling and measuring dye is done before any iron is touched."""
    return not any(step.startswith(TOUCHES_IRON) for step in stretch.steps)


def _most(waits: list[Step]) -> int | None:
    if any(step.longest_min is None for step in waits):
        return None
    return sum(ticks(step.longest_min or 0) for step in waits)


def _claim(vessel: Vessel, first: str, last: str, shelf: Shelf) -> Claim:
    if vessel.on_shelf is None:
        raise Refusal(
            "no-vessel",
            f"{vessel.name} {vessel.title}: no vessel on the Shelf is right for it.",
            "Add one on the Shelf: large enough, for iron only where iron goes in.",
        )
    others = [
        pot.key
        for pot in shelf.vessels
        if fits(vessel, pot)
        and pot.key != vessel.on_shelf
        and room_ml(pot.litres) * (1 + CLOSE) >= vessel.volume_ml
        and vessel.volume_ml >= LEAST_FILL * pot.litres * 1000
    ]
    runs_apart = vessel.replicate is not None or vessel.parts > 1
    alike = vessel.key.split(":run-")[0].split(":pot-")[0] if runs_apart else None
    return Claim(key=vessel.name, first=first, last=last, choices=(vessel.on_shelf, *others), alike=alike)


def _between(
    before: Vessel,
    after: Vessel,
    protocol: Protocol,
    takes_over: dict[str, str],
    first_of: dict[str, str],
    enter_of: dict[str, str],
    last_of: dict[str, str],
    rests_of: dict[str, int],
) -> Link:
    if before.bath == "extract":
        return Link(first=last_of[before.name], then=first_of[after.name], most=ticks(60 * protocol.extract_keeps_h))
    if takes_over.get(after.name) == before.name:
        return Link(first=last_of[before.name], then=first_of[after.name])
    wet = protocol.wet_within_h
    mordanted = before.bath in ("tannin", "mordant", "binder", "iron mordant")
    # Coated cloth rests before it goes on, and is not kept wet.
    least = rests_of[before.name] if mordanted else 0
    most = ticks(60 * wet) if wet is not None and mordanted and not least else None
    return Link(first=last_of[before.name], then=enter_of[after.name], least=least, most=most)


def _drawn_early(extract: BenchVessel, vessel: str, drawn_in: dict[tuple[str, str], str]) -> dict[str, str]:
    """Where a share is drawn off while the extract goes on, the task that draws it."""
    recipe = extract.vessel.recipe
    step = drawing_step(extract.shares, vessel, recipe.rounds) if recipe else None
    task = drawn_in.get((extract.name, step or ""))
    return {extract.name: task} if task else {}


def _first_dips(takes_over: dict[str, str], there: set[str]) -> dict[str, str]:
    """For each vessel that takes over a liquor the first one, whose pot it shares."""
    first: dict[str, str] = {}
    for name, before in takes_over.items():
        if before in there:
            first[name] = first.get(before, before)
    return first
