"""What the log says of each stretch of work, and what is wrong with a plan, in words."""

from datetime import datetime, timedelta

from tests.bench import START, USUAL, bench_for, entry

from zesty_grid.core.dye.scheduling.checking import faults_after_move
from zesty_grid.core.dye.scheduling.from_bench import problem_of, ticks, windows_of
from zesty_grid.core.dye.scheduling.list_schedule import list_schedule
from zesty_grid.core.dye.scheduling.so_far import so_far_of
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF

TUESDAY = datetime(2026, 11, 24, 9, 0)
MADE = problem_of(list(bench_for().values()), STARTING_SHELF, USUAL, TUESDAY)
OWN = {stretch.task: stretch for stretch in MADE.stretches}


def plain(moment: datetime) -> datetime:
    return moment.replace(tzinfo=None)


def so_far(*log):
    return so_far_of(MADE.stretches, list(log), plain, {}, {})


def tasks_at(name: str) -> list[str]:
    return [stretch.task for stretch in MADE.stretches if stretch.vessel == name]


def test_steps_done_in_one_go_are_one_stretch_and_waits_lie_between():
    fill, enter, rinse = (OWN[task] for task in tasks_at("D1"))
    assert fill.steps == ("fill", "extract", "set-ph")
    assert enter.steps == ("enter", "hold", "cool")
    assert enter.runs == "hold"
    assert enter.lead_ticks == ticks(30)
    assert rinse.steps == ("rinse", "dry")


def test_a_stretch_is_begun_with_its_first_step_and_done_with_its_last():
    first, second, _ = tasks_at("D1")
    where = {"vessel": OWN[first].vessel}
    begun = so_far(entry(1, "done", 5, **where, step="fill"))
    assert begun.begun == {first: plain(START) + timedelta(minutes=5)}
    assert begun.done == {}
    done = so_far(entry(1, "done", 5, **where, step="fill"), entry(2, "done", 20, **where, step="set-ph"))
    assert done.done == {first: plain(START) + timedelta(minutes=20)}
    assert second not in done.begun


def test_whoever_is_further_on_has_done_what_comes_before():
    first, second, third = tasks_at("D1")
    further = so_far(entry(1, "begun", 60, vessel=OWN[first].vessel, step="rinse"))
    assert set(further.begun) == {first, second, third}
    assert set(further.done) == {first, second}


def test_days_off_and_weekends_have_no_hours():
    holiday = USUAL.model_copy(update={"days_off": (datetime(2026, 11, 25).date(),)})
    days = [opens // 288 for opens, _ in windows_of(holiday, TUESDAY.date(), 8)]
    # From a Tuesday: Wednesday off, then Thursday, Friday, the weekend, Monday, Tuesday.
    assert days == [0, 2, 3, 6, 7]
    opens, closes = windows_of(USUAL, TUESDAY.date(), 1)[0]
    assert (opens, closes) == (ticks(9 * 60), ticks(18 * 60))


def test_every_kind_of_fault_is_said_in_words():
    found = list_schedule(MADE.problem)
    names = {task.key: task.key for task in MADE.problem.tasks}
    assert faults_after_move(MADE, found, names) == []
    fill, enter, rinse = tasks_at("D1")

    def moved(task: str, tick: int) -> str:
        changed = found.model_copy(update={"starts": found.starts | {task: tick}})
        return " ".join(faults_after_move(MADE, changed, names))

    assert "comes first" in moved(enter, found.starts[fill])
    assert "may not wait longer" in moved(rinse, found.starts[rinse] + 288 * 20)
    assert "does not fit into the working hours" in moved(enter, 288 * 4 + 120)
    assert "would begin in the past" in moved(fill, 0)
    other = tasks_at("D2")[0]
    assert "want the same pair of hands" in moved(other, found.starts[fill])
    iron = tasks_at("F1")[0]
    assert "would come after iron" in moved(iron, found.starts[tasks_at("S1")[0]])
