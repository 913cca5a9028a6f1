"""Pieces dealt into vessels: how many it takes, who goes where, and how much bath that is."""

from dataclasses import dataclass, field
from functools import cached_property
from random import Random

from zesty_grid.core.plan.bath import Bath
from zesty_grid.core.plan.filling import VesselKind, fewest_for_unlike, fewest_vessels, room_for, room_ml
from zesty_grid.core.plan.given_for import GivenFor, as_filled_before
from zesty_grid.core.plan.liquors import Dip, dip_taken_over
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.study_plan import OwnVessel
from zesty_grid.core.plan.vessel import TakenOut, Vessel, fits
from zesty_grid.core.record.swatch import Swatch
from zesty_grid.core.shelf.items import ShelfVessel
from zesty_grid.core.weigh.working import counted, grams_words

SAME_G = 1e-6


@dataclass
class Group:
    """Swatches that go through the same bath, and which run of the study they belong to."""

    bath: Bath
    replicate: int | None
    swatches: list[Swatch] = field(default_factory=list)
    minutes: dict[str, int] = field(default_factory=dict)

    @cached_property
    def masses_g(self) -> list[float]:
        """Once all are there."""
        return [swatch.mass_g for swatch in self.swatches]

    @cached_property
    def are_unlike(self) -> bool:
        return len(set(self.masses_g)) > 1

    @cached_property
    def dry_fibre_g(self) -> float:
        return sum(self.masses_g)


def _by_hand(study: PlannedStudy, group: Group) -> OwnVessel | None:
    """The vessels or the volume that a person chose for a bath."""
    key = group.bath.key
    wanted = (key, key.split(":run-")[0])
    return next((one for one in study.plan.own_vessels if one.bath in wanted), None)


def _ml_per_g(study: PlannedStudy, group: Group) -> float:
    own = _by_hand(study, group)
    if own is None or own.litres is None:
        return group.bath.ml_per_g or study.plan.liquor_ratio_ml_per_g
    given = _given_for(study, group)
    return 1000 * own.litres / (given.bath_g if given else group.dry_fibre_g)


def _given_for(study: PlannedStudy, group: Group) -> GivenFor | None:
    """The fibre for which its recipe was given, where this bath was filled before."""
    own = _by_hand(study, group)
    if own is not None and own.as_given:
        return None
    before = as_filled_before(group.bath.key, study.taken.liquors)
    return before or group.bath.given_for or (own.given_for if own else None)


def loads_of(study: PlannedStudy, group: Group) -> list[tuple[str | None, list[int]]]:
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


def _rolls_into(group: Group, usable: list[ShelfVessel], ratio: float) -> list[tuple[str | None, list[int]]]:
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


def _into_unequal(study: PlannedStudy, group: Group, pots: list[ShelfVessel]) -> list[tuple[str | None, list[int]]]:
    """Pieces dealt out to vessels by their room, like ones to different vessels."""
    loads = [1] * len(pots)
    for _ in range(len(group.swatches) - len(pots)):
        roomiest = max(range(len(pots)), key=lambda i: pots[i].litres / loads[i])
        loads[roomiest] += 1
    dealt = _deal(study, group, loads)
    return [(pot.key, part) for pot, part in zip(pots, dealt, strict=True)]


def fill_all(study: PlannedStudy, groups: list[Group]) -> list[Vessel]:
    """The vessels of all groups of a kind; later dips go into the pots of the first."""
    made: dict[str, list[Vessel]] = {}
    for group in sorted(groups, key=lambda one: one.bath.dip or 0):
        bath = group.bath
        earlier: list[Dip] = [*study.taken.liquors, *(v for own in made.values() for v in own)]
        pots = dip_taken_over(bath.key, bath.dip, earlier) if bath.dip and bath.dip > 1 else []
        made[bath.key] = _fill_again(study, group, pots) if pots else fill(study, group)
    return [vessel for group in groups for vessel in made[group.bath.key]]


def _fill_again(study: PlannedStudy, group: Group, pots: list[Dip]) -> list[Vessel]:
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
        over(_vessel(study, group, numbers, part, len(used), None), pot, of)
        for part, ((of, pot), numbers) in enumerate(zip(keys.items(), dealt, strict=True), 1)
    ]


def fill(study: PlannedStudy, group: Group) -> list[Vessel]:
    loads = loads_of(study, group)
    return [
        _vessel(study, group, numbers, part, len(loads), on_shelf) for part, (on_shelf, numbers) in enumerate(loads, 1)
    ]


def _vessel(
    study: PlannedStudy, group: Group, numbers: list[int], part: int, parts: int, on_shelf: str | None
) -> Vessel:
    """One of the `parts` vessels of a bath; it has no name and no place in the order yet."""
    run = f", run {group.replicate}" if group.replicate else ""
    swatches = [group.swatches[i] for i in numbers]
    if parts > 1 and group.are_unlike:
        Random(f"{study.plan.order_seed}:{group.bath.key}:{part}").shuffle(swatches)
    split = f", pot {part} of {parts}" if parts > 1 else ""
    facts = dict(group.bath)
    facts["key"] = group.bath.key if part == 1 else f"{group.bath.key}:pot-{part}"
    facts["title"] = f"{group.bath.title}{run}{split}"
    mass_g, words = dry_fibre(swatches)
    own = study.shelf.vessel(on_shelf or "")
    given, chosen = _given_for(study, group), _by_hand(study, group)
    facts["given_for"] = given if given and abs(mass_g - (given.vessel_g or mass_g)) > SAME_G else None
    share = mass_g / (given.bath_g if given else group.dry_fibre_g)
    for dose in ("dose_g", "iron_g"):
        facts[dose] = facts[dose] and facts[dose] * share
    outs, longest = _outs(group, swatches)
    facts["duration_min"] = longest or facts["duration_min"]
    return Vessel(
        **facts,
        name="",
        run_order=0,
        part=part,
        parts=parts,
        replicate=group.replicate,
        on_shelf=on_shelf,
        on_shelf_name=own.name if own else "",
        volume_ml=mass_g * _ml_per_g(study, group),
        dry_fibre_g=mass_g,
        bath_fibre_g=given.bath_g if given else group.dry_fibre_g,
        as_given=chosen is not None and chosen.as_given,
        outs=outs,
        rolls=_rolls(group.bath, swatches),
        fibre_words=words,
        swatches=tuple(swatch.code for swatch in swatches),
        cells=tuple(dict.fromkeys(study.cell(swatch) for swatch in swatches)),
    )


def _rolls(bath: Bath, swatches: list[Swatch]) -> tuple[tuple[str, ...], ...]:
    if bath.rolling is None or bath.process == "hammered":
        return ()
    size = bath.rolling.cloths_per_roll
    codes = [swatch.code for swatch in swatches]
    return tuple(tuple(codes[i : i + size]) for i in range(0, len(codes), size))


def _outs(group: Group, swatches: list[Swatch]) -> tuple[tuple[TakenOut, ...], int | None]:
    """Who comes out before the rest, and how long the last stay in."""
    minutes = {swatch.code: group.minutes.get(swatch.code, 0) for swatch in swatches}
    times = sorted(set(minutes.values()))
    outs = (TakenOut(after_min=at, swatches=tuple(code for code, m in minutes.items() if m == at)) for at in times[:-1])
    return tuple(outs), times[-1] or None


def dry_fibre(swatches: list[Swatch]) -> tuple[float, str]:
    """Dry mass of some pieces in g, and its working."""
    counts: dict[float, int] = {}
    for swatch in swatches:
        counts[swatch.mass_g] = counts.get(swatch.mass_g, 0) + 1
    mass_g = sum(each_g * count for each_g, count in counts.items())
    parts = [f"{counted(count, 'swatch')} × {each_g:g} g" for each_g, count in counts.items()]
    return mass_g, f"{' + '.join(parts)} = {grams_words(mass_g)}"


def _deal(study: PlannedStudy, group: Group, loads: list[int]) -> list[list[int]]:
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


def over(vessel: Vessel, before: Dip, liquor_of: str) -> Vessel:
    return vessel.model_copy(
        update={
            "on_shelf": before.on_shelf,
            "on_shelf_name": before.on_shelf_name,
            "volume_ml": before.volume_ml,
            "liquor_of": liquor_of,
        }
    )
