"""A package taken into a file: the same again, once, whole or not at all."""

import csv
import io
import json
import random
import re
import shutil
import sqlite3
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from starlette.testclient import TestClient
from tests.conftest import ADDRESS
from tests.depth import depth
from tests.seeded_readings import READ_AT, add_readings, new_study
from tests.small_study import small_plan
from tests.store.rich_study import made, rich_study

from zesty_grid.api.application import create_application
from zesty_grid.api.packages import take_package, write_package
from zesty_grid.core.plan.swatch_codes import on_label, serial_of, swatch_code
from zesty_grid.core.record.entry import NewBenchEntry
from zesty_grid.core.record.taken_in import TakenIn
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.package.tables import TABLES, VERSION
from zesty_grid.store import dye
from zesty_grid.store.database import Database
from zesty_grid.store.packages.codes import with_codes
from zesty_grid.store.safekeeping import check
from zesty_grid.store.signing import signed_entries


@pytest.fixture(scope="module")
def source(tmp_path_factory) -> Database:
    database = Database(tmp_path_factory.mktemp("source") / "grid.db")
    rich_study(database, TestClient(create_application(database), base_url=ADDRESS))
    with database.transaction() as connection:
        connection.execute("INSERT INTO access_code (kind, hash, made_at) VALUES ('full', '', '')")
        connection.execute(
            "INSERT INTO device (code_id, secret_hash, name, came_in_at, seen_at) VALUES (1, '', 'Bench phone', '', '')"
        )
        connection.execute("INSERT INTO signature VALUES ('bench_entry', 5, 1)")
        connection.execute("UPDATE photo SET discarded = 1 WHERE id = 2")
    return database


@pytest.fixture(scope="module")
def package(source, tmp_path_factory) -> Path:
    folder = tmp_path_factory.mktemp("package") / "package"
    write_package(source, [], folder)
    return folder


@pytest.fixture
def fresh(tmp_path) -> Database:
    return Database(tmp_path / "fresh.db")


def same_bytes(one: Path, other: Path) -> bool:
    """But for the moment of writing."""
    files = {path.relative_to(one) for path in one.rglob("*") if path.is_file()}
    assert files == {path.relative_to(other) for path in other.rglob("*") if path.is_file()}
    for path in files - {Path("datapackage.json")}:
        assert (one / path).read_bytes() == (other / path).read_bytes(), path
    described = [json.loads((each / "datapackage.json").read_text()) for each in (one, other)]
    for each in described:
        del each["created"]
    return described[0] == described[1]


def content(database: Database) -> list[str]:
    with database.connection() as connection:
        return list(connection.iterdump())


def uids(package: Path) -> list[str]:
    return [row["study"] for row in rows(package, "studies")]


def rows(package: Path, table: str) -> list[dict[str, str]]:
    text = (package / f"{table}.csv").read_bytes().decode()
    return list(csv.DictReader(io.StringIO(text, newline="")))


def test_the_package_has_something_of_every_table(package):
    """Else the tests below would prove little."""
    empty = {table.name for table in TABLES if not rows(package, table.name)}
    assert empty <= {"probe_readings", "day_plans", "reading_choices"} - {"reading_choices"}


def test_out_and_in_and_out_again_is_the_same(package, fresh, tmp_path):
    report = take_package(fresh, package, "package")
    assert [(one.how, one.mark) for one in report.studies] == [("new", ""), ("new", "")]
    assert check(fresh.path) == []
    write_package(fresh, [], tmp_path / "again")
    assert same_bytes(package, tmp_path / "again")


def test_taken_in_twice_nothing_is_double(package, fresh):
    take_package(fresh, package, "package")
    before = content(fresh)
    report = take_package(fresh, package, "package")
    assert {one.how for one in report.studies} == {"here"}
    assert not report.changes
    assert content(fresh) == before


def test_looking_changes_nothing(package, fresh):
    take_package(fresh, package, "package", only_look=True)
    with fresh.connection() as connection:
        assert connection.execute("SELECT count(*) FROM study").fetchone()[0] == 0
    assert take_package(fresh, package, "package", only_look=True).studies[0].how == "new"


def test_beside_other_studies_codes_that_are_given_get_a_mark(package, database, tmp_path):
    new_study(database, small_plan(name="Mine"))
    report = take_package(database, package, "package")
    assert report.studies[0].mark == "B"
    with database.connection() as connection:
        first = connection.execute("SELECT code, serial FROM swatch WHERE study_id = 1").fetchone()
        theirs = [row["code"] for row in connection.execute("SELECT code FROM swatch WHERE study_id = 2")]
        by_device = signed_entries(connection, 2)
    assert {on_label(code) for code in theirs} == {
        row["swatch"] for row in rows(package, "swatches") if row["study"] == uids(package)[0]
    }
    assert all(code == f"B{on_label(code)}" for code in theirs)
    assert first["code"] in map(on_label, theirs)
    assert set(by_device.values()) == {"Bench phone"}
    assert check(database.path) == []
    # In a package they go by their labels again.
    write_package(database, uids(package), tmp_path / "again")
    assert same_bytes(package, tmp_path / "again")


def test_the_screens_of_a_marked_study_answer(package, database):
    new_study(database, small_plan(name="Mine"))
    study = take_package(database, package, "package").studies[0].study
    client = TestClient(create_application(database), base_url=ADDRESS)
    code = made(client.get(f"/api/studies/{study}/readings"))[0]["swatch"]
    assert code.startswith("B")
    for path in (
        "",
        "/readings",
        "/colours",
        "/trials",
        "/dye",
        "/dye/log",
        "/effects",
        f"/swatches/{code}",
        "/photos",
    ):
        answer = client.get(f"/api/studies/{study}{path}")
        assert answer.status_code in (200, 404 if path == "/effects" else 200), (path, answer.text)
    record = made(client.get(f"/api/studies/{study}/swatches/{code}"))
    assert any(step["begun"] for step in record["passages"])
    # The label on the cloth says the code without the mark.
    bath = made(client.get(f"/api/studies/{study}/dye"))["vessels"][0]["vessel"]["name"]
    said = client.post(f"/api/studies/{study}/dye/who", json={"vessel": bath, "text": on_label(code)})
    assert made(said)["code"] == code


def test_a_study_goes_to_a_colleague_grows_and_comes_back(source, package, fresh, tmp_path):
    take_package(fresh, package, "package")
    with fresh.transaction() as connection:
        said = NewBenchEntry(kind="note", note="rinsed once more", who="Ada", at=READ_AT)
        dye.add_entry(connection, 1, said, READ_AT)
        code = connection.execute("SELECT code FROM swatch WHERE study_id = 1").fetchone()[0]
    add_readings(fresh, 1, [(code, "whole", (50.0, 10.0, 30.0))])
    write_package(fresh, ["1"], tmp_path / "back.zip")
    home = Database(tmp_path / "home.db")
    take_package(home, package, "package")
    new_study(home, small_plan(name="Meanwhile"))
    report = take_package(home, tmp_path / "back.zip", "back.zip")
    assert [one.how for one in report.studies] == ["grown", "here"]
    assert report.studies[0].added["entries"] == 1
    assert report.studies[0].added["readings"] == 1
    assert check(home.path) == []
    assert not take_package(home, tmp_path / "back.zip", "back.zip").changes
    # The older package has nothing that is not here.
    assert {one.how for one in take_package(home, package, "package").studies} == {"here"}
    write_package(home, uids(package), tmp_path / "home")
    write_package(fresh, uids(package), tmp_path / "theirs")
    assert same_bytes(tmp_path / "home", tmp_path / "theirs")


def test_where_both_went_on_nothing_is_mixed(package, fresh, tmp_path):
    take_package(fresh, package, "package")
    other = Database(tmp_path / "other.db")
    take_package(other, package, "package")
    for database, note in ((fresh, "here"), (other, "there")):
        with database.transaction() as connection:
            said = NewBenchEntry(kind="note", note=note, at=READ_AT)
            dye.add_entry(connection, 1, said, READ_AT)
    write_package(other, [], tmp_path / "other.zip")
    before = content(fresh)
    with pytest.raises(Refusal, match="went on in both files"):
        take_package(fresh, tmp_path / "other.zip", "other.zip")
    assert content(fresh) == before


def test_the_shelf_keeps_its_own(package, database):
    with database.transaction() as connection:
        connection.execute(
            "UPDATE shelf_item SET document = json_set(document, '$.name', 'Wool of my own') "
            "WHERE kind = 'fibre' AND key = 'wool'"
        )
    report = take_package(database, package, "package")
    assert report.shelf_added == ("Red rag",)
    assert report.shelf_kept == ()  # theirs is as it came with the application
    with database.connection() as connection:
        (name,) = connection.execute(
            "SELECT document ->> '$.name' FROM shelf_item WHERE kind = 'fibre' AND key = 'wool'"
        ).fetchone()
    assert name == "Wool of my own"


def test_a_study_that_has_not_begun_keeps_recipes_that_differ_here(fresh, database, tmp_path):
    for made_by, dose in ((fresh, 12), (database, 18)):
        client = TestClient(create_application(made_by), base_url=ADDRESS)
        shelf = made(client.get("/api/shelf"))
        route = next(one for one in shelf["mordant_routes"] if one["key"] == "alum-hot")
        route["baths"][0]["dose_percent_wof"] = dose
        made(client.put("/api/shelf", json=route))
    new_study(fresh, small_plan(name="Theirs"))
    write_package(fresh, [], tmp_path / "theirs.zip")
    report = take_package(database, tmp_path / "theirs.zip", "theirs.zip")
    assert len(report.shelf_kept) == 1
    with database.connection() as connection:
        dose = connection.execute(
            "SELECT route.value ->> '$.baths[0].dose_percent_wof' FROM study, "
            "json_each(kept_shelf, '$.mordant_routes') AS route "
            "WHERE route.value ->> '$.key' = 'alum-hot'"
        ).fetchone()[0]
    assert dose == 12


def test_a_package_of_a_version_that_was_never_released_is_refused(package, fresh, tmp_path):
    shutil.copytree(package, tmp_path / "old")
    described = tmp_path / "old" / "datapackage.json"
    described.write_text(described.read_text().replace(f'"{VERSION}"', '"1.0.0"'))
    with pytest.raises(Refusal, match="never released"):
        take_package(fresh, tmp_path / "old", "old.zip")


def refused(database: Database, package: Path) -> Refusal | None:
    try:
        take_package(database, package, "broken")
    except Refusal as refusal:
        return refusal
    return None


def with_a_break(package: Path, broken: Path, table: str, row: int, column: str, value: str) -> None:
    """A copy of a package with one cell of one table changed."""
    shutil.copytree(package, broken)
    every = rows(package, table)
    every[row][column] = value
    with (broken / f"{table}.csv").open("w", newline="") as file:
        writer = csv.DictWriter(file, list(every[0]), lineterminator="\n")
        writer.writeheader()
        writer.writerows(every)


@pytest.mark.parametrize(
    ("table", "column", "value", "why"),
    [
        ("readings", "accepted_at", "yesterday", "is no moment"),
        ("runs", "bath", "soup", "is none of its words"),
        ("studies", "plan", "{}", "Field required"),
        ("lights", "light", "§", "It is not the name of this group."),
        ("sheets", "page", "", "It is empty."),
    ],
)
def test_a_cell_that_cannot_be_is_said_with_its_place(package, fresh, tmp_path, table, column, value, why):
    with_a_break(package, tmp_path / "broken", table, 0, column, value)
    refusal = refused(fresh, tmp_path / "broken")
    assert refusal
    assert refusal.faults[0].field == f"{table}.csv, row 2, {column}"
    assert why in str(refusal)


BREAKS = ("§", "", "{}", "[]", "-1", "99999999999999999999", "true", '{"a": 1}')


@pytest.mark.parametrize("seed", range(depth(8, 40)))
def test_what_cannot_be_is_refused_and_nothing_of_it_stays(package, fresh, tmp_path, seed):
    """One cell of one table is changed; the package is then either still sound, or refused whole
    with the place of the fault."""
    chance = random.Random(seed)
    broken = tmp_path / "broken"
    table = chance.choice([one for one in TABLES if rows(package, one.name)])
    every = rows(package, table.name)
    row, column = chance.choice(range(len(every))), chance.choice(table.columns)
    value = chance.choice([one for one in BREAKS if one != every[row][column.name]])
    with_a_break(package, broken, table.name, row, column.name, value)
    take_package(fresh, package, "package", only_look=True)
    before = content(fresh)
    refusal = refused(fresh, broken)
    if refusal:
        assert refusal.code == "broken-package"
        places = [fault.field for fault in refusal.faults]
        assert all(re.match(r"\w+\.csv, row \d+, \w+", place) for place in places), places
        assert content(fresh) == before
    else:
        assert check(fresh.path) == []
        client = TestClient(create_application(fresh), base_url=ADDRESS)
        for path in ("/api/today", "/api/studies", "/api/studies/1", "/api/studies/1/dye"):
            assert client.get(path).status_code == 200, (table.name, column.name, path)


@pytest.mark.parametrize("change", ["photo", "calibration", "table", "gone"])
def test_a_file_that_is_changed_or_missing_is_said(package, fresh, tmp_path, change):
    broken = tmp_path / "broken"
    shutil.copytree(package, broken)
    if change == "photo":
        next((broken / "photos").iterdir()).write_bytes(b"another picture")
    elif change == "calibration":
        next(broken.glob("calibrations/*/*")).unlink()
    elif change == "table":
        (broken / "runs.csv").write_bytes(b"run,study\n\xff\xfe")
    else:
        (broken / "runs.csv").unlink()
    assert refused(fresh, broken).code == "broken-package"


def test_what_is_no_package_is_refused(fresh, tmp_path):
    (tmp_path / "text.zip").write_text("no zip")
    (tmp_path / "empty").mkdir()
    (tmp_path / "newer").mkdir()
    described = {"format": "zesty-grid/study-package", "version": "9.0.0"}
    (tmp_path / "newer" / "datapackage.json").write_text(json.dumps(described))
    for name, code in (
        ("text.zip", "no-package"),
        ("empty", "no-package"),
        ("newer", "newer-package"),
        ("none.zip", "no-package"),
    ):
        assert refused(fresh, tmp_path / name).code == code
    assert tuple(int(part) for part in VERSION.split(".")) < (9,)


def test_by_the_api_it_is_looked_at_first_and_then_taken(package, client, tmp_path):
    shutil.make_archive(str(tmp_path / "packed"), "zip", package)
    sent = {"file": ("packed.zip", (tmp_path / "packed.zip").read_bytes(), "application/zip")}
    looked = TakenIn.model_validate(made(client.post("/api/packages?look=true", files=sent)))
    assert made(client.get("/api/studies")) == []
    taken = TakenIn.model_validate(made(client.post("/api/packages", files=sent)))
    assert taken.studies == looked.studies
    assert [one["name"] for one in made(client.get("/api/studies"))] == ["Strengths", "Onward"]
    assert made(client.get("/api/packages"))[0]["filename"] == "packed.zip"
    answer = client.post("/api/packages", files={"file": ("a.zip", b"x", "application/zip")})
    assert answer.status_code == 422
    assert answer.json()["title"].startswith("This is no package")


WORDS = st.text(st.characters(codec="utf-8", exclude_characters="\0"), min_size=1, max_size=40)


@settings(max_examples=depth(3, 12), suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(name=WORDS.filter(str.strip), question=WORDS, who=WORDS, note=WORDS)
def test_whatever_people_typed_comes_back(tmp_path_factory, name, question, who, note):
    folder = tmp_path_factory.mktemp("typed")
    one, other = Database(folder / "one.db"), Database(folder / "other.db")
    create_application(one)
    study, codes = new_study(one, small_plan(name=name, question=question))
    with one.transaction() as connection:
        for words in (note, next(iter(codes.values()))):
            said = NewBenchEntry(kind="note", note=words, who=who, at=READ_AT, swatches=tuple(codes.values())[:2])
            dye.add_entry(connection, study, said, READ_AT)
    write_package(one, [], folder / "out")
    take_package(other, folder / "out", name)
    write_package(other, [], folder / "again")
    assert same_bytes(folder / "out", folder / "again")


@given(st.integers(0, 10**6))
def test_a_code_leads_back_to_its_number(serial):
    assert serial_of(swatch_code(serial)) == serial
    assert serial_of(f"B{swatch_code(serial)}") is None
    assert on_label(f"BD{swatch_code(serial)}") == swatch_code(serial)


CODES = {"ACEF": "BACEF", "HJKM": "BHJKM"}
DOCUMENTS = st.recursive(
    st.sampled_from([*CODES, "other", 1, None, True]),
    lambda inner: (
        st.lists(inner, max_size=3)
        | st.dictionaries(st.sampled_from(["swatch", "swatches", "note", "name", "iron_limits"]), inner, max_size=3)
    ),
    max_leaves=12,
)


@given(DOCUMENTS)
def test_codes_in_documents_are_put_and_put_back(document):
    back = {new: old for old, new in CODES.items()}
    there = with_codes(document, CODES)
    assert with_codes(there, back) == document
    if isinstance(document, dict) and "note" in document and isinstance(document["note"], str):
        assert there["note"] == document["note"]


def test_foreign_keys_hold_after_taking_in(package, fresh):
    take_package(fresh, package, "package")
    with sqlite3.connect(fresh.path) as connection:
        assert connection.execute("PRAGMA foreign_key_check").fetchall() == []
