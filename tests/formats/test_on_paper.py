"""All that is printed comes on A4 or on Letter (ISO 216; ANSI/ASME Y14.1: 8.5 × 11 inches)."""

import re

import pytest
from tests.small_study import small_plan

POINTS = {"A4": {595.3, 841.9}, "Letter": {612.0, 792.0}}


@pytest.fixture
def study(client) -> int:
    return client.post("/api/studies", json=small_plan()).json()["id"]


def sides(pdf: bytes) -> set[float]:
    """The sides of all pages, in points."""
    boxes = re.findall(rb"/MediaBox \[ 0 0 ([0-9.]+) ([0-9.]+) \]", pdf)
    return {round(float(side), 1) for box in boxes for side in box}


@pytest.fixture
def printed(client, study) -> dict[str, object]:
    code = client.get(f"/api/studies/{study}").json()["swatches"][0]["code"]
    plan = {"name": "Sill", "kind": "light", "swatches": [code], "stages": [{"label": "2 days", "days": 2}]}
    trial = client.post(f"/api/studies/{study}/trials", json=plan).json()["id"]
    table = {"name": "Side by side", "keys": [], "ground": "grey", "pairs": False, "undyed": False}
    return {
        "papers of the bench": lambda ask: client.get(f"/api/studies/{study}/weigh/bench.pdf{ask}"),
        "report": lambda ask: client.get(f"/api/studies/{study}/report.pdf{ask}"),
        "recipe card": lambda ask: client.get(f"/api/swatches/{code}/recipe.pdf{ask}"),
        "cards": lambda ask: client.get(f"/api/studies/{study}/trials/{trial}/cards.pdf{ask}"),
        "table": lambda ask: client.post(f"/api/tables/print{ask}", json=table),
    }


@pytest.mark.parametrize("paper", ["A4", "Letter"])
def test_everything_comes_on_the_chosen_paper(printed, paper):
    found = {what: ask(f"?paper={paper}") for what, ask in printed.items()}
    assert {what: answer.status_code for what, answer in found.items()} == dict.fromkeys(found, 200)
    assert {what: sides(answer.content) for what, answer in found.items()} == dict.fromkeys(found, POINTS[paper])


def test_a4_where_nothing_is_said_and_no_other_paper(printed):
    assert {what: sides(ask("").content) for what, ask in printed.items()} == dict.fromkeys(printed, POINTS["A4"])
    assert {ask("?paper=A3").status_code for ask in printed.values()} == {422}
