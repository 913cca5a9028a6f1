"""The colour of every state of a swatch: the mean of the readings that count."""

import sqlite3
from collections.abc import Iterable

from zesty_grid.core.record.states import CountedReading, StateColour, ZoneColour, state_colour
from zesty_grid.store.projecting import project_swatches
from zesty_grid.store.read import seen_readings


def project_colours(connection: sqlite3.Connection, swatch_ids: Iterable[int]) -> None:
    """Works out the colours of some swatches from their readings, and keeps them."""
    ids = sorted(set(swatch_ids))
    by_state: dict[tuple[str, int], list[CountedReading]] = {}
    for one in seen_readings(connection, swatch_ids=ids):
        if one.piece == "whole" and not one.is_mean_of_zones:
            by_state.setdefault((one.swatch, one.run), []).append(
                CountedReading.model_construct(
                    seen=one.seen, uncertainty_de00=one.uncertainty_de00, taken_on=one.taken_on
                )
            )
    connection.executemany("DELETE FROM state_colour WHERE swatch_id = ?", ((swatch,) for swatch in ids))
    connection.executemany(
        "INSERT INTO state_colour (swatch_id, state, document) VALUES ((SELECT id FROM swatch WHERE code = ?), ?, ?)",
        ((code, run, state_colour(run, readings).model_dump_json()) for (code, run), readings in by_state.items()),
    )
    connection.executemany(
        "UPDATE place SET is_read = EXISTS (SELECT 1 FROM state_colour "
        "WHERE state_colour.swatch_id = place.swatch_id) OR EXISTS (SELECT 1 FROM reading "
        "WHERE reading.swatch_id = place.swatch_id AND zone_now <> '') WHERE swatch_id = ?",
        ((swatch,) for swatch in ids),
    )
    project_swatches(connection, ids)


def zone_colours(connection: sqlite3.Connection, study_id: int) -> list[ZoneColour]:
    """Each zone of a study's swatches in the last state in which it was read."""
    by_zone: dict[tuple[str, str], dict[int, list[CountedReading]]] = {}
    for one in seen_readings(connection, study_id, zones=True):
        if one.piece == "whole":
            by_zone.setdefault((one.swatch, one.zone), {}).setdefault(one.run, []).append(
                CountedReading(seen=one.seen, uncertainty_de00=one.uncertainty_de00, taken_on=one.taken_on)
            )
    return [
        ZoneColour(swatch=code, zone=zone, colour=state_colour(max(runs), runs[max(runs)]))
        for (code, zone), runs in by_zone.items()
    ]


def list_colours(connection: sqlite3.Connection, study_id: int) -> dict[str, list[StateColour]]:
    """The colours of a study's swatches, by code, in the order of their states."""
    rows = connection.execute(
        "SELECT swatch.code, state_colour.document, coalesce(passage.out_at, passage.in_at, '') AS at "
        "FROM study_swatch JOIN swatch ON swatch.id = study_swatch.swatch_id "
        "JOIN state_colour ON state_colour.swatch_id = swatch.id "
        "LEFT JOIN passage ON passage.run_id = state_colour.after_run "
        "AND passage.swatch_id = swatch.id WHERE study_swatch.study_id = ? "
        "ORDER BY swatch.serial, at, state_colour.state > 0, abs(state_colour.state)",
        (study_id,),
    )
    found: dict[str, list[StateColour]] = {}
    for row in rows:
        colour = StateColour.model_validate_json(row["document"])
        found.setdefault(row["code"], []).append(colour)
    return found


def colours_of_swatch(connection: sqlite3.Connection, swatch_id: int) -> list[StateColour]:
    rows = connection.execute(
        "SELECT document FROM state_colour WHERE swatch_id = ? ORDER BY coalesce(after_run, 0), state > 0, abs(state)",
        (swatch_id,),
    )
    return [StateColour.model_validate_json(row["document"]) for row in rows]
