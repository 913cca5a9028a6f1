"""What a different choice would cost in vessels, with the reason for each."""

from dataclasses import replace

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.plan.vessels import number_of_vessels

REASONS: dict[tuple[str, str], str] = {
    ("mordants_in_dye_bath", "together"): "Fewer pots, and all mordants see the same dye bath.",
    ("mordants_in_dye_bath", "apart"): "Loose alum cannot wander to unmordanted pieces, but "
    "mordants are told against how pots differ.",
    ("replicate_vessels", "shared"): "Fewer pots; repeats show how swatches of one pot differ.",
    ("replicate_vessels", "apart"): "Each repeat is a run of its own: pots can be told from what was done in them.",
    ("iron_with_alum", "apart"): "Iron spreads to alum pieces in the same bath: each stays clean.",
    ("iron_with_alum", "together"): "Iron- and alum-mordanted pieces share a bath on purpose: "
    "what wanders from one to the other is part of the answer.",
    ("taken_out", "apart"): "Each time has a bath of its own: nothing that comes out sooner "
    "changes the bath for the rest.",
    ("taken_out", "one vessel"): "All pieces are in one bath and come out at their times: fewer "
    "pots, and the same liquor for all.",
}
OTHERS: dict[str, tuple[str, str]] = {
    "mordants_in_dye_bath": ("together", "apart"),
    "replicate_vessels": ("shared", "apart"),
    "iron_with_alum": ("apart", "together"),
    "taken_out": ("apart", "one vessel"),
}


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
    duration = plan.factor("duration")
    asked = {
        "mordants_in_dye_bath": bool(plan.factor("mordant") and plan.factor("dye")),
        "replicate_vessels": plan.replicates > 1,
        "iron_with_alum": bool(plan.factor("dye")) and _iron_and_alum(study),
        "taken_out": duration is not None and len(duration.levels) > 1,
    }
    return [_choice(study, vessels, field) for field, there in asked.items() if there]


def _iron_and_alum(study: PlannedStudy) -> bool:
    """Whether some pieces bring iron into the dye bath and others alum."""
    mordant, iron = study.plan.factor("mordant"), study.plan.factor("iron")
    routes = [study.shelf.mordant_route(one.key) for one in (mordant.levels if mordant else ())]
    brings_iron = any(route and route.brings_iron for route in routes) or any(
        level.route == "mordant" and level.is_dosed for level in (iron.levels if iron else ())
    )
    return brings_iron and any(route and route.brings_alum for route in routes)


def _choice(study: PlannedStudy, vessels: list[Vessel], field: str) -> OtherChoice:
    now = getattr(study.plan, field)
    other = next(one for one in OTHERS[field] if one != now)
    changed = replace(study, plan=study.plan.model_copy(update={field: other}))
    return OtherChoice(
        field=field,
        now=now,
        other=other,
        reason_now=REASONS[(field, now)],
        reason_other=REASONS[(field, other)],
        vessels_now=len(vessels),
        vessels_other=number_of_vessels(changed),
    )
