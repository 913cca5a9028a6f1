"""The bench: vessels with their steps, the log, and who goes in."""

import hashlib
import sqlite3
from datetime import UTC, datetime
from typing import Annotated

from fastapi import APIRouter, File, Query, UploadFile
from fastapi.responses import Response

from zesty_grid.api.answers import (
    AddingSaid,
    AddingTo,
    DyeView,
    LoggedEntry,
    PhotoKept,
    StepState,
    VesselBench,
    WhoIsIt,
)
from zesty_grid.api.shared import RowId, Store, as_json
from zesty_grid.core.dye.label_scan import read_labels
from zesty_grid.core.dye.leftover import Leftover, lot_of_leftover
from zesty_grid.core.dye.loading import Identified, who_is
from zesty_grid.core.dye.maps import maps_of
from zesty_grid.core.record.addition import words_of, worked_out
from zesty_grid.core.record.bath_facts import facts_of
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.checking import question_about
from zesty_grid.core.record.entry import BenchEntry, NewBenchEntry
from zesty_grid.core.record.log import loaded, standing, ticked_at
from zesty_grid.core.record.notes import Note, notes_in
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.items import DyeLot
from zesty_grid.formats.on_screen import screen_jpeg
from zesty_grid.formats.photo import MAX_BYTES, look_over_photo, open_photo
from zesty_grid.store.due import newest_of_record
from zesty_grid.store.dye import add_photo, list_entries, load_photo, standing_entries
from zesty_grid.store.kept import Kept
from zesty_grid.store.logging import log_entry, vessel_for
from zesty_grid.store.plan import load_study
from zesty_grid.store.projecting import marks_for
from zesty_grid.store.shelf import add_item, load_shelf
from zesty_grid.store.standing import StandingStudy, standing_study
from zesty_grid.store.states import passages_of_study

router = APIRouter(prefix="/api/studies/{study_id}/dye", tags=["dye"])


# All that it says follows from the file: 300 ms with 2,000 swatches, and every screen asks for it.
_benches_kept: Kept[DyeView] = Kept(4)


@router.get("", response_model=DyeView)
def get_bench(study_id: RowId, store: Store) -> Response:
    with store.connection() as connection:
        found = _benches_kept.of_study(
            connection, study_id, "", lambda: _view(connection, standing_study(connection, study_id))
        )
    return as_json(DyeView, found)


@router.post("/entries", status_code=201)
def add_bench_entry(study_id: RowId, entry: NewBenchEntry, store: Store) -> LoggedEntry:
    """Keeps an entry; the first one at a vessel keeps its bath as it stands."""
    with store.transaction() as connection:
        logged = log_entry(connection, study_id, entry)
        return LoggedEntry(**dict(logged), newest=newest_of_record(connection))


@router.post("/additions")
def look_at_addition(study_id: RowId, asked: AddingTo, store: Store) -> AddingSaid:
    """An addition with its grams worked out, and what will be asked of it; nothing is logged."""
    with store.connection() as connection:
        vessel = needed_vessel(connection, study_id, asked.vessel)
        filled = worked_out(asked.addition, load_shelf(connection))
        log = standing_entries(connection, study_id, asked.vessel)
    return AddingSaid(addition=filled, words=words_of(filled), question=question_about(filled, vessel, log))


@router.post("/who")
def who_goes_in(study_id: RowId, asked: WhoIsIt, store: Store) -> Identified:
    """Who a code, a label or a tie is, and whether it belongs in the vessel; nothing is logged."""
    with store.connection() as connection:
        return _who(connection, standing_study(connection, study_id), asked.vessel, asked.text)


@router.post("/scan")
def scan_labels(study_id: RowId, vessel: str, file: Annotated[UploadFile, File()], store: Store) -> list[Identified]:
    """Everybody whose label is in the picture."""
    codes = read_labels(open_photo(file.file.read(MAX_BYTES + 1)))
    if not codes:
        raise Refusal(
            "no-label",
            "No label can be read in this picture.",
            "Nearer, sharper, flat, in more light; or type the code.",
        )
    with store.connection() as connection:
        standing = standing_study(connection, study_id)
        return [_who(connection, standing, vessel, code) for code in codes]


@router.post("/photos", status_code=201)
def keep_photo(study_id: RowId, file: Annotated[UploadFile, File()], store: Store) -> PhotoKept:
    """A picture for the log; kept once, whatever it is called."""
    data = file.file.read(MAX_BYTES + 1)
    look_over_photo(data)
    digest = hashlib.sha256(data).hexdigest()
    with store.transaction() as connection:
        add_photo(connection, digest, data)
    return PhotoKept(photo=digest)


@router.get("/photos/{digest}")
def get_photo(
    study_id: RowId, digest: str, store: Store, width: Annotated[int, Query(ge=100, le=2400)] | None = None
) -> Response:
    """The file as it was kept; with a `width` the picture upright as JPEG, not wider than that."""
    with store.connection() as connection:
        data = load_photo(connection, study_id, digest)
    shown = data if width is None else screen_jpeg(open_photo(data), width)
    headers = {"Cache-Control": "private, max-age=86400"}
    return Response(shown, media_type="image/jpeg", headers=headers)


@router.get("/notes")
def get_notes(study_id: RowId, store: Store) -> list[Note]:
    """Notes and pictures of the study, its levels, swatches, vessels and trials, newest first."""
    with store.connection() as connection:
        return notes_in(standing_entries(connection, study_id, kinds=("note",)))


@router.post("/leftovers", status_code=201)
def keep_leftover(study_id: RowId, left: Leftover, store: Store) -> DyeLot:
    """Puts what is left of a bath on the Shelf as a lot, and says so in the log."""
    with store.transaction() as connection:
        name = load_study(connection, study_id).plan.name
        vessel = needed_vessel(connection, study_id, left.vessel).vessel
        on = datetime.now(UTC).date()
        lot = lot_of_leftover(left, vessel, name, load_shelf(connection), on)
        add_item(connection, lot)
        note = f"{left.volume_ml:.0f} mL kept in {left.kept_in} as “{lot.name}”"
        log_entry(connection, study_id, NewBenchEntry(kind="note", vessel=left.vessel, note=note))
    return lot


def needed_vessel(connection: sqlite3.Connection, study_id: int, name: str) -> BenchVessel:
    found = vessel_for(connection, study_id, name)
    if found is None:
        raise Refusal(
            "no-such-step", f"There is no {name} in this study.", "Reload the page: the plan has changed since."
        )
    return found


def _who(connection: sqlite3.Connection, standing: StandingStudy, name: str, text: str) -> Identified:
    vessel = next((one for one in standing.bench if one.name == name), None)
    if vessel is None:
        vessel = needed_vessel(connection, standing.stored.id, name)
    inside = loaded(standing_entries(connection, standing.stored.id, name), name)
    return who_is(text, vessel, standing.bench, standing.planned, inside)


def _view(connection: sqlite3.Connection, study: StandingStudy) -> DyeView:
    entries = list_entries(connection, study.stored.id)
    log = standing(entries)
    by_vessel: dict[str, list[BenchEntry]] = {}
    for entry in log:
        by_vessel.setdefault(entry.vessel, []).append(entry)
    done = {
        one.name
        for one in study.bench
        if one.steps and ticked_at(by_vessel.get(one.name, ()), one.name, one.steps[-1].key)
    }
    names = {one.name for one in study.bench}
    return DyeView(
        vessels=tuple(_vessel(one, by_vessel.get(one.name, []), study, names, done) for one in study.bench),
        entries=tuple(entries),
        standing=tuple(entry.id for entry in log),
        passages=tuple(passages_of_study(connection, study.stored.id)),
        marks=tuple(marks_for(connection, study.stored.id)),
        protocol=study.protocol,
    )


def _vessel(
    one: BenchVessel, log: list[BenchEntry], study: StandingStudy, names: set[str], done: set[str]
) -> VesselBench:
    facts = facts_of(one, log)
    times = {step.key: step for step in facts.steps}
    has_zones = one.step("lay") is not None or one.vessel.times_in > 0
    return VesselBench(
        vessel=one.vessel,
        begun=one.begun,
        amounts=one.amounts,
        cautions=one.cautions,
        settles=one.settles,
        inside=tuple(loaded(log, one.name)),
        missed=facts.who.missed,
        steps=tuple(
            StepState(step=step, begun_at=times[step.key].begun_at, done_at=times[step.key].done_at)
            for step in one.steps
        ),
        reheats=facts.steps[len(one.steps) :],
        waits_for=tuple(name for name in one.after if name in names and name not in done),
        iron_limits=one.iron_limits,
        ready_at=facts.ready_at if one.step("dry") else None,
        maps=tuple(maps_of(study.planned, one.vessel, log)) if has_zones else (),
    )
