"""Whatever a client sends: a clear answer, never a 500, nothing lost."""

import json
import struct
import zlib

import pytest
from starlette.testclient import TestClient
from tests.small_study import levels, small_plan, valued

from zesty_grid.api.application import create_application


@pytest.fixture
def gentle(database) -> TestClient:
    """A client that shows an unhandled error as the 500 that a browser would see."""
    return TestClient(create_application(database), base_url="http://127.0.0.1:8750", raise_server_exceptions=False)


def is_problem(answer, status: int) -> dict:
    assert answer.status_code == status, answer.text
    assert answer.headers["content-type"] == "application/problem+json"
    body = answer.json()
    assert body["title"]
    assert body["detail"]
    assert body["status"] == status
    return body


def test_a_negative_mass_names_the_field_and_what_is_allowed(gentle):
    fault = is_problem(gentle.post("/api/studies", json=small_plan(swatch_mass_g=-4)), 422)
    assert fault["errors"][0]["field"] == "swatch_mass_g"
    assert fault["errors"][0]["given"] == "-4"
    assert "greater than 0" in fault["errors"][0]["allowed"]
    assert gentle.get("/api/studies").json() == []


def test_a_million_cells(gentle):
    factors = [
        {"kind": "fibre", "levels": levels(*(f"a{i}" for i in range(12)))},
        {"kind": "mordant", "levels": levels(*(f"b{i}" for i in range(12)))},
        {"kind": "dye", "levels": levels(*(f"c{i}" for i in range(12)))},
        {"kind": "ph", "levels": valued("ph", *range(1, 13))},
        {"kind": "iron", "levels": valued("iron", *(i / 2 for i in range(12)))},
    ]
    fault = is_problem(gentle.post("/api/studies", json=small_plan(factors=factors)), 422)
    assert "at most 2,000" in fault["title"]
    factors[0]["levels"] = levels(*(f"a{i}" for i in range(1_000)))
    is_problem(gentle.post("/api/studies", json=small_plan(factors=factors)), 422)


@pytest.mark.parametrize("name", ["'; DROP TABLE study; --", "<script>alert(1)</script>", "Ü 羊毛 🐑", "\u0000"])
def test_sql_and_html_in_names_are_only_names(gentle, name):
    made = gentle.post("/api/studies", json=small_plan(name=name))
    assert made.status_code == 201
    study = made.json()["id"]
    assert gentle.get(f"/api/studies/{study}").json()["plan"]["name"] == name
    page = gentle.post(f"/api/studies/{study}/sheets", json={}).json()[0]
    assert gentle.get(f"/api/sheets/{page['sheet']['id']}.pdf").status_code == 200


def png_header() -> bytes:
    body = b"IHDR" + struct.pack(">IIBBBBB", 60_000, 60_000, 8, 2, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + struct.pack(">I", 13) + body + struct.pack(">I", zlib.crc32(body))


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "empty"),
        (b"This is a text file.", "not a photo"),
        (b"\xff\xd8\xff\xe0\x00\x10JFIF" + b"\0" * 40, "not a photo"),
        (png_header() + b"\0\0\0\0IDAT", "60000 × 60000"),
    ],
)
def test_files_that_are_no_photos(gentle, data, words):
    study = gentle.post("/api/studies", json=small_plan()).json()["id"]
    answer = gentle.post(f"/api/studies/{study}/photos", files={"photo": ("wool.jpg", data)})
    assert words in is_problem(answer, 422)["title"]
    assert gentle.get(f"/api/studies/{study}/photos").json() == []


def test_two_tabs_on_one_study(gentle):
    study = gentle.post("/api/studies", json=small_plan()).json()["id"]
    path = f"/api/studies/{study}"
    first = gentle.put(path, json={"revision": 1, "plan": small_plan(name="First tab")})
    assert first.json()["revision"] == 2
    second = gentle.put(path, json={"revision": 1, "plan": small_plan(name="Second tab")})
    fault = is_problem(second, 409)
    assert "another tab" in fault["title"]
    assert fault["revision"] == 2
    assert gentle.get(path).json()["plan"]["name"] == "First tab"


@pytest.mark.parametrize(
    ("method", "path", "body", "status"),
    [
        ("GET", "/api/studies/999", None, 404),
        ("GET", "/api/studies/none", None, 404),
        ("GET", "/api/studies/99999999999999999999", None, 404),
        ("GET", "/api/photos/3/image", None, 404),
        ("GET", "/api/nothing", None, 404),
        ("PUT", "/api/studies/999", {"revision": 1, "plan": small_plan()}, 404),
        ("POST", "/api/studies", {"name": "x", "factors": "all"}, 422),
        ("POST", "/api/studies", small_plan(factors=[], rows=["fibre"]), 422),
        ("POST", "/api/studies/999/sheets", {}, 404),
        ("POST", "/api/studies/999/trials", {}, 404),
        ("POST", "/api/studies/999/dye/entries", {"vessel": "v", "step": "s", "kind": "done"}, 404),
        ("POST", "/api/photos/5/accept", {"measurement_id": 1, "cells": ["A1"], "taken_on": "2026-01-01"}, 404),
        ("POST", "/api/photos/5/accept", {"measurement_id": 1, "cells": ["A1"], "taken_on": "yesterday"}, 404),
        ("POST", "/api/studies/999/compare", {"mode": "guess"}, 404),
    ],
)
def test_wrong_requests(gentle, method, path, body, status):
    is_problem(gentle.request(method, path, json=body), status)


def test_levels_that_are_not_on_the_shelf(gentle):
    factors = small_plan()["factors"]
    factors[0] = {"kind": "fibre", "levels": levels("wool", "moonbeam")}
    fault = is_problem(gentle.post("/api/studies", json=small_plan(factors=factors)), 422)
    assert fault["errors"][0]["given"] == "moonbeam"


def test_a_step_that_is_not_in_the_plan(gentle):
    study = gentle.post("/api/studies", json=small_plan()).json()["id"]
    entry = {"vessel": "dye:none:0", "step": "fill", "kind": "done"}
    answer = gentle.post(f"/api/studies/{study}/dye/entries", json=entry)
    assert "no dye:none:0 in this study" in is_problem(answer, 422)["title"]


def test_a_foreign_host_is_refused(gentle):
    is_problem(gentle.get("/api/shelf", headers={"host": "evil.example"}), 421)
    is_problem(gentle.get("/api/shelf", headers={"host": "127.0.0.1@evil.example"}), 421)
    assert gentle.get("/api/shelf", headers={"host": "localhost:8750"}).status_code == 200


def test_another_sites_page_may_not_change_anything(gentle):
    headers = {"origin": "http://evil.example"}
    is_problem(gentle.post("/api/studies", json=small_plan(), headers=headers), 403)
    own = {"origin": "http://127.0.0.1:8750"}
    assert gentle.post("/api/studies", json=small_plan(), headers=own).status_code == 201


def test_every_answer_carries_the_security_headers(gentle):
    for path in ("/api/shelf", "/api/nothing", "/api/studies/999"):
        headers = gentle.get(path).headers
        assert "default-src 'self'" in headers["content-security-policy"]
        assert "unsafe" not in headers["content-security-policy"]
        assert headers["x-content-type-options"] == "nosniff"


def test_a_body_that_is_said_to_be_huge_is_refused_unread(gentle):
    headers = {"content-length": str(10**12)}
    is_problem(gentle.post("/api/studies", content=b"{}", headers=headers), 413)


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"swatch_mass_g": 0}, "greater than 0"),
        ({"replicates": 0}, "greater than or equal to 1"),
        ({"factors": [{"kind": "fibre", "levels": []}], "rows": ["fibre"], "columns": []}, "at least 1 item"),
        ({"rules": [{"levels": {"dye": ["nothing-such"]}}]}, "does not cross"),
        ({"rules": [{"fibre_classes": ["protein"]}, {"fibre_classes": ["cellulose"]}]}, "contradict one another"),
        ({"left_out": ["x"], "put_back": ["x"]}, "both left out and put back"),
        ({"bridge": {"fibre": ""}}, "pattern"),
        ({"noise": {"swatch_de00": 0, "vessel_de00": 1, "reading_de00": 1}}, "greater than"),
    ],
)
def test_plans_that_cannot_be_are_refused_and_the_saved_one_stays(gentle, changes, words):
    study = gentle.post("/api/studies", json=small_plan()).json()["id"]
    body = {"revision": 1, "plan": small_plan(**changes)}
    fault = is_problem(gentle.put(f"/api/studies/{study}", json=body), 422)
    assert words in json.dumps(fault)
    assert gentle.get(f"/api/studies/{study}").json()["revision"] == 1


def test_many_replicates_of_many_cells_are_counted_before_they_are_made(gentle):
    factors = small_plan()["factors"]
    factors[3] = {"kind": "ph", "levels": valued("ph", *(1 + i for i in range(12)))}
    factors[4] = {"kind": "iron", "levels": valued("iron", *(i / 2 for i in range(12)))}
    body = small_plan(factors=factors, replicates=6)
    assert "6 swatches each" in is_problem(gentle.post("/api/studies", json=body), 422)["title"]


def test_a_ph_that_cannot_be_reached_says_how_far_it_goes(gentle):
    body = {
        "volume_l": 1,
        "water": {"ph": 7.5, "alkalinity_mg_l_caco3": 120},
        "solutes": [],
        "target_ph": 12,
        "adjust_with": "baking_soda",
    }
    fault = is_problem(gentle.post("/api/ph", json=body), 422)
    assert "goes no further than pH 8" in fault["title"]
    assert fault["errors"][0]["field"] == "target_ph"


def test_a_study_that_crosses_nothing_yet_is_no_error(gentle):
    empty = {"name": "Empty", "factors": [], "rows": [], "columns": []}
    study = gentle.post("/api/studies", json=empty).json()["id"]
    for part in (
        "",
        "/telling",
        "/choices",
        "/weigh",
        "/weigh/bench.json",
        "/weigh/bench.pdf",
        "/weigh/swatches.csv",
        "/dye",
    ):
        assert gentle.get(f"/api/studies/{study}{part}").status_code == 200, part
    budget = {"swatches": 10, "vessels": 2}
    fault = is_problem(gentle.post(f"/api/studies/{study}/budget", json=budget), 422)
    assert "no cell to choose from" in fault["title"]
