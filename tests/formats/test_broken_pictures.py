"""Whatever a picture's header says: it is read, or refused in words, in bounded memory."""

import io
import struct
import tracemalloc
from collections.abc import Callable

import numpy as np
import pillow_heif
import pytest
import tifffile
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.exif import camera_notes
from zesty_grid.formats.photo import MAX_PIXELS_KEPT, ORIENTATION_TAG, look_over_photo, open_photo
from zesty_grid.standins.raw_file import write_raw

pillow_heif.register_heif_opener()
SHAPE = (48, 64, 3)
PIXELS = np.random.default_rng(14).integers(0, 255, SHAPE).astype(np.uint8)


def encoded(kind: str, **more: object) -> bytes:
    buffer = io.BytesIO()
    if kind == "TIFF":
        tifffile.imwrite(buffer, PIXELS, photometric="rgb")
    else:
        Image.fromarray(PIXELS).save(buffer, kind, **more)
    return buffer.getvalue()


def with_orientation(said: int) -> bytes:
    exif = Image.Exif()
    exif[ORIENTATION_TAG] = said
    return exif.tobytes()


def with_rational(over: int, under: int) -> bytes:
    """An EXIF block whose orientation is of type 5, a rational number (CIPA DC-008, 4.6.2)."""
    head = b"Exif\0\0II*\0\x08\0\0\0\x01\0"
    return head + struct.pack("<HHIIIII", ORIENTATION_TAG, 5, 1, 26, 0, over, under)


KINDS = ("JPEG", "PNG", "WEBP", "TIFF", "HEIF", "AVIF")
STARTS = (
    b"",
    b"\xff\xd8\xff\xe1",
    b"\x89PNG\r\n\x1a\n",
    b"RIFF\0\0\0\0WEBP",
    b"II*\0",
    b"MM\0*",
    b"\0\0\0\x18ftypheic",
    b"FUJIFILMCCD-RAW",
)
WHOLE = {kind: encoded(kind) for kind in KINDS}
WHOLE["DNG"] = write_raw((PIXELS / 255).astype(np.float32), "Box camera", "DNG")


@pytest.mark.parametrize("kind", KINDS)
def test_a_whole_picture_is_read_in_both_ways(kind):
    assert open_photo(WHOLE[kind]).pixels.shape == SHAPE
    look_over_photo(WHOLE[kind])


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
@pytest.mark.parametrize(
    "exif",
    [
        with_rational(1, 0),
        with_rational(0, 0),
        with_rational(4_000_000_000, 1),
        with_orientation(0),
        with_orientation(9),
        with_orientation(65535),
        b"Exif\0\0",
        b"Exif\0\0II*",
        b"nonsense",
    ],
)
def test_an_orientation_that_is_none_is_taken_as_upright(kind, exif):
    data = encoded(kind, exif=exif)
    assert open_photo(data).pixels.shape == SHAPE
    look_over_photo(data)
    camera_notes(data)


@settings(max_examples=250)
@given(
    st.sampled_from([*KINDS, "DNG"]),
    st.lists(st.tuples(st.integers(0, 400), st.integers(0, 255)), min_size=1, max_size=12),
    st.integers(0, 4000),
)
def test_changed_bytes_in_a_header_are_refused_in_words_or_read(kind, changes, cut):
    data = bytearray(WHOLE[kind])
    for at, value in changes:
        data[at % len(data)] = value
    if cut > 2000:
        del data[cut - 2000 :]
    for read in (open_photo, look_over_photo):
        said = refusal_of(read, bytes(data))
        assert said is None or (said.reason and said.cure)
    camera_notes(bytes(data))


def refusal_of(read: Callable[[bytes], object], data: bytes) -> Refusal | None:
    try:
        read(data)
    except Refusal as refusal:
        return refusal
    return None


@settings(max_examples=150)
@given(st.binary(max_size=400), st.sampled_from(STARTS))
def test_bytes_that_begin_like_a_picture_are_refused(noise, start):
    for read in (open_photo, look_over_photo):
        with pytest.raises(Refusal):
            read(start + noise)


def test_a_picture_for_the_log_is_looked_over_in_little_memory():
    """Of 80 million pixels: decoded whole it takes 240 MB, at an eighth each way 4 MB."""
    wide = Image.new("RGB", (10_000, 8_000), (120, 90, 40))
    buffer = io.BytesIO()
    wide.save(buffer, "JPEG")
    tracemalloc.start()
    look_over_photo(buffer.getvalue())
    most = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    assert most < 20e6
    for kind, more in (("PNG", {}), ("JPEG", {"progressive": True})):
        # These are decoded whole, so they may not be as large.
        assert wide.width * wide.height > MAX_PIXELS_KEPT
        buffer = io.BytesIO()
        wide.save(buffer, kind, **more)
        with pytest.raises(Refusal, match="at most 40 million"):
            look_over_photo(buffer.getvalue())
