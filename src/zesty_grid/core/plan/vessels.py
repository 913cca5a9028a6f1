"""Vessels for the baths still to come: by what acts in them, by how much they hold."""

from random import Random

from zesty_grid.core.plan.bath import BATH_ORDER, Bath
from zesty_grid.core.plan.baths import bath_left, baths_of
from zesty_grid.core.plan.liquors import Dip
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.treatment_bath import treatment_bath
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.plan.vessel_filling import Group, fill, fill_all, loads_of, over
from zesty_grid.core.plan.zones_on_cloth import has_zones
from zesty_grid.core.record.swatch import Swatch
from zesty_grid.core.record.taken import names_for


def vessels_of(study: PlannedStudy) -> list[Vessel]:
    """Vessels that have not begun, in the order of the work, each with who goes in."""
    groups = _groups(study)
    vessels: list[Vessel] = []
    for kind, letter in BATH_ORDER.items():
        made = fill_all(study, [group for group in groups if group.bath.bath == kind])
        names = names_for(kind, letter, ((v.key, frozenset(v.swatches)) for v in made), study.taken)
        named = [vessel.model_copy(update={"name": name}) for vessel, name in zip(made, names, strict=True)]
        name_of = {vessel.key: vessel.name for vessel in named}
        # Until they are named, vessels say by key whose liquor they take over.
        vessels += [
            vessel.model_copy(update={"liquor_of": name_of.get(of, of)}) if (of := vessel.liquor_of) else vessel
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
            vessel = known[vessel.name] = over(vessel, before, before.name)
        found.append(vessel)
    return found


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
            ready = [one for one in waiting if one.liquor_of not in by_name or one.liquor_of in numbers]
            # A plan may name baths in a circle: then by lot.
            following = min(ready or waiting, key=lambda one: place[one.name])
            begun += 1
            numbers[following.name] = begun
            waiting.remove(following)
    return [one.model_copy(update={"run_order": numbers[one.name]}) for one in vessels]


def vessels_of_bath(study: PlannedStudy, bath: Bath, swatches: list[Swatch]) -> list[Vessel]:
    """The vessels for one bath of these swatches; they have no name and no order yet."""
    return fill(study, Group(bath, None, swatches))


def number_of_vessels(study: PlannedStudy) -> int:
    """How many vessels there would be, without saying who goes into which."""
    return sum(len(loads_of(study, group)) for group in _groups(study))


ZONED = ("zones", "yes")


def _groups(study: PlannedStudy) -> list[Group]:
    found: dict[str, Group] = {}
    plan = study.plan
    # The baths of a swatch do not depend on its fibre.
    known: dict[tuple[tuple[str, str], ...], list[Bath]] = {}
    zones = has_zones(plan)
    # Where those go that stand alike, and how long they stay in a vessel from which they are taken one by one.
    ahead: dict[object, list[tuple[Group, int | None]]] = {}
    treatments = [treatment_bath(one, study.shelf) for one in plan.treatments]
    named = [frozenset(one.swatches) for one in plan.treatments]
    apart = plan.replicate_vessels == "apart" and plan.replicates > 1
    one_vessel = plan.taken_out == "one vessel"
    inside = study.planned
    there = {swatch.code for swatch in inside}
    # Swatches that the plan no longer has, and those of other studies, may still go on.
    inside = [*inside, *(s for s in study.by_code.values() if s.code not in there)]
    taken = study.taken
    for swatch in inside:
        is_there = swatch.code in there
        what: tuple[tuple[str, str], ...] | None = None
        if is_there:
            levels = study.levels(swatch)
            with_zones = zones and swatch.control is None
            what = tuple(one for one in levels.items() if one[0] != "fibre") + ((ZONED,) if with_zones else ())
            if what not in known:
                known[what] = baths_of(plan, levels, study.shelf, with_zones)
        own = tuple(i for i, codes in enumerate(named) if swatch.code in codes)
        past, been = taken.past_of(swatch.code), taken.been_in(swatch.code)
        run = swatch.replicate if apart and is_there else None
        stands = (what, own, past, been, run)
        goes_into = ahead.get(stands)
        if goes_into is None:
            every = [*(known[what] if what is not None else ()), *(treatments[i] for i in own)]
            goes_into = ahead[stands] = [
                (_group_for(found, bath, run), (bath.duration_min or 0) if one_vessel and bath.bath == "dye" else None)
                for bath in bath_left(every, past, been)
            ]
        for group, minutes in goes_into:
            if minutes is not None:
                group.minutes[swatch.code] = minutes
            group.swatches.append(swatch)
    # Treatments are numbered last, in their order: they name the baths before them by number.
    turn = {one.key: i for i, one in enumerate(plan.treatments)}
    return sorted(found.values(), key=lambda one: turn.get(one.bath.treatment or "", -1))


def _group_for(found: dict[str, Group], bath: Bath, run: int | None) -> Group:
    """The group of a bath, among those found or new; treatments are of all runs."""
    of_run = None if bath.treatment else run
    key = bath.key if of_run in (None, 1) else f"{bath.key}:run-{of_run}"
    group = found.get(key)
    if group is None:
        group = found[key] = Group(bath.model_copy(update={"key": key}), of_run)
    if bath.has_iron and not group.bath.has_iron:
        # One that brings iron makes it an iron bath for all.
        group.bath = group.bath.model_copy(update={"has_iron": True})
    return group
