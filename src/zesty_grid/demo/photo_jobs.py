"""Photos of the demo's sheets by the simulated camera: taken, measured, accepted."""

import sqlite3
import zlib
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta

import cv2
import numpy as np

from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.read.measure import measure_sheet
from zesty_grid.core.read.measurement import Measurement
from zesty_grid.core.read.readings import AssignedSheet, LiesIn, NewReadings
from zesty_grid.core.record.swatch import Levels
from zesty_grid.demo.marsh_dyes import KEPT_DARK, Exposure, piece_reflectance, wet
from zesty_grid.demo.marsh_trials import DAYS, STARTS_ON, ribbon, stage_day, stage_dose_lxh, wool_reflectance
from zesty_grid.demo.station_things import SPECTRA
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.camera import Shot, photograph
from zesty_grid.standins.cloth import Cloth
from zesty_grid.standins.scene import Scene
from zesty_grid.store import read
from zesty_grid.store.accepting import accept

READ_ON = date(2026, 9, 24)
PHOTO_WIDTH_PX = 1600
DEMO_LIGHTS = ("daylight D50", "daylight D65")


@dataclass(frozen=True)
class PhotoJob:
    """One photo to take: which sheet, at which stage, of pieces with which reflectance."""

    sheet: AssignedSheet
    stage: int | None
    taken_on: date
    reflectances: tuple[np.ndarray, ...]
    kind: str
    seed: int
    damp: bool = False
    things: tuple[LiesIn, ...] = ()
    bands: tuple[tuple[np.ndarray, ...], ...] = ()
    before: bool = False
    dose_lxh: float = 0.0
    study: int | None = None
    title: str = "Salt marsh plants"
    # Not accepted: there is something left to look at.
    waits: bool = False


def photo_job(sheet: AssignedSheet, trial: TrialPlan | None, stage: int | None, known: dict[str, Levels]) -> PhotoJob:
    exposure, taken_on = KEPT_DARK, READ_ON
    if trial and stage is not None:
        if trial.kind == "light":
            exposure, taken_on = Exposure(stage_dose_lxh(stage)), stage_day(stage)
        else:
            washes = trial.stages[stage].washes
            exposure, taken_on = Exposure(washes=washes), STARTS_ON + timedelta(days=4 * washes)
    reflectances, bands = [], []
    for assignment in sheet.assignments:
        # The swatch's own seed: the same piece of cloth is the same in every photo.
        seed, levels = zlib.crc32(assignment.swatch.encode()), known[assignment.swatch]
        dark, changed = (piece_reflectance(levels, felt, np.random.default_rng(seed)) for felt in (KEPT_DARK, exposure))
        reflectances.append(changed if assignment.piece in ("light", "wash") else dark)
        side_by_side: tuple[np.ndarray, ...] = ()
        if assignment.piece == "halves":
            side_by_side = (dark, changed)
        elif assignment.piece == "neighbour":
            side_by_side = ribbon(levels, exposure.washes, dark)
        bands.append(side_by_side)
    kind = trial.kind if trial else "as dyed"
    seed = (
        {"as dyed": 0, "light": 100, "wash": 200}[kind]
        + 31 * sheet.page
        + 7 * (-1 if stage is None and trial else stage or 0)
    )
    return PhotoJob(
        sheet,
        stage,
        taken_on,
        tuple(reflectances),
        kind,
        seed,
        things=_in_free_cells(sheet, trial),
        bands=tuple(bands),
        dose_lxh=exposure.dose_lxh,
        waits=stage == len(DAYS) - 1 and not any(bands),
    )


def _in_free_cells(sheet: AssignedSheet, trial: TrialPlan | None) -> tuple[LiesIn, ...]:
    """Blue wools in the free cells of a trial that has them; else the tile in the first free cell
    and the old cloth in the second."""
    taken = {a.cell for a in sheet.assignments}
    free = [one.cell for one in sheet.sheet.cells if one.cell not in taken]
    cloths = [wool.cloth for wool in trial.wools] if trial and trial.wools else list(SPECTRA)
    if trial and trial.mount != "two pieces":
        return ()
    return tuple(LiesIn(cell=cell, cloth=cloth) for cell, cloth in zip(free, cloths, strict=False))


def _seen_on(cloth: str, dose_lxh: float) -> np.ndarray:
    """The reflectance of a thing of the Shelf after the light of its trial."""
    if cloth.startswith("blue-wool-"):
        return wool_reflectance(int(cloth[-1]), dose_lxh)
    return SPECTRA[cloth]


def one_thread() -> None:
    cv2.setNumThreads(1)


def take_and_measure(job: PhotoJob) -> tuple[bytes, Measurement]:
    rng = np.random.default_rng(job.seed)
    cloths = tuple(
        Cloth(
            assignment.cell,
            wet(reflectance) if job.damp else reflectance,
            width_share=float(rng.uniform(0.68, 0.92)),
            turn_deg=float(rng.uniform(-7, 7)),
            uneven=float(rng.uniform(0.005, 0.04)),
            bands=bands,
        )
        for assignment, reflectance, bands in zip(
            job.sheet.assignments, job.reflectances, job.bands or ((),) * len(job.reflectances), strict=True
        )
    )
    cloths += tuple(Cloth(one.cell, _seen_on(one.cloth or "", job.dose_lxh), 0.8, uneven=0.004) for one in job.things)
    shift = (float(rng.uniform(-2.5, 2.5)), float(rng.uniform(-2.5, 2.5)))
    scene = Scene(
        job.sheet.sheet,
        cloths,
        shift,
        float(rng.uniform(-2.5, 2.5)),
        title=f"{job.title}, page {job.sheet.page}",
        labels={a.cell: f"{a.swatch} {a.piece}" for a in job.sheet.assignments},
    )
    light = DEMO_LIGHTS[job.seed % len(DEMO_LIGHTS)]
    shot = Shot("A", light, PHOTO_WIDTH_PX, PHOTO_WIDTH_PX * 3 // 4, seed=job.seed)
    data = photograph(scene, shot)
    return data, measure_sheet(open_photo(data), job.sheet.sheet)


def keep_photo(
    connection: sqlite3.Connection, study_id: int, job: PhotoJob, data: bytes, measured: Measurement
) -> None:
    name = f"{job.taken_on}_{job.sheet.sheet.id}.jpg"
    photo_id = read.add_photo(connection, study_id, job.sheet.sheet.id, name, data, camera="Simulated camera A")
    read.add_measurement(connection, photo_id, measured)
    photo = read.load_photo(connection, photo_id)
    if job.waits:
        return
    zoned = {zone.cell for zone in photo.own_zones}
    assigned = {a.cell for a in job.sheet.assignments} - zoned
    good = tuple(c.cell for c in measured.cells if c.status == "measured" and c.cell in assigned)
    seen = {cell.cell for cell in measured.cells if cell.status == "measured"}
    wanted = NewReadings(
        measurement_id=photo.measurement_id,
        cells=good,
        zones=photo.own_zones,
        taken_on=job.taken_on,
        stage=job.stage,
        before=job.before,
        damp=job.damp,
        note="a first look" if job.damp else "",
        lies=tuple(one for one in job.things if one.cell in seen),
    )
    accepted_at = datetime.combine(job.taken_on, time(16), tzinfo=UTC)
    accept(connection, photo, wanted, accepted_at)
