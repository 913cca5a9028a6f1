"""The range of a grey-scale rating that follows from the uncertainty of the difference."""

import numpy as np

from zesty_grid.core.fade.grey_scale import GreyScaleRating, grey_scale_change
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats

SMALLEST_DE00 = 1e-6


class RatingRange(Frozen):
    """The rating as found, and the worst and best that the difference may have, at 95 in 100."""

    found: GreyScaleRating
    worst: str
    best: str

    @property
    def words(self) -> str:
        return self.best if self.best == self.worst else f"{self.best} to {self.worst}"


def rate_change(dark_lab: Floats, exposed_lab: Floats, limit_de00: float) -> RatingRange:
    """Rates a change by ISO 105-A05, and the ends of its range along the same way of changing.

    A change that is smaller than its limit may be none at all: its best rating is 5.
    """
    dark, exposed = np.asarray(dark_lab, float), np.asarray(exposed_lab, float)
    change = float(delta_e_2000(dark, exposed))
    # Where nothing changed there is no way to follow: lightness stands for it.
    step = exposed - dark if change > SMALLEST_DE00 else np.array([-1.0, 0.0, 0.0])
    per_step = change if change > SMALLEST_DE00 else float(delta_e_2000(dark, dark + step))
    most = grey_scale_change(dark, dark + step * (change + limit_de00) / per_step)
    least = grey_scale_change(dark, dark + step * max(0.0, change - limit_de00) / per_step)
    return RatingRange(found=grey_scale_change(dark, exposed), worst=most.rating, best=least.rating)
