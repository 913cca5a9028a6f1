"""A camera's raw files: the sensor's own light, linear, with no tone curve to guess.

DNG and what else LibRaw knows. Only the mosaic is filled in; white balance, colour matrix and curve
are left to the chart.
"""

import io

import numpy as np
import rawpy
import tifffile

from zesty_grid.core.read.picture import Picture, straight_by_code
from zesty_grid.core.refusal import Refusal

DNG_VERSION, SUB_PAGES, NEW_SUBFILE_TYPE = 50706, 330, 254
# Two by two sensels make a pixel where there are enough: nothing is then made up in between.
WIDE_ENOUGH_PX = 4400
OTHER_RAW_STARTS = (b"FUJIFILMCCD-RAW", b"IIRO", b"IIRS", b"MMOR", b"IIU\0", b"\0MRM")


def is_raw(data: bytes) -> bool:
    """Whether a file says that it holds a sensor's own data."""
    if data.startswith(OTHER_RAW_STARTS) or data[4:12] == b"ftypcrx ":
        return True
    if data[:4] not in (b"II*\0", b"MM\0*"):
        return False
    if data[8:10] == b"CR":
        return True
    try:
        with tifffile.TiffFile(io.BytesIO(data)) as tiff:
            tags = tiff.pages[0].tags
            reduced = tags.get(NEW_SUBFILE_TYPE)
            return DNG_VERSION in tags or (SUB_PAGES in tags and reduced is not None and int(reduced.value) == 1)
    except Exception:
        return False


def open_raw(data: bytes, most_pixels: int, camera: str) -> Picture:
    """Raises Refusal for a file that cannot be read, or says that it is too large."""
    try:
        with rawpy.imread(io.BytesIO(data)) as raw:
            sizes = raw.sizes
            if sizes.raw_width * sizes.raw_height > most_pixels:
                raise Refusal(
                    "too-many-pixels",
                    f"The picture says that it is {sizes.raw_width} × {sizes.raw_height} pixels; "
                    f"at most {most_pixels // 10**6} million can be read.",
                    "Save it at a smaller size.",
                )
            pixels = raw.postprocess(
                output_color=rawpy.ColorSpace.raw,
                user_wb=[1.0, 1.0, 1.0, 1.0],
                gamma=(1, 1),
                no_auto_bright=True,
                output_bps=16,
                half_size=max(sizes.width, sizes.height) >= WIDE_ENOUGH_PX,
                demosaic_algorithm=rawpy.DemosaicAlgorithm.LINEAR,
                highlight_mode=rawpy.HighlightMode.Clip,
            )
    except Refusal:
        raise
    except Exception as error:
        raise Refusal(
            "broken-raw",
            "The raw file is damaged, or of a camera that is not known here.",
            "Copy it from the camera again, or save it as DNG, TIFF or JPEG.",
        ) from error
    if pixels.ndim != 3 or pixels.shape[2] != 3:
        raise Refusal("not-rgb", "The raw file is not of a colour camera.", "Use a colour camera.")
    return Picture(np.ascontiguousarray(pixels), straight_by_code(65536), (), camera, raw=True)
