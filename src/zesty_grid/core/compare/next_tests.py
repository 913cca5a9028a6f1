"""What to test next: the few swatches and pots that would tell most for the least work."""

from collections.abc import Collection, Mapping, Sequence
from itertools import product

import numpy as np

from zesty_grid.core.compare.between import Foreteller, ForetoldColour
from zesty_grid.core.compare.compared import FactorEffect
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.noise.levels import Noise
from zesty_grid.core.plan.factors import FACTOR_ORDER, Factor, FactorKind, Level
from zesty_grid.core.plan.planned_study import on_paper
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.telling import what_it_can_tell
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.shelf.shelf import Shelf

REPEATS = (2, 3, 4, 5, 6)
MOST_NUMBERS = 9
MOST_RECIPES = 6000
WITHIN_DE00 = 2.0


class NextTest(Frozen):
    """A plan that is ready to be made. `tells_de00`: the smallest difference that it shows 8 times
    in 10; None where that is not what it is for."""

    title: str
    words: str
    plan: StudyPlan
    swatches: int
    vessels: int
    tells_de00: float | None = None
    foretold: tuple[ForetoldColour, ...] = ()


def settle_effect(
    plan: StudyPlan, effect: FactorEffect, wanted_de00: float, shelf: Shelf, noise: Noise, names: Mapping[str, str]
) -> NextTest | None:
    """The two levels again, all else held, in as many pots as it takes to show `wanted_de00`. Other
    factors are held at the level that they have first; where two levels of fibre are there, both
    stay, as swatches in one pot cost little. None: the plan has no such factor any more."""
    factor = next((one for one in plan.factors if one.kind == effect.factor), None)
    if factor is None or not all(factor.level(k) for k in (effect.from_level, effect.to_level)):
        return None
    first, second = (names.get(f"{effect.factor}={level}", level) for level in (effect.from_level, effect.to_level))
    wanted = {effect.from_level, effect.to_level}
    levels = tuple(level for level in factor.levels if level.key in wanted)
    own = factor.model_copy(update={"levels": levels})
    return in_pots_enough(plan, own, f"{second} or {first}?", "", wanted_de00, shelf, noise)


def in_pots_enough(
    plan: StudyPlan, factor: Factor, title: str, why: str, wanted_de00: float, shelf: Shelf, noise: Noise
) -> NextTest:
    """The levels of a factor, all else held, in as many pots as it takes to show `wanted_de00`."""
    for repeats in REPEATS:
        study = on_paper(_repeated(plan, factor, repeats), shelf)
        vessels = vessels_of(study)
        baths = [(v.bath, v.swatches) for v in vessels if v.bath not in ("scour", "extract")]
        told = what_it_can_tell(study, baths, noise)
        shows = next((one.smallest_difference_de00 for one in told.effects if one.factor == factor.kind), None)
        if shows is None or shows <= wanted_de00:
            break
    enough = "" if shows is None or shows <= wanted_de00 else " More runs are not worth it."
    shown = f": shows {shows:.1f} ΔE00 or more 8 times in 10." if shows is not None else "."
    return NextTest(
        title=title,
        plan=study.plan,
        swatches=len(study.planned),
        vessels=len(baths),
        tells_de00=shows,
        words=f"{why}{repeats} runs of each, apart, all else held{shown}{enough}",
    )


def _repeated(plan: StudyPlan, factor: Factor, repeats: int) -> StudyPlan:
    kept: list[Factor] = []
    for one in plan.factors:
        levels = one.levels[: 2 if one.kind == "fibre" else 1]
        kept.append(factor if one.kind == factor.kind else one.model_copy(update={"levels": levels}))
    if plan.factor(factor.kind) is None:
        kept.append(factor)
    fresh = [one.model_copy(update={"begun_as": None}) for one in kept]
    return _fresh(plan, fresh, f"{plan.name[:80]}: settled", repeats)


def _fresh(plan: StudyPlan, factors: Sequence[Factor], name: str, repeats: int) -> StudyPlan:
    """A new study by the ways of an earlier one: nothing of it is begun."""
    kinds = {one.kind for one in factors}
    return StudyPlan.model_validate(
        plan.model_dump()
        | {
            "name": name,
            "question": f"Begun from what “{plan.name[:200]}” left open.",
            "factors": [one.model_dump() for one in factors],
            "rows": [kind for kind in plan.rows if kind in kinds],
            "columns": [one.kind for one in factors if one.kind not in plan.rows],
            "left_out": (),
            "put_back": (),
            "made_again": (),
            "rules": (),
            "treatments": (),
            "larger_pieces": (),
            "own_vessels": (),
            "own_masses": (),
            "bridge": None,
            "replicates": repeats,
            "replicate_vessels": "apart" if repeats > 1 else "shared",
        }
    )


def reach_colour(
    plan: StudyPlan,
    found: Foreteller,
    wanted: Sequence[float],
    most: int,
    dyed: Collection[tuple[tuple[str, str], ...]],
    shelf: Shelf,
) -> NextTest | None:
    """The recipes not yet dyed that are likeliest to come within 2 ΔE00 of a colour. None: nothing
    foretold comes near, or there is nothing left to try."""
    recipes = _recipes(plan, found)
    fresh = [one for one in recipes if one[1] or tuple(sorted(one[0].items())) not in dyed]
    if not fresh:
        return None
    foretold = found.foretell(fresh)
    labs = np.array([one.lab for one in foretold])
    apart = np.asarray(delta_e_2000(np.broadcast_to(np.asarray(wanted, float), labs.shape), labs))
    doubt = np.array([one.uncertainty_de00 for one in foretold])
    # As good a wager as can be had: near, and not foretold with false certainty.
    odds = apart / np.hypot(doubt, WITHIN_DE00)
    best = [int(i) for i in np.argsort(odds)[:most]]
    chosen = [foretold[i] for i in best]
    made = _plan_of(plan, [fresh[i] for i in best])
    if made is None:
        return None
    study = on_paper(made, shelf)
    baths = [one for one in vessels_of(study) if one.bath not in ("scour", "extract")]
    near = float(apart[best[0]])
    return NextTest(
        title="Towards the colour that is wanted",
        plan=made,
        swatches=len(study.planned),
        vessels=len(baths),
        foretold=tuple(chosen),
        words=f"The {len(best)} likeliest recipes that were not dyed yet: the first is foretold "
        f"{near:.1f} ± {chosen[0].uncertainty_de00:.1f} ΔE00 from it.",
    )


Recipe = tuple[dict[str, str], dict[str, float]]


def _recipes(plan: StudyPlan, found: Foreteller) -> list[Recipe]:
    """All combinations of levels, and of numbers between the levels where depth can be foretold."""
    axes: list[list[tuple[str, str, float | None]]] = []
    for factor in plan.factors:
        if factor.kind not in found.factors:
            continue
        own: list[tuple[str, str, float | None]] = [(factor.kind, level.key, None) for level in factor.levels]
        if factor.kind in found.numeric:
            low, high = found.ranges[factor.kind]
            for value in np.linspace(low, high, MOST_NUMBERS)[1:-1]:
                rounded = float(f"{value:.2g}")
                if all(level.value != rounded for level in factor.levels):
                    own.append((factor.kind, _nearest(factor, rounded), rounded))
        axes.append(own)
    found_recipes: list[Recipe] = []
    for combination in product(*axes):
        if len(found_recipes) >= MOST_RECIPES:
            break
        found_recipes.append(
            (
                {kind: key for kind, key, _ in combination},
                {kind: value for kind, _, value in combination if value is not None},
            )
        )
    return found_recipes


def _nearest(factor: Factor, value: float) -> str:
    return min(factor.levels, key=lambda level: abs((level.value or 0.0) - value)).key


def _plan_of(plan: StudyPlan, recipes: Sequence[Recipe]) -> StudyPlan | None:
    """A plan that crosses what the recipes have, with all other cells left out."""
    levels: dict[FactorKind, dict[str, Level]] = {}
    wanted: list[dict[FactorKind, str]] = []
    for keys, numbers in recipes:
        cell: dict[FactorKind, str] = {}
        for factor in plan.factors:
            level = factor.level(keys.get(factor.kind, "")) or factor.levels[0]
            if factor.kind in numbers:
                level = _between(factor, level, numbers[factor.kind])
            levels.setdefault(factor.kind, {})[level.key] = level
            cell[factor.kind] = level.key
        wanted.append(cell)
    factors = [
        one.model_copy(update={"levels": tuple(levels[one.kind].values()), "begun_as": None}) for one in plan.factors
    ]
    made = _fresh(plan, factors, f"{plan.name[:80]}: towards a colour", 1)
    keys_wanted = {tuple(sorted(cell.items())) for cell in wanted}
    left_out = []
    for combination in product(*([(f.kind, v.key) for v in f.levels] for f in _ordered(made))):
        cell = dict(combination)
        if tuple(sorted(cell.items())) not in keys_wanted:
            left_out.append(";".join(f"{kind}={key}" for kind, key in combination))
    return StudyPlan.model_validate(made.model_dump() | {"left_out": left_out, "controls": ()})


def _ordered(plan: StudyPlan) -> list[Factor]:
    return sorted(plan.factors, key=lambda one: FACTOR_ORDER.index(one.kind))


def _between(factor: Factor, nearest: Level, value: float) -> Level:
    """A level of its own, after the manner of the nearest one."""
    unit = nearest.label.replace(f"{nearest.value:g}", f"{value:g}", 1)
    return nearest.model_copy(
        update={"key": f"{factor.kind.replace('_', '-')}-{value:g}", "label": unit, "value": value}
    )
