"""Readings by photo, of all studies, that count and differ by nothing but noise."""

import sqlite3
from collections import defaultdict
from collections.abc import Iterator

from zesty_grid.core.plan.noise import AlikeColours, alike
from zesty_grid.core.read.measurement import Lab

MOST_READINGS = 5000
COUNTS = (
    "coalesce((SELECT counts FROM reading_choice WHERE reading_id = reading.id "
    "ORDER BY reading_choice.id DESC LIMIT 1), 1 - reading.damp)"
)


def colours_that_should_be_alike(connection: sqlite3.Connection) -> tuple[AlikeColours, AlikeColours, AlikeColours]:
    """Repeated readings of one kept-dark piece; repeats of one vessel; repeats of two.

    Repeats are swatches of the same levels in the same state. Those that were in the same bath
    last are of one vessel; where no bath is known, the plan says whether repeats share theirs.
    """
    same_piece: defaultdict[tuple[object, ...], list[Lab]] = defaultdict(list)
    for row in connection.execute(
        "SELECT swatch_id, trial_id, lab_l, lab_a, lab_b FROM reading "
        "WHERE measurement_id IS NOT NULL AND zone = '' AND piece = 'dark' "
        f"AND {COUNTS} ORDER BY id DESC LIMIT ?",
        (MOST_READINGS,),
    ):
        same_piece[(row["swatch_id"], row["trial_id"])].append(_lab(row))
    repeats: defaultdict[tuple[object, ...], dict[int, tuple[Lab, object]]] = defaultdict(dict)
    for row in _readings_of_repeats(connection):
        what = (row["study_id"], row["levels"], row["control"], row["stage"])
        # Without a known bath, repeats that run apart are each in a vessel of their own.
        apart = row["swatch_id"] if row["vessels"] == "apart" else 0
        vessel = row["state"] or -1 - apart
        repeats[what].setdefault(row["swatch_id"], (_lab(row), vessel))
    shared, apart_colours = [], []
    for group in repeats.values():
        by_vessel: defaultdict[object, list[Lab]] = defaultdict(list)
        for lab, vessel in group.values():
            by_vessel[vessel].append(lab)
        shared += [tuple(labs) for labs in by_vessel.values()]
        apart_colours.append(tuple(labs[0] for labs in by_vessel.values()))
    return alike(tuple(g) for g in same_piece.values()), alike(shared), alike(apart_colours)


def _readings_of_repeats(connection: sqlite3.Connection) -> Iterator[sqlite3.Row]:
    """The newest first, of the newest studies that have repeats; not more than are needed."""
    studies = connection.execute(
        "SELECT DISTINCT study_id FROM place WHERE replicate > 1 ORDER BY study_id DESC"
    ).fetchall()
    left = MOST_READINGS
    for study in studies:
        rows = connection.execute(
            "SELECT place.study_id, place.levels, place.control, reading.swatch_id, lab_l, lab_a, "
            "lab_b, reading.state, run.stage, (SELECT replicate_vessels FROM study "
            "WHERE id = ?1) AS vessels FROM swatch JOIN place ON place.swatch_id = swatch.id "
            "AND place.study_id = swatch.study_id JOIN reading ON reading.swatch_id = swatch.id "
            "LEFT JOIN run ON run.id = reading.state WHERE swatch.study_id = ?1 "
            "AND reading.measurement_id IS NOT NULL AND reading.zone = '' "
            "AND reading.piece = 'whole' AND place.true_levels IS NULL "
            f"AND {COUNTS} ORDER BY reading.id DESC LIMIT ?2",
            (study["study_id"], left),
        ).fetchall()
        yield from rows
        left -= len(rows)
        if left <= 0:
            return


def _lab(row: sqlite3.Row) -> Lab:
    return (row["lab_l"], row["lab_a"], row["lab_b"])
