"""Photographs and their pixels as pictures for the screen."""

import io
from typing import Literal

import numpy as np
from PIL import Image

from zesty_grid.core.read.cell_pixels import CellPixels, PixelUse
from zesty_grid.core.read.colour_space import Floats, lab_to_srgb, linear_to_srgb
from zesty_grid.core.read.picture import Picture, Pixels

ENLARGED = 3
# How much of the full scale of the levelness map a ΔE00 takes.
MAP_FULL_DE00 = 6.0
DIMMED = {PixelUse.PAGE: 0.35, PixelUse.EDGE: 0.6, PixelUse.BORDER: 0.6, PixelUse.LEFT_OUT: 0.6}


def screen_jpeg(picture: Picture, width: int) -> bytes:
    """The photo upright, at most `width` pixels wide."""
    image = Image.fromarray(_shown(picture, picture.pixels))
    image.thumbnail((width, width * 2))
    buffer = io.BytesIO()
    image.save(buffer, "JPEG", quality=85)
    return buffer.getvalue()


def cell_png(pixels: CellPixels, picture: Picture, shown: Literal["photo", "use", "levelness"]) -> bytes:
    """A cell enlarged. "use": what was not used is dimmed, edges of zones and what was left out
    hatched; "levelness": light grey at the mean of the piece, dark at 6 ΔE00 from it."""
    if shown == "levelness":
        share = np.clip(pixels.map_de00 / MAP_FULL_DE00, 0, 1)
        grey = (235 - 200 * share).astype(np.uint8)
        grey[pixels.use == PixelUse.PAGE] = 128
        colours = np.repeat(grey[..., None], 3, axis=2)
    else:
        colours = _shown(picture, pixels.codes)
    if shown == "use":
        colours = _marked(colours, pixels)
    image = Image.fromarray(colours)
    size = (image.width * ENLARGED, image.height * ENLARGED)
    buffer = io.BytesIO()
    image.resize(size, Image.Resampling.NEAREST).save(buffer, "PNG")
    return buffer.getvalue()


def cloth_webp(lab: Floats) -> bytes:
    """L*a*b* (h, w, 3) as the nearest colours that a screen can show."""
    codes = np.round(lab_to_srgb(lab) * 255).astype(np.uint8)
    buffer = io.BytesIO()
    Image.fromarray(codes).save(buffer, "WEBP", lossless=True, method=2)
    return buffer.getvalue()


def _marked(colours: Pixels, pixels: CellPixels) -> Pixels:
    marked = colours.astype(float)
    for use, dim in DIMMED.items():
        marked[pixels.use == use] *= dim
    rows, columns = np.indices(pixels.use.shape)
    hatched = (pixels.use == PixelUse.LEFT_OUT) & ((rows + columns) % 4 == 0)
    marked[hatched] = 255
    return marked.astype(np.uint8)


def _shown(picture: Picture, codes: Pixels) -> Pixels:
    """Eight bits a channel. A sensor's own light is balanced on its brightest and given the
    screen's curve (IEC 61966-2-1), only to be looked at."""
    if not picture.raw:
        return codes if picture.top_code == 255 else (codes >> 8).astype(np.uint8)
    linear = picture.linear(codes)
    white = np.maximum(np.percentile(picture.pixels[::16, ::16].reshape(-1, 3), 98, axis=0), 1)
    balanced = np.clip(linear * picture.top_code / white * 0.9, 0, 1)
    return (linear_to_srgb(balanced) * 255).astype(np.uint8)
