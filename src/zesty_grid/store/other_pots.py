"""In which pots a swatch of a study may have been, from the record."""

import sqlite3

from zesty_grid.core.dye.other_pots import FilledPot, OtherPot, other_pots
from zesty_grid.store.colours import list_colours
from zesty_grid.store.plan import NotFound
from zesty_grid.store.standing import standing_study
from zesty_grid.store.states import passages_of_study


def other_pots_of(connection: sqlite3.Connection, study_id: int, code: str) -> list[OtherPot]:
    """Raises NotFound for a swatch that the study does not have."""
    standing = standing_study(connection, study_id)
    if code not in standing.planned.by_code:
        raise NotFound("swatch")
    passages = passages_of_study(connection, study_id)
    pots = []
    for run in standing.begun:
        inside = [one for one in passages if one.vessel == run.name]
        if inside:
            since = min(one.in_at for one in inside)
            pots.append(FilledPot(run, since, frozenset(one.swatch for one in inside)))
    colours = {swatch: states[-1].lab for swatch, states in list_colours(connection, study_id).items() if states}
    return other_pots(standing.planned, code, pots, colours)
