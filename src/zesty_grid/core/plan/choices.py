"""What a different choice would cost in vessels, with the reason for each."""

from dataclasses import replace

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.vessels import Vessel, number_of_vessels

REASONS: dict[tuple[str, str], str] = {
    ("mordants_in_dye_bath", "together"): "Fewer pots, and all mordants see the same dye bath.",
    ("mordants_in_dye_bath", "apart"): "Loose alum cannot wander to unmordanted pieces, but the "
    "mordant and its pot cannot be told apart.",
    ("replicate_vessels", "shared"): "Fewer pots; repeats show how swatches of one pot differ.",
    ("replicate_vessels", "apart"): "Each repeat is a run of its own: pots can be told from what "
    "was done in them.",
}  # fmt: skip
OTHER = {"together": "apart", "apart": "together"}
OTHER_RUN = {"shared": "apart", "apart": "shared"}


class OtherChoice(Frozen):
    """How many vessels the other setting of `field` would take, beside those there are now."""

    field: str
    now: str
    other: str
    reason_now: str
    reason_other: str
    vessels_now: int
    vessels_other: int


def other_choices(study: PlannedStudy, vessels: list[Vessel]) -> list[OtherChoice]:
    plan = study.plan
    choices: list[tuple[str, str, str]] = []
    if plan.factor("mordant") and plan.factor("dye"):
        now = plan.mordants_in_dye_bath
        choices.append(("mordants_in_dye_bath", now, OTHER[now]))
    if plan.replicates > 1:
        run = plan.replicate_vessels
        choices.append(("replicate_vessels", run, OTHER_RUN[run]))
    return [_choice(study, vessels, *choice) for choice in choices]


def _choice(
    study: PlannedStudy, vessels: list[Vessel], field: str, now: str, other: str
) -> OtherChoice:
    changed = replace(study, plan=study.plan.model_copy(update={field: other}))
    return OtherChoice(
        field=field, now=now, other=other,
        reason_now=REASONS[(field, now)], reason_other=REASONS[(field, other)],
        vessels_now=len(vessels), vessels_other=number_of_vessels(changed),
    )  # fmt: skip
