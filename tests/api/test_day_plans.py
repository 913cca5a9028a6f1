"""Day plans over the API: made in the background, stopped, moved, pinned, exported."""

import time
from datetime import datetime, timedelta
from typing import Any

import pytest
from icalendar import Calendar
from starlette.testclient import TestClient
from tests.small_study import small_plan

NEXT_YEAR = {"seconds": 2, "start": f"{datetime.now().year + 1}-03-01T00:00:00"}


@pytest.fixture
def study(client) -> int:
    return client.post("/api/studies", json=small_plan()).json()["id"]


def planned(client: TestClient, study: int, **wanted: Any) -> dict:
    """Waits for the search to end; answers with the plan and what was said of it."""
    begun = client.post(f"/api/studies/{study}/dye/plan", json=NEXT_YEAR | wanted)
    assert begun.status_code == 202, begun.text
    while (view := client.get(f"/api/studies/{study}/dye/plan").json())["planning"]["running"]:
        time.sleep(0.05)
    return view


def test_there_is_no_plan_until_one_is_made(client, study):
    view = client.get(f"/api/studies/{study}/dye/plan").json()
    assert view == {"plan": None, "outdated": False, "planning": None}
    assert client.get(f"/api/studies/{study}/dye/plan.ics").status_code == 422


def test_a_plan_is_made_kept_and_knows_how_good_it_is(client, study):
    view = planned(client, study)
    plan = view["plan"]
    assert view["planning"]["answers"] >= 1
    assert {one["vessel"] for one in plan["work"]} == {"S1", "S2", "E1", "M1", "D1", "D2", "F1"}
    assert plan["bound_at"] <= plan["ready_at"] <= plan["first_come_ready_at"]
    assert all(one["starts_at"] >= NEXT_YEAR["start"] for one in plan["work"])
    assert not view["outdated"]


def test_a_search_is_stopped_and_its_best_is_kept(client, study):
    client.post(f"/api/studies/{study}/dye/plan", json=NEXT_YEAR | {"seconds": 300})
    while client.get(f"/api/studies/{study}/dye/plan").json()["planning"]["answers"] == 0:
        time.sleep(0.02)
    second = client.post(f"/api/studies/{study}/dye/plan", json=NEXT_YEAR)
    assert second.status_code in (202, 422)
    assert client.post(f"/api/studies/{study}/dye/plan/stop").status_code == 204
    while (view := client.get(f"/api/studies/{study}/dye/plan").json())["planning"]["running"]:
        time.sleep(0.02)
    assert view["plan"]["work"]


def test_a_changed_study_outdates_its_days(client, study):
    planned(client, study)
    plan = small_plan(factors=[*small_plan()["factors"][:3]], columns=["dye"])
    client.put(f"/api/studies/{study}", json={"revision": 1, "plan": plan})
    assert client.get(f"/api/studies/{study}/dye/plan").json()["outdated"]


def test_what_is_logged_shows_in_the_plan_and_stays_when_planning_anew(client, study):
    first = planned(client, study)["plan"]["work"][0]
    for step in first["steps"]:
        entry = {"vessel": first["vessel"], "step": step, "kind": "done"}
        client.post(f"/api/studies/{study}/dye/entries", json=entry)
    view = client.get(f"/api/studies/{study}/dye/plan").json()
    states = {one["task"]: one["state"] for one in view["plan"]["work"]}
    assert states[first["task"]] == "done"
    again = {one["task"]: one for one in planned(client, study)["plan"]["work"]}
    assert again[first["task"]]["state"] == "done"
    assert again[first["task"]]["starts_at"] < NEXT_YEAR["start"]


def test_a_step_is_moved_only_where_it_can_be(client, study):
    plan = planned(client, study)["plan"]
    last = max(plan["work"], key=lambda one: one["starts_at"])
    later = datetime.fromisoformat(last["starts_at"]) + timedelta(minutes=5)
    url = f"/api/studies/{study}/dye/plan/move"
    moved = client.post(url, json={"task": last["task"], "starts_at": later.isoformat()}).json()
    assert moved == {"begun": True, "faults": []}
    night = later.replace(hour=3)
    refused = client.post(url, json={"task": last["task"], "starts_at": night.isoformat()}).json()
    assert not refused["begun"]
    assert "working hours" in " ".join(refused["faults"])
    unknown = client.post(url, json={"task": "no such task", "starts_at": later.isoformat()})
    assert unknown.status_code == 422


def test_a_pinned_step_is_held_over_planning_and_let_go(client, study):
    plan = planned(client, study)["plan"]
    dye = next(one for one in plan["work"] if one["vessel"] == "D1")
    at = datetime.fromisoformat(dye["starts_at"]) + timedelta(days=1)
    pin = {"task": dye["task"], "starts_at": at.isoformat()}
    assert client.post(f"/api/studies/{study}/dye/plan/pin", json=pin).status_code == 204
    held = {one["task"]: one for one in planned(client, study)["plan"]["work"]}[dye["task"]]
    assert (held["starts_at"], held["pinned"]) == (at.isoformat(), True)
    let_go = client.post(f"/api/studies/{study}/dye/plan/pin", json={"task": dye["task"]})
    assert let_go.status_code == 204, let_go.text
    free = {one["task"]: one for one in planned(client, study)["plan"]["work"]}[dye["task"]]
    assert not free["pinned"]


def test_the_protocol_is_kept_and_bad_hours_are_refused(client, study):
    url = f"/api/studies/{study}/dye/protocol"
    protocol = client.get(url).json()
    protocol |= {"pairs_of_hands": 2, "scour": False, "days_off": ["2026-12-24"]}
    assert client.put(url, json=protocol).json()["pairs_of_hands"] == 2
    assert client.get(url).json()["days_off"] == ["2026-12-24"]
    names = [v["vessel"]["name"] for v in client.get(f"/api/studies/{study}/dye").json()["vessels"]]
    assert "S1" not in names
    for bad in (
        {"week": [None] * 7},
        {"pairs_of_hands": 0},
        {"week": [{"opens_min": 600, "closes_min": 500}, *[None] * 6]},
    ):
        assert client.put(url, json=protocol | bad).status_code == 422
    assert client.get(url).json()["pairs_of_hands"] == 2


def test_the_calendar_is_sound_and_holds_every_step(client, study):
    """Parsed by the reference library for RFC 5545, and laid out as the standard says."""
    plan = planned(client, study)["plan"]
    data = client.get(f"/api/studies/{study}/dye/plan.ics").content
    assert all(len(line) <= 75 for line in data.split(b"\r\n"))
    calendar = Calendar.from_ical(data)
    assert calendar["version"] == "2.0"
    events = calendar.walk("VEVENT")
    assert len(events) == len(plan["work"]) + 1
    assert len({event["uid"] for event in events}) == len(events)
    starts = {event.decoded("dtstart").isoformat() for event in events[:-1]}
    assert starts == {one["soak_from"] or one["starts_at"] for one in plan["work"]}
    # Times without a zone: the bench's own (RFC 5545, 3.3.5, form 1).
    assert all(event.decoded("dtstart").tzinfo is None for event in events[:-1])
    assert events[-1].decoded("dtstart").isoformat() == plan["ready_at"][:10]


def test_cures_are_tried_out_when_asked(client, study):
    view = planned(client, study, with_cures=True)
    for cure in view["planning"]["cures"]:
        assert cure["ready_at"] < view["plan"]["ready_at"]
