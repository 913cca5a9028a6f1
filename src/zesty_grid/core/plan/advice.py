"""What a plan should be warned about. Nothing here blocks a deliberate choice."""

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.shelf.items import Shelf

ALKALI_LIMIT_PH = 10.0
SYNTHETIC_REASON = (
    "Synthetic fibre has nothing that a mordant can hold on to: it is stained at most. As a "
    "control it is useful."
)


class Advice(Frozen):
    """A warning with its reason, and the cells that it concerns."""

    code: str
    text: str
    reason: str
    cells: tuple[str, ...]


def advice_on(plan: StudyPlan, cells: list[Cell], shelf: Shelf) -> list[Advice]:
    """Mordants that do not suit the fibre's class, and alkali that hurts protein fibre."""
    found: dict[str, Advice] = {}

    def add(code: str, text: str, reason: str, cell: Cell) -> None:
        there = found.get(code)
        joined = (there.cells if there else ()) + (cell.key,)
        found[code] = Advice(code=code, text=text, reason=reason, cells=joined)

    ph_factor = plan.factor("ph")
    ph_of = {level.key: level.value for level in ph_factor.levels} if ph_factor else {}
    for cell in cells:
        fibre = shelf.fibre(cell.levels.get("fibre", ""))
        route = shelf.mordant_route(cell.levels.get("mordant", ""))
        if not cell.included or fibre is None:
            continue
        if route and fibre.fibre_class not in route.suits:
            add(
                f"unsuited:{route.key}:{fibre.key}",
                f"{route.name} does not suit {fibre.name.lower()} ({fibre.fibre_class}).",
                SYNTHETIC_REASON if fibre.fibre_class == "synthetic" else route.unsuited_reason,
                cell,
            )
        ph = ph_of.get(cell.levels.get("ph", ""))
        if ph is not None and ph > ALKALI_LIMIT_PH and fibre.fibre_class == "protein":
            add(
                f"alkali:{fibre.key}",
                f"{fibre.name} above pH 10 is harmed.",
                "Alkali dissolves protein fibre, the faster the hotter: stay at or under pH 10 "
                "and keep the heat low.",
                cell,
            )
    return list(found.values())
