"""How a camera's readings compare with an instrument's of the same swatches in the same states."""

from collections.abc import Sequence

import numpy as np

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.camera_profile import CameraProfile, teach
from zesty_grid.core.read.colour_difference import cielab_difference, delta_e_2000
from zesty_grid.core.read.colour_space import lab_to_hex
from zesty_grid.core.read.measurement import Lab


class BothRead(Frozen):
    """One state of a swatch, read both ways. `capture`: photos that saw the chart alike.
    `untaught_lab`: the camera's, before what it was taught."""

    swatch: str
    run: int
    camera: str
    capture: int | None
    camera_lab: Lab
    untaught_lab: Lab
    instrument_lab: Lab
    camera_uncertainty_de00: float
    instrument_uncertainty_de00: float


class PairShown(Frozen):
    swatch: str
    run: int
    camera_lab: Lab
    camera_hex: str
    instrument_lab: Lab
    instrument_hex: str
    de00: float


class Teaching(Frozen):
    """What the camera's colours would gain, or gain (`in_use`), by what these swatches teach: the
    mean ΔE00 of swatches left out, without and with it."""

    swatches: int
    before_de00: float
    after_de00: float
    is_worth_it: bool
    in_use: bool = False


class Agreement(Frozen):
    """Of one camera in one light. `bias`: the mean of camera minus instrument in L*, a*, b*;
    `bias_de00` is how far that shifts the mean colour, `scatter_de00` the mean distance that is
    left once it is taken off. `within_twice`: the share of pairs that lie within twice the
    uncertainty that was said."""

    camera: str
    capture: int | None
    pairs: tuple[PairShown, ...]
    mean_de00: float
    p95_de00: float
    bias: Lab
    bias_de00: float
    scatter_de00: float
    within_twice: float
    teaching: Teaching | None = None


def agreements(both: Sequence[BothRead]) -> list[Agreement]:
    """For each camera and light, those with the most pairs first."""
    groups: dict[tuple[str, int | None], list[BothRead]] = {}
    for one in both:
        groups.setdefault((one.camera, one.capture), []).append(one)
    found = [_agreement(camera, capture, own) for (camera, capture), own in groups.items()]
    return sorted(found, key=lambda one: -len(one.pairs))


def teach_by(camera: str, both: Sequence[BothRead]) -> CameraProfile | None:
    """What a camera learns in one light: each state of a swatch counts once, by its last photo."""
    last = {(one.swatch, one.run): one for one in both}.values()
    return teach(camera, [one.untaught_lab for one in last], [one.instrument_lab for one in last])


def _agreement(camera: str, capture: int | None, both: Sequence[BothRead]) -> Agreement:
    seen = np.array([one.camera_lab for one in both])
    true = np.array([one.instrument_lab for one in both])
    apart = delta_e_2000(seen, true)
    bias = (seen - true).mean(axis=0)
    profile = teach_by(camera, both)
    allowed = np.hypot([one.camera_uncertainty_de00 for one in both], [one.instrument_uncertainty_de00 for one in both])
    lightness, red, yellow = (float(value) for value in bias)
    return Agreement(
        camera=camera,
        capture=capture,
        pairs=tuple(_shown(one) for one in both),
        mean_de00=float(apart.mean()),
        p95_de00=float(np.percentile(apart, 95)),
        bias=(lightness, red, yellow),
        bias_de00=float(delta_e_2000(true.mean(axis=0) + bias, true.mean(axis=0))),
        scatter_de00=float(delta_e_2000(seen - bias, true).mean()),
        within_twice=float((apart <= 2 * allowed).mean()),
        teaching=Teaching(
            swatches=len(profile.camera_labs),
            before_de00=profile.before_de00,
            after_de00=profile.after_de00,
            is_worth_it=profile.is_worth_it,
        )
        if profile
        else None,
    )


def _shown(one: BothRead) -> PairShown:
    seen, true = np.array(one.camera_lab), np.array(one.instrument_lab)
    return PairShown(
        swatch=one.swatch,
        run=one.run,
        camera_lab=one.camera_lab,
        camera_hex=lab_to_hex(seen),
        instrument_lab=one.instrument_lab,
        instrument_hex=lab_to_hex(true),
        de00=cielab_difference(true, seen).de00,
    )
