"""The schedule against an independent checker, a published job shop, and small cases by hand."""

from random import Random

import pytest
from tests.core.dye.schedule_checker import faults_of
from tests.depth import depth

from zesty_grid.core.dye.scheduling.answer import Stop
from zesty_grid.core.dye.scheduling.bounds import best_bound
from zesty_grid.core.dye.scheduling.list_schedule import best_list_schedule, list_schedule
from zesty_grid.core.dye.scheduling.problem import Claim, Link, Need, ScheduleProblem, Task
from zesty_grid.core.dye.scheduling.solver import solve

# Machine and time of each operation of each job: instance FT06 of Fisher and Thompson, in Muth and
# Thompson (eds.), Industrial Scheduling, 1963. Its optimum, 55, is in every survey of job shops.
FT06 = (
    ((2, 1), (0, 3), (1, 6), (3, 7), (5, 3), (4, 6)),
    ((1, 8), (2, 5), (4, 10), (5, 10), (0, 10), (3, 4)),
    ((2, 5), (3, 4), (5, 8), (0, 9), (1, 1), (4, 7)),
    ((1, 5), (0, 5), (2, 5), (3, 3), (4, 8), (5, 9)),
    ((2, 9), (1, 3), (4, 5), (5, 4), (0, 3), (3, 1)),
    ((1, 3), (3, 3), (5, 9), (0, 10), (4, 4), (2, 1)),
)
FT06_OPTIMUM = 55


def job_shop(jobs) -> ScheduleProblem:
    tasks = [
        Task(key=f"{j}.{i}", length=time, needs=(Need(resource=f"machine {machine}", start=0, end=time),))
        for j, job in enumerate(jobs)
        for i, (machine, time) in enumerate(job)
    ]
    links = [Link(first=f"{j}.{i}", then=f"{j}.{i + 1}") for j, job in enumerate(jobs) for i in range(len(job) - 1)]
    machines = {f"machine {machine}": 1 for job in jobs for machine, _ in job}
    return ScheduleProblem(tasks=tuple(tasks), links=tuple(links), capacity=machines)


def test_the_job_shop_of_fisher_and_thompson_is_solved_to_its_published_optimum():
    answer = solve(job_shop(FT06), 60)
    assert answer.proven
    assert answer.solution.finish == FT06_OPTIMUM
    assert faults_of(job_shop(FT06), answer.solution) == []


def test_bounds_hold_and_the_list_schedule_is_sound_on_the_job_shop():
    problem = job_shop(FT06)
    assert best_bound(problem).finish <= FT06_OPTIMUM
    plain = list_schedule(problem)
    assert plain.finish >= FT06_OPTIMUM
    assert faults_of(problem, plain) == []


DAY = 48


def random_bench(seed: int) -> ScheduleProblem:
    """A few baths with waits, on few vessels, in short days, some of them with iron."""
    rng = Random(seed)
    tasks, links, claims = [], [], []
    iron = seed % 3 == 0
    for b in range(rng.randint(2, 6)):
        late = iron and rng.random() < 0.4
        hands, hot = rng.randint(1, 3), rng.choice([0, 2, 4])
        chain = f"bath {b}"
        needs = [Need(resource="hands", start=0, end=hands)]
        if hot:
            needs.append(Need(resource="heat", start=hands, end=hands + hot))
        tasks.append(
            Task(
                key=f"{chain} in",
                chain=chain,
                length=hands + hot,
                needs=tuple(needs),
                open_ticks=hands + hot,
                lead=rng.choice([0, 2]),
                late=late,
            )
        )
        tasks.append(
            Task(
                key=f"{chain} out",
                chain=chain,
                length=1,
                open_ticks=1,
                late=late,
                needs=(Need(resource="hands", start=0, end=1),),
                tail=rng.choice([0, 30]),
            )
        )
        least = rng.randint(0, 6)
        links.append(
            Link(
                first=f"{chain} in",
                then=f"{chain} out",
                least=least,
                most=rng.choice([None, least + 40, least + DAY * 3]),
            )
        )
        if b and rng.random() < 0.4:
            most = rng.choice([None, DAY * 4])
            links.append(Link(first=f"bath {rng.randrange(b)} out", then=f"{chain} in", most=most))
        choices = rng.choice([("pot",), ("jar",), ("pot", "jar")])
        alike = "runs" if len(choices) == 2 and rng.random() < 0.5 else None
        claims.append(Claim(key=chain, first=f"{chain} in", last=f"{chain} out", choices=choices, alike=alike))
    windows = tuple((d * DAY + 10, d * DAY + 10 + rng.randint(16, 24)) for d in range(14) if d % 7 < 5)
    fixed = {"bath 0 in": windows[0][0] + 2} if seed % 4 == 0 else {}
    return ScheduleProblem(
        tasks=tuple(tasks),
        links=tuple(links),
        claims=tuple(claims),
        windows=windows,
        capacity={"hands": rng.randint(1, 2), "heat": 1, "pot": rng.randint(1, 2), "jar": 1},
        day_ticks=DAY,
        fixed=fixed,
        not_before=fixed.get("bath 0 in", 0) + 1 if fixed else 0,
    )


@pytest.mark.parametrize("block", range(10))
def test_hundreds_of_random_benches_are_sound_and_never_below_their_bound(block):
    for seed in range(block * 30, block * 30 + depth(4, 30)):
        problem = random_bench(seed)
        bound = best_bound(problem)
        for found in (list_schedule(problem), best_list_schedule(problem)):
            if found:
                assert faults_of(problem, found) == [], seed
                assert found.finish >= bound.finish, (seed, bound)
        answer = solve(problem, 0.5)
        if answer.solution:
            assert faults_of(problem, answer.solution) == [], seed
            assert answer.solution.finish >= answer.bound.finish
            assert answer.solution.finish <= (answer.first_come_finish or answer.solution.finish)
        else:
            assert answer.first_come_finish is None


def test_what_cannot_be_done_is_proven_not_to_be():
    """Two baths of a whole day each, one pot, and one day."""
    problem = random_bench(1).model_copy(
        update={
            "tasks": tuple(
                Task(key=k, chain=k, length=20, open_ticks=20, needs=(Need(resource="hands", start=0, end=1),))
                for k in "ab"
            ),
            "links": (),
            "windows": ((0, 20),),
            "fixed": {},
            "not_before": 0,
            "claims": tuple(Claim(key=k, first=k, last=k, choices=("pot",)) for k in "ab"),
            "capacity": {"hands": 1, "pot": 1},
        }
    )
    answer = solve(problem, 5)
    assert answer.solution is None
    assert answer.proven


def test_with_the_same_finish_work_is_kept_to_few_days():
    """A long bath sets the finish; short ones may go on any day: they go on one of its own."""
    hands = (Need(resource="hands", start=0, end=2),)
    long_ones = [Task(key=f"long {i}", chain="long", length=2, open_ticks=2, needs=hands) for i in range(2)]
    short = [Task(key=f"short {i}", chain=f"short {i}", length=2, open_ticks=2, needs=hands) for i in range(3)]
    problem = ScheduleProblem(
        tasks=(*long_ones, *short),
        links=(Link(first="long 0", then="long 1", least=3 * DAY),),
        capacity={"hands": 1},
        day_ticks=DAY,
        windows=tuple((d * DAY, d * DAY + 20) for d in range(8)),
    )
    answer = solve(problem, 10)
    days = {start // DAY for start in answer.solution.starts.values()}
    assert answer.solution.starts["long 1"] // DAY == 3
    assert days == {0, 3}


def test_a_search_that_is_stopped_answers_with_what_it_has():
    stop = Stop()
    stop.ask()
    told = []
    answer = solve(random_bench(7), 600, told.append, stop)
    assert answer.solution is not None
    assert told[0].solution.finish >= answer.solution.finish
    assert faults_of(random_bench(7), answer.solution) == []
