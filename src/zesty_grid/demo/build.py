"""Builds the demo study: plans it, logs the bench, photographs every sheet and reads them all."""

import os
import sqlite3
import zlib
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta
from multiprocessing import get_context
from threading import Event

import numpy as np

from zesty_grid.api.answers import NewSheets
from zesty_grid.api.read import add_sheets
from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.read.instrument import NewInstrumentFile, SampleNamed, as_named, samples_of
from zesty_grid.core.read.sheet_layout import PrintedKind
from zesty_grid.core.record.swatch import Levels
from zesty_grid.core.shelf.shelf import ShelfItem
from zesty_grid.demo.marsh_again import READ_ON as READ_AGAIN
from zesty_grid.demo.marsh_again import again_plan, plain_log, pot_share
from zesty_grid.demo.marsh_dyes import KEPT_DARK, piece_reflectance
from zesty_grid.demo.marsh_log import cure_for, iron_log, marsh_log
from zesty_grid.demo.marsh_onward import IRON_ON, iron_for_half, over_dyed_plan, said_of_it, wrong_pot, yellows
from zesty_grid.demo.marsh_study import DYE_LOTS, in_trials, in_wash_trial, marsh_plan, next_plan, prints_plan
from zesty_grid.demo.marsh_trials import (
    LOGGED_DAYS,
    READING_ROOM,
    STARTS_ON,
    WOOLS,
    half_trial,
    late_stage,
    light_of,
    light_trial,
    wash_trial,
    weather_log,
)
from zesty_grid.demo.photo_jobs import PhotoJob, keep_photo, one_thread, photo_job, take_and_measure
from zesty_grid.demo.station_things import SPECTRA, THINGS
from zesty_grid.formats.cgats import read_colour_table
from zesty_grid.formats.light_log import read_light_log
from zesty_grid.standins.light_logger import logger_csv
from zesty_grid.standins.spectrophotometer import NAME as INSTRUMENT
from zesty_grid.standins.spectrophotometer import Spectrophotometer
from zesty_grid.store import dye, fade, plan, read, shelf
from zesty_grid.store.database import Database
from zesty_grid.store.instruments import keep_instrument_file
from zesty_grid.store.keeping import create_study, name_planned, save_plan
from zesty_grid.store.projecting import project_study
from zesty_grid.store.standing import standing_study
from zesty_grid.store.telling import begin_bath

DAMP_ON = date(2026, 9, 18)
READ_AGAIN_ON = date(2026, 9, 30)
CELLS_PER_PAGE = 24


class Stopped(Exception):
    """The application ends while the demo is being made."""


def needs_demo(database: Database) -> bool:
    with database.connection() as connection:
        return not plan.list_study_ids(connection)


def build_demo(
    database: Database,
    say: Callable[[str], None] = print,
    far: Callable[[int, int], None] = lambda photos, of_photos: None,
    stopped: Event | None = None,
) -> None:
    """Fills an empty database; does nothing where there is a study already. `far` is told how many photos are read,
    and of how many; once `stopped` is set nothing of it is kept."""
    with database.transaction() as connection:
        if plan.list_study_ids(connection):
            return
        say("Making the demo study: planning, dyeing, photographing. About 40 seconds.")
        study_id = _plan(connection)
        _log_bench(connection, study_id)
        jobs = _sheets_and_trials(connection, study_id)
        jobs += _go_on(connection, study_id)
        jobs += _dye_again(connection)
        # Two processes share two cores best when neither spreads its own arithmetic.
        os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
        context = get_context("spawn")
        with ProcessPoolExecutor(2, mp_context=context, initializer=one_thread) as pool:
            taken = pool.map(take_and_measure, jobs, chunksize=1)
            for number, (job, (data, measurement)) in enumerate(zip(jobs, taken, strict=True)):
                far(number, len(jobs))
                if stopped is not None and stopped.is_set():
                    pool.shutdown(cancel_futures=True)
                    raise Stopped
                keep_photo(connection, job.study or study_id, job, data, measurement)
        _measure_some(connection, study_id, jobs[0])
        say(f"The demo study is ready: {len(jobs)} photos read.")


def _plan(connection: sqlite3.Connection) -> int:
    things: tuple[ShelfItem, ...] = (*DYE_LOTS, *THINGS, *WOOLS, READING_ROOM)
    for item in things:
        shelf.add_item(connection, item)
    study_id = create_study(connection, marsh_plan())
    create_study(connection, next_plan(shelf.load_shelf(connection)))
    return study_id


def _log_bench(connection: sqlite3.Connection, study_id: int) -> None:
    """The whole bench at once: every bath begun, its log, and then what follows from it."""
    plan.keep_recipes(connection, study_id, shelf.load_shelf(connection))
    standing = standing_study(connection, study_id)
    lost, into = wrong_pot(standing.planned, standing.bench)
    for one in standing.bench:
        begin_bath(connection, standing, one)
    at = IRON_ON
    for at, entry in marsh_log(standing.bench, lost, into.name):
        kept = dye.add_entry(connection, study_id, entry.model_copy(update={"at": at}), at)
        if kept.kind == "deviation":
            dye.add_entry(connection, study_id, cure_for(kept), at)
    dye.add_entry(connection, study_id, said_of_it(standing.planned, lost, into, at), at)
    project_study(connection, study_id)
    name_planned(connection, study_id)


def _go_on(connection: sqlite3.Connection, study_id: int) -> list[PhotoJob]:
    """Iron for half of the yellows, all of them read again; the others go into a new study."""
    standing = standing_study(connection, study_id)
    codes = yellows(standing.planned)
    treatments = iron_for_half(standing.planned)
    ironed = {code for one in treatments for code in one.swatches}
    left = tuple(code for code in codes if code not in ironed)
    create_study(connection, over_dyed_plan(standing.planned, left), "begun on dyed cloth")
    create_study(connection, prints_plan())
    after = standing.plan.model_copy(update={"treatments": treatments})
    standing = save_plan(connection, study_id, standing.stored.revision, after)
    for one in standing.bench:
        if one.vessel.treatment:
            begin_bath(connection, standing, one)
            for at, entry in iron_log(one, IRON_ON):
                dye.add_entry(connection, study_id, entry.model_copy(update={"at": at}), at)
    project_study(connection, study_id)
    name_planned(connection, study_id)
    known = {
        code: levels | ({"iron": "iron-1"} if code in ironed else {})
        for code, levels in _true_levels(standing.planned).items()
    }
    (sheet,) = add_sheets(connection, study_id, NewSheets(swatches=codes))
    laid = next(s for s in read.list_sheets(connection, study_id) if s.sheet.id == sheet.id)
    again = replace(photo_job(laid, None, None, known), taken_on=READ_AGAIN_ON, seed=300)
    first = read.list_sheets(connection, study_id)[0]
    damp = replace(photo_job(first, None, None, known), taken_on=DAMP_ON, seed=400, damp=True)
    return [again, damp]


def _dye_again(connection: sqlite3.Connection) -> list[PhotoJob]:
    """A small study of its own: two dyes in three pots each, logged and read."""
    study_id = create_study(connection, again_plan())
    plan.keep_recipes(connection, study_id, shelf.load_shelf(connection))
    standing = standing_study(connection, study_id)
    for one in standing.bench:
        begin_bath(connection, standing, one)
    for at, entry in plain_log(standing.bench):
        dye.add_entry(connection, study_id, entry.model_copy(update={"at": at}), at)
    project_study(connection, study_id)
    name_planned(connection, study_id)
    add_sheets(connection, study_id, NewSheets(cells_per_page=CELLS_PER_PAGE))
    planned = standing.planned
    jobs = []
    for sheet in read.list_sheets(connection, study_id):
        seen = []
        for assignment in sheet.assignments:
            swatch = planned.by_code[assignment.swatch]
            levels, seed = planned.levels(swatch), zlib.crc32(swatch.code.encode())
            share = pot_share(levels["dye"], swatch.replicate)
            rng = np.random.default_rng(seed)
            seen.append(piece_reflectance(levels, KEPT_DARK, rng, share))
        jobs.append(PhotoJob(sheet, None, READ_AGAIN, tuple(seen), "as dyed", 500 + sheet.page, study=study_id))
    return jobs


def _true_levels(study: PlannedStudy) -> dict[str, Levels]:
    return {code: study.levels(swatch) for code, swatch in study.by_code.items()}


def _sheets_and_trials(connection: sqlite3.Connection, study_id: int) -> list[PhotoJob]:
    planned = standing_study(connection, study_id).planned
    chosen = tuple(swatch.code for swatch in planned.planned if in_trials(swatch.levels))
    washed = tuple(swatch.code for swatch in planned.planned if in_wash_trial(swatch.levels))
    known = _true_levels(planned)
    add_sheets(connection, study_id, NewSheets(cells_per_page=CELLS_PER_PAGE))
    trials: dict[int, TrialPlan] = {}
    for trial in (light_trial(chosen), wash_trial(washed), half_trial(washed[:3])):
        trial_id = fade.add_trial(connection, study_id, trial)
        trials[trial_id] = trial
        kind: PrintedKind = "hanks" if trial.mount == "half covered" else "cuttings"
        pages = NewSheets(trial=trial_id, kind=kind, cells_per_page=CELLS_PER_PAGE, free_cells=4)
        add_sheets(connection, study_id, pages)
        if trial.kind == "light":
            _say_light(connection, trial_id)
    jobs = []
    for sheet in read.list_sheets(connection, study_id):
        if sheet.trial is None:
            jobs.append(photo_job(sheet, None, None, known))
            continue
        trial = trials[sheet.trial]
        if trial.neighbours or trial.wools:
            jobs.append(replace(photo_job(sheet, trial, None, known), before=True, taken_on=STARTS_ON))
        # The last stage in the window waits: one page was photographed, the others are still due.
        waits = trial.mount == "two pieces" and trial.kind == "light" and sheet.page > 1
        stages = range(len(trial.stages) - waits)
        jobs += [photo_job(sheet, trial, stage, known) for stage in stages]
    return sorted(jobs, key=lambda job: job.taken_on)


def _say_light(connection: sqlite3.Connection, trial_id: int) -> None:
    until = datetime.combine(STARTS_ON, time()) + timedelta(days=LOGGED_DAYS)
    text = logger_csv([one for one in weather_log() if one.at < until]).encode()
    log = fade.add_light_log(connection, trial_id, "window.csv", text, read_light_log(text))
    fade.add_entry(connection, trial_id, light_of(log))
    fade.add_entry(connection, trial_id, late_stage())


def _measure_some(connection: sqlite3.Connection, study_id: int, job: PhotoJob) -> None:
    """The first page's swatches once more, by an instrument that was there for a day."""
    codes = [assignment.swatch for assignment in job.sheet.assignments]
    text = Spectrophotometer().export(dict(zip(codes, job.reflectances, strict=True)) | SPECTRA)
    new = NewInstrumentFile(
        filename="station_visit.txt",
        content=text,
        instrument=INSTRUMENT,
        measured_on=job.taken_on,
        named=tuple(SampleNamed(name=key, cloth=key) for key in SPECTRA),
    )
    samples = as_named(samples_of(read_colour_table(text), codes), new.named)
    at = datetime.combine(job.taken_on, time(18), tzinfo=UTC)
    keep_instrument_file(connection, study_id, new, samples, at)
