"""Reads the square codes of swatch labels in a picture, as many as there are."""

import cv2
import numpy as np

from zesty_grid.core.plan.swatch_codes import LABEL_PREFIX
from zesty_grid.core.read.picture import Picture

SIDES_PX = (1600, 1000, 2400)


def read_labels(picture: Picture) -> list[str]:
    """The codes of all labels found, each once; a picture of none answers with an empty list."""
    pixels = picture.pixels
    if pixels.dtype == np.uint16:
        pixels = (pixels >> 8).astype(np.uint8)
    grey = cv2.cvtColor(np.ascontiguousarray(pixels), cv2.COLOR_RGB2GRAY)
    for detector in (cv2.QRCodeDetectorAruco(), cv2.QRCodeDetector()):
        found: dict[str, None] = {}
        for side in SIDES_PX:
            scale = side / max(grey.shape)
            way = cv2.INTER_AREA if scale < 1 else cv2.INTER_CUBIC
            sized = cv2.resize(grey, None, fx=scale, fy=scale, interpolation=way)
            _, texts, _, _ = detector.detectAndDecodeMulti(sized)
            found |= dict.fromkeys(text for text in texts if text.startswith(LABEL_PREFIX))
        if found:
            return [text.removeprefix(LABEL_PREFIX) for text in found]
    return []
