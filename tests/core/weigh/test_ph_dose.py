"""pH of vessels, and the dose that two readings ask for."""

import pytest
from tests.small_study import small_plan, valued

from zesty_grid.core.plan.planned_study import on_paper
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.core.weigh.ph_bath import BathWater, PhQuestion, Solute, bath_equilibrium
from zesty_grid.core.weigh.ph_dose import TwoReadings, next_dose
from zesty_grid.core.weigh.weighing import weigh_study

pytestmark = pytest.mark.slow

TAP = BathWater(ph=7.5, alkalinity_mg_l_caco3=120)


def ph_of_vessels(*levels_of_ph: float, **changes):
    factors = small_plan()["factors"]
    factors[3] = {"kind": "ph", "levels": valued("ph", *levels_of_ph)}
    plan = StudyPlan.model_validate(small_plan(factors=factors, **changes))
    weighed = weigh_study(on_paper(plan, STARTING_SHELF))
    return [own.ph for own in weighed.vessels if own.ph]


def test_each_dye_vessel_gets_its_adjuster_and_says_that_plants_buffer_more():
    acid, neutral, alkaline = ph_of_vessels(4, 7.5, 9.5)
    assert acid.figure.name == "citric acid"
    assert alkaline.figure.name == "soda ash"
    assert neutral.figure is None
    assert "already" in neutral.words
    assert "buffer more" in acid.words
    assert acid.grams_first == pytest.approx(acid.figure.grams / 2)
    # The dose is that of its own litres of water: checked by the equilibrium itself.
    solute = Solute(substance="soda_ash", grams=alkaline.figure.grams)
    litres = alkaline.question.volume_l
    assert bath_equilibrium(litres, alkaline.question.water, (solute,)).ph == pytest.approx(9.5, abs=0.02)


def test_the_chosen_water_and_adjusters_count():
    (rain,) = ph_of_vessels(4, water="rain")
    (hard,) = ph_of_vessels(4, water="hard-tap")
    assert hard.figure.grams > 2 * rain.figure.grams
    (vinegar,) = ph_of_vessels(4, acid="vinegar")
    assert vinegar.figure.name == "vinegar"


def test_a_ph_that_the_adjuster_cannot_reach_is_said_and_the_rest_goes_on():
    (weak,) = ph_of_vessels(12, alkali="baking-soda")
    assert weak.figure is None
    assert "too weak" in weak.words


def question(target: float) -> PhQuestion:
    return PhQuestion(volume_l=2, water=TAP, target_ph=target, adjust_with="soda_ash")


def reading_after(given_g: float, acid_g: float) -> float:
    """A made-up plant bath: water with citric acid, which buffers."""
    solutes = (Solute(substance="citric_acid", grams=acid_g), Solute(substance="soda_ash", grams=given_g))
    return bath_equilibrium(2, TAP, solutes).ph


def test_two_readings_bring_a_buffered_bath_nearer_than_plain_water_would():
    first, given_g = reading_after(0, 1.0), 0.5
    second = reading_after(given_g, 1.0)
    told = next_dose(TwoReadings(question=question(9), ph_first=first, grams_given=given_g, ph_second=second))
    assert told.buffer_mmol_l_ph > 0
    assert told.least_g <= told.grams <= told.most_g
    plain = next_dose(TwoReadings(question=question(9), ph_first=first, grams_given=1e-6, ph_second=first + 0.11)).grams
    truth_g = next(g / 100 for g in range(1, 600) if reading_after(given_g + g / 100, 1.0) >= 9)
    assert abs(told.grams - truth_g) < abs(plain - truth_g) or told.grams == pytest.approx(truth_g, rel=0.6)


def test_plain_water_asks_for_what_the_equilibrium_says():
    whole = ph_free_dose(9)
    second = bath_equilibrium(2, TAP, (Solute(substance="soda_ash", grams=whole / 2),)).ph
    told = next_dose(TwoReadings(question=question(9), ph_first=7.5, grams_given=whole / 2, ph_second=second))
    assert told.grams == pytest.approx(whole / 2, rel=0.02)
    assert told.buffer_mmol_l_ph == pytest.approx(0, abs=0.02)


def ph_free_dose(target: float) -> float:
    from zesty_grid.core.weigh.ph_bath import dose_for_ph

    return dose_for_ph(question(target)).grams


def test_past_the_target_gives_no_more():
    told = next_dose(TwoReadings(question=question(8), ph_first=7.5, grams_given=1, ph_second=9))
    assert told.grams == 0
    assert "no more" in told.words


@pytest.mark.parametrize(("first", "second"), [(7.5, 7.52), (7.5, 6.9)])
def test_readings_that_cannot_both_be_right_are_refused(first, second):
    with pytest.raises(Refusal, match="no step towards"):
        next_dose(TwoReadings(question=question(9), ph_first=first, grams_given=0.5, ph_second=second))
