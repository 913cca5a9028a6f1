"""Teaching a camera by swatches that an instrument measured too.

A chart is paint, and corrects for paint. What is left on cloth is much alike for colours that are
much alike: it is learnt as a smooth function of the colour (a Gaussian process over L*a*b*;
Rasmussen and Williams 2006, chapter 2), which fades to nothing away from what was taught. How far
it reaches and how much it is believed is chosen by leaving swatches out, and what is said of its
worth comes from swatches that had no part in that choice.
"""

from collections.abc import Sequence
from functools import cached_property
from itertools import product

import numpy as np

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats, lab_to_hex
from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.core.read.measurement import CellMeasurement, Lab, Measurement, Taught, ZoneMeasurement

FEWEST_SWATCHES = 12
REACHES = (20.0, 40.0, 80.0)
# How large the learnt error is held to be against what each swatch adds of its own (variances).
BELIEFS = (0.3, 1.0, 3.0)
WORTH_SHARE = 0.95


class CameraProfile(Frozen):
    """`camera_labs` and `weights`, both (n, 3), give the change at a colour; `before_de00` and
    `after_de00` are the mean errors of swatches left out, without and with it."""

    camera: str
    camera_labs: tuple[Lab, ...]
    weights: tuple[Lab, ...]
    reach: float
    before_de00: float
    after_de00: float

    @property
    def is_worth_it(self) -> bool:
        return self.after_de00 < WORTH_SHARE * self.before_de00

    @cached_property
    def _known(self) -> Floats:
        return np.array(self.camera_labs)

    def taught_lab(self, lab: Lab) -> tuple[Lab, float]:
        """The colour as corrected, and how near it lies to what was taught (1 at it, 0 far)."""
        nearness = _kernel(np.array([lab]), self._known, self.reach)[0]
        changed = np.array(lab) + nearness @ np.array(self.weights)
        lightness, a, b = (float(value) for value in changed)
        return (lightness, a, b), float(nearness.max())


def teach(camera: str, camera_labs: Sequence[Lab], true_labs: Sequence[Lab]) -> CameraProfile | None:
    """A profile from swatches that were read both ways; None for fewer than FEWEST_SWATCHES."""
    if len(camera_labs) < FEWEST_SWATCHES:
        return None
    seen, true = np.array(camera_labs), np.array(true_labs)
    left_out = np.empty_like(seen)
    for i in range(len(seen)):
        rest = np.arange(len(seen)) != i
        reach, belief = _best(seen[rest], true[rest])
        weights = _weights(seen[rest], true[rest], reach, belief)
        left_out[i] = seen[i] + _kernel(seen[i : i + 1], seen[rest], reach)[0] @ weights
    reach, belief = _best(seen, true)
    return CameraProfile(
        camera=camera,
        camera_labs=tuple(camera_labs),
        reach=reach,
        weights=tuple((float(w[0]), float(w[1]), float(w[2])) for w in _weights(seen, true, reach, belief)),
        before_de00=float(delta_e_2000(seen, true).mean()),
        after_de00=float(delta_e_2000(left_out, true).mean()),
    )


def with_profile(measurement: Measurement, profile: CameraProfile) -> Measurement:
    """What was measured, with every cell and zone corrected; how each was read stays beside it."""
    calibration = measurement.calibration.model_copy(
        update={
            "taught": Taught(
                swatches=len(profile.camera_labs), before_de00=profile.before_de00, after_de00=profile.after_de00
            )
        }
    )
    cells = tuple(_cell(cell, profile) for cell in measurement.cells)
    return measurement.model_copy(update={"calibration": calibration, "cells": cells})


def _cell(cell: CellMeasurement, profile: CameraProfile) -> CellMeasurement:
    if cell.lab is None or cell.uncertainty_de00 is None:
        return cell
    zones = tuple(
        zone.model_copy(update=_changed(zone, zone.lab, zone.uncertainty_de00, profile)) for zone in cell.zones
    )
    update = _changed(cell, cell.lab, cell.uncertainty_de00, profile)
    return cell.model_copy(update=update | {"zones": zones})


def _changed(
    part: CellMeasurement | ZoneMeasurement, lab: Lab, uncertainty_de00: float, profile: CameraProfile
) -> dict[str, object]:
    untaught = part.untaught_lab or lab
    taught, nearness = profile.taught_lab(untaught)
    gain = 1 - profile.after_de00 / profile.before_de00
    return {
        "untaught_lab": untaught,
        "lab": taught,
        "hex": lab_to_hex(np.array(taught)),
        "colour_words": colour_words(np.array(taught)),
        "uncertainty_de00": uncertainty_de00 * (1 - nearness * gain),
    }


def _best(seen: Floats, true: Floats) -> tuple[float, float]:
    """The reach and belief by which each swatch is best foretold from the others."""
    errors = {}
    for reach, belief in product(REACHES, BELIEFS):
        inverse = np.linalg.inv(_kernel(seen, seen, reach) + np.eye(len(seen)) / belief)
        # What the others say of each (Rasmussen and Williams, equation 5.12).
        others = (true - seen) - (inverse @ (true - seen)) / np.diag(inverse)[:, None]
        errors[reach, belief] = float(delta_e_2000(seen + others, true).mean())
    return min(errors, key=lambda key: errors[key])


def _weights(seen: Floats, true: Floats, reach: float, belief: float) -> Floats:
    covariance = _kernel(seen, seen, reach) + np.eye(len(seen)) / belief
    return np.asarray(np.linalg.solve(covariance, true - seen))


def _kernel(first: Floats, second: Floats, reach: float) -> Floats:
    apart = ((first[:, None] - second[None]) ** 2).sum(axis=2)
    return np.asarray(np.exp(-apart / (2 * reach**2)))
