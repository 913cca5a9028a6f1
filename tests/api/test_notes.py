"""Notes and pictures of a study, its levels, swatches and trials: kept, listed, taken away."""

import io
import json

import pytest
from PIL import Image
from tests.small_study import small_plan

from zesty_grid.api.packages import take_package, write_package
from zesty_grid.store.database import Database


@pytest.fixture
def study(client) -> int:
    return client.post("/api/studies", json=small_plan()).json()["id"]


def note(client, study: int, words: str, **more):
    body = {"kind": "note", "note": words, **more}
    return client.post(f"/api/studies/{study}/dye/entries", json=body)


def notes(client, study: int) -> list[dict]:
    return client.get(f"/api/studies/{study}/dye/notes").json()


def a_trial(client, study: int) -> str:
    code = client.get(f"/api/studies/{study}").json()["swatches"][0]["code"]
    plan = {
        "name": "South window",
        "kind": "light",
        "swatches": [code],
        "stages": [{"label": "2 days", "days": 2}, {"label": "4 days", "days": 4}],
    }
    made = client.post(f"/api/studies/{study}/trials", json=plan)
    assert made.status_code == 201, made.text
    return code


def test_each_note_says_what_it_is_of(client, study):
    code = a_trial(client, study)
    note(client, study, "the well was low this week")
    note(client, study, "smells of hay", levels={"dye": "dried-flowers"})
    note(client, study, "for the scarf", swatches=[code])
    note(client, study, "bath was cloudy", vessel="D1")
    note(client, study, "curtain drawn at noon", trial=1)
    assert [(one["of"], one["words"]) for one in notes(client, study)] == [
        ("trial", "curtain drawn at noon"),
        ("vessel", "bath was cloudy"),
        ("swatch", "for the scarf"),
        ("level", "smells of hay"),
        ("study", "the well was low this week"),
    ]
    (trial,) = client.get(f"/api/studies/{study}/trials").json()
    assert trial["number"] == 1
    log = {line["kind"]: line for line in client.get(f"/api/studies/{study}/dye/log").json()}
    assert set(log) == {"note"}
    said = [line["words"] for line in client.get(f"/api/studies/{study}/dye/log").json()]
    assert "of Dried-flowers, smells of hay" in said
    assert "of trial 1, curtain drawn at noon" in said


@pytest.mark.parametrize(
    ("more", "code"),
    [
        ({"levels": {"ph": "ph-7"}}, "no-such-level"),
        ({"trial": 1}, "no-such-trial"),
        ({"levels": {"ph": "ph-4"}, "vessel": "D1"}, None),
        ({"levels": {"ph": "ph-4", "iron": "iron-0"}}, None),
        ({"trial": 0}, None),
    ],
)
def test_a_note_of_what_is_not_there_is_refused_and_nothing_is_kept(client, study, more, code):
    refused = note(client, study, "?", **more)
    assert refused.status_code == 422
    assert code is None or refused.json()["type"].endswith(code)
    assert notes(client, study) == []


def test_a_note_that_is_taken_back_stays_in_the_log(client, study):
    kept = note(client, study, "wrong study").json()["id"]
    client.post(f"/api/studies/{study}/dye/entries", json={"kind": "struck", "replaces": kept})
    assert notes(client, study) == []
    log = client.get(f"/api/studies/{study}/dye/log").json()
    assert [(one["kind"], one["replaced_by"] is None) for one in log] == [("struck", True), ("note", False)]


def test_a_picture_is_shown_upright_and_no_wider_than_asked_and_its_file_stays_as_it_was(client, study):
    lying = Image.new("RGB", (900, 600), (150, 120, 60))
    exif = Image.Exif()
    exif[0x0112] = 6  # a quarter turn clockwise puts it upright (EXIF 2.32, table 4)
    buffer = io.BytesIO()
    lying.save(buffer, "JPEG", exif=exif)
    url = f"/api/studies/{study}/dye/photos"
    kept = client.post(url, files={"file": buffer.getvalue()}).json()["photo"]
    note(client, study, "", photo=kept, levels={"dye": "dried-flowers"})
    small = Image.open(io.BytesIO(client.get(f"{url}/{kept}?width=300").content))
    assert small.size == (300, 450)
    assert client.get(f"{url}/{kept}").content == buffer.getvalue()
    assert client.get(f"{url}/{kept}?width=9").status_code == 422


def test_notes_go_with_a_package(client, study, database, tmp_path):
    a_trial(client, study)
    note(client, study, "smells of hay", levels={"dye": "dried-flowers"})
    note(client, study, "curtain drawn at noon", trial=1)
    folder = tmp_path / "package"
    write_package(database, [], folder)
    fresh = Database(tmp_path / "fresh.db")
    assert [one.how for one in take_package(fresh, folder, "package").studies] == ["new"]
    with fresh.connection() as connection:
        rows = connection.execute("SELECT document FROM bench_entry ORDER BY id").fetchall()
    assert [json.loads(row["document"]) for row in rows] == [
        {"levels": {"dye": "dried-flowers"}, "note": "smells of hay"},
        {"trial": 1, "note": "curtain drawn at noon"},
    ]
