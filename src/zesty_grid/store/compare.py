"""The readings that are compared: of pieces in their last state, or before and after a bath."""

import sqlite3
from collections.abc import Mapping

from zesty_grid.core.compare.reference import BeforeReference, CellWay
from zesty_grid.core.read.difference_uncertainty import Seen
from zesty_grid.core.record.marks import do_not_count
from zesty_grid.core.record.states import AS_IT_CAME, bath_of, in_order
from zesty_grid.store.kept import Kept
from zesty_grid.store.projecting import marks_for
from zesty_grid.store.read import SeenReading, seen_readings
from zesty_grid.store.standing import StandingStudy
from zesty_grid.store.states import ended_baths_of_study

# A swatch by its code, and the name of its zone; empty for the whole.
Part = tuple[str, str]
# By the cell in which a piece really stands and the way by which it went on, piece by piece.
PiecesByCell = dict[CellWay, list[list[Seen]]]


def pieces_in_last_state(connection: sqlite3.Connection, standing: StandingStudy) -> PiecesByCell:
    """The readings of each piece in the last state in which it was read."""
    found: PiecesByCell = {}
    treated = _treated(standing)
    for code, by_state in readings_by_state(connection, standing).items():
        last = next((run for run in reversed(_order(by_state)) if run in by_state[1]), None)
        if last is not None:
            cell = _cell(standing, code)
            if cell is not None:
                behind = by_state[0][1 : by_state[0].index(last) + 1]
                way = "; ".join(treated[run] for run in behind if run in treated)
                found.setdefault(CellWay(cell, way), []).append([one.seen for one in by_state[1][last]])
    return found


def pieces_around(
    connection: sqlite3.Connection, standing: StandingStudy, reference: BeforeReference
) -> tuple[PiecesByCell, PiecesByCell]:
    """Pieces before and after a bath of this study, before and after the last one that lies between
    two states that were read, or in one state and the last; only those read in both."""
    vessel = reference.vessel
    run_of = {run.name: run.id for run in standing.runs}
    treated = _treated(standing)
    before: PiecesByCell = {}
    after: PiecesByCell = {}
    for code, by_state in readings_by_state(connection, standing).items():
        order, seen = _order(by_state), by_state[1]
        read = [run for run in order if run in seen]
        later = read[-1] if read else None
        if reference.state is not None:
            earlier = [reference.state] if reference.state in read[:-1] else []
        elif vessel:
            bath = run_of.get(vessel)
            if bath is None or bath not in order:
                continue
            later = next((run for run in order[order.index(bath) :] if run in seen), None)
            earlier = [run for run in order[: order.index(bath)] if run in seen and bath_of(run) != bath]
        else:
            earlier = read[:-1]
        if later is None or not earlier:
            continue
        cell = _cell(standing, code)
        if cell is None:
            continue
        behind = order[1 : order.index(later) + 1]
        there = CellWay(cell, "; ".join(treated[run] for run in behind if run in treated))
        before.setdefault(there, []).append([one.seen for one in seen[earlier[-1]]])
        after.setdefault(there, []).append([one.seen for one in seen[later]])
    return before, after


# The runs of a part in order, and the readings of those that were read.
ReadByState = Mapping[Part, tuple[list[int], dict[int, list[SeenReading]]]]
# 1.1 s of processor time with 2,000 swatches, and the grid asks for it at every reference.
_kept: Kept[ReadByState] = Kept(2)


def readings_by_state(connection: sqlite3.Connection, standing: StandingStudy) -> ReadByState:
    """For each swatch that counts, and each zone of one: its states in order, with readings.
    Nobody changes it."""
    return _kept.of_study(connection, standing.stored.id, "", lambda: _read_by_state(connection, standing))


def _read_by_state(connection: sqlite3.Connection, standing: StandingStudy) -> ReadByState:
    lost = do_not_count(marks_for(connection, standing.stored.id))
    baths = ended_baths_of_study(connection, standing.stored.id)
    undecided = {
        row["code"]
        for row in connection.execute(
            "SELECT swatch.code FROM place JOIN swatch ON swatch.id = place.swatch_id "
            "WHERE place.study_id = ? AND place.stray = 1",
            (standing.stored.id,),
        )
    }
    found: dict[Part, tuple[list[int], dict[int, list[SeenReading]]]] = {}
    study = standing.stored.id
    of_zones = seen_readings(connection, study, zones=True)
    for one in (*seen_readings(connection, study), *of_zones):
        if one.piece != "whole" or one.is_mean_of_zones or one.swatch in lost or one.swatch in undecided:
            continue
        order = in_order(baths.get(one.swatch, ()))
        own = found.setdefault((one.swatch, one.zone), (order, {}))
        state = one.run if one.run in order else AS_IT_CAME
        own[1].setdefault(state, []).append(one)
    return found


def _treated(standing: StandingStudy) -> dict[int, str]:
    """The runs of further treatments, by what they are called."""
    return {run.id: run.vessel.vessel.title for run in standing.runs if run.vessel.vessel.treatment}


def _order(by_state: tuple[list[int], dict[int, list[SeenReading]]]) -> list[int]:
    return by_state[0]


def _cell(standing: StandingStudy, part: Part) -> str | None:
    """The cell in which a swatch stands, or which a zone of it is."""
    code, zone = part
    swatch = standing.planned.by_code[code]
    return standing.planned.zone_cell(swatch, zone) if zone else standing.planned.cell(swatch)
