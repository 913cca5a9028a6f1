"""Which stages still to come say something, and where one is missing."""

from collections.abc import Mapping

import numpy as np

from zesty_grid.core.fade.fading_curve import Paths
from zesty_grid.core.fade.trial import StagePlan, TrialPlan
from zesty_grid.core.fade.trial_state import StageState, TrialState, expected_dose
from zesty_grid.core.frozen import Frozen

# A change that no photo tells from nothing, and one between two stages that hides what happened.
TOO_LITTLE_DE00, TOO_MUCH_DE00 = 0.5, 4.0
MOST_CHANGING = 90.0


class StageAdvice(Frozen):
    """`stage`: one that says nothing new; `add`: one that is needed."""

    words: str
    stage: int | None = None
    add: StagePlan | None = None


def advise_stages(plan: TrialPlan, state: TrialState, paths: Mapping[str, Paths]) -> list[StageAdvice]:
    """Proposals for the next stages, by what the curves foretell of the most changing swatches."""
    if not paths:
        return []
    read = [one for one in state.stages if one.is_read]
    ahead = [one for one in state.stages if not one.is_read and not one.left_out]
    found: list[StageAdvice] = []
    before = max((dose for one in read if (dose := expected_dose(state, plan, one))), default=None)
    if before is None:
        return []
    for index, stage in enumerate(ahead):
        dose = expected_dose(state, plan, stage)
        if dose is None or dose <= before:
            continue
        change = _most_change(paths, before, dose)
        later = ahead[index + 1 :]
        if change < TOO_LITTLE_DE00 and later:
            found.append(
                StageAdvice(
                    stage=stage.index,
                    words=f"“{stage.plan.label}” will change the colours by {change:.1f} at most: it can be left out.",
                )
            )
            continue
        if change > TOO_MUCH_DE00:
            added = _between(plan, state, before, dose, stage)
            if added:
                found.append(
                    StageAdvice(
                        add=added,
                        words=f"Before “{stage.plan.label}” colours will change by {change:.1f}: a "
                        f"stage at {added.label} shows how.",
                    )
                )
        before = dose
    return found


def _most_change(paths: Mapping[str, Paths], first: float, second: float) -> float:
    """The change between two doses, of the swatches that change most."""
    changes = []
    for path in paths.values():
        moved = path.change(np.array([first, second]))
        changes.append(float(np.linalg.norm(np.diff(moved, axis=1).mean(axis=0))))
    return float(np.percentile(changes, MOST_CHANGING))


def _between(plan: TrialPlan, state: TrialState, before: float, dose: float, stage: StageState) -> StagePlan | None:
    """Halfway on the scale on which stages lie evenly."""
    middle = float(np.sqrt(before * dose))
    if plan.kind != "light":
        count = round(middle)
        if plan.kind == "store":
            return StagePlan(label=f"{count} days", days=count) if before < count < dose else None
        return StagePlan(label=f"{count} times", washes=count) if before < count < dose else None
    if stage.plan.days:
        days = round(stage.plan.days * middle / dose)
        return StagePlan(label=f"{days} days", days=days) if 0 < days < stage.plan.days else None
    return StagePlan(label=f"{middle / 1e6:.2f} Mlx·h", dose_lxh=middle)
