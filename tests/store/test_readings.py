"""From a photo to readings: what may be accepted, and that nothing is overwritten."""

import sqlite3

import pytest
from tests.small_study import cells_of, small_plan

from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.read.measurement import (
    Calibration,
    CellMeasurement,
    Measurement,
    Residual,
)
from zesty_grid.core.read.readings import AssignedSheet, Assignment, NewReadings, as_dyed
from zesty_grid.core.read.sheet_layout import lay_out_sheet
from zesty_grid.core.refusal import Refusal
from zesty_grid.store import fade, plan, read
from zesty_grid.store.safekeeping import check

PLAN = StudyPlan.model_validate(small_plan())


def measurement(lightness: float) -> Measurement:
    measured = CellMeasurement(
        cell="A1", status="measured", lab=(lightness, 5, 5), hex="#888888", colour_words="grey",
        levelness_de00=0.2, uncertainty_de00=0.8, flags=("glare",),
    )  # fmt: skip
    return Measurement(
        software_version="test", sheet_id="S1", photo_size_px=(100, 100),
        calibration=Calibration(model="m", residual_de00=Residual(mean=1, p95=2, max=3)),
        cells=(measured, CellMeasurement(cell="A2", status="empty")),
    )  # fmt: skip


@pytest.fixture
def connection(database):
    with database.transaction() as connection:
        study = plan.create_study(connection, PLAN, cells_of(PLAN))
        code = plan.swatch_codes(connection, study)[cells_of(PLAN)[0].key]
        assignments = tuple(
            Assignment(cell=cell, swatch=code, piece="whole") for cell in ("A1", "A2")
        )
        sheet = AssignedSheet(sheet=lay_out_sheet("S1"), page=1, assignments=assignments)
        read.add_sheet(connection, study, sheet)
        yield connection
    assert check(database.path) == []


def photo_with(connection, lightness: float, data: bytes = b"photo"):
    photo_id = read.add_photo(connection, 1, "S1", "a.jpg", data)
    read.add_measurement(connection, photo_id, measurement(lightness))
    return read.load_photo(connection, photo_id)


def wanted(photo, **changes) -> NewReadings:
    asked = {"measurement_id": photo.measurement_id, "cells": ("A1",), "taken_on": "2026-09-24"}
    return NewReadings.model_validate(asked | changes)


def test_an_accepted_cell_becomes_a_reading_of_its_swatch(connection):
    photo = photo_with(connection, 60)
    assert not photo.accepted
    assert read.accept(connection, photo, wanted(photo)) == 1
    (reading,) = read.list_readings(connection, 1)
    assert reading.lab == (60, 5, 5)
    assert reading.flags == ("glare",)
    assert reading.taken_on == "2026-09-24"
    assert reading.cell == cells_of(PLAN)[0].key
    assert read.load_photo(connection, photo.id).accepted


def test_a_newer_reading_counts_and_the_older_one_stays(connection):
    for lightness in (60, 62):
        photo = photo_with(connection, lightness, b"photo %d" % lightness)
        read.accept(connection, photo, wanted(photo))
    readings = read.list_readings(connection, 1)
    assert [r.lab[0] for r in readings] == [60, 62]
    assert as_dyed(readings)[readings[0].swatch].lab[0] == 62


def test_a_photo_measured_again_needs_another_look(connection):
    photo = photo_with(connection, 60)
    read.add_measurement(connection, photo.id, measurement(61))
    newer = read.load_photo(connection, photo.id)
    with pytest.raises(Refusal, match="measured again"):
        read.accept(connection, newer, wanted(photo))
    assert read.accept(connection, newer, wanted(newer)) == 1


@pytest.mark.parametrize(
    ("changes", "code"),
    [
        ({"cells": ("A2",)}, "cell-not-measured"),
        ({"cells": ("B5",)}, "cell-not-measured"),
        ({"stage": 0}, "stage-not-wanted"),
    ],
)
def test_what_cannot_be_accepted(connection, changes, code):
    photo = photo_with(connection, 60)
    with pytest.raises(Refusal) as refused:
        read.accept(connection, photo, wanted(photo, **changes))
    assert refused.value.code == code
    assert read.list_readings(connection, 1) == []


def test_accepting_twice_is_refused_and_keeps_one(connection):
    photo = photo_with(connection, 60)
    read.accept(connection, photo, wanted(photo))
    with pytest.raises(Refusal, match="already been accepted"):
        read.accept(connection, photo, wanted(photo))
    assert len(read.list_readings(connection, 1)) == 1


@pytest.mark.parametrize("statement", ["UPDATE reading SET lab_l = 0", "DELETE FROM reading"])
def test_readings_can_be_neither_changed_nor_deleted(connection, statement):
    photo = photo_with(connection, 60)
    read.accept(connection, photo, wanted(photo))
    with pytest.raises(sqlite3.IntegrityError, match="never"):
        connection.execute(statement)


def test_a_trial_takes_only_swatches_of_its_study(connection):
    trial = {
        "kind": "wash", "name": "W", "swatches": ["ZZZZ"], "stages": [{"label": "1", "washes": 1}]
    }  # fmt: skip
    with pytest.raises(Refusal, match="ZZZZ"):
        fade.add_trial(connection, 1, TrialPlan.model_validate(trial))
    code = next(iter(plan.swatch_codes(connection, 1).values()))
    trial_id = fade.add_trial(connection, 1, TrialPlan.model_validate(trial | {"swatches": [code]}))
    assert fade.load_trial(connection, trial_id)[0] == 1
    assert list(fade.list_trials(connection, 1)) == [trial_id]


@pytest.mark.parametrize("missing", ["sheet", "photo", "trial", "study"])
def test_what_is_not_there_is_said(connection, missing):
    load = {
        "sheet": lambda: read.load_sheet(connection, "NOPE"),
        "photo": lambda: read.load_photo(connection, 99),
        "trial": lambda: fade.load_trial(connection, 99),
        "study": lambda: plan.load_study(connection, 99),
    }
    with pytest.raises(plan.NotFound, match=f"no such {missing}"):
        load[missing]()
