"""Seen when dry: two pieces lay in each other's pot, one is lost. What then stands open is dyed once
more in pots that are filled as before. The plan and its figures were worked out by hand."""

from datetime import UTC, datetime, timedelta

import pytest
from tests.seeded_readings import add_readings

FIBRES = ["wool", "silk", "nylon", "cotton", "polyester"]
POTS = {"dried-bark": 3, "dried-seeds": 1}
RED, YELLOW, PALE = (45.0, 40.0, 15.0), (70.0, 2.0, 55.0), (88.0, 1.0, 5.0)


def spoons(number: int) -> dict:
    """So many tablespoons of vinegar, 40 min after the pieces."""
    added = {"item": "vinegar", "amount": number, "unit": "tbsp", "moment": "with the pieces in", "after_min": 40}
    return {"key": f"vinegar-{number}", "label": f"Vinegar {number} tbsp", "additions": [added]}


PLAN = {
    "name": "Five fibres, two stuffs",
    "factors": [
        {"kind": "fibre", "levels": [{"key": key, "label": key.capitalize()} for key in FIBRES]},
        {"kind": "dye", "levels": [{"key": key, "label": key.capitalize()} for key in POTS]},
        {"kind": "addition", "levels": [spoons(3), spoons(1)]},
    ],
    "rows": ["fibre"],
    "columns": ["dye", "addition"],
    "rules": [
        {"levels": {"dye": ["dried-bark"], "addition": ["vinegar-1"]}},
        {"levels": {"dye": ["dried-seeds"], "addition": ["vinegar-3"]}},
    ],
    "swatch_mass_g": 8,
    "larger_pieces": [
        {"key": "skein", "name": "Full skein", "mass_g": 60, "levels": {"fibre": "wool", "dye": "dried-bark"}}
    ],
}


@pytest.fixture
def study(client) -> str:
    answer = client.post("/api/studies", json=PLAN)
    assert answer.status_code == 201, answer.text
    return f"/api/studies/{answer.json()['id']}"


def pots(client, study: str) -> dict[str, dict]:
    """Dye pots by the stuff in them, the newest counts."""
    every = client.get(f"{study}/dye").json()["vessels"]
    return {one["vessel"]["dye"]: one for one in every if one["vessel"]["bath"] == "dye"}


def millilitres(pot: dict, name: str) -> float:
    return sum(f["volume_ml"] for f in pot["amounts"]["figures"] if f["name"] == name)


def log(client, study: str, **entry) -> dict:
    answer = client.post(f"{study}/dye/entries", json=entry)
    assert answer.status_code == 201, answer.text
    return answer.json()


def dye_all(client, study: str) -> None:
    for hour, one in enumerate(client.get(f"{study}/dye").json()["vessels"]):
        at = (datetime.now(UTC) - timedelta(days=5, hours=-hour)).isoformat()
        for state in one["steps"]:
            log(client, study, kind="done", vessel=one["vessel"]["name"], step=state["step"]["key"], at=at)


def standing(client, study: str) -> dict[tuple[str, str], dict]:
    """The swatches by fibre and by the stuff they were meant for."""
    swatches = client.get(study).json()["swatches"]
    return {(s["levels"]["fibre"], s["levels"]["dye"]): s for s in swatches if not s["larger"]}


def lacking(client, study: str) -> dict[tuple[str, str], int]:
    cells = client.get(study).json()["grid"]["cells"]
    return {(c["levels"]["fibre"], c["levels"]["dye"]): c["lacks"] for c in cells if c["lacks"]}


def test_the_pots_hold_what_was_worked_out_by_hand(client, study):
    own = pots(client, study)
    assert own["dried-bark"]["vessel"]["dry_fibre_g"] == pytest.approx(100)
    assert own["dried-seeds"]["vessel"]["dry_fibre_g"] == pytest.approx(40)
    assert own["dried-bark"]["vessel"]["volume_ml"] == pytest.approx(3000)
    assert own["dried-seeds"]["vessel"]["volume_ml"] == pytest.approx(1200)
    assert millilitres(own["dried-bark"], "vinegar") == pytest.approx(45)
    assert millilitres(own["dried-seeds"], "vinegar") == pytest.approx(15)


def test_two_that_were_swapped_are_found_and_only_the_lost_one_is_dyed_again(client, study, database):
    names = {dye: one["vessel"]["name"] for dye, one in pots(client, study).items()}
    dye_all(client, study)
    pieces = {where: one["code"] for where, one in standing(client, study).items()}
    strays = pieces["silk", "dried-bark"], pieces["silk", "dried-seeds"]
    seen = {(f, d): RED if d == "dried-bark" else YELLOW for f in ("wool", "nylon") for d in POTS}
    seen |= {("silk", "dried-bark"): YELLOW, ("silk", "dried-seeds"): RED, ("cotton", "dried-bark"): PALE}
    id = int(study.rsplit("/", 1)[1])
    laid = [(pieces[where], "whole", lab) for where, lab in seen.items()]
    add_readings(database, id, laid, accepted_at=datetime.now(UTC))
    (offered,) = client.get(f"{study}/dye/other-pots/{strays[0]}").json()
    assert (offered["instead_of"], offered["vessel"]) == (names["dried-bark"], names["dried-seeds"])
    assert offered["swapped_with"] == strays[1]
    assert offered["de00"] < 1 < offered["own_de00"]
    for code in strays:
        (pot,) = client.get(f"{study}/dye/other-pots/{code}").json()
        says = {"vessel": pot["vessel"], "instead_of": pot["instead_of"], "at": pot["at"]}
        log(client, study, kind="placed", swatches=[code], levels=pot["counts_as"]["levels"], **says)
    passed = client.get(f"{study}/dye").json()["passages"]
    assert {p["vessel"] for p in passed if p["swatch"] == strays[0]} == {"S1", names["dried-seeds"]}
    record = client.get(f"{study}/swatches/{strays[0]}").json()
    assert [s["label"] for s in record["states"] if s["colour"]] == ["as dyed"]
    assert record["levels"]["dye"] == "dried-seeds"
    # Each place has a silk, if another one: nothing stands open.
    assert lacking(client, study) == {}
    lost = pieces["cotton", "dried-seeds"]
    log(client, study, kind="deviation", deviation="other", note="lost", cure="replace", swatches=[lost])
    assert lacking(client, study) == {("cotton", "dried-seeds"): 1}
    made = client.post(f"{study}/dye/make-again").json()
    assert lacking(client, study) == {}
    assert client.post(f"{study}/dye/make-again").status_code == 422
    cells = client.get(study).json()["grid"]["cells"]
    assert [cell["swatches"] for cell in cells if lost in cell["swatches"]] == [[*made["swatches"], lost]]
    again = pots(client, study)["dried-seeds"]
    assert made["vessels"] == ["S4", again["vessel"]["name"]]
    assert again["vessel"]["swatches"] == made["swatches"]
    assert again["vessel"]["volume_ml"] == pytest.approx(240)
    assert millilitres(again, "vinegar") == pytest.approx(3.0)
    (vinegar,) = [f for f in again["amounts"]["figures"] if f["role"] == "addition"]
    assert vinegar["working"].startswith("1 tbsp for 40.0 g in D2 × 8.00 g: ")
    (put_in,) = [one["step"]["adds"] for one in again["steps"] if one["step"]["asks"] == "addition"]
    assert (put_in["amount"], put_in["unit"]) == (pytest.approx(3.0), "mL")
    # It goes in at the same minute, and the first bath stays as it was.
    before = next(
        one for one in client.get(f"{study}/dye").json()["vessels"] if one["vessel"]["name"] == names["dried-seeds"]
    )
    minutes = [[s["step"]["duration_min"] for s in one["steps"] if s["step"]["heat"]] for one in (before, again)]
    assert minutes[0] == minutes[1]
    assert millilitres(before, "vinegar") == pytest.approx(15)


def test_a_bath_is_kept_as_given_where_that_is_wanted(client, study):
    dye_all(client, study)
    lost = standing(client, study)["cotton", "dried-seeds"]["code"]
    log(client, study, kind="deviation", deviation="other", note="lost", cure="replace", swatches=[lost])
    client.post(f"{study}/dye/make-again")
    view = client.get(study).json()
    key = pots(client, study)["dried-seeds"]["vessel"]["key"]
    plan = view["plan"] | {"own_vessels": [{"bath": key, "as_given": True}]}
    saved = client.put(study, json={"revision": view["revision"], "plan": plan})
    assert saved.status_code == 200, saved.text
    kept = pots(client, study)["dried-seeds"]
    assert millilitres(kept, "vinegar") == pytest.approx(15)
    (vinegar,) = [f for f in kept["amounts"]["figures"] if f["role"] == "addition"]
    assert vinegar["working"] == "kept as given, whatever the fibre: 1 tbsp = 15 mL"


def test_it_is_said_once_where_a_swatch_was(client, study):
    dye_all(client, study)
    code = standing(client, study)["silk", "dried-bark"]["code"]
    (pot,) = client.get(f"{study}/dye/other-pots/{code}").json()
    entry = {"kind": "placed", "swatches": [code], "levels": pot["counts_as"]["levels"], "vessel": pot["vessel"]}
    assert client.post(f"{study}/dye/entries", json=entry | {"instead_of": pot["vessel"]}).status_code == 422
    said = log(client, study, **entry, instead_of=pot["instead_of"])
    assert lacking(client, study) == {("silk", "dried-bark"): 1}
    # Taken back, it is where it was.
    log(client, study, kind="struck", replaces=said["id"])
    assert lacking(client, study) == {}
    passed = client.get(f"{study}/dye").json()["passages"]
    assert {p["vessel"] for p in passed if p["swatch"] == code} == {"S1", pot["instead_of"]}


def test_in_the_next_study_each_bath_stays_as_strong_as_it_was(client, study):
    made = f"/api/studies/{client.post(f'{study}/copy').json()['id']}"
    same = pots(client, made)
    assert (same["dried-bark"]["vessel"]["given_for"], millilitres(same["dried-bark"], "vinegar")) == (None, 45)
    view = client.get(made).json()
    plan = view["plan"] | {"swatch_mass_g": 16, "larger_pieces": []}
    assert client.put(made, json={"revision": view["revision"], "plan": plan}).status_code == 200
    # 80 g in each instead of 100 g and 40 g.
    changed = pots(client, made)
    assert millilitres(changed["dried-bark"], "vinegar") == pytest.approx(36)
    assert millilitres(changed["dried-seeds"], "vinegar") == pytest.approx(30)
