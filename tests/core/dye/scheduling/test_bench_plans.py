"""Day plans of whole studies: sound by the independent checker, kept when life differs, cured."""

from datetime import date, datetime, timedelta
from random import Random

import pytest
from tests.bench import SMALL, USUAL, bench_for
from tests.core.dye.schedule_checker import faults_of
from tests.depth import depth
from tests.small_study import levels, small_plan, valued

from zesty_grid.core.dye.protocol import Protocol, StepTime, WorkingHours
from zesty_grid.core.dye.scheduling.answer import Stop
from zesty_grid.core.dye.scheduling.curing import cures_for, what_is_short
from zesty_grid.core.dye.scheduling.from_bench import SoFar, problem_of
from zesty_grid.core.dye.scheduling.list_schedule import best_list_schedule, list_schedule
from zesty_grid.core.dye.scheduling.planning import Work, make_day_plan, move_by_hand
from zesty_grid.core.dye.scheduling.solver import solve
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.items import ShelfVessel
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF

TUESDAY = datetime(2026, 11, 24, 9, 0)
ROUTES = ("none", "alum-hot", "alum-cold", "tannin-alum", "alum-acetate", "iron-mordant")
# Iron-mordanted prints need a steamer of their own.
RICH_SHELF = STARTING_SHELF.model_copy(
    update={
        "vessels": (
            *STARTING_SHELF.vessels,
            ShelfVessel(key="iron-steamer", name="Steamer for iron", litres=8, form="steamer", iron_only=True),
        )
    }
)
DYES = ("dried-flowers", "dried-bark", "dye-extract", "insect-dye")


def work_for(plan: StudyPlan, protocol: Protocol = USUAL, start=TUESDAY, **more) -> Work:
    shelf = more.pop("shelf", STARTING_SHELF)
    bench = bench_for(plan, protocol, shelf)
    return Work(
        bench=tuple(bench.values()), shelf=shelf, protocol=protocol, start=start, so_far=more.pop("so_far", SoFar())
    )


def random_study(rng: Random) -> StudyPlan:
    factors = [
        {"kind": "fibre", "levels": levels(*rng.sample(["wool", "silk", "cotton", "linen"], 2))},
        {"kind": "mordant", "levels": levels(*rng.sample(ROUTES, rng.randint(1, 3)))},
        {"kind": "dye", "levels": levels(*rng.sample(DYES, rng.randint(1, 2)))},
    ]
    more = [
        {"kind": "ph", "levels": valued("ph", *rng.sample([4, 5.5, 7, 9], rng.randint(1, 3)))},
        {"kind": "iron", "levels": valued("iron", *rng.sample([0, 1, 2], 2))},
        {"kind": "dip", "levels": valued("dip", 1, 2)},
        {"kind": "process", "levels": levels("hot-bath", "bundle-print")},
        {"kind": "temperature", "levels": valued("temperature", 20, 60)},
    ]
    factors += rng.sample(more, rng.randint(0, 2))
    columns = [f["kind"] for f in factors[2:]]
    return StudyPlan.model_validate(
        small_plan(
            factors=factors,
            columns=columns,
            controls=[],
            replicates=rng.choice([1, 1, 2]),
            replicate_vessels=rng.choice(["shared", "apart"]),
            swatch_mass_g=rng.choice([3, 6]),
        )
    )


def random_protocol(rng: Random) -> Protocol:
    hours = WorkingHours(opens_min=rng.choice([480, 540]), closes_min=rng.choice([1020, 1140]))
    week = tuple(hours if day < rng.choice([4, 5, 6]) or day == 0 else None for day in range(7))
    return Protocol(
        week=week,
        pairs_of_hands=rng.choice([1, 1, 2]),
        scour=rng.random() < 0.7,
        wet_within_h=rng.choice([None, None, 72]),
        extract_keeps_h=rng.choice([48, 96]),
        days_off=(date(2026, 11, 26),) if rng.random() < 0.3 else (),
        iron_last=rng.random() < 0.8,
    )


@pytest.mark.parametrize("block", range(8))
def test_hundreds_of_random_studies_have_sound_days(block):
    """A plain list for each of 200; the full search, briefly, for every tenth."""
    sound = 0
    for seed in range(block * 25, block * 25 + depth(4, 25)):
        rng = Random(seed)
        work = work_for(random_study(rng), random_protocol(rng), shelf=RICH_SHELF)
        problem = work.problem().problem
        found = [list_schedule(problem), best_list_schedule(problem)]
        if seed % 10 == 0:
            answer = solve(problem, 1.5)
            found.append(answer.solution)
            if answer.solution:
                assert answer.solution.finish >= answer.bound.finish
        for solution in found:
            if solution:
                sound += 1
                assert faults_of(problem, solution) == [], seed
    assert sound >= depth(6, 30)


def test_what_is_done_and_runs_stays_and_the_rest_moves():
    work = work_for(SMALL)
    made = work.problem()
    first = solve(made.problem, 3)
    starts = {key: made.moment(tick) for key, tick in first.solution.starts.items()}
    in_order = sorted(starts, key=starts.__getitem__)
    done, runs = in_order[:3], in_order[3]
    now = max(starts[runs], *(starts[key] for key in done)) + timedelta(minutes=40)
    late = timedelta(minutes=35)
    so_far = SoFar(
        begun={key: starts[key] for key in done} | {runs: starts[runs] + late},
        done={key: starts[key] + timedelta(minutes=30) for key in done},
    )
    again = work_for(SMALL, start=now, so_far=so_far)
    problem = again.problem()
    answer = solve(problem.problem, 3)
    assert faults_of(problem.problem, answer.solution) == []
    moved = {key: problem.moment(tick) for key, tick in answer.solution.starts.items()}
    for key, at in so_far.begun.items():
        assert abs(moved[key] - at) < timedelta(minutes=5)
    assert all(moved[key] >= now for key in in_order[4:])


def test_two_things_done_at_once_in_the_past_do_not_spoil_the_future():
    """Real people do not keep to the plan: four baths begun in one minute, one pair of hands."""
    work = work_for(SMALL)
    tasks = [task.key for task in work.problem().problem.tasks][:4]
    so_far = SoFar(begun=dict.fromkeys(tasks, TUESDAY))
    again = work_for(SMALL, start=TUESDAY + timedelta(minutes=20), so_far=so_far)
    answer = solve(again.problem().problem, 3)
    assert answer.solution is not None
    assert {answer.solution.starts[task] for task in tasks} == {answer.solution.starts[tasks[0]]}


def test_iron_comes_last_in_its_day_and_dips_keep_their_pot():
    factors = [
        {"kind": "fibre", "levels": levels("wool")},
        {"kind": "mordant", "levels": levels("alum-hot")},
        {"kind": "dye", "levels": levels("dye-extract")},
        {"kind": "dip", "levels": valued("dip", 1, 2)},
        {"kind": "iron", "levels": valued("iron", 0, 1)},
    ]
    plan = StudyPlan.model_validate(small_plan(factors=factors, columns=["dye", "dip", "iron"], controls=[]))
    work = work_for(plan)
    planned = make_day_plan(work, 4, lambda *_: None, lambda _: None, Stop()).plan
    assert planned is not None
    for iron in (one for one in planned.work if one.vessel[0] == "F"):
        after = [
            one
            for one in planned.work
            if one.starts_at.date() == iron.starts_at.date() and one.starts_at > iron.starts_at and not one.iron
        ]
        assert after == []
    assert sum(stay.vessel in ("D1", "D2") for stay in planned.stays) == 1
    second = next(one for one in planned.work if one.vessel == "D2")
    stay = next(stay for stay in planned.stays if stay.vessel in ("D1", "D2"))
    assert stay.starts_at <= second.starts_at
    assert second.ends_at <= stay.ends_at


def test_times_of_ones_own_and_a_second_pair_of_hands_change_the_days():
    slow = Protocol(step_times=(StepTime(bath="mordant", step="cool", shortest_min=1200, longest_min=1440),))
    usual = solve(work_for(SMALL).problem().problem, 3, tidy=False).solution
    slower = solve(work_for(SMALL, slow).problem().problem, 3, tidy=False).solution
    helped = work_for(SMALL, Protocol(pairs_of_hands=2)).problem().problem
    assert slower.finish > usual.finish
    assert solve(helped, 3, tidy=False).solution.finish <= usual.finish


def test_the_plan_says_how_good_it_is_and_when_it_is_late():
    by = date(2026, 11, 25)
    planned = make_day_plan(work_for(SMALL, Protocol(finish_by=by)), 3, lambda *_: None, lambda _: None, Stop())
    plan = planned.plan
    assert plan.bound_at <= plan.ready_at
    assert 0 <= plan.could_be_shorter_percent < 100
    assert "not by 25 Nov 2026" in plan.short[0]
    # Drying and a day's rest alone go past it: that is proven without any search.
    assert "proven" in plan.short[0]
    assert plan.hands_min > 0
    assert plan.working_days == len({one.starts_at.date() for one in plan.work})
    assert all(cure.ready_at < plan.ready_at for cure in planned.cures)


def test_what_fits_into_no_day_is_said_and_longer_hours_cure_it():
    long_hold = Protocol(step_times=(StepTime(bath="dye", step="hold", shortest_min=480),))
    work = work_for(SMALL, long_hold)
    made = work.problem()
    answer = solve(made.problem, 3)
    assert answer.solution is None
    said = what_is_short(made, work.names(made))
    assert any("the longest working day has 9 h 00 min" in one for one in said)
    cures = cures_for(
        list(work.bench), work.shelf, work.protocol, work.start, work.so_far, None, made, Stop(), lambda _: None
    )
    assert [cure.words for cure in cures] == ["An hour more at each end of the day"]


def test_without_heat_or_without_a_vessel_the_shelf_is_named():
    cold = STARTING_SHELF.model_copy(update={"heat_places": ()})
    with pytest.raises(Refusal, match="no heat place"):
        work_for(SMALL, shelf=cold).problem()
    bare = STARTING_SHELF.model_copy(update={"vessels": tuple(v for v in STARTING_SHELF.vessels if not v.iron_only)})
    bench = list(bench_for(SMALL, USUAL, bare).values())
    with pytest.raises(Refusal, match="no vessel on the Shelf is right"):
        problem_of(bench, bare, USUAL, TUESDAY)


def test_moving_by_hand_is_checked_at_once():
    work = work_for(SMALL)
    plan = make_day_plan(work, 3, lambda *_: None, lambda _: None, Stop()).plan
    last = plan.work[-1]
    faults, moved = move_by_hand(work, plan, last.task, last.starts_at + timedelta(minutes=5))
    assert faults == []
    assert moved.ready_at >= plan.ready_at
    faults, moved = move_by_hand(work, plan, last.task, datetime(2026, 11, 28, 10))
    assert moved is None
    assert "does not fit into the working hours at Sat 28 Nov 10:00" in " ".join(faults)
    faults, _ = move_by_hand(work, plan, last.task, plan.work[0].starts_at)
    assert "comes first" in " ".join(faults)
    assert "want the same pair of hands" in " ".join(faults)
    begun = work_for(SMALL, so_far=SoFar(begun={last.task: TUESDAY}))
    with pytest.raises(Refusal, match="has begun already"):
        move_by_hand(begun, plan, last.task, last.starts_at)


def test_a_pinned_step_stays_where_it_was_put():
    work = work_for(SMALL)
    plan = make_day_plan(work, 3, lambda *_: None, lambda _: None, Stop()).plan
    dye = next(one for one in plan.work if one.vessel == "D1")
    at = dye.starts_at + timedelta(days=1)
    held = work_for(SMALL, so_far=SoFar(pinned={dye.task: at}))
    again = make_day_plan(held, 3, lambda *_: None, lambda _: None, Stop()).plan
    found = next(one for one in again.work if one.task == dye.task)
    assert (found.starts_at, found.pinned, found.state) == (at, True, "planned")
