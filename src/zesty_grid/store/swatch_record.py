"""The record of one swatch, read from the tables: its baths in every study, states, readings."""

import sqlite3
from collections.abc import Sequence
from datetime import UTC, datetime

import numpy as np

from zesty_grid.core.dye.log_words import LogLine, log_lines
from zesty_grid.core.dye.swatch_record import BathPassed, Relative, StateShown, SwatchRecord, bath_passed, hand_lines
from zesty_grid.core.read.colour_difference import cielab_difference
from zesty_grid.core.read.difference_uncertainty import Seen, difference_uncertainty
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.passages import Passage
from zesty_grid.core.record.states import AS_IT_CAME_WORDS, StateColour, in_order
from zesty_grid.core.record.swatch import Levels, Swatch
from zesty_grid.store.colours import colours_of_swatch
from zesty_grid.store.dye import standing_entries
from zesty_grid.store.plan import study_names
from zesty_grid.store.probes import list_readings as probe_readings
from zesty_grid.store.projecting import marks_for
from zesty_grid.store.read import readings_of, seen_readings
from zesty_grid.store.runs import StoredRun, runs_of_swatch
from zesty_grid.store.standing import StandingStudy, standing_study
from zesty_grid.store.state_colours import state_names
from zesty_grid.store.states import ended_baths, passages_of_swatch
from zesty_grid.store.swatches import children_of, home_of, studies_with, swatch_ids

EVER = datetime(1970, 1, 1, tzinfo=UTC)


def record_of(connection: sqlite3.Connection, study_id: int, code: str) -> SwatchRecord | None:
    """A swatch as a study sees it; None where it has nothing to do with that study."""
    standing = standing_study(connection, study_id)
    swatch = standing.planned.by_code.get(code)
    if swatch is None:
        return None
    row = swatch_ids(connection, [code])[code]
    names = study_names(connection)
    runs = runs_of_swatch(connection, row)
    passages = passages_of_swatch(connection, row)
    lines = {one: _lines(connection, one, runs) for one in {study_id, *(run.study_id for run in runs)}}
    planned = standing.planned
    levels = planned.levels(swatch)
    fibre = standing.shelf.fibre(swatch.fibre)
    return SwatchRecord(
        code=code,
        tie=swatch.tie,
        cell=planned.cell(swatch),
        levels=levels,
        level_words=planned.level_words(levels),
        meant=_meant(swatch),
        planned=swatch.planned,
        control=swatch.control or "",
        fibre_words=f"{fibre.name}, {fibre.fibre_class}. {fibre.note}".strip() if fibre else "",
        mass_g=swatch.mass_g,
        cut_from=_parent(connection, swatch, names),
        cut_into=tuple(
            Relative(study=home, study_name=names[home], swatch=child) for child, home in children_of(connection, code)
        ),
        studies=tuple(
            Relative(study=one, study_name=names[one], swatch=code) for one in studies_with(connection, code)
        ),
        passages=(
            *(_passed(connection, run, passages.get(run.id), code, lines[run.study_id], names) for run in runs),
            *_ahead(standing, code, names),
        ),
        states=tuple(_states(connection, row, code)),
        marks=tuple(marks_for(connection, swatch_id=row)),
        hand=tuple(hand_lines(code, lines[study_id], standing_entries(connection, study_id, kinds=("hand",)))),
        readings=tuple(readings_of(connection, row)),
    )


def _meant(swatch: Swatch) -> Levels | None:
    return swatch.levels if swatch.true_levels not in (None, swatch.levels) else None


def _parent(connection: sqlite3.Connection, swatch: Swatch, names: dict[int, str]) -> Relative | None:
    if swatch.parent is None:
        return None
    home = home_of(connection, swatch.parent)
    return Relative(study=home, study_name=names[home], swatch=swatch.parent)


def _lines(connection: sqlite3.Connection, study_id: int, runs: Sequence[StoredRun]) -> list[LogLine]:
    """What was logged at its own vessels, and at none."""
    vessels = [run.vessel for run in runs if run.study_id == study_id]
    entries = [
        entry
        for name in dict.fromkeys([*(vessel.name for vessel in vessels), ""])
        for entry in standing_entries(connection, study_id, name)
    ]
    return log_lines(sorted(entries, key=lambda entry: (entry.at, entry.id)), vessels)


def _passed(
    connection: sqlite3.Connection,
    run: StoredRun,
    passage: Passage | None,
    code: str,
    lines: list[LogLine],
    names: dict[int, str],
) -> BathPassed:
    by_hand = [
        (e.at, e.temperature_c, e.ph) for e in standing_entries(connection, run.study_id, run.name, kinds=("record",))
    ]
    probed = [(r.at, r.temperature_c, r.ph) for r in probe_readings(connection, run.study_id, run.name, EVER)]
    return bath_passed(
        run.study_id,
        names[run.study_id],
        run.vessel,
        passage,
        code,
        lines,
        sorted([*by_hand, *probed], key=lambda one: one[0]),
    )


def _ahead(standing: StandingStudy, code: str, names: dict[int, str]) -> list[BathPassed]:
    coming: list[BenchVessel] = [one for one in standing.bench if not one.begun and code in one.vessel.swatches]
    study = standing.stored.id
    return [bath_passed(study, names[study], one, None, code, (), ()) for one in coming]


def _states(connection: sqlite3.Connection, row: int, code: str) -> list[StateShown]:
    baths = ended_baths(connection, [row]).get(code, [])
    at = {bath.run: bath.out_at for bath in baths}
    colours = {colour.run: colour for colour in colours_of_swatch(connection, row)}
    seen: dict[int, list[Seen]] = {}
    for one in seen_readings(connection, swatch_ids=[row]):
        if one.piece == "whole":
            seen.setdefault(one.run, []).append(one.seen)
    labels = {one.run: one.label for one in state_names(connection, set(at))}
    found: list[StateShown] = []
    before: StateColour | None = None
    for run in in_order(baths):
        colour = colours.get(run)
        shown = StateShown(run=run, label=labels.get(run, AS_IT_CAME_WORDS), at=at.get(run), colour=colour)
        if colour and before:
            uncertain = difference_uncertainty([seen[before.run]], [seen[run]])
            shown = shown.model_copy(
                update={
                    "change": cielab_difference(np.array(before.lab), np.array(colour.lab)),
                    "uncertainty_de00": uncertain.uncertainty_de00,
                    "limit_de00": uncertain.limit_de00,
                }
            )
        before = colour or before
        found.append(shown)
    return found
