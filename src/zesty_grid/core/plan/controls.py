"""Controls: swatches with a treatment left out on purpose, and the bridge between vessels."""

from itertools import product

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.cells import BY_HAND, Cell, cell_key, cross
from zesty_grid.core.plan.factors import FactorKind, Level
from zesty_grid.core.plan.masses import ControlKind
from zesty_grid.core.plan.study_plan import Bridge, StudyPlan
from zesty_grid.core.plan.zones_on_cloth import ZONE_KINDS
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.shelf.starting_shelf import NO_MORDANT

NEUTRAL_PH = 7.0
NOT_CROSSED = "its cell is no longer crossed: choose another for it"
Levels = dict[FactorKind, str]
# What acts on the piece before or after the dye vessel, and so does not make a vessel of its own.
BESIDE_THE_DYE_VESSEL: frozenset[FactorKind] = frozenset(
    {
        "fibre",
        "mordant",
        "mordant_temperature",
        "mordant_duration",
        "iron_temperature",
        "iron_duration",
        "after_ph",
        "after_temperature",
        "after_duration",
        "second_dye",
        "second_temperature",
        "second_duration",
        "second_iron",
        *ZONE_KINDS,
    }
)


class ControlOffer(Frozen):
    """A control that the plan may have: how many swatches it costs and what it shows."""

    control: ControlKind
    swatches: int
    shows: str


SHOWS: dict[ControlKind, str] = {
    "undyed": "The colour that each fibre brings with it.",
    "unmordanted": "What the mordant adds.",
    "mordanted-undyed": "The colour that the mordant itself brings.",
    "bridge": "The same fibre and mordant in every dye vessel show how vessels differ.",
}


def all_cells(plan: StudyPlan, shelf: Shelf) -> list[Cell]:
    """The crossed cells and then the added controls."""
    crossed = cross(plan, shelf)
    left_out = frozenset(plan.left_out)
    added = []
    for control in dict.fromkeys(plan.controls):
        for levels in _levels_of(control, plan, crossed, shelf):
            key = cell_key(levels, control)
            out = key in left_out
            added.append(
                Cell(
                    key=key,
                    levels=levels,
                    control=control,
                    included=not out,
                    because=BY_HAND if out else "",
                    added=True,
                )
            )
    return crossed + added + _larger_pieces(plan)


def _larger_pieces(plan: StudyPlan) -> list[Cell]:
    """A cell for each larger piece; out where its levels are no longer crossed."""
    cells = []
    for piece in plan.larger_pieces:
        levels: Levels = {factor.kind: piece.levels.get(factor.kind, factor.levels[0].key) for factor in plan.factors}
        there = all(plan.level(kind, key) for kind, key in levels.items()) and bool(levels)
        cells.append(
            Cell(
                key=cell_key(levels, larger=piece.key),
                levels=levels,
                included=there,
                because="" if there else NOT_CROSSED,
                added=True,
                larger=piece.key,
            )
        )
    return cells


def control_offers(plan: StudyPlan, crossed: list[Cell], shelf: Shelf) -> list[ControlOffer]:
    """Controls that practitioners miss afterwards and this plan does not have yet."""
    offers = []
    for control, shows in SHOWS.items():
        count = len(_levels_of(control, plan, crossed, shelf))
        if control not in plan.controls and count:
            offers.append(ControlOffer(control=control, swatches=count, shows=shows))
    return offers


def bridge_of(plan: StudyPlan, shelf: Shelf) -> Bridge | None:
    """The chosen bridge piece; else the first fibre with the first mordant that suits it."""
    fibre, mordant = plan.factor("fibre"), plan.factor("mordant")
    if fibre is None:
        return None
    chosen = plan.bridge
    fits = chosen and (mordant is None or (chosen.mordant and mordant.level(chosen.mordant)))
    if chosen and fits and fibre.level(chosen.fibre):
        return chosen
    for level in fibre.levels:
        on_shelf = shelf.fibre(level.key)
        for route_level in mordant.levels if mordant else ():
            route = shelf.mordant_route(route_level.key)
            if route and route.baths and on_shelf and on_shelf.fibre_class in route.suits:
                return Bridge(fibre=level.key, mordant=route.key)
    return Bridge(fibre=fibre.levels[0].key, mordant=mordant.levels[0].key if mordant else None)


def _levels_of(control: ControlKind, plan: StudyPlan, crossed: list[Cell], shelf: Shelf) -> list[Levels]:
    fibre, mordant, dye = plan.factor("fibre"), plan.factor("mordant"), plan.factor("dye")
    if fibre is None:
        return []
    if control == "undyed":
        return [{"fibre": level.key} for level in fibre.levels]
    if control == "mordanted-undyed":
        if mordant is None or dye is None:
            return []
        mordanted = {
            (cell.levels["fibre"], cell.levels["mordant"]): None
            for cell in crossed
            if cell.included and cell.levels["mordant"] != NO_MORDANT
        }
        return [{"fibre": f, "mordant": m} for f, m in mordanted]
    if control == "unmordanted":
        if mordant is None or dye is None or mordant.level(NO_MORDANT):
            return []
        plainest = _plainest(plan)
        pairs: list[Levels] = [{"fibre": f.key, "dye": d.key} for f, d in product(fibre.levels, dye.levels)]
        return [pair | plainest for pair in pairs]
    return _missing_bridges(plan, crossed, shelf)


def _missing_bridges(plan: StudyPlan, crossed: list[Cell], shelf: Shelf) -> list[Levels]:
    """A bridge piece for each dye vessel that does not have one among its crossed cells."""
    bridge = bridge_of(plan, shelf)
    if bridge is None or plan.factor("dye") is None:
        return []
    vessels: dict[tuple[tuple[FactorKind, str], ...], Levels] = {}
    bridged = set()
    acting = {factor.kind for factor in plan.factors} - BESIDE_THE_DYE_VESSEL
    iron = plan.factor("iron")
    iron_in_pot = {v.key for v in (iron.levels if iron else ()) if v.route == "pot" and v.is_dosed}
    for cell in crossed:
        if not cell.included:
            continue
        vessel = tuple(
            (kind, key)
            for kind, key in cell.levels.items()
            if kind in acting and (kind != "iron" or key in iron_in_pot)
        )
        if vessel not in vessels:
            vessels[vessel] = dict(vessel)
        if cell.levels.get("fibre") == bridge.fibre and cell.levels.get("mordant") in (bridge.mordant, None):
            bridged.add(vessel)
    if len(vessels) < 2:
        return []
    piece: Levels = {"fibre": bridge.fibre}
    if bridge.mordant and plan.factor("mordant"):
        piece["mordant"] = bridge.mordant
    return [piece | levels for vessel, levels in vessels.items() if vessel not in bridged]


def _plainest(plan: StudyPlan) -> Levels:
    """The pH nearest to neutral, the least iron, else the first level: for added controls."""
    found: Levels = {}
    for factor in plan.factors:
        if factor.kind in ("fibre", "mordant", "dye", *ZONE_KINDS):
            continue
        if factor.kind in ("ph", "after_ph"):
            level = min(factor.levels, key=_off_neutral)
        elif factor.kind in ("iron", "second_iron", "dip", "reheats", "rest"):
            level = min(factor.levels, key=_value)
        else:
            level = factor.levels[0]
        found[factor.kind] = level.key
    return found


def _off_neutral(level: Level) -> float:
    return 0.0 if level.value is None else abs(level.value - NEUTRAL_PH)


def _value(level: Level) -> float:
    return level.value if level.value is not None else 0.0
