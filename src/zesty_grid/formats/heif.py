"""HEIC and HEIF, as telephones write them, with 8 to 12 bits a channel."""

import io
from dataclasses import dataclass

import numpy as np
import pillow_heif

HEIF_BRANDS = (b"heic", b"heix", b"hevc", b"heim", b"heis", b"mif1", b"msf1")


@dataclass(frozen=True)
class HeifHeader:
    width: int
    height: int
    bits: int
    icc_profile: bytes | None
    exif: bytes


def is_heif(data: bytes) -> bool:
    return data[4:8] == b"ftyp" and data[8:12] in HEIF_BRANDS and b"avif" not in data[8:40]


def heif_header(data: bytes) -> HeifHeader:
    """Size and profile, before any pixel is decoded; raises ValueError and the like when broken."""
    image = pillow_heif.open_heif(io.BytesIO(data), convert_hdr_to_8bit=False)
    width, height = image.size
    bits = int(image.info.get("bit_depth", 8))
    exif = image.info.get("exif") or b""
    return HeifHeader(width, height, 8 if bits == 8 else 16, image.info.get("icc_profile"), exif)


def heif_pixels(data: bytes) -> np.ndarray:
    """Upright RGB pixels (the file's own turning is undone), of 8 or 16 bits."""
    image = pillow_heif.open_heif(io.BytesIO(data), convert_hdr_to_8bit=False)
    pixels = np.asarray(image)[..., :3]
    bits = int(image.info.get("bit_depth", 8))
    if pixels.dtype == np.uint16:
        # Ten bits come in the upper ten of sixteen: spread them over the whole range.
        coded = (pixels >> (16 - bits)).astype(np.uint32)
        pixels = (coded * 65535 // ((1 << bits) - 1)).astype(np.uint16)
    return np.ascontiguousarray(pixels)
