"""A trial through the API: halves and ribbons from photo to rating, light from file to dose."""

import io
from dataclasses import replace
from datetime import date, timedelta

import numpy as np
import pytest
from PIL import Image
from tests.cloth_spectra import NM
from tests.photographs import photograph
from tests.small_study import small_plan

from zesty_grid.core.fade.trial import MULTIFIBRE
from zesty_grid.core.fade.trial_entry import WindowLight
from zesty_grid.core.fade.trial_state import stay_of
from zesty_grid.core.read.kubelka_munk import absorption_over_scattering, reflectance_of
from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.cloth import Cloth
from zesty_grid.standins.light_logger import Weather, log_window, logger_csv
from zesty_grid.standins.scene import Scene

RED = 0.05 + 0.7 / (1 + np.exp(-(NM - 600) / 14))
WHITE = 0.82 + 0.0 * NM
SHOT = Shot(width_px=2400, height_px=1800)
START = date(2026, 9, 1)
WINDOW = {"kind": "window", "name": "Sill", "latitude": 50.0, "longitude": 8.0, "sky": "mixed"}


@pytest.fixture
def study(client) -> int:
    return client.post("/api/studies", json=small_plan()).json()["id"]


@pytest.fixture
def codes(client, study) -> list[str]:
    return sorted(one["code"] for one in client.get(f"/api/studies/{study}").json()["swatches"])


def started(client, study, codes, **changes) -> str:
    plan = {
        "kind": "light",
        "name": "Sill",
        "swatches": codes,
        "starts_on": START.isoformat(),
        "stages": [{"label": f"{d} days", "days": d} for d in (2, 4, 8, 16)],
    }
    answer = client.post(f"/api/studies/{study}/trials", json=plan | changes)
    assert answer.status_code == 201, answer.text
    return f"/api/studies/{study}/trials/{answer.json()['id']}"


def noted(client, trial, entry, status=201):
    answer = client.post(f"{trial}/entries", json=entry)
    assert answer.status_code == status, answer.text
    return answer.json()


def view(client, trial) -> dict:
    study, number = trial.split("/")[3], int(trial.split("/")[-1])
    found = client.get(f"/api/studies/{study}/trials").json()
    return next(one for one in found if one["id"] == number)


def faded(reflectance, left):
    cloth = absorption_over_scattering(WHITE)
    return reflectance_of(cloth + left * (absorption_over_scattering(reflectance) - cloth))


def dated(jpeg: bytes, day: date) -> bytes:
    """The photo with the moment that a camera writes into it (Exif 2.3, DateTimeOriginal)."""
    image = Image.open(io.BytesIO(jpeg))
    exif = image.getexif()
    exif.get_ifd(0x8769)[0x9003] = f"{day:%Y:%m:%d} 12:00:00"
    out = io.BytesIO()
    image.save(out, "JPEG", quality="keep", exif=exif, icc_profile=image.info.get("icc_profile"))
    return out.getvalue()


def photographed(client, study, page, bands, day: date, **how):
    """The page with a banded piece in each assigned cell; measured, then accepted as it is."""
    sheet = Sheet.model_validate(page["sheet"])
    cloths = [
        Cloth(a["cell"], own[0], 0.85, bands=tuple(own) if len(own) > 1 else ())
        for a, own in zip(page["assignments"], bands, strict=True)
    ]
    data = dated(photograph(Scene(sheet, tuple(cloths)), replace(SHOT, seed=day.toordinal())), day)
    posted = client.post(f"/api/studies/{study}/photos", files={"photo": ("x.jpg", data)})
    assert posted.status_code == 201, posted.text
    photo = posted.json()
    zoned = {zone["cell"] for zone in photo["own_zones"]}
    body = {
        "measurement_id": photo["measurement_id"],
        "taken_on": day.isoformat(),
        "zones": photo["own_zones"],
        "cells": [a["cell"] for a in page["assignments"] if a["cell"] not in zoned],
    }
    answer = client.post(f"/api/photos/{photo['id']}/accept", json=body | how)
    assert answer.status_code == 201, answer.text
    return photo


def test_a_half_covered_piece_is_read_stage_by_stage_against_its_own_covered_half(client, study, codes):
    trial = started(client, study, codes[:2], mount="half covered")
    body = {"trial": int(trial.split("/")[-1]), "kind": "hanks", "cells_per_page": 6}
    (page,) = client.post(f"/api/studies/{study}/sheets", json=body).json()
    assert [a["piece"] for a in page["assignments"]] == ["halves", "halves"]
    assert page["sheet"]["cells"][0]["zones"] == ["covered", "exposed"]
    noted(client, trial, {"kind": "light", "sources": [WINDOW]})
    for stage, days in enumerate((2, 6)):
        left = 0.7 ** (stage + 1)
        bands = [(RED, faded(RED, left)), (RED, RED)]
        photo = photographed(client, study, page, bands, START + timedelta(days), stage=stage)
        # A photo goes to the stage that was due on its day: 2 days, and on the sixth day 4.
        assert photo["due_stage"] == stage
    found = view(client, trial)
    fading = [p for p in found["points"] if p["swatch"] == codes[0]]
    still = [p for p in found["points"] if p["swatch"] == codes[1]]
    assert [p["stage"] for p in fading] == [0, 1]
    assert fading[0]["difference"]["de00"] < fading[1]["difference"]["de00"]
    assert all(p["distinguishable"] and p["dark_from_same_stage"] for p in fading)
    assert not any(p["distinguishable"] for p in still)
    assert still[1]["rating_words"].startswith("5")
    late = found["state"]["stages"][1]
    assert (late["due_on"], late["on"]) == ("2026-09-05", "2026-09-07")
    # Six days in the window, not four: about three times what two gave.
    ratio = fading[1]["dose"] / fading[0]["dose"]
    assert ratio == pytest.approx(3, rel=0.05)


def test_a_wash_with_a_ribbon_is_rated_for_change_and_for_each_fibre(client, study, codes):
    trial = started(
        client,
        study,
        codes[:2],
        kind="wash",
        starts_on=None,
        neighbours=list(MULTIFIBRE),
        stages=[{"label": "1 wash", "washes": 1}, {"label": "3 washes", "washes": 3}],
        conditions={"name": "Hand wash", "temperature_c": 40, "minutes": 20},
    )
    body = {"trial": int(trial.split("/")[-1]), "cells_per_page": 6}
    (page,) = client.post(f"/api/studies/{study}/sheets", json=body).json()
    assert [a["piece"] for a in page["assignments"]] == ["dark", "wash", "neighbour"] * 2
    clean = (WHITE,) * 6
    bled = tuple(faded(RED, 0.03 * n) for n in range(6))
    photographed(client, study, page, [(RED,), (RED,), clean] * 2, START, before=True)
    washed = [(RED,), (faded(RED, 0.6),), bled, (RED,), (RED,), clean]
    photographed(client, study, page, washed, START + timedelta(2), stage=0)
    found = view(client, trial)
    by_code = {p["swatch"]: p for p in found["points"]}
    assert by_code[codes[0]]["dose"] == 1
    assert by_code[codes[0]]["distinguishable"]
    assert not by_code[codes[1]]["distinguishable"]
    stains = {s["neighbour"]: s for s in found["stains"] if s["swatch"] == codes[0]}
    assert set(stains) == set(MULTIFIBRE)
    assert stains["acetate"]["rating_words"].startswith("5")
    assert float(stains["wool"]["rating"][0]) < 4
    assert not any(s["distinguishable"] for s in found["stains"] if s["swatch"] == codes[1])
    lasting = client.get(f"{trial}/lasting").json()
    assert {one["swatch"] for one in lasting["fading"]["order"]} == set(codes[:2])
    ahead = client.get(f"{trial}/lasting/ahead").json()
    assert ahead["done"] == ahead["of"] == 4
    assert client.get(f"{trial}/lasting/ahead?after=3").json() == ahead
    (one,) = client.get(f"{trial}/lasting/swatches?codes={codes[0]}").json()
    ranked = {own["swatch"]: own for own in lasting["fading"]["order"]}
    assert one["at_last"]["de00"] == ranked[codes[0]]["de00"]
    assert len(client.get(f"{trial}/lasting/swatches").json()) == 2
    washes = client.get(f"{trial}/aged?count=10").json()
    assert washes["dose"] == 10


def test_a_photo_of_a_later_day_is_not_taken_for_the_stage_that_was_missed(client, study, codes):
    trial = started(client, study, codes[:1], mount="half covered")
    body = {"trial": int(trial.split("/")[-1]), "kind": "hanks", "cells_per_page": 6}
    (page,) = client.post(f"/api/studies/{study}/sheets", json=body).json()
    day = START + timedelta(9)
    photo = photographed(client, study, page, [(RED, faded(RED, 0.5))], day, stage=2)
    assert photo["due_stage"] == 2
    stages = view(client, trial)["state"]["stages"]
    assert [one["is_read"] for one in stages] == [False, False, True, False]


def test_a_cold_and_a_warm_wash_are_compared_as_a_factor(client, study, codes):
    for name, kept in (("Cold", 0.9), ("Warm", 0.45)):
        trial = started(
            client,
            study,
            codes[:3],
            kind="wash",
            name=name,
            starts_on=None,
            stages=[{"label": "1 wash", "washes": 1}, {"label": "2 washes", "washes": 2}],
        )
        body = {"trial": int(trial.split("/")[-1]), "cells_per_page": 12}
        page = client.post(f"/api/studies/{study}/sheets", json=body).json()[-1]
        for stage in (0, 1):
            washed = faded(RED, kept ** (stage + 1))
            bands = [(RED,), (washed,)] * 3
            photographed(client, study, page, bands, START + timedelta(2 * stage), stage=stage)
    factors = {one["factor"]: one for one in client.get(f"{trial}/lasting").json()["factors"]}
    assert factors["conditions"]["words"] == "Cold lasts better than Warm."


def test_window_and_logger_both_speak_and_their_agreement_is_said(client, study, codes):
    trial = started(client, study, codes[:1])
    hung = stay_of(WindowLight.model_validate(WINDOW), START, START + timedelta(16))
    text = logger_csv(log_window(hung, Weather(0.5, seed=3)))
    log = client.post(f"{trial}/logs", files={"log": ("sill.csv", text.encode())}).json()
    assert (log["column"], log["watts"], log["samples"]) == ("Illuminance (lux)", False, 144 * 17)
    again = client.post(f"{trial}/logs", files={"log": ("sill.csv", text.encode())}).json()
    assert again["id"] == log["id"]
    logger = {"kind": "logger", "name": "Logger", "log": log["id"]}
    noted(client, trial, {"kind": "light", "sources": [WINDOW, logger], "counts": 1})
    told = client.get(f"{trial}/dose?until=2026-09-17").json()
    assert [one["name"] for one in told["sources"]] == ["Sill", "Logger"]
    window, logged = (one["dose"] for one in told["sources"])
    assert window["low_lxh"] <= logged["dose_lxh"] <= window["high_lxh"]
    assert "agree" in told["agreement"][0]
    assert len(window["days"]) == 16
    refused = client.post(f"{trial}/logs", files={"log": ("x.csv", b"no light here")})
    assert refused.status_code == 422
    assert "lux" in refused.json()["detail"]
    noted(client, trial, {"kind": "light", "sources": [logger | {"log": 99}]}, 422)


def test_stages_are_due_in_today_and_in_the_calendar(client, study, codes, ends_on_the_same_day):
    days = [-3, 5]
    begin = date.today() - timedelta(30)
    stages = [{"label": f"stage {n}", "days": 30 + d} for n, d in enumerate(days)]
    trial = started(client, study, codes[:1], starts_on=begin.isoformat(), stages=stages)
    words = [task["words"] for task in client.get("/api/today").json() if task["lens"] == "fade"]
    assert words == [
        "stages left in “Sill”; “stage 0” was due 3 days ago: read it now, it counts with the dose that it really had"
    ]
    calendar = client.get(f"{trial}/stages.ics").text
    assert calendar.count("BEGIN:VEVENT") == 2
    assert (begin + timedelta(27)).strftime("%Y%m%d") in calendar
    noted(client, trial, {"kind": "left out", "stage": 0})
    noted(client, trial, {"kind": "added", "stage": {"label": "day 31", "days": 31}})
    due = next(t["words"] for t in client.get("/api/today").json() if t["lens"] == "fade")
    assert due.startswith("stages left in “Sill”; next: day 31, due ")
    assert client.get(f"{trial}/stages.ics").text.count("BEGIN:VEVENT") == 2
    noted(client, trial, {"kind": "stage", "stage": 9, "on": "2026-09-02"}, 422)
    noted(client, trial, {"kind": "dance"}, 422)


def test_proposals_cards_towns_and_conditions_are_there(client, study, codes):
    proposal = client.post(f"/api/studies/{study}/trials/proposal", json={"pieces": 4}).json()
    assert len(proposal["swatches"]) == 4
    assert set(proposal["swatches"]) <= set(codes)
    some = {"pieces": 9, "among": codes[:3]}
    among = client.post(f"/api/studies/{study}/trials/proposal", json=some).json()
    assert sorted(among["swatches"]) == codes[:3]
    trial = started(client, study, codes, mount="strip")
    cards = client.get(f"{trial}/cards.pdf")
    assert cards.content.startswith(b"%PDF")
    towns = client.get("/api/light/towns?words=lisb").json()
    assert towns[0]["name"] == "Lisbon"
    assert client.get("/api/light/towns?words=x").status_code == 422
    known = client.get("/api/light/conditions").json()
    # ISO 105-C06 A1S: 40 °C for 30 min, from memory.
    a1s = next(one for one in known["wash"] if "A1S" in one["name"])
    assert (a1s["temperature_c"], a1s["minutes"]) == (40, 30)
    body = {"latitude": 50, "longitude": 8, "from": "2026-06-01", "to": "2026-06-07"}
    assert len(client.post("/api/light/window", json=body).json()["days"]) == 7
    wrong = client.post("/api/light/window", json=body | {"to": "2026-05-01"})
    assert wrong.status_code == 422


def test_what_no_trial_has_is_refused_and_nothing_breaks(client, study, codes):
    trial = started(client, study, codes[:1])
    other = client.post("/api/studies", json=small_plan(name="Other")).json()["id"]
    number = trial.split("/")[-1]
    for path in ("dose", "cards.pdf", "stages.ics", "lasting", "aged?count=1&place=museum"):
        assert client.get(f"/api/studies/{other}/trials/{number}/{path}").status_code == 404
        assert client.get(f"/api/studies/{study}/trials/999/{path}").status_code == 404
    assert client.get(f"{trial}/life?place=nowhere").status_code == 404
    empty = client.get(f"{trial}/lasting").json()
    assert empty["fading"]["order"] == []
    assert client.get(f"{trial}/lasting/ahead").json() == {"done": 0, "of": 0}
    for path in ("swatches", "groups", "advice"):
        assert client.get(f"{trial}/lasting/{path}").json() == []
    assert client.get(f"{trial}/aged?count=5&place=museum").json()["swatches"] == []
    assert client.get(f"{trial}/aged?count=-5&place=museum").status_code == 422
    wool = {"wools": [{"number": 1, "cloth": "none"}]}
    plan = {"kind": "light", "name": "x", "swatches": codes[:1], "stages": [{"label": "1 day", "days": 1}]}
    refused = client.post(f"/api/studies/{study}/trials", json=plan | wool)
    assert refused.status_code == 422
    assert "Shelf" in refused.json()["detail"]
