"""What a plan should be warned about. Nothing here blocks a deliberate choice."""

from collections.abc import Callable, Iterable

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.factors import FactorKind
from zesty_grid.core.plan.leaving_out import ALKALI_LIMIT_PH, ALKALI_REASON, SYNTHETIC_REASON
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessels import Vessel, fits
from zesty_grid.core.shelf.mixtures import parts_of_lot
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.heat import PLACE_EFFICIENCY, ROOM_C, warming_j
from zesty_grid.core.weigh.working import counted

IRON_LIMIT_PERCENT_WOF = 2.0
HOT_C = 45.0
LONGEST_WARMING_H = 2.0
CROWDED = 0.5
FORMS = {"bundle-print": "steamer", "sun-jar": "jar", "water-bath": "jar"}
Said = tuple[str, str, str]


class Advice(Frozen):
    """A warning with its reason, and the cells that it concerns."""

    code: str
    text: str
    reason: str
    cells: tuple[str, ...]


class _Found:
    """Advice as it is gathered cell by cell."""

    def __init__(self) -> None:
        self.said: dict[str, tuple[str, str, list[str]]] = {}

    def add(self, code: str, text: str, reason: str, cells: Iterable[str]) -> None:
        self.said.setdefault(code, (text, reason, []))[2].extend(cells)

    def advice(self) -> list[Advice]:
        return [
            Advice(code=code, text=text, reason=reason, cells=tuple(dict.fromkeys(cells)))
            for code, (text, reason, cells) in self.said.items()
        ]


def advice_on(study: PlannedStudy, vessels: list[Vessel]) -> list[Advice]:
    """What does not suit the fibre, what heat spoils, and vessels that do not suffice."""
    plan, cells, shelf = study.plan, study.cells, study.shelf
    found = _Found()
    included = [cell for cell in cells if cell.included]
    for first_kind, kind, look in LOOKED_AT:
        for (first, second), keys in _by_levels(included, first_kind, kind).items():
            said = look(plan, first, kind, second, shelf)
            if said:
                found.add(*said, keys)
    for vessel in vessels:
        _on_vessel(found, study, vessel)
        _on_liquor(found, plan, vessel)
        _on_iron_with_alum(found, study, vessel)
    _on_glass(found, study, vessels)
    _on_melting(found, vessels)
    _on_shared_liquors(found, vessels)
    _on_heat_places(found, vessels, shelf)
    _on_lots(found, vessels, shelf)
    _on_counted(found, vessels, shelf)
    return found.advice()


def _by_levels(
    cells: list[Cell], first: FactorKind, second: FactorKind
) -> dict[tuple[str, str], list[str]]:
    """Cell keys by their levels of two factors."""
    found: dict[tuple[str, str], list[str]] = {}
    for cell in cells:
        if first in cell.levels and second in cell.levels:
            found.setdefault((cell.levels[first], cell.levels[second]), []).append(cell.key)
    return found


def _on_mordant(
    plan: StudyPlan, fibre_key: str, kind: FactorKind, route_key: str, shelf: Shelf
) -> Said | None:
    fibre, route = shelf.fibre(fibre_key), shelf.mordant_route(route_key)
    if fibre is None or route is None or fibre.fibre_class in route.suits:
        return None
    return (
        f"unsuited:{route.key}:{fibre.key}",
        f"{route.name} does not suit {fibre.name.lower()} ({fibre.fibre_class}).",
        SYNTHETIC_REASON if fibre.fibre_class == "synthetic" else route.unsuited_reason,
    )


def _on_alkali(
    plan: StudyPlan, fibre_key: str, kind: FactorKind, level_key: str, shelf: Shelf
) -> Said | None:
    fibre, level = shelf.fibre(fibre_key), plan.level(kind, level_key)
    if fibre is None or "protein" not in fibre.classes or level is None:
        return None
    if (level.value or 0) <= ALKALI_LIMIT_PH:
        return None
    return f"alkali:{fibre.key}", f"{fibre.name} above pH 10 is harmed.", ALKALI_REASON


def _on_iron(
    plan: StudyPlan, fibre_key: str, kind: FactorKind, level_key: str, shelf: Shelf
) -> Said | None:
    fibre, level = shelf.fibre(fibre_key), plan.level(kind, level_key)
    if fibre is None or "protein" not in fibre.classes or level is None:
        return None
    if (level.value or 0) <= IRON_LIMIT_PERCENT_WOF:
        return None
    return (
        f"iron:{fibre.key}",
        f"More than 2 % iron on {fibre.name.lower()}.",
        "Much iron makes wool and silk harsh, and weakens them with time.",
    )


def _on_iron_route(
    plan: StudyPlan, fibre_key: str, kind: FactorKind, route_key: str, shelf: Shelf
) -> Said | None:
    fibre, route = shelf.fibre(fibre_key), shelf.mordant_route(route_key)
    if fibre is None or "protein" not in fibre.classes or route is None:
        return None
    if route.iron_percent_wof <= IRON_LIMIT_PERCENT_WOF:
        return None
    return (
        f"iron-mordant:{route.key}:{fibre.key}",
        f"{route.iron_percent_wof:g} % iron as a mordant on {fibre.name.lower()}.",
        "Much iron makes wool and silk harsh, and weakens them with time.",
    )


def _on_heat(
    plan: StudyPlan, dye_key: str, kind: FactorKind, level_key: str, shelf: Shelf
) -> Said | None:
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


def _on_vessel(found: _Found, study: PlannedStudy, vessel: Vessel) -> None:
    plan, shelf = study.plan, study.shelf
    if vessel.on_shelf is not None or not shelf.vessels:
        return
    for_iron = "iron-only " if vessel.has_iron else ""
    form = FORMS.get(vessel.process or "", "vessel")
    suited = [one for one in shelf.vessels if fits(vessel, one)]
    largest_g = max((study.by_code[code].mass_g for code in vessel.swatches), default=0.0)
    swatch_ml = largest_g * plan.liquor_ratio_ml_per_g
    if suited:
        text = f"No {for_iron}{form} holds even one swatch of {vessel.title}."
        reason = (
            f"One swatch of {largest_g:g} g at {plan.liquor_ratio_ml_per_g:g} mL/g needs "
            f"{swatch_ml:.0f} mL: take a smaller swatch, less liquor, or a larger {form}."
        )
    else:
        text = f"There is no {for_iron}{form} on the Shelf for {vessel.title}."
        reason = "Put one on the Shelf, with its litres, and the vessels are counted anew."
    found.add(f"vessel:{vessel.bath}:{for_iron}{form}", text, reason, vessel.cells)


def _on_liquor(found: _Found, plan: StudyPlan, vessel: Vessel) -> None:
    if vessel.dip and vessel.dip > 1 and vessel.liquor_of is None:
        found.add(
            f"no-first-dip:{vessel.key}",
            f"{vessel.name} {vessel.title} has no dip {vessel.dip - 1} before it.",
            "A later dip takes over the liquor of the dip before, in its vessel: put the cells of "
            "that dip back, or fill this bath anew as a dip 1.",
            vessel.cells,
        )
    ratio = vessel.volume_ml / vessel.dry_fibre_g if vessel.dry_fibre_g else 0.0
    if vessel.liquor_of and ratio < CROWDED * plan.liquor_ratio_ml_per_g:
        found.add(
            f"crowded:{vessel.key}",
            f"{vessel.name} takes over the bath of {vessel.liquor_of}: {ratio:.0f} mL for each g "
            f"of fibre, not {plan.liquor_ratio_ml_per_g:g}.",
            "Crowded pieces come out uneven: fewer or smaller pieces in the later dip, or more in "
            "the first.",
            vessel.cells,
        )


def _on_iron_with_alum(found: _Found, study: PlannedStudy, vessel: Vessel) -> None:
    if vessel.bath != "dye" or study.plan.iron_with_alum == "apart":
        return
    members = [study.by_code[code] for code in vessel.swatches]
    routes = {study.levels(one).get("mordant", "") for one in members}
    there = [route for key in routes if (route := study.shelf.mordant_route(key))]
    iron = study.plan.factor("iron")
    brings = {one.key for one in iron.levels if one.route == "mordant"} if iron else set()
    irons = any(route.brings_iron for route in there) or any(
        study.levels(one).get("iron") in brings for one in members
    )
    if irons and any(route.brings_alum for route in there):
        found.add(
            "iron-with-alum",
            "Iron- and alum-mordanted pieces share a bath on purpose.",
            "Iron wanders to the alum pieces and dulls them; the vessel counts as an iron vessel "
            "from then on. As a test of just that it is useful.",
            vessel.cells,
        )


def _on_melting(found: _Found, vessels: list[Vessel]) -> None:
    for vessel in vessels:
        if vessel.rolling and vessel.rolling.melts and (vessel.temperature_c or 0) > HOT_C:
            what = " and ".join(vessel.rolling.melts)
            found.add(
                "melts", f"{what[0].upper()}{what[1:]} melts in steam or a hot bath.",
                "Take cloth, paper, wood or metal; film only for what stays cold.", vessel.cells,
            )  # fmt: skip


def _on_glass(found: _Found, study: PlannedStudy, vessels: list[Vessel]) -> None:
    for vessel in vessels:
        own = study.shelf.vessel(vessel.on_shelf or "")
        glass = own is not None and own.material == "glass"
        bare = vessel.process not in ("water-bath", "sun-jar")
        if glass and bare and (vessel.temperature_c or 0) > HOT_C:
            found.add(
                "glass-on-heat", "Glass jars would stand on bare heat.",
                "They crack: take the process “Jars in a water bath”, or choose a pot.",
                vessel.cells,
            )  # fmt: skip


def _on_shared_liquors(found: _Found, vessels: list[Vessel]) -> None:
    users: dict[str, list[Vessel]] = {}
    for vessel in vessels:
        if vessel.liquor_of and vessel.again is None:
            users.setdefault(vessel.liquor_of, []).append(vessel)
    for of, same in users.items():
        if len(same) > 1:
            names = " and ".join(vessel.name for vessel in same)
            found.add(
                f"shared-liquor:{of}",
                f"{names} both take over the bath of {of}: one after the other.",
                "What the first leaves is less: give each a first dip of its own, or leave one "
                "out.",
                [cell for vessel in same for cell in vessel.cells],
            )


def _on_heat_places(found: _Found, vessels: list[Vessel], shelf: Shelf) -> None:
    hot = [vessel for vessel in vessels if (vessel.temperature_c or 0) > HOT_C]
    strongest_w = max((p.power_w for p in shelf.heat_places if not p.retired), default=0.0)
    if hot and not strongest_w:
        found.add(
            "no-heat",
            f"{counted(len(hot), 'hot bath')}, and the Shelf has no heat place.",
            "Put a hotplate or a ring on the Shelf, or choose cold routes.",
            [cell for vessel in hot for cell in vessel.cells],
        )
        return
    for vessel in hot:
        rise_c = (vessel.temperature_c or 0) - ROOM_C
        joules = warming_j(vessel.volume_ml / 1000, rise_c)
        hours = joules / (strongest_w * PLACE_EFFICIENCY) / 3600
        if hours > LONGEST_WARMING_H:
            found.add(
                f"slow-heat:{vessel.name}",
                f"{vessel.name} would take {hours:.0f} h to warm on the strongest heat place.",
                f"{vessel.volume_ml / 1000:.0f} L to {vessel.temperature_c:g} °C with "
                f"{strongest_w:g} W: take a smaller bath or a stronger place.",
                vessel.cells,
            )


def _on_counted(found: _Found, vessels: list[Vessel], shelf: Shelf) -> None:
    for vessel in vessels:
        lot = shelf.dye_lot(vessel.dye or "")
        if lot and lot.measured == "counted" and lot.piece_g is None:
            found.add(
                f"never-weighed:{lot.key}",
                f"How much one {lot.piece_name} of {lot.name} weighs is not on the Shelf.",
                "Weigh one once: then strength, extract and stock are worked out from the count.",
                vessel.cells,
            )


def _on_lots(found: _Found, vessels: list[Vessel], shelf: Shelf) -> None:
    wanted: dict[str, float] = {}
    cells: dict[str, list[str]] = {}
    for vessel in vessels:
        lot = shelf.dye_lot(vessel.dye or "")
        if lot is None or not vessel.has_own_liquor:
            continue
        percent = vessel.strength_percent_wof or lot.strength_percent_wof
        grams = percent / 100 * vessel.dry_fibre_g
        for part, own in parts_of_lot(lot, grams, shelf):
            wanted[part.key] = wanted.get(part.key, 0.0) + own
            cells.setdefault(part.key, []).extend(vessel.cells)
    for key, grams in wanted.items():
        own_lot = shelf.dye_lot(key)
        in_hand = own_lot.amount_in_hand_g if own_lot else None
        if own_lot and in_hand is not None and grams > in_hand:
            found.add(
                f"short:{key}",
                f"{own_lot.name} does not suffice: {grams:.0f} g are needed, {in_hand:.0f} g are "
                "in hand.",
                "Take smaller swatches, a weaker bath, fewer cells, or get more.",
                cells[key],
            )


def _on_known_for(
    plan: StudyPlan, fibre_key: str, kind: FactorKind, lot_key: str, shelf: Shelf
) -> Said | None:
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


def _on_fugitive(
    plan: StudyPlan, fibre_key: str, kind: FactorKind, lot_key: str, shelf: Shelf
) -> Said | None:
    lot = shelf.dye_lot(lot_key)
    if lot is None or "fugitive" not in lot.known_for:
        return None
    return (
        f"fugitive:{lot.key}", f"{lot.name} is known to fade.",
        "Plan a light trial for it, and keep a piece dark.",
    )  # fmt: skip


def _on_twist(
    plan: StudyPlan, fibre_key: str, kind: FactorKind, lot_key: str, shelf: Shelf
) -> Said | None:
    fibre = shelf.fibre(fibre_key)
    if fibre is None or not fibre.twisted:
        return None
    return (
        f"twisted:{fibre.key}", f"{fibre.name} is noted as twisted: it comes out uneven.",
        "Wind it anew into loose hanks, or keep it in mind when the evenness is judged.",
    )  # fmt: skip


LOOKED_AT: tuple[
    tuple[FactorKind, FactorKind, Callable[[StudyPlan, str, FactorKind, str, Shelf], Said | None]],
    ...,
] = (
    ("fibre", "mordant", _on_mordant),
    ("fibre", "mordant", _on_iron_route),
    ("fibre", "ph", _on_alkali),
    ("fibre", "after_ph", _on_alkali),
    ("fibre", "iron", _on_iron),
    ("dye", "temperature", _on_heat),
    ("fibre", "dye", _on_known_for),
    ("fibre", "dye", _on_fugitive),
    ("fibre", "second_dye", _on_known_for),
    ("fibre", "second_dye", _on_fugitive),
    ("fibre", "dye", _on_twist),
)
