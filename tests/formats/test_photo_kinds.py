"""Every kind of file that cameras and telephones write, measured against the same known cloths."""

import io
import struct
from contextlib import suppress

import numpy as np
import pillow_heif
import pytest
import rawpy
import tifffile
from PIL import Image
from tests.cloth_spectra import cloths_on, true_lab
from tests.photographs import photograph

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.measure import measure_sheet
from zesty_grid.core.read.sheet_layout import lay_out_sheet
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.exif import camera_notes
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.camera import Shot, sensor_light
from zesty_grid.standins.scene import Scene

SHEET = lay_out_sheet("KINDS")
SCENE = Scene(SHEET, cloths_on(SHEET, 21))
SHOT = Shot(width_px=2400, height_px=1800)
KINDS = ("JPEG", "PNG", "TIFF16", "HEIC", "AVIF", "WEBP", "DNG", "TIFF linear")


@pytest.fixture(scope="module")
def files() -> dict[str, bytes]:
    return {kind: photograph(SCENE, SHOT, kind) for kind in KINDS}


@pytest.mark.parametrize("kind", KINDS)
def test_each_kind_is_read_as_well_as_the_others(files, kind):
    cells = measure_sheet(open_photo(files[kind]), SHEET).cells
    errors = [
        float(delta_e_2000(true_lab(cloth), np.array(cell.lab)))
        for cloth, cell in zip(SCENE.cloths, cells, strict=True)
    ]
    assert np.mean(errors) < 1.2
    assert camera_notes(files[kind]).camera in ("Simulated camera A", "")


@pytest.mark.parametrize("kind", ["DNG", "TIFF linear"])
def test_a_sensors_own_light_is_read_without_a_tone_curve(files, kind):
    model = measure_sheet(open_photo(files[kind]), SHEET).calibration.model
    assert "tone curve" not in model


def test_a_dng_gives_back_the_light_that_was_written(files):
    light = sensor_light(SCENE, SHOT)
    picture = open_photo(files["DNG"])
    assert picture.raw
    # LibRaw is an independent reader: away from edges its pixels are what the sensor saw.
    seen = picture.linear(picture.pixels[900:910, 1200:1210]).mean(axis=(0, 1))
    np.testing.assert_allclose(seen, light[900:910, 1200:1210].mean(axis=(0, 1)), rtol=0.03)
    with rawpy.imread(io.BytesIO(files["DNG"])) as raw:
        assert raw.white_level == 15871


def test_ten_bits_of_a_heic_are_kept():
    ramp = np.zeros((64, 1024, 3), np.uint16)
    ramp[...] = (np.arange(1024) * 64)[None, :, None]
    buffer = io.BytesIO()
    image = pillow_heif.from_bytes(mode="RGB;16", size=(1024, 64), data=ramp.tobytes())
    image.save(buffer, quality=100)
    picture = open_photo(buffer.getvalue())
    assert picture.pixels.dtype == np.uint16
    assert picture.pixels.max() == 65535
    assert len(np.unique(picture.pixels[32, :, 1])) > 500


def test_a_heic_that_is_turned_comes_upright():
    tall = Image.fromarray(np.zeros((60, 40, 3), np.uint8))
    exif = Image.Exif()
    exif[274] = 6
    buffer = io.BytesIO()
    pillow_heif.from_pillow(tall).save(buffer, exif=exif.tobytes())
    seen = open_photo(buffer.getvalue())
    assert (seen.width, seen.height) == (60, 40)


def declared_larger(data: bytes) -> bytes:
    """The same file whose header says 60,000 by 60,000 pixels (ISO/IEC 23008-12: box 'ispe')."""
    at = data.index(b"ispe") + 8
    return data[:at] + struct.pack(">II", 60_000, 60_000) + data[at + 8 :]


def webp_canvas(width: int, height: int) -> bytes:
    """An extended WebP header (RFC 9649) with nothing behind it."""
    body = b"VP8X" + struct.pack("<I", 10) + b"\0\0\0\0"
    body += (width - 1).to_bytes(3, "little") + (height - 1).to_bytes(3, "little")
    return b"RIFF" + struct.pack("<I", len(body) + 4) + b"WEBP" + body


@pytest.mark.parametrize("kind", ["HEIC", "AVIF", "WEBP", "DNG", "TIFF linear"])
@pytest.mark.parametrize("share", [0.05, 0.5, 0.97])
def test_files_that_were_cut_short_are_refused_in_words(files, kind, share):
    data = files[kind]
    with pytest.raises(Refusal) as refused:
        open_photo(data[: int(len(data) * share)])
    assert refused.value.cure


@pytest.mark.parametrize("kind", ["HEIC", "AVIF"])
def test_a_size_that_is_only_said_decodes_nothing(files, kind):
    with pytest.raises(Refusal):
        open_photo(declared_larger(files[kind]))


def test_a_webp_that_says_it_is_huge_is_refused():
    with pytest.raises(Refusal):
        open_photo(webp_canvas(16_000, 16_000))


def test_a_raw_file_of_no_known_camera_is_refused():
    for start in (b"FUJIFILMCCD-RAW 0201", b"II*\0\x10\0\0\0CR\x02\0", b"\0\0\0\x18ftypcrx "):
        with pytest.raises(Refusal) as refused:
            open_photo(start + b"\0" * 400)
        assert refused.value.code == "broken-raw"


def test_a_raw_file_that_says_it_is_huge_is_refused():
    buffer = io.BytesIO()
    tags = [(50706, "B", 4, (1, 4, 0, 0), True), (33421, "H", 2, (2, 2), True), (33422, "B", 4, (0, 1, 1, 2), True)]
    tifffile.imwrite(buffer, np.zeros((40, 40), np.uint16), photometric=32803, metadata=None, extratags=tags)
    data = bytearray(buffer.getvalue())
    with tifffile.TiffFile(io.BytesIO(bytes(data))) as tiff:
        for name in ("ImageWidth", "ImageLength"):
            struct.pack_into("<I", data, tiff.pages[0].tags[name].valueoffset, 60_000)
    with pytest.raises(Refusal):
        open_photo(bytes(data))


def test_damage_anywhere_is_refused_or_read_but_never_breaks(files):
    rng = np.random.default_rng(8)
    for kind in ("HEIC", "AVIF", "WEBP", "DNG"):
        for _ in range(6):
            data = bytearray(files[kind])
            for at in rng.integers(0, min(4000, len(data)), 12):
                data[at] = int(rng.integers(256))
            with suppress(Refusal):
                assert open_photo(bytes(data)).width > 0
