"""Accepted readings of all studies that differ by nothing but noise."""

import sqlite3
from collections import defaultdict
from collections.abc import Iterable

from zesty_grid.core.plan.noise import AlikeColours, alike
from zesty_grid.core.read.measurement import Lab

MOST_READINGS = 5000


def colours_that_should_be_alike(
    connection: sqlite3.Connection,
) -> tuple[AlikeColours, AlikeColours, AlikeColours]:
    """Repeated readings of one kept-dark piece; replicates of one vessel; replicates of two."""
    same_piece: defaultdict[tuple[object, ...], list[Lab]] = defaultdict(list)
    for row in connection.execute(
        "SELECT swatch_id, trial_id, lab_l, lab_a, lab_b FROM reading WHERE piece = 'dark' "
        "ORDER BY id DESC LIMIT ?",
        (MOST_READINGS,),
    ):
        same_piece[(row["swatch_id"], row["trial_id"])].append(_lab(row))
    shared: defaultdict[tuple[object, ...], dict[int, Lab]] = defaultdict(dict)
    apart: defaultdict[tuple[object, ...], dict[int, Lab]] = defaultdict(dict)
    for row in connection.execute(
        "SELECT study.id AS study_id, swatch.cell, swatch.replicate, lab_l, lab_a, lab_b, "
        "json_extract(study.plan, '$.replicate_vessels') AS vessels FROM reading "
        "JOIN swatch ON swatch.id = reading.swatch_id JOIN study ON study.id = swatch.study_id "
        "WHERE piece = 'whole' AND json_extract(study.plan, '$.replicates') > 1 "
        "ORDER BY reading.id DESC LIMIT ?",
        (MOST_READINGS,),
    ):
        kind = apart if row["vessels"] == "apart" else shared
        kind[(row["study_id"], row["cell"])].setdefault(row["replicate"], _lab(row))
    return (
        alike(tuple(group) for group in same_piece.values()),
        _replicates(shared.values()),
        _replicates(apart.values()),
    )


def _replicates(groups: Iterable[dict[int, Lab]]) -> AlikeColours:
    return alike(tuple(group.values()) for group in groups)


def _lab(row: sqlite3.Row) -> Lab:
    return (row["lab_l"], row["lab_a"], row["lab_b"])
