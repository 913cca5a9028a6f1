"""Logging: an entry begins its bath where it is the first, is kept, and the tables follow."""

import sqlite3
from datetime import datetime

from zesty_grid.core.record.addition import worked_out
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.checking import check_entry
from zesty_grid.core.record.entry import BEGINS, BenchEntry, NewBenchEntry
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.store.dye import add_entry, known_entry, load_entry, standing_entries
from zesty_grid.store.fade import list_trials
from zesty_grid.store.following import follow_readings
from zesty_grid.store.keeping import name_planned
from zesty_grid.store.plan import keep_recipes, level_labels, load_study
from zesty_grid.store.projecting import project_entry
from zesty_grid.store.runs import is_void, run_named
from zesty_grid.store.shelf import load_shelf
from zesty_grid.store.standing import standing_study
from zesty_grid.store.telling import begin_bath


def log_entry(
    connection: sqlite3.Connection, study_id: int, entry: NewBenchEntry, received_at: datetime | None = None
) -> BenchEntry:
    """Keeps an entry once; raises Refusal for what cannot be, and to ask before what is odd."""
    known = known_entry(connection, entry.key)
    if known:
        return known
    load_study(connection, study_id)
    corrects = load_entry(connection, study_id, entry.replaces) if entry.replaces else None
    filled = with_amounts(entry, load_shelf(connection))
    vessel = vessel_for(connection, study_id, entry.vessel)
    if filled.kind == "note":
        _must_be_there(connection, study_id, filled)
    check_entry(
        filled, vessel, _known_codes(connection, filled.swatches), standing_entries(connection, study_id, entry.vessel)
    )
    first = vessel is not None and not vessel.begun and entry.kind in BEGINS
    if first and vessel is not None:
        standing = standing_study(connection, study_id)
        keep_recipes(connection, study_id, standing.shelf)
        begin_bath(connection, standing, vessel)
    kept = add_entry(connection, study_id, filled, received_at)
    followed = project_entry(connection, study_id, kept, corrects, first)
    if followed.passed:
        follow_readings(connection, followed.passed)
    if followed.ahead:
        name_planned(connection, study_id)
    return kept


def with_amounts(entry: NewBenchEntry, shelf: Shelf) -> NewBenchEntry:
    """The entry with the grams of what was put in worked out."""
    if entry.addition is None:
        return entry
    return entry.model_copy(update={"addition": worked_out(entry.addition, shelf)})


def vessel_for(connection: sqlite3.Connection, study_id: int, name: str) -> BenchVessel | None:
    """The vessel of a name: as it was kept if it has begun, else as it is planned."""
    if not name:
        return None
    run = run_named(connection, study_id, name)
    if run is not None and not is_void(connection, run.id):
        return run.vessel
    bench = standing_study(connection, study_id).bench
    planned = next((one for one in bench if one.name == name), None)
    return planned or (run.vessel if run else None)


def _must_be_there(connection: sqlite3.Connection, study_id: int, note: NewBenchEntry) -> None:
    """Raises Refusal for a note of a level or a trial that the study never had."""
    if not (note.levels or {}).items() <= level_labels(connection, study_id).keys():
        raise Refusal(
            "no-such-level", "The study has never had this level.", "Reload the page: the plan has changed since."
        )
    if note.trial is not None and note.trial > len(list_trials(connection, study_id)):
        raise Refusal("no-such-trial", f"The study has no trial {note.trial}.", "Reload the page.")


def _known_codes(connection: sqlite3.Connection, codes: tuple[str, ...]) -> set[str]:
    return {code for code in codes if connection.execute("SELECT 1 FROM swatch WHERE code = ?", (code,)).fetchone()}
