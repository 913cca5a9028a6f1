"""Accepting a photo: each reading in its state, and the colours and trials that follow."""

import sqlite3
from datetime import date, datetime, timedelta

from zesty_grid.core.read.readings import NewReadings, Photo, check_day, moment_of
from zesty_grid.core.record.ready import is_rested
from zesty_grid.core.record.states import AS_IT_CAME, state_shown
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.store.following import follow_readings
from zesty_grid.store.new_readings import add_readings, cells_of, check_acceptable, cloths_in, swatches_in
from zesty_grid.store.states import ended_baths, rests
from zesty_grid.store.swatches import codes_of_study, project_begun, swatch_ids


def accept(connection: sqlite3.Connection, photo: Photo, wanted: NewReadings, accepted_at: datetime) -> int:
    """Makes readings of the wanted cells; raises Refusal for what cannot be accepted, and asks
    before pieces are read that have not had their rest."""
    check_acceptable(photo, wanted)
    check_day(wanted.taken_on, accepted_at.date())
    _must_be_of_the_study(connection, photo, wanted)
    if photo.sheet.trial is not None and wanted.stage is not None and not wanted.early:
        _must_be_due(connection, photo.sheet.trial, wanted.stage, wanted.taken_on)
    assigned = swatches_in(photo, wanted)
    codes = [assigned[name].swatch for name in sorted(cells_of(wanted))]
    ids = swatch_ids(connection, codes)
    camera_at = photo.taken_at.replace(tzinfo=accepted_at.tzinfo) if photo.taken_at else None
    moment = moment_of(wanted.taken_on, camera_at, accepted_at)
    if not wanted.early and not wanted.damp and photo.sheet.trial is None:
        must_be_rested(connection, ids, wanted.run, moment)
    read = add_readings(connection, photo, wanted, moment, accepted_at)
    project_begun(connection, read)
    follow_readings(connection, read, None if wanted.before else photo.sheet.trial)
    return len(wanted.cells) + len(wanted.zones) + len(cloths_in(wanted))


def _must_be_due(connection: sqlite3.Connection, trial: int, stage: int, taken_on: date) -> None:
    """Asks before a stage is read that was not due for a day or more."""
    row = connection.execute(
        "SELECT due_on FROM trial_stage WHERE trial_id = ? AND stage = ?", (trial, stage)
    ).fetchone()
    due = date.fromisoformat(row["due_on"]) if row and row["due_on"] else None
    if due is None or taken_on >= due - timedelta(days=1):
        return
    raise Refusal(
        "stage-not-due",
        f"That stage is due on {due:%-d %b %Y}; the photo is of {taken_on:%-d %b %Y}.",
        "Choose the stage that the photo shows, or say that it is this one all the same.",
        (
            Fault(
                field="stage",
                given=str(stage),
                allowed="a stage that was due on the day of the photo",
                cure="Choose another, or accept it early.",
            ),
        ),
    )


def _must_be_of_the_study(connection: sqlite3.Connection, photo: Photo, wanted: NewReadings) -> None:
    """A swatch said to lie in a cell belongs to the photo's study, and lies in that cell alone."""
    said = [lies.swatch for lies in wanted.lies if lies.swatch]
    known = codes_of_study(connection, photo.study)
    strange = [code for code in said if code not in known]
    if strange:
        raise Refusal(
            "unknown-swatch", f"No swatch of this study has the code {strange[0]}.", "Choose one of its swatches."
        )
    chosen = cells_of(wanted)
    lying = [(a.swatch, a.piece) for c, a in swatches_in(photo, wanted).items() if c in chosen]
    twice = sorted({swatch for swatch, piece in lying if lying.count((swatch, piece)) > 1})
    if twice:
        raise Refusal(
            "swatch-twice", f"{twice[0]} cannot lie in two cells.", "Say what lies in the other cell, or leave it out."
        )


def must_be_rested(connection: sqlite3.Connection, ids: dict[str, int], said: int | None, moment: datetime) -> None:
    """Raises Refusal for pieces that are still drying: only what shows the newest state of a swatch
    can be too early."""
    baths = ended_baths(connection, ids.values())
    found = rests(connection, ids.values())
    early = []
    for code, rest in found.items():
        own = baths.get(code, [])
        newest = own[-1].run if own else AS_IT_CAME
        shown = state_shown(said, own, moment)
        if shown == newest != AS_IT_CAME and not is_rested(rest, moment):
            early.append(code)
    if not early:
        return
    moments = [rest.ready_at for code in early if (rest := found[code]).ready_at]
    ready = max(moments).astimezone(moment.tzinfo) if moments else None
    until = f" before {ready:%-d %b %Y, %H:%M}" if ready else ""
    named = ", ".join(early[:4]) + (f" and {len(early) - 4} more" if len(early) > 4 else "")
    verb = "is" if len(early) == 1 else "are"
    raise Refusal(
        "not-rested",
        f"{named} {verb} not dry and rested{until}.",
        "Wait, or accept them as they are: say whether they were damp.",
        (
            Fault(
                field="cells",
                given=named,
                allowed="pieces that are dry and rested",
                cure="Accept them early, or as damp.",
            ),
        ),
    )
