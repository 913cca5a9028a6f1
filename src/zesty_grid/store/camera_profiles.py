"""What cameras were taught, and which of it serves for a photo."""

import json
import sqlite3

from zesty_grid.core.read.camera_profile import CameraProfile, with_profile
from zesty_grid.core.read.difference_uncertainty import LIKE_RESPONSE, response_distance
from zesty_grid.core.read.instrument_agreement import teach_by
from zesty_grid.core.read.measurement import Measurement
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.database import now
from zesty_grid.store.instruments import read_both_ways


def teach_camera(connection: sqlite3.Connection, camera: str, capture: int) -> CameraProfile:
    """Keeps what the swatches read both ways teach; raises Refusal where that is too little."""
    both = [one for one in read_both_ways(connection) if (one.camera, one.capture) == (camera, capture)]
    profile = teach_by(camera, both)
    if profile is None or not profile.is_worth_it:
        raise Refusal(
            "not-worth-it",
            "There are too few swatches that both have read, or they do not lower the error of those left out.",
            "Measure more of them with the instrument, of many colours.",
        )
    forget_camera(connection, camera, capture)
    connection.execute(
        "INSERT INTO camera_profile (camera, capture_id, document, made_at) VALUES (?, ?, ?, ?)",
        (camera, capture, profile.model_dump_json(), now()),
    )
    return profile


def forget_camera(connection: sqlite3.Connection, camera: str, capture: int) -> None:
    """It is used no more; what was read by it stays as it was read."""
    connection.execute("UPDATE camera_profile SET in_use = 0 WHERE camera = ? AND capture_id = ?", (camera, capture))


def taught_captures(connection: sqlite3.Connection) -> set[tuple[str, int]]:
    rows = connection.execute("SELECT camera, capture_id FROM camera_profile WHERE in_use = 1")
    return {(row["camera"], row["capture_id"]) for row in rows}


def as_taught(connection: sqlite3.Connection, measurement: Measurement) -> Measurement:
    """A photo of a camera that was taught in such a light, corrected by that; others as they are.

    Photos that were joined are left as they are: several lights tell more than was taught in one.
    """
    if measurement.photos:
        return measurement
    response = measurement.calibration.response
    rows = connection.execute(
        "SELECT camera_profile.document, capture.response FROM camera_profile JOIN capture "
        "ON capture.id = camera_profile.capture_id WHERE in_use = 1 AND camera_profile.camera = ?",
        (measurement.calibration.camera,),
    )
    near = [
        (distance, row["document"])
        for row in rows
        if (distance := response_distance(response, json.loads(row["response"]))) < LIKE_RESPONSE
    ]
    if not near:
        return measurement
    return with_profile(measurement, CameraProfile.model_validate_json(min(near)[1]))
