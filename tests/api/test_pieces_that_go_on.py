"""Dyed pieces go on: into further baths of their study, and as the cloth of another; and what was never there."""

import csv
import io

import pytest
from tests.small_study import small_plan


@pytest.fixture
def study(client) -> str:
    return f"/api/studies/{client.post('/api/studies', json=small_plan()).json()['id']}"


def codes(client, study: str) -> list[str]:
    return sorted(one["swatch"] for one in client.get(f"{study}/colours").json()["swatches"])


def test_half_of_the_pieces_get_iron_and_the_plan_has_a_new_version(client, study):
    iron = {"key": "iron-1", "name": "Iron", "kind": "iron", "iron_percent_wof": 2}
    chosen = codes(client, study)[:4]
    wanted = {"swatches": chosen, "choices": [{"levels": [iron | {"swatches": chosen}, None]}]}
    tried = client.post(f"{study}/go-on/effect", json=wanted).json()
    before = client.get(study).json()
    assert [len(arm["swatches"]) for arm in tried["dealt"]["arms"]] == [2, 2]
    after = client.post(f"{study}/go-on", json={"revision": before["revision"], "wanted": wanted}).json()
    assert [len(one["swatches"]) for one in after["plan"]["treatments"]] == [2]
    assert sorted(one["revision"] for one in client.get(f"{study}/versions").json()) == [1, 2]
    assert client.get(f"{study}/versions/1").json() == before["plan"]
    assert client.get(f"{study}/versions/3").status_code == 404


def test_ammonia_warns_of_its_fumes_and_what_changes_in_the_plan_has_words(client, study):
    chosen = codes(client, study)[:2]
    plan = client.get(study).json()["plan"]
    ammonia = {"key": "a", "kind": "adjust", "name": "Ammonia", "ph": 9, "adjust_with": "ammonia", "swatches": chosen}

    def saved(**changes) -> str:
        revision = client.get(study).json()["revision"]
        answer = client.put(study, json={"revision": revision, "plan": plan | changes})
        assert answer.status_code == 200, answer.text
        return client.get(f"{study}/versions").json()[0]["words"]

    assert "Ammonia for 2 swatches" in saved(treatments=[ammonia])
    (bath,) = (one for one in client.get(study).json()["vessels"] if one["bath"] == "adjust")
    weighed = client.get(f"{study}/weigh").json()["weighing"]
    assert "Fumes" in " ".join(weighed["vessel_cautions"][bath["name"]])
    assert saved(treatments=[ammonia | {"ph": 9.5}]) == "Ammonia changed"
    assert saved(treatments=[]) == "Ammonia taken out"
    skein = {"key": "skein", "name": "Skein", "levels": {"fibre": "wool"}, "mass_g": 50}
    assert saved(larger_pieces=[skein]) == "larger pieces changed"
    assert saved(larger_pieces=[skein], own_masses=[{"fibre": "wool", "mass_g": 2}]) == "own masses changed"


def test_a_study_begins_with_the_cloth_of_earlier_swatches_and_says_where_they_come_from(client, study):
    chosen = codes(client, study)[:3]
    asked = {"name": "Next", "swatches": chosen, "cut": True, "mass_g": 1.5}
    made = client.post("/api/studies/from-swatches", json=asked)
    assert made.status_code == 201
    begun = client.get(f"/api/studies/{made.json()['id']}").json()
    (fibre,) = (factor for factor in begun["plan"]["factors"] if factor["kind"] == "fibre")
    assert len(fibre["levels"]) == 3
    assert all("Small" in level["label"] for level in fibre["levels"])
    first = codes(client, f"/api/studies/{made.json()['id']}")[0]
    record = client.get(f"/api/studies/{made.json()['id']}/swatches/{first}").json()
    assert record["cut_from"] == {"study": 1, "study_name": "Small", "swatch": chosen[0]}
    refused = client.post("/api/studies/from-swatches", json=asked | {"swatches": ["ZZZZ"]})
    assert refused.status_code in (404, 422)


def test_amounts_and_the_cut_list_are_taken_away_as_tables(client, study):
    for name, column in (("amounts", "vessel"), ("cut-list", "fibre")):
        answer = client.get(f"{study}/weigh/{name}.csv")
        assert answer.headers["content-type"].startswith("text/csv")
        (head, *lines) = csv.reader(io.StringIO(answer.text))
        assert column in head
        assert lines


@pytest.mark.parametrize(
    "path",
    [
        "/api/photos/9/image",
        "/api/readings/9/cloth.webp",
        "/api/charts/watch?key=none",
        "/api/eye/round?seed=1&study=9",
    ],
)
def test_what_was_never_there_is_not_found(client, path):
    answer = client.get(path)
    assert (answer.status_code, answer.json()["type"]) == (404, "urn:zesty-grid:problem:not-found")


def test_a_round_for_the_eye_can_be_of_the_colours_of_a_study(client, study):
    assert client.get("/api/eye/round?seed=1&study=1").json()
