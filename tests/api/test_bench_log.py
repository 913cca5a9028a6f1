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
    key = vessel(client, study, name)["vessel"]["key"] if name else ""
    body = {"kind": kind, "vessel": key, "step": step, **more}
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
    kept = say(client, study, "done", at=(wrong_clock - hour).isoformat(),
               sent_at=wrong_clock.isoformat())  # fmt: skip
    at, received = (datetime.fromisoformat(kept[name]) for name in ("at", "received_at"))
    assert received - at == hour
    assert abs(received - datetime.now(UTC)) < timedelta(minutes=5)


def test_a_wrong_swatch_is_refused_with_where_it_belongs(client, study):
    here, there = (set(vessel(client, study, name)["codes"]) for name in ("D1", "D2"))
    wrong = min(there - here)
    refused = say(client, study, "loaded", swatches=[wrong])
    assert refused["status_code"] == 422
    assert f"{wrong} does not belong in D1: it goes into" in refused["title"]
    assert "D2" in refused["title"]
    assert say(client, study, "loaded", swatches=["NNNN"])["status_code"] == 422
    assert say(client, study, "loaded", swatches=sorted(here))["status_code"] == 201
    assert sorted(vessel(client, study, "D1")["inside"]) == sorted(here)
    # What really happened can always be said.
    assert say(client, study, "deviation", deviation="wrong swatch", swatches=[wrong])[
        "status_code"] == 201  # fmt: skip


def test_who_it_is_is_answered_without_logging_anything(client, study):
    own = vessel(client, study, "D1")
    code, key = own["codes"][0], own["vessel"]["key"]
    asked = {"vessel": key, "text": label_code_text(code)}
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
    where = {"vessel": own["vessel"]["key"]}
    file = {"file": ("label.jpg", picture_of(own["codes"][2]), "image/jpeg")}
    (who,) = client.post(url, params=where, files=file).json()
    assert (who["code"], who["belongs"]) == (own["codes"][2], True)
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
    assert {line["id"]: line["replaced_by"] for line in lines} == {
        old["id"]: new["id"], new["id"]: None,
    }  # fmt: skip


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
    boiled = say(client, study, "deviation", step="hold", deviation="boiled",
                 swatches=own["codes"][:2])  # fmt: skip
    say(client, study, "cure", step="hold", cure="repeat", about=boiled["id"])
    view = client.get(f"/api/studies/{study}/dye").json()
    assert {(m["swatch"], m["cure"]) for m in view["marks"]} == {
        (code, "repeat") for code in own["codes"][:2]
    }
    made = client.post(f"/api/studies/{study}/dye/make-up").json()["id"]
    make_up = client.get(f"/api/studies/{made}").json()
    codes = client.get(f"/api/studies/{study}").json()["codes"]
    lost = {cell for cell, code in codes.items() if code in own["codes"][:2]}
    assert {cell["key"] for cell in make_up["cells"] if cell["included"]} == lost
    assert make_up["plan"]["name"] == "Small, make-up"
    assert not set(make_up["codes"].values()) & set(codes.values())


def test_without_losses_there_is_nothing_to_make_up(client, study):
    refused = client.post(f"/api/studies/{study}/dye/make-up")
    assert refused.status_code == 422
    assert "No swatch is marked" in refused.json()["title"]


def test_the_record_of_a_swatch_goes_from_the_shelf_through_every_bath(client, study):
    iron = vessel(client, study, "F1")
    code = iron["codes"][0]
    begun = datetime.now(UTC) - timedelta(minutes=10)
    say(client, study, "begun", "F1", "dip", at=begun.isoformat())
    say(client, study, "pulled", "F1", "dip", swatches=[code],
        at=(begun + timedelta(seconds=42.5)).isoformat())  # fmt: skip
    say(client, study, "hand", "F1", "dry", hand="stiff", evenness="even", swatches=[code])
    record = client.get(f"/api/studies/{study}/swatches/{code}").json()
    assert record["passages"][0]["vessel_name"] in ("S1", "S2")
    assert record["passages"][-1]["vessel_name"] == "F1"
    assert record["pulls"][0]["seconds"] == pytest.approx(42.5)
    assert record["hand"][0]["words"].startswith("stiff, even")
    assert "water" in record["passages"][0]["recipe"][0]
    assert record["readings"] == []
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
    assert words["swatches are dry and rested: ready to read"] == len(
        vessel(client, study, "F1")["codes"]
    )


def test_a_picture_is_kept_once_and_shown_with_its_entry(client, study):
    file = {"file": ("oops.jpg", picture_of("AAAA"), "image/jpeg")}
    kept = client.post(f"/api/studies/{study}/dye/photos", files=file).json()["photo"]
    assert client.get(f"/api/studies/{study}/dye/photos/{kept}").status_code == 404
    say(client, study, "deviation", step="hold", deviation="foamed", photo=kept)
    assert client.get(f"/api/studies/{study}/dye/photos/{kept}").content == picture_of("AAAA")
    bad = client.post(f"/api/studies/{study}/dye/photos", files={"file": ("x", b"no", "image/png")})
    assert bad.status_code == 422
