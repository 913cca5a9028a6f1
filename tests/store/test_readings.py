"""From a photo to readings: what may be accepted, and that nothing is overwritten."""

import sqlite3

import pytest
from tests.seeded_readings import READ_AT, codes_by_cell
from tests.small_study import cells_of, small_plan

from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.read.measurement import Calibration, CellMeasurement, Measurement, Residual
from zesty_grid.core.read.readings import AssignedSheet, Assignment, NewReadings, ReadingChoice
from zesty_grid.core.read.sheet_layout import lay_out_sheet
from zesty_grid.core.refusal import Refusal
from zesty_grid.store import fade, plan, read
from zesty_grid.store.accepting import accept
from zesty_grid.store.colours import list_colours
from zesty_grid.store.following import follow_readings
from zesty_grid.store.keeping import create_study
from zesty_grid.store.safekeeping import check

PLAN = StudyPlan.model_validate(small_plan())


def measurement(lightness: float) -> Measurement:
    measured = CellMeasurement(
        cell="A1",
        status="measured",
        lab=(lightness, 5, 5),
        hex="#888888",
        colour_words="grey",
        levelness_de00=0.2,
        uncertainty_de00=0.8,
        flags=("glare",),
    )
    return Measurement(
        software_version="test",
        sheet_id="S1",
        photo_size_px=(100, 100),
        calibration=Calibration(model="m", residual_de00=Residual(mean=1, p95=2, max=3)),
        cells=(measured, CellMeasurement(cell="A2", status="empty")),
    )


@pytest.fixture
def connection(database):
    with database.transaction() as connection:
        study = create_study(connection, PLAN)
        code = codes_by_cell(connection, study)[cells_of(PLAN)[0].key]
        assignments = tuple(Assignment(cell=cell, swatch=code, piece="whole") for cell in ("A1", "A2"))
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
    assert accept(connection, photo, wanted(photo), READ_AT) == 1
    (reading,) = read.list_readings(connection, 1)
    assert reading.lab == (60, 5, 5)
    assert reading.flags == ("glare",)
    assert reading.taken_on == "2026-09-24"
    assert reading.swatch == codes_by_cell(connection, 1)[cells_of(PLAN)[0].key]
    assert (reading.run, reading.counts) == (0, True)
    assert read.load_photo(connection, photo.id).accepted


def test_all_readings_of_one_state_count_by_their_mean(connection):
    for lightness in (60, 62):
        photo = photo_with(connection, lightness, b"photo %d" % lightness)
        accept(connection, photo, wanted(photo), READ_AT)
    readings = read.list_readings(connection, 1)
    assert [r.lab[0] for r in readings] == [60, 62]
    ((code, (colour,)),) = list_colours(connection, 1).items()
    assert code == readings[0].swatch
    assert (colour.lab[0], colour.readings) == (61, 2)
    assert colour.scatter_de00 > 1


def test_a_damp_reading_is_kept_and_counts_only_when_it_is_wanted(connection):
    photo = photo_with(connection, 60)
    note = "straight from the line, folded in four"
    said = {"damp": True, "layers": 4, "backing": "white", "note": note}
    accept(connection, photo, wanted(photo, **said), READ_AT)
    (reading,) = read.list_readings(connection, 1)
    assert (reading.damp, reading.layers, reading.backing) == (True, 4, "white")
    assert (reading.note, reading.counts) == (note, False)
    assert list_colours(connection, 1) == {}
    swatch, _ = read.load_reading(connection, reading.id)
    for counts in (True, False, True):
        read.choose_reading(connection, reading.id, ReadingChoice(counts=counts))
        follow_readings(connection, [swatch])
        assert (reading.swatch in list_colours(connection, 1)) == counts


def test_a_reading_cannot_be_of_a_day_that_has_not_come(connection):
    photo = photo_with(connection, 60)
    with pytest.raises(Refusal, match="has not come yet"):
        accept(connection, photo, wanted(photo, taken_on="2026-09-25"), READ_AT)


def test_a_photo_measured_again_needs_another_look(connection):
    photo = photo_with(connection, 60)
    read.add_measurement(connection, photo.id, measurement(61))
    newer = read.load_photo(connection, photo.id)
    with pytest.raises(Refusal, match="measured again"):
        accept(connection, newer, wanted(photo), READ_AT)
    assert accept(connection, newer, wanted(newer), READ_AT) == 1


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
        accept(connection, photo, wanted(photo, **changes), READ_AT)
    assert refused.value.code == code
    assert read.list_readings(connection, 1) == []


def test_accepting_twice_is_refused_and_keeps_one(connection):
    photo = photo_with(connection, 60)
    accept(connection, photo, wanted(photo), READ_AT)
    again = read.load_photo(connection, photo.id)
    with pytest.raises(Refusal, match="already been accepted"):
        accept(connection, again, wanted(photo), READ_AT)
    assert len(read.list_readings(connection, 1)) == 1


@pytest.mark.parametrize("statement", ["UPDATE reading SET lab_l = 0", "DELETE FROM reading"])
def test_readings_can_be_neither_changed_nor_deleted(connection, statement):
    photo = photo_with(connection, 60)
    accept(connection, photo, wanted(photo), READ_AT)
    with pytest.raises(sqlite3.IntegrityError, match="never"):
        connection.execute(statement)


def test_a_trial_takes_only_swatches_of_its_study(connection):
    trial = {"kind": "wash", "name": "W", "swatches": ["ZZZZ"], "stages": [{"label": "1", "washes": 1}]}
    with pytest.raises(Refusal, match="ZZZZ"):
        fade.add_trial(connection, 1, TrialPlan.model_validate(trial))
    code = next(iter(codes_by_cell(connection, 1).values()))
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
