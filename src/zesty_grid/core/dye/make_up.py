"""A make-up run: the plan of a study for its lost cells only."""

from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.refusal import Refusal

NAME_ROOM = 105


def make_up_plan(plan: StudyPlan, cells: list[Cell], lost: set[str]) -> StudyPlan:
    """Only the levels that a lost cell has are crossed, and only lost cells are in.

    A control that was lost brings all of its kind; they are few, and the run needs controls of its
    own. Raises Refusal where nothing is lost.
    """
    gone = [cell for cell in cells if cell.key in lost]
    if not gone:
        raise Refusal(
            "nothing-lost",
            "No swatch is marked to be repeated or replaced.",
            "Log what went wrong, and choose the cure.",
        )
    crossed = [cell for cell in gone if not cell.added]
    shown = crossed or gone
    factors = tuple(
        factor.model_copy(
            update={
                "levels": tuple(
                    level for level in factor.levels if any(cell.levels.get(factor.kind) == level.key for cell in shown)
                )
                or factor.levels[:1]
            }
        )
        for factor in plan.factors
    )
    kept = {(factor.kind, level.key) for factor in factors for level in factor.levels}
    left_out = tuple(
        cell.key
        for cell in cells
        if not cell.added and cell.key not in lost and all(level in kept for level in cell.levels.items())
    )
    controls = {cell.control for cell in gone if cell.added and cell.control}
    return plan.model_copy(
        update={
            "name": f"{plan.name[:NAME_ROOM]}, make-up",
            "factors": factors,
            "left_out": left_out,
            "put_back": (),
            "rules": (),
            "controls": tuple(one for one in plan.controls if one in controls),
            "bridge": None,
            "treatments": (),
            "larger_pieces": (),
        }
    )
