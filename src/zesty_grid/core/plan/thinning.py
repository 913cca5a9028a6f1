"""A plan cut down to a budget of swatches and dye vessels."""

from itertools import combinations
from typing import Annotated

import numpy as np
from pydantic import Field

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.noise.levels import USUAL, Noise
from zesty_grid.core.plan.baths import baths_of
from zesty_grid.core.plan.budget import Candidates, choose_cells, information_of, log_determinant
from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.factors import FactorKind
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.telling import lower_name
from zesty_grid.core.plan.zones_on_cloth import has_zones
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.core.shelf.shelf import Shelf

# Small cases are started often enough to find the best; large ones find much the same each time.
# Of an information matrix in swatches, whose smallest eigenvalue is near 1 where all is well.
CANNOT_BE_TOLD = 1e-3
MANY_STARTS, FEW_STARTS, SMALL = 40, 3, 200


class Budget(Frozen):
    """At most so many swatches, controls included, in at most so many dye vessels."""

    swatches: Annotated[int, Field(ge=2, le=2000)]
    vessels: Annotated[int, Field(ge=1, le=2000)]
    interactions: Annotated[tuple[tuple[FactorKind, FactorKind], ...], Field(max_length=10)] = ()
    seed: Annotated[int, Field(ge=0, le=2**31 - 1)] = 1


class Thinned(Frozen):
    """`efficiency` compares the information of a swatch here with one of the full cross;
    `kept_information` compares the whole (both as p-th roots of determinants)."""

    left_out: tuple[str, ...]
    cells: int
    controls: int
    vessels: int
    efficiency: float
    kept_information: float
    seed: int
    lost: tuple[str, ...]


def thin_out(plan: StudyPlan, cells: list[Cell], shelf: Shelf, budget: Budget, noise: Noise) -> Thinned:
    """The cells that keep the most information; the rest to be left out. Controls are kept.

    Raises Refusal where the budget holds fewer cells than there are effects to tell.
    """
    if has_zones(plan):
        raise Refusal(
            "zones-cost-nothing",
            "A budget counts swatches, and zones of one cloth are none.",
            "Leave whole cloths out: by a rule, or fewer levels of fibre or mordant.",
        )
    feasible = [c for c in cells if c.included and not c.added]
    controls = [c for c in cells if c.included and c.added]
    if not feasible:
        raise Refusal(
            "nothing-to-thin", "There is no cell to choose from.", "Cross some factors first, or put cells back."
        )
    number = (budget.swatches // plan.replicates) - len(controls)
    of = _candidates(plan, feasible, shelf, budget, noise)
    effects = of.coded.shape[1]
    runs = plan.replicates if plan.replicate_vessels == "apart" else 1
    allowed, most_vessels = budget.vessels // runs, int(of.vessel.max()) + 1
    if allowed < 1:
        raise _cannot_tell(budget)
    if number < effects:
        cure = (
            f"Allow at least {(effects + len(controls)) * plan.replicates} swatches, or take out "
            "levels, interactions or controls."
        )
        raise Refusal(
            "budget-too-small",
            f"{budget.swatches} swatches cannot tell {effects - 1} effects apart, beside {len(controls)} controls.",
            cure,
            (Fault(field="swatches", given=str(budget.swatches), allowed="enough for every effect", cure=cure),),
        )
    if number >= len(feasible) and allowed >= most_vessels:
        chosen = np.arange(len(feasible))
    else:
        starts = MANY_STARTS if len(feasible) <= SMALL else FEW_STARTS
        chosen = choose_cells(of, min(number, len(feasible)), allowed, starts, budget.seed)
    all_rows = np.arange(len(feasible))
    full, own = (log_determinant(information_of(of, rows)) for rows in (all_rows, chosen))
    if np.linalg.eigvalsh(information_of(of, chosen))[0] < CANNOT_BE_TOLD:
        raise _cannot_tell(budget)
    kept = float(np.exp((own - full) / effects))
    keep = {feasible[i].key for i in chosen}
    return Thinned(
        left_out=tuple(cell.key for cell in feasible if cell.key not in keep),
        cells=len(chosen),
        controls=len(controls),
        vessels=runs * len(np.unique(of.vessel[chosen])),
        efficiency=kept * len(feasible) / len(chosen),
        kept_information=kept,
        seed=budget.seed,
        lost=tuple(_lost(plan, feasible, chosen, budget)),
    )


def _cannot_tell(budget: Budget) -> Refusal:
    cure = "Allow more vessels, or leave out a factor that acts in the vessel."
    return Refusal(
        "budget-too-small",
        f"In {budget.vessels} dye vessels some factors could not be told apart at all.",
        cure,
        (Fault(field="vessels", given=str(budget.vessels), allowed="enough for every level", cure=cure),),
    )


def _candidates(plan: StudyPlan, cells: list[Cell], shelf: Shelf, budget: Budget, noise: Noise) -> Candidates:
    """A row for each cell: repeats that share a pot make its own part of the noise smaller."""
    own = noise.swatch.sd_de00**2 + (plan.noise or USUAL).reading_de00 ** 2
    if plan.replicate_vessels == "shared":
        own /= plan.replicates
    vessel_keys: dict[str, int] = {}
    vessel = []
    for cell in cells:
        bath = next((b.key for b in baths_of(plan, cell.levels, shelf) if b.bath == "dye"), "undyed")
        vessel.append(vessel_keys.setdefault(bath, len(vessel_keys)))
    return Candidates(
        coded=_independent(_coded(plan, cells, budget.interactions)),
        vessel=np.array(vessel),
        variance_ratio=noise.vessel.sd_de00**2 / own if plan.factor("dye") else 0.0,
    )


def _independent(coded: np.ndarray) -> np.ndarray:
    """The same effects in as many columns as can be told apart by all cells together."""
    _, sizes, directions = np.linalg.svd(coded, full_matrices=False)
    return np.asarray(coded @ directions[sizes > sizes[0] * 1e-9].T)


def _coded(plan: StudyPlan, cells: list[Cell], interactions: tuple[tuple[FactorKind, FactorKind], ...]) -> np.ndarray:
    """Intercept, main effects and chosen interactions, each factor in orthonormal contrasts."""
    columns = {}
    for factor in plan.factors:
        there = [v.key for v in factor.levels if any(c.levels[factor.kind] == v.key for c in cells)]
        if len(there) < 2:
            continue
        number = {key: i for i, key in enumerate(there)}
        # Contrasts that do not depend on how the levels are ordered: Q of a Helmert basis.
        helmert = np.linalg.qr(np.column_stack([np.ones(len(there)), np.eye(len(there))[:, 1:]]))[0]
        contrasts = helmert[:, 1:] * np.sqrt(len(there))
        columns[factor.kind] = contrasts[[number[c.levels[factor.kind]] for c in cells]]
    parts = [np.ones((len(cells), 1)), *columns.values()]
    for first, second in interactions:
        if first in columns and second in columns and first != second:
            a, b = columns[first], columns[second]
            parts.append((a[:, :, None] * b[:, None, :]).reshape(len(cells), -1))
    return np.hstack(parts)


def _lost(plan: StudyPlan, feasible: list[Cell], chosen: np.ndarray, budget: Budget) -> list[str]:
    """Pairs of factors whose joint action can no longer be told, in words."""
    kept = [feasible[i] for i in chosen]
    if len(kept) == len(feasible):
        return []
    said = [f"{len(feasible) - len(kept)} of {len(feasible)} cells are left out."]
    kinds = [factor.kind for factor in plan.factors if len(factor.levels) > 1]
    lost = []
    for pair in combinations(kinds, 2):
        if pair in budget.interactions or pair[::-1] in budget.interactions:
            continue
        coded = _coded(plan, kept, (pair,))
        before = np.linalg.matrix_rank(_coded(plan, feasible, (pair,)))
        if np.linalg.matrix_rank(coded) < before:
            lost.append(f"{lower_name(pair[0])} with {lower_name(pair[1])}")
    if lost:
        said.append(f"Whether these act on each other can no longer be told: {', '.join(lost)}.")
    said.append("What three or more factors do together is not looked for.")
    return said
