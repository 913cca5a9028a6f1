"""Folded cloth that is dipped: its zones differ by how often they went in."""

from zesty_grid.core.dye.step import Step
from zesty_grid.core.dye.step_parts import HOUR, enter, warm_and_hold
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.shelf.shelf import Shelf

FOLD_MIN, AIR_MIN = 4.0, 5


def folded(vessel: Vessel, shelf: Shelf, minutes: int) -> list[Step]:
    """As many dips as the most dipped zone has, in `minutes` all together; less deep each time."""
    folding = vessel.folding
    fold = (folding.fold if folding else "") or "As planned"
    what = (folding.corners if folding else "") or "the part that is dipped"
    deep = f", {folding.depth_cm:g} cm deep" if folding and folding.depth_cm else ""
    steps = [
        Step(
            key="fold",
            title="Fold the cloths",
            place="bench",
            hands_min=FOLD_MIN * len(vessel.swatches),
            detail=f"{fold}; pressed flat, clamped or tied. Mark where each zone begins.",
        )
    ]
    for turn in range(1, vessel.times_in + 1):
        steps += _dip(vessel, shelf, max(1, minutes // vessel.times_in), turn, what, deep)
    unfold = Step(
        key="unfold",
        title="Unfold",
        hands_min=FOLD_MIN,
        place="bench",
        detail="Rinse it once before it is opened, so that nothing runs.",
    )
    return [*steps, unfold]


def _dip(vessel: Vessel, shelf: Shelf, minutes: int, turn: int, what: str, deep: str) -> list[Step]:
    into = enter(vessel, f"Dip {what}, {turn} of {vessel.times_in}")
    deeper = "" if turn == 1 else " Less far in than before, so that the first zone stays."
    hold = warm_and_hold(vessel, shelf, minutes, f"The rest stays above the liquor{deep}.{deeper}", "Hold it in")
    if turn > 1:
        into = into.model_copy(update={"key": f"dip-{turn}", "asks": ""})
        hold = hold.model_copy(update={"key": f"hold-{turn}", "warm_min": 0})
    air = Step(
        key=f"air-{turn}",
        title="Lift, let it drip and air",
        duration_min=AIR_MIN,
        shortest_min=AIR_MIN,
        longest_min=HOUR,
        place="bench",
        hands_min=2,
    )
    return [into, hold, air]
