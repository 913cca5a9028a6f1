"""A point of a curve of fading."""

import numpy as np

from zesty_grid.core.fade.fading_curve import Paths, foretell
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_space import Floats, lab_to_hex

CURVE_STEPS = 25
BEYOND = 2.0


class CurvePoint(Frozen):
    """The expected colour at a dose, its change, and the change's 90 % limits."""

    dose: float
    hex: str
    de00: float
    low_de00: float
    high_de00: float
    beyond: bool


def curve_doses(last: float) -> Floats:
    """From nothing to twice the last dose of a trial; halfway the curve meets the last stage."""
    return np.linspace(0, BEYOND * last, CURVE_STEPS)


def points_of_curve(paths: Paths, doses: Floats) -> list[CurvePoint]:
    return [
        CurvePoint(
            dose=one.dose,
            hex=lab_to_hex(np.array(one.lab)),
            de00=one.de00,
            low_de00=one.low_de00,
            high_de00=one.high_de00,
            beyond=one.dose > paths.followed.last_dose,
        )
        for one in foretell(paths, [float(dose) for dose in doses])
    ]
