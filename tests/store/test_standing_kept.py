"""A study that stands is worked out once until it changes, and never shown as it was before."""

from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from threading import Event

import pytest
from tests.seeded_readings import READ_AT, new_study
from tests.small_study import small_plan

from zesty_grid.core.dye.watching import BathReading
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.record.entry import NewBenchEntry
from zesty_grid.store.database import Database
from zesty_grid.store.keeping import save_plan
from zesty_grid.store.kept import Kept
from zesty_grid.store.logging import log_entry
from zesty_grid.store.probes import Hung, add_reading
from zesty_grid.store.standing import StandingStudy, standing_study

CHANGES: list[dict] = [
    {"name": "Another"},
    {"replicates": 2},
    {"factors": small_plan()["factors"][:-1], "columns": ["ph"], "rows": ["fibre", "mordant", "dye"]},
    {"left_out": ["fibre=wool;mordant=alum-hot;dye=dried-flowers;ph=ph-4;iron=iron-1"]},
    {"order_seed": 7},
]


def name_of(database: Database, study: int) -> str:
    with database.connection() as connection:
        return standing_study(connection, study).plan.name


def rename(database: Database, study: int, name: str) -> None:
    with database.transaction() as connection:
        now = standing_study(connection, study)
        plan = StudyPlan.model_validate(now.plan.model_dump() | {"name": name})
        save_plan(connection, study, now.stored.revision, plan)
        assert standing_study(connection, study).plan.name == name


def standing(database: Database, study: int) -> StandingStudy:
    with database.connection() as connection:
        return standing_study(connection, study)


def test_it_is_the_same_until_it_or_the_shelf_changes(database: Database):
    study, _ = new_study(database, small_plan())
    first = standing(database, study)
    new_study(database, small_plan(name="Another"))
    with database.transaction() as connection:
        add_reading(connection, Hung("bath probe", study, "D1"), BathReading(at=READ_AT, temperature_c=60, ph=4))
    assert standing(database, study) is first
    with database.transaction() as connection:
        log_entry(connection, study, NewBenchEntry(kind="note", note="rinsed", at=READ_AT), READ_AT)
    second = standing(database, study)
    assert second is not first
    with database.transaction() as connection:
        connection.execute("UPDATE shelf_item SET position = position + 1 WHERE kind = 'fibre'")
    assert standing(database, study) is not second


def test_what_happens_to_its_swatches_in_another_study_is_seen(database: Database):
    study, codes = new_study(database, small_plan())
    swatch = next(iter(codes.values()))
    treatment = {"key": "iron", "name": "Iron", "kind": "iron", "swatches": [swatch], "iron_percent_wof": 1.0}
    other, _ = new_study(database, small_plan(name="Onward", treatments=[treatment | {"route": "after-bath"}]))
    before = standing(database, study)
    with database.transaction() as connection:
        log_entry(connection, other, NewBenchEntry(kind="note", note="iron is mixed", at=READ_AT), READ_AT)
    assert standing(database, study) is not before


def test_two_who_ask_at_the_same_time_wait_for_one_answer(database: Database):
    kept: Kept[object] = Kept(2)
    started, go_on, times = Event(), Event(), []

    def slowly() -> object:
        times.append(1)
        started.set()
        go_on.wait()
        return object()

    def ask() -> object:
        with database.connection() as connection:
            return kept.of_file(connection, "key", slowly)

    with ThreadPoolExecutor(2) as threads:
        first = threads.submit(ask)
        started.wait()
        second = threads.submit(ask)
        go_on.set()
        assert first.result() is second.result()
    assert len(times) == 1


def test_what_was_asked_for_last_stays_and_what_failed_is_tried_again(database: Database):
    kept: Kept[int] = Kept(2)
    worked: list[int] = []

    def ask(key: int) -> int:
        with database.connection() as connection:
            return kept.of_file(connection, key, lambda: worked.append(key) or key)

    for key in (1, 2, 1, 3, 1, 2):
        assert ask(key) == key
    assert worked == [1, 2, 3, 2]
    with database.connection() as connection:
        for _ in range(2):
            with pytest.raises(ZeroDivisionError):
                kept.of_file(connection, "broken", lambda: 1 // 0)


def test_every_write_is_seen_at_once_also_that_of_another_opening(database: Database):
    study, _ = new_study(database, small_plan())
    other = Database(database.path)
    for number in range(60):
        writer = (database, other)[number % 2]
        rename(writer, study, f"Name {number}")
        assert name_of(database, study) == name_of(other, study) == f"Name {number}"


@pytest.mark.parametrize("change", CHANGES, ids=lambda change: next(iter(change)))
def test_what_a_saved_plan_answers_is_what_is_loaded_after_it(
    database: Database, monkeypatch: pytest.MonkeyPatch, change: dict
):
    study, _ = new_study(database, small_plan())
    with database.transaction() as connection:
        now = standing_study(connection, study)
        plan = StudyPlan.model_validate(now.plan.model_dump() | change)
        answered = save_plan(connection, study, now.stored.revision, plan)
    loaded = standing(Database(database.path), study)
    assert loaded is not answered
    # Names of baths are given when it is saved; those of the bench are compared below.
    assert replace(loaded.planned, taken=answered.planned.taken) == answered.planned
    assert (loaded.stored, loaded.runs, loaded.protocol) == (answered.stored, answered.runs, answered.protocol)
    monkeypatch.setattr("zesty_grid.store.standing._kept", Kept(1))
    anew = standing(database, study)
    assert anew is not loaded
    assert anew == loaded
    assert anew.bench == loaded.bench == answered.bench


def test_a_write_that_is_taken_back_leaves_what_was_there(database: Database):
    study, _ = new_study(database, small_plan(name="Before"))
    assert name_of(database, study) == "Before"
    try:
        with database.transaction() as connection:
            now = standing_study(connection, study)
            plan = StudyPlan.model_validate(now.plan.model_dump() | {"name": "After"})
            save_plan(connection, study, 1, plan)
            raise KeyError
    except KeyError:
        pass
    assert name_of(database, study) == "Before"
