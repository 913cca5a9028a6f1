"""Each reading's cloth as a picture: cut from its photo once, and for a whole page at a time."""

import threading
from collections import OrderedDict

import numpy as np
from fastapi import APIRouter, Request
from fastapi.responses import Response
from numpy.typing import NDArray

from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.read.cloth_picture import cloth_picture, with_mean
from zesty_grid.core.read.measure import calibrate
from zesty_grid.core.read.readings import Photo
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.on_screen import cloth_webp
from zesty_grid.formats.photo import open_photo
from zesty_grid.store.cloth_pictures import photographed_cell
from zesty_grid.store.read import load_photo, load_reading, photo_bytes

MOST_BYTES = 80_000_000
FOR_GOOD = {"Cache-Control": "private, max-age=31536000, immutable"}

router = APIRouter(prefix="/api", tags=["read"])

ClothByCell = dict[str, NDArray[np.float16]]


class ClothOfPhotos:
    """The cloth of the photos that were looked at last, as many as `most_bytes` hold; one photo is
    taken apart at a time."""

    def __init__(self, most_bytes: int = MOST_BYTES) -> None:
        self._most_bytes = most_bytes
        self._kept: OrderedDict[int, ClothByCell] = OrderedDict()
        self._lock = threading.Lock()

    def of(self, photo: Photo, data: bytes) -> ClothByCell:
        with self._lock:
            if photo.measurement_id not in self._kept:
                self._kept[photo.measurement_id] = cloth_by_cell(photo, data)
            self._kept.move_to_end(photo.measurement_id)
            while len(self._kept) > 1 and self._bytes() > self._most_bytes:
                self._kept.popitem(last=False)
            return self._kept[photo.measurement_id]

    def _bytes(self) -> int:
        return sum(lab.nbytes for cloths in self._kept.values() for lab in cloths.values())


def cloth_by_cell(photo: Photo, data: bytes) -> ClothByCell:
    """Empty where the photo has no sheet, or can no longer be read."""
    if photo.sheet.sheet.kind == "none":
        return {}
    said = {one.cell: one for one in photo.measurement.by_hand}
    measured = {one.cell for one in photo.measurement.cells if one.status == "measured"}
    try:
        found = calibrate(open_photo(data), photo.sheet.sheet).photo
    except Refusal:
        return {}
    pictures = {}
    for spot in photo.sheet.sheet.cells:
        lab = cloth_picture(found, spot, said.get(spot.cell)) if spot.cell in measured else None
        if lab is not None:
            # Half the digits hold a sixteenth of a unit of L*, finer than a screen shows.
            pictures[spot.cell] = lab.astype(np.float16)
    return pictures


@router.get(
    "/readings/{reading_id}/cloth.webp",
    response_class=Response,
    responses={204: {"description": "No photo shows its cloth."}},
)
def reading_cloth(reading_id: RowId, store: Store, request: Request) -> Response:
    """The cloth of a reading as its photo shows it, in measured colours: weave, blotches, zones."""
    with store.connection() as connection:
        _, reading = load_reading(connection, reading_id)
        spot = photographed_cell(connection, reading_id)
        if spot is None or reading.zone:
            return Response(status_code=204)
        photo = load_photo(connection, spot.photo)
        data = photo_bytes(connection, spot.photo)
    cloths: ClothOfPhotos = request.app.state.cloths
    lab = cloths.of(photo, data).get(spot.cell)
    if lab is None:
        return Response(status_code=204)
    picture = cloth_webp(with_mean(lab.astype(float), reading.lab))
    return Response(picture, media_type="image/webp", headers=FOR_GOOD)
