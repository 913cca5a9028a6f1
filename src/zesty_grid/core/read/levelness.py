"""How even a dyeing is: a map of how far each place lies from the mean, and figures in millimetres.

Worked out at one pixel a millimetre whatever the photo's size, smoothed so that weave and noise
average out: figures of different photos mean the same.
"""

import cv2
import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.cloth_finder import Mask
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.zones import smooth_within

PX_PER_MM = 1.0
SMOOTH_MM = 1.5
FEWEST_PX = 40
# Below this the map holds little but noise: blotches and streaks of it mean nothing.
LEAST_DE00 = 0.35


class Unevenness(Frozen):
    """`rms_de00` and `worst_de00` (95th percentile): distance from the mean at a scale of 1.5 mm.

    `blotch_mm`: how wide blotches are, where there are any; `streaks`: 0 for blotches that are as
    long as wide, towards 1 for streaks, which run at `streak_angle_deg` from the horizontal.
    """

    rms_de00: float
    worst_de00: float
    blotch_mm: float | None = None
    streaks: float | None = None
    streak_angle_deg: float | None = None


def levelness_map(lab: Floats, whole: Mask) -> NDArray[np.float32]:
    """ΔE00 of each place from the mean of the piece; 0 off the piece. `lab` (h, w, 3)."""
    found = np.zeros(whole.shape, dtype=np.float32)
    if whole.any():
        mean = lab[whole].mean(axis=0)
        found[whole] = delta_e_2000(lab[whole], np.broadcast_to(mean, lab[whole].shape))
    return found


def at_one_scale(lab: Floats, mask: Mask, px_per_mm: float) -> tuple[Floats, Mask]:
    """Colours at a pixel a millimetre, smoothed, and where the piece is."""
    scale = PX_PER_MM / px_per_mm
    smooth = smooth_within(lab, mask, SMOOTH_MM * px_per_mm)
    small = cv2.resize(smooth, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    share = cv2.resize(mask.astype(np.float32), None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    return np.asarray(small, dtype=float), np.asarray(share > 0.9)


def unevenness(lab: Floats, mask: Mask, px_per_mm: float) -> Unevenness | None:
    """Of a piece of one colour; None where there is too little of it."""
    small, inside = at_one_scale(lab, mask, px_per_mm)
    if inside.sum() < FEWEST_PX:
        return None
    away = levelness_map(small, inside)
    rms = float(np.sqrt(np.mean(np.square(away[inside]))))
    worst = float(np.percentile(away[inside], 95))
    if rms < LEAST_DE00:
        return Unevenness(rms_de00=round(rms, 2), worst_de00=round(worst, 2))
    signed = _along_main_direction(small, inside)
    streaks, angle = _streaks(signed, inside)
    return Unevenness(
        rms_de00=round(rms, 2),
        worst_de00=round(worst, 2),
        blotch_mm=_blotch_mm(signed, inside),
        streaks=round(streaks, 2),
        streak_angle_deg=round(angle, 0),
    )


def _along_main_direction(lab: Floats, inside: Mask) -> Floats:
    """Deviation from the mean along the direction of colour in which the piece varies most."""
    centred = lab[inside] - lab[inside].mean(axis=0)
    axes: Floats = np.linalg.svd(centred, full_matrices=False).Vh
    signed = np.zeros(inside.shape)
    signed[inside] = centred @ axes[0]
    return signed


def _blotch_mm(signed: Floats, inside: Mask) -> float | None:
    """Twice the lag at which the autocorrelation has fallen to a half; None where it never does."""
    shape = [2 * side for side in signed.shape]
    power = np.abs(np.fft.rfft2(signed, shape)) ** 2
    overlap = np.fft.irfft2(np.abs(np.fft.rfft2(inside.astype(float), shape)) ** 2, shape)
    correlation = np.asarray(np.fft.irfft2(power, shape) / np.maximum(overlap, 1.0), dtype=float)
    rows, columns = (np.minimum(np.arange(n), n - np.arange(n)) for n in shape)
    lag = np.hypot(rows[:, None], columns[None, :])
    for mm in range(1, min(signed.shape) // 2):
        ring = (np.abs(lag - mm) < 0.5) & (overlap > FEWEST_PX / 2)
        if ring.any() and correlation[ring].mean() < 0.5 * float(correlation[0, 0]):
            return float(2 * mm)
    return None


def _streaks(signed: Floats, inside: Mask) -> tuple[float, float]:
    """How much in one way it varies, and at which angle the streaks run in degrees."""
    down, across = np.gradient(signed)
    deep = cv2.erode(inside.astype(np.uint8), np.ones((3, 3), np.uint8)) > 0
    if not deep.any():
        return 0.0, 0.0
    xx, yy, xy = (float(np.mean(np.asarray(a * b)[deep])) for a, b in ((across, across), (down, down), (across, down)))
    one_way = float(np.hypot(xx - yy, 2 * xy) / (xx + yy + 1e-12))
    across_angle = 0.5 * np.arctan2(2 * xy, xx - yy)
    return one_way, float(np.degrees(-(across_angle + np.pi / 2)) % 180)
