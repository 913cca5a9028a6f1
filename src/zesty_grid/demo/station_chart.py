"""The field station's own chart, made up: four rows of colours and a row of greys."""

import numpy as np

from zesty_grid.core.read.chart import Chart, ChartPatch
from zesty_grid.core.read.colour_space import Floats, xyz_to_lab
from zesty_grid.core.read.patch24 import WAVELENGTHS_NM, spectra_to_xyz

ROWS, COLUMNS = 5, 8


def station_spectra() -> Floats:
    """Reflectances of its forty patches, (40, 36): eight hues vivid, dull, dark and pale, and eight
    greys. Yellows to reds are edges that rise at longer and longer wavelengths, as paints have
    them; greens to violets are humps."""
    nm = WAVELENGTHS_NM.astype(float)
    edges = [0.04 + 0.76 / (1 + np.exp(-(nm - at) / 12)) for at in (495, 535, 570, 600)]
    humps = [
        0.05 + height * np.exp(-(((nm - at) / width) ** 2))
        for at, width, height in ((530, 45, 0.4), (490, 50, 0.4), (450, 45, 0.45), (425, 35, 0.35))
    ]
    humps[3] = humps[3] + 0.4 / (1 + np.exp(-(nm - 640) / 14))
    vivid = [*edges, *humps]
    dull = [0.55 * hue + 0.10 for hue in vivid]
    dark = [0.35 * hue + 0.015 for hue in vivid]
    pale = [0.45 * hue + 0.42 for hue in vivid]
    greys = [np.full(36, level) for level in (0.9, 0.62, 0.42, 0.27, 0.17, 0.1, 0.06, 0.035)]
    return np.array([*vivid, *dull, *dark, *pale, *greys])


def station_chart() -> Chart:
    labs = xyz_to_lab(spectra_to_xyz(station_spectra()))
    return Chart(
        name="Forty",
        rows=ROWS,
        columns=COLUMNS,
        pitch_mm=(12.0, 12.0),
        patch_mm=(10.0, 10.0),
        patches=tuple(
            ChartPatch(
                name=f"{'ABCDE'[i // COLUMNS]}{i % COLUMNS + 1}", lab=(float(lab[0]), float(lab[1]), float(lab[2]))
            )
            for i, lab in enumerate(labs)
        ),
    )
