"""A small study from plan to fading, made up, to be looked at beside one's own."""

import sqlite3
from dataclasses import replace
from datetime import UTC, datetime

from zesty_grid.api.answers import NewSheets
from zesty_grid.api.read import add_sheets
from zesty_grid.core.fade.trial import StagePlan, TrialPlan
from zesty_grid.core.fade.trial_entry import LightSaid
from zesty_grid.core.plan.factors import Factor, Level
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.demo.marsh_again import plain_log
from zesty_grid.demo.marsh_study import DYE_LOTS
from zesty_grid.demo.marsh_trials import DAYS, SOUTH_WINDOW, STARTS_ON
from zesty_grid.demo.photo_jobs import PhotoJob, keep_photo, photo_job, take_and_measure
from zesty_grid.store import dye, fade, plan, read, shelf
from zesty_grid.store.database import Database
from zesty_grid.store.keeping import create_study, name_planned
from zesty_grid.store.projecting import project_study
from zesty_grid.store.standing import standing_study
from zesty_grid.store.telling import begin_bath

NAME = "Worked example: one yellow on four cloths"
BEGUN_AT = datetime(2026, 9, 14, 8, 0, tzinfo=UTC)
CELLS_PER_PAGE = 24
STAGES = 4


def make_worked_example(database: Database) -> int:
    """The number of the example's study: of the one that is there, or of a new one. Its photos are
    taken and measured while nothing is locked."""
    with database.connection() as connection:
        there = _already_there(connection)
    if there is not None:
        return there
    with database.transaction() as connection:
        study_id = _begin(connection)
        jobs = _sheets_and_trial(connection, study_id)
    photos = [take_and_measure(job) for job in jobs]
    with database.transaction() as connection:
        for job, (data, measurement) in zip(jobs, photos, strict=True):
            keep_photo(connection, study_id, job, data, measurement)
    return study_id


def example_plan() -> StudyPlan:
    return StudyPlan(
        name=NAME,
        question="Which cloth takes this yellow, what does alum add, and how far does iron take "
        "it? Made up, to look at: nothing in it was dyed.",
        factors=(
            Factor(
                kind="fibre",
                levels=(
                    Level(key="wool", label="Wool"),
                    Level(key="silk", label="Silk"),
                    Level(key="cotton", label="Cotton"),
                    Level(key="linen", label="Linen"),
                ),
            ),
            Factor(kind="mordant", levels=(Level(key="none", label="No mordant"), Level(key="alum-hot", label="Alum"))),
            Factor(kind="dye", levels=(Level(key="coreopsis", label="Coreopsis"),)),
            Factor(kind="ph", levels=(Level(key="ph-7", label="pH 7", value=7),)),
            Factor(
                kind="iron",
                levels=(Level(key="iron-0", label="No iron", value=0), Level(key="iron-1", label="Iron 1 %", value=1)),
            ),
        ),
        rows=("fibre",),
        columns=("mordant", "dye", "ph", "iron"),
        controls=("undyed",),
        swatch_mass_g=4.0,
    )


def _already_there(connection: sqlite3.Connection) -> int | None:
    row = connection.execute("SELECT id FROM study WHERE name = ? ORDER BY id LIMIT 1", (NAME,)).fetchone()
    return int(row["id"]) if row else None


def _begin(connection: sqlite3.Connection) -> int:
    (lot,) = (one for one in DYE_LOTS if one.key == "coreopsis")
    if all(one.key != lot.key for one in shelf.load_shelf(connection).dye_lots):
        shelf.add_item(connection, lot)
    study_id = create_study(connection, example_plan(), "a worked example")
    plan.keep_recipes(connection, study_id, shelf.load_shelf(connection))
    standing = standing_study(connection, study_id)
    for one in standing.bench:
        begin_bath(connection, standing, one)
    for at, entry in plain_log(standing.bench, BEGUN_AT):
        dye.add_entry(connection, study_id, entry.model_copy(update={"at": at}), at)
    project_study(connection, study_id)
    name_planned(connection, study_id)
    return study_id


def _sheets_and_trial(connection: sqlite3.Connection, study_id: int) -> list[PhotoJob]:
    planned = standing_study(connection, study_id).planned
    known = {code: planned.levels(swatch) for code, swatch in planned.by_code.items()}
    hung = tuple(
        code
        for code, levels in known.items()
        if levels.get("mordant") == "alum-hot" and levels["fibre"] in ("wool", "cotton")
    )
    add_sheets(connection, study_id, NewSheets(cells_per_page=CELLS_PER_PAGE))
    stages = tuple(StagePlan(label=f"{d} days", days=d) for d in DAYS[:STAGES])
    trial = TrialPlan(kind="light", name="A south window", swatches=hung, stages=stages, starts_on=STARTS_ON)
    trial_id = fade.add_trial(connection, study_id, trial)
    fade.add_entry(connection, trial_id, LightSaid(sources=(SOUTH_WINDOW,), counts=0))
    add_sheets(connection, study_id, NewSheets(trial=trial_id, cells_per_page=CELLS_PER_PAGE))
    jobs = []
    for sheet in read.list_sheets(connection, study_id):
        of = trial if sheet.trial is not None else None
        for stage in range(STAGES) if of else (None,):
            # Nothing of one's own Shelf lies in the free cells.
            jobs.append(replace(photo_job(sheet, of, stage, known), things=(), title=NAME))
    return sorted(jobs, key=lambda job: job.taken_on)
