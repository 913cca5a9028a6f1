"""pH of baths against PHREEQC and handbook values; doses against what they promise."""

import itertools

import pytest
from tests.core.weigh.phreeqc import Phreeqc

from zesty_grid.core.refusal import Refusal
from zesty_grid.core.weigh.ph_bath import BathWater, PhQuestion, Solute, bath_equilibrium, dose_for_ph

PURE = BathWater(ph=7, alkalinity_mg_l_caco3=0)
TAP = BathWater(ph=7.6, alkalinity_mg_l_caco3=200)
WATERS = [(7.0, 0), (5.8, 2), (7.6, 200), (8.2, 40), (7.2, 350)]
# g/L, as they stand in dye baths at 30 mL for each gram of fibre.
BATHS = [
    {},
    {"alum_potassium": 5},
    {"alum_potassium": 1},
    {"alum_sulphate": 5},
    {"alum_acetate": 2.3},
    {"cream_of_tartar": 2.3},
    {"citric_acid": 1},
    {"citric_acid": 0.1},
    {"vinegar_5pct": 10},
    {"vinegar_5pct": 100},
    {"soda_ash": 0.2},
    {"soda_ash": 5},
    {"washing_soda_decahydrate": 3},
    {"baking_soda": 2},
    {"ammonia_5pct": 5},
    {"iron_sulphate": 0.7},
    {"chalk": 1},
    {"alum_potassium": 3.3, "cream_of_tartar": 2.3},
    {"alum_potassium": 5, "soda_ash": 1},
    {"alum_potassium": 5, "soda_ash": 3},
    {"alum_potassium": 5, "soda_ash": 8},
    {"alum_acetate": 2.3, "chalk": 0.5},
    {"vinegar_5pct": 20, "soda_ash": 1},
    {"vinegar_5pct": 20, "chalk": 2},
    {"citric_acid": 1, "ammonia_5pct": 3},
    {"iron_sulphate": 1, "soda_ash": 0.3},
    {"cream_of_tartar": 2, "baking_soda": 1},
]


@pytest.fixture(scope="module")
def phreeqc() -> Phreeqc:
    return Phreeqc()


def ph_of(water: BathWater, **grams_per_l: float) -> float:
    solutes = tuple(Solute(substance=name, grams=g) for name, g in grams_per_l.items())
    return bath_equilibrium(1, water, solutes).ph


@pytest.mark.slow
@pytest.mark.parametrize("water", WATERS, ids=str)
def test_baths_agree_with_phreeqc_within_a_tenth(phreeqc, water):
    for bath in BATHS:
        own = ph_of(BathWater(ph=water[0], alkalinity_mg_l_caco3=water[1]), **bath)
        assert own == pytest.approx(phreeqc.ph(*water, bath), abs=0.1), bath


@pytest.mark.parametrize(
    ("grams_per_l", "handbook"),
    [
        # CRC Handbook of Chemistry and Physics, 0.1 mol/L at 25 °C; from memory.
        ({"vinegar_5pct": 120.1}, 2.88),  # acetic acid
        ({"ammonia_5pct": 34.06}, 11.1),  # ammonia
        ({"soda_ash": 10.60}, 11.3),  # sodium carbonate, with activities; 11.6 ideal
        ({"citric_acid": 19.21}, 2.1),  # citric acid
        ({"chalk": 1}, 9.9),  # calcite in pure water, closed to the air
    ],
)
def test_handbook_values(grams_per_l, handbook):
    assert ph_of(PURE, **grams_per_l) == pytest.approx(handbook, abs=0.1)


def test_decahydrate_weighs_2_7_times_as_much_as_soda_ash():
    assert pytest.approx(2.7, abs=0.01) == 286.14 / 105.99
    assert ph_of(TAP, soda_ash=1) == pytest.approx(ph_of(TAP, washing_soda_decahydrate=2.7), abs=0.01)


ADJUSTERS = [
    ("citric_acid", 4),
    ("vinegar_5pct", 4.5),
    ("cream_of_tartar", 5.5),
    ("soda_ash", 9),
    ("washing_soda_decahydrate", 10),
    ("ammonia_5pct", 9),
    ("baking_soda", 7.8),
]


# Alum is more acid than these targets, and carbonic acid holds baking soda below its own.
TOO_ACID = {"baking_soda", "cream_of_tartar", "vinegar_5pct"}
DOSES = [
    (adjuster, solute)
    for adjuster, solute in itertools.product(ADJUSTERS, [None, "alum_potassium", "iron_sulphate"])
    if not (solute == "alum_potassium" and adjuster[0] in TOO_ACID)
]


@pytest.mark.slow
@pytest.mark.parametrize(("adjuster", "solute"), DOSES)
def test_the_dose_brings_the_bath_to_the_target(phreeqc, adjuster, solute):
    name, target = adjuster
    solutes = (Solute(substance=solute, grams=1),) if solute else ()
    question = PhQuestion(volume_l=2, water=TAP, solutes=solutes, target_ph=target, adjust_with=name)
    answer = dose_for_ph(question)
    bath = {name: answer.grams / 2} | ({solute: 0.5} if solute else {})
    assert answer.ph_after == pytest.approx(target, abs=0.01)
    assert phreeqc.ph(7.6, 200, bath) == pytest.approx(target, abs=0.1)
    assert answer.grams_first == pytest.approx(answer.grams / 2)


def test_a_bath_that_is_there_already_needs_nothing():
    answer = dose_for_ph(PhQuestion(volume_l=1, water=TAP, target_ph=7.6, adjust_with="soda_ash"))
    assert answer.grams == 0


@pytest.mark.parametrize(
    ("adjuster", "target", "words"),
    [
        ("soda_ash", 4, "cannot bring this bath down"),
        ("vinegar_5pct", 9, "cannot bring this bath up"),
        ("baking_soda", 11, "too weak"),
        ("vinegar_5pct", 1, "too weak"),
        ("chalk", 10, "too weak"),
    ],
)
def test_a_target_that_cannot_be_reached_is_said(adjuster, target, words):
    with pytest.raises(Refusal, match=words):
        dose_for_ph(PhQuestion(volume_l=1, water=TAP, target_ph=target, adjust_with=adjuster))


def test_alum_and_soda_are_warned_of_with_litres_and_grams():
    alum = (Solute(substance="alum_potassium", grams=20),)
    answer = dose_for_ph(PhQuestion(volume_l=4, water=TAP, solutes=alum, target_ph=7, adjust_with="soda_ash"))
    # 20 g of alum hold 0.0422 mol of aluminium: all of it as hydroxide is 3.3 g; the soda gives
    # off at most as many moles of gas as it has carbonate, 24.5 L each at 25 °C.
    assert answer.aluminium_hydroxide_g == pytest.approx(20 / 474.39 * 78.0, rel=0.02)
    assert 0 < answer.carbon_dioxide_l <= answer.grams / 105.99 * 24.5 * 1.001
    assert "slime" in " ".join(answer.warnings)
    assert "foams" in " ".join(answer.warnings)


def test_what_is_not_computed_is_said():
    both = (Solute(substance="alum_potassium", grams=5), Solute(substance="citric_acid", grams=1))
    answer = dose_for_ph(PhQuestion(volume_l=1, water=TAP, solutes=both, target_ph=5, adjust_with="soda_ash"))
    assert "hold on to aluminium" in " ".join(answer.warnings)
    strong = dose_for_ph(PhQuestion(volume_l=1, water=TAP, target_ph=10.5, adjust_with="soda_ash"))
    assert "wool and silk" in " ".join(strong.warnings)
