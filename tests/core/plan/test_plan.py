"""Crossing, controls, codes, vessels and advice."""

import itertools
import math
import random

import pytest
from pydantic import ValidationError
from tests.small_study import cells_of, levels, small_plan, valued

from zesty_grid.core.plan.advice import advice_on
from zesty_grid.core.plan.cells import cross
from zesty_grid.core.plan.controls import control_offers
from zesty_grid.core.plan.found_advice import Advice
from zesty_grid.core.plan.planned_study import on_paper
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.swatch_codes import ALPHABET, is_swatch_code, swatch_code
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.items import DyeLot, HeatPlace, MixturePart
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF


def plan_of(**changes) -> StudyPlan:
    return StudyPlan.model_validate(small_plan(**changes))


def offered(plan: StudyPlan) -> dict[str, int]:
    offers = control_offers(plan, cross(plan, STARTING_SHELF), STARTING_SHELF)
    return {offer.control: offer.swatches for offer in offers}


def advised(plan: StudyPlan) -> list[Advice]:
    study = on_paper(plan, STARTING_SHELF)
    return advice_on(study, vessels_of(study))


def test_a_full_cross_has_the_product_of_the_levels():
    cells = cells_of(plan_of(controls=[]))
    assert len(cells) == 2 * 2 * 1 * 2 * 2
    assert len({cell.key for cell in cells}) == len(cells)


def test_a_cell_keeps_its_key_when_factors_change_axes_or_order():
    plan = small_plan()
    turned = plan | {"factors": plan["factors"][::-1], "rows": plan["columns"], "columns": plan["rows"]}
    keys = {cell.key for cell in cells_of(plan_of())}
    assert keys == {cell.key for cell in cells_of(StudyPlan.model_validate(turned))}


def test_controls_are_marked_and_offered():
    cells = cells_of(plan_of())
    assert [c.key for c in cells if c.control == "undyed"] == [
        "control=undyed;fibre=wool",
        "control=undyed;fibre=cotton",
    ]
    assert all(c.control == "unmordanted" for c in cells if c.levels.get("mordant") == "none")
    assert offered(plan_of()) == {"mordanted-undyed": 2}
    assert offered(plan_of(controls=[])) == {"undyed": 2, "mordanted-undyed": 2}


def test_without_an_unmordanted_level_that_control_is_offered_in_the_plainest_bath():
    factors = small_plan()["factors"]
    factors[1] = {"kind": "mordant", "levels": levels("alum-hot")}
    factors[3] = {"kind": "ph", "levels": valued("ph", 4, 6.5, 9)}
    assert offered(plan_of(factors=factors)) == {"unmordanted": 2, "mordanted-undyed": 2}
    cells = cells_of(plan_of(factors=factors, controls=["unmordanted"]))
    added = [c for c in cells if c.added]
    assert {c.levels["ph"] for c in added} == {"ph-6.5"}
    assert {c.levels["iron"] for c in added} == {"iron-0"}


def test_left_out_cells_stay_but_are_not_included():
    key = cells_of(plan_of())[0].key
    cells = cells_of(plan_of(left_out=[key]))
    assert [c.key for c in cells if not c.included] == [key]


def test_a_million_cells_are_refused_before_they_are_made():
    many = levels(*(f"x{i}" for i in range(12)))
    ph = valued("ph", *(1 + i for i in range(12)))
    iron = valued("iron", *(i / 2 for i in range(12)))
    plan = StudyPlan.model_validate(
        {
            "name": "Too much",
            "factors": [
                {"kind": "fibre", "levels": many},
                {"kind": "mordant", "levels": many},
                {"kind": "dye", "levels": many},
                {"kind": "ph", "levels": ph},
                {"kind": "iron", "levels": iron},
            ],
            "rows": ["fibre", "mordant"],
            "columns": ["dye", "ph", "iron"],
        }
    )
    assert math.prod(len(f.levels) for f in plan.factors) == 248_832
    with pytest.raises(Refusal, match=r"248,832 cells.*2,000"):
        cells_of(plan)


@pytest.mark.parametrize(
    "change",
    [
        {"swatch_mass_g": -1},
        {"swatch_mass_g": float("nan")},
        {"rows": ["fibre"]},
        {"rows": ["fibre", "mordant", "dye"]},
        {"factors": [{"kind": "ph", "levels": valued("ph", 99)}], "rows": ["ph"], "columns": []},
        {"name": ""},
        {"unknown": 1},
    ],
)
def test_unsound_plans_are_refused(change):
    with pytest.raises(ValidationError):
        plan_of(**change)


def test_codes_differ_and_use_no_character_that_can_be_confused():
    codes = [swatch_code(n) for n in range(1, 8000)]
    assert len(set(codes)) == len(codes)
    assert not set("".join(codes)) & set("01OQDILZ25S8B6GUV")
    assert {len(code) for code in codes} == {4, 5}


def test_the_check_character_catches_every_wrong_character_and_every_neighbour_swap():
    for n in random.Random(1).sample(range(6859), 150):
        code = swatch_code(n)
        assert is_swatch_code(code.lower())
        for place, other in itertools.product(range(4), ALPHABET):
            if other != code[place]:
                assert not is_swatch_code(code[:place] + other + code[place + 1 :])
        for i in range(3):
            if code[i] != code[i + 1]:
                swapped = code[:i] + code[i + 1] + code[i] + code[i + 2 :]
                assert not is_swatch_code(swapped)


def test_cells_share_a_vessel_when_all_that_acts_in_it_is_the_same():
    plan = plan_of()
    vessels = vessels_of(on_paper(plan, STARTING_SHELF))
    # One alum bath; a dye bath for each pH; one iron bath after the one dye: counted by hand.
    assert [(v.name, v.bath, len(v.cells)) for v in vessels] == [
        ("M1", "mordant", 8),
        ("D1", "dye", 8),
        ("D2", "dye", 8),
        ("F1", "iron", 8),
    ]
    assert {v.ph for v in vessels if v.bath == "dye"} == {4, 9}
    undyed = {c.key for c in cells_of(plan) if c.control == "undyed"}
    assert not any(undyed & set(v.cells) for v in vessels)


def test_tannin_then_alum_needs_two_baths():
    factors = small_plan()["factors"]
    factors[1] = {"kind": "mordant", "levels": levels("tannin-alum")}
    plan = plan_of(factors=factors)
    baths = [v.bath for v in vessels_of(on_paper(plan, STARTING_SHELF))]
    assert baths[:2] == ["tannin", "mordant"]


def test_alum_sulphate_on_cotton_is_warned_about_with_the_reason():
    # Sulphates for protein, acetate or tannin first for cellulose: common practice.
    plan = plan_of()
    advice = advised(plan)
    assert [a.code for a in advice] == ["unsuited:alum-hot:cotton"]
    assert "aluminium acetate" in advice[0].reason
    assert len(advice[0].cells) == 4


def test_wool_above_ph_10_is_warned_about():
    factors = small_plan()["factors"]
    factors[3] = {"kind": "ph", "levels": valued("ph", 10, 10.5)}
    plan = plan_of(factors=factors)
    alkali = [a for a in advised(plan) if "alkali" in a.code]
    assert [a.code for a in alkali] == ["alkali:wool"]
    assert all("ph-10.5" in cell for cell in alkali[0].cells)


def test_a_bridge_piece_is_added_where_a_dye_vessel_lacks_it():
    # The same fibre and mordant in every pot: what practitioners miss afterwards (common practice).
    alum = "fibre=wool;mordant=alum-hot;dye=dried-flowers;ph=ph-4;iron=iron-"
    thinned = plan_of(left_out=[f"{alum}0", f"{alum}1"])
    assert offered(thinned)["bridge"] == 1
    bridged = plan_of(left_out=[f"{alum}0", f"{alum}1"], controls=["bridge"])
    (piece,) = [c for c in cells_of(bridged) if c.control == "bridge"]
    assert piece.levels == {"fibre": "wool", "mordant": "alum-hot", "dye": "dried-flowers", "ph": "ph-4"}
    vessels = vessels_of(on_paper(bridged, STARTING_SHELF))
    assert [v.name for v in vessels if piece.key in v.cells] == ["M1", "D1"]


def test_iron_apart_from_alum_and_by_its_route():
    iron = [
        {"key": "none", "label": "No iron", "value": 0},
        {"key": "pot", "label": "In the pot", "value": 1, "route": "pot"},
        {"key": "first", "label": "As mordant", "value": 3, "route": "mordant"},
        {"key": "after", "label": "After", "value": 1, "route": "after-bath", "seconds": 60},
    ]
    factors = [*small_plan()["factors"][:3], {"kind": "iron", "levels": iron}]
    plan = plan_of(factors=factors, columns=["dye", "iron"])
    vessels = vessels_of(on_paper(plan, STARTING_SHELF))
    assert [(v.name, v.has_iron) for v in vessels] == [
        ("M1", False),
        ("FM1", True),
        ("FM2", True),
        ("D1", False),
        ("D2", True),
        ("D3", True),
        ("F1", True),
    ]
    # Iron pieces use vessels that are for iron only: common practice, as iron spreads.
    for vessel in vessels:
        assert STARTING_SHELF.vessel(vessel.on_shelf).iron_only == vessel.has_iron


def test_over_two_percent_iron_on_wool_is_warned_about_but_not_on_cotton():
    factors = small_plan()["factors"]
    factors[4] = {"kind": "iron", "levels": valued("iron", 0, 4)}
    iron = [a for a in advised(plan_of(factors=factors)) if a.code.startswith("iron:")]
    assert [a.code for a in iron] == ["iron:wool"]


def test_a_vessel_too_small_for_one_swatch_is_said_and_nothing_is_lost():
    small = STARTING_SHELF.model_copy(update={"vessels": tuple(v for v in STARTING_SHELF.vessels if v.litres <= 1)})
    plan = plan_of(swatch_mass_g=100)
    study = on_paper(plan, small)
    vessels = vessels_of(study)
    assert {v.on_shelf for v in vessels} == {None}
    said = [a for a in advice_on(study, vessels) if a.code.startswith("vessel:")]
    assert any("holds even one swatch" in a.text for a in said)
    assert any("3000 mL" in a.reason for a in said)


def test_dips_share_a_bath_one_after_the_other():
    factors = [*small_plan()["factors"][:3], {"kind": "dip", "levels": valued("dip", 1, 2, 3)}]
    plan = plan_of(factors=factors, columns=["dye", "dip"])
    dye = [v for v in vessels_of(on_paper(plan, STARTING_SHELF)) if v.bath == "dye"]
    assert [v.dip for v in dye] == [1, 2, 3]


def test_replicates_apart_are_whole_runs():
    plan = plan_of(replicates=2, replicate_vessels="apart")
    study = on_paper(plan, STARTING_SHELF)
    vessels = vessels_of(study)
    assert len(vessels) == 8
    for vessel in vessels:
        repeats = {study.by_code[code].replicate for code in vessel.swatches}
        assert repeats == {vessel.replicate}


def advised_with(plan: StudyPlan, **shelf) -> list[Advice]:
    own = STARTING_SHELF.model_copy(update=shelf)
    study = on_paper(plan, own)
    return advice_on(study, vessels_of(study))


def test_heat_that_is_not_there_or_too_weak_is_said():
    said = {a.code: a for a in advised_with(plan_of(), heat_places=())}
    assert "no heat place" in said["no-heat"].text
    candle = HeatPlace(key="candle", name="Candle", power_w=80)
    slow = [a for a in advised_with(plan_of(), heat_places=(candle,)) if "slow-heat" in a.code]
    # 1.44 kg × 4.186 kJ/(kg K) × 62 K = 374 kJ; 80 W × 70 % give 56 W: 1.9 h for the mordant.
    assert slow == []
    weaker = candle.model_copy(update={"power_w": 70})
    slow = [a for a in advised_with(plan_of(), heat_places=(weaker,)) if "slow-heat" in a.code]
    assert "2 h to warm" in slow[0].text


def test_a_lot_that_does_not_suffice_is_said_also_through_a_mixture():
    short = tuple(
        lot.model_copy(update={"amount_in_hand_g": 70}) if lot.key == "dried-flowers" else lot
        for lot in STARTING_SHELF.dye_lots
    )
    # 16 dyed swatches of 6 g at 75 %: 72 g.
    (advice,) = [a for a in advised_with(plan_of(), dye_lots=short) if a.code.startswith("short")]
    assert "72 g are needed, 70 g are in hand" in advice.text
    assert len(advice.cells) == 16
    mixed = DyeLot(
        key="mix",
        name="Mix",
        strength_percent_wof=100,
        mixture=(MixturePart(lot="dried-flowers", percent=80), MixturePart(lot="dried-bark", percent=20)),
    )
    factors = small_plan()["factors"]
    factors[2] = {"kind": "dye", "levels": levels("mix")}
    found = advised_with(plan_of(factors=factors), dye_lots=(*short, mixed))
    (advice,) = [a for a in found if a.code.startswith("short")]
    assert "77 g are needed" in advice.text
