"""The budget against enumeration, Hadamard's bound and many random starts."""

import itertools
import math

import numpy as np
import pytest
from tests.small_study import cells_of, levels, small_plan, valued

from zesty_grid.core.noise.levels import USUAL, starting_at
from zesty_grid.core.plan.budget import Candidates, choose_cells, information_of, log_determinant
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.thinning import Budget, thin_out
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF

NOISE = starting_at(USUAL)


def two_level(factors: int) -> np.ndarray:
    rows = np.array(list(itertools.product((-1.0, 1.0), repeat=factors)))
    return np.hstack([np.ones((len(rows), 1)), rows])


def slow_information(of: Candidates, rows) -> np.ndarray:
    """X' V⁻¹ X written out, with V = I + ratio where two rows share a vessel."""
    x, vessel = of.coded[list(rows)], of.vessel[list(rows)]
    v = np.eye(len(x)) + of.variance_ratio * (vessel[:, None] == vessel[None, :])
    return x.T @ np.linalg.solve(v, x)


def test_information_is_that_of_generalised_least_squares():
    rng = np.random.default_rng(1)
    of = Candidates(rng.normal(size=(30, 4)), rng.integers(0, 5, 30), 1.7)
    rows = np.array([0, 3, 4, 7, 8, 12, 20, 29])
    assert information_of(of, rows) == pytest.approx(slow_information(of, rows), abs=1e-5)


def test_eight_runs_of_seven_factors_reach_hadamards_bound():
    # Plackett and Burman, Biometrika 33 (1946): 8 runs for 7 two-level factors, orthogonal, so
    # that det X'X = 8^8, which no design can exceed (Hadamard 1893).
    coded = two_level(7)
    of = Candidates(coded, np.arange(len(coded)), 0.0)
    chosen = choose_cells(of, 8, 128, 20, seed=1)
    x = coded[chosen]
    assert np.linalg.det(x.T @ x) == pytest.approx(8.0**8, rel=1e-9)


@pytest.mark.parametrize("ratio", [0.3, 1.0, 4.0])
def test_a_split_plot_reaches_the_bound_of_its_two_strata(ratio):
    # One factor of the pot and two within it, 8 swatches in 4 pots. By Hadamard's inequality the
    # determinant is at most the product of the diagonal: 8 for a factor within pots, and for the
    # pot's own columns Σ n/(1 + n ratio), which is largest for equal pots: 8/(1 + 2 ratio).
    within = np.array(list(itertools.product((-1.0, 1.0), repeat=2)))
    rows = [(1.0, pot, *pair) for pot in (-1.0, -1.0, 1.0, 1.0) for pair in within.tolist()]
    of = Candidates(np.array(rows), np.repeat(np.arange(4), 4), ratio)
    chosen = choose_cells(of, 8, 4, 20, seed=5)
    bound = (8 / (1 + 2 * ratio)) ** 2 * 8**2
    assert np.linalg.det(slow_information(of, chosen)) == pytest.approx(bound, rel=1e-6)


@pytest.mark.parametrize("ratio", [0.0, 0.5, 3.0])
@pytest.mark.parametrize(("number", "vessels"), [(5, 3), (6, 4), (6, 2)])
def test_small_cases_find_the_true_best(ratio, number, vessels):
    rng = np.random.default_rng(7)
    coded = two_level(3) + 0.15 * rng.normal(size=(8, 4))
    coded = np.vstack([coded, coded[:4] * 0.8])
    of = Candidates(coded, np.repeat(np.arange(4), 3), ratio)
    best = max(
        log_determinant(slow_information(of, rows))
        for rows in itertools.combinations(range(12), number)
        if len(set(of.vessel[list(rows)])) <= vessels
    )
    chosen = choose_cells(of, number, vessels, 40, seed=2)
    assert len(set(of.vessel[chosen])) <= vessels
    assert log_determinant(slow_information(of, chosen)) == pytest.approx(best, abs=1e-4)


@pytest.fixture(scope="module")
def middling() -> StudyPlan:
    factors = [
        {"kind": "fibre", "levels": levels("wool", "silk", "cotton", "linen")},
        {"kind": "mordant", "levels": levels("none", "alum-hot", "alum-acetate")},
        {"kind": "dye", "levels": levels("dried-flowers", "dried-bark", "dry-skins")},
        {"kind": "ph", "levels": valued("ph", 4, 7, 9)},
        {"kind": "iron", "levels": valued("iron", 0, 1)},
    ]
    return StudyPlan.model_validate(small_plan(factors=factors))


def test_as_good_as_the_best_of_fifty_random_starts(middling):
    rng = np.random.default_rng(3)
    coded = np.hstack([np.ones((216, 1)), rng.normal(size=(216, 9))])
    of = Candidates(coded, np.repeat(np.arange(9), 24), 1.6)
    own = log_determinant(information_of(of, choose_cells(of, 40, 6, 3, seed=1)))
    best = max(log_determinant(information_of(of, choose_cells(of, 40, 6, 1, seed=100 + i))) for i in range(50))
    assert math.exp((own - best) / coded.shape[1]) > 0.98


def test_a_budget_keeps_controls_and_stays_within_swatches_and_vessels(middling):
    cells = cells_of(middling)
    thinned = thin_out(middling, cells, STARTING_SHELF, Budget(swatches=60, vessels=6), NOISE)
    assert thinned.controls == 4
    assert thinned.cells == 56
    assert thinned.vessels <= 6
    after = cells_of(middling.model_copy(update={"left_out": thinned.left_out}))
    assert sum(cell.included for cell in after) == 60
    assert 0 < thinned.kept_information < 1
    assert thinned.efficiency > 0.9
    assert "left out" in thinned.lost[0]
    again = thin_out(middling, cells, STARTING_SHELF, Budget(swatches=60, vessels=6), NOISE)
    assert again == thinned


def test_the_whole_cross_within_budget_loses_nothing(middling):
    cells = cells_of(middling)
    thinned = thin_out(middling, cells, STARTING_SHELF, Budget(swatches=900, vessels=90), NOISE)
    assert thinned.left_out == ()
    assert thinned.efficiency == pytest.approx(1)
    assert thinned.lost == ()


@pytest.mark.parametrize(
    "budget",
    [
        Budget(swatches=8, vessels=9),
        Budget(swatches=60, vessels=2),
        Budget(swatches=60, vessels=4, interactions=(("dye", "ph"),)),
    ],
)
def test_a_budget_that_cannot_tell_the_effects_apart_is_refused(middling, budget):
    with pytest.raises(Refusal, match=r"cannot tell|could not be told"):
        thin_out(middling, cells_of(middling), STARTING_SHELF, budget, NOISE)


def test_a_chosen_interaction_is_kept(middling):
    budget = Budget(swatches=60, vessels=9, interactions=(("fibre", "mordant"),))
    thinned = thin_out(middling, cells_of(middling), STARTING_SHELF, budget, NOISE)
    kept = [c for c in cells_of(middling) if c.included and c.key not in thinned.left_out]
    pairs = {(c.levels["fibre"], c.levels.get("mordant")) for c in kept if "dye" in c.levels}
    assert len(pairs) == 12


def test_without_a_dye_no_vessel_stands_in_the_way():
    factors = [
        {"kind": "fibre", "levels": levels("wool", "silk", "cotton", "linen")},
        {"kind": "mordant", "levels": levels("none", "alum-hot", "alum-cold")},
    ]
    plan = StudyPlan.model_validate(small_plan(factors=factors, rows=["fibre"], columns=["mordant"], controls=[]))
    thinned = thin_out(plan, cells_of(plan), STARTING_SHELF, Budget(swatches=8, vessels=1), NOISE)
    assert (thinned.cells, thinned.vessels) == (8, 1)
