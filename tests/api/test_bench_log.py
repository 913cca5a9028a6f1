"""The bench log over the API: kept once, in order, with own times; corrected, never changed."""

import csv
import io
from datetime import UTC, datetime, timedelta

import cv2
import numpy as np
import pytest
import segno
from tests.small_study import small_plan

from zesty_grid.core.plan.swatch_codes import label_code_text


@pytest.fixture
def study(client) -> int:
    return client.post("/api/studies", json=small_plan()).json()["id"]


def vessel(client, study: int, name: str) -> dict:
    view = client.get(f"/api/studies/{study}/dye").json()
    return next(one for one in view["vessels"] if one["vessel"]["name"] == name)


def say(client, study: int, kind: str, name: str = "D1", step: str = "enter", **more) -> dict:
    body = {"kind": kind, "vessel": name, "step": step, **more}
    answer = client.post(f"/api/studies/{study}/dye/entries", json=body)
    return answer.json() | {"status_code": answer.status_code}


def test_an_entry_that_is_sent_twice_is_kept_once(client, study):
    first = say(client, study, "record", ph=4.4, key="device-1-entry-1", who="Imke")
    again = say(client, study, "record", ph=4.4, key="device-1-entry-1", who="Imke")
    assert first["status_code"] == again["status_code"] == 201
    assert first["id"] == again["id"]
    assert len(client.get(f"/api/studies/{study}/dye").json()["entries"]) == 1


def test_entries_of_an_hour_ago_keep_their_time_and_say_when_they_arrived(client, study):
    hour = timedelta(hours=1)
    wrong_clock = datetime(2031, 1, 1, 12, tzinfo=UTC)
    kept = say(client, study, "done", at=(wrong_clock - hour).isoformat(), sent_at=wrong_clock.isoformat())
    at, received = (datetime.fromisoformat(kept[name]) for name in ("at", "received_at"))
    assert received - at == hour
    assert abs(received - datetime.now(UTC)) < timedelta(minutes=5)


def test_a_wrong_swatch_is_asked_about_and_goes_in_all_the_same_when_that_is_said(client, study):
    here, there = (vessel(client, study, name)["vessel"]["swatches"] for name in ("D1", "D2"))
    wrong = min(set(there) - set(here))
    refused = say(client, study, "loaded", swatches=[wrong])
    assert (refused["status_code"], refused["type"].split(":")[-1]) == (422, "wrong-swatch")
    assert f"{wrong} does not belong in D1" in refused["title"]
    assert say(client, study, "loaded", swatches=["NNNN"])["status_code"] == 422
    assert say(client, study, "loaded", swatches=here)["status_code"] == 201
    assert say(client, study, "loaded", swatches=[wrong], sure=True)["status_code"] == 201
    assert set(vessel(client, study, "D1")["inside"]) == {*here, wrong}
    assert wrong not in vessel(client, study, "D2")["vessel"]["swatches"]
    words = [task["words"] for task in client.get("/api/today").json()]
    assert "swatch went another way: say as what it counts" in words


def test_the_true_place_of_a_stray_is_shown_in_the_grid(client, study):
    here, there = (vessel(client, study, name)["vessel"]["swatches"] for name in ("D1", "D2"))
    wrong = min(set(there) - set(here))
    asked = {"vessel": "D1", "text": wrong}
    offered = client.post(f"/api/studies/{study}/dye/who", json=asked).json()["counts_as"]
    assert offered["words"] == "ph 4, not ph 9"
    say(client, study, "loaded", swatches=[wrong], sure=True)
    say(client, study, "placed", swatches=[wrong], levels=offered["levels"])
    cells = client.get(f"/api/studies/{study}").json()["grid"]["cells"]
    stands = next(cell for cell in cells if wrong in cell["swatches"])
    meant = next(cell for cell in cells if wrong in cell["meant"])
    assert (stands["levels"]["ph"], meant["levels"]["ph"]) == ("ph-4", "ph-9")
    assert all("another way" not in task["words"] for task in client.get("/api/today").json())
    record = client.get(f"/api/studies/{study}/swatches/{wrong}").json()
    assert record["meant"]["ph"] == "ph-9"
    assert next(one for one in record["passages"] if one["vessel"] == "D1")["stray"]


def test_who_it_is_is_answered_without_logging_anything(client, study):
    own = vessel(client, study, "D1")
    code = own["vessel"]["swatches"][0]
    asked = {"vessel": "D1", "text": label_code_text(code)}
    who = client.post(f"/api/studies/{study}/dye/who", json=asked).json()
    assert (who["code"], who["belongs"], who["inside"]) == (code, True, False)
    assert client.get(f"/api/studies/{study}/dye").json()["entries"] == []


def picture_of(code: str) -> bytes:
    matrix = np.array(list(segno.make(label_code_text(code), micro=False).matrix), np.uint8)
    label = np.kron(np.pad(1 - matrix, 4, constant_values=1), np.ones((12, 12), np.uint8)) * 220
    photo = np.full((900, 1200, 3), 140, np.uint8)
    photo[100 : 100 + label.shape[0], 200 : 200 + label.shape[1]] = label[..., None]
    return cv2.imencode(".jpg", cv2.GaussianBlur(photo, (0, 0), 1.2))[1].tobytes()


def test_a_label_is_scanned_and_a_picture_without_one_says_what_to_do(client, study):
    own = vessel(client, study, "D1")
    url = f"/api/studies/{study}/dye/scan"
    where = {"vessel": "D1"}
    file = {"file": ("label.jpg", picture_of(own["vessel"]["swatches"][2]), "image/jpeg")}
    (who,) = client.post(url, params=where, files=file).json()
    assert (who["code"], who["belongs"]) == (own["vessel"]["swatches"][2], True)
    blank = cv2.imencode(".jpg", np.full((600, 800, 3), 128, np.uint8))[1].tobytes()
    refused = client.post(url, params=where, files={"file": ("x.jpg", blank, "image/jpeg")})
    assert refused.status_code == 422
    assert "type the code" in refused.json()["detail"]


def test_a_correction_lies_over_the_old_entry_and_both_are_in_the_log(client, study):
    old = say(client, study, "record", ph=4.4)
    new = say(client, study, "record", ph=5.4, replaces=old["id"])
    assert new["status_code"] == 201
    again = say(client, study, "record", ph=6.4, replaces=old["id"])
    assert again["status_code"] == 409
    assert say(client, study, "record", ph=6.4, replaces=999)["status_code"] == 404
    view = client.get(f"/api/studies/{study}/dye").json()
    assert [entry["id"] for entry in view["entries"]] == [old["id"], new["id"]]
    assert view["standing"] == [new["id"]]
    lines = client.get(f"/api/studies/{study}/dye/log").json()
    assert {line["id"]: line["replaced_by"] for line in lines} == {old["id"]: new["id"], new["id"]: None}


def test_the_log_is_searched_and_taken_away_as_csv(client, study):
    say(client, study, "record", ph=4.4, who="Imke", note="=1+1")
    say(client, study, "done", who="Tarek")
    found = client.get(f"/api/studies/{study}/dye/log", params={"who": "Imke", "text": "4.4"})
    assert [line["kind"] for line in found.json()] == ["record"]
    answer = client.get(f"/api/studies/{study}/dye/log.csv")
    rows = list(csv.DictReader(io.StringIO(answer.text)))
    assert [row["who"] for row in rows] == ["Tarek", "Imke"]
    # A spreadsheet must not take a note for a formula (CSV injection, OWASP).
    assert not any(value.startswith("=") for row in rows for value in row.values())


def test_a_swatch_that_is_left_out_is_not_compared_and_lost_ones_are_made_up(client, study):
    own = vessel(client, study, "D1")
    boiled = say(client, study, "deviation", step="hold", deviation="boiled", swatches=own["vessel"]["swatches"][:2])
    say(client, study, "cure", step="hold", cure="repeat", about=boiled["id"])
    view = client.get(f"/api/studies/{study}/dye").json()
    assert {(m["swatch"], m["cure"]) for m in view["marks"]} == {
        (code, "repeat") for code in own["vessel"]["swatches"][:2]
    }
    cells = client.get(f"/api/studies/{study}").json()["grid"]["cells"]
    lost = {cell["key"] for cell in cells if set(cell["swatches"]) & set(own["vessel"]["swatches"][:2])}
    assert {cell["key"]: cell["lacks"] for cell in cells if cell["lacks"]} == dict.fromkeys(lost, 1)
    made = client.post(f"/api/studies/{study}/dye/make-again").json()["swatches"]
    swatches = {one["code"]: one for one in client.get(f"/api/studies/{study}").json()["swatches"]}
    assert {(swatches[code]["replicate"], swatches[code]["begun"]) for code in made} == {(2, False)}
    cells = client.get(f"/api/studies/{study}").json()["grid"]["cells"]
    assert {cell["key"] for cell in cells if set(cell["swatches"]) & set(made)} == lost


def test_the_record_of_a_swatch_goes_from_the_shelf_through_every_bath(client, study):
    iron = vessel(client, study, "F1")
    code = iron["vessel"]["swatches"][0]
    begun = datetime.now(UTC) - timedelta(minutes=10)
    say(client, study, "begun", "F1", "dip", at=begun.isoformat())
    say(client, study, "pulled", "F1", "dip", swatches=[code], at=(begun + timedelta(seconds=42.5)).isoformat())
    say(client, study, "hand", "F1", "dry", hand="stiff", evenness="even", swatches=[code])
    record = client.get(f"/api/studies/{study}/swatches/{code}").json()
    # What was begun stands in front of what is still planned; nothing is put in before it.
    assert [(one["vessel"], one["begun"]) for one in record["passages"]] == [("F1", True)]
    (dipped,) = record["passages"]
    assert (dipped["seconds"], dipped["known"]) == (pytest.approx(42.5), "ticked")
    assert record["hand"][0]["words"].startswith("stiff, even")
    assert "water" in dipped["recipe"][0]
    assert record["readings"] == []
    assert [state["label"] for state in record["states"]] == ["as it came", "after iron"]
    assert client.get(f"/api/studies/{study}/swatches/NNNN").status_code == 404


def test_timers_run_on_the_server_over_all_studies(client, study):
    say(client, study, "begun", step="hold", minutes=60)
    now = client.get("/api/today/bench").json()
    (timer,) = now["timers"]
    due, begun = (datetime.fromisoformat(timer[name]) for name in ("due_at", "begun_at"))
    assert due - begun == timedelta(minutes=60)
    say(client, study, "timer", step="hold", minutes=5)
    longer = client.get("/api/today/bench").json()["timers"][0]["due_at"]
    assert datetime.fromisoformat(longer) - begun == timedelta(minutes=65)
    say(client, study, "done", step="hold")
    assert client.get("/api/today/bench").json()["timers"] == []


def test_rested_pieces_show_in_today(client, study):
    two_days_ago = datetime.now(UTC) - timedelta(days=2)
    say(client, study, "done", "F1", "dry", at=two_days_ago.isoformat())
    words = {task["words"]: task["count"] for task in client.get("/api/today").json()}
    assert words["swatches are dry and rested: ready to read"] == len(vessel(client, study, "F1")["vessel"]["swatches"])


def test_a_picture_is_kept_once_and_shown_with_its_entry(client, study):
    file = {"file": ("oops.jpg", picture_of("AAAA"), "image/jpeg")}
    kept = client.post(f"/api/studies/{study}/dye/photos", files=file).json()["photo"]
    assert client.get(f"/api/studies/{study}/dye/photos/{kept}").status_code == 404
    say(client, study, "deviation", step="hold", deviation="foamed", photo=kept)
    assert client.get(f"/api/studies/{study}/dye/photos/{kept}").content == picture_of("AAAA")
    bad = client.post(f"/api/studies/{study}/dye/photos", files={"file": ("x", b"no", "image/png")})
    assert bad.status_code == 422


def test_a_bath_that_is_begun_later_carries_what_went_wrong_with_its_extract(client, study):
    say(client, study, "deviation", name="E1", step="", deviation="boiled")
    bench = client.get(f"/api/studies/{study}/dye").json()
    assert bench["marks"] == []
    say(client, study, "done", step="fill")
    marks = client.get(f"/api/studies/{study}/dye").json()["marks"]
    inside = vessel(client, study, "D1")["vessel"]["swatches"]
    assert {mark["swatch"] for mark in marks} == set(inside)
    assert {mark["through"] for mark in marks} == {"the extract E1"}


def test_baths_logged_with_one_time_leave_the_pieces_as_dyed(client, study):
    """All steps of five days ago, entered with one time: the order of the work counts."""
    at = (datetime.now(UTC) - timedelta(days=5)).isoformat()
    bench = client.get(f"/api/studies/{study}/dye").json()["vessels"]
    wanted = [one for one in bench if one["vessel"]["bath"] in ("scour", "mordant", "dye")]
    for one in wanted:
        for step in one["steps"]:
            said = say(client, study, "done", one["vessel"]["name"], step["step"]["key"], at=at)
            assert said["status_code"] == 201, said
    colours = client.get(f"/api/studies/{study}/colours").json()
    kinds = {one["run"]: one["kind"] for one in colours["names"]}
    states = {one["swatch"]: [kinds.get(run, "") for run in one["states"]] for one in colours["swatches"]}
    dyed = [own for own in states.values() if "dye" in own]
    assert dyed
    assert all(own[-1] == "dye" for own in dyed)
    assert "swatches are dry and rested: ready to read" in {one["words"] for one in client.get("/api/today").json()}
