"""What the zones in a photo are most likely to be, by earlier readings of the same cloths."""

import sqlite3
from collections.abc import Iterator

from zesty_grid.core.plan.zones_on_cloth import has_zones, zones_on
from zesty_grid.core.read.measurement import CellMeasurement, Measurement
from zesty_grid.core.read.readings import AssignedSheet, NamedZone, zones_of_pieces
from zesty_grid.core.read.zone_names import KnownZone, is_named, known_zone, names_by_likeness
from zesty_grid.store.parsed import parsed
from zesty_grid.store.standing import standing_study


def zones_of_photo(
    connection: sqlite3.Connection, study: int, sheet: AssignedSheet, measurement: Measurement
) -> tuple[NamedZone, ...]:
    """The zones that are pieces by themselves, and the names of others where one is likely: as the
    cloth was read before, or the only one that the plan has on it."""
    found = list(zones_of_pieces(sheet, measurement))
    settled = {one.cell for one in found}
    assigned = {one.cell: one.swatch for one in sheet.assignments}
    for cell in measurement.cells:
        if cell.status == "measured" and cell.cell in assigned and cell.cell not in settled:
            found += _likely(connection, study, assigned[cell.cell], cell)
    return tuple(found)


def _likely(connection: sqlite3.Connection, study: int, code: str, cell: CellMeasurement) -> Iterator[NamedZone]:
    planned = standing_study(connection, study).planned
    is_print = has_zones(planned.plan) and code in planned.by_code
    if cell.zones:
        names = names_by_likeness(cell, known_zones(connection, code))
        if names or is_print:
            # All of them, or the piece would be read in part.
            yield from (NamedZone(cell=cell.cell, zone=zone.zone, name=names.get(zone.zone, "")) for zone in cell.zones)
        return
    only = zones_on(planned.plan, planned.cells, planned.cell(planned.by_code[code])) if is_print else []
    if len(only) == 1:
        yield NamedZone(cell=cell.cell, zone="", name=only[0])


def known_zones(connection: sqlite3.Connection, code: str) -> list[KnownZone]:
    """The named zones of a swatch, each as it was read last."""
    rows = connection.execute(
        "SELECT reading.zone_now, reading.sheet_cell, measurement.document FROM reading "
        "JOIN swatch ON swatch.id = reading.swatch_id "
        "JOIN measurement ON measurement.id = reading.measurement_id "
        "WHERE swatch.code = ? AND reading.zone_now <> '' ORDER BY reading.id",
        (code,),
    ).fetchall()
    found: dict[str, KnownZone] = {}
    for row in rows:
        name, (cell_name, _, zone_name) = row["zone_now"], row["sheet_cell"].partition("/")
        if not is_named(name):
            continue
        measured = parsed(Measurement, row["document"])
        cell = next((one for one in measured.cells if one.cell == cell_name), None)
        zone = next((one for one in cell.zones if one.zone == zone_name), None) if cell else None
        if cell and zone:
            found[name] = known_zone(name, cell, zone)
    return list(found.values())
