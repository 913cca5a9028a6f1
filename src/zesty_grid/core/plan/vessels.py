"""Vessels for the baths still to come: by what acts in them, by how much they hold."""

from dataclasses import dataclass, field
from random import Random

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.bath import BATH_ORDER, Bath
from zesty_grid.core.plan.baths import bath_left, baths_of
from zesty_grid.core.plan.filling import (
    VesselKind,
    fewest_for_unlike,
    fewest_vessels,
    room_for,
    room_ml,
)
from zesty_grid.core.plan.liquors import Dip, dip_taken_over
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.study_plan import OwnVessel
from zesty_grid.core.plan.treatment_bath import treatment_bath
from zesty_grid.core.plan.zones_on_cloth import has_zones
from zesty_grid.core.record.swatch import Swatch
from zesty_grid.core.record.taken import names_for
from zesty_grid.core.shelf.items import ShelfVessel
from zesty_grid.core.weigh.working import counted, grams_words

HOT_C = 45.0


class TakenOut(Frozen):
    """Pieces that come out of a vessel before the others, so long after they went in."""

    after_min: int
    swatches: tuple[str, ...]


class Vessel(Bath):
    """One pot or jar, used for one bath. `key` says what acts in it; `name` is its own for ever.

    `swatches` stand in the random order of their positions, by code; `run_order` is the vessel's
    place among those of the same kind of bath. `on_shelf` is None where no vessel of the Shelf
    fits. `fibre_words` is the working of `dry_fibre_g`. `liquor_of` is the vessel whose liquor it
    takes over, and in which it stands. `outs` come out before the rest, the soonest first.
    `rolls` say which cloths lie in which roll.
    """

    name: str
    run_order: int
    part: int = 1
    parts: int = 1
    replicate: int | None = None
    on_shelf: str | None
    on_shelf_name: str
    volume_ml: float
    dry_fibre_g: float = 0.0
    fibre_words: str = ""
    swatches: tuple[str, ...]
    cells: tuple[str, ...]
    liquor_of: str | None = None
    outs: tuple[TakenOut, ...] = ()
    rolls: tuple[tuple[str, ...], ...] = ()

    @property
    def has_own_liquor(self) -> bool:
        """It is filled anew: no later dip, and no bath that is used again."""
        return (self.dip or 1) == 1 and self.again is None


@dataclass
class _Group:
    """Swatches that go through the same bath, and which run of the study they belong to."""

    bath: Bath
    replicate: int | None
    swatches: list[Swatch] = field(default_factory=list)
    minutes: dict[str, int] = field(default_factory=dict)


def vessels_of(study: PlannedStudy) -> list[Vessel]:
    """Vessels that have not begun, in the order of the work, each with who goes in."""
    groups = _groups(study)
    vessels: list[Vessel] = []
    for kind, letter in BATH_ORDER.items():
        made = _fill_all(study, [group for group in groups if group.bath.bath == kind])
        names = names_for(kind, letter, ((v.key, frozenset(v.swatches)) for v in made), study.taken)
        named = [
            vessel.model_copy(update={"name": name})
            for vessel, name in zip(made, names, strict=True)
        ]
        name_of = {vessel.key: vessel.name for vessel in named}
        # Until they are named, vessels say by key whose liquor they take over.
        vessels += [
            vessel.model_copy(update={"liquor_of": name_of.get(of, of)})
            if (of := vessel.liquor_of)
            else vessel
            for vessel in named
        ]
    return _in_run_order(study, _used_again(study, vessels))


def _used_again(study: PlannedStudy, vessels: list[Vessel]) -> list[Vessel]:
    """Baths that are used once more stand in the vessel of that bath, with its liquor."""
    known: dict[str, Dip] = {one.name: one for one in study.taken.liquors}
    known |= {one.name: one for one in vessels}
    found = []
    for vessel in vessels:
        before = known.get(vessel.again or "")
        if before is not None:
            vessel = known[vessel.name] = _over(vessel, before, before.name)
        found.append(vessel)
    return found


def _over(vessel: Vessel, before: Dip, liquor_of: str) -> Vessel:
    return vessel.model_copy(
        update={
            "on_shelf": before.on_shelf, "on_shelf_name": before.on_shelf_name,
            "volume_ml": before.volume_ml, "liquor_of": liquor_of,
        }
    )  # fmt: skip


def _in_run_order(study: PlannedStudy, vessels: list[Vessel]) -> list[Vessel]:
    """Each kind of bath is run in a random order, after those of it that have begun; no later dip
    before the one whose liquor it takes. One that begins does not move the others."""
    numbers: dict[str, int] = {}
    for kind, letters in BATH_ORDER.items():
        same = [vessel for vessel in vessels if vessel.bath == kind]
        seed = f"{study.plan.order_seed}:{kind}"
        by_lot = sorted(same, key=lambda one: (Random(f"{seed}:{one.key}").random(), one.key))
        place = {vessel.name: i for i, vessel in enumerate(by_lot)}
        by_name = {vessel.name: vessel for vessel in same}
        waiting = list(by_lot)
        begun = sum(name.rstrip("0123456789") == letters for name in study.taken.names)
        while waiting:
            ready = [
                one for one in waiting
                if one.liquor_of not in by_name or one.liquor_of in numbers
            ]  # fmt: skip
            # A plan may name baths in a circle: then by lot.
            following = min(ready or waiting, key=lambda one: place[one.name])
            begun += 1
            numbers[following.name] = begun
            waiting.remove(following)
    return [one.model_copy(update={"run_order": numbers[one.name]}) for one in vessels]


def vessels_of_bath(study: PlannedStudy, bath: Bath, swatches: list[Swatch]) -> list[Vessel]:
    """The vessels for one bath of these swatches; they have no name and no order yet."""
    return _fill(study, _Group(bath, None, swatches))


def number_of_vessels(study: PlannedStudy) -> int:
    """How many vessels there would be, without saying who goes into which."""
    return sum(len(_loads(study, group)) for group in _groups(study))


def fits(bath: Bath, vessel: ShelfVessel) -> bool:
    """Whether a vessel is right for a bath: iron apart, no plastic or iron pot in heat."""
    if vessel.retired or vessel.iron_only != bath.has_iron:
        return False
    if (vessel.form == "steamer") != (bath.process == "bundle-print"):
        return False
    if bath.process in ("sun-jar", "water-bath") and vessel.form != "jar":
        return False
    hot = (bath.temperature_c or 0) > HOT_C
    return not (hot and vessel.material == "plastic")


def _groups(study: PlannedStudy) -> list[_Group]:
    found: dict[str, _Group] = {}
    plan = study.plan
    # The baths of a swatch do not depend on its fibre.
    known: dict[tuple[tuple[str, str], ...], list[Bath]] = {}
    zones = has_zones(plan)
    ahead: dict[object, list[Bath]] = {}
    treatments = [treatment_bath(one, study.shelf) for one in plan.treatments]
    named = [frozenset(one.swatches) for one in plan.treatments]
    apart = plan.replicate_vessels == "apart"
    inside = study.planned
    there = {swatch.code for swatch in inside}
    # Swatches that the plan no longer has, and those of other studies, may still go on.
    inside = [*inside, *(s for s in study.by_code.values() if s.code not in there)]
    for swatch in inside:
        what: tuple[tuple[str, str], ...] | None = None
        if swatch.code in there:
            levels = study.levels(swatch)
            what = tuple((kind, key) for kind, key in levels.items() if kind != "fibre")
            with_zones = zones and swatch.control is None
            what = (*what, ("zones", "yes")) if with_zones else what
            if what not in known:
                known[what] = baths_of(plan, levels, study.shelf, with_zones)
        own = tuple(i for i, codes in enumerate(named) if swatch.code in codes)
        run = swatch.replicate if apart and plan.replicates > 1 and swatch.code in there else None
        taken = study.taken
        past, been = taken.past_of(swatch.code), taken.been_in(swatch.code)
        if (what, own, past, been) not in ahead:
            every = [*(known[what] if what is not None else ()), *(treatments[i] for i in own)]
            ahead[what, own, past, been] = bath_left(every, past, been)
        for bath in ahead[what, own, past, been]:
            of_run = None if bath.treatment else run
            key = bath.key if of_run in (None, 1) else f"{bath.key}:run-{of_run}"
            group = found.get(key)
            if group is None:
                bath = bath.model_copy(update={"key": key})
                group = found[key] = _Group(bath, of_run)
            if bath.has_iron and not group.bath.has_iron:
                # One that brings iron makes it an iron bath for all.
                group.bath = group.bath.model_copy(update={"has_iron": True})
            if bath.bath == "dye" and plan.taken_out == "one vessel":
                group.minutes[swatch.code] = bath.duration_min or 0
            group.swatches.append(swatch)
    # Treatments are numbered last, in their order: they name the baths before them by number.
    turn = {one.key: i for i, one in enumerate(plan.treatments)}
    return sorted(found.values(), key=lambda one: turn.get(one.bath.treatment or "", -1))


def _by_hand(study: PlannedStudy, group: _Group) -> OwnVessel | None:
    """The vessels or the volume that a person chose for a bath."""
    key = group.bath.key
    wanted = (key, key.split(":run-")[0])
    return next((one for one in study.plan.own_vessels if one.bath in wanted), None)


def _ml_per_g(study: PlannedStudy, group: _Group) -> float:
    own = _by_hand(study, group)
    if own is None or own.litres is None:
        return study.plan.liquor_ratio_ml_per_g
    return 1000 * own.litres / sum(swatch.mass_g for swatch in group.swatches)


def _loads(study: PlannedStudy, group: _Group) -> list[tuple[str | None, list[int]]]:
    """The vessel of the Shelf and the swatches, by number, for each part of a bath."""
    own = _by_hand(study, group)
    chosen = [study.shelf.vessel(key) for key in own.vessels] if own else []
    pots = [pot for pot in chosen if pot is not None][: len(group.swatches)]
    if pots:
        return _into_unequal(study, group, pots)
    usable = [vessel for vessel in study.shelf.vessels if fits(group.bath, vessel)]
    ratio = _ml_per_g(study, group)
    if group.bath.rolling and group.bath.rolling.cloths_per_roll > 1:
        return _rolls_into(group, usable, ratio)
    volumes = [swatch.mass_g * ratio for swatch in group.swatches]
    if len(set(volumes)) > 1:
        kinds = [VesselKind(v.key, room_ml(v.litres), v.count) for v in usable]
        unlike = fewest_for_unlike(volumes, kinds)
        return [*unlike] or [(None, list(range(len(volumes))))]
    alike = [(v.key, room_for(v.litres, volumes[0]), v.count) for v in usable]
    loads: list[tuple[str | None, int]] = [*fewest_vessels(len(volumes), alike)]
    loads = loads or [(None, len(volumes))]
    dealt = _deal(study, group, [load for _, load in loads])
    return [(key, part) for (key, _), part in zip(loads, dealt, strict=True)]


def _rolls_into(
    group: _Group, usable: list[ShelfVessel], ratio: float
) -> list[tuple[str | None, list[int]]]:
    """The layers of a roll go into one vessel; a roll is never split."""
    size = group.bath.rolling.cloths_per_roll if group.bath.rolling else 1
    numbers = list(range(len(group.swatches)))
    rolls = [numbers[i : i + size] for i in range(0, len(numbers), size)]
    volumes = [sum(group.swatches[i].mass_g for i in roll) * ratio for roll in rolls]
    kinds = [VesselKind(v.key, room_ml(v.litres), v.count) for v in usable]
    loads = fewest_for_unlike(volumes, kinds)
    if not loads:
        return [(None, numbers)]
    return [(key, [i for roll in part for i in rolls[roll]]) for key, part in loads]


def _into_unequal(
    study: PlannedStudy, group: _Group, pots: list[ShelfVessel]
) -> list[tuple[str | None, list[int]]]:
    """Pieces dealt out to vessels by their room, like ones to different vessels."""
    loads = [1] * len(pots)
    for _ in range(len(group.swatches) - len(pots)):
        roomiest = max(range(len(pots)), key=lambda i: pots[i].litres / loads[i])
        loads[roomiest] += 1
    dealt = _deal(study, group, loads)
    return [(pot.key, part) for pot, part in zip(pots, dealt, strict=True)]


def _fill_all(study: PlannedStudy, groups: list[_Group]) -> list[Vessel]:
    """The vessels of all groups of a kind; later dips go into the pots of the first."""
    made: dict[str, list[Vessel]] = {}
    for group in sorted(groups, key=lambda one: one.bath.dip or 0):
        bath = group.bath
        earlier: list[Dip] = [*study.taken.liquors, *(v for own in made.values() for v in own)]
        pots = dip_taken_over(bath.key, bath.dip, earlier) if bath.dip and bath.dip > 1 else []
        made[bath.key] = _fill_again(study, group, pots) if pots else _fill(study, group)
    return [vessel for group in groups for vessel in made[group.bath.key]]


def _fill_again(study: PlannedStudy, group: _Group, pots: list[Dip]) -> list[Vessel]:
    """Pieces dealt out to pots in which a liquor stands already, each by its share of it."""
    count = len(group.swatches)
    used = pots[:count]
    loads = [1] * len(used)
    for _ in range(count - len(used)):
        # The next piece goes where there is most liquor for each that is there.
        roomiest = max(range(len(used)), key=lambda i: used[i].volume_ml / loads[i])
        loads[roomiest] += 1
    dealt = _deal(study, group, loads)
    keys = {pot.name or pot.key: pot for pot in used}
    return [
        _over(_vessel(study, group, numbers, part, len(used), None), pot, of)
        for part, ((of, pot), numbers) in enumerate(zip(keys.items(), dealt, strict=True), 1)
    ]


def _fill(study: PlannedStudy, group: _Group) -> list[Vessel]:
    loads = _loads(study, group)
    return [
        _vessel(study, group, numbers, part, len(loads), on_shelf)
        for part, (on_shelf, numbers) in enumerate(loads, 1)
    ]


def _vessel(
    study: PlannedStudy, group: _Group, numbers: list[int], part: int, parts: int,
    on_shelf: str | None,
) -> Vessel:  # fmt: skip
    """One of the `parts` vessels of a bath; it has no name and no place in the order yet."""
    run = f", run {group.replicate}" if group.replicate else ""
    swatches = [group.swatches[i] for i in numbers]
    if parts > 1 and len({swatch.mass_g for swatch in group.swatches}) > 1:
        Random(f"{study.plan.order_seed}:{group.bath.key}:{part}").shuffle(swatches)
    split = f", pot {part} of {parts}" if parts > 1 else ""
    facts = group.bath.model_dump()
    facts["key"] = group.bath.key if part == 1 else f"{group.bath.key}:pot-{part}"
    facts["title"] = f"{group.bath.title}{run}{split}"
    mass_g, words = dry_fibre(swatches)
    own = study.shelf.vessel(on_shelf or "")
    share = mass_g / sum(swatch.mass_g for swatch in group.swatches)
    for dose in ("dose_g", "iron_g"):
        facts[dose] = facts[dose] and facts[dose] * share
    outs, longest = _outs(group, swatches)
    facts["duration_min"] = longest or facts["duration_min"]
    return Vessel(
        **facts, name="", run_order=0, part=part, parts=parts, replicate=group.replicate,
        on_shelf=on_shelf, on_shelf_name=own.name if own else "",
        volume_ml=mass_g * _ml_per_g(study, group), dry_fibre_g=mass_g, outs=outs,
        rolls=_rolls(group.bath, swatches),
        fibre_words=words, swatches=tuple(swatch.code for swatch in swatches),
        cells=tuple(dict.fromkeys(study.cell(swatch) for swatch in swatches)),
    )  # fmt: skip


def _rolls(bath: Bath, swatches: list[Swatch]) -> tuple[tuple[str, ...], ...]:
    if bath.rolling is None or bath.process == "hammered":
        return ()
    size = bath.rolling.cloths_per_roll
    codes = [swatch.code for swatch in swatches]
    return tuple(tuple(codes[i : i + size]) for i in range(0, len(codes), size))


def _outs(group: _Group, swatches: list[Swatch]) -> tuple[tuple[TakenOut, ...], int | None]:
    """Who comes out before the rest, and how long the last stay in."""
    minutes = {swatch.code: group.minutes.get(swatch.code, 0) for swatch in swatches}
    times = sorted(set(minutes.values()))
    outs = (
        TakenOut(after_min=at, swatches=tuple(code for code, m in minutes.items() if m == at))
        for at in times[:-1]
    )
    return tuple(outs), times[-1] or None


def dry_fibre(swatches: list[Swatch]) -> tuple[float, str]:
    """Dry mass of some pieces in g, and its working."""
    counts: dict[float, int] = {}
    for swatch in swatches:
        counts[swatch.mass_g] = counts.get(swatch.mass_g, 0) + 1
    mass_g = sum(each_g * count for each_g, count in counts.items())
    parts = [f"{counted(count, 'swatch')} × {each_g:g} g" for each_g, count in counts.items()]
    return mass_g, f"{' + '.join(parts)} = {grams_words(mass_g)}"


def _deal(study: PlannedStudy, group: _Group, loads: list[int]) -> list[list[int]]:
    """Random positions; where a bath is split, each part gets its share of like swatches."""
    random = Random(f"{study.plan.order_seed}:{group.bath.key}")
    shuffled = list(range(len(group.swatches)))
    random.shuffle(shuffled)
    if len(loads) == 1:
        return [shuffled]
    # Neighbours in the order of the cells are alike, and are dealt to different vessels.
    alike = sorted(shuffled, key=lambda i: i // len(loads))
    turns = sorted(((k + 0.5) / load, i) for i, load in enumerate(loads) for k in range(load))
    dealt: list[list[int]] = [[] for _ in loads]
    for number, (_, i) in zip(alike, turns, strict=True):
        dealt[i].append(number)
    for part in dealt:
        random.shuffle(part)
    return dealt
