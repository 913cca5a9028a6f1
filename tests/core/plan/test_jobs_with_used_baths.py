"""Two jobs with a used bath, as people say them; their figures were worked out by hand."""

import pytest
from tests.small_study import levels, planned, valued

from zesty_grid.core.plan.study_plan import OwnVessel, StudyPlan
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.weigh.weighing import weigh_study

VINEGAR = {"item": "vinegar", "amount": 1, "unit": "tbsp"}
ALUM = {"item": "potassium-alum", "amount": 10, "unit": "% WOF", "dip": 2}


def amounts_of(plan: StudyPlan) -> dict[tuple[int, str], float]:
    """By dip and stuff, in g (of a liquid in mL)."""
    study = planned(plan)
    dips = {one.name: one.dip or 1 for one in vessels_of(study)}
    return {
        (dips[own.vessel], figure.name): figure.volume_ml or figure.grams or 0.0
        for own in weigh_study(study).vessels
        for figure in own.figures
        if figure.role in ("addition", "iron")
    }


def test_a_used_bath_then_alum_in_it():
    """Three stuffs, 10 g of wool in each: a first dip without mordant, then alum into the liquor."""
    put_in = {"key": "a", "label": "Vinegar, then alum", "additions": [VINEGAR, ALUM]}
    plan = StudyPlan.model_validate(
        {
            "name": "Used baths",
            "factors": [
                {"kind": "fibre", "levels": levels("wool")},
                {"kind": "dye", "levels": levels("dried-bark", "dried-seeds", "dry-skins")},
                {"kind": "addition", "levels": [put_in]},
                {"kind": "dip", "levels": valued("dip", 1, 2)},
            ],
            "rows": ["fibre"],
            "columns": ["dye", "addition", "dip"],
            "swatch_mass_g": 10,
        }
    )
    amounts = amounts_of(plan)
    assert amounts[2, "potassium alum"] == pytest.approx(1.0)
    assert amounts[1, "vinegar"] == pytest.approx(15)
    later = [one for one in vessels_of(planned(plan)) if one.dip == 2]
    assert [one.liquor_of is not None and one.volume_ml for one in later] == [300] * 3


def test_iron_after_and_iron_in_the_used_pot():
    """Wool, silk and linen, 4 g each: dyed and then into iron; three more straight into the used bath with as much."""
    grams = 5 / 8  # ⅛ teaspoon of 5 g (common practice)
    iron = [
        {"key": "after", "label": "After", "grams": grams, "route": "after-bath"},
        {"key": "pot", "label": "In the pot", "grams": grams, "route": "pot"},
    ]
    plan = StudyPlan.model_validate(
        {
            "name": "Iron two ways",
            "factors": [
                {"kind": "fibre", "levels": levels("wool", "silk", "linen")},
                {"kind": "dye", "levels": levels("insect-dye")},
                {"kind": "iron", "levels": iron},
                {"kind": "dip", "levels": valued("dip", 1, 2)},
            ],
            "rows": ["fibre"],
            "columns": ["dye", "iron", "dip"],
            "rules": [
                {"levels": {"iron": ["after"], "dip": ["dip-2"]}},
                {"levels": {"iron": ["pot"], "dip": ["dip-1"]}},
            ],
            "swatch_mass_g": 4,
        }
    )
    vessels = vessels_of(planned(plan))
    after = next(one for one in vessels if one.bath == "iron")
    chosen = plan.model_copy(update={"own_vessels": (OwnVessel(bath=after.key, litres=1.5),)})
    iron_baths = {one.bath: one for one in vessels_of(planned(chosen)) if one.iron_g}
    assert iron_baths["iron"].volume_ml == pytest.approx(1500)
    assert {bath: one.iron_g for bath, one in iron_baths.items()} == {"iron": grams, "dye": grams}
    assert {bath: len(one.swatches) for bath, one in iron_baths.items()} == {"iron": 3, "dye": 3}
    first = next(one for one in vessels if one.bath == "dye" and one.dip == 1)
    assert iron_baths["dye"].liquor_of == first.name
