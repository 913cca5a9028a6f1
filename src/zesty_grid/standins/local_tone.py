"""What telephones do to a picture so that it pleases: brightness changed from place to place."""

from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

Image32 = NDArray[np.float32]
LocalTone = Literal["narrow", "strong", "histogram"]
LEAST = 0.004


def map_locally(encoded: Image32, kind: LocalTone) -> Image32:
    """An encoded picture (0 to 1) as a telephone would render it.

    `narrow`: large differences of brightness are pressed together, small ones kept. `strong`: what
    differs from its surroundings is made to differ more. `histogram`: brightness is spread evenly
    in each part of the picture, within limits.
    """
    luminance = np.maximum(encoded @ np.array([0.25, 0.65, 0.1], dtype=np.float32), LEAST)
    if kind == "histogram":
        fine = cv2.createCLAHE(clipLimit=1.5, tileGridSize=(4, 4)).apply((luminance * 65535).astype(np.uint16))
        wanted = 0.6 * luminance + 0.4 * fine.astype(np.float32) / 65535
    else:
        base = _surroundings(np.log(luminance))
        detail = np.log(luminance) - base
        pressed, kept = (0.8, 1.0) if kind == "narrow" else (1.0, 1.25)
        middle = float(base.mean())
        wanted = np.exp(middle + pressed * (base - middle) + kept * detail)
        wanted *= luminance.max() / wanted.max()
    gain = np.maximum(wanted, LEAST) / luminance
    return np.asarray(np.clip(encoded * gain[..., None], 0, 1), dtype=np.float32)


def _surroundings(log_luminance: Image32) -> Image32:
    """How bright it is around each place: a wide blur, worked out small."""
    height, width = log_luminance.shape
    small = cv2.resize(log_luminance, (160, 120), interpolation=cv2.INTER_AREA)
    return np.asarray(cv2.resize(cv2.GaussianBlur(small, (0, 0), 6.0), (width, height)))
