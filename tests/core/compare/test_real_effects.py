"""Verdicts at three depths: on grids as people dye them, and on simulated ones whose truth is known."""

import sys
from pathlib import Path

import numpy as np
import pytest
from scipy.sparse import csr_matrix
from statsmodels.regression.mixed_linear_model import MixedLM
from statsmodels.stats.multitest import multipletests

sys.path.insert(0, str(Path(__file__).parent))
from made_up_grids import Design, apart, grid, lab, made
from tests.depth import depth

from zesty_grid.core.compare.compared import ComparedSwatch, CompareQuestion, KnownNoise
from zesty_grid.core.compare.directions import direction_words
from zesty_grid.core.compare.holm import holm, holm_in_groups
from zesty_grid.core.compare.real_effects import real_effects
from zesty_grid.core.compare.real_numbers import real_numbers
from zesty_grid.core.compare.third_lot import third_lot
from zesty_grid.core.compare.ways import which_keeps_more
from zesty_grid.core.compare.weighed import done_to, reading_error
from zesty_grid.core.noise.contrast import Weighing
from zesty_grid.core.noise.crossing import cross
from zesty_grid.core.noise.detecting import errors_to_show
from zesty_grid.core.noise.levels import USUAL, Component, Noise, starting_at
from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.refusal import Refusal

# Six fibres in two roots, one piece each, as a dyer sees them: polyester stays near white in both.
SIX = {
    ("wool", "madder"): (45, 30, 20),
    ("wool", "weld"): (60, 5, 50),
    ("silk", "madder"): (50, 28, 18),
    ("silk", "weld"): (65, 4, 48),
    ("blend", "madder"): (53, 24, 18),
    ("blend", "weld"): (67, 3, 42),
    ("cotton", "madder"): (72, 12, 10),
    ("cotton", "weld"): (78, 0, 22),
    ("linen", "madder"): (70, 11, 12),
    ("linen", "weld"): (76, 0, 20),
    ("polyester", "madder"): (88, 1, 3),
    ("polyester", "weld"): (89, 0, 5),
}


def six_fibres():
    return grid(SIX, pots=lambda levels: levels[1], factors=("fibre", "dye"), interactions=(("fibre", "dye"),))


def effect_of(found, first, second):
    return next(one for one in found.effects if {one.from_level, one.to_level} == {first, second})


def test_six_fibres_in_two_roots_one_piece_each():
    found = real_effects(six_fibres())
    one = effect_of(found, "wool", "polyester")
    sizes = [apart(SIX["wool", dye], SIX["polyester", dye]) for dye in ("madder", "weld")]
    assert one.verdicts.model_dump() == {"pieces": "different", "again": "different", "rule": "different"}
    # The mean of both, and as it is with either root: never one mean colour.
    assert min(sizes) < one.de00 < max(sizes)
    assert [at.de00 for at in one.at] == pytest.approx(sorted(sizes, reverse=True))
    assert one.low_de00 > 0.8 * min(sizes)
    assert (one.alike, one.to_near_white or one.from_near_white) == (False, True)
    assert one.depends_on.most_level == "madder"
    # Pieces of one pot: what fibres do differently in each root is no noise.
    assert one.shows_de00 == pytest.approx(3.2, abs=0.1)
    assert found.noise.swatch.sd_de00 == 0.8
    assert found.interactions[0].verdict == "different"
    assert one.rests_on.how == "usual"
    assert effect_of(found, "cotton", "linen").verdict == "untold"


def test_a_rule_needs_a_difference_with_each_level_of_the_others():
    one = effect_of(real_effects(six_fibres()), "madder", "weld")
    # A red and a yellow on wool; on polyester both stay white.
    assert (one.verdicts.again, one.verdicts.rule, one.alike) == ("different", "untold", False)


def test_one_pot_a_level_is_told_from_about_seven_on():
    for size, verdict in ((5, "untold"), (9, "different")):
        colours = {(d, str(f)): lab([f + size * (d == "b"), 0, 0]) for d in "ab" for f in range(6)}
        one = real_effects(grid(colours, pots=lambda levels: levels[0], factors=("dye", "fibre"))).effects[0]
        assert one.verdict == verdict
        assert one.shows_de00 == pytest.approx(7.4, abs=0.2)
        assert one.one_more_shows_de00 == pytest.approx(5.25, abs=0.2)
        assert (one.between, one.vessels, one.rests_on.what) == ("dye", (1, 1), "vessel")
        # These pieces differ in any case: reading says so.
        assert one.verdicts.pieces == "different"


def test_what_was_dyed_on_other_days_is_told_against_days_too():
    colours = {(d,): lab([9 * (d == "b"), 0, 0]) for d in "ab"}
    question = grid(colours, pots=lambda levels: levels[0], factors=("dye",))
    days = question.model_copy(
        update={"swatches": tuple(one.model_copy(update={"day": one.code}) for one in question.swatches)}
    )
    assert real_effects(days).effects[0].shows_de00 > real_effects(question).effects[0].shows_de00 + 1


def test_levels_that_always_go_together_are_told_as_one_and_parted_by_a_third_lot():
    # A second dip into the used bath, with alum in it and vinegar: which of them did it?
    colours = {("1", "none", "no"): lab([0, 0, 0]), ("2", "alum", "yes"): lab([-9, 6, 3])}
    found = real_effects(grid(colours, factors=("dip", "mordant", "vinegar")))
    (one,) = found.effects
    assert (one.factor, one.how, one.verdict) == ("dip", "together", "different")
    assert [(t.factor, t.to_levels) for t in one.together] == [("mordant", ("alum",)), ("vinegar", ("yes",))]
    cells = [
        Cell(key=f"{d};{m};{v}", levels={"dip": d, "mordant": m, "addition": v}, included=(d, m, v) in colours)
        for d in "12"
        for m in ("none", "alum")
        for v in ("no", "yes")
    ]
    named = one.model_copy(
        update={
            "together": tuple(
                t.model_copy(update={"factor": t.factor.replace("vinegar", "addition")}) for t in one.together
            )
        }
    )
    assert third_lot(named, cells) == ("2;none;no",)
    assert third_lot(named.model_copy(update={"together": ()}), cells) == ()


def test_which_of_two_ways_keeps_more_of_what_both_started_from():
    # Common practice: after the bath more of the first colour stays than in the pot.
    colours = {}
    for f, fibre in enumerate(("wool", "silk", "linen")):
        for iron, moved in (("none", 0), ("after", 7), ("pot", 18)):
            colours[iron, fibre] = lab([2 * f - moved, 0, 0])
    ways = which_keeps_more(grid(colours, factors=("iron", "fibre")), "iron", "none", "after", "pot")
    assert ways.combinations == 3
    assert ways.one_de00 == pytest.approx(7, abs=0.6)
    assert ways.further_de00 == pytest.approx(np.mean([at.other_de00 - at.one_de00 for at in ways.at]))
    assert ways.low_de00 < 11 < ways.high_de00
    assert ways.verdict == "different"
    back = which_keeps_more(grid(colours, factors=("iron", "fibre")), "iron", "none", "pot", "after")
    assert back.further_de00 == pytest.approx(-ways.further_de00)
    for missing in ("never", "none2"):
        assert (
            which_keeps_more(grid(colours, factors=("iron", "fibre")), "iron", missing, "pot", "after").combinations
            == 0
        )
    assert which_keeps_more(grid(colours, factors=("iron", "fibre")), "dye", "a", "b", "c").combinations == 0


def test_noise_that_is_known_stays_as_it_was_said():
    colours = {(d, str(f)): lab([f + 4 * (d == "b"), 0, 0]) for d in "ab" for f in range(4)}
    question = grid(colours, pots=lambda levels: levels[0], factors=("dye", "fibre"))
    assert real_effects(question).effects[0].verdict == "untold"
    known = question.model_copy(update={"known_noise": KnownNoise(vessel_de00=0.4, words="from the spring")})
    found = real_effects(known)
    assert found.effects[0].verdict == "different"
    assert (found.noise.vessel.sd_de00, found.noise.vessel.known) == (0.4, True)
    loose = question.model_copy(update={"known_noise": KnownNoise(vessel_de00=6.0)})
    assert (real_effects(loose).effects[0].verdict, real_effects(loose).effects[0].rests_on.how) == ("untold", "known")


def test_what_other_studies_taught_is_where_it_begins():
    colours = {(d,): lab([5 * (d == "b"), 0, 0]) for d in "ab"}
    question = grid(colours, pots=lambda levels: levels[0], factors=("dye",))
    taught = Noise(
        swatch=Component(sd_de00=0.3, repeats=20), vessel=Component(sd_de00=0.5, repeats=20), day=Component(sd_de00=1)
    )
    one = real_effects(question.model_copy(update={"noise": taught})).effects[0]
    assert (one.verdict, one.rests_on.how, one.df is None) == ("different", "learnt", False)


def test_the_same_is_said_where_many_pots_say_so():
    rng = np.random.default_rng(4)
    taught = Noise(
        swatch=Component(sd_de00=0.2, repeats=40), vessel=Component(sd_de00=0.2, repeats=40), day=Component(sd_de00=1)
    )
    swatches = [
        ComparedSwatch(
            code=f"{d}{p}",
            levels={"dye": d},
            vessels={"dye": f"{d}{p}"},
            lab=lab(rng.normal(0, 0.2, 3)),
            uncertainty_de00=0.1,
        )
        for d in "ab"
        for p in range(8)
    ]
    one = real_effects(CompareQuestion(swatches=tuple(swatches), factors=("dye",), noise=taught)).effects[0]
    assert one.verdict == "same"


def test_levels_are_compared_like_with_like():
    # The second mordant is on dark cloth only: no lighter cloth enters the comparison with it.
    colours = {("A", "dark"): lab([0, 0, 0]), ("B", "dark"): lab([6, 0, 0]), ("A", "light"): lab([20, 0, 0])}
    found = real_effects(grid(colours, factors=("mordant", "cloth")))
    assert effect_of(found, "A", "B").de00 == pytest.approx(apart(colours["A", "dark"], colours["B", "dark"]))
    assert effect_of(found, "A", "B").combinations == 1


def test_a_swatch_without_a_level_is_refused():
    question = six_fibres()
    first = question.swatches[0].model_copy(update={"levels": {"dye": "weld"}})
    with pytest.raises(Refusal, match="has no level of fibre"):
        real_effects(question.model_copy(update={"swatches": (first, *question.swatches[1:])}))


def test_a_reading_that_is_little_worth_counts_little():
    near, far = lab([0, 0, 0]), lab([25, 0, 0])
    swatches = [ComparedSwatch(code=f"a{k}", levels={"dye": "a"}, lab=near) for k in range(3)]
    swatches += [ComparedSwatch(code="b", levels={"dye": "b"}, lab=near)]
    bad = ComparedSwatch(code="x", levels={"dye": "b"}, lab=far)
    trusted = CompareQuestion(swatches=(*swatches, bad), factors=("dye",))
    doubted = CompareQuestion(swatches=(*swatches, bad.model_copy(update={"uncertainty_de00": 30.0})), factors=("dye",))
    assert real_effects(doubted).effects[0].de00 < real_effects(trusted).effects[0].de00 / 4


def test_readings_of_two_cameras_are_told_against_what_cameras_differ_by():
    colours = {(d,): lab([3 * (d == "b"), 0, 0]) for d in "ab"}
    question = grid(colours, factors=("dye",))
    own = [
        one.model_copy(update={"own_de00": 0.2, "photos": (("phone", "light", "photo"),)}) for one in question.swatches
    ]
    other = [own[0], own[1].model_copy(update={"photos": (("tablet", "lamp", "other"),)})]
    one_photo, two_cameras = (
        real_effects(question.model_copy(update={"swatches": tuple(some)})).effects[0] for some in (own, other)
    )
    assert (one_photo.verdicts.pieces, two_cameras.verdicts.pieces) == ("different", "untold")


def test_where_nothing_varies_there_is_nothing_to_say_and_it_says_so():
    same = [ComparedSwatch(code=str(i), levels={"iron": "0"}, lab=(50, 0, 0)) for i in range(2)]
    found = real_effects(CompareQuestion(swatches=tuple(same), factors=("iron",), interactions=(("iron", "fibre"),)))
    assert (found.effects, found.interactions, found.constant) == ((), (), ("iron",))


def test_balanced_designs_with_repeats_agree_with_statsmodels():
    """Three dyes in four pots each, three pieces a pot: means, and their errors where the start weighs nothing."""
    rng = np.random.default_rng(8)
    swatches, rows = [], []
    for d in range(3):
        for p in range(4):
            of_pot = rng.normal(0, 1.5, 3)
            for k in range(3):
                change = of_pot + rng.normal(0, 0.8, 3) + [3 * d, 0, 0]
                rows.append((d, f"{d}{p}", change[0]))
                swatches.append(
                    ComparedSwatch(
                        code=f"{d}{p}{k}",
                        levels={"dye": str(d)},
                        vessels={"dye": f"{d}{p}"},
                        lab=lab(change),
                        uncertainty_de00=0,
                    )
                )
    found = real_effects(CompareQuestion(swatches=tuple(swatches), factors=("dye",)))
    groups = np.array([pot for _, pot, _ in rows])
    means = [np.mean([x for d, _, x in rows if d == level]) for level in range(3)]
    for one in found.effects:
        lightness = one.directions[0].change_de00
        assert abs(lightness) == pytest.approx(abs(means[int(one.to_level)] - means[int(one.from_level)]), rel=0.08)
    theirs = MixedLM(np.array([x for *_, x in rows]), np.eye(3)[[d for d, *_ in rows]], groups=groups).fit(reml=True)
    # Theirs has the noise of lightness alone, ours of three directions and a start: near, not the same.
    error = found.effects[0].shows_de00 / 3.5
    assert error == pytest.approx(float(np.sqrt(2)) * theirs.bse_fe[0], rel=0.4)


def test_holm_is_that_of_statsmodels():
    chances = [0.01, 0.04, 0.03, 0.005, 0.5]
    assert holm(chances) == pytest.approx(multipletests(chances, method="holm")[1])
    assert holm([]) == []


def test_a_question_with_two_answers_does_not_pay_for_one_with_many():
    found = holm_in_groups([0.01, *([0.5] * 100)], ["iron", *(["cloth"] * 100)])
    assert found[0] == pytest.approx(0.02)
    # Within one group it is Holm's own.
    assert holm_in_groups([0.01, 0.04], ["iron", "iron"]) == pytest.approx([0.02, 0.04])


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
    question, _ = made(rng, Design(pots=3, fibres=4))
    values = {one.code: 0.5 + 2.0 * (one.levels["fibre"] == "f3") + rng.normal(0, 0.1) for one in question.swatches}
    found = real_numbers(question.swatches, values, question.factors, 0.5, {})
    by = {(one.factor, one.from_level, one.to_level): one for one in found}
    assert by["fibre", "f0", "f3"].verdict == "different"
    assert by["fibre", "f0", "f3"].change == pytest.approx(2, abs=0.2)
    assert by["fibre", "f0", "f1"].verdict in ("same", "untold")
    assert real_numbers(question.swatches[:2], values, question.factors, 0.5, {}) == []


# One to twelve pots, one piece a cell to four, with and without repeats, crossed, nested, prints.
DESIGNS = [
    Design(),
    Design(pieces=2),
    Design(fibres=6),
    Design(pots=2, fibres=2),
    Design(pots=2, pieces=4),
    Design(levels=3, pots=2, fibres=2),
    Design(pots=4, fibres=2, nested=True),
    Design(pots=3, printed=True),
    Design(pots=6),
    Design(levels=4, pots=3, pieces=2),
]
RUNS = depth(4, 300)


def counted(noise, effect, depends, runs=RUNS):
    """Over all designs: how often the second dye is called different, how often its range holds the truth, and the
    share of what was promised that the effect is."""
    rng = np.random.default_rng(round(100 * noise + 10 * effect + depends))
    said, inside = [], []
    for design in DESIGNS:
        for _ in range(runs):
            question, size = made(rng, design, effect, depends if design.fibres > 1 else 0.0, noise)
            one = next(e for e in real_effects(question).effects if (e.from_level, e.to_level) == ("d0", "d1"))
            said.append(one.verdict == "different")
            inside.append(one.low_de00 <= size + 1e-6 and size <= one.high_de00 + 1e-6)
    return float(np.mean(said)), float(np.mean(inside))


# Two standard errors of a share of so many runs.
ROOM = 2 * (0.06 * 0.94 / (RUNS * len(DESIGNS))) ** 0.5


@pytest.mark.slow
@pytest.mark.parametrize("noise", [0.5, 1.0])
@pytest.mark.parametrize("depends", [0.0, 1.5, 4.0])
def test_where_nothing_differs_it_is_said_at_most_six_times_in_a_hundred(noise, depends):
    said, inside = counted(noise, 0.0, depends)
    assert said <= 0.06 + ROOM
    assert inside >= 0.90


@pytest.mark.slow
@pytest.mark.parametrize("effect", [2.0, 4.0, 8.0])
@pytest.mark.parametrize("depends", [0.0, 1.5, 4.0])
def test_ranges_hold_the_truth_where_noise_is_as_usual(effect, depends):
    _, inside = counted(1.0, effect, depends)
    assert 0.90 - ROOM <= inside <= 0.97 + ROOM


def promised_by_usual_values(question):
    """As Tell does, before there is a colour."""
    crossing = cross([done_to(one) for one in question.swatches], question.factors)
    of = Weighing(crossing, starting_at(USUAL), reading_error(question.swatches))
    return errors_to_show() * of.error(csr_matrix(of.each(crossing.beside(0, 0, 1)).mean(axis=0))).sd


@pytest.mark.slow
@pytest.mark.parametrize("design", DESIGNS, ids=str)
def test_what_is_promised_is_found_as_often_as_it_is_said(design):
    rng = np.random.default_rng(3)
    runs = depth(16, 500)
    promised = promised_by_usual_values(made(rng, design)[0])
    found = []
    for _ in range(runs):
        one = real_effects(made(rng, design, promised)[0]).effects[0]
        found.append(one.verdict == "different")
    room = 2 * (0.8 * 0.2 / runs) ** 0.5
    assert 0.75 - room <= np.mean(found) <= 0.90 + room


@pytest.mark.slow
def test_large_ones_are_found_nearly_always():
    said, _ = counted(1.0, 12.0, 1.5)
    assert said >= 0.98
