"""A decoded photograph, ready to be measured."""

from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from zesty_grid.core.read.colour_space import srgb_to_linear

Pixels = NDArray[np.uint8] | NDArray[np.uint16]
Luminances = NDArray[np.float32]


@dataclass(frozen=True)
class Picture:
    """Upright RGB pixels, shape (height, width, 3), and the curve that makes them linear.

    `linear_by_code` has shape (3, 256) or (3, 65536): linear light (0 to 1) of each code value.
    `camera` is what the file says of the camera that took it, empty where it says nothing. `raw`:
    the codes are the sensor's own, linear in light, and no tone curve is to be guessed;
    `perhaps_straight`: they may be, the file does not say.
    """

    pixels: Pixels
    linear_by_code: Luminances
    notes: tuple[str, ...] = ()
    camera: str = ""
    raw: bool = False
    perhaps_straight: bool = False

    def as_raw(self) -> "Picture":
        """The same codes taken as linear in light."""
        straight = straight_by_code(self.top_code + 1)
        return replace(self, linear_by_code=straight, raw=True, perhaps_straight=False)

    @property
    def width(self) -> int:
        return int(self.pixels.shape[1])

    @property
    def height(self) -> int:
        return int(self.pixels.shape[0])

    @property
    def top_code(self) -> int:
        return int(self.linear_by_code.shape[1]) - 1

    def linear(self, pixels: Pixels) -> Luminances:
        """Linear light of pixels of this picture, shape (..., 3)."""
        if pixels.dtype == np.uint8:
            table = np.ascontiguousarray(self.linear_by_code.T).reshape(1, 256, 3)
            shape = pixels.shape
            looked_up = cv2.LUT(pixels.reshape(shape[0], -1, 3), table)
            return np.asarray(looked_up, dtype=np.float32).reshape(shape)
        return np.stack([self.linear_by_code[c][pixels[..., c]] for c in range(3)], axis=-1)


def straight_by_code(codes: int) -> Luminances:
    """Codes that are linear in light as they stand, shape (3, codes)."""
    return np.repeat(np.linspace(0, 1, codes, dtype=np.float32)[None], 3, axis=0)


def srgb_linear_by_code(codes: int) -> Luminances:
    """Linear light of `codes` equally spaced sRGB values, shape (3, codes). IEC 61966-2-1."""
    linear = srgb_to_linear(np.linspace(0, 1, codes))
    return np.repeat(linear[None].astype(np.float32), 3, axis=0)
