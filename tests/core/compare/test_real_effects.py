"""Verdicts on simulated studies whose truth is known, and in the words of Tell."""

import sys
from pathlib import Path

import numpy as np
import pytest
from statsmodels.stats.multitest import multipletests
from statsmodels.stats.weightstats import DescrStatsW

sys.path.insert(0, str(Path(__file__).parent))
from split_plots import MIDDLE, TO_LAB, split_plot, strip_plot
from tests.depth import depth

from zesty_grid.core.compare.compared import ComparedSwatch, CompareQuestion, KnownNoise
from zesty_grid.core.compare.directions import direction_words
from zesty_grid.core.compare.equivalence import Estimate, equivalence_p, furthest_de00
from zesty_grid.core.compare.holm import holm, holm_in_groups
from zesty_grid.core.compare.real_effects import real_effects
from zesty_grid.core.compare.real_numbers import real_numbers
from zesty_grid.core.plan.power import detectable_colour_standard_errors
from zesty_grid.core.refusal import Refusal

pytestmark = pytest.mark.slow

RUNS = depth(100, 400)


def iron(question):
    return real_effects(question).effects[0]


def verdicts(effect, runs=RUNS, seed=7, **noise):
    rng = np.random.default_rng(seed)
    alone = {"factors": ("iron",)}
    found = [iron(split_plot(rng, effect, **noise).model_copy(update=alone)) for _ in range(runs)]
    return found, [one.verdict for one in found]


def foretold_de00(pots, fibres, pot, swatch):
    """What Tell foretells for a factor that acts between pots."""
    error = np.sqrt(2 * (pot**2 + swatch**2 / fibres) / pots)
    return detectable_colour_standard_errors(2 * (pots - 1)) * error


def test_where_nothing_is_different_is_said_rarely():
    # Three pots a level, pot noise as large as swatch noise: at most 6 in 100.
    _, said = verdicts((0, 0, 0))
    assert said.count("different") <= 0.06 * RUNS


def test_what_tell_foretells_is_found_as_often_as_it_says():
    size = foretold_de00(3, 4, 1.0, 1.0)
    found, said = verdicts(np.ones(3) * size / np.sqrt(3))
    assert 0.73 * RUNS <= said.count("different") <= 0.87 * RUNS
    inside = [one.low_de00 <= size <= one.high_de00 for one in found]
    assert np.mean(inside) >= 0.93


def test_the_same_is_said_wrongly_at_most_six_times_in_a_hundred():
    # Really 1 ΔE00 apart, where it is hardest: all in one direction.
    for effect in ((1, 0, 0), (0.7, 0.72, 0)):
        _, said = verdicts(effect, pots=6, pot=0.25, swatch=0.2)
        assert said.count("same") <= 0.06 * RUNS


def test_the_same_is_said_where_it_is_the_same_and_there_are_pots_enough():
    _, said = verdicts((0.1, 0, 0), runs=60, pots=10, pot=0.2, swatch=0.2)
    assert said.count("same") > 45


def test_sixteen_small_differences_are_one_certain_effect():
    # Each pair alone lies within what one swatch scatters; all of them together do not.
    rng = np.random.default_rng(2)
    swatches = []
    for pair in range(16):
        for level in range(2):
            change = np.add(rng.normal(0, 1.2, 3), [2.5 * level, 0, 0])
            swatches.append(
                ComparedSwatch(
                    code=f"{pair}{level}",
                    levels={"iron": str(level), "cloth": str(pair)},
                    lab=tuple(MIDDLE + TO_LAB @ np.add(change, [pair, 0, 0])),
                )
            )
    question = CompareQuestion(swatches=tuple(swatches), factors=("iron", "cloth"))
    one = iron(question)
    assert one.verdict == "different"
    assert one.low_de00 < 2.5 < one.high_de00
    assert one.p < 1e-3


def test_one_pot_a_level_is_no_verdict_in_the_words_of_tell():
    question = split_plot(np.random.default_rng(1), (9, 0, 0), pots=1)
    one = iron(question)
    assert one.verdict == "untold"
    assert one.p is None
    assert "0 and 1 have a single pot each: the pot and the iron cannot be told apart." in one.why
    fibre = real_effects(question).effects[1]
    assert not fibre.why
    assert fibre.error == "within vessels"


def test_noise_that_is_known_may_serve_and_is_named():
    question = split_plot(np.random.default_rng(1), (9, 0, 0), pots=1)
    known = question.model_copy(update={"known_noise": KnownNoise(vessel_de00=1.0, words="from last year's study")})
    found = real_effects(known)
    assert found.effects[0].verdict == "different"
    assert found.noise.vessel == 1.0
    assert any("last year's study" in words for words in found.warnings)
    # And it is not different where pots are known to differ as much as that.
    loose = known.model_copy(update={"known_noise": KnownNoise(vessel_de00=6.0)})
    assert iron(loose).verdict == "untold"


def test_factors_of_crossed_pots_are_each_tested_between_their_own():
    found = real_effects(strip_plot(np.random.default_rng(3)))
    assert [one.error for one in found.effects] == ["between mordant vessels", "between dye vessels"]
    assert set(found.noise.vessels) == {"mordant", "dye"}


def test_few_baths_on_one_side_make_no_certain_effect():
    # Iron baths differ as much as swatches do, and only pieces with iron were in one: two levels,
    # three baths, no effect. Said at most 6 times in 100.
    rng = np.random.default_rng(2)
    said = 0
    runs = depth(50, 150)
    for _ in range(runs):
        baths = rng.normal(0, 1, (3, 3))
        swatches = [
            ComparedSwatch(
                code=f"{i}{iron}",
                levels={"iron": iron, "fibre": str(i % 4)},
                vessels={"iron": f"F{i % 3}"} if iron == "yes" else {},
                lab=tuple(MIDDLE + TO_LAB @ (rng.normal(0, 1, 3) + baths[i % 3] * (iron == "yes"))),
            )
            for i in range(12)
            for iron in ("no", "yes")
        ]
        one = iron_of(swatches)
        assert one.df <= 2
        said += one.verdict == "different"
    assert said <= 0.06 * runs


def test_noise_that_is_learnt_never_counts_as_known():
    # Little noise, and readings that are thought less sure than they are: components fall below
    # nothing, and the degrees of freedom stay those of the swatches and the pots.
    for seed in range(depth(8, 25)):
        question = strip_plot(np.random.default_rng(seed), sd=(0.05, 0.05, 0.2))
        doubted = [one.model_copy(update={"uncertainty_de00": 0.8}) for one in question.swatches]
        lost = question.model_copy(
            update={"swatches": tuple(doubted[seed % 5 :]), "interactions": (("mordant", "dye"),)}
        )
        found = real_effects(lost)
        assert all(one.df is not None and one.df <= 4 for one in found.effects)
        assert found.interactions[0].df is not None


def iron_of(swatches):
    return iron(CompareQuestion(swatches=tuple(swatches), factors=("iron", "fibre")))


def test_what_one_does_depends_on_the_other():
    rng = np.random.default_rng(4)
    swatches = []
    for one in split_plot(rng, (3, 0, 0), pot=0.3, swatch=0.3).swatches:
        more = TO_LAB @ [8.0, 0, 0] if one.levels == {"iron": "1", "fibre": "3"} else np.zeros(3)
        swatches.append(one.model_copy(update={"lab": tuple(np.array(one.lab) + more)}))
    question = CompareQuestion(
        swatches=tuple(swatches),
        factors=("iron", "fibre"),
        interactions=(("iron", "fibre"),),
        words={"fibre=3": "Wool", "iron": "Iron", "fibre": "Fibre", "iron=1": "Iron 1 %"},
    )
    found = real_effects(question)
    assert found.interactions[0].verdict == "different"
    assert found.interactions[0].largest_de00 == pytest.approx(8, abs=1.5)
    most = max(found.effects[0].at, key=lambda at: at.de00)
    assert (most.factor, most.level) == ("fibre", "3")
    said = next(words for words in found.words if words.startswith("Iron 1 % is lighter than 0"))
    assert "most with Wool" in said


def test_where_nothing_acts_together_it_is_said_rarely():
    rng = np.random.default_rng(9)
    said = 0
    runs = depth(30, 100)
    for _ in range(runs):
        question = split_plot(rng).model_copy(update={"interactions": (("iron", "fibre"),)})
        said += real_effects(question).interactions[0].verdict == "different"
    assert said <= 0.1 * runs


def test_pairs_with_one_pot_each_cannot_be_told_from_the_pot():
    rng = np.random.default_rng(6)
    swatches = []
    for ph in "479":
        for heat in ("cool", "hot"):
            of_pot = rng.normal(0, 1, 3)
            for k in range(3):
                lab = MIDDLE + TO_LAB @ (of_pot + rng.normal(0, 0.5, 3))
                swatches.append(
                    ComparedSwatch(
                        code=f"{ph}{heat}{k}",
                        levels={"ph": ph, "heat": heat, "fibre": str(k)},
                        vessels={"dye": f"{ph}{heat}"},
                        lab=tuple(lab),
                    )
                )
    question = CompareQuestion(
        swatches=tuple(swatches), factors=("ph", "heat", "fibre"), interactions=(("ph", "heat"),)
    )
    found = real_effects(question)
    assert found.interactions[0].verdict == "untold"
    assert "single pot" in found.interactions[0].why
    # Each of them alone is compared over the levels of the other.
    assert found.effects[0].p is not None


def test_levels_are_compared_like_with_like():
    # The second mordant is on dark cloth only: no lighter cloth enters the comparison with it.
    rng = np.random.default_rng(8)
    swatches = []
    for cloth, mordants in (("dark", "AB"), ("light", "A")):
        for mordant in mordants:
            for k in range(4):
                change = [20 * (cloth == "light") + (mordant == "B"), 0, 0]
                lab = MIDDLE + TO_LAB @ (change + rng.normal(0, 0.05, 3))
                swatches.append(
                    ComparedSwatch(
                        code=f"{cloth}{mordant}{k}", levels={"mordant": mordant, "cloth": cloth}, lab=tuple(lab)
                    )
                )
    question = CompareQuestion(
        swatches=tuple(swatches), factors=("mordant", "cloth"), interactions=(("mordant", "cloth"),)
    )
    assert iron(question).de00 == pytest.approx(1, abs=0.15)


def test_a_swatch_without_a_level_is_refused():
    question = split_plot(np.random.default_rng(1))
    first = question.swatches[0].model_copy(update={"levels": {"iron": "0"}})
    with pytest.raises(Refusal, match="has no level of fibre"):
        real_effects(question.model_copy(update={"swatches": (first, *question.swatches[1:])}))


def test_a_reading_that_is_little_worth_counts_little():
    rng = np.random.default_rng(3)
    question = split_plot(rng, pot=0.3, swatch=0.3)
    bad = question.swatches[-1]
    far = tuple(np.array(bad.lab) + TO_LAB @ [25.0, 0, 0])
    trusted = (*question.swatches[:-1], bad.model_copy(update={"lab": far}))
    doubted = (*question.swatches[:-1], bad.model_copy(update={"lab": far, "uncertainty_de00": 30.0}))
    with_trust = iron(question.model_copy(update={"swatches": trusted}))
    with_doubt = iron(question.model_copy(update={"swatches": doubted}))
    assert with_doubt.de00 < with_trust.de00 / 2


def test_holm_is_that_of_statsmodels():
    chances = [0.01, 0.04, 0.03, 0.005, 0.5]
    assert holm(chances) == pytest.approx(multipletests(chances, method="holm")[1])
    assert holm([]) == []


def test_a_question_with_two_answers_does_not_pay_for_one_with_many():
    found = holm_in_groups([0.01, *([0.5] * 100)], ["iron", *(["cloth"] * 100)])
    assert found[0] == pytest.approx(0.02)
    # Within one group it is Holm's own.
    assert holm_in_groups([0.01, 0.04], ["iron", "iron"]) == pytest.approx([0.02, 0.04])


def test_equivalence_is_that_of_statsmodels():
    # Schuirmann's two one-sided tests on a paired sample, margins ±0.5.
    rng = np.random.default_rng(11)
    sample = rng.normal(0.1, 0.4, 12)
    theirs = DescrStatsW(sample).ttost_mean(-0.5, 0.5)[0]
    error = sample.std(ddof=1) / np.sqrt(len(sample))
    assert equivalence_p(Estimate(sample.mean(), error, 11), 0.5) == pytest.approx(theirs)
    assert [equivalence_p(Estimate(value, 0.0, 11), 0.5) for value in (-0.4, 0.6)] == [0, 1]


def test_the_box_of_limits_is_no_nearer_than_any_direction():
    found = furthest_de00([Estimate(0.3, 0.1, 8), Estimate(0.1, 0.2, 8), Estimate(0, 0.1, None)])
    # t(0.95, 8) = 1.860, z = 1.645, from tables.
    assert found == pytest.approx(np.sqrt(0.486**2 + 0.472**2 + 0.1645**2), abs=1e-3)


@pytest.mark.parametrize(
    ("first", "second", "words"),
    [
        ((55, 15, 35), (60, 20, 40), ("lighter", "clearer", "redder")),
        ((55, 15, 35), (50, 5, 38), ("darker", "clearer", "yellower")),
        ((55, -5, 40), (55, -15, 30), ("darker", "duller", "greener")),
        ((40, -20, 0), (30, -5, -10), ("darker", "duller", "bluer")),
        ((40, 10, -30), (40, 20, -25), ("darker", "clearer", "redder")),
        ((40, 1, 1), (45, 2, -2), ("lighter", "clearer", "of another hue")),
    ],
)
def test_directions_in_words(first, second, words):
    assert direction_words(np.array(first, float), np.array(second, float)) == words


def test_numbers_are_judged_as_colours_are():
    rng = np.random.default_rng(5)
    question = split_plot(rng)
    values = {one.code: 0.5 + 2.0 * (one.levels["fibre"] == "3") + rng.normal(0, 0.1) for one in question.swatches}
    found = real_numbers(question.swatches, values, question.factors, 0.5, {}, {})
    by = {(one.factor, one.from_level, one.to_level): one for one in found}
    assert by["fibre", "0", "3"].verdict == "different"
    assert by["fibre", "0", "3"].change == pytest.approx(2, abs=0.2)
    assert by["fibre", "0", "1"].verdict == "same"
    assert by["iron", "0", "1"].error == "between dye vessels"


def test_where_nothing_varies_there_is_nothing_to_say_and_it_says_so():
    question = split_plot(np.random.default_rng(1))
    same = [one.model_copy(update={"levels": {"iron": "0"}}) for one in question.swatches]
    alone = CompareQuestion(swatches=tuple(same), factors=("iron",), interactions=(("iron", "fibre"),))
    found = real_effects(alone)
    assert found.effects == ()
    assert found.interactions == ()
    assert any("nothing to compare" in words for words in found.warnings)
    assert any("does not vary" in words for words in found.warnings)
    unknown = CompareQuestion(swatches=tuple(same), factors=("no such factor",))
    assert real_effects(unknown).effects == ()


def test_two_swatches_give_no_verdict():
    pair = [ComparedSwatch(code=str(i), levels={"iron": str(i)}, lab=(50 + 10 * i, 0, 0)) for i in (0, 1)]
    one = iron(CompareQuestion(swatches=tuple(pair), factors=("iron",)))
    assert one.verdict == "untold"
    assert "Nothing is left over" in one.why
    assert one.de00 > 5
