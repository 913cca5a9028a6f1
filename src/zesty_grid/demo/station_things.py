"""What else lies about at the field station: a control tile, an old cloth, a box of pH strips, and a borrowed
spectrophotometer. All made up."""

from datetime import date

import numpy as np

from zesty_grid.core.read.colour_space import Floats, lab_to_hex, xyz_to_lab
from zesty_grid.core.read.patch24 import WAVELENGTHS_NM, spectra_to_xyz
from zesty_grid.core.shelf.items import ReferenceCloth, ShelfChart
from zesty_grid.core.shelf.ph_strip import PhStep, PhStrip
from zesty_grid.demo.station_chart import station_chart
from zesty_grid.standins.ph_strips import FOUR_PADS, printed_scale

NM = WAVELENGTHS_NM.astype(float)
TILE, OLD_BLANKET = "bathroom-tile", "old-blanket"
STRIP_PHS = tuple(float(ph) for ph in range(2, 13))


def _strips() -> PhStrip:
    steps = []
    for ph, row in zip(STRIP_PHS, printed_scale(FOUR_PADS, STRIP_PHS, np.random.default_rng(8)), strict=True):
        labs = xyz_to_lab(spectra_to_xyz(np.array(row)))
        pads = tuple((float(lightness), float(a), float(b)) for lightness, a, b in labs)
        steps.append(PhStep(ph=ph, pads=pads, hexes=tuple(lab_to_hex(lab) for lab in labs), uncertainty_de00=0.4))
    return PhStrip(
        key="station-strips",
        name="Strips with four pads",
        steps=tuple(steps),
        taught_on=date(2026, 8, 20),
        source="the box's print, measured at the station",
    )


THINGS = (
    _strips(),
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
