"""Photographs in: formats, profiles, orientation, and files that are no photographs."""

import io
import struct
import zlib
from datetime import datetime

import cv2
import numpy as np
import pytest
from PIL import Image, ImageCms, ImageOps

from zesty_grid.core.read.picture import srgb_linear_by_code
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.exif import CameraNotes, camera_notes
from zesty_grid.formats.icc import profile_tone_curves
from zesty_grid.formats.photo import open_photo

RAMP = np.zeros((40, 60, 3), np.uint8)
RAMP[..., 0] = np.linspace(0, 255, 60)
RAMP[:20, :, 1] = 200


def encoded(kind: str, **options) -> bytes:
    buffer = io.BytesIO()
    Image.fromarray(RAMP).save(buffer, kind, **options)
    return buffer.getvalue()


def png_header(width: int, height: int) -> bytes:
    body = b"IHDR" + struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    chunk = struct.pack(">I", 13) + body + struct.pack(">I", zlib.crc32(body))
    return b"\x89PNG\r\n\x1a\n" + chunk + struct.pack(">I", 0) + b"IDAT" + b"\0\0\0\0"


def test_png_comes_in_to_the_last_code_value():
    np.testing.assert_array_equal(open_photo(encoded("PNG")).pixels, RAMP)


@pytest.mark.parametrize("extension", [".tif", ".png"])
def test_16_bits_are_kept(extension):
    deep = RAMP.astype(np.uint16) * 257 + 13
    data = cv2.imencode(extension, deep[..., ::-1])[1].tobytes()
    picture = open_photo(data)
    assert picture.pixels.dtype == np.uint16
    np.testing.assert_array_equal(picture.pixels, deep)
    assert picture.linear_by_code.shape == (3, 65536)


def test_8_bit_tiff_comes_in():
    np.testing.assert_array_equal(open_photo(encoded("TIFF")).pixels, RAMP)


@pytest.mark.parametrize("orientation", range(1, 9))
def test_exif_orientation_is_undone_as_another_library_does(orientation):
    exif = Image.Exif()
    exif[274] = orientation
    data = encoded("PNG", exif=exif)
    expected = np.asarray(ImageOps.exif_transpose(Image.open(io.BytesIO(data))))
    np.testing.assert_array_equal(open_photo(data).pixels, expected)


def test_the_profile_of_srgb_gives_the_curve_of_its_standard():
    profile = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    curves = profile_tone_curves(profile, 256)
    # IEC 61966-2-1
    np.testing.assert_allclose(curves, srgb_linear_by_code(256), atol=1e-4)
    assert open_photo(encoded("JPEG", icc_profile=profile)).notes == ()


def made_profile(curve: bytes) -> bytes:
    tags = [(name, 132 + 12 * 3, len(curve)) for name in (b"rTRC", b"gTRC", b"bTRC")]
    table = b"".join(struct.pack(">4sII", *tag) for tag in tags)
    return b"\0" * 128 + struct.pack(">I", 3) + table + curve


def test_a_profile_with_a_plain_gamma_is_honoured():
    gamma = b"curv\0\0\0\0" + struct.pack(">IH", 1, round(1.8 * 256))
    curves = profile_tone_curves(made_profile(gamma), 256)
    np.testing.assert_allclose(curves[0], np.linspace(0, 1, 256) ** 1.8, atol=2e-3)


def test_a_profile_without_usable_curves_is_said():
    notes = open_photo(encoded("PNG", icc_profile=made_profile(b"mft2" + b"\0" * 20))).notes
    assert "sRGB was assumed" in notes[0]
    assert profile_tone_curves(b"short", 256) is None


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (b"", "empty-file"),
        (b"Dear diary, today I dyed wool.", "not-a-photo"),
        (encoded("JPEG")[:300], "not-a-photo|broken-photo"),
        (encoded("PNG")[:-40], "broken-photo"),
        (png_header(60_000, 60_000), "too-many-pixels"),
        (b"II*\0" + b"\xff" * 40, "not-a-photo"),
        (b"\x89PNG\r\n\x1a\n" + b"\0" * 50, "not-a-photo"),
    ],
)
def test_what_is_no_photo_is_refused_in_words(data, code):
    with pytest.raises(Refusal) as refused:
        open_photo(data)
    assert refused.value.code in code.split("|")
    assert refused.value.cure


def test_a_truncated_jpeg_is_refused_rather_than_measured_half_grey():
    big = io.BytesIO()
    Image.fromarray(np.random.default_rng(1).integers(0, 255, (400, 600, 3), np.uint8)).save(big, "JPEG")
    with pytest.raises(Refusal, match="cut short"):
        open_photo(big.getvalue()[: len(big.getvalue()) // 2])


def test_a_grey_picture_is_refused():
    buffer = io.BytesIO()
    Image.fromarray(RAMP[..., 0]).save(buffer, "PNG")
    with pytest.raises(Refusal, match="not a colour picture"):
        open_photo(buffer.getvalue())


def taken(day: str) -> bytes:
    """A photo into which the camera wrote its day (EXIF 2.3: DateTimeOriginal, tag 36867)."""
    exif = Image.Exif()
    exif.get_ifd(0x8769)[36867] = day
    exif[271], exif[272] = "Maker\0", " Model  3"
    buffer = io.BytesIO()
    Image.new("RGB", (20, 20)).save(buffer, "JPEG", exif=exif)
    return buffer.getvalue()


def test_when_and_by_which_camera_a_photo_was_taken_comes_from_the_camera():
    notes = camera_notes(taken("2026:09:24 16:03:11"))
    assert notes.taken_at == datetime(2026, 9, 24, 16, 3, 11)
    assert notes.camera == "Maker Model 3"
    for wrong in ("0000:00:00 00:00:00", "yesterday", ""):
        assert camera_notes(taken(wrong)).taken_at is None
    assert camera_notes(b"no photo") == CameraNotes()
