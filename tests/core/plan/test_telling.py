"""What a grid can tell: power and split plots against textbooks and another library."""

import math

import pytest
from statsmodels.stats.power import TTestIndPower
from tests.small_study import cells_of, levels, small_plan, valued

from zesty_grid.core.plan.noise import (
    DEFAULT_NOISE,
    AlikeColours,
    NoiseEstimate,
    estimate_noise,
    variance_of_alike,
)
from zesty_grid.core.plan.planned_study import on_paper
from zesty_grid.core.plan.power import (
    detectable_colour_standard_errors,
    detectable_standard_errors,
)
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.telling import what_it_can_tell
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF

NOISE = NoiseEstimate(levels=DEFAULT_NOISE, words="")
OWN = DEFAULT_NOISE.swatch_de00**2 + DEFAULT_NOISE.reading_de00**2
POT = DEFAULT_NOISE.vessel_de00**2


def told(**changes):
    plan = StudyPlan.model_validate(small_plan(controls=[], **changes))
    study = on_paper(plan, STARTING_SHELF)
    baths = [(vessel.bath, vessel.swatches) for vessel in vessels_of(study)]
    telling = what_it_can_tell(study, baths, NOISE)
    return {effect.factor: effect for effect in telling.effects}, telling


@pytest.mark.parametrize("group", [2, 3, 5, 10, 64, 400])
def test_the_detectable_difference_is_that_of_statsmodels(group):
    # Two groups of n, two-sided 5 %, power 0.8: independent reference library.
    theirs = TTestIndPower().solve_power(nobs1=group, alpha=0.05, power=0.8)
    ours = detectable_standard_errors(2 * group - 2) * math.sqrt(2 / group)
    assert ours == pytest.approx(theirs, rel=1e-3)


def test_cohens_table():
    # Cohen, Statistical Power Analysis for the Behavioral Sciences (1988), table 2.4.1: n = 64
    # in each group for d = 0.5, n = 26 for d = 0.8, at power 0.80; from memory.
    for size, group in ((0.5, 64), (0.8, 26)):
        found = detectable_standard_errors(2 * group - 2) * math.sqrt(2 / group)
        assert found == pytest.approx(size, abs=0.01)


def test_known_noise_uses_the_normal_distribution():
    # z(0.975) + z(0.80) = 1.960 + 0.842.
    assert detectable_standard_errors(None) == pytest.approx(2.802, abs=0.001)
    with pytest.raises(ValueError, match="degree"):
        detectable_standard_errors(0)


def test_a_balanced_split_plot_has_the_textbook_variances():
    # Whole plots: pH in r pots each, fibres as subplots. Variance of a difference between two
    # whole-plot levels 2 (σ²pot + σ² / b) / r, of two subplot levels 2 σ² / (r a): Montgomery,
    # Design and Analysis of Experiments, split-plot chapter.
    a, b, r = 3, 4, 3
    factors = [
        {"kind": "fibre", "levels": levels("wool", "silk", "cotton", "linen")},
        {"kind": "dye", "levels": levels("dried-flowers")},
        {"kind": "ph", "levels": valued("ph", 4, 7, 9)},
    ]
    effects, _ = told(factors=factors, rows=["fibre"], columns=["dye", "ph"], replicates=r,
                      replicate_vessels="apart")  # fmt: skip
    ph, fibre = effects["ph"], effects["fibre"]
    assert (ph.between, fibre.between) == ("dye", None)
    assert ph.degrees_of_freedom == a * r - a
    pot = math.sqrt(2 * (POT + OWN / b) / r)
    assert ph.smallest_difference_de00 == pytest.approx(
        detectable_colour_standard_errors(a * r - a) * pot, rel=1e-6
    )
    free = a * b * r - a * r - (b - 1)
    assert fibre.degrees_of_freedom == free
    assert fibre.smallest_difference_de00 == pytest.approx(
        detectable_colour_standard_errors(free) * math.sqrt(2 * OWN / (r * a)), rel=1e-6
    )


def test_a_single_pot_cannot_be_told_from_its_level():
    effects, _ = told()
    ph = effects["ph"]
    assert not ph.can_be_told
    assert [count.vessels for count in ph.levels] == [1, 1]
    assert "cannot be told apart. A second pot each costs 2 vessels." in ph.warnings[0]
    assert effects["fibre"].can_be_told
    assert effects["iron"].between == "iron"
    apart, _ = told(replicates=2, replicate_vessels="apart")
    assert apart["ph"].can_be_told
    assert [count.vessels for count in apart["ph"].levels] == [2, 2]


def test_pots_of_other_dyes_stand_in_but_then_their_joint_action_cannot_be_told():
    factors = small_plan()["factors"]
    factors[2] = {"kind": "dye", "levels": levels("dried-flowers", "dried-bark", "dry-skins")}
    effects, telling = told(factors=factors)
    assert effects["ph"].can_be_told
    assert effects["ph"].degrees_of_freedom == 6 - 1 - 2 - 1
    assert "Dye with dye pH" in telling.joint[0]


def test_what_is_mixed_up_by_leaving_out_is_said():
    out = [c.key for c in cells_of(StudyPlan.model_validate(small_plan(controls=[])))
           if (c.levels["fibre"] == "wool") != (c.levels["mordant"] == "alum-hot")]  # fmt: skip
    effects, _ = told(left_out=out)
    assert not effects["fibre"].can_be_told
    assert not effects["mordant"].can_be_told
    together = "Each fibre goes with its own mordant here: the two are told as one."
    assert together in effects["fibre"].warnings


def test_one_level_left_is_no_comparison():
    out = [c.key for c in cells_of(StudyPlan.model_validate(small_plan(controls=[])))
           if c.levels["fibre"] == "wool"]  # fmt: skip
    effects, _ = told(left_out=out)
    assert "fibre" not in effects


def test_noise_is_learnt_from_repeats_and_else_the_default():
    # Greys: ΔE00 of L* 50 and 51 is close to 1 (SL = 1 at L* 50, Sharma et al. 2005).
    pairs = AlikeColours(groups=tuple(((50.0, 0.0, 0.0), (51.0, 0.0, 0.0)) for _ in range(10)))
    variance, n = variance_of_alike(pairs)
    assert n == 10
    # All in one direction: half of ΔE00² is the variance of each of the two.
    assert variance == pytest.approx(1 / 2, rel=0.01)
    learnt = estimate_noise(pairs, AlikeColours(), AlikeColours())
    assert learnt.levels.reading_de00 == pytest.approx(math.sqrt(1 / 2), rel=0.01)
    assert learnt.levels.vessel_de00 == DEFAULT_NOISE.vessel_de00
    assert "reading (10 repeats)" in learnt.words
    assert estimate_noise(AlikeColours(), AlikeColours(), AlikeColours()).own == ()
