"""How long a swatch may stay in an iron after-bath, by its fibre (common practice)."""

from collections.abc import Sequence

from zesty_grid.core.dye.step import Step
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.record.bench_vessel import IronLimit
from zesty_grid.core.shelf.items import Fibre

SHIFTS_FAST_S, SHIFTS_SLOWLY_S = 60, 300


def most_seconds(fibre: Fibre | None) -> int:
    """Cotton, linen and silk shift in under a minute, wool and other hair in up to five."""
    hair = fibre is not None and fibre.fibre_class == "protein"
    silk = fibre is not None and "silk" in f"{fibre.key} {fibre.name}".lower()
    return SHIFTS_SLOWLY_S if hair and not silk else SHIFTS_FAST_S


def iron_limits(vessel: Vessel, steps: Sequence[Step], study: PlannedStudy) -> dict[str, IronLimit]:
    """By swatch code, for a vessel with an iron watch; empty for others."""
    if not any(step.asks == "iron watch" for step in steps):
        return {}
    return {
        code: IronLimit(most_s=most_seconds(study.shelf.fibre(study.by_code[code].fibre)), planned_s=vessel.seconds)
        for code in vessel.swatches
    }
