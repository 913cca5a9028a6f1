"""What the camera wrote into a photo: when it was taken, and by which camera (EXIF 2.3)."""

import io
from dataclasses import dataclass
from datetime import datetime

import tifffile
from PIL import Image

from zesty_grid.formats.heif import heif_header, is_heif

EXIF_DIRECTORY, TAKEN_TAG, MAKE_TAG, MODEL_TAG = 0x8769, 0x9003, 0x010F, 0x0110
LONGEST_NAME = 80


@dataclass(frozen=True)
class CameraNotes:
    """`taken_at` is DateTimeOriginal, by the camera's own clock and zone; None or empty where the
    file does not say."""

    taken_at: datetime | None = None
    camera: str = ""


def camera_notes(data: bytes) -> CameraNotes:
    """Whatever is wrong with these notes, the photo itself can be measured."""
    try:
        if data[:4] in (b"II*\0", b"MM\0*"):
            return _of_tiff(data)
        exif = Image.Exif()
        exif.load(heif_header(data).exif if is_heif(data) else _exif_of(data))
        said = str(exif.get_ifd(EXIF_DIRECTORY).get(TAKEN_TAG, ""))
        camera = _name(str(exif.get(MAKE_TAG, "")), str(exif.get(MODEL_TAG, "")))
    except Exception:
        return CameraNotes()
    return CameraNotes(_moment(said), camera)


def _exif_of(data: bytes) -> bytes:
    with Image.open(io.BytesIO(data), formats=("JPEG", "PNG", "WEBP", "AVIF")) as image:
        return bytes(image.info.get("exif", b""))


def _of_tiff(data: bytes) -> CameraNotes:
    """TIFF, DNG and what else is built like them."""
    with tifffile.TiffFile(io.BytesIO(data)) as tiff:
        tags = tiff.pages[0].tags
        make, model = (str(tags[tag].value) if tag in tags else "" for tag in (MAKE_TAG, MODEL_TAG))
        directory = tags[EXIF_DIRECTORY].value if EXIF_DIRECTORY in tags else {}
        said = str(directory.get("DateTimeOriginal", "")) if isinstance(directory, dict) else ""
    return CameraNotes(_moment(said), _name(make, model))


def _moment(said: str) -> datetime | None:
    try:
        return datetime.strptime(said[:19].strip(), "%Y:%m:%d %H:%M:%S")
    except ValueError:
        pass
    try:
        return datetime.strptime(said[:10], "%Y:%m:%d")
    except ValueError:
        return None


def _name(make: str, model: str) -> str:
    words = " ".join(f"{make} {model}".replace("\0", " ").split())
    return "".join(c for c in words if c.isprintable())[:LONGEST_NAME]
