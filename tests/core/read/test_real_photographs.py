"""Real photographs with a chart, by a camera and in light that nobody measured: see tests/real_photographs.

Their truth is the average of many such charts (the measured spectra in colour-science); one chart differs from it
by about 1 ΔE00, so that figures near 2 are as good as can be told.
"""

from pathlib import Path

import numpy as np
import pytest

from zesty_grid.core.read.chart import patch24
from zesty_grid.core.read.chart_alone import chart_in_photo
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.formats.photo import open_photo

PHOTOGRAPHS = sorted((Path(__file__).parents[2] / "real_photographs").glob("*.jpg"))


@pytest.mark.parametrize("path", PHOTOGRAPHS, ids=lambda path: path.stem)
def test_the_chart_of_a_real_photograph_is_found_and_read(path):
    found = chart_in_photo(open_photo(path.read_bytes()), patch24())
    read = np.array([patch.lab for patch in found.patches])
    true = np.array([patch.reference_lab for patch in found.patches])
    away = delta_e_2000(read, true)
    # Turned a quarter or half around, every patch would be tens of ΔE00 off.
    assert np.median(away) < 3
    # Each patch foretold by a fit that it had no part in.
    assert found.correction.unseen_de00.mean() < 3
    assert np.percentile(found.correction.unseen_de00, 90) < 6


def test_there_are_four():
    assert len(PHOTOGRAPHS) == 4
