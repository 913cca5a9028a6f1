"""A chart of one's own, made up: five rows of eight, a row of greys, and dyed cloth's colours."""

import numpy as np

from zesty_grid.core.read.chart import Chart, ChartPatch
from zesty_grid.core.read.colour_space import Floats, xyz_to_lab
from zesty_grid.core.read.patch24 import WAVELENGTHS_NM, spectra_to_xyz

ROWS, COLUMNS = 5, 8


def own_spectra() -> Floats:
    """Reflectances of its forty patches, (40, 36): hues by bands of absorption, and eight greys."""
    nm = WAVELENGTHS_NM.astype(float)
    made = []
    for row in range(ROWS - 1):
        for column in range(COLUMNS):
            centre = 400 + 250 * column / (COLUMNS - 1)
            depth, width = (0.9, 0.75, 0.6, 0.92)[row], (45, 70, 100, 28)[row]
            dip = 1 - depth * np.exp(-(((nm - centre) / width) ** 2))
            made.append((0.75, 0.62, 0.5, 0.4)[row] * dip + 0.03)
    greys = [np.full(36, level) for level in (0.9, 0.62, 0.42, 0.27, 0.17, 0.1, 0.06, 0.035)]
    return np.array([*made, *greys])


def own_chart() -> Chart:
    labs = xyz_to_lab(spectra_to_xyz(own_spectra()))
    return Chart(
        name="Forty", rows=ROWS, columns=COLUMNS, pitch_mm=(12.0, 12.0), patch_mm=(10.0, 10.0),
        patches=tuple(
            ChartPatch(
                name=f"{'ABCDE'[i // COLUMNS]}{i % COLUMNS + 1}",
                lab=(float(lab[0]), float(lab[1]), float(lab[2])),
            )
            for i, lab in enumerate(labs)
        ),
    )  # fmt: skip
