"""Readings of the cloths and tiles on the Shelf."""

import json
import sqlite3
from collections.abc import Sequence
from datetime import date, datetime

import numpy as np

from zesty_grid.core.read.chart import Chart
from zesty_grid.core.read.chart_watch import ChartPhoto
from zesty_grid.core.read.cloth_readings import ClothReading, ClothSource
from zesty_grid.core.read.colour_space import lab_to_hex
from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.core.read.measurement import Lab
from zesty_grid.store.plan import NotFound

MOST_CHART_PHOTOS = 200


def add_cloth_reading(
    connection: sqlite3.Connection,
    cloth: str,
    source: ClothSource,
    lab: Lab,
    uncertainty_de00: float,
    taken_on: date,
    kept_at: datetime,
    measurement: int | None = None,
    cell: str = "",
    sample: int | None = None,
    flags: Sequence[str] = (),
    note: str = "",
) -> None:
    """Raises NotFound for a cloth that is not on the Shelf."""
    must_be_cloth(connection, cloth)
    colour = np.array(lab)
    connection.execute(
        "INSERT INTO cloth_reading (cloth, source, measurement_id, sheet_cell, "
        "instrument_sample_id, lab_l, lab_a, lab_b, hex, colour_words, uncertainty_de00, flags, "
        "note, taken_on, kept_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        (
            cloth,
            source,
            measurement,
            cell,
            sample,
            *lab,
            lab_to_hex(colour),
            colour_words(colour),
            uncertainty_de00,
            json.dumps(list(flags)),
            note,
            taken_on.isoformat(),
            kept_at.isoformat(timespec="seconds"),
        ),
    )


def chart_photos(connection: sqlite3.Connection, chart: Chart) -> list[ChartPhoto]:
    """The newest photos, of all studies, in which this chart lay, oldest first."""
    rows = connection.execute(
        "SELECT coalesce(photo.taken_on, substr(photo.uploaded_at, 1, 10)) AS day, "
        "measurement.camera, measurement.response, measurement.patch_light AS light "
        "FROM measurement JOIN photo ON photo.id = measurement.photo_id "
        "JOIN sheet ON sheet.id = photo.sheet_id WHERE photo.discarded = 0 AND "
        "sheet.chart_name = ? AND measurement.id = (SELECT max(id) FROM measurement "
        "AS newest WHERE newest.photo_id = photo.id) ORDER BY day DESC, photo.id DESC LIMIT ?",
        (chart.name, MOST_CHART_PHOTOS),
    ).fetchall()
    return [
        ChartPhoto(
            taken_on=row["day"],
            camera=row["camera"] or "",
            response=json.loads(row["response"] or "[]"),
            patch_light=json.loads(row["light"] or "[]"),
        )
        for row in reversed(rows)
    ]


def must_be_cloth(connection: sqlite3.Connection, cloth: str) -> None:
    if not connection.execute("SELECT 1 FROM shelf_item WHERE kind = 'cloth' AND key = ?", (cloth,)).fetchone():
        raise NotFound("reference cloth on the Shelf")


def cloth_readings(connection: sqlite3.Connection, cloth: str) -> list[ClothReading]:
    """In the order of their days."""
    rows = connection.execute(
        "SELECT cloth_reading.*, measurement.photo_id FROM cloth_reading LEFT JOIN measurement "
        "ON measurement.id = cloth_reading.measurement_id WHERE cloth = ? "
        "ORDER BY taken_on, cloth_reading.id",
        (cloth,),
    )
    return [
        ClothReading(
            id=row["id"],
            source=row["source"],
            lab=(row["lab_l"], row["lab_a"], row["lab_b"]),
            hex=row["hex"],
            colour_words=row["colour_words"],
            uncertainty_de00=row["uncertainty_de00"],
            flags=tuple(json.loads(row["flags"])),
            note=row["note"],
            photo=row["photo_id"],
            taken_on=row["taken_on"],
            kept_at=row["kept_at"],
        )
        for row in rows
    ]
