"""Which swatch has which place in the plan. Swatches go by identity, places by levels.

Swatches that were begun keep their levels whatever the plan becomes; those that were not follow
the plan and keep their codes as far as they can.
"""

from collections import Counter
from collections.abc import Iterable, Mapping
from typing import NamedTuple

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.cells import Cell, cell_key
from zesty_grid.core.plan.factors import APART, FactorKind, Level, makes_no_difference
from zesty_grid.core.plan.masses import own_mass_g
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.zones_on_cloth import ZONE_KINDS, cloths_of
from zesty_grid.core.record.swatch import Levels, NewSwatch, Swatch
from zesty_grid.core.refusal import Fault, Refusal

# Levels that the study ever had, by factor and key: what is begun may have one that is gone.
LevelArchive = Mapping[tuple[FactorKind, str], Level]


class Slot(NamedTuple):
    """One swatch's place in the plan."""

    cell: Cell
    replicate: int


class Placement(Frozen):
    """Every swatch of the study as it stands under the plan, and the places still empty."""

    swatches: tuple[Swatch, ...]
    new: tuple[NewSwatch, ...]


def slots_of(plan: StudyPlan, cells: Iterable[Cell]) -> list[Slot]:
    """Every place of the included cells, replicate by replicate, and those that are made again."""
    again = Counter(plan.made_again)
    return [
        Slot(cell, r) for cell in cells if cell.included for r in range(1, wanted_of(plan, cell) + again[cell.key] + 1)
    ]


def wanted_of(plan: StudyPlan, cell: Cell) -> int:
    """How many pieces a cell is to have; larger ones are there once."""
    return 1 if cell.larger else plan.replicates


def place_swatches(
    plan: StudyPlan,
    cells: list[Cell],
    existing: Iterable[Swatch],
    archive: LevelArchive,
    sources: Mapping[str, Swatch] | None = None,
) -> Placement:
    """Gives each place to a swatch: those begun first, then those that had it, then the nearest.

    `sources` are the earlier swatches that fibre levels name, by code. Raises Refusal where a
    level has too few of them for its places.
    """
    every = sorted(existing, key=lambda s: (s.replicate, s.serial))
    cells = cloths_of(cells)
    open_slots = {(slot.cell.key, slot.replicate): slot for slot in slots_of(plan, cells)}
    own_kinds = _kinds_of_added(cells)
    stand: dict[str, Swatch] = {}
    for swatch in every:
        if swatch.begun:
            levels = levels_in_plan(plan, swatch, archive, own_kinds)
            key = cell_key(levels, swatch.control, swatch.larger) if levels else ""
            slot = _take(open_slots, key, swatch.replicate, plan.replicates)
            stand[swatch.code] = swatch.model_copy(update={"planned": slot is not None})
    waiting = [swatch for swatch in every if not swatch.begun]
    for swatch in waiting:
        key = cell_key(swatch.levels, swatch.control, swatch.larger)
        if slot := open_slots.pop((key, swatch.replicate), None):
            stand[swatch.code] = _moved(plan, swatch, slot)
    waiting = [swatch for swatch in waiting if swatch.code not in stand]
    for slot, swatch in _nearest(list(open_slots.values()), waiting):
        del open_slots[slot.cell.key, slot.replicate]
        stand[swatch.code] = _moved(plan, swatch, slot)
    for swatch in waiting:
        stand.setdefault(swatch.code, swatch.model_copy(update={"planned": False}))
    taken, new = _from_sources(plan, list(open_slots.values()), stand, sources or {})
    stand |= {swatch.code: swatch for swatch in taken}
    in_order = sorted(stand.values(), key=lambda swatch: swatch.serial)
    return Placement(swatches=tuple(in_order), new=tuple(new))


def levels_in_plan(
    plan: StudyPlan, swatch: Swatch, archive: LevelArchive, own_kinds: Mapping[str, frozenset[FactorKind]]
) -> Levels | None:
    """The levels that a begun swatch has of the plan's factors; None: the plan has no such place.

    A factor that came later counts as its `begun_as`; of one that is gone only a level that makes
    no difference may be passed over.
    """
    wanted = (
        own_kinds.get(_added_name(swatch), frozenset())
        if swatch.added
        else {factor.kind for factor in plan.factors} - set(ZONE_KINDS)
    )
    found: Levels = {}
    for factor in plan.factors:
        if factor.kind not in wanted:
            continue
        level = swatch.levels.get(factor.kind) or factor.begun_as
        if level is None or level == APART:
            return None
        found[factor.kind] = level
    gone = (kind for kind in swatch.levels if kind not in wanted)
    return found if all(_is_idle(archive, kind, swatch.levels[kind]) for kind in gone) else None


def shown_levels(plan: StudyPlan, swatch: Swatch, archive: LevelArchive) -> Levels:
    """The levels at which the grid shows a swatch: those it really has, the later ones counted."""
    found: Levels = {
        kind: level for kind, level in swatch.levels.items() if plan.factor(kind) or not _is_idle(archive, kind, level)
    }
    if not swatch.added:
        for factor in plan.factors:
            of_zones = factor.kind in ZONE_KINDS
            if swatch.begun and factor.begun_as not in (None, APART) and not of_zones:
                found.setdefault(factor.kind, factor.begun_as or "")
    return found | (swatch.true_levels or {})


def lacks_a_level(plan: StudyPlan, swatches: Iterable[Swatch]) -> dict[FactorKind, int]:
    """Factors for which it was not said yet as what the begun swatches count, with their number."""
    found: dict[FactorKind, int] = {}
    for swatch in swatches:
        if not swatch.begun or swatch.added:
            continue
        for factor in plan.factors:
            if factor.kind in swatch.levels or factor.kind in ZONE_KINDS:
                continue
            if factor.begun_as is None:
                found[factor.kind] = found.get(factor.kind, 0) + 1
    return found


def mass_of_cell_g(plan: StudyPlan, cell: Cell) -> float:
    """The dry mass of one piece of a cell."""
    if cell.larger:
        return next(piece.mass_g for piece in plan.larger_pieces if piece.key == cell.larger)
    return own_mass_g(plan.own_masses, cell.levels.get("fibre"), cell.control, plan.swatch_mass_g)


def _is_idle(archive: LevelArchive, kind: FactorKind, key: str) -> bool:
    level = archive.get((kind, key))
    return level is not None and makes_no_difference(kind, level)


def _added_name(swatch: Swatch) -> str:
    return f"larger {swatch.larger}" if swatch.larger else f"control {swatch.control}"


def _kinds_of_added(cells: Iterable[Cell]) -> dict[str, frozenset[FactorKind]]:
    """Which factors the cells of each added control, and of each larger piece, have."""
    found: dict[str, frozenset[FactorKind]] = {}
    for cell in cells:
        if cell.added:
            name = f"larger {cell.larger}" if cell.larger else f"control {cell.control}"
            found[name] = found.get(name, frozenset()) | frozenset(cell.levels)
    return found


def _take(open_slots: dict[tuple[str, int], Slot], key: str, replicate: int, replicates: int) -> Slot | None:
    """The swatch's own replicate if it is free, else the first that is."""
    for r in (replicate, *range(1, replicates + 1)):
        if slot := open_slots.pop((key, r), None):
            return slot
    return None


def _nearest(slots: list[Slot], waiting: list[Swatch]) -> list[tuple[Slot, Swatch]]:
    """Swatches for slots that differ only by factors that one of the two does not have."""
    by_kinds: dict[tuple[str | None, str | None, frozenset[FactorKind]], list[Swatch]] = {}
    for swatch in waiting:
        name = (swatch.control, swatch.larger, frozenset(swatch.levels))
        by_kinds.setdefault(name, []).append(swatch)
    pairs = []
    used: set[str] = set()
    for (control, larger, kinds), swatches in by_kinds.items():
        indexed: dict[tuple[frozenset[FactorKind], tuple[str, ...]], list[Swatch]] = {}
        known: set[frozenset[FactorKind]] = set()
        for slot in slots:
            cell = slot.cell
            own = (cell.control if cell.added and not cell.larger else None, cell.larger)
            if own != (control, larger):
                continue
            common = kinds & frozenset(cell.levels)
            if common not in known:
                known.add(common)
                for swatch in sorted(swatches, key=lambda s: s.serial):
                    indexed.setdefault(_on(common, swatch.levels), []).append(swatch)
            free = [s for s in indexed.get(_on(common, cell.levels), ()) if s.code not in used]
            same = [s for s in free if s.replicate == slot.replicate]
            if free:
                pick = (same or free)[0]
                used.add(pick.code)
                pairs.append((slot, pick))
        taken = {(slot.cell.key, slot.replicate) for slot, _ in pairs}
        slots = [slot for slot in slots if (slot.cell.key, slot.replicate) not in taken]
    return pairs


def _on(
    kinds: frozenset[FactorKind], levels: Mapping[FactorKind, str]
) -> tuple[frozenset[FactorKind], tuple[str, ...]]:
    return kinds, tuple(levels[kind] for kind in sorted(kinds))


def _moved(plan: StudyPlan, swatch: Swatch, slot: Slot) -> Swatch:
    cell = slot.cell
    changes: dict[str, object] = {"levels": cell.levels, "replicate": slot.replicate, "planned": True}
    if not swatch.settled:
        level = plan.level("fibre", cell.levels.get("fibre"))
        fibre = swatch.fibre if level and level.swatches else cell.levels.get("fibre", "")
        changes |= {"fibre": fibre, "mass_g": mass_of_cell_g(plan, cell), "pieces": plan.pieces}
    return swatch.model_copy(update=changes)


def _from_sources(
    plan: StudyPlan, slots: list[Slot], stand: Mapping[str, Swatch], sources: Mapping[str, Swatch]
) -> tuple[list[Swatch], list[NewSwatch]]:
    """Earlier swatches taken whole for their level's places; for the rest, new pieces."""
    taken: list[Swatch] = []
    new: list[NewSwatch] = []
    in_use = {code for code, swatch in stand.items() if swatch.planned or swatch.begun}
    cut_from: dict[str, int] = {}
    for swatch in stand.values():
        if swatch.parent and swatch.planned:
            cut_from[swatch.parent] = cut_from.get(swatch.parent, 0) + 1
    for slot in slots:
        level = plan.level("fibre", slot.cell.levels.get("fibre"))
        # A larger piece stands beside the swatches: it is not made of one.
        codes = level.swatches if level and not slot.cell.larger else ()
        if level and codes and not level.cut:
            code = next((one for one in codes if one not in in_use and one in sources), None)
            if code is None:
                raise _too_few(level, slots)
            in_use.add(code)
            taken.append(_moved(plan, stand.get(code) or _fresh(sources[code]), slot))
            continue
        parent = None
        if codes:
            parent = min(codes, key=lambda one: (cut_from.get(one, 0), codes.index(one)))
            cut_from[parent] = cut_from.get(parent, 0) + 1
        new.append(_new(plan, slot, parent, sources))
    return taken, new


def _fresh(source: Swatch) -> Swatch:
    """An earlier swatch as it comes into another study, in which nothing of it has begun."""
    return source.model_copy(update={"begun": False, "control": None, "larger": None, "true_levels": None})


def _new(plan: StudyPlan, slot: Slot, parent: str | None, sources: Mapping[str, Swatch]) -> NewSwatch:
    cell = slot.cell
    source = sources.get(parent or "")
    return NewSwatch(
        fibre=source.fibre if source else cell.levels.get("fibre", ""),
        mass_g=mass_of_cell_g(plan, cell),
        pieces=plan.pieces,
        levels=cell.levels,
        control=cell.control if cell.added and not cell.larger else None,
        larger=cell.larger,
        replicate=slot.replicate,
        parent=parent,
    )


def _too_few(level: Level, slots: list[Slot]) -> Refusal:
    count = sum(slot.cell.levels.get("fibre") == level.key for slot in slots)
    cure = "Cut pieces from them, take more of them, or cross fewer levels."
    return Refusal(
        "too-few-swatches",
        f"“{level.label}” has {len(level.swatches)} earlier swatches: too few for the {count} "
        "places that are still to be filled.",
        cure,
        (Fault(field="factors.fibre", given=level.label, allowed="a swatch for each place", cure=cure),),
    )
