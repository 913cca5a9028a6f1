"""Which accepted readings count as alike: repeats of a piece, of a pot, and of two pots."""

import pytest
from tests.seeded_readings import add_readings, new_study
from tests.small_study import small_plan

from zesty_grid.core.fade.trial import StagePlan, TrialPlan
from zesty_grid.core.read.readings import ReadingChoice
from zesty_grid.store.fade import add_trial
from zesty_grid.store.noise import colours_that_should_be_alike
from zesty_grid.store.read import choose_reading, list_readings

GREY, NEAR = (50.0, 0.0, 0.0), (51.0, 0.0, 0.0)
CELL = "fibre=wool;mordant=none;dye=dried-flowers;ph=ph-4;iron=iron-0"


def two_swatches(codes: dict[str, str]):
    return [(codes[CELL], "whole", GREY), (codes[f"{CELL}#2"], "whole", NEAR)]


def groups(database):
    with database.connection() as connection:
        return [kind.groups for kind in colours_that_should_be_alike(connection)]


def test_nothing_is_alike_in_an_empty_file(database):
    assert groups(database) == [(), (), ()]


@pytest.mark.parametrize(("vessels", "kind"), [("shared", 1), ("apart", 2)])
def test_replicates_count_by_how_their_pots_were_shared(database, vessels, kind):
    plan = small_plan(replicates=2, replicate_vessels=vessels)
    study, codes = new_study(database, plan)
    add_readings(database, study, two_swatches(codes))
    found = groups(database)
    assert {frozenset(group) for group in found[kind]} == {frozenset({GREY, NEAR})}
    assert found[3 - kind] == ()


def test_a_newer_reading_of_a_swatch_stands_for_it(database):
    study, codes = new_study(database, small_plan(replicates=2))
    add_readings(database, study, [(codes[CELL], "whole", (10.0, 0.0, 0.0))])
    add_readings(database, study, two_swatches(codes))
    assert {frozenset(group) for group in groups(database)[1]} == {frozenset({GREY, NEAR})}


def test_damp_readings_and_those_that_were_put_aside_are_no_measure(database):
    study, codes = new_study(database, small_plan(replicates=2))
    add_readings(database, study, two_swatches(codes), damp=True)
    assert groups(database) == [(), (), ()]
    with database.transaction() as connection:
        for reading in list_readings(connection, study):
            choose_reading(connection, reading.id, ReadingChoice(counts=True))
    assert {frozenset(group) for group in groups(database)[1]} == {frozenset({GREY, NEAR})}


def test_single_swatches_have_nothing_to_compare(database):
    study, codes = new_study(database, small_plan())
    add_readings(database, study, [(code, "whole", GREY) for code in list(codes.values())[:5]])
    assert groups(database) == [(), (), ()]


def test_a_kept_dark_piece_read_at_several_stages_shows_the_reading(database):
    study, codes = new_study(database, small_plan())
    code = codes[CELL]
    stages = tuple(StagePlan(label=str(n), washes=n) for n in (1, 2))
    with database.transaction() as connection:
        trial = add_trial(connection, study, TrialPlan(kind="wash", name="W", swatches=(code,), stages=stages))
    for stage, colour in enumerate((GREY, NEAR)):
        add_readings(database, study, [(code, "dark", colour)], trial=trial, stage=stage)
    assert {frozenset(group) for group in groups(database)[0]} == {frozenset({GREY, NEAR})}
