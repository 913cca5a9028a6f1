"""Readings made of a photo that is accepted: what can be, and what becomes of it."""

import json
import sqlite3
from collections.abc import Iterator
from datetime import datetime
from typing import NamedTuple

from zesty_grid.core.read.measurement import CellMeasurement, ZoneMeasurement
from zesty_grid.core.read.readings import Assignment, NewReadings, Photo, Piece, ReadingChoice
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.cloths import add_cloth_reading
from zesty_grid.store.database import stamp
from zesty_grid.store.read import choose_reading
from zesty_grid.store.signing import sign
from zesty_grid.store.swatches import swatch_ids

# Another measurement of one photo, or another file of one sheet at one moment.
_SAME_MOMENT = """SELECT reading.id FROM reading
JOIN measurement ON measurement.id = reading.measurement_id
JOIN photo AS other ON other.id = measurement.photo_id
WHERE measurement.id <> ? AND (other.id = ? OR
  (other.sheet_id = ? AND other.taken_at IS NOT NULL AND other.taken_at = ?))"""


def check_acceptable(photo: Photo, wanted: NewReadings) -> None:
    """Raises Refusal for what cannot be accepted of a photo."""
    if wanted.measurement_id != photo.measurement_id:
        raise Refusal(
            "measured-again",
            "This photo has been measured again since.",
            "Look at the new measurement and accept that.",
        )
    if photo.accepted:
        raise Refusal(
            "already-accepted",
            "This measurement has already been accepted.",
            "Nothing more to do: its readings are kept.",
        )
    if (photo.sheet.trial is None) != (wanted.stage is None and not wanted.before):
        raise Refusal(
            "stage-needed" if wanted.stage is None else "stage-not-wanted",
            "A sheet of a trial needs the stage at which it was photographed; others have none.",
            "Choose the stage.",
        )
    if not wanted.cells and not wanted.zones and not cloths_in(wanted):
        raise Refusal("nothing-wanted", "No cell was chosen.", "Choose the cells to accept.")
    measured = {cell.cell: cell for cell in photo.measurement.cells}
    assigned = swatches_in(photo, wanted)
    for cloth in cloths_in(wanted):
        if cloth not in measured or measured[cloth].status != "measured":
            raise Refusal(
                "cell-not-measured",
                f"Cell {cloth} has no measured colour.",
                "Leave it out, or photograph the sheet again.",
            )
    for named in wanted.zones:
        found = measured.get(named.cell)
        zones = found.zones if found and named.cell in assigned else ()
        whole = bool(zones) or (found is not None and found.status == "measured")
        known = {zone.zone for zone in zones} | ({""} if whole and named.cell in assigned else set())
        if named.zone not in known:
            raise Refusal(
                "no-such-zone",
                f"Cell {named.cell} has no measured zone {named.zone} of a swatch.",
                "Look at the photo again, and choose among its zones.",
            )
    for name in wanted.cells:
        cell = measured.get(name)
        if cell is None or name not in assigned or cell.status != "measured":
            raise Refusal(
                "cell-not-measured",
                f"Cell {name} has no measured colour of a swatch.",
                "Leave it out, or photograph the sheet again.",
            )


def add_readings(
    connection: sqlite3.Connection, photo: Photo, wanted: NewReadings, shown_at: datetime, accepted_at: datetime
) -> list[int]:
    """Makes readings of the wanted cells and zones, as they were at `shown_at`. Answers the
    swatches that were read, by row number."""
    assigned = swatches_in(photo, wanted)
    ids = swatch_ids(connection, {assigned[name].swatch for name in cells_of(wanted)})
    common = {
        "trial_id": None if wanted.before else photo.sheet.trial,
        "stage": None if wanted.before else wanted.stage,
        "measurement_id": photo.measurement_id,
        "taken_on": wanted.taken_on.isoformat(),
        "accepted_at": accepted_at.isoformat(timespec="seconds"),
        "said_state": wanted.run,
        "shown_at": stamp(shown_at),
        "damp": int(wanted.damp),
        "backing": wanted.backing,
        "layers": wanted.layers,
        "note": wanted.note,
        "warnings": json.dumps(photo.measurement.calibration.warnings),
    }
    earlier = _earlier_at_that_moment(connection, photo)
    made = []
    for part in _parts(photo, wanted):
        own = {"swatch_id": ids[assigned[part.cell].swatch], **part.values(), **common}
        cursor = connection.execute(
            f"INSERT INTO reading ({', '.join(own)}) VALUES ({', '.join('?' * len(own))})", tuple(own.values())
        )
        made.append(int(cursor.lastrowid or 0))
        sign(connection, "reading", cursor.lastrowid)
    if earlier:
        choice = ReadingChoice(counts=False, note="the same sheet at the same moment counts once")
        for reading in earlier if wanted.instead else made:
            choose_reading(connection, reading, choice)
    for cell, cloth in cloths_in(wanted).items():
        found = next(one for one in photo.measurement.cells if one.cell == cell)
        add_cloth_reading(
            connection,
            cloth,
            "photo",
            found.lab or (0.0, 0.0, 0.0),
            found.uncertainty_de00 or 0.0,
            wanted.taken_on,
            accepted_at,
            measurement=photo.measurement_id,
            cell=cell,
            flags=found.flags,
            note=wanted.note,
        )
    connection.execute("UPDATE photo SET waiting = 0 WHERE id = ?", (photo.id,))
    return list(ids.values())


class _Part(NamedTuple):
    """A cell or a zone of one that becomes a reading."""

    cell: str
    piece: Piece
    measured: CellMeasurement | ZoneMeasurement
    flags: tuple[str, ...]
    zone: str = ""
    name: str = ""

    def values(self) -> dict[str, object]:
        parts, share = self.measured.parts, getattr(self.measured, "share", None)
        lightness, red, yellow = self.measured.lab or (0, 0, 0)
        return {
            "sheet_cell": f"{self.cell}/{self.zone}" if self.zone else self.cell,
            "piece": self.piece,
            "zone": self.name,
            "share": share,
            "lab_l": lightness,
            "lab_a": red,
            "lab_b": yellow,
            "hex": self.measured.hex,
            "colour_words": self.measured.colour_words,
            "flags": json.dumps(self.flags),
            "uncertainty_de00": self.measured.uncertainty_de00,
            "levelness_de00": self.measured.levelness_de00,
            "evenness_de00": parts.evenness_de00 if parts else 0.0,
            "chart_de00": parts.chart_de00 if parts else 0.0,
        }


def _parts(photo: Photo, wanted: NewReadings) -> Iterator[_Part]:
    measured = {cell.cell: cell for cell in photo.measurement.cells}
    assigned = {cell: a.piece for cell, a in swatches_in(photo, wanted).items()}
    for name in wanted.cells:
        yield _Part(name, assigned[name], measured[name], measured[name].flags)
    for named in wanted.zones:
        cell = measured[named.cell]
        zone: CellMeasurement | ZoneMeasurement = cell
        if named.zone:
            zone = next(one for one in cell.zones if one.zone == named.zone)
        # A zone that is a piece by itself is read as that piece, and needs no name of its own.
        name = named.name if named.piece else named.name or f"zone {named.zone}"
        piece = named.piece or assigned[named.cell]
        yield _Part(named.cell, piece, zone, cell.flags, named.zone, name)


def swatches_in(photo: Photo, wanted: NewReadings) -> dict[str, Assignment]:
    """What swatch lies in which cell, as the sheet says or as a person says instead."""
    found = {a.cell: a for a in photo.sheet.assignments if a.cell not in cloths_in(wanted)}
    for lies in wanted.lies:
        if lies.swatch:
            piece = found[lies.cell].piece if lies.cell in found else "whole"
            found[lies.cell] = Assignment(cell=lies.cell, swatch=lies.swatch, piece=piece)
    return found


def cloths_in(wanted: NewReadings) -> dict[str, str]:
    """The cells in which something of the Shelf lies."""
    return {lies.cell: lies.cloth for lies in wanted.lies if lies.cloth}


def cells_of(wanted: NewReadings) -> set[str]:
    return {*wanted.cells, *(named.cell for named in wanted.zones)}


def _earlier_at_that_moment(connection: sqlite3.Connection, photo: Photo) -> list[int]:
    """Readings of this very photo, or of its sheet at its moment, that were accepted before."""
    at = photo.taken_at.isoformat() if photo.taken_at else None
    rows = connection.execute(_SAME_MOMENT, (photo.measurement_id, photo.id, photo.sheet.sheet.id, at))
    return [row["id"] for row in rows]
