"""Photographs in: JPEG, PNG, TIFF, HEIC, AVIF, WebP and raw files, of 8 to 16 bits, with ICC
profile and EXIF orientation."""

import io
import warnings
from dataclasses import dataclass

import cv2
import numpy as np
import tifffile
from PIL import Image

from zesty_grid.core.read.picture import Picture, srgb_linear_by_code
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.exif import camera_notes
from zesty_grid.formats.heif import heif_header, heif_pixels, is_heif
from zesty_grid.formats.icc import profile_tone_curves
from zesty_grid.formats.raw import is_raw, open_raw

MAX_BYTES = 200 * 1024 * 1024
MAX_PIXELS, MAX_PIXELS_KEPT = 120_000_000, 40_000_000
ORIENTATION_TAG = 274
OPENED_BY_PILLOW = ("JPEG", "PNG", "WEBP", "AVIF")


@dataclass(frozen=True)
class _Header:
    kind: str
    width: int
    height: int
    bits: int
    mode: str
    icc_profile: bytes | None
    orientation: int
    in_layers: bool = False  # a progressive JPEG: decoded whole, at whatever size it is shown


def open_photo(data: bytes) -> Picture:
    """Decodes a photograph; raises Refusal for what is no photograph or cannot be measured."""
    if not data:
        raise Refusal("empty-file", "The file is empty.", "Copy it from the camera again.")
    if len(data) > MAX_BYTES:
        raise Refusal(
            "too-many-bytes",
            f"The file is larger than {MAX_BYTES // 2**20} MiB.",
            "Save the photo as JPEG, or at a smaller size.",
        )
    if is_raw(data):
        return open_raw(data, MAX_PIXELS, camera_notes(data).camera)
    header = _read_header(data)
    _must_not_exceed(header, MAX_PIXELS)
    if header.mode not in ("RGB", "RGBA"):
        raise Refusal(
            "not-rgb",
            f"The picture is not a colour picture in RGB (it is {header.mode}).",
            "Save it from the camera as a colour JPEG, HEIC, PNG or TIFF.",
        )
    pixels = _decode(data, header)
    curve, notes = _tone_curve(header)
    # Sixteen bits without a profile may be a sensor's own light; the chart tells which.
    perhaps_straight = header.bits == 16 and header.icc_profile is None
    camera = camera_notes(data).camera
    return Picture(pixels, curve, notes, camera, perhaps_straight=perhaps_straight)


def look_over_photo(data: bytes) -> None:
    """Whether a picture that is only kept, and not measured, can be shown again.

    Raises Refusal as `open_photo` does, but decodes a JPEG at an eighth of its size, and takes
    others only as large as they can be decoded in a little memory.
    """
    if not data or len(data) > MAX_BYTES or is_raw(data):
        open_photo(data)
        return
    header = _read_header(data)
    by_parts = header.kind == "JPEG" and not header.in_layers
    most = MAX_PIXELS if by_parts else MAX_PIXELS_KEPT
    _must_not_exceed(header, most)
    if header.kind != "JPEG":
        _decode(data, header)
        return
    small = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_REDUCED_COLOR_8)
    if small is None or not _has_its_end(data):
        raise _broken()


def _must_not_exceed(header: _Header, most_pixels: int) -> None:
    if header.width * header.height > most_pixels:
        raise Refusal(
            "too-many-pixels",
            f"The picture says that it is {header.width} × {header.height} pixels; at most "
            f"{most_pixels // 10**6} million can be read.",
            "Save it at a smaller size.",
        )


def _has_its_end(jpeg: bytes) -> bool:
    """OpenCV fills what is missing with grey and says nothing. Within the coded picture itself FF
    is never followed by D9, the end marker (ITU-T T.81, B.1.1)."""
    return b"\xff\xd9" in jpeg[jpeg.rfind(b"\xff\xda") :]


def _broken() -> Refusal:
    return Refusal("broken-photo", "The photo is cut short or damaged.", "Copy it from the camera again.")


def _unreadable(detail: str = "") -> Refusal:
    return Refusal(
        "not-a-photo",
        f"This is not a photo that can be read{detail}.",
        "Use a JPEG, HEIC, AVIF, WebP, PNG, TIFF or raw file straight from the camera.",
    )


def _read_header(data: bytes) -> _Header:
    if data[:4] in (b"II*\0", b"MM\0*"):
        return _tiff_header(data)
    if is_heif(data):
        return _heif_header(data)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            # Opening reads only the header; the size is checked before any pixel is decoded.
            limit, Image.MAX_IMAGE_PIXELS = Image.MAX_IMAGE_PIXELS, None
            try:
                image = Image.open(io.BytesIO(data), formats=OPENED_BY_PILLOW)
            finally:
                Image.MAX_IMAGE_PIXELS = limit
    except Exception as error:
        raise _unreadable() from error
    bits = 8
    mode = image.mode
    if image.format == "PNG":
        bits = data[24]
        mode = {2: "RGB", 6: "RGBA", 3: "RGB"}.get(data[25], image.mode)
    orientation = 1
    try:
        # Not image.getexif(): for PNG that decodes all pixels, before their number is checked.
        exif = Image.Exif()
        exif.load(image.info.get("exif", b""))
        orientation = _orientation(exif.get(ORIENTATION_TAG, 1))
    except Exception:  # whatever is wrong with these notes, the picture itself can be read
        orientation = 1
    return _Header(
        str(image.format),
        image.width,
        image.height,
        bits,
        mode,
        image.info.get("icc_profile"),
        orientation,
        bool(image.info.get("progressive")),
    )


def _heif_header(data: bytes) -> _Header:
    try:
        header = heif_header(data)
    except Exception as error:
        raise _unreadable() from error
    # The file's own turning is undone by the decoder.
    return _Header("HEIF", header.width, header.height, header.bits, "RGB", header.icc_profile, 1)


def _tiff_header(data: bytes) -> _Header:
    try:
        with tifffile.TiffFile(io.BytesIO(data)) as tiff:
            page = tiff.pages[0]
            profile = page.tags.get(34675)
            orientation = page.tags.get(ORIENTATION_TAG)
            bits = page.bitspersample
            samples = page.samplesperpixel
            rgb = int(page.photometric) in (2, 6)
            return _Header(
                "TIFF",
                int(page.imagewidth),
                int(page.imagelength),
                int(bits if isinstance(bits, int) else bits[0]),
                {3: "RGB", 4: "RGBA"}.get(samples, "grey") if rgb else "not RGB",
                bytes(profile.value) if profile else None,
                _orientation(orientation.value) if orientation else 1,
            )
    except Exception as error:
        raise _unreadable() from error


def _orientation(said: object) -> int:
    """1, upright, for what is no orientation: files say infinite, nothing, or a text."""
    try:
        number = int(said)  # type: ignore[call-overload]
    except (ValueError, TypeError, OverflowError, ZeroDivisionError):
        return 1
    return number if 1 <= number <= 8 else 1


def _decode(data: bytes, header: _Header) -> np.ndarray:
    broken = _broken()
    if header.kind == "JPEG":
        if not _has_its_end(data):
            raise broken
        flags = cv2.IMREAD_COLOR_RGB | cv2.IMREAD_IGNORE_ORIENTATION
        rgb = cv2.imdecode(np.frombuffer(data, np.uint8), flags)
        if rgb is None:
            raise broken
        return _turn(rgb, header.orientation)
    if header.kind == "HEIF":
        try:
            return heif_pixels(data)
        except Exception as error:
            raise broken from error
    if header.kind == "TIFF" or header.bits == 16:
        flags = cv2.IMREAD_UNCHANGED | cv2.IMREAD_IGNORE_ORIENTATION
        try:
            raw = cv2.imdecode(np.frombuffer(data, np.uint8), flags)
        except cv2.error as error:
            raise broken from error
        if raw is None or raw.ndim != 3 or raw.dtype not in (np.uint8, np.uint16):
            raise broken
        return _turn(np.ascontiguousarray(raw[..., 2::-1]), header.orientation)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            limit, Image.MAX_IMAGE_PIXELS = Image.MAX_IMAGE_PIXELS, None
            try:
                image: Image.Image = Image.open(io.BytesIO(data), formats=OPENED_BY_PILLOW)
                image.load()
            finally:
                Image.MAX_IMAGE_PIXELS = limit
    except Exception as error:
        raise broken from error
    if image.mode != "RGB":
        image = image.convert("RGB")
    return _turn(np.asarray(image), header.orientation)


def _turn(pixels: np.ndarray, orientation: int) -> np.ndarray:
    """Upright pixels by the EXIF orientation, 1 to 8 (CIPA DC-008)."""
    if orientation in (5, 6, 7, 8):
        pixels = pixels.transpose(1, 0, 2)
    flip_rows = orientation in (3, 4, 7, 8)
    flip_columns = orientation in (2, 3, 6, 7)
    return np.ascontiguousarray(pixels[:: -1 if flip_rows else 1, :: -1 if flip_columns else 1])


def _tone_curve(header: _Header) -> tuple[np.ndarray, tuple[str, ...]]:
    codes = 65536 if header.bits == 16 else 256
    if header.icc_profile is None:
        return srgb_linear_by_code(codes), ()
    curve = profile_tone_curves(header.icc_profile, codes)
    if curve is None:
        return srgb_linear_by_code(codes), (
            "The photo's colour profile has no tone curves that can be used; sRGB was assumed, "
            "and the chart's greys correct what differs.",
        )
    return curve, ()
