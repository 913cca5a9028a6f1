"""Reference cloths and control tiles with their readings, and charts from files."""

from datetime import datetime
from typing import Annotated

import numpy as np
from fastapi import APIRouter, Query

from zesty_grid.api.answers import ChartLook, ChartText, ClothView
from zesty_grid.api.shared import Store
from zesty_grid.core.read.chart import patch24
from zesty_grid.core.read.chart_watch import ChartWatch, watch_chart
from zesty_grid.core.read.cloth_readings import TypedColour, mean_colour, tile_drift
from zesty_grid.core.read.colour_space import lab_to_hex
from zesty_grid.formats.chart_file import read_chart
from zesty_grid.store import shelf as shelf_store
from zesty_grid.store.cloths import add_cloth_reading, chart_photos, cloth_readings, must_be_cloth
from zesty_grid.store.database import Database
from zesty_grid.store.plan import NotFound

router = APIRouter(prefix="/api", tags=["shelf"])


@router.get("/cloths/{key}")
def get_cloth(key: str, store: Store) -> ClothView:
    return _view(store, key)


@router.post("/cloths/{key}/readings", status_code=201)
def type_colour(key: str, typed: TypedColour, store: Store) -> ClothView:
    """Keeps a colour that was typed in."""
    now = datetime.now().astimezone()
    with store.transaction() as connection:
        add_cloth_reading(
            connection,
            key,
            "typed",
            (typed.lightness, typed.a, typed.b),
            typed.uncertainty_de00,
            now.date(),
            now,
            note=typed.note,
        )
    return _view(store, key)


@router.post("/charts/look")
def look_at_chart(text: ChartText) -> ChartLook:
    """A chart from its file, to be looked at before it is put on the Shelf."""
    chart = read_chart(text.content, text.name, text.columns, text.pitch_mm, text.patch_mm)
    return ChartLook(chart=chart, hexes=tuple(lab_to_hex(np.array(lab)) for lab in chart.lab), serves=chart.serves)


@router.get("/charts/watch")
def how_charts_hold(store: Store, key: Annotated[str | None, Query(max_length=40)] = None) -> list[ChartWatch]:
    """How the patches of a chart of the Shelf, or of the common one, have held over time."""
    with store.connection() as connection:
        found = shelf_store.load_shelf(connection).chart(key) if key else None
        if key and found is None:
            raise NotFound("chart on the Shelf")
        chart = found.chart if found else patch24()
        return watch_chart(chart, chart_photos(connection, chart))


def _view(store: Database, key: str) -> ClothView:
    with store.connection() as connection:
        must_be_cloth(connection, key)
        readings = cloth_readings(connection, key)
        tile = any(one.key == key and one.is_tile for one in shelf_store.load_shelf(connection).cloths)
    return ClothView(readings=tuple(readings), mean=mean_colour(readings), drift=tile_drift(readings) if tile else None)
