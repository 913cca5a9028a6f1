"""Lists without what lies in their lines, and the full things one at a time: they say the same."""

import pytest
from starlette.testclient import TestClient
from tests.compared_studies import seeded_study
from tests.seeded_readings import new_trial
from tests.store.rich_study import made

from zesty_grid.store.database import Database
from zesty_grid.store.read import waiting_photos


@pytest.fixture
def study(database: Database, client: TestClient) -> int:
    made_of, codes = seeded_study(database, name="Strengths")
    new_trial(
        database,
        made_of,
        {
            "kind": "light",
            "name": "Window",
            "swatches": list(codes.values())[:3],
            "stages": [{"label": "1 day", "days": 1, "dose_lxh": 1e5}],
        },
    )
    made(client.post(f"/api/studies/{made_of}/sheets", json={"trial": 1, "kind": "cuttings"}))
    return made_of


def test_lines_of_photos_say_what_the_photos_say(client, study):
    lines = made(client.get(f"/api/studies/{study}/photos"))
    assert lines
    for line in lines:
        photo = made(client.get(f"/api/photos/{line['id']}"))
        assert line["filename"] == photo["filename"]
        assert line["sheet"] == photo["sheet"]["sheet"]["id"]
        assert line["sheet_kind"] == photo["sheet"]["sheet"]["kind"]
        assert (line["accepted"], line["discarded"]) == (photo["accepted"], photo["discarded"])
        assert line["measured"] == len([cell for cell in photo["measurement"]["cells"] if cell["status"] == "measured"])
    assert client.get("/api/photos/9999").status_code == 404


def test_lines_of_sheets_say_who_lies_on_them(client, study):
    sheets = made(client.get(f"/api/studies/{study}/sheets"))
    lines = made(client.get(f"/api/studies/{study}/sheet-lines"))
    assert [one["id"] for one in lines] == [one["sheet"]["id"] for one in sheets]
    for line, sheet in zip(lines, sheets, strict=True):
        assert (line["page"], line["trial"]) == (sheet["page"], sheet["trial"])
        assert line["swatches"] == [one["swatch"] for one in sheet["assignments"]]
    assert [one["trial"] for one in lines if one["trial"]] == [1]


def test_a_photo_that_was_measured_waits_until_it_is_accepted_or_set_aside(client, study, database):
    photo = made(client.get(f"/api/studies/{study}/photos"))[0]["id"]
    with database.transaction() as connection:
        assert waiting_photos(connection, study) == []
        # Measured once more: the newest measurement has no readings yet.
        connection.execute(
            "INSERT INTO measurement (photo_id, document, measured_at) "
            "SELECT photo_id, document, measured_at FROM measurement WHERE photo_id = ?",
            (photo,),
        )
        assert [one.id for one in waiting_photos(connection, study)] == [photo]
    line = made(client.get(f"/api/studies/{study}/photos"))[0]
    assert (line["accepted"], line["measured"]) == (False, 4)
    made(client.post(f"/api/photos/{photo}/discard", json={"discarded": True}))
    with database.connection() as connection:
        assert waiting_photos(connection, study) == []


def test_readings_of_some_swatches_are_those_of_all_narrowed(client, study):
    every = made(client.get(f"/api/studies/{study}/readings"))
    codes = sorted({one["swatch"] for one in every})[:2]
    some = made(client.get(f"/api/studies/{study}/readings?codes={','.join(codes)}"))
    assert some == [one for one in every if one["swatch"] in codes]
    assert made(client.get(f"/api/studies/{study}/readings?codes=NONE")) == []
    assert client.get(f"/api/studies/{study}/readings?codes=a;b").status_code == 422


def test_lists_of_a_study_that_is_not_there_are_not_empty_but_missing(client):
    for path in ("photos", "sheet-lines", "readings?codes=ACEF"):
        assert client.get(f"/api/studies/77/{path}").status_code == 404
