"""Which studies and mixtures use an item of the Shelf."""

from collections.abc import Iterable

from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.shelf.shelf import Shelf, ShelfKind

FACTORS_OF: dict[ShelfKind, tuple[str, ...]] = {
    "fibre": ("fibre",),
    "mordant_route": ("mordant",),
    "dye_lot": ("dye", "second_dye", "source"),
}


def uses_of(kind: ShelfKind, key: str, plans: Iterable[StudyPlan], shelf: Shelf) -> list[str]:
    """Names of what would break without the item: studies, and lots mixed from it."""
    names = [f"“{plan.name}”" for plan in plans if _uses(kind, key, plan)]
    if kind == "dye_lot":
        names += [lot.name for lot in shelf.dye_lots if any(part.lot == key for part in lot.mixture)]
    return names


def _uses(kind: ShelfKind, key: str, plan: StudyPlan) -> bool:
    for factor in plan.factors:
        if factor.kind in FACTORS_OF.get(kind, ()) and factor.level(key):
            return True
        if kind in ("dye_lot", "mordant_route") and any(
            key in (bath.dye, bath.route, *bath.sources) for level in factor.levels for bath in level.baths
        ):
            return True
        what = {"substance": "substance", "dye_lot": "dye lot"}.get(kind)
        added = (one for level in factor.levels for one in level.additions)
        if any(one.item == key and one.what == what for one in added):
            return True
    if kind == "vessel" and any(key in own.vessels for own in plan.own_vessels):
        return True
    chosen = {"scale": (plan.scale,), "water": (plan.water,), "substance": (plan.acid, plan.alkali)}
    return key in chosen.get(kind, ())
