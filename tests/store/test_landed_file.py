"""A file of the version before, made by that version itself, opens with all that was dyed and read
in place; beside it stands what that version showed of it."""

import gzip
import json
from pathlib import Path

import pytest

from zesty_grid.store.database import Database
from zesty_grid.store.dye import list_entries
from zesty_grid.store.fade import list_points, list_trials
from zesty_grid.store.plan import list_study_ids, list_versions
from zesty_grid.store.read import list_photos, list_readings
from zesty_grid.store.safekeeping import check
from zesty_grid.store.standing import StandingStudy, standing_study

LANDED = Path(__file__).parent / "landed"
SHOWN = json.loads((LANDED / "before_the_record.json").read_text())


@pytest.fixture(scope="module")
def opened(tmp_path_factory) -> Database:
    path = tmp_path_factory.mktemp("landed") / "grid.db"
    path.write_bytes(gzip.decompress((LANDED / "before_the_record.db.gz").read_bytes()))
    return Database(path)


@pytest.fixture(scope="module")
def studies(opened) -> dict[str, StandingStudy]:
    with opened.connection() as connection:
        found = {number: standing_study(connection, int(number)) for number in SHOWN}
        assert all(one.bench for one in found.values())
        # The last one had been taken off the list; it is as whole as the others.
        assert [str(n) for n in list_study_ids(connection)] == list(SHOWN)[:-1]
    return found


def test_the_file_is_sound_and_opens_again_as_it_is(opened):
    assert check(opened.path) == []
    before = opened.path.stat().st_mtime_ns
    Database(opened.path)
    assert opened.path.stat().st_mtime_ns == before
    assert check(opened.path) == []


@pytest.mark.parametrize("number", SHOWN)
def test_every_swatch_keeps_its_code_its_place_and_its_tie(studies, number):
    planned = studies[number].planned
    codes = {}
    for swatch in planned.swatches:
        again = f"#{swatch.replicate}" if swatch.replicate > 1 else ""
        codes[planned.cell(swatch) + again] = swatch.code
    shown = SHOWN[number]["codes"]
    assert {cell: codes.get(cell) for cell in shown} == shown
    ties = {swatch.code: swatch.tie for swatch in planned.swatches}
    assert {code: ties[code] for code in SHOWN[number]["ties"]} == SHOWN[number]["ties"]


@pytest.mark.parametrize("number", SHOWN)
def test_every_bath_has_its_name_its_pieces_its_recipe_and_its_steps(studies, number):
    bench = {one.name: one for one in studies[number].bench}
    taken = studies[number].planned.taken
    for name, shown in SHOWN[number]["vessels"].items():
        one = bench.get(name)
        if one is None:
            # Pieces that were dyed without a scour being logged are not asked for it now.
            assert not shown["begun"]
            assert all(taken.been_in(code) for code in shown["swatches"])
            continue
        assert one.begun == shown["begun"], name
        if not one.begun:
            # What has not begun follows the plan as this version works it out.
            assert set(one.vessel.swatches) == set(shown["swatches"])
            continue
        assert one.vessel.title == shown["title"]
        assert list(one.vessel.swatches) == shown["swatches"]
        assert one.vessel.volume_ml == shown["volume_ml"]
        assert [step.key for step in one.steps] == shown["steps"]
        figures = [[f.name, f.grams, f.volume_ml] for f in one.amounts.figures]
        assert figures == shown["figures"]


@pytest.mark.parametrize("number", SHOWN)
def test_the_log_and_every_reading_are_there(opened, number):
    with opened.connection() as connection:
        entries = list_entries(connection, int(number))
        readings = list_readings(connection, int(number))
    shown = SHOWN[number]["entries"]
    assert [entry.id for entry in entries] == [entry[0] for entry in shown]
    # A dose in grams is an addition in grams now.
    kinds = ["addition" if entry[1] == "dose" else entry[1] for entry in shown]
    assert [entry.kind for entry in entries] == kinds
    assert [entry.at.isoformat() for entry in entries] == [entry[2] for entry in shown]
    assert [[r.id, r.swatch, r.piece, r.stage, list(r.lab), r.taken_on] for r in readings] == (
        SHOWN[number]["readings"]
    )


def test_a_dose_is_an_addition_with_its_grams(opened):
    with opened.connection() as connection:
        given = [e.addition for e in list_entries(connection, 1) if e.addition]
    assert [(one.name, one.grams, one.unit) for one in given] == [("white vinegar", 1.5, "g")]


def test_readings_show_the_state_of_their_day_and_trials_go_on(opened, studies):
    with opened.connection() as connection:
        runs = {run.id: run.name for run in studies["1"].runs}
        dyed = next(one.vessel.swatches for one in studies["1"].bench if one.name == "D1")
        whole = [r for r in list_readings(connection, 1) if r.piece == "whole"]
        assert {runs.get(r.run) for r in whole if r.swatch in dyed} == {"D1"}
        trials = list_trials(connection, 1)
        assert trials
        points = list_points(connection, 1)
        assert {one.stage for one in points[min(trials)]}
        assert list_photos(connection, 1)
        # The plan as it stood is the first version that is kept.
        for number in list_study_ids(connection):
            assert len(list_versions(connection, number)) == 1
