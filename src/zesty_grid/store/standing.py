"""A study as it stands: its plan, its places, what has begun, and what is still ahead."""

import sqlite3
from dataclasses import dataclass, replace
from functools import cached_property

from zesty_grid.core.dye.bench import Prepared, bench_of, prepare
from zesty_grid.core.dye.protocol import Protocol
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.sources import source_codes, with_source_cloth
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.swatch import Swatch
from zesty_grid.core.shelf.kept_recipes import with_kept
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.weighing import Weighed
from zesty_grid.store.dye import load_protocol
from zesty_grid.store.kept import Kept
from zesty_grid.store.plan import StoredStudy, level_archive, load_study
from zesty_grid.store.runs import StoredRun, last_runs, list_runs, load_taken
from zesty_grid.store.shelf import load_shelf
from zesty_grid.store.swatches import load_by_code, load_swatches

MOST_KEPT = 4


@dataclass(frozen=True)
class StandingStudy:
    """`runs` are the baths that have begun, as they were kept; `last_run` names by swatch code the
    one of this study in which it was last."""

    stored: StoredStudy
    planned: PlannedStudy
    runs: list[StoredRun]
    last_run: dict[str, str]
    protocol: Protocol

    @property
    def plan(self) -> StudyPlan:
        return self.stored.plan

    @property
    def shelf(self) -> Shelf:
        return self.planned.shelf

    @property
    def begun(self) -> list[BenchVessel]:
        return [run.vessel for run in self.runs]

    @property
    def weighed(self) -> list[Weighed]:
        """What has begun, for the weights."""
        return [Weighed(vessel=one.vessel, amounts=one.amounts, cautions=one.cautions) for one in self.begun]

    @cached_property
    def ahead(self) -> list[Vessel]:
        """The vessels of the plan that have not begun."""
        return vessels_of(self.planned)

    @cached_property
    def prepared(self) -> Prepared:
        """Every bath that has not begun, with those for scouring and extracting, and what goes in."""
        return prepare(self.planned, self.protocol, self.begun, self.ahead)

    @cached_property
    def bench(self) -> list[BenchVessel]:
        """Every vessel: those begun as they were kept, the rest as planned."""
        return bench_of(self.planned, self.protocol, self.begun, self.last_run, self.prepared)


_kept: Kept[StandingStudy] = Kept(MOST_KEPT)


def standing_study(connection: sqlite3.Connection, study_id: int) -> StandingStudy:
    """As it stands now, worked out once as long as nothing of it changes: a screen asks for it in every
    request (250 ms of processor time with 2,000 swatches). Nobody changes what is given."""
    return _kept.of_study(connection, study_id, "", lambda: _standing(connection, study_id))


def keep_standing(connection: sqlite3.Connection, standing: StandingStudy) -> None:
    """As it will stand once this transaction is there to stay: its baths are named by now."""
    id = standing.stored.id
    named = replace(standing, planned=standing.planned.with_record(load_taken(connection, id)))
    # The names that were given are those that the record keeps: the vessels are the same.
    vars(named).update(ahead=standing.ahead, prepared=standing.prepared)
    _kept.give(connection, id, "", named)


def _standing(connection: sqlite3.Connection, study_id: int) -> StandingStudy:
    stored = load_study(connection, study_id)
    return standing_as(connection, stored, planned_study(connection, stored))


def standing_as(connection: sqlite3.Connection, stored: StoredStudy, planned: PlannedStudy) -> StandingStudy:
    """With what is planned known already."""
    return StandingStudy(
        stored=stored,
        planned=planned,
        runs=list_runs(connection, stored.id),
        last_run=last_runs(connection, stored.id),
        protocol=load_protocol(connection, stored.id),
    )


def planned_study(connection: sqlite3.Connection, stored: StoredStudy) -> PlannedStudy:
    """The study by its plan, with the swatches of other studies that it draws on."""
    swatches = load_swatches(connection, stored.id)
    own = {swatch.code for swatch in swatches}
    elsewhere = load_by_code(connection, named_elsewhere(stored.plan, own))
    shelf = study_shelf(connection, stored, elsewhere | {s.code: s for s in swatches})
    guests = {code: swatch for code, swatch in elsewhere.items() if _is_treated(stored.plan, code)}
    return PlannedStudy(
        plan=stored.plan,
        shelf=shelf,
        swatches=swatches,
        archive=level_archive(connection, stored.id),
        taken=load_taken(connection, stored.id),
        guests=guests,
    )


def study_shelf(
    connection: sqlite3.Connection, stored: StoredStudy, sources: dict[str, Swatch], plan: StudyPlan | None = None
) -> Shelf:
    """The Shelf that a study draws on: once dyeing has begun, with the recipes of that day; the
    cloth of earlier swatches stands among its fibres."""
    live = load_shelf(connection)
    kept = with_kept(live, stored.kept_shelf) if stored.kept_shelf else live
    return with_source_cloth(kept, plan or stored.plan, sources)


def named_elsewhere(plan: StudyPlan, own: set[str]) -> set[str]:
    """Codes of swatches of other studies that a plan names."""
    treated = {code for treatment in plan.treatments for code in treatment.swatches}
    return (treated | source_codes(plan)) - own


def _is_treated(plan: StudyPlan, code: str) -> bool:
    return any(code in treatment.swatches for treatment in plan.treatments)
