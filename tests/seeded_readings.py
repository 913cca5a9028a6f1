"""Puts readings of given colours into a study, as if photos had been measured and accepted."""

import numpy as np
from tests.small_study import cells_of

from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.read.colour_space import lab_to_hex
from zesty_grid.core.read.measurement import (
    Calibration,
    CellMeasurement,
    Lab,
    Measurement,
    Residual,
)
from zesty_grid.core.read.readings import AssignedSheet, Assignment, NewReadings, Piece
from zesty_grid.core.read.sheet_layout import lay_out_sheet
from zesty_grid.store import fade, plan, read
from zesty_grid.store.database import Database

Laid = tuple[str, Piece, Lab]


def new_study(database: Database, document: dict) -> tuple[int, dict[str, str]]:
    """A study made of a plan; its id and its swatch codes by cell."""
    whole = StudyPlan.model_validate(document)
    with database.transaction() as connection:
        study = plan.create_study(connection, whole, cells_of(whole))
        return study, plan.swatch_codes(connection, study)


def add_readings(
    database: Database, study: int, laid: list[Laid], trial: int | None = None,
    stage: int | None = None, uncertainty: float = 0.5,
) -> None:  # fmt: skip
    """Twelve pieces at most: swatch code, piece, colour."""
    with database.transaction() as connection:
        name = f"S{len(read.list_photos(connection, study))}-{trial or 0}"
        sheet = lay_out_sheet(name)
        cells = [cell.cell for cell in sheet.cells[: len(laid)]]
        assignments = tuple(
            Assignment(cell=cell, swatch=swatch, piece=piece)
            for cell, (swatch, piece, _) in zip(cells, laid, strict=True)
        )
        assigned = AssignedSheet(sheet=sheet, page=1, trial=trial, assignments=assignments)
        read.add_sheet(connection, study, assigned)
        photo_id = read.add_photo(connection, study, name, f"{name}.jpg", name.encode())
        measured = tuple(
            CellMeasurement(
                cell=cell, status="measured", lab=lab, hex=lab_to_hex(np.array(lab)),
                colour_words="made up", levelness_de00=0.2, uncertainty_de00=uncertainty,
            )
            for cell, (_, _, lab) in zip(cells, laid, strict=True)
        )  # fmt: skip
        residual = Residual(mean=1, p95=2, max=3)
        measurement = Measurement(
            software_version="test", sheet_id=name, photo_size_px=(400, 300),
            calibration=Calibration(model="none", residual_de00=residual), cells=measured,
        )  # fmt: skip
        read.add_measurement(connection, photo_id, measurement)
        photo = read.load_photo(connection, photo_id)
        wanted = NewReadings(
            measurement_id=photo.measurement_id, cells=tuple(cells), taken_on="2026-09-24",
            stage=stage,
        )  # fmt: skip
        read.accept(connection, photo, wanted)


def new_trial(database: Database, study: int, document: dict) -> int:
    with database.transaction() as connection:
        return fade.add_trial(connection, study, TrialPlan.model_validate(document))
