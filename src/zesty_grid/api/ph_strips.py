"""pH strips: a box's printed scale taught from a photo, and a strip read by it. No photo is kept here."""

from typing import Annotated

from fastapi import APIRouter, File, Query, UploadFile

from zesty_grid.api.shared import Store
from zesty_grid.core.read.chart import patch24
from zesty_grid.core.read.strip_reader import ScaleRead, StripRead, read_scale, read_strip
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.ph_strip import MOST_PADS, Ph
from zesty_grid.formats.photo import MAX_BYTES, open_photo
from zesty_grid.store.plan import NotFound
from zesty_grid.store.shelf import chart_for, load_shelf

router = APIRouter(prefix="/api/ph-strips", tags=["pH strips"])

Photo = Annotated[UploadFile, File()]
ChartKey = Annotated[str | None, Query(max_length=40)]
Share = Annotated[float, Query(ge=0, le=1)]
Points = Annotated[list[Share], Query(max_length=6, description="x and y of each place, as shares of width and height")]

NOWHERE: list[float] = []


@router.post("/scale")
def scale_in_photo(
    store: Store,
    photo: Photo,
    ph: Annotated[list[Ph], Query(min_length=2, max_length=40)],
    pads: Annotated[int, Query(ge=1, le=MOST_PADS)],
    at: Points,
    chart: ChartKey = None,
) -> ScaleRead:
    """The colours that a box prints, rising in pH. `at`: the first and the last pad's colour at the lowest
    pH, and the last pad's at the highest; of a strip with one pad its lowest and its highest colour."""
    _must_be_points(at, 3 if pads > 1 else 2)
    if sorted(set(ph)) != ph:
        raise Refusal("not-rising", "The pH values do not rise.", "Say each once, from the lowest to the highest.")
    with store.connection() as connection:
        known = chart_for(connection, chart) or patch24()
    picture = open_photo(photo.file.read(MAX_BYTES + 1))
    points = _points_px(at, picture.width, picture.height)
    corners = (points[0], points[0], points[1]) if pads == 1 else (points[0], points[1], points[2])
    return read_scale(picture, known, tuple(ph), pads, corners)


@router.post("/{key}/readings")
def strip_in_photo(
    key: str, store: Store, photo: Photo, at: Points = NOWHERE, late: bool = False, chart: ChartKey = None
) -> StripRead:
    """The pH of a strip of this box. `at`: its first pad and its last; without it the strip is looked for."""
    with store.connection() as connection:
        known = chart_for(connection, chart) or patch24()
        strip = load_shelf(connection).ph_strip(key)
    if strip is None:
        raise NotFound("box of strips on the Shelf")
    if at:
        _must_be_points(at, 2 if strip.pads > 1 else 1)
    picture = open_photo(photo.file.read(MAX_BYTES + 1))
    return read_strip(picture, known, strip, _points_px(at, picture.width, picture.height), late)


def _must_be_points(at: list[float], count: int) -> None:
    if len(at) != 2 * count:
        raise Refusal("points-missing", f"{count} places are wanted.", "Tap the first colour and the last.")


def _points_px(at: list[float], width: int, height: int) -> tuple[tuple[float, float], ...]:
    return tuple((x * width, y * height) for x, y in zip(at[::2], at[1::2], strict=True))
