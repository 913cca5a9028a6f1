"""Which photos can be accepted as they are, and what the others ask."""

from collections.abc import Sequence
from datetime import date

from zesty_grid.core.read.flags import ASKS_NOTHING
from zesty_grid.core.read.odd_ones import OddPiece
from zesty_grid.core.read.readings import NewReadings, Photo


def what_it_asks(photo: Photo, odd: Sequence[OddPiece], stage: int | None) -> list[str]:
    """What a person has to look at before the photo is accepted; nothing when it is clear."""
    asks = list(photo.measurement.calibration.warnings)
    asks += [question.words for question in odd]
    assigned = {a.cell: a.swatch for a in photo.sheet.assignments}
    for cell in photo.measurement.cells:
        swatch = assigned.get(cell.cell)
        if swatch is None:
            continue
        if cell.status != "measured":
            asks.append(f"{cell.cell} ({swatch}): {cell.status}.")
        asks += [
            f"{cell.cell} ({swatch}): {flag}."
            for flag in cell.flags
            if cell.status == "measured" and flag not in ASKS_NOTHING
        ]
    if photo.sheet.trial is not None and stage is None:
        asks.append("All stages of its trial are read: which one is this?")
    if photo.read_before:
        asks.append("The same sheet at the same moment was read before.")
    return asks


def everything_of(photo: Photo, stage: int | None, today: date) -> NewReadings:
    """All measured cells of a photo that has nothing to ask, on the day that the camera says."""
    zones = photo.own_zones
    zoned = {zone.cell for zone in zones}
    assigned = {a.cell for a in photo.sheet.assignments} - zoned
    measured = {cell.cell for cell in photo.measurement.cells if cell.status == "measured"}
    day = date.fromisoformat(photo.taken_on) if photo.taken_on else today
    return NewReadings(
        measurement_id=photo.measurement_id,
        cells=tuple(cell.cell for cell in photo.measurement.cells if cell.cell in measured & assigned),
        zones=zones,
        lies=tuple(lies for lies in photo.cloths if lies.cell in measured - assigned - zoned),
        taken_on=min(day, today),
        stage=stage,
    )
