"""The model of noise: what lies beside what, its variances, and what repeats teach."""

import numpy as np
import pytest
from scipy.sparse import csr_matrix
from scipy.stats import ncx2
from statsmodels.regression.mixed_linear_model import MixedLM
from statsmodels.stats.power import FTestAnovaPower

from zesty_grid.core.noise.contrast import Weighing, error_with_more
from zesty_grid.core.noise.crossing import Done, cross
from zesty_grid.core.noise.detecting import chance, errors_to_show, size_range, stays_under, widened
from zesty_grid.core.noise.learning import learnt_from
from zesty_grid.core.noise.levels import USUAL, Component, Noise, pooled, starting_at
from zesty_grid.core.noise.reading_error import ReadingError, shared_by
from zesty_grid.core.noise.together import goes_with

EXACT = 1e-9
NOISE = starting_at(USUAL)


def dyed(rows, factors=("dye", "fibre")):
    """Rows of (levels…, pot, day)."""
    done = [
        Done(dict(zip(factors, row[: len(factors)], strict=True)), {"dye": row[-2]} if row[-2] else {}, row[-1])
        for row in rows
    ]
    return cross(done, factors)


def error_of(crossing, noise=NOISE, read=EXACT, factor=0, levels=(0, 1)):
    of = Weighing(crossing, noise, ReadingError(np.full(len(crossing.cell_of), read**2)))
    return of.error(csr_matrix(of.each(crossing.beside(factor, *levels)).mean(axis=0)))


def test_usual_values_and_their_weight_are_those_of_the_design():
    # Common practice, as the project's design has it.
    assert (USUAL.swatch_de00, USUAL.vessel_de00, USUAL.day_de00) == (0.8, 1.5, 1.0)
    assert [one.df for one in NOISE.components] == [4, 4, 4]


@pytest.mark.parametrize(("pots", "pieces", "variance"), [(1, 1, 2.89), (1, 4, 2.41), (2, 1, 1.445), (3, 2, 0.857)])
def test_a_difference_between_pots_has_the_textbook_variance(pots, pieces, variance):
    # Two levels of r pots with n pieces: 2 (σ²pot + σ²piece / n) / r (Montgomery, Design and Analysis of Experiments,
    # split plots): 2 (2.25 + 0.64) / 1 = 5.78 for one of each.
    crossing = dyed([(d, "wool", f"{d}{p}", "") for d in "ab" for p in range(pots) for _ in range(pieces)])
    assert error_of(crossing).sd ** 2 == pytest.approx(2 * variance, abs=0.002)


def test_within_a_pot_the_pot_falls_out_and_days_count_between_days():
    beside = dyed([(d, f, d, "") for d in "ab" for f in ("wool", "silk")])
    # Two pairs of pieces: 2 · 0.64 / 2.
    assert error_of(beside, factor=1).sd ** 2 == pytest.approx(0.64)
    days = dyed([("a", "wool", "A", "monday"), ("b", "wool", "B", "tuesday")])
    assert error_of(days).sd ** 2 == pytest.approx(2 * (0.64 + 2.25 + 1.0))
    assert error_of(days).parts == pytest.approx((1.28, 4.5, 2.0))


def test_zones_of_a_cloth_share_the_cloth_as_swatches_do():
    done = [Done({"leaf": leaf}, {"cloth": "K"}) for leaf in "xy"]
    assert error_of(cross(done, ("leaf",))).sd ** 2 == pytest.approx(2 * 0.64)
    apart = [Done({"leaf": leaf}, {"cloth": leaf}) for leaf in "xy"]
    assert error_of(cross(apart, ("leaf",))).sd ** 2 == pytest.approx(4 * 0.64)


def test_vessels_that_part_the_swatches_alike_are_one():
    done = [Done({"dye": d}, {"mordant": f"M{d}", "dye": f"D{d}"}) for d in "ab"]
    crossing = cross(done, ("dye",))
    assert list(crossing.vessel_of) == ["mordant and dye"]
    assert error_of(crossing).sd ** 2 == pytest.approx(2 * (0.64 + 2.25))


def test_one_pot_a_level_shows_about_seven_and_two_pots_about_five():
    many = dyed([(d, f, d, "") for d in "ab" for f in map(str, range(6))])
    error = error_of(many)
    assert errors_to_show(error.df) * error.sd == pytest.approx(7.4, abs=0.1)
    two = dyed([(d, f, f"{d}{p}", "") for d in "ab" for p in "12" for f in map(str, range(6))])
    assert errors_to_show() * error_of(two).sd == pytest.approx(5.2, abs=0.1)
    assert error_with_more((1, 1), 1) == pytest.approx(0.5**0.5)
    assert error_with_more((0, 2), 1) == pytest.approx((2 / 3) ** 0.5)


def test_the_detectable_difference_is_that_of_the_noncentral_distribution():
    # Johnson, Kotz, Balakrishnan: by scipy.stats, which has its own code for it.
    size = errors_to_show()
    assert ncx2.sf(ncx2.ppf(0.96, 3, 1e-12), 3, size**2) == pytest.approx(0.8, abs=1e-3)
    # One number in two groups of n: statsmodels' power of an F test at 4 % with as many degrees of freedom.
    n = 30
    effect = FTestAnovaPower().solve_power(nobs=2 * n, alpha=0.04, power=0.8, k_groups=2)
    assert errors_to_show(2 * n - 2, 1) * (2 / n) ** 0.5 == pytest.approx(2 * effect, rel=0.02)


@pytest.mark.parametrize("size", [0.3, 2.0, 2.88, 3.2, 9.0, 11.9, 12.1, 40.0])
@pytest.mark.parametrize("df", [None, 16.0, 48.0])
def test_a_range_begins_above_nothing_exactly_where_chance_is_below_four_in_a_hundred(size, df):
    low, high = size_range(size, 1.0, df)
    assert (low > 0) == (chance(size, 1.0, df) < 0.04)
    assert low <= size <= high
    assert high > stays_under(size, 1.0, df) > low
    if df is None and 1.6 < size < 12:
        for end, tail in ((low, 0.96), (high, 0.01)):
            assert end == 0 or ncx2.cdf(size**2, 3, end**2) == pytest.approx(tail, abs=1e-3)


def test_without_an_error_a_size_is_what_it_is():
    assert size_range(2.0, 0.0, None) == (2.0, 2.0)
    assert (chance(2.0, 0.0, None), chance(0.0, 0.0, None)) == (0.0, 1.0)
    assert widened(None) == 1.0
    assert widened(16.0) > widened(48.0) > 1


def test_what_lies_beside_what():
    plain = dyed([(d, f, d, "") for d in "abc" for f in ("wool", "silk")])
    alike = plain.beside(0, 0, 2)
    assert (alike.how, len(alike.pairs)) == ("alike", 2)
    assert [(one.factor, one.first, one.second) for one in plain.pairs_of_levels()] == [
        (0, 0, 1),
        (0, 0, 2),
        (0, 1, 2),
        (1, 0, 1),
    ]


def test_levels_that_always_go_together_are_one_and_a_third_lot_parts_them():
    factors = ("dip", "mordant", "vinegar")
    lots = [("1", "none", "no"), ("2", "alum", "yes")]
    crossing = cross([Done(dict(zip(factors, lot, strict=True)), {}) for lot in lots], factors)
    (one,) = crossing.pairs_of_levels()
    assert (one.how, one.factor) == ("together", 0)
    assert [(t.factor, t.from_levels, t.to_levels) for t in goes_with(crossing, one)] == [
        ("mordant", ("none",), ("alum",)),
        ("vinegar", ("no",), ("yes",)),
    ]
    three = cross([Done(dict(zip(factors, lot, strict=True)), {}) for lot in [*lots, ("2", "none", "yes")]], factors)
    hows = {(three.factors[one.factor], one.how) for one in three.pairs_of_levels()}
    assert hows == {("dip", "together"), ("mordant", "alike")}


def test_iron_after_only_in_one_dip_and_in_the_pot_only_in_the_other_goes_with_the_dip():
    rows = [("1", "no"), ("1", "after"), ("2", "no"), ("2", "pot")]
    crossing = cross([Done({"dip": dip, "iron": iron}, {}) for dip, iron in rows], ("iron", "dip"))
    how = {
        (crossing.levels[0][one.first], crossing.levels[0][one.second]): one.how
        for one in crossing.pairs_of_levels()
        if one.factor == 0
    }
    assert how == {("no", "after"): "alike", ("no", "pot"): "alike", ("after", "pot"): "together"}


def test_a_fraction_of_a_grid_is_told_by_the_sum_of_its_factors():
    # Half of 2⁴: no two of its cells differ in one factor alone.
    rows = [(a, b, c, d) for a in "01" for b in "01" for c in "01" for d in "01" if (a + b + c + d).count("1") % 2 == 0]
    factors = ("a", "b", "c", "d")
    crossing = cross([Done(dict(zip(factors, row, strict=True)), {}) for row in rows], factors)
    assert {one.how for one in crossing.pairs_of_levels()} == {"summed"}
    # Four cells of either level: 2 · 0.64 / 4.
    assert error_of(crossing).sd ** 2 == pytest.approx(0.32, rel=1e-6)


def test_levels_that_nothing_joins_are_never_beside_each_other():
    rows = [("a", "wool", "x"), ("b", "silk", "x"), ("a", "silk", "y"), ("b", "wool", "z")]
    crossing = cross([Done(dict(zip(("d", "f", "g"), row, strict=True)), {}) for row in rows], ("d", "f", "g"))
    assert crossing.beside(2, 1, 2).how in ("together", "never")


def test_without_repeats_nothing_is_learnt():
    crossing = dyed([(d, f, d, "") for d in "ab" for f in ("wool", "silk")])
    labs = np.random.default_rng(1).normal(50, 20, (4, 3))
    assert learnt_from(crossing, labs, ReadingError(np.full(4, 0.01)), NOISE) == NOISE


def repeated(rng, cells, pots, pieces, pot_sd, piece_sd):
    rows = [(str(c), "wool", f"{c}{p}", "") for c in range(cells) for p in range(pots) for _ in range(pieces)]
    crossing = dyed(rows)
    each = rng.normal(0, pot_sd, (cells * pots, 3)).repeat(pieces, axis=0)
    values = each + rng.normal(0, piece_sd, (len(rows), 3)) + 10 * np.arange(cells).repeat(pots * pieces)[:, None]
    return crossing, values


def test_with_a_weightless_start_repeats_give_the_components_of_statsmodels():
    rng = np.random.default_rng(5)
    crossing, values = repeated(rng, 6, 4, 3, 1.7, 0.6)
    number = values[:, :1]
    light = Noise(**{name: Component(sd_de00=1.0) for name in ("swatch", "vessel", "day")})
    # What starts with four degrees of freedom weighs little against 48 and 18; the reference has no start at all.
    found = learnt_from(crossing, number, ReadingError(np.zeros(len(number))), light)
    pots = crossing.vessel_of["dye"]
    theirs = MixedLM(number.ravel(), np.eye(6)[crossing.cell_of], groups=pots).fit(reml=True)
    mean = lambda v, df: (4 * 1.0 + df * v) / (4 + df)  # noqa: E731
    assert found.swatch.sd_de00**2 == pytest.approx(mean(theirs.scale, 48), rel=0.05)
    assert found.vessel.sd_de00**2 == pytest.approx(mean(float(theirs.cov_re[0, 0]), 18), rel=0.15)
    assert found.day == light.day
    assert found.swatch.repeats == pytest.approx(48, rel=0.1)


def test_every_repeat_sharpens_and_a_known_component_stays():
    rng = np.random.default_rng(3)
    crossing, values = repeated(rng, 5, 3, 2, 3.0, 1.6)
    read = ReadingError(np.full(len(values), 0.01))
    # Greys of little chroma, so that L*a*b* and ΔE00 do not part by much: what is asked is only that it grows.
    found = learnt_from(crossing, values + np.array([50, 0, 0]), read, NOISE)
    assert found.vessel.sd_de00 > 1.8
    assert found.swatch.sd_de00 > 1.0
    assert found.vessel.repeats > 5
    known = NOISE.model_copy(update={"vessel": Component(sd_de00=0.4, known=True)})
    assert learnt_from(crossing, values + np.array([50, 0, 0]), read, known).vessel == known.vessel


def test_lessons_of_studies_add_up_with_the_start_counting_once():
    lesson = Noise(swatch=Component(sd_de00=2.0, repeats=4), vessel=NOISE.vessel, day=NOISE.day)
    found = pooled(USUAL, [lesson, lesson])
    # Each says 8 · 4 − 4 · 0.64 of its own four degrees of freedom; the start 4 · 0.64 once.
    assert found.swatch.sd_de00**2 == pytest.approx((4 * 0.64 + 2 * (8 * 4 - 4 * 0.64)) / 12)
    assert found.swatch.repeats == 8
    assert pooled(USUAL, []) == NOISE


def test_what_readings_share_counts_only_between_those_that_do_not():
    crossing = dyed([("a", "wool", "P", ""), ("b", "wool", "P", "")])
    shared = shared_by([["one"], ["two"]], 1.0)
    of = Weighing(crossing, NOISE, ReadingError(np.zeros(2), (shared,)))
    assert of.error(of.each(crossing.beside(0, 0, 1))).reading == pytest.approx(2.0)
    assert shared_by([["one"], ["one"]], 1.0) is None
