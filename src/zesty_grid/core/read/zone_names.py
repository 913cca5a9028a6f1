"""What the zones of a piece are called, as they were called when the same cloth was read before."""

import re
from collections.abc import Sequence

import numpy as np
from scipy.optimize import linear_sum_assignment

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.measurement import CellMeasurement, Lab, ZoneMeasurement

UNNAMED = re.compile(r"zone \d+")
# A zone that faded a great deal still lies where it lay.
FAR_DE00, FAR_AWAY = 20.0, 0.35


class KnownZone(Frozen):
    """A zone of a cloth as it was read: `place` is its middle within the piece, 0 to 1 across and
    down."""

    name: str
    lab: Lab
    place: tuple[float, float]


def is_named(zone: str) -> bool:
    """Whether a person has said what a zone is; those that nobody named go by their number."""
    return bool(zone) and not UNNAMED.fullmatch(zone)


def known_zone(name: str, cell: CellMeasurement, zone: ZoneMeasurement) -> KnownZone:
    return KnownZone(name=name, lab=zone.lab, place=_place(cell, zone))


def names_by_likeness(cell: CellMeasurement, known: Sequence[KnownZone]) -> dict[str, str]:
    """The known zone that each zone of a cell is most likely to be, by its number: each name once,
    by colour and place together; a zone that is like none of them has no name.

    Least sum of distances (Kuhn, 1955, The Hungarian Method for the Assignment Problem).
    """
    if not known or not cell.zones:
        return {}
    off = np.array(
        [[delta_e_2000(np.array(zone.lab), np.array(one.lab)) / FAR_DE00 for one in known] for zone in cell.zones]
    )
    places = np.array([_place(cell, zone) for zone in cell.zones])
    away = np.linalg.norm(places[:, None] - np.array([one.place for one in known])[None], axis=2) / FAR_AWAY
    rows, columns = linear_sum_assignment(off + away)
    return {
        cell.zones[row].zone: known[column].name
        for row, column in zip(rows, columns, strict=True)
        if min(off[row, column], away[row, column]) < 1 and off[row, column] + away[row, column] < 3
    }


def _place(cell: CellMeasurement, zone: ZoneMeasurement) -> tuple[float, float]:
    outlines = [one.outline_px for one in cell.zones if one.outline_px]
    every = np.array([point for outline in outlines for point in outline]) if outlines else np.zeros((1, 2))
    low, high = every.min(axis=0), every.max(axis=0)
    parts = [np.array(part) for part in (zone.outline_px, *zone.more_outlines_px) if len(part)]
    middle = np.concatenate(parts).mean(axis=0) if parts else (low + high) / 2
    x, y = (middle - low) / np.maximum(high - low, 1.0)
    return (float(x), float(y))
