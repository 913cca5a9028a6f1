"""Heat and steam against textbook constants; cloth and yarn by hand."""

import itertools
from math import ceil

import pytest
from tests.small_study import levels, small_plan

from zesty_grid.core.plan.planned_study import on_paper
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.core.weigh.cut_list import cut_list, lay_out, swatch_size_cm
from zesty_grid.core.weigh.heat import heat_of_bath, holding_w, saturation_pressure_kpa, steamer_water_l, warming_j
from zesty_grid.core.weigh.weighing import weigh_study


def test_warming_ten_litres_to_82_degrees():
    # 10 kg × 4.186 kJ/(kg K) × 62 K = 2595 kJ = 0.72 kWh (specific heat: CRC Handbook).
    assert warming_j(10, 62) == pytest.approx(2.595e6, rel=1e-3)
    with pytest.raises(ValueError, match="more than nothing"):
        warming_j(0, 10)
    # From a room of 20 °C, on a stove that brings 70 % of its heat into the pot.
    assert heat_of_bath(10, 82, 60, lidded=True).warm_kwh == pytest.approx(2.595e6 / 3.6e6 / 0.7, rel=1e-3)
    assert heat_of_bath(10, 25, 60, lidded=True).warm_kwh == 0


@pytest.mark.parametrize(("celsius", "kpa"), [(20, 2.339), (60, 19.95), (80, 47.4), (100, 101.3)])
def test_vapour_pressure_against_steam_tables(celsius, kpa):
    # IAPWS steam tables; from memory. Magnus' formula is made for weather: within 4 %.
    assert saturation_pressure_kpa(celsius) == pytest.approx(kpa, rel=0.04)


def test_a_kilowatt_boils_away_one_and_a_half_litres_an_hour():
    # 1000 W × 3600 s / 2257 kJ/kg = 1.6 kg at 100 %; at 70 % of the heat 1.12 kg, half more.
    assert steamer_water_l(1000, 60) == pytest.approx(1000 * 3600 / 2.257e6 * 0.7 * 1.5, rel=1e-6)
    with pytest.raises(ValueError, match="above 0"):
        steamer_water_l(0, 60)


def test_a_lid_saves_heat_and_water_and_hotter_loses_more():
    open_pot, lidded = (heat_of_bath(5, 85, 60, lid) for lid in (False, True))
    assert open_pot.hold_kwh > 1.5 * lidded.hold_kwh
    assert open_pot.evaporated_l > 5 * lidded.evaporated_l
    losses = [holding_w(5, t, True) for t in (40, 60, 80, 95)]
    assert losses == sorted(losses)
    assert heat_of_bath(5, 20, 2880, True).warm_kwh == 0


def test_hot_and_cold_routes_can_be_compared():
    factors = [
        {"kind": "fibre", "levels": levels("wool", "silk")},
        {"kind": "mordant", "levels": levels("alum-hot", "alum-cold")},
        {"kind": "dye", "levels": levels("dried-flowers")},
    ]
    plan = StudyPlan.model_validate(small_plan(factors=factors, columns=["dye"]))
    effort = weigh_study(on_paper(plan, STARTING_SHELF)).effort
    routes = {route.title: route for route in effort.routes}
    hot = routes["Mordant: Potassium alum 15 %, 82 °C"]
    cold = routes["Mordant: Potassium alum 15 %, 20 °C"]
    assert hot.energy_kwh > 0
    assert cold.energy_kwh == 0
    assert hot.water_l == cold.water_l
    assert effort.waste_l >= effort.water_l > 0
    assert any("gels" in line for line in effort.neutralise)


def test_a_bundle_print_says_the_water_for_its_steamer():
    factors = [
        {"kind": "fibre", "levels": levels("silk")},
        {"kind": "dye", "levels": levels("fresh-leaves")},
        {"kind": "process", "levels": levels("bundle-print")},
    ]
    plan = StudyPlan.model_validate(small_plan(factors=factors, rows=["fibre"], columns=["dye", "process"]))
    study = on_paper(plan, STARTING_SHELF)
    vessels = vessels_of(study)
    assert [v.on_shelf for v in vessels] == ["steamer-8"]
    weighed = weigh_study(study)
    assert weighed.effort.vessels[0].heat.steam_water_l == pytest.approx(steamer_water_l(1000, 150), rel=1e-6)
    assert "boils dry" in " ".join(weighed.vessel_cautions[vessels[0].name])


def test_the_size_of_a_swatch_and_its_pieces():
    # 4 g of 200 g/m² is 200 cm²; four pieces of 7.07 cm are a square of 14.1 cm.
    assert swatch_size_cm(4, 200, 4) == (pytest.approx(14.142, abs=0.01),) * 2 + (2, 2)
    wide, high, across, down = swatch_size_cm(4, 200, 3)
    assert wide * high == pytest.approx(200)
    assert across * down == 3


@pytest.mark.parametrize("count", [1, 5, 7, 20])
@pytest.mark.parametrize("size", [(14, 14), (30, 10), (70, 20)])
def test_cloth_is_laid_out_with_the_least_length_of_both_ways(count, size):
    across, rows, length = lay_out(count, 138, *size)
    assert across * rows >= count
    by_hand = [ceil(count / (138 // a)) * b for a, b in itertools.permutations(size) if 138 // a >= 1]
    assert length == min(by_hand)


def test_a_swatch_wider_than_the_cloth_is_said():
    with pytest.raises(ValueError, match="wider"):
        lay_out(1, 50, 60, 70)


def test_yarn_in_metres_and_unknown_cloth_by_weight():
    factors = small_plan()["factors"]
    factors[0] = {"kind": "fibre", "levels": levels("wool-yarn", "cotton")}
    plan = StudyPlan.model_validate(small_plan(factors=factors))
    bare = tuple(f.model_copy(update={"mass_g_m2": None}) if f.key == "cotton" else f for f in STARTING_SHELF.fibres)
    cut = cut_list(on_paper(plan, STARTING_SHELF.model_copy(update={"fibres": bare})))
    yarn, cotton = cut.fibres
    # 6 g at 50 g for 100 m is 12 m.
    assert yarn.yarn_m_each == pytest.approx(12)
    assert yarn.yarn_m == pytest.approx(12 * 9 * 1.1)
    assert cotton.cloth_length_cm is None
    assert "cut by weight" in cotton.working
    assert cut.swatches == 18
    assert cut.sheets_as_dyed == 1
    assert cut.sheets_of_pieces == ceil(18 * 3 / 24)
