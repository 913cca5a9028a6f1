"""Writes what a simulated sensor sees as a raw file (Adobe DNG 1.4) or as a linear TIFF."""

import io

import numpy as np
import tifffile
from numpy.typing import NDArray

BLACK, WHITE = 512, 15871
MODEL_TAG, UNIQUE_MODEL = 272, 50708
CFA_PHOTOMETRIC = 32803


def write_raw(light: NDArray[np.float32], model: str, kind: str) -> bytes:
    """`light` is (height, width, 3), 0 to 1; `kind` is "DNG" or "TIFF linear"."""
    buffer = io.BytesIO()
    if kind == "TIFF linear":
        codes = np.clip(light * 65535 + 0.5, 0, 65535).astype(np.uint16)
        tifffile.imwrite(buffer, codes, photometric="rgb", metadata=None, extratags=[(MODEL_TAG, "s", 0, model, True)])
        return buffer.getvalue()
    tifffile.imwrite(
        buffer,
        _mosaic(light),
        photometric=CFA_PHOTOMETRIC,
        metadata=None,
        extratags=[
            (MODEL_TAG, "s", 0, model, True),
            (33421, "H", 2, (2, 2), True),  # CFARepeatPatternDim
            (33422, "B", 4, (0, 1, 1, 2), True),  # CFAPattern: RGGB
            (50706, "B", 4, (1, 4, 0, 0), True),  # DNGVersion
            (50707, "B", 4, (1, 1, 0, 0), True),  # DNGBackwardVersion
            (UNIQUE_MODEL, "s", 0, model, True),
            (50714, "H", 1, BLACK, True),  # BlackLevel
            (50717, "H", 1, WHITE, True),  # WhiteLevel
            (50721, "2i", 9, (1, 1, 0, 1, 0, 1, 0, 1, 1, 1, 0, 1, 0, 1, 0, 1, 1, 1), True),
            (50728, "2I", 3, (1, 1, 1, 1, 1, 1), True),  # AsShotNeutral
            (50778, "H", 1, 21, True),  # CalibrationIlluminant1: D65
        ],
    )
    return buffer.getvalue()


def _mosaic(light: NDArray[np.float32]) -> NDArray[np.uint16]:
    """One colour for each sensel: red and green, below them green and blue."""
    height, width = (side // 2 * 2 for side in light.shape[:2])
    codes = np.empty((height, width), dtype=np.float32)
    codes[0::2, 0::2] = light[0:height:2, 0:width:2, 0]
    codes[0::2, 1::2] = light[0:height:2, 1:width:2, 1]
    codes[1::2, 0::2] = light[1:height:2, 0:width:2, 1]
    codes[1::2, 1::2] = light[1:height:2, 1:width:2, 2]
    return np.clip(BLACK + codes * (WHITE - BLACK) + 0.5, 0, WHITE).astype(np.uint16)
