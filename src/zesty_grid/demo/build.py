"""Builds the demo study: plans it, logs the bench, photographs every sheet and reads them all."""

import os
import sqlite3
import zlib
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from datetime import date, timedelta
from multiprocessing import get_context

import cv2
import numpy as np

from zesty_grid.api.answers import NewSheets
from zesty_grid.api.read import add_sheets
from zesty_grid.core.dye.bench import bench_of
from zesty_grid.core.dye.protocol import Protocol
from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.controls import all_cells
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.read.measure import measure_sheet
from zesty_grid.core.read.measurement import Measurement
from zesty_grid.core.read.readings import AssignedSheet, NewReadings
from zesty_grid.demo.marsh_dyes import KEPT_DARK, Exposure, piece_reflectance
from zesty_grid.demo.marsh_log import cure_for, marsh_log
from zesty_grid.demo.marsh_study import (
    DYE_LOTS,
    in_trials,
    light_trial,
    marsh_plan,
    next_plan,
    wash_trial,
)
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.camera import Shot, photograph
from zesty_grid.standins.scene import Cloth, Scene
from zesty_grid.store import dye, fade, plan, read, shelf
from zesty_grid.store.database import Database

READ_ON = date(2026, 9, 24)
TRIALS_START = date(2026, 9, 26)
PHOTO_WIDTH_PX = 1600
CELLS_PER_PAGE = 24
LIGHT_STAGES_READ = 4
DEMO_LIGHTS = ("daylight D50", "daylight D65")


@dataclass(frozen=True)
class _Job:
    """One photo to take: which sheet, at which stage, of pieces with which reflectance."""

    sheet: AssignedSheet
    stage: int | None
    taken_on: date
    reflectances: tuple[np.ndarray, ...]
    kind: str
    seed: int


def build_demo(database: Database, say: Callable[[str], None] = print) -> None:
    """Fills an empty database; does nothing where there is a study already."""
    with database.transaction() as connection:
        if plan.list_studies(connection):
            return
        say("Making the demo study: planning, dyeing, photographing. About 15 seconds.")
        study_id, cells = _plan(connection)
        _log_bench(connection, study_id, cells)
        jobs = _sheets_and_trials(connection, study_id, cells)
        # Two processes share two cores best when neither spreads its own arithmetic.
        os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
        context = get_context("spawn")
        with ProcessPoolExecutor(2, mp_context=context, initializer=_one_thread) as pool:
            for job, (data, measurement) in zip(
                jobs, pool.map(_take_and_measure, jobs, chunksize=1), strict=True
            ):
                _keep(connection, study_id, job, data, measurement)
        say(f"The demo study is ready: {len(jobs)} photos read.")


def _plan(connection: sqlite3.Connection) -> tuple[int, list[Cell]]:
    for lot in DYE_LOTS:
        shelf.add_item(connection, lot)
    on_shelf, marsh = shelf.load_shelf(connection), marsh_plan()
    cells = all_cells(marsh, on_shelf)
    study_id = plan.create_study(connection, marsh, cells)
    following = next_plan(on_shelf)
    plan.create_study(connection, following, all_cells(following, on_shelf))
    return study_id, cells


def _log_bench(connection: sqlite3.Connection, study_id: int, cells: list[Cell]) -> None:
    stored, on_shelf = plan.load_study(connection, study_id), shelf.load_shelf(connection)
    plan.keep_recipes(connection, study_id, on_shelf)
    vessels = vessels_of(stored.plan, cells, on_shelf)
    codes = plan.swatch_codes(connection, study_id)
    bench = bench_of(stored.plan, cells, vessels, on_shelf, Protocol())
    for at, entry in marsh_log(stored.plan, cells, bench, codes, on_shelf):
        kept = dye.add_entry(connection, study_id, entry.model_copy(update={"at": at}), at)
        if kept.kind == "deviation":
            dye.add_entry(connection, study_id, cure_for(kept), at)


def _sheets_and_trials(
    connection: sqlite3.Connection, study_id: int, cells: list[Cell]
) -> list[_Job]:
    codes = plan.swatch_codes(connection, study_id)
    cell_of = {codes[cell.key]: cell for cell in cells if cell.included}
    chosen = tuple(codes[cell.key] for cell in cells if in_trials(cell))
    add_sheets(connection, study_id, NewSheets(cells_per_page=CELLS_PER_PAGE))
    trials: dict[int, TrialPlan] = {}
    for trial in (light_trial(chosen), wash_trial(chosen)):
        trial_id = fade.add_trial(connection, study_id, trial)
        trials[trial_id] = trial
        pages = NewSheets(trial=trial_id, cells_per_page=CELLS_PER_PAGE)
        add_sheets(connection, study_id, pages)
    jobs = []
    for sheet in read.list_sheets(connection, study_id):
        if sheet.trial is None:
            jobs.append(_job(sheet, None, None, cell_of))
            continue
        trial = trials[sheet.trial]
        jobs += [_job(sheet, trial, stage, cell_of) for stage in range(len(trial.stages))]
    return jobs


def _job(
    sheet: AssignedSheet, trial: TrialPlan | None, stage: int | None, cell_of: dict[str, Cell]
) -> _Job:
    exposure, taken_on = KEPT_DARK, READ_ON
    if trial and stage is not None:
        planned = trial.stages[stage]
        exposure = Exposure(planned.dose_lxh, planned.washes)
        days = planned.days if trial.kind == "light" else 4 * planned.washes
        taken_on = TRIALS_START + timedelta(days=int(days))
    reflectances = []
    for assignment in sheet.assignments:
        # The swatch's own seed: the same piece of cloth is the same in every photo.
        rng = np.random.default_rng(zlib.crc32(cell_of[assignment.swatch].key.encode()))
        felt = exposure if assignment.piece in ("light", "wash") else KEPT_DARK
        reflectances.append(piece_reflectance(cell_of[assignment.swatch].levels, felt, rng))
    kind = trial.kind if trial else "as dyed"
    seed = {"as dyed": 0, "light": 100, "wash": 200}[kind] + 31 * sheet.page + 7 * (stage or 0)
    return _Job(sheet, stage, taken_on, tuple(reflectances), kind, seed)


def _one_thread() -> None:
    cv2.setNumThreads(1)


def _take_and_measure(job: _Job) -> tuple[bytes, Measurement]:
    rng = np.random.default_rng(job.seed)
    cloths = tuple(
        Cloth(
            assignment.cell, reflectance, width_share=float(rng.uniform(0.68, 0.92)),
            turn_deg=float(rng.uniform(-7, 7)), uneven=float(rng.uniform(0.005, 0.04)),
        )
        for assignment, reflectance in zip(job.sheet.assignments, job.reflectances, strict=True)
    )  # fmt: skip
    shift = (float(rng.uniform(-2.5, 2.5)), float(rng.uniform(-2.5, 2.5)))
    scene = Scene(
        job.sheet.sheet, cloths, shift, float(rng.uniform(-2.5, 2.5)),
        title=f"Salt marsh plants, page {job.sheet.page}",
        labels={a.cell: f"{a.swatch} {a.piece}" for a in job.sheet.assignments},
    )  # fmt: skip
    light = DEMO_LIGHTS[job.seed % len(DEMO_LIGHTS)]
    shot = Shot("A", light, PHOTO_WIDTH_PX, PHOTO_WIDTH_PX * 3 // 4, seed=job.seed)
    data = photograph(scene, shot)
    return data, measure_sheet(open_photo(data), job.sheet.sheet)


def _keep(
    connection: sqlite3.Connection, study_id: int, job: _Job, data: bytes, measured: Measurement
) -> None:
    name = f"{job.taken_on}_{job.sheet.sheet.id}.jpg"
    photo_id = read.add_photo(connection, study_id, job.sheet.sheet.id, name, data)
    read.add_measurement(connection, photo_id, measured)
    photo = read.load_photo(connection, photo_id)
    if job.kind == "light" and job.stage == LIGHT_STAGES_READ:
        return  # the newest photo waits, so that there is something to accept
    assigned = {a.cell for a in job.sheet.assignments}
    good = tuple(c.cell for c in measured.cells if c.status == "measured" and c.cell in assigned)
    wanted = NewReadings(
        measurement_id=photo.measurement_id, cells=good, taken_on=str(job.taken_on),
        stage=job.stage,
    )  # fmt: skip
    read.accept(connection, photo, wanted, f"{job.taken_on}T16:00:00+00:00")
