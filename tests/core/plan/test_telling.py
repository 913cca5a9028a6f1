"""What a grid can tell before it is dyed: by the model of noise that Compare has, on whole plans."""

import math

import pytest
from tests.small_study import cells_of, levels, small_plan, valued

from zesty_grid.core.noise.detecting import errors_to_show
from zesty_grid.core.noise.levels import USUAL, NoiseLevels, starting_at
from zesty_grid.core.plan.planned_study import on_paper
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.telling import promises, what_it_can_tell
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.core.words.telling import with_words

NOISE = starting_at(USUAL)
OWN = USUAL.swatch_de00**2 + USUAL.reading_de00**2
POT = USUAL.vessel_de00**2
KNOWN = errors_to_show()


def told(start=USUAL, **changes):
    plan = StudyPlan.model_validate(small_plan(controls=[], **changes))
    study = on_paper(plan, STARTING_SHELF)
    baths = [(vessel.bath, vessel.swatches) for vessel in vessels_of(study)]
    telling = with_words(what_it_can_tell(study, baths, starting_at(start)))
    return {effect.factor: effect for effect in telling.effects}, telling


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
    assert ph.smallest_difference_de00 == pytest.approx(KNOWN * math.sqrt(2 * (POT + OWN / b) / r), rel=1e-6)
    assert fibre.smallest_difference_de00 == pytest.approx(KNOWN * math.sqrt(2 * OWN / (r * a)), rel=1e-6)


def test_one_pot_a_level_is_told_against_how_pots_usually_differ():
    effects, telling = told()
    ph = effects["ph"]
    assert [count.vessels for count in ph.levels] == [1, 1]
    # As nearly everybody dyes: from about seven on, and with a second pot of each from about five.
    assert ph.smallest_difference_de00 == pytest.approx(7.4, abs=0.1)
    assert ph.one_more_shows_de00 == pytest.approx(ph.smallest_difference_de00 / math.sqrt(2))
    assert ph.words == (
        f"Dye pH: shows differences from {ph.smallest_difference_de00:.1f} ΔE00 on, 8 times in 10; "
        f"with one more pot of each from {ph.one_more_shows_de00:.1f}."
    )
    assert effects["iron"].between == "iron"
    apart, _ = told(replicates=2, replicate_vessels="apart")
    assert [count.vessels for count in apart["ph"].levels] == [2, 2]
    assert apart["ph"].smallest_difference_de00 == pytest.approx(ph.one_more_shows_de00, rel=0.02)
    said = {(one.factor, one.from_level, one.to_level): one.shows_de00 for one in promises(telling)}
    assert said["ph", *(count.level for count in ph.levels)] == ph.smallest_difference_de00


def test_the_researchers_own_figures_are_where_it_starts():
    own = NoiseLevels(swatch_de00=0.1, vessel_de00=0.5, day_de00=1, reading_de00=0.1)
    effects, telling = told(own, noise=own.model_dump())
    assert effects["ph"].smallest_difference_de00 < 2.6
    assert telling.start == own


def test_levels_that_always_go_together_are_told_as_one():
    out = [
        c.key
        for c in cells_of(StudyPlan.model_validate(small_plan(controls=[])))
        if (c.levels["fibre"] == "wool") != (c.levels["mordant"] == "alum-hot")
    ]
    effects, _ = told(left_out=out)
    assert [one.how for one in effects["fibre"].pairs] == ["together"]
    assert "told as one" in effects["fibre"].words
    # Said once: not again as mordants.
    assert "mordant" not in effects


def test_one_level_left_is_no_comparison():
    out = [c.key for c in cells_of(StudyPlan.model_validate(small_plan(controls=[]))) if c.levels["fibre"] == "wool"]
    effects, _ = told(left_out=out)
    assert "fibre" not in effects


def test_a_level_that_never_shares_a_pot_is_told_against_pots():
    """Iron in the pot makes a dye bath of its own; no iron and iron afterwards share theirs."""
    iron = [
        {"key": "i0", "label": "No iron", "value": 0},
        {"key": "i1", "label": "After", "value": 1, "route": "after-bath"},
        {"key": "i2", "label": "In the pot", "value": 2, "route": "pot"},
    ]
    factors = [*small_plan()["factors"][:3], {"kind": "iron", "levels": iron}]
    effects, _ = told(factors=factors, columns=["dye", "iron"], replicates=2)
    shows = {(one.from_level, one.to_level): one.shows_de00 for one in effects["iron"].pairs}
    # After the bath the iron bath comes between; in the pot the dye pot; the two differ by both.
    assert shows["i0", "i1"] < shows["i1", "i2"]
    assert effects["iron"].smallest_difference_de00 == max(shows.values())
    assert f"from {min(shows.values()):.1f} ΔE00 on for some levels" in effects["iron"].words
