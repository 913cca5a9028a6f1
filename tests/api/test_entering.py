"""Tables of swatches that were dyed before, and lists for the Shelf, by the API."""

from pathlib import Path

import pytest
from tests.seeded_readings import add_readings
from tests.store.rich_study import made

from zesty_grid.api.packages import take_package, write_package
from zesty_grid.store.database import Database
from zesty_grid.store.instruments import read_both_ways
from zesty_grid.store.safekeeping import check

TABLE = """Swatch;Cloth;Mordant;Dye;% WOF;pH;Iron;Colour;±;Recipe;Date
A1;Wool;Alum, hot;Walnut hulls;50;;0;#8a5a2b;4;cold soak two days;3.11.2023
A2;wool;none;walnut hulls;50;;1;#6d4a2a;4;as A1;3.11.2023
A3;Cotton sheet;Alum, hot;Walnut hulls;100;7;0;#a9815a;;hot;4.11.2023
A3b;Cotton sheet;Alum, hot;Walnut hulls;100;7;0;#a8805b;;hot;4.11.2023
A4;Grandma's skein;none;Onion;25;;0;;;;
"""


def looked(client, text: str, filename: str = "old.csv") -> dict:
    return made(client.post("/api/entered/look", files={"file": (filename, text.encode())}))


def wanted(client, text: str = TABLE, **said) -> dict:
    look = looked(client, text)
    start = {
        "table": look["table"],
        "roles": look["roles"],
        "name": "Old",
        "read_on": "2026-11-27",
        "classes": {"Grandma's skein": "protein"},
    }
    return start | said


@pytest.fixture
def study(client) -> int:
    return made(client.post("/api/entered/study", json=wanted(client)))["id"]


def test_every_row_becomes_a_swatch_with_its_recipe_and_colour(client, study):
    readings = {one["swatch"]: one for one in made(client.get(f"/api/studies/{study}/readings"))}
    assert [one["hex"] for one in readings.values()] == ["#8a5a2b", "#6d4a2a", "#a9815a", "#a8805b"]
    assert [one["uncertainty_de00"] for one in readings.values()] == [4, 4, 5, 5]
    assert {one["taken_on"] for one in readings.values()} == {"2023-11-03", "2023-11-04"}
    assert {one["instrument"] for one in readings.values()} == {"entered later, from old.csv"}
    record = made(client.get(f"/api/studies/{study}/swatches/{next(iter(readings))}"))
    assert record["levels"]["fibre"] == "wool"
    assert record["level_words"]["dye"] == "Walnut hulls"
    noted = made(client.get(f"/api/studies/{study}/dye/notes"))
    (note,) = [one for one in noted if next(iter(readings)) in one["swatches"]]
    assert "A1" in note["words"]
    assert "cold soak two days" in note["words"]
    assert record["tie"] == ""  # the application's knots are not on it


def test_the_record_says_that_it_was_entered_later(client, study):
    view = made(client.get(f"/api/studies/{study}"))
    assert view["entered_from"] == "old.csv"
    lines = made(client.get(f"/api/studies/{study}/dye/log"))
    assert len(lines) == 5
    assert all(line["entered_at"][:4] >= "2026" for line in lines)
    assert {line["at"][:10] for line in lines} >= {"2023-11-03", "2023-11-04"}


def test_no_bath_is_asked_for_what_was_dyed_before_but_more_can_be_done(client, study):
    view = made(client.get(f"/api/studies/{study}"))
    assert view["vessels"] == []
    code = made(client.get(f"/api/studies/{study}/readings"))[0]["swatch"]
    plan = view["plan"] | {
        "treatments": [
            {
                "key": "iron-after",
                "name": "Iron after",
                "kind": "iron",
                "swatches": [code],
                "iron_percent_wof": 1.0,
                "route": "after-bath",
                "seconds": 60,
            }
        ]
    }
    body = {"revision": view["revision"], "plan": plan}
    after = made(client.put(f"/api/studies/{study}", json=body))
    assert [one["swatches"] for one in after["vessels"]] == [[code]]


def test_things_that_are_not_on_the_shelf_are_put_there(client):
    look = made(client.post("/api/entered/study/look", json=wanted(client)))
    assert {(one["kind"], one["name"]) for one in look["new_items"]} == {
        ("dye_lot", "Walnut hulls"),
        ("dye_lot", "Onion"),
        ("fibre", "Cotton sheet"),
        ("fibre", "Grandma's skein"),
    }
    assert made(client.get("/api/studies")) == []
    made(client.post("/api/entered/study", json=wanted(client)))
    shelf = made(client.get("/api/shelf"))
    sheet = next(one for one in shelf["fibres"] if one["name"] == "Cotton sheet")
    assert (sheet["fibre_class"], sheet["source"]) == ("cellulose", "entered from old.csv")


def test_a_fibre_that_does_not_tell_is_asked(client):
    body = wanted(client, classes={})
    assert made(client.post("/api/entered/study/look", json=body))["asked"] == ["Grandma's skein"]
    refused = client.post("/api/entered/study", json=body)
    assert refused.status_code == 422
    assert "Grandma's skein" in refused.json()["title"]


def test_faults_are_named_by_row_and_column_and_nothing_is_entered(client):
    bad = TABLE.replace("#8a5a2b", "brown").replace(";50;;1;", ";much;;1;").replace("4.11.2023", "4/11/2023", 1)
    body = wanted(client, bad)
    faults = made(client.post("/api/entered/study/look", json=body))["faults"]
    assert [(one["field"], one["given"]) for one in faults] == [
        ("row 2, Colour", "brown"),
        ("row 3, % WOF", "much"),
        ("row 4, Date", "4/11/2023"),
    ]
    refused = client.post("/api/entered/study", json=body)
    assert refused.status_code == 422
    assert [one["field"] for one in refused.json()["errors"]] == [one["field"] for one in faults]
    assert made(client.get("/api/studies")) == []
    assert not any(one["name"] == "Onion" for one in made(client.get("/api/shelf"))["dye_lots"])


def test_columns_can_be_said_otherwise(client):
    body = wanted(client)
    body["roles"] = ["leave" if one in ("iron", "ph", "hex") else one for one in body["roles"]]
    look = made(client.post("/api/entered/study/look", json=body))
    assert look["coloured"] == 0
    assert set(look["lines"][0]["levels"]) == {"fibre", "mordant", "dye", "strength"}
    twice = body | {"roles": ["fibre"] * len(body["roles"])}
    assert client.post("/api/entered/study/look", json=twice).status_code == 422


def test_the_preview_shows_colours_that_were_given_as_numbers(client):
    body = wanted(client, "Fibre;Dye;L;a;b\nwool;weld;80;-3;60\n")
    (line,) = made(client.post("/api/entered/study/look", json=body))["lines"]
    assert line["lab"] == [80, -3, 60]
    assert line["doubt_de00"] == 2
    assert line["hex"].startswith("#")


def test_too_many_kinds_are_said_before_anything_is_entered(client):
    rows = "\n".join(f"wool;dye {i}" for i in range(13))
    faults = made(client.post("/api/entered/study/look", json=wanted(client, f"Fibre;Dye\n{rows}")))["faults"]
    assert "at most 12" in faults[0]["allowed"]


def test_a_photo_outweighs_what_was_entered_and_does_not_teach_by_it(client, study, database):
    code = made(client.get(f"/api/studies/{study}/readings"))[0]["swatch"]
    add_readings(database, study, [(code, "whole", (50.0, 15.0, 30.0))])
    (state,) = made(client.get(f"/api/studies/{study}/swatches/{code}"))["states"]
    assert state["colour"]["lab"] == [50, 15, 30]
    with database.connection() as connection:
        assert read_both_ways(connection) == []


def test_it_goes_into_a_package_and_back(client, study, database: Database, tmp_path: Path):
    write_package(database, [], tmp_path / "out.zip")
    other = Database(tmp_path / "other.db")
    take_package(other, tmp_path / "out.zip", "out.zip")
    assert check(other.path) == []
    with other.connection() as connection:
        (entered,) = connection.execute("SELECT origin ->> '$.filename' FROM study").fetchone()
    assert entered == "old.csv"
    assert check(database.path) == []


FIBRES = "Name,Made of,g/m2,In stock\nHouse linen,cellulose,180,500\nOdd felt,,300,\nWool,,,\n"


def test_a_list_of_fibres_comes_to_the_shelf(client):
    look = looked(client, FIBRES, "fibres.csv")
    body = {"table": look["table"], "kind": "fibre", "fields": look["fields"]["fibre"]}
    assert look["fields"]["fibre"] == ["name", "fibre_class", "mass_g_m2", "amount_in_hand_g"]
    would = made(client.post("/api/entered/shelf/look", json=body))
    assert (would["there"], would["asked"]) == (["Wool"], ["Odd felt"])
    assert client.post("/api/entered/shelf", json=body).status_code == 422
    added = made(client.post("/api/entered/shelf", json=body | {"classes": {"Odd felt": "protein"}}))
    assert added == {"added": 2}
    fibres = {one["name"]: one for one in made(client.get("/api/shelf"))["fibres"]}
    assert fibres["House linen"]["mass_g_m2"] == 180
    assert fibres["House linen"]["amount_in_hand_g"] == 500
    assert fibres["Odd felt"]["fibre_class"] == "protein"


def test_lists_of_dyes_and_vessels(client):
    dyes = "Plant,State,Collected,In hand\nWeld,dried,2024,120\nMadder,mouldy,2023,\n"
    look = looked(client, dyes)
    body = {"table": look["table"], "kind": "dye_lot", "fields": look["fields"]["dye_lot"]}
    faults = made(client.post("/api/entered/shelf/look", json=body))["faults"]
    assert [one["field"] for one in faults] == ["row 3, State"]
    body["table"]["rows"][1][1] = "dried"
    assert made(client.post("/api/entered/shelf", json=body)) == {"added": 2}
    pots = 'Pot,Volume,Material,How many\nBig one,20 l,enamel,2\nJar,"1,5",glass,12\n'
    look = looked(client, pots)
    body = {"table": look["table"], "kind": "vessel", "fields": look["fields"]["vessel"]}
    faults = made(client.post("/api/entered/shelf/look", json=body))["faults"]
    assert [one["field"] for one in faults] == ["row 2, Volume"]
    body["table"]["rows"][0][1] = "20"
    assert made(client.post("/api/entered/shelf", json=body)) == {"added": 2}
    jar = next(one for one in made(client.get("/api/shelf"))["vessels"] if one["name"] == "Jar")
    assert (jar["litres"], jar["count"]) == (1.5, 12)


def test_a_list_without_names_is_refused(client):
    look = looked(client, "Width\n90\n")
    body = {"table": look["table"], "kind": "fibre", "fields": ["width_cm"]}
    assert made(client.post("/api/entered/shelf/look", json=body))["faults"]
    unknown = body | {"fields": ["litres"]}
    assert client.post("/api/entered/shelf/look", json=unknown).status_code == 422
