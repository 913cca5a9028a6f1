"""What Compare reads from the tables: true vessels, states, keys, recipes, kept tables."""

import json

import pytest
from tests.compared_studies import seeded_study
from tests.logged_study import logged_study
from tests.seeded_readings import add_readings, new_trial

from zesty_grid.core.compare.coloured import parse_key
from zesty_grid.core.compare.laid_table import LaidTable
from zesty_grid.core.fade.life import yearly_light
from zesty_grid.core.shelf.light_place import KNOWN_PLACES
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.store import laid_tables
from zesty_grid.store.catalogue import coloured_by_key, every_stage, every_state, every_zone, searched_colours, seen_of
from zesty_grid.store.compared_swatches import swatches_looked_at
from zesty_grid.store.database import Database
from zesty_grid.store.lasting_of import aged_in_place
from zesty_grid.store.plan import NotFound
from zesty_grid.store.read import last_photographed
from zesty_grid.store.recipes import RecipeBook
from zesty_grid.store.shelf import stock_shelf
from zesty_grid.store.standing import standing_study
from zesty_grid.store.study_facts import one_study

CELL = "fibre={};mordant=alum-hot;dye=dried-flowers;strength=strength-{};iron=iron-{}"
IRONED, PLAIN = CELL.format("wool", 100, 1), CELL.format("wool", 100, 0)


@pytest.fixture(scope="module")
def logged(tmp_path_factory):
    made = Database(tmp_path_factory.mktemp("logged") / "grid.db")
    with made.transaction() as connection:
        stock_shelf(connection, STARTING_SHELF)
    study, codes = logged_study(made)
    return made, study, codes


def undyed_wool(codes):
    return {code for cell, code in codes.items() if cell.startswith("control=undyed;fibre=wool")}


def looked(logged, kind=""):
    database, study, _ = logged
    with database.connection() as connection:
        return swatches_looked_at(connection, standing_study(connection, study), kind)


def test_vessels_are_those_that_a_swatch_was_really_in(logged):
    _, _, codes = logged
    by = {one.code: one for one in looked(logged).swatches}
    database = logged[0]
    ironed, plain = by[codes[IRONED]], by[codes[PLAIN]]
    assert set(ironed.vessels) == {"mordant", "dye", "iron"}
    # Baths in which all lie together, such as the scour, keep nothing apart.
    assert set(plain.vessels) == {"mordant", "dye"}
    # Both come from the same dye pot, and only one goes on into the iron.
    assert ironed.vessels["dye"] == plain.vessels["dye"]
    again = by[codes[f"{PLAIN}#2"]]
    assert again.vessels["dye"] != plain.vessels["dye"]
    with database.connection() as connection:
        names = {row["name"] for row in connection.execute("SELECT name FROM run")}
    assert {name for one in by.values() for name in one.vessels.values()} <= names


def test_controls_are_none_of_the_crossing(logged):
    _, _, codes = logged
    named = {one.code for one in looked(logged).swatches}
    assert codes["control=undyed;fibre=wool"] not in named
    assert len(named) == 24


def test_factors_and_their_words_are_those_of_the_plan(logged):
    found = looked(logged)
    assert found.factors == ("fibre", "strength", "iron")
    assert found.level_order["strength"] == ("strength-25", "strength-50", "strength-100")
    assert found.words["iron=iron-1"] == "iron 1"
    assert found.words["strength"] == "Dye strength"
    assert all(set(one.levels) == set(found.factors) for one in found.swatches)


def test_only_swatches_read_in_the_state_that_is_asked_for_are_looked_at(logged):
    _, _, codes = logged
    dyed = {one.code for one in looked(logged, "dye").swatches}
    assert codes[PLAIN] in dyed
    # The ones with iron were read after it, and never as dyed.
    assert codes[IRONED] not in dyed
    assert looked(logged, "tannin").swatches == []


def test_each_swatch_shares_its_photo_with_those_that_lay_beside_it(logged):
    found = looked(logged).swatches
    photos = {one.photos[0][2] for one in found}
    assert len(photos) == 2  # 24 swatches of the crossing come first, twelve a page
    assert len({one.photos[0][0] for one in found}) == 1


def test_states_have_the_name_of_the_bath_and_undyed_cloth_of_their_fibre(logged):
    database, study, codes = logged
    with database.connection() as connection:
        states = {one.code: one for one in every_state(connection, study)}
        ironed = states[codes[IRONED]]
        assert ironed.state == "after iron"
        assert ironed.kind == "swatch"
        undyed = coloured_by_key(connection, [ironed.undyed])[ironed.undyed]
    assert undyed.code in undyed_wool(codes)
    assert undyed.kind == "control"
    assert "Wool" in ironed.words
    assert states[codes[PLAIN]].state == "as dyed"


def test_what_nobody_logged_is_called_as_read_and_is_no_undyed_cloth(database):
    study, codes = seeded_study(database)
    with database.connection() as connection:
        states = {one.code: one for one in every_state(connection, study)}
    assert {one.state for one in states.values()} == {"as read"}
    wool = states[codes[PLAIN]]
    assert wool.undyed
    assert parse_key(wool.undyed).code in undyed_wool(codes)


def test_a_search_sees_what_is_there_and_nothing_of_deleted_studies(database):
    study, codes = seeded_study(database)
    with database.transaction() as connection:
        found = searched_colours(connection)
        assert {one.code for one in found} == set(codes.values())
        whole = coloured_by_key(connection, [one.key for one in found])
        assert {key: one.lab for key, one in whole.items()} == {one.key: one.lab for one in found}
        connection.execute("UPDATE study SET deleted_at = '2026-01-01' WHERE id = ?", (study,))
        assert searched_colours(connection) == []
        assert every_state(connection) == []


def test_stages_of_trials_have_keys_of_their_own_and_their_readings(database):
    study, codes = seeded_study(database)
    code = codes[PLAIN]
    trial = new_trial(
        database,
        study,
        {
            "kind": "light",
            "name": "Sill",
            "swatches": [code],
            "stages": [{"label": f"{n} days", "days": n, "dose_lxh": n * 1e5} for n in (1, 2, 4, 8)],
        },
    )
    for stage in range(4):
        pieces = [(code, "dark", (50.0, 5.0, 40.0)), (code, "light", (50.0 + 2 * stage, 5.0, 40.0 - 3 * stage))]
        add_readings(database, study, pieces, trial, stage)
    with database.connection() as connection:
        stages = every_stage(connection, study)
        assert len(stages) == 8
        last = stages[-1]
        assert last.key == f"{code}/t{trial}/s3/exposed"
        assert last.state == "Sill, 8 days, exposed"
        found = coloured_by_key(connection, [last.key])
        assert found[last.key].lab == last.lab
        seen = seen_of(connection, [last])[last.key]
        assert [one.lab for one in seen] == [last.lab]
        assert every_zone(connection, study) == []
        bright = next(one for one in KNOWN_PLACES if one.key == "bright-room")
        aged = aged_in_place(connection, study, bright, 10)
    # Ten years of 1.5 Mlx·h are beyond a trial of 0.8 Mlx·h, and said to be.
    assert set(aged) == {code}
    assert aged[code].beyond
    assert yearly_light(bright).dose_lxh == pytest.approx(1.5e6)


def test_a_recipe_is_that_of_the_baths_as_they_were_kept(logged):
    database, _, codes = logged
    with database.connection() as connection:
        book = RecipeBook(connection)
        told = book.recipe(codes[IRONED], 60)
        plain = book.recipe(codes[PLAIN], 60)
    assert told.logged
    titles = [bath.title for bath in told.baths]
    assert titles[-1].startswith("Iron 1 %")
    assert [bath.title for bath in plain.baths] == titles[:-1]
    dye = next(bath for bath in told.baths if "82 °C" in bath.really and "pH" in bath.really)
    assert "78 to 82 °C" in dye.really
    assert "pH 5.5" in dye.really
    # 1 % of 60 g of iron(II) sulphate, 15 % of alum: by hand.
    grams = {one.name: one.grams for one in told.needed}
    assert grams["iron(II) sulphate"] == pytest.approx(0.6, rel=0.01)
    assert grams["potassium alum"] == pytest.approx(9)
    assert told.gentle.iron
    assert not plain.gentle.iron
    assert plain.gentle.hottest_c >= 82


def test_a_recipe_stops_at_the_state_that_is_asked_for(logged):
    database, _, codes = logged
    with database.connection() as connection:
        run = connection.execute(
            "SELECT run_id FROM passage JOIN run ON run.id = passage.run_id JOIN swatch "
            "ON swatch.id = passage.swatch_id WHERE code = ? AND run.bath = 'dye'",
            (codes[IRONED],),
        ).fetchone()["run_id"]
        book = RecipeBook(connection)
        assert "Iron" not in book.recipe(codes[IRONED], 60, run).baths[-1].title
        assert book.recipe(codes[IRONED], 60, 0).baths == ()
        with pytest.raises(NotFound):
            book.recipe("ZZZZ", 60)


def test_the_runs_of_a_study_are_told_by_their_days_and_true_values(logged):
    database, study, _ = logged
    with database.connection() as connection:
        facts = one_study(connection, standing_study(connection, study)).facts
    assert facts["Dye bath, measured"] == "80 °C"
    assert facts["Dye bath, pH"] == "5.5 to 5.5"
    assert facts["Dyed"].startswith("2026-09-")
    assert facts["Liquor"] == "30 mL/g"
    assert "Season" not in facts


def test_the_photo_of_a_state_is_found_with_its_cell(logged):
    database, study, codes = logged
    with database.connection() as connection:
        state = next(o for o in every_state(connection, study) if o.code == codes[IRONED])
        run = parse_key(state.key).run
        photo, cell = last_photographed(connection, codes[IRONED], run)
        assert connection.execute("SELECT 1 FROM photo WHERE id = ?", (photo,)).fetchone()
        assert cell
        assert last_photographed(connection, codes[IRONED], 99_999) is None


def test_tables_are_kept_newest_first_and_never_lost(database):
    with database.transaction() as connection:
        first = laid_tables.add_table(connection, LaidTable(name="One", keys=("EYFC@1",)))
        second = laid_tables.add_table(connection, LaidTable(name="Two", keys=()))
        assert {number for number, _ in laid_tables.list_tables(connection)} == {first, second}
        laid_tables.set_deleted(connection, first, True)
        with pytest.raises(NotFound):
            laid_tables.change_table(connection, first, LaidTable(name="X", keys=()))
        laid_tables.set_deleted(connection, first, False)
        assert laid_tables.load_table(connection, first).name == "One"
        with pytest.raises(NotFound):
            laid_tables.set_deleted(connection, 99, True)
        row = connection.execute("SELECT document FROM laid_table WHERE id = ?", (first,)).fetchone()
    assert json.loads(row["document"])["keys"] == ["EYFC@1"]
