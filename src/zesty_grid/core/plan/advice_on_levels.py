"""What two levels of a plan should be warned about when they meet in a cell."""

from collections.abc import Callable

from zesty_grid.core.plan.factors import FactorKind
from zesty_grid.core.plan.leaving_out import ALKALI_LIMIT_PH, ALKALI_REASON, SYNTHETIC_REASON
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.shelf.shelf import Shelf

IRON_LIMIT_PERCENT_WOF = 2.0
MUCH_IRON = "Much iron makes wool and silk harsh, and weakens them with time."
# A code, what is odd, and why it matters.
Said = tuple[str, str, str]


def _on_mordant(plan: StudyPlan, fibre_key: str, kind: FactorKind, route_key: str, shelf: Shelf) -> Said | None:
    fibre, route = shelf.fibre(fibre_key), shelf.mordant_route(route_key)
    if fibre is None or route is None or fibre.fibre_class in route.suits:
        return None
    return (
        f"unsuited:{route.key}:{fibre.key}",
        f"{route.name} does not suit {fibre.name.lower()} ({fibre.fibre_class}).",
        SYNTHETIC_REASON if fibre.fibre_class == "synthetic" else route.unsuited_reason,
    )


def _on_alkali(plan: StudyPlan, fibre_key: str, kind: FactorKind, level_key: str, shelf: Shelf) -> Said | None:
    fibre, level = shelf.fibre(fibre_key), plan.level(kind, level_key)
    if fibre is None or "protein" not in fibre.classes or level is None:
        return None
    if (level.value or 0) <= ALKALI_LIMIT_PH:
        return None
    return f"alkali:{fibre.key}", f"{fibre.name} above pH 10 is harmed.", ALKALI_REASON


def _on_iron(plan: StudyPlan, fibre_key: str, kind: FactorKind, level_key: str, shelf: Shelf) -> Said | None:
    fibre, level = shelf.fibre(fibre_key), plan.level(kind, level_key)
    if fibre is None or "protein" not in fibre.classes or level is None:
        return None
    if (level.value or 0) <= IRON_LIMIT_PERCENT_WOF:
        return None
    return (f"iron:{fibre.key}", f"More than 2 % iron on {fibre.name.lower()}.", MUCH_IRON)


def _on_iron_route(plan: StudyPlan, fibre_key: str, kind: FactorKind, route_key: str, shelf: Shelf) -> Said | None:
    fibre, route = shelf.fibre(fibre_key), shelf.mordant_route(route_key)
    if fibre is None or "protein" not in fibre.classes or route is None:
        return None
    if route.iron_percent_wof <= IRON_LIMIT_PERCENT_WOF:
        return None
    return (
        f"iron-mordant:{route.key}:{fibre.key}",
        f"{route.iron_percent_wof:g} % iron as a mordant on {fibre.name.lower()}.",
        MUCH_IRON,
    )


def _on_heat(plan: StudyPlan, dye_key: str, kind: FactorKind, level_key: str, shelf: Shelf) -> Said | None:
    lot, level = shelf.dye_lot(dye_key), plan.level(kind, level_key)
    if lot is None or lot.spoils_above_c is None or level is None or level.value is None:
        return None
    if level.value <= lot.spoils_above_c:
        return None
    return (
        f"heat:{lot.key}",
        f"{lot.name} is said to spoil above {lot.spoils_above_c:g} °C.",
        "Some purples and pinks turn brown when heated; as a test of just that it is useful.",
    )


def _on_known_for(plan: StudyPlan, fibre_key: str, kind: FactorKind, lot_key: str, shelf: Shelf) -> Said | None:
    fibre, lot = shelf.fibre(fibre_key), shelf.dye_lot(lot_key)
    if fibre is None or lot is None or "protein only" not in lot.known_for:
        return None
    if "protein" in fibre.classes or "polyamide" in fibre.classes:
        return None
    return (
        f"protein-only:{lot.key}:{fibre.key}",
        f"{lot.name} is known to dye protein fibre only, not {fibre.name.lower()}.",
        "It says so on the Shelf; as a test of just that it is useful.",
    )


def _on_fugitive(plan: StudyPlan, fibre_key: str, kind: FactorKind, lot_key: str, shelf: Shelf) -> Said | None:
    lot = shelf.dye_lot(lot_key)
    if lot is None or "fugitive" not in lot.known_for:
        return None
    return (f"fugitive:{lot.key}", f"{lot.name} is known to fade.", "Plan a light trial for it, and keep a piece dark.")


def _on_twist(plan: StudyPlan, fibre_key: str, kind: FactorKind, lot_key: str, shelf: Shelf) -> Said | None:
    fibre = shelf.fibre(fibre_key)
    if fibre is None or not fibre.twisted:
        return None
    return (
        f"twisted:{fibre.key}",
        f"{fibre.name} is noted as twisted: it comes out uneven.",
        "Wind it anew into loose hanks, or keep it in mind when the evenness is judged.",
    )


LOOKED_AT: tuple[
    tuple[FactorKind, FactorKind, Callable[[StudyPlan, str, FactorKind, str, Shelf], Said | None]], ...
] = (
    ("fibre", "mordant", _on_mordant),
    ("fibre", "mordant", _on_iron_route),
    ("fibre", "ph", _on_alkali),
    ("fibre", "after_ph", _on_alkali),
    ("fibre", "iron", _on_iron),
    ("fibre", "second_iron", _on_iron),
    ("dye", "temperature", _on_heat),
    ("fibre", "dye", _on_known_for),
    ("fibre", "dye", _on_fugitive),
    ("fibre", "source", _on_known_for),
    ("fibre", "source", _on_fugitive),
    ("fibre", "second_dye", _on_known_for),
    ("fibre", "second_dye", _on_fugitive),
    ("fibre", "dye", _on_twist),
)
