"""Vessels for the baths: by what acts in them, by how much they hold, with the fewest."""

from dataclasses import dataclass, field
from random import Random

from zesty_grid.core.plan.baths import BATH_ORDER, Bath, baths_of
from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.swatches import SwatchPlace, swatches_of
from zesty_grid.core.shelf.items import ShelfVessel
from zesty_grid.core.shelf.shelf import Shelf

# Room to stir without spilling; common practice.
FILL_SHARE = 0.8
HOT_C = 45.0


class Vessel(Bath):
    """One pot or jar, used for one bath. `key` says what acts in it and stays when others go.

    `swatches` stand in the random order of their positions; `run_order` is the vessel's place
    among those of the same kind of bath. `on_shelf` is None where no vessel of the Shelf fits.
    """

    name: str
    run_order: int
    part: int = 1
    parts: int = 1
    replicate: int | None = None
    on_shelf: str | None
    on_shelf_name: str
    volume_ml: float
    swatches: tuple[str, ...]
    cells: tuple[str, ...]


@dataclass
class _Group:
    """Swatches that go through the same bath, and which run of the study they belong to."""

    bath: Bath
    replicate: int | None
    swatches: list[SwatchPlace] = field(default_factory=list)


def vessels_of(plan: StudyPlan, cells: list[Cell], shelf: Shelf) -> list[Vessel]:
    """Vessels in the order of the work, each with the swatches that go in."""
    groups = _groups(plan, cells, shelf)
    vessels: list[Vessel] = []
    for kind, letter in BATH_ORDER.items():
        same = [group for group in groups if group.bath.bath == kind]
        made = [vessel for group in same for vessel in _fill(plan, group, shelf)]
        order = list(range(1, len(made) + 1))
        Random(f"{plan.order_seed}:{kind}").shuffle(order)
        vessels += [
            vessel.model_copy(update={"name": f"{letter}{i + 1}", "run_order": order[i]})
            for i, vessel in enumerate(made)
        ]
    return vessels


def vessels_of_bath(
    plan: StudyPlan, bath: Bath, swatches: list[SwatchPlace], shelf: Shelf
) -> list[Vessel]:
    """The vessels for one bath of these swatches; they have no name and no order yet."""
    return _fill(plan, _Group(bath, None, swatches), shelf)


def number_of_vessels(plan: StudyPlan, cells: list[Cell], shelf: Shelf) -> int:
    """How many vessels there would be, without saying who goes into which."""
    return sum(len(_loads(plan, group, shelf)) for group in _groups(plan, cells, shelf))


def fits(bath: Bath, vessel: ShelfVessel) -> bool:
    """Whether a vessel is right for a bath: iron apart, no plastic or iron pot in heat."""
    if vessel.retired or vessel.iron_only != bath.has_iron:
        return False
    if (vessel.form == "steamer") != (bath.process == "bundle-print"):
        return False
    if bath.process == "sun-jar" and vessel.form != "jar":
        return False
    hot = (bath.temperature_c or 0) > HOT_C
    return not (hot and vessel.material == "plastic")


def room_for(vessel: ShelfVessel, swatch_ml: float) -> int:
    """How many swatches a vessel holds, with room to stir."""
    return int(vessel.litres * 1000 * FILL_SHARE / swatch_ml + 1e-9)


def fewest_vessels(count: int, kinds: list[tuple[str, int, int]]) -> list[tuple[str, int]]:
    """The fewest vessels for `count` swatches, from kinds of (key, room, number there).

    Answers the key and the load of each. Taking the roomiest first is optimal, as each vessel
    may take any number up to its room; the last is like the one before it where there is another,
    so that the pots of one bath are alike, else the smallest that does. When all are full, they
    are used again, one load after the other. Loads are spread evenly.
    """
    there = [(key, room, n) for key, room, n in kinds if room > 0]
    if count <= 0 or not there:
        return []
    room = {key: size for key, size, _ in there}
    chosen: list[tuple[str, int]] = []
    left = count
    while left > 0:
        free = {key: number for key, _, number in there}
        while left > 0 and any(free.values()):
            open_ones = [key for key, number in free.items() if number]
            enough = [key for key in open_ones if room[key] >= left]
            alike = chosen[-1][0] if chosen else ""
            if alike in enough:
                pick = alike
            elif enough:
                pick = min(enough, key=room.__getitem__)
            else:
                pick = max(open_ones, key=room.__getitem__)
            free[pick] -= 1
            chosen.append((pick, room[pick]))
            left -= room[pick]
    return _even_loads(count, chosen)


def _even_loads(count: int, chosen: list[tuple[str, int]]) -> list[tuple[str, int]]:
    loads = [0] * len(chosen)
    left = count
    while left:
        open_ones = [i for i, (_, room) in enumerate(chosen) if loads[i] < room]
        share = max(1, left // len(open_ones))
        for i in open_ones:
            given = min(share, chosen[i][1] - loads[i], left)
            loads[i] += given
            left -= given
    return [(key, load) for (key, _), load in zip(chosen, loads, strict=True)]


def _groups(plan: StudyPlan, cells: list[Cell], shelf: Shelf) -> list[_Group]:
    found: dict[str, _Group] = {}
    # The baths of a cell do not depend on its fibre.
    known: dict[tuple[str, ...], list[Bath]] = {}
    baths: dict[str, list[Bath]] = {}
    for cell in cells:
        if cell.included:
            what = tuple(key for kind, key in cell.levels.items() if kind != "fibre")
            if what not in known:
                known[what] = baths_of(plan, cell, shelf)
            baths[cell.key] = known[what]
    apart = plan.replicate_vessels == "apart"
    for swatch in swatches_of(cells, plan.replicates):
        run = swatch.replicate if apart and plan.replicates > 1 else None
        for bath in baths[swatch.cell]:
            key = bath.key if run in (None, 1) else f"{bath.key}:run-{run}"
            group = found.get(key)
            if group is None:
                bath = bath.model_copy(update={"key": key})
                group = found[key] = _Group(bath, run)
            group.swatches.append(swatch)
    return list(found.values())


def _loads(plan: StudyPlan, group: _Group, shelf: Shelf) -> list[tuple[str | None, int]]:
    """The vessel of the Shelf and the number of swatches for each part of a bath."""
    swatch_ml = plan.swatch_mass_g * plan.liquor_ratio_ml_per_g
    kinds = [
        (vessel.key, room_for(vessel, swatch_ml), vessel.count)
        for vessel in shelf.vessels
        if fits(group.bath, vessel)
    ]
    count = len(group.swatches)
    return [*fewest_vessels(count, kinds)] or [(None, count)]


def _fill(plan: StudyPlan, group: _Group, shelf: Shelf) -> list[Vessel]:
    swatch_ml = plan.swatch_mass_g * plan.liquor_ratio_ml_per_g
    loads = _loads(plan, group, shelf)
    dealt = _deal(plan, group, [load for _, load in loads])
    run = f", run {group.replicate}" if group.replicate else ""
    vessels = []
    for part, ((on_shelf, _), swatches) in enumerate(zip(loads, dealt, strict=True), 1):
        split = f", pot {part} of {len(loads)}" if len(loads) > 1 else ""
        facts = group.bath.model_dump()
        facts["key"] = group.bath.key if part == 1 else f"{group.bath.key}:pot-{part}"
        facts["title"] = f"{group.bath.title}{run}{split}"
        vessels.append(
            Vessel(
                **facts, name="", run_order=0, part=part, parts=len(loads),
                replicate=group.replicate, on_shelf=on_shelf,
                on_shelf_name=own.name if (own := shelf.vessel(on_shelf or "")) else "",
                volume_ml=len(swatches) * swatch_ml,
                swatches=tuple(swatch.key for swatch in swatches),
                cells=tuple(dict.fromkeys(swatch.cell for swatch in swatches)),
            )
        )  # fmt: skip
    return vessels


def _deal(plan: StudyPlan, group: _Group, loads: list[int]) -> list[list[SwatchPlace]]:
    """Random positions; where a bath is split, each part gets its share of like swatches."""
    random = Random(f"{plan.order_seed}:{group.bath.key}")
    shuffled = list(group.swatches)
    random.shuffle(shuffled)
    if len(loads) == 1:
        return [shuffled]
    # Neighbours in this order are alike, and are dealt to different vessels.
    place = {swatch.key: i for i, swatch in enumerate(group.swatches)}
    alike = sorted(shuffled, key=lambda swatch: place[swatch.key] // len(loads))
    turns = sorted(((k + 0.5) / load, i) for i, load in enumerate(loads) for k in range(load))
    dealt: list[list[SwatchPlace]] = [[] for _ in loads]
    for swatch, (_, i) in zip(alike, turns, strict=True):
        dealt[i].append(swatch)
    for part in dealt:
        random.shuffle(part)
    return dealt
