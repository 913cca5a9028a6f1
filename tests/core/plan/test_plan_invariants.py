"""What must hold for any plan: checked on a hundred random ones."""

import random

import pytest

from zesty_grid.core.plan.advice import advice_on
from zesty_grid.core.plan.cells import cross
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.shelf.starting_shelf import (
    MORDANT_ROUTES,
    REFUSED_MATERIALS,
    STARTING_SHELF,
)
from zesty_grid.core.weigh.amounts import weigh_vessel


def random_plan(seed: int) -> StudyPlan:
    rng = random.Random(seed)

    def some(items, most=4):
        picked = rng.sample(list(items), rng.randint(1, min(most, len(items))))
        return [{"key": item.key, "label": item.name} for item in picked]

    def values(kind, options):
        picked = rng.sample(options, rng.randint(1, len(options)))
        return [{"key": f"{kind}-{v:g}", "label": f"{v:g}", "value": v} for v in picked]

    factors = [
        {"kind": "fibre", "levels": some(STARTING_SHELF.fibres)},
        {"kind": "mordant", "levels": some(STARTING_SHELF.mordant_routes)},
        {"kind": "dye", "levels": some(STARTING_SHELF.dye_lots)},
        {"kind": "ph", "levels": values("ph", [4, 7, 9, 10.5])},
        {"kind": "iron", "levels": values("iron", [0, 0.5, 2])},
    ]
    factors = [f for f in factors if f["kind"] in ("fibre", "dye") or rng.random() < 0.8]
    kinds = [f["kind"] for f in factors]
    cut = rng.randint(0, len(kinds))
    plan = {
        "name": "Random", "factors": factors, "rows": kinds[:cut], "columns": kinds[cut:],
        "controls": rng.sample(["undyed", "unmordanted"], rng.randint(0, 2)),
        "swatch_mass_g": rng.uniform(0.5, 20), "liquor_ratio_ml_per_g": rng.uniform(20, 40),
    }  # fmt: skip
    whole = StudyPlan.model_validate(plan)
    keys = [cell.key for cell in cross(whole)]
    out = rng.sample(keys, rng.randint(0, len(keys) // 2))
    return whole.model_copy(update={"left_out": tuple(out)})


@pytest.mark.parametrize("seed", range(100))
def test_every_swatch_meets_each_of_its_baths_once_and_all_amounts_add_up(seed):
    plan = random_plan(seed)
    cells = cross(plan)
    included = {cell.key: cell for cell in cells if cell.included}
    vessels = vessels_of(plan, cells, STARTING_SHELF)
    assert len({v.key for v in vessels}) == len({v.name for v in vessels}) == len(vessels)
    for vessel in vessels:
        assert vessel.cells
        assert set(vessel.cells) <= set(included)
        assert len(set(vessel.cells)) == len(vessel.cells)
    for key, cell in included.items():
        baths = [v.bath for v in vessels if key in v.cells]
        assert baths.count("dye") == ("dye" in cell.levels)
        assert baths.count("iron") <= 1
    for vessel in vessels:
        amounts = weigh_vessel(plan, vessel, STARTING_SHELF)
        assert amounts.dry_fibre_g == pytest.approx(len(vessel.cells) * plan.swatch_mass_g)
        water = amounts.figures[0]
        assert water.volume_ml == pytest.approx(amounts.dry_fibre_g * plan.liquor_ratio_ml_per_g)
        assert all((f.grams or 0) > 0 for f in amounts.figures[1:])
    for advice in advice_on(plan, cells, STARTING_SHELF):
        assert advice.reason
        assert set(advice.cells) <= set(included)


def test_every_route_for_some_fibres_only_says_why():
    for route in MORDANT_ROUTES:
        if len(route.suits) < 4:
            assert len(route.unsuited_reason) > 30


def test_no_route_uses_a_refused_material():
    # Chromium, tin and lead are not planned by the tool.
    said = " ".join(b.substance for r in MORDANT_ROUTES for b in r.baths).lower()
    assert set(REFUSED_MATERIALS) == {"chromium", "tin", "lead"}
    assert not set(said.split()) & set(REFUSED_MATERIALS)
