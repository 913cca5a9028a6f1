"""The states of a study's swatches with their colours, as they stand in the tables."""

import json
import sqlite3

from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.states import (
    StateName,
    StudyColours,
    SwatchStates,
    bath_of,
    in_order,
    name_between,
    state_name,
)
from zesty_grid.store.cloth_pictures import cloth_pictures, most_faded
from zesty_grid.store.colours import list_colours, zone_colours
from zesty_grid.store.parsed import parsed
from zesty_grid.store.states import ended_baths_of_study


def colours_of_study(connection: sqlite3.Connection, study_id: int) -> StudyColours:
    colours = list_colours(connection, study_id)
    states: dict[str, list[int]] = {}
    rows = connection.execute(
        "SELECT swatch.code FROM study_swatch JOIN swatch ON swatch.id = study_swatch.swatch_id "
        "WHERE study_swatch.study_id = ? ORDER BY swatch.serial",
        (study_id,),
    )
    baths = ended_baths_of_study(connection, study_id)
    for row in rows:
        states[row["code"]] = in_order(baths.get(row["code"], ()))
    known = {run for own in states.values() for run in own if run}
    return StudyColours(
        swatches=tuple(
            SwatchStates(swatch=code, states=tuple(own), colours=tuple(colours.get(code, ())))
            for code, own in states.items()
        ),
        names=tuple(state_names(connection, known)),
        zones=tuple(zone_colours(connection, study_id)),
        pictures=tuple(cloth_pictures(connection, study_id)),
        faded=tuple(most_faded(connection, study_id)),
    )


def state_names(connection: sqlite3.Connection, runs: set[int]) -> list[StateName]:
    """What the states after some baths, and in their pauses, are called."""
    rows = connection.execute(
        "SELECT id, study_id, document FROM run WHERE id IN (SELECT value FROM json_each(?)) ORDER BY id",
        (json.dumps(sorted({bath_of(state) for state in runs})),),
    )
    names = {row["id"]: state_name(row["id"], row["study_id"], parsed(BenchVessel, row["document"])) for row in rows}
    after = [names[run] for run in sorted(runs & names.keys())]
    return after + [name_between(state, names[bath_of(state)]) for state in sorted(runs, reverse=True) if state < 0]
