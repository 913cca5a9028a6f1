"""Puts readings of given colours into a study, as if photos had been measured and accepted."""

from datetime import UTC, datetime, timedelta

import numpy as np

from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.read.colour_space import lab_to_hex
from zesty_grid.core.read.measurement import Calibration, CellMeasurement, Lab, Measurement, Residual
from zesty_grid.core.read.readings import AssignedSheet, Assignment, NewReadings, Piece
from zesty_grid.core.read.sheet_layout import lay_out_sheet
from zesty_grid.core.read.uncertainty import UncertaintyParts
from zesty_grid.store import fade, read
from zesty_grid.store.accepting import accept
from zesty_grid.store.database import Database
from zesty_grid.store.keeping import create_study
from zesty_grid.store.standing import standing_study

Laid = tuple[str, Piece, Lab]
READ_AT = datetime(2026, 9, 24, 15, 0, tzinfo=UTC)


def new_study(database: Database, document: dict) -> tuple[int, dict[str, str]]:
    """A study made of a plan; its id and its swatch codes by cell, repeats as "cell#2"."""
    with database.transaction() as connection:
        study = create_study(connection, StudyPlan.model_validate(document))
        return study, codes_by_cell(connection, study)


def codes_by_cell(connection, study: int) -> dict[str, str]:
    planned = standing_study(connection, study).planned
    return {
        planned.planned_cell(one) + (f"#{one.replicate}" if one.replicate > 1 else ""): one.code
        for one in planned.planned
    }


def add_readings(
    database: Database,
    study: int,
    laid: list[Laid],
    trial: int | None = None,
    stage: int | None = None,
    uncertainty: float = 0.5,
    accepted_at: datetime = READ_AT,
    **wanted_too,
) -> None:
    """Twelve pieces at most: swatch code, piece, colour. Taken on the day of accepting."""
    with database.transaction() as connection:
        (count,) = connection.execute("SELECT count(*) FROM photo WHERE study_id = ?", (study,)).fetchone()
        name = f"S{count}-{trial or 0}-{study}"
        sheet = lay_out_sheet(name)
        cells = [cell.cell for cell in sheet.cells[: len(laid)]]
        assignments = tuple(
            Assignment(cell=cell, swatch=swatch, piece=piece)
            for cell, (swatch, piece, _) in zip(cells, laid, strict=True)
        )
        assigned = AssignedSheet(sheet=sheet, page=1, trial=trial, assignments=assignments)
        read.add_sheet(connection, study, assigned)
        photo_id = read.add_photo(
            connection,
            study,
            name,
            f"{name}.jpg",
            name.encode(),
            accepted_at.replace(tzinfo=None) - timedelta(minutes=1),
            "Test camera",
        )
        measured = tuple(
            CellMeasurement(
                cell=cell,
                status="measured",
                lab=lab,
                hex=lab_to_hex(np.array(lab)),
                colour_words="made up",
                levelness_de00=0.2,
                uncertainty_de00=uncertainty,
                parts=UncertaintyParts(evenness_de00=0.1, chart_de00=1.0, light_de00=0.1, material_de00=0.35),
            )
            for cell, (_, _, lab) in zip(cells, laid, strict=True)
        )
        residual = Residual(mean=1, p95=2, max=3)
        calibration = Calibration(
            model="none", residual_de00=residual, camera="Test camera", response=((0.1, 0.1, 0.1), (0.5, 0.5, 0.5))
        )
        measurement = Measurement(
            software_version="test", sheet_id=name, cells=measured, photo_size_px=(400, 300), calibration=calibration
        )
        read.add_measurement(connection, photo_id, measurement)
        photo = read.load_photo(connection, photo_id)
        said = {
            "measurement_id": photo.measurement_id,
            "cells": tuple(cells),
            "stage": stage,
            "taken_on": accepted_at.date(),
        }
        accept(connection, photo, NewReadings.model_validate(said | wanted_too), accepted_at)


def new_trial(database: Database, study: int, document: dict) -> int:
    with database.transaction() as connection:
        return fade.add_trial(connection, study, TrialPlan.model_validate(document))
