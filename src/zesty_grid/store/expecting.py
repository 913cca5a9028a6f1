"""What the pieces in a photo should look like, by what was read before."""

import json
import sqlite3
from collections.abc import Mapping

import numpy as np

from zesty_grid.core.read.odd_ones import Expected, OddPiece, SeenPiece, by_labels, foretold_by_neighbours, questions
from zesty_grid.core.read.readings import Assignment, Photo
from zesty_grid.core.record.states import StateColour

OWN_DE00, REPEATS_DE00 = 5.0, 7.0
KEPT_DARK_DE00, EXPOSED_DE00 = 4.0, 15.0


def questions_about(connection: sqlite3.Connection, photo: Photo) -> list[OddPiece]:
    """Asks about pieces that look other than their last reading, their repeats or neighbours."""
    assigned = {a.cell: a for a in photo.sheet.assignments}
    pieces = [
        SeenPiece(cell=cell.cell, swatch=assigned[cell.cell].swatch, lab=cell.lab)
        for cell in photo.measurement.cells
        if cell.lab is not None and cell.cell in assigned
    ]
    if photo.sheet.trial is not None:
        found = {piece.cell: _in_trial(connection, assigned[piece.cell], photo) for piece in pieces}
    else:
        found = _whole(connection, photo, assigned)
    asked = questions(pieces, {cell: one for cell, one in found.items() if one is not None})
    labelled = by_labels(photo.measurement.labels, {c: a.swatch for c, a in assigned.items()})
    said = {one.cell for one in labelled}
    return [*labelled, *(one for one in asked if one.cell not in said)]


def _in_trial(connection: sqlite3.Connection, assignment: Assignment, photo: Photo) -> Expected | None:
    row = connection.execute(
        "SELECT lab_l, lab_a, lab_b FROM reading JOIN swatch ON swatch.id = reading.swatch_id "
        "WHERE swatch.code = ? AND piece = ? AND trial_id = ? AND zone_now = '' "
        "AND measurement_id <> ? ORDER BY reading.stage DESC, reading.id DESC LIMIT 1",
        (assignment.swatch, assignment.piece, photo.sheet.trial, photo.measurement_id),
    ).fetchone()
    if row is None:
        return None
    limit = KEPT_DARK_DE00 if assignment.piece == "dark" else EXPOSED_DE00
    return Expected(
        lab=(row["lab_l"], row["lab_a"], row["lab_b"]), within_de00=limit, known_by="its last reading in this trial"
    )


def _whole(
    connection: sqlite3.Connection, photo: Photo, assigned: Mapping[str, Assignment]
) -> dict[str, Expected | None]:
    """By its own state that was read, else by repeats in it, else by the grid around."""
    rows = connection.execute(
        "SELECT swatch.code, coalesce(place.true_levels, place.levels) AS levels, place.control, "
        "swatch.state AS run, run.stage, state_colour.document "
        "FROM place JOIN swatch ON swatch.id = place.swatch_id "
        "LEFT JOIN run ON run.id = swatch.state LEFT JOIN state_colour ON "
        "state_colour.swatch_id = swatch.id AND state_colour.state = swatch.state "
        "WHERE place.study_id = ? AND place.stray = 0",
        (photo.study,),
    ).fetchall()
    places = {row["code"]: row for row in rows}
    read = [(row, np.array(StateColour.model_validate_json(row["document"]).lab)) for row in rows if row["document"]]
    found: dict[str, Expected | None] = {}
    for cell, assignment in assigned.items():
        place = places.get(assignment.swatch)
        if place is None:
            continue
        own = next((lab for row, lab in read if row["code"] == assignment.swatch), None)
        others = [(row, lab) for row, lab in read if row["code"] != assignment.swatch]
        found[cell] = _expected(place, own, others)
    return found


def _expected(
    place: sqlite3.Row, own: np.ndarray | None, others: list[tuple[sqlite3.Row, np.ndarray]]
) -> Expected | None:
    if own is not None:
        return Expected(lab=_lab(own), within_de00=OWN_DE00, known_by="its own last reading")
    repeats = [
        lab
        for row, lab in others
        if (row["levels"], row["control"], row["stage"]) == (place["levels"], place["control"], place["stage"])
    ]
    if repeats:
        mean = np.mean(repeats, axis=0)
        return Expected(lab=_lab(mean), within_de00=REPEATS_DE00, known_by="its repeats")
    alike = [(row, lab) for row, lab in others if row["control"] is None]
    if place["control"] is not None or not alike:
        return None
    levels = [json.loads(row["levels"]) for row, _ in alike]
    labs = np.array([lab for _, lab in alike])
    return foretold_by_neighbours(levels, labs, json.loads(place["levels"]))


def _lab(values: np.ndarray) -> tuple[float, float, float]:
    return (float(values[0]), float(values[1]), float(values[2]))
