"""No answer to anything is a 500: random and hostile values for every route there is."""

import json
import random

import pytest
from starlette.testclient import TestClient
from tests.depth import depth
from tests.small_study import small_plan

from zesty_grid.api.application import create_application

HOSTILE = [
    None,
    True,
    0,
    -1,
    1e308,
    2**63,
    "",
    "x" * 5000,
    "'; --",
    "<b>",
    "\u202e",
    [],
    {},
    [[[]]],
    {"a": {"b": []}},
    ["wool"] * 300,
    "NaN",
    "2026-02-31",
    -0.0,
]


@pytest.fixture
def gentle(database) -> TestClient:
    app = create_application(database)
    return TestClient(app, base_url="http://127.0.0.1:8750", raise_server_exceptions=False)


def spoiled(document, rng: random.Random):
    """The document with one of its values, wherever it is, replaced by a hostile one."""
    copy = json.loads(json.dumps(document))
    node, parent, key = copy, None, None
    while isinstance(node, dict | list) and node and rng.random() < 0.8:
        parent, key = node, rng.choice(list(node) if isinstance(node, dict) else range(len(node)))
        node = parent[key]
    if parent is None:
        return rng.choice(HOSTILE)
    parent[key] = rng.choice(HOSTILE)
    return copy


PH_QUESTION = {
    "volume_l": 2,
    "water": {"ph": 7.5, "alkalinity_mg_l_caco3": 120},
    "target_ph": 9,
    "solutes": [{"substance": "alum_potassium", "grams": 1}],
    "adjust_with": "soda_ash",
}
BODIES = {
    "/api/studies": small_plan(),
    "/api/studies/1/sheets": {"cells_per_page": 12},
    "/api/find": {
        "lab": [50, 1, 2],
        "fibres": ["wool"],
        "gentle": True,
        "in_hand": True,
        "mass_g": 10,
        "lasting": {"place": "museum", "years": 10, "within_de00": 2},
        "cost_at_most": 3,
    },
    "/api/tables": {"name": "T", "keys": ["EYFC@1", "cloth:x", "EYFC/t1/s1/dark"]},
    "/api/tables/look": {"name": "T", "keys": ["EYFC@1~halo", "cloth:x"], "pairs": True},
    "/api/tables/print": {"name": "T", "keys": ["EYFC@1"], "ground": "dark", "undyed": True},
    "/api/studies/1/compare/foretell": {"levels": {"fibre": "wool"}, "numbers": {"ph": 5}},
    "/api/studies/1/compare/next": {
        "factor": "iron",
        "from_level": "iron-0",
        "to_level": "iron-1",
        "most": 3,
        "wanted": {"hex": "#aabbcc"},
    },
    "/api/studies/1/trials": {
        "kind": "light",
        "name": "T",
        "swatches": ["EYFC"],
        "stages": [{"label": "1", "days": 1, "dose_lxh": 5}],
    },
    "/api/studies/1/dye/entries": {
        "vessel": "D1",
        "step": "hold",
        "kind": "record",
        "ph": 4.5,
        "at": "0001-01-01T00:00:00+14:00",
        "sent_at": "2026-11-23T10:00:00Z",
        "key": "device-1-1",
        "swatches": ["EYFC"],
        "replaces": 1,
        "minutes": 5,
        "temperature_c": 60,
        "who": "A",
    },
    "/api/studies/1/dye/who": {"vessel": "D1", "text": "2·1"},
    "/api/studies/1/dye/plan": {"seconds": 1, "start": "2027-01-01T00:00:00"},
    "/api/studies/1/dye/plan/move": {"task": "a|b", "starts_at": "2027-01-01T00:00:00"},
    "/api/studies/1/dye/plan/pin": {"task": "a|b", "starts_at": "9999-12-31T23:59:59"},
    "/api/studies/1/dye/additions": {
        "vessel": "D1",
        "addition": {"what": "substance", "item": "soda-ash", "amount": 5, "unit": "mL", "stock_percent": 1},
    },
    "/api/studies/1/go-on/effect": {
        "swatches": ["EYFC"],
        "seed": 1,
        "choices": [
            {
                "levels": [
                    {"key": "iron-1", "name": "Iron", "kind": "iron", "swatches": ["EYFC"], "iron_percent_wof": 2},
                    None,
                ]
            }
        ],
    },
    "/api/studies/1/effect": small_plan(own_masses=[{"fibre": "wool", "mass_g": 2}]),
    "/api/studies/from-swatches": {"name": "Next", "swatches": ["EYFC"], "cut": True, "mass_g": 2},
    "/api/readings/1/choice": {"counts": True, "run": 1, "who": "A", "note": "n"},
    "/api/studies/1/compare": {"mode": "factor", "factor": "iron", "level": "iron-0"},
    "/api/shelf": {"kind": "dye_lot", "key": "k", "name": "n", "strength_percent_wof": 5},
    "/api/studies/1/budget": {"swatches": 14, "vessels": 2, "interactions": [["fibre", "iron"]]},
    "/api/questions/heat": {"answers": {"heat": ["20", "60"]}},
    "/api/ph": PH_QUESTION,
    "/api/ph/next": {"question": PH_QUESTION, "ph_first": 7, "grams_given": 1, "ph_second": 8},
    "/api/photos/1/accept": {"measurement_id": 1, "cells": ["A1"], "taken_on": "2026-01-01"},
}


@pytest.mark.parametrize("path", BODIES)
def test_spoiled_bodies_are_answered_in_words(gentle, path):
    gentle.post("/api/studies", json=small_plan())
    rng = random.Random(path)
    for _ in range(depth(10, 60)):
        body = json.dumps(spoiled(BODIES[path], rng))
        answer = gentle.post(path, content=body, headers={"content-type": "application/json"})
        assert answer.status_code < 500, (path, body[:300])
        if answer.status_code >= 400:
            assert answer.json()["title"]
    assert gentle.get("/api/studies/1").json()["plan"]["name"] == "Small"


@pytest.mark.parametrize("body", [b"", b"{", b"\xff\xfe", b"[" * 100_000, b'{"name": NaN}'])
def test_bodies_that_are_no_json(gentle, body):
    answer = gentle.post("/api/studies", content=body, headers={"content-type": "application/json"})
    assert 400 <= answer.status_code < 500
    assert answer.json()["title"]


def test_spoiled_plans_never_damage_a_saved_one(gentle):
    gentle.post("/api/studies", json=small_plan())
    rng = random.Random(7)
    for _ in range(depth(10, 80)):
        revision = gentle.get("/api/studies/1").json()["revision"]
        body = {"revision": revision, "plan": spoiled(small_plan(), rng)}
        answer = gentle.put("/api/studies/1", content=json.dumps(body), headers={"content-type": "application/json"})
        assert answer.status_code < 500, body
        for part in ("", "/weigh", "/telling", "/dye", "/sheets", "/readings"):
            assert gentle.get(f"/api/studies/1{part}").status_code == 200
