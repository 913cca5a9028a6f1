"""A study that stands is worked out once between two writes, and never shown as it was before."""

from tests.seeded_readings import new_study
from tests.small_study import small_plan

from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.store.database import Database
from zesty_grid.store.keeping import save_plan
from zesty_grid.store.standing import standing_study


def name_of(database: Database, study: int) -> str:
    with database.connection() as connection:
        return standing_study(connection, study).plan.name


def rename(database: Database, study: int, name: str) -> None:
    with database.transaction() as connection:
        now = standing_study(connection, study)
        plan = StudyPlan.model_validate(now.plan.model_dump() | {"name": name})
        save_plan(connection, study, now.stored.revision, plan)
        assert standing_study(connection, study).plan.name == name


def test_it_is_the_same_until_something_is_written(database: Database):
    study, _ = new_study(database, small_plan())
    with database.connection() as connection:
        first = standing_study(connection, study)
    with database.connection() as connection:
        assert standing_study(connection, study) is first
    new_study(database, small_plan(name="Another"))
    with database.connection() as connection:
        assert standing_study(connection, study) is not first


def test_every_write_is_seen_at_once_also_that_of_another_opening(database: Database):
    study, _ = new_study(database, small_plan())
    other = Database(database.path)
    for number in range(60):
        writer = (database, other)[number % 2]
        rename(writer, study, f"Name {number}")
        assert name_of(database, study) == name_of(other, study) == f"Name {number}"


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
