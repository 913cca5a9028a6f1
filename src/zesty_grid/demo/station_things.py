"""What else lies about at the field station: a control tile, an old cloth, and a borrowed
spectrophotometer. All made up."""

import numpy as np

from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.patch24 import WAVELENGTHS_NM
from zesty_grid.core.shelf.items import ReferenceCloth, ShelfChart
from zesty_grid.demo.station_chart import station_chart

NM = WAVELENGTHS_NM.astype(float)
TILE, OLD_BLANKET = "bathroom-tile", "old-blanket"
THINGS = (
    ReferenceCloth(
        key=TILE,
        name="Sea-green bathroom tile",
        is_tile=True,
        source="station shed",
        note="Glazed; lies in a free cell of the trial sheets.",
    ),
    ReferenceCloth(
        key=OLD_BLANKET,
        name="Red stripe of an old blanket",
        source="station attic",
        note="Wool, from before the station had a log.",
    ),
    ShelfChart(
        key="station-forty",
        name="Station chart, forty patches",
        chart=station_chart(),
        source="painted at the station, spectra measured there",
    ),
)
SPECTRA: dict[str, Floats] = {
    TILE: 0.30 + 0.28 * np.exp(-(((NM - 515) / 60) ** 2)),
    OLD_BLANKET: 0.05 + 0.42 / (1 + np.exp(-(NM - 605) / 18)),
}
