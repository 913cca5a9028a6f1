"""Jobs of practitioners, from plan to dry: each planned, weighed by hand, scheduled, and walked."""

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from tests.small_study import levels, valued

START = datetime(2026, 9, 1, 9, 0, tzinfo=UTC)
LOTS = (
    {"key": "marsh-reed", "name": "Reed heads", "strength_percent_wof": 200},
    {"key": "sea-aster", "name": "Sea aster", "strength_percent_wof": 150},
    {"key": "sallow-bark", "name": "Sallow bark", "strength_percent_wof": 100},
    {"key": "sea-lavender", "name": "Sea lavender", "strength_percent_wof": 80},
    {"key": "woad-vat", "name": "Woad", "strength_percent_wof": 20, "temperature_c": 45},
    {
        "key": "plum-stones",
        "name": "Plum stones",
        "measured": "counted",
        "piece_name": "stone",
        "pieces_per_100_g": 6,
        "piece_g": 2.0,
    },
    {
        "key": "two-barks",
        "name": "Sallow and dried bark",
        "strength_percent_wof": 100,
        "mixture": [{"lot": "sallow-bark", "percent": 50}, {"lot": "dried-bark", "percent": 50}],
    },
    *(
        {"key": key, "name": key.capitalize(), "state": "fresh"}
        for key in ("bramble", "tansy", "dock", "herb-robert", "mallow")
    ),
)
VESSELS = (
    {"key": "steamer-20", "name": "Steamer, 20 L", "litres": 20, "form": "steamer", "count": 2},
    {"key": "jar-3", "name": "Jar, 3 L", "litres": 3, "form": "jar", "material": "glass", "count": 4},
    {
        "key": "iron-jar-3",
        "name": "Iron jar, 3 L",
        "litres": 3,
        "form": "jar",
        "material": "glass",
        "iron_only": True,
        "count": 4,
    },
    {"key": "iron-pot-12", "name": "Iron pot, 12 L", "litres": 12, "iron_only": True, "count": 2},
)


def fibres(*keys: str) -> dict[str, Any]:
    return {"kind": "fibre", "levels": levels(*keys)}


def dyes(*keys: str) -> dict[str, Any]:
    return {"kind": "dye", "levels": levels(*keys)}


def mordants(*keys: str) -> dict[str, Any]:
    return {"kind": "mordant", "levels": levels(*keys)}


def put_in(**said: Any) -> dict[str, Any]:
    return {"kind": "addition", "levels": [{"key": "added", "label": "Added", "additions": [said]}]}


def extraction(*recipes: dict[str, Any]) -> dict[str, Any]:
    return {
        "kind": "extraction",
        "levels": [{"key": f"way-{i}", "label": f"Way {i}", "recipe": recipe} for i, recipe in enumerate(recipes, 1)],
    }


def process(key: str) -> dict[str, Any]:
    return {"kind": "process", "levels": levels(key)}


JOBS: dict[str, dict[str, Any]] = {
    "four stuffs, first dip bare, alum into the same baths, second dip": {
        "factors": [
            fibres("wool"),
            dyes("marsh-reed", "sea-aster", "sallow-bark", "sea-lavender"),
            {"kind": "dip", "levels": valued("dip", 1, 2)},
            put_in(item="potassium-alum", amount=10, unit="% WOF", dip=2),
        ]
    },
    "one extract split into acid and alkali, alum after": {
        "factors": [
            fibres("wool", "silk"),
            dyes("sea-aster"),
            {"kind": "ph", "levels": valued("ph", 4, 9)},
            put_in(item="potassium-alum", amount=8, unit="% WOF", moment="after the pH"),
        ]
    },
    "stones by count over four days with two draws": {
        "factors": [
            fibres("wool-yarn"),
            dyes("plum-stones"),
            mordants("none", "alum-hot"),
            extraction(*({"temperature_c": 85, "rounds": 4, "daily": True, "drawn_after": after} for after in (2, 4))),
        ]
    },
    "a sun jar sampled three times": {
        "factors": [
            fibres("wool"),
            mordants("alum-cold"),
            dyes("sea-aster"),
            process("sun-jar"),
            {"kind": "duration", "levels": valued("d", 2880, 10080, 40320)},
        ],
        "taken_out": "one vessel",
    },
    "four cloths with five sources each in two rolls, one hammered": {
        "factors": [
            fibres("silk", "wool"),
            mordants("none", "alum-hot"),
            {"kind": "source", "levels": levels("bramble", "tansy", "dock", "herb-robert", "mallow")},
            {"kind": "printing", "levels": levels("rolled", "hammered")},
        ],
        "rolling": {"cloths_per_roll": 2, "wrapped_in": "cloth"},
    },
    "vest and shirt face to face in a dye bath": {
        "factors": [
            fibres("cotton", "linen"),
            mordants("alum-acetate"),
            dyes("sallow-bark"),
            {"kind": "source", "levels": levels("bramble", "tansy")},
        ],
        "rolling": {"cloths_per_roll": 2, "rolled_on": "a stick"},
    },
    "folded cloth, three iron strengths, corners only": {
        "factors": [
            fibres("cotton"),
            mordants("alum-acetate"),
            dyes("sea-lavender"),
            {"kind": "iron", "levels": valued("iron", 1, 2, 4)},
            {"kind": "times_in", "levels": valued("n", 0, 1, 2)},
        ],
        "folding": {"fold": "In quarters", "corners": "the corners", "into": "iron"},
    },
    "two barks 1:1 and 2:1 in jars in a water bath with iron and alum together": {
        "factors": [
            fibres("wool", "cotton"),
            mordants("alum-hot", "iron-mordant"),
            dyes("two-barks"),
            {"kind": "strength", "levels": valued("s", 100, 200)},
            process("water-bath"),
        ],
        "iron_with_alum": "together",
    },
    "seeds with steeping 24 h, repeated in new runs": {
        "factors": [
            fibres("wool"),
            mordants("alum-hot"),
            dyes("dried-seeds"),
            extraction({"soak_min": 1440, "temperature_c": 80, "heat_min": 90}),
        ],
        "replicates": 3,
        "replicate_vessels": "apart",
    },
}


def plan_for(name: str, **changes: Any) -> dict[str, Any]:
    job = JOBS[name]
    columns = [one["kind"] for one in job["factors"]]
    return {"name": name[:60], "rows": [], "columns": columns, "swatch_mass_g": 20} | job | changes


@pytest.fixture
def shelf(client) -> None:
    for lot in LOTS:
        assert client.post("/api/shelf", json={"kind": "dye_lot", **lot}).status_code == 201
    for vessel in VESSELS:
        assert client.post("/api/shelf", json={"kind": "vessel", **vessel}).status_code == 201


def begin(client, name: str, **changes: Any) -> int:
    made = client.post("/api/studies", json=plan_for(name, **changes))
    assert made.status_code == 201, made.text
    return made.json()["id"]


def log(client, study: int, **entry: Any) -> None:
    answer = client.post(f"/api/studies/{study}/dye/entries", json=entry)
    assert answer.status_code == 201, answer.text


def walk(client, study: int) -> dict[str, Any]:
    """Every step of every vessel in the order of the bench, what is asked for with it."""
    at = START
    for one in client.get(f"/api/studies/{study}/dye").json()["vessels"]:
        name = one["vessel"]["name"]
        for state in one["steps"]:
            step, at = state["step"], at + timedelta(minutes=5)
            said = {"vessel": name, "step": step["key"], "at": at.isoformat()}
            if step["adds"]:
                log(client, study, kind="addition", addition=step["adds"], **said)
            if step["asks"] == "map":
                (first, *_) = one["maps"]
                log(client, study, kind="laid", zones=first["zones"], **said)
            if step["asks"] == "iron watch":
                log(client, study, kind="begun", **said)
                said["at"] = (at := at + timedelta(minutes=1)).isoformat()
                codes = one["vessel"]["swatches"]
                log(client, study, kind="pulled", swatches=codes, **said)
            log(client, study, kind="done", **said)
    return client.get(f"/api/studies/{study}/dye").json()


@pytest.mark.parametrize("name", JOBS)
def test_a_job_is_planned_scheduled_and_walked_from_the_first_step_to_dry(client, shelf, name):
    study = begin(client, name)
    view = client.get(f"/api/studies/{study}").json()
    assert all(one["on_shelf"] for one in view["vessels"]), [
        one["title"] for one in view["vessels"] if not one["on_shelf"]
    ]
    papers = client.get(f"/api/studies/{study}/weigh/bench.pdf")
    assert papers.status_code == 200
    before = client.get(f"/api/studies/{study}/dye").json()["vessels"]
    done: set[str] = set()
    for one in before:
        # On the bench nothing stands before what it waits for.
        assert set(one["waits_for"]) <= done, (one["vessel"]["name"], one["waits_for"])
        done.add(one["vessel"]["name"])
    after = walk(client, study)
    assert all(one["steps"][-1]["done_at"] for one in after["vessels"])
    swatches = {one["code"] for one in view["swatches"]}
    passed = {one["swatch"] for one in after["passages"] if one["ended"]}
    assert passed == swatches
    assert not any(one["stray"] for one in after["passages"])
    for code in sorted(swatches)[:2]:
        record = client.get(f"/api/studies/{study}/swatches/{code}").json()
        assert record["passages"]


def weighed(client, study: int) -> dict[str, Any]:
    return client.get(f"/api/studies/{study}/weigh").json()["weighing"]


def grams_of(total: dict[str, Any], name: str) -> float:
    return next(one["grams"] for one in total["totals"] if one["name"] == name)


def test_four_stuffs_come_to_what_is_worked_out_by_hand(client, shelf):
    said = weighed(client, begin(client, next(iter(JOBS))))
    # One piece of 20 g in each dip of four baths. First dips: 0.6 L each; second dips no water.
    # Rinsing: 60 mL for each gram of the eight pieces. Stuff: 200, 150, 100 and 80 % of 20 g.
    assert said["effort"]["water_l"] == pytest.approx(4 * 0.6 + 8 * 20 * 0.06)
    for name, grams in (("Reed heads", 40), ("Sea aster", 30), ("Sallow bark", 20), ("Sea lavender", 16)):
        assert grams_of(said, name) == pytest.approx(grams)
    # 10 % alum of 20 g in each of four second dips.
    assert grams_of(said, "potassium alum") == pytest.approx(4 * 2.0)


def test_a_sun_jar_comes_to_what_is_worked_out_by_hand(client, shelf):
    said = weighed(client, begin(client, "a sun jar sampled three times"))
    # Three pieces of 20 g: 1.8 L of mordant, 1.8 L in one jar, 3.6 L to rinse after each.
    assert said["effort"]["water_l"] == pytest.approx(1.8 + 1.8 + 2 * 60 * 0.06)
    assert said["effort"]["energy_kwh"] == pytest.approx(0)
    assert grams_of(said, "Sea aster") == pytest.approx(1.5 * 60)
    assert grams_of(said, "potassium alum") == pytest.approx(0.15 * 60)


def test_stones_come_to_what_is_worked_out_by_hand(client, shelf):
    study = begin(client, "stones by count over four days with two draws")
    said = weighed(client, study)
    # 6 stones for 100 g are 2.4, so 2, for each bath of two skeins of 20 g; of 2 g each.
    assert grams_of(said, "Plum stones") == pytest.approx(2 * 2 * 2.0)
    (extract,) = said["extractions"]
    # The strongest bath is half extract: two baths of 1.2 L, each with 0.6 L of it.
    assert extract["water_ml"] == pytest.approx(1200)
    # Two skeins in 1.2 L of alum, four in two baths of 1.2 L; then 60 mL for each gram to rinse.
    assert said["effort"]["water_l"] == pytest.approx(1.2 + 2 * 1.2 + (40 + 80) * 0.06)


def test_yellow_over_four_routes_half_to_iron_two_over_to_blue_and_two_back_for_more(client, shelf):
    plan = {
        "name": "Yellow, then on",
        "rows": ["mordant"],
        "columns": ["fibre", "dye"],
        "factors": [
            fibres("wool", "silk"),
            mordants("none", "alum-hot", "alum-cold", "triformate-cold"),
            dyes("sea-aster"),
        ],
        "swatch_mass_g": 20,
    }
    study = client.post("/api/studies", json=plan).json()["id"]
    view = client.get(f"/api/studies/{study}").json()
    codes = [one["code"] for one in view["swatches"]]
    bath = next(one["name"] for one in view["vessels"] if one["bath"] == "dye")
    more = [
        {
            "key": "iron",
            "name": "Iron 1 %",
            "kind": "iron",
            "swatches": codes[:4],
            "iron_percent_wof": 1,
            "route": "after-bath",
            "seconds": 30,
        },
        {"key": "blue", "name": "Woad over", "kind": "dye", "swatches": codes[4:6], "dye": "woad-vat"},
        {"key": "again", "name": "Back in", "kind": "again", "swatches": codes[6:8], "again": bath},
    ]
    saved = client.put(
        f"/api/studies/{study}", json={"plan": view["plan"] | {"treatments": more}, "revision": view["revision"]}
    )
    assert saved.status_code == 200, saved.text
    vessels = {one["treatment"]: one for one in saved.json()["vessels"] if one["treatment"]}
    again = vessels["again"]
    assert again["liquor_of"] == bath
    assert {vessels["iron"]["bath"], vessels["blue"]["bath"]} == {"iron", "overdye"}
    said = weighed(client, study)
    own = next(one for one in said["vessels"] if one["vessel"] == again["name"])
    assert [figure["role"] for figure in own["figures"]] == ["dye liquor"]
    after = walk(client, study)
    assert all(one["steps"][-1]["done_at"] for one in after["vessels"])


def test_what_came_out_of_the_jar_sooner_is_dry_and_may_be_read_before_the_rest(client, shelf):
    study = begin(client, "a sun jar sampled three times")
    vessels = client.get(f"/api/studies/{study}/dye").json()["vessels"]
    jar = next(one for one in vessels if one["vessel"]["outs"])
    name, first = jar["vessel"]["name"], jar["vessel"]["outs"][0]["swatches"]
    long_ago = datetime.now(UTC) - timedelta(days=5)
    for one in vessels:
        for state in one["steps"]:
            key = state["step"]["key"]
            log(client, study, kind="done", vessel=one["vessel"]["name"], step=key, at=long_ago.isoformat())
            if one["vessel"]["name"] == name and key == "out-1":
                break
    passages = client.get(f"/api/studies/{study}/dye").json()["passages"]
    state = {one["swatch"]: one["ended"] for one in passages if one["vessel"] == name}
    assert [code for code, ended in state.items() if ended] == first
    # Five days after it came out it is dry and rested; the others are still in.
    due = client.get("/api/today").json()
    assert [one["count"] for one in due if "ready to read" in one["words"]] == [len(first)]


def test_each_further_heat_is_counted_planned_or_not(client, shelf):
    plan = {
        "name": "Again tomorrow",
        "rows": [],
        "columns": ["fibre", "dye", "reheats"],
        "factors": [fibres("wool"), dyes("sea-aster"), {"kind": "reheats", "levels": valued("r", 2)}],
        "swatch_mass_g": 20,
    }
    study = client.post("/api/studies", json=plan).json()["id"]
    walk(client, study)
    log(
        client,
        study,
        kind="reheat",
        vessel="D1",
        temperature_c=80,
        minutes=30,
        at=(START + timedelta(hours=3)).isoformat(),
    )
    code = client.get(f"/api/studies/{study}").json()["swatches"][0]["code"]
    record = client.get(f"/api/studies/{study}/swatches/{code}").json()
    assert {one["vessel"]: one["heated_again"] for one in record["passages"]}["D1"] == 3


def test_what_is_left_is_put_on_the_shelf_and_said_in_the_log(client, shelf):
    study = begin(client, "a sun jar sampled three times")
    body = {"vessel": "D1", "volume_ml": 900, "kept_in": "a bottle"}
    kept = client.post(f"/api/studies/{study}/dye/leftovers", json=body)
    assert kept.status_code == 201, kept.text
    lots = client.get("/api/shelf").json()["dye_lots"]
    assert kept.json()["key"] in {lot["key"] for lot in lots}
    assert "900 mL kept in a bottle" in client.get(f"/api/studies/{study}/dye").json()["entries"][-1]["note"]
    refused = client.post(f"/api/studies/{study}/dye/leftovers", json=body | {"vessel": "M1"})
    assert refused.status_code == 422
    assert "holds no dye" in refused.json()["title"]
