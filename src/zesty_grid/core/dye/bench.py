"""All that is done at the bench for a study: what has begun as it was, and what is planned."""

from collections.abc import Iterable, Mapping, Sequence
from typing import NamedTuple

from zesty_grid.core.dye.iron_limits import iron_limits
from zesty_grid.core.dye.preparing import extract_amounts, extract_vessels, extraction_of, scour_amounts, scour_vessels
from zesty_grid.core.dye.protocol import Protocol, with_own_times
from zesty_grid.core.dye.steps import steps_of
from zesty_grid.core.plan.bath import IN_ORDER, place_in_order
from zesty_grid.core.plan.liquors import dip_taken_over, users_in_turn
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.settling import SETTLES
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.plan.water_baths import WaterBath, water_baths
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.swatch import Levels
from zesty_grid.core.record.taken import number_of
from zesty_grid.core.weigh.amounts import VesselAmounts, weigh_vessel
from zesty_grid.core.weigh.cautions import vessel_cautions
from zesty_grid.core.weigh.extraction import Extraction, Liquor, draw_extracts
from zesty_grid.core.weigh.pieces_in import alum_comes_in, classes_in, is_glass, known_for

Order = tuple[int, int, bool, int, int]


class Prepared(NamedTuple):
    """The vessels that have not begun, in the order of the work, and what goes into each, by name; `of_extract`:
    what each extract is made of, `draws`: from which extract a vessel draws, `standing_in`: in which water."""

    vessels: list[Vessel]
    amounts: dict[str, VesselAmounts]
    of_extract: dict[str, Extraction]
    draws: dict[str, str]
    standing_in: dict[str, WaterBath]


def prepare(
    study: PlannedStudy, protocol: Protocol, begun: Sequence[BenchVessel] = (), ahead: list[Vessel] | None = None
) -> Prepared:
    """`ahead` are the vessels of the plan, where they are known already; scours and extracts come to them."""
    plan, shelf = study.plan, study.shelf
    vessels = vessels_of(study) if ahead is None else ahead
    weighed = [weigh_vessel(plan, vessel, shelf) for vessel in vessels]
    drawn = draw_extracts(vessels, weighed, shelf, liquors_of(begun))
    scours = scour_vessels(study) if protocol.scour and (vessels or begun) else []
    extracts = extract_vessels(drawn.extractions, shelf, study.taken)
    of_extract = {one.name: extraction_of(one, drawn.extractions) for one in extracts}
    amounts: dict[str, VesselAmounts] = {own.vessel: own for own in drawn.amounts}
    amounts |= {one.name: scour_amounts(one, plan.liquor_ratio_ml_per_g) for one in scours}
    amounts |= {one.name: extract_amounts(one, of_extract[one.name], plan, shelf) for one in extracts}
    every = sorted([*scours, *extracts, *vessels], key=lambda one: order_of(study, one))
    standing_in = {name: one for one in water_baths(vessels, shelf) for name in one.vessels}
    return Prepared(every, amounts, of_extract, drawn.from_begun | _draws_from(of_extract), standing_in)


def bench_of(
    study: PlannedStudy,
    protocol: Protocol,
    begun: Sequence[BenchVessel] = (),
    last_run: Mapping[str, str] | None = None,
    prepared: Prepared | None = None,
) -> list[BenchVessel]:
    """Every vessel in the order of the work: those begun as they were kept, the rest as planned.

    `last_run` names the vessel of this study in which each swatch was last, by code; `prepared` is given where it
    is known already.
    """
    every, amounts, of_extract, draws, standing_in = prepared or prepare(study, protocol, begun)
    before = _before_each(every, [one.vessel for one in begun], last_run or {}, draws)
    goes_on = _going_on(every)
    planned = [
        _planned(
            study,
            protocol,
            vessel,
            amounts[vessel.name],
            before[vessel.name],
            goes_on.get(vessel.name, ()),
            draws.get(vessel.name),
            of_extract.get(vessel.name),
            standing_in.get(vessel.name),
        )
        for vessel in every
    ]
    return sorted([*begun, *planned], key=lambda one: order_of(study, one.vessel, one.begun))


def liquors_of(begun: Iterable[BenchVessel]) -> list[Liquor]:
    """The extracts that have begun, with what was put by in each."""
    found = []
    for one in begun:
        stuff = next((f for f in one.amounts.figures if f.role == "dye stuff"), None)
        if one.vessel.bath == "extract" and stuff and stuff.grams and one.vessel.volume_ml:
            found.append(
                Liquor(
                    name=one.name,
                    key=one.vessel.key.removeprefix("extract:").split(":pot-")[0],
                    strength_g_ml=stuff.grams / one.vessel.volume_ml,
                    grams_for={(s.vessel, s.moment): s.grams for s in one.shares},
                )
            )
    return found


def order_of(study: PlannedStudy, vessel: Vessel, begun: bool = False) -> Order:
    """By stage, further treatments after all else, those begun before those planned."""
    if vessel.treatment:
        keys = [one.key for one in study.plan.treatments]
        place = keys.index(vessel.treatment) if vessel.treatment in keys else -1
        return 1000 + place, 0, not begun, vessel.run_order, number_of(vessel.name)
    if vessel.place is not None:
        return place_in_order(vessel.place), 0, not begun, vessel.run_order, number_of(vessel.name)
    place = 10 * IN_ORDER.index(vessel.bath) + (vessel.dip or 0) + vessel.turn
    route = vessel.route_bath or 0
    return place, route, not begun, vessel.run_order, number_of(vessel.name)


def settled_by(study: PlannedStudy, vessel: Vessel) -> Levels:
    """The levels that every piece has by having been in a vessel."""
    kinds = SETTLES[vessel.bath]
    if vessel.bath == "dye" and vessel.brings_iron_in:
        kinds = kinds | {"iron"}
    members = [study.levels(study.by_code[code]) for code in vessel.swatches]
    return {
        kind: members[0][kind]
        for kind in kinds
        if members and not vessel.treatment and len({m.get(kind) for m in members}) == 1 and kind in members[0]
    }


def _planned(
    study: PlannedStudy,
    protocol: Protocol,
    vessel: Vessel,
    amounts: VesselAmounts,
    after: tuple[str, ...],
    goes_on: tuple[str, ...],
    draws_from: str | None,
    extraction: Extraction | None,
    water_bath: WaterBath | None,
) -> BenchVessel:
    classes = classes_in(study, vessel)
    shares = extraction.shares if extraction else ()
    usual = steps_of(vessel, amounts, study.shelf, goes_on, classes, water_bath, shares)
    steps = with_own_times(usual, vessel.bath, protocol)
    return BenchVessel(
        vessel=vessel,
        amounts=amounts,
        steps=tuple(steps),
        after=after,
        draws_from=draws_from,
        shares=shares,
        cautions=vessel_cautions(
            vessel, amounts, classes, alum_comes_in(study, vessel), is_glass(study, vessel), known_for(study, vessel)
        ),
        settles=settled_by(study, vessel),
        protein="protein" in classes,
        iron_limits=iron_limits(vessel, steps, study),
        rests_h=protocol.dry_h + protocol.rest_h,
        water_bath=water_bath,
    )


def _draws_from(of_extract: Mapping[str, Extraction]) -> dict[str, str]:
    """The extract's vessel by the name of each that draws from it; of several pots the first."""
    found: dict[str, str] = {}
    for name, extraction in of_extract.items():
        for share in extraction.shares:
            found.setdefault(share.vessel, name)
    return found


def _before_each(
    ahead: Sequence[Vessel], begun: Sequence[Vessel], last_run: Mapping[str, str], draws: Mapping[str, str]
) -> dict[str, tuple[str, ...]]:
    """For each vessel the ones directly before it: of its pieces, its extract, its earlier dip."""
    after: dict[str, list[str]] = {vessel.name: [] for vessel in ahead}
    takes_over = liquors_taken_over([*begun, *ahead])
    last_of = dict(last_run)
    extracts_of: dict[str, list[str]] = {}
    for vessel in ahead:
        if vessel.bath == "extract":
            extracts_of.setdefault(vessel.key.split(":pot-")[0], []).append(vessel.name)
    for vessel in ahead:
        after[vessel.name] += {last_of[code]: None for code in vessel.swatches if code in last_of}
        last_of |= dict.fromkeys(vessel.swatches, vessel.name)
        if drawn := draws.get(vessel.name):
            pots = next((names for names in extracts_of.values() if drawn in names), [drawn])
            after[vessel.name] += pots
        if vessel.name in takes_over:
            after[vessel.name].append(takes_over[vessel.name])
    return {name: tuple(dict.fromkeys(names)) for name, names in after.items()}


def liquors_taken_over(vessels: Sequence[Vessel]) -> dict[str, str]:
    """For each vessel that takes over a liquor the one that has it directly before, by name;
    `vessels` in the order of the work."""
    first = {one.name: one.liquor_of for one in vessels if one.liquor_of}
    for one in vessels:
        if one.name not in first and not one.has_own_liquor:
            # Kept before vessels said whose liquor they take.
            earlier = dip_taken_over(one.key, one.dip or 1, vessels)
            of = one.again or next((dip.name for dip in earlier), None)
            first |= {one.name: of} if of else {}
    return users_in_turn(first, [one.name for one in vessels])


def _going_on(ahead: Sequence[Vessel]) -> dict[str, tuple[str, ...]]:
    """For each vessel the swatches that have another planned bath after it."""
    last_of: dict[str, str] = {}
    for vessel in ahead:
        last_of |= dict.fromkeys(vessel.swatches, vessel.name)
    return {vessel.name: tuple(code for code in vessel.swatches if last_of[code] != vessel.name) for vessel in ahead}
