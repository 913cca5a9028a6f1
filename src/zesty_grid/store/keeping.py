"""Saving a plan: places, codes and ties for what is new, names for the vessels still ahead."""

import sqlite3
from collections.abc import Collection, Iterable
from dataclasses import dataclass, replace

from zesty_grid.core.plan.changes import words_of_change
from zesty_grid.core.plan.effects import PlanEffect, asked_levels, effect_of_change
from zesty_grid.core.plan.giving_ties import give_ties
from zesty_grid.core.plan.placement import LevelArchive, Placement, place_swatches
from zesty_grid.core.plan.planned_study import PlannedStudy, archive_of, with_code
from zesty_grid.core.plan.sources import source_codes
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.record.taken import NamedVessel
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.store.plan import StoredStudy, insert_plan, load_study, update_plan
from zesty_grid.store.runs import list_runs, open_runs, save_planned
from zesty_grid.store.standing import (
    StandingStudy,
    keep_standing,
    named_elsewhere,
    standing_as,
    standing_study,
    study_shelf,
)
from zesty_grid.store.swatches import insert_swatches, load_by_code, next_serial, save_guests, save_places, ties_in_work


@dataclass(frozen=True)
class Tried:
    """A plan tried out on a study and not saved: who would stand where, and in what."""

    before: PlannedStudy
    after: PlannedStudy
    placement: Placement
    first_serial: int


def create_study(connection: sqlite3.Connection, plan: StudyPlan, words: str = "begun") -> int:
    study_id = insert_plan(connection, plan, words)
    stored = load_study(connection, study_id)
    _place(connection, stored, _tried(connection, stored, plan))
    return study_id


def save_plan(connection: sqlite3.Connection, study_id: int, revision: int, plan: StudyPlan) -> StandingStudy:
    """Saves over exactly `revision`; what has begun is not touched.

    Raises StudyChangedElsewhere where it is not the newest, and Refusal where it must be said
    first as what the swatches count that were begun before a factor came.
    """
    stored = load_study(connection, study_id)
    tried = _tried(connection, stored, plan)
    _must_be_answered(plan, tried)
    words = words_of_change(stored.plan, plan)
    update_plan(connection, study_id, revision, plan, words)
    return _place(connection, load_study(connection, study_id), tried)


def try_plan(connection: sqlite3.Connection, study_id: int, plan: StudyPlan) -> PlanEffect:
    """What saving a plan would do; nothing is changed."""
    stored = load_study(connection, study_id)
    tried = _tried(connection, stored, plan)
    begun = [run.name for run in list_runs(connection, study_id)]
    running = open_runs(connection, study_id)
    return effect_of_change(
        tried.before,
        tried.after,
        tried.placement,
        vessels_of(tried.before),
        vessels_of(tried.after),
        running,
        len(begun) - len(running),
    )


def name_planned(connection: sqlite3.Connection, study_id: int) -> StandingStudy:
    """Names the vessels that are ahead after plan or record has changed what is ahead."""
    return _name(connection, standing_study(connection, study_id))


def _name(connection: sqlite3.Connection, standing: StandingStudy) -> StandingStudy:
    save_planned(connection, standing.stored.id, map(_named, standing.prepared.vessels))
    keep_standing(connection, standing)
    return standing


def _tried(connection: sqlite3.Connection, stored: StoredStudy, plan: StudyPlan) -> Tried:
    before = standing_study(connection, stored.id).planned
    own = {swatch.code: swatch for swatch in before.swatches}
    elsewhere = load_by_code(connection, named_elsewhere(plan, set(own)))
    treated = {code for treatment in plan.treatments for code in treatment.swatches}
    must_be_known(treated | source_codes(plan), {*own, *elsewhere})
    shelf = study_shelf(connection, stored, elsewhere | own, plan)
    archive: LevelArchive = dict(before.archive) | dict(archive_of([plan]))
    after = replace(before, plan=plan, shelf=shelf, archive=archive)
    placement = place_swatches(plan, after.cells, before.swatches, archive, elsewhere | own)
    serial = next_serial(connection)
    new = [with_code(one, serial + i) for i, one in enumerate(placement.new)]
    guests = {code: swatch for code, swatch in elsewhere.items() if code in treated}
    placed = {swatch.code for swatch in placement.swatches}
    after = after.with_swatches(
        swatches=[*placement.swatches, *new],
        guests={code: swatch for code, swatch in guests.items() if code not in placed},
    )
    return Tried(before, after, placement, serial)


def _place(connection: sqlite3.Connection, stored: StoredStudy, tried: Tried) -> StandingStudy:
    known = {swatch.code: swatch for swatch in tried.before.swatches}
    save_places(connection, stored.id, known, tried.placement.swatches)
    save_guests(connection, stored.id, tried.after.guests)
    if tried.placement.new:
        _give_out(connection, stored.id, tried)
    are_the_same = [s.code for s in tried.before.swatches] == [s.code for s in tried.after.swatches]
    standing = standing_as(connection, stored, tried.after) if are_the_same else standing_study(connection, stored.id)
    return _name(connection, standing)


def _give_out(connection: sqlite3.Connection, study_id: int, tried: Tried) -> None:
    """Codes and ties for the new swatches."""
    vessels = vessels_of(tried.after)
    new = [s.code for s in tried.after.swatches if s.serial >= tried.first_serial and not s.tie]
    there = {s.code: s.tie for s in tried.after.swatches if s.tie and (s.planned or s.begun)}
    there |= {code: guest.tie for code, guest in tried.after.guests.items()}
    ties = give_ties(there, new, [vessel.swatches for vessel in vessels], ties_in_work(connection, study_id))
    insert_swatches(connection, study_id, tried.placement.new, tried.first_serial, ties)


def _named(vessel: Vessel) -> NamedVessel:
    return NamedVessel(name=vessel.name, bath=vessel.bath, key=vessel.key, swatches=vessel.swatches)


def _must_be_answered(plan: StudyPlan, tried: Tried) -> None:
    asked = asked_levels(plan, tried.placement.swatches)
    if asked:
        first = asked[0]
        cure = "Say which of its levels they have, or that they stay apart."
        raise Refusal(
            "begun-as",
            f"{first.swatches} swatches were begun before {first.name.lower()} was crossed.",
            cure,
            tuple(
                Fault(
                    field=f"factors.{one.factor}.begun_as",
                    given="nothing",
                    allowed=f"a level of {one.name.lower()}, or apart",
                    cure=cure,
                )
                for one in asked
            ),
        )


def must_be_known(named: Iterable[str], known: Collection[str]) -> None:
    """Raises Refusal for a code that is of no swatch."""
    strange = sorted(set(named) - set(known))
    if strange:
        raise Refusal("no-such-swatch", f"{strange[0]} is no swatch that is known here.", "Read its code again.")
