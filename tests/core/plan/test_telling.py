"""What a grid can tell: power and split plots against textbooks and another library."""

import math

import numpy as np
import pytest
from scipy import stats
from statsmodels.stats.power import TTestIndPower
from tests.small_study import cells_of, levels, small_plan, valued

from zesty_grid.core.plan.noise import DEFAULT_NOISE, AlikeColours, NoiseEstimate, estimate_noise, variance_of_alike
from zesty_grid.core.plan.planned_study import on_paper
from zesty_grid.core.plan.power import detectable_colour_standard_errors, detectable_standard_errors
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
    effects, _ = told(factors=factors, rows=["fibre"], columns=["dye", "ph"], replicates=r, replicate_vessels="apart")
    ph, fibre = effects["ph"], effects["fibre"]
    assert (ph.between, fibre.between) == ("dye", None)
    assert ph.degrees_of_freedom == a * r - a
    pot = math.sqrt(2 * (POT + OWN / b) / r)
    assert ph.smallest_difference_de00 == pytest.approx(detectable_colour_standard_errors(a * r - a) * pot, rel=1e-6)
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
    out = [
        c.key
        for c in cells_of(StudyPlan.model_validate(small_plan(controls=[])))
        if (c.levels["fibre"] == "wool") != (c.levels["mordant"] == "alum-hot")
    ]
    effects, _ = told(left_out=out)
    assert not effects["fibre"].can_be_told
    assert not effects["mordant"].can_be_told
    together = "Each fibre goes with its own mordant here: the two are told as one."
    assert together in effects["fibre"].warnings


def test_one_level_left_is_no_comparison():
    out = [c.key for c in cells_of(StudyPlan.model_validate(small_plan(controls=[]))) if c.levels["fibre"] == "wool"]
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


def test_where_each_pot_holds_a_single_piece_nothing_is_compared_within_pots():
    """A pot of its own for each piece: repeats apart, one fibre, and mordants dyed apart."""
    factors = [
        {"kind": "mordant", "levels": levels("none", "alum-hot")},
        {"kind": "dye", "levels": levels("dried-flowers", "dried-bark")},
        {"kind": "ph", "levels": valued("ph", 4, 9)},
    ]
    rows = {"rows": ["mordant"], "columns": ["dye", "ph"]}
    alone, telling = told(factors=factors, mordants_in_dye_bath="apart", **rows)
    assert telling.swatches == 8
    for effect in alone.values():
        assert effect.between is not None
        assert "within pots" not in effect.words
    fibres = [{"kind": "fibre", "levels": levels("wool", "silk")}, *factors]
    shared, _ = told(factors=fibres, rows=["fibre", "mordant"], columns=["dye", "ph"])
    assert shared["fibre"].between is None
    assert "within pots" in shared["fibre"].words


def test_a_level_that_never_shares_a_pot_with_the_others_is_named():
    """Iron in the pot makes a dye bath of its own; no iron and iron afterwards share theirs."""
    iron = [
        {"key": "i0", "label": "No iron", "value": 0},
        {"key": "i1", "label": "After", "value": 1, "route": "after-bath"},
        {"key": "i2", "label": "In the pot", "value": 2, "route": "pot"},
    ]
    factors = [*small_plan()["factors"][:3], {"kind": "iron", "levels": iron}]
    effects, _ = told(factors=factors, columns=["dye", "iron"], replicates=2)
    found = effects["iron"]
    assert found.between is None
    assert len(found.alone) == 1
    assert f"compared within pots, swatch beside swatch but for {found.alone[0]}" in found.words
    assert f"{found.alone[0]} never shares a pot with the others" in found.warnings[0]


@pytest.mark.parametrize("noise", [(1, 1, 1), (1, 0.3, 0.1), (1, 0.05, 0.05)])
@pytest.mark.parametrize("lies", [(1, 0, 0), (0.577, 0.577, 0.577), (0.707, 0.707, 0)])
def test_the_promise_holds_for_the_test_that_a_comparison_makes(noise, lies):
    """Simulated: two levels of n swatches, three t tests at a third of 5 %. The difference that is
    promised shows at least 8 times in 10, whichever way it lies and however the noise is spread."""
    n, rounds = 5, 4000
    rng = np.random.default_rng(1)
    promised = detectable_colour_standard_errors(2 * n - 2) * math.sqrt(2 / n)
    shift = np.array(lies) / np.linalg.norm(lies) * promised
    # Lightness, chroma and hue, each with its own noise.
    first, second = rng.normal(0, 1, (2, rounds, n, 3)) * noise
    found = stats.ttest_ind(first, second + shift, axis=1)
    shown = (found.pvalue < 0.05 / 3).any(axis=1).mean()
    assert shown >= 0.80 - 3 * math.sqrt(0.8 * 0.2 / rounds)


def test_the_noise_is_that_of_the_noisiest_direction():
    """When the depth alone varies, the mean over three directions would be √3 too small."""
    rng = np.random.default_rng(3)
    depth = rng.normal(0, 1, 4000)
    groups = tuple(((50.0, 0.0, 0.0), (50.0 + d, 0.0, 0.0)) for d in depth)
    only_depth, _ = variance_of_alike(AlikeColours(groups=groups))
    # ΔE00 of greys at L* 50 is ΔL* (Sharma et al. 2005); each of a pair brings half.
    assert only_depth == pytest.approx(0.5, rel=0.1)
    known = detectable_colour_standard_errors(None)
    assert known == pytest.approx(3.30, abs=0.01)
    assert detectable_colour_standard_errors(8) > known
