"""The equilibrium keeps its balances, and its solids form where they must."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from zesty_grid.core.weigh.ph_bath import BathWater, Solute, bath_equilibrium
from zesty_grid.core.weigh.ph_species import CHARGE, COMPONENTS, SPECIES
from zesty_grid.core.weigh.speciation import at_ph, equilibrium

AMOUNTS = st.floats(0, 0.05)
TAP = BathWater(ph=7.6, alkalinity_mg_l_caco3=200, hardness_mg_l_caco3=250)
ATOMS = {one.name: dict(one.of) for one in SPECIES}


def totals_found(found: dict[str, float]) -> dict[str, float]:
    totals = dict.fromkeys(COMPONENTS, 0.0)
    for name, concentration in found.items():
        for component, n in ATOMS[name].items():
            totals[component] += n * concentration
    return totals


@settings(max_examples=60, deadline=None)
@given(
    st.fixed_dictionaries(dict.fromkeys(("Na", "K", "Al", "S", "C", "Ac", "Tar", "N"), AMOUNTS)), st.floats(2.5, 11.5)
)
def test_every_component_is_balanced_at_any_ph(totals, ph):
    found = at_ph(totals, ph)
    summed = totals_found(found.concentration)
    for component, total in totals.items():
        solid = found.aluminium_hydroxide_mol_l if component == "Al" else 0.0
        assert summed[component] + solid == pytest.approx(total, rel=1e-5, abs=1e-10)


@pytest.mark.parametrize(
    "totals",
    [
        {"Ac": 0.1},
        {"N": 0.1},
        {"Na": 0.2, "C": 0.1},
        {"Al": 0.01, "K": 0.01, "S": 0.02},
        {"Cit": 0.01, "Na": 0.015},
        {"Tar": 0.02, "K": 0.02},
        {"Fe": 0.005, "S": 0.005},
    ],
)
def test_charges_balance_at_the_answer(totals):
    found = equilibrium(totals)
    charged = sum(
        concentration * sum(CHARGE[c] * n for c, n in ATOMS[name].items())
        for name, concentration in found.concentration.items()
    )
    assert charged == pytest.approx(0, abs=1e-6)


def test_half_neutralised_acids_sit_at_their_constant():
    # At half neutralisation pH = pKa, less the activity of the anion: about 0.1 at 0.05 mol/L.
    assert equilibrium({"Ac": 0.1, "Na": 0.05}).ph == pytest.approx(4.756 - 0.09, abs=0.04)
    # Ammonia beside as much of a neutral salt of it.
    assert equilibrium({"N": 0.1, "Cl": 0.05}).ph == pytest.approx(9.25 + 0.09, abs=0.04)


def test_pure_water_is_neutral():
    # pKw 13.995 at 25 °C (CRC Handbook).
    assert equilibrium({}).ph == pytest.approx(13.995 / 2, abs=0.01)


def test_aluminium_drops_out_in_the_middle_and_dissolves_in_acid_and_strong_alkali():
    totals = {"Al": 0.005, "S": 0.0075}
    solids = {ph: at_ph(totals, ph).aluminium_hydroxide_mol_l for ph in (3.0, 6.5, 12.5)}
    assert solids[3.0] == 0
    assert solids[6.5] == pytest.approx(0.005, rel=0.01)
    assert solids[12.5] == 0


def test_chalk_dissolves_fully_in_acid_and_hardly_in_water():
    vinegar = bath_equilibrium(
        1, TAP, (Solute(substance="chalk", grams=1), Solute(substance="vinegar_5pct", grams=100))
    )
    assert vinegar.undissolved_chalk_mol_l == pytest.approx(0, abs=1e-6)
    plain = bath_equilibrium(1, TAP, (Solute(substance="chalk", grams=1),))
    assert plain.undissolved_chalk_mol_l > 0.9 * 1 / 100.09


@settings(max_examples=25, deadline=None)
@given(st.floats(4.5, 10), st.floats(0, 800), st.floats(0, 800))
def test_the_water_has_the_ph_that_it_was_given(ph, alkalinity, hardness):
    water = BathWater(ph=ph, alkalinity_mg_l_caco3=alkalinity, hardness_mg_l_caco3=hardness)
    found = bath_equilibrium(1, water, ())
    assert found.ph == pytest.approx(ph, abs=0.02)


def test_more_acid_is_never_less_acid():
    grams = (0, 0.05, 0.2, 0.5, 1, 3, 10)
    phs = [bath_equilibrium(1, TAP, (Solute(substance="citric_acid", grams=g),)).ph for g in grams]
    assert phs == sorted(phs, reverse=True)
    more_soda = [bath_equilibrium(1, TAP, (Solute(substance="soda_ash", grams=g),)).ph for g in grams]
    assert more_soda == sorted(more_soda)
