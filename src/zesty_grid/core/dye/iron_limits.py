"""How long a swatch may stay in an iron after-bath, by its fibre (common practice)."""

from zesty_grid.core.dye.bench import BenchVessel
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.shelf.items import Fibre
from zesty_grid.core.shelf.shelf import Shelf

SHIFTS_FAST_S, SHIFTS_SLOWLY_S = 60, 300


class IronLimit(Frozen):
    """`planned_s` is what the plan wants, where it says so."""

    most_s: int
    planned_s: int | None


def most_seconds(fibre: Fibre | None) -> int:
    """Cotton, linen and silk shift in under a minute, wool and other hair in up to five."""
    hair = fibre is not None and fibre.fibre_class == "protein"
    silk = fibre is not None and "silk" in f"{fibre.key} {fibre.name}".lower()
    return SHIFTS_SLOWLY_S if hair and not silk else SHIFTS_FAST_S


def iron_limits(
    one: BenchVessel, plan: StudyPlan, cells: list[Cell], codes: dict[str, str], shelf: Shelf
) -> dict[str, IronLimit]:
    """By swatch code, for a vessel with an iron watch; empty for others."""
    if not any(step.asks == "iron watch" for step in one.steps):
        return {}
    by_key = {cell.key: cell for cell in cells}
    found = {}
    for swatch in one.vessel.swatches:
        cell = by_key[swatch.split("#")[0]]
        level = plan.level("iron", cell.levels.get("iron"))
        found[codes[swatch]] = IronLimit(
            most_s=most_seconds(shelf.fibre(cell.levels.get("fibre", ""))),
            planned_s=level.seconds if level else None,
        )
    return found
