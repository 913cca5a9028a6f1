"""A binder in several coats: in, out, dry, in again, and rest days after the last."""

from zesty_grid.core.dye.step import Step
from zesty_grid.core.dye.step_parts import DAY, HOUR, enter
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.shelf.items import MordantBath
from zesty_grid.core.weigh.hands import A_SWATCH_MIN, LIFT_MIN, MEASURE_MIN

LONGEST_DRY_MIN = 4 * DAY


def coats_of(vessel: Vessel, bath: MordantBath, put_in: str) -> list[Step]:
    """Common practice for soya milk: three thin coats, dried between, then days of rest."""
    minutes = vessel.duration_min or bath.duration_min
    steps = [
        Step(
            key="dissolve",
            title=f"Make ready the {bath.substance}",
            detail=f"{put_in}. Fresh: it sours within a day or two; keep it cold between the coats.",
            hands_min=MEASURE_MIN,
            place="vessel",
        )
    ]
    hands = LIFT_MIN + A_SWATCH_MIN * len(vessel.swatches)
    for coat in range(1, bath.coats + 1):
        last = coat == bath.coats
        into = enter(vessel, f"Coat {coat} of {bath.coats}")
        if coat > 1:
            into = into.model_copy(update={"key": f"coat-{coat}", "asks": ""})
        steps += [
            into,
            Step(
                key="hold" if coat == 1 else f"hold-{coat}",
                title="Leave it to soak in",
                duration_min=minutes,
                shortest_min=minutes,
                longest_min=minutes + HOUR,
                temperature_c=vessel.temperature_c,
                place="vessel",
                detail="Move the pieces so that it gets everywhere.",
            ),
            Step(
                key="finish" if last else f"dry-{coat}",
                title="Spin out, hang for the rest days" if last else "Spin out and dry",
                hands_min=hands,
                place="line",
                detail=bath.then,
                duration_min=bath.rest_min if last else bath.dry_min,
                shortest_min=bath.rest_min if last else bath.dry_min,
                longest_min=None if last else bath.dry_min + LONGEST_DRY_MIN,
            ),
        ]
    return steps
