"""Which photo shows the cloth of which swatch, and what is known of it without a look."""

import sqlite3
from typing import NamedTuple

from zesty_grid.core.record.states import ClothPicture, MostFaded


class PhotographedCell(NamedTuple):
    photo: int
    cell: str


def photographed_cell(connection: sqlite3.Connection, reading_id: int) -> PhotographedCell | None:
    """None where the reading is an instrument's."""
    row = connection.execute(
        "SELECT measurement.photo_id, reading.sheet_cell FROM reading "
        "JOIN measurement ON measurement.id = reading.measurement_id WHERE reading.id = ?",
        (reading_id,),
    ).fetchone()
    return PhotographedCell(row["photo_id"], row["sheet_cell"]) if row else None


def cloth_pictures(connection: sqlite3.Connection, study_id: int) -> list[ClothPicture]:
    """Of every state of a study's swatches the newest reading from a photo of a whole, dry piece
    that counts."""
    rows = connection.execute(
        "SELECT swatch.code, reading.state AS run, max(reading.id) AS reading, "
        "levelness_de00 "
        "FROM study_swatch JOIN reading ON reading.swatch_id = study_swatch.swatch_id "
        "JOIN swatch ON swatch.id = reading.swatch_id WHERE study_swatch.study_id = ? "
        "AND piece = 'whole' AND zone_now = '' AND damp = 0 AND measurement_id IS NOT NULL "
        "AND coalesce((SELECT counts FROM reading_choice WHERE reading_id = reading.id "
        "ORDER BY reading_choice.id DESC LIMIT 1), 1) = 1 GROUP BY swatch.code, run "
        "ORDER BY swatch.serial, run",
        (study_id,),
    )
    return [
        ClothPicture.model_construct(
            swatch=row["code"], run=row["run"], reading=row["reading"], levelness_de00=row["levelness_de00"]
        )
        for row in rows
    ]


def most_faded(connection: sqlite3.Connection, study_id: int) -> list[MostFaded]:
    rows = connection.execute(
        "SELECT swatch.code, max(fade_point.de00) AS de00 FROM study_swatch "
        "JOIN fade_point ON fade_point.swatch_id = study_swatch.swatch_id "
        "JOIN swatch ON swatch.id = fade_point.swatch_id WHERE study_swatch.study_id = ? "
        "GROUP BY swatch.id ORDER BY swatch.serial",
        (study_id,),
    )
    return [MostFaded.model_construct(swatch=row["code"], de00=row["de00"]) for row in rows if row["de00"] is not None]
