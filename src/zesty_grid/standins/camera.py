"""A simulated camera that works from spectra: it makes photographs and knows the truth."""

import io
from dataclasses import dataclass
from functools import lru_cache

import cv2
import numpy as np
import pillow_heif
from numpy.typing import NDArray
from PIL import Image, ImageCms

from zesty_grid.core.read.colour_science import colour_science
from zesty_grid.core.read.colour_space import linear_to_srgb
from zesty_grid.core.read.patch24 import WAVELENGTHS_NM, patch24_spectra, patch24_xyz
from zesty_grid.standins.bent import lay_bent, seen_through_lens
from zesty_grid.standins.local_tone import LocalTone, map_locally
from zesty_grid.standins.raw_file import write_raw
from zesty_grid.standins.scene import Scene, page_reflected

Floats = NDArray[np.float64]
MODEL_TAG = 0x0110
# From one side of the table only: lights that no photo should be taken in alone.
SIDE_LIGHTS = {"fluorescent": "FL2"}
LIGHTS = {"daylight D50": "D50", "daylight D65": "D65", "LED": "LED-B3", "tungsten": "A"}
_NAMES = LIGHTS | SIDE_LIGHTS


@dataclass(frozen=True)
class Camera:
    """Its sensitivities, and how it renders its picture: one of two measured sets, or for red, green
    and blue the peak and the widths below and above it, in nm."""

    name: str
    sensitivity_set: int | tuple[tuple[float, float, float], ...]
    contrast: float
    lift: float
    noise: float
    balance_warmth: float


CAMERAS = {
    "A": Camera("A", 0, contrast=0.35, lift=0.0, noise=0.004, balance_warmth=0.02),
    "B": Camera("B", 1, contrast=0.15, lift=0.004, noise=0.006, balance_warmth=-0.03),
}


@dataclass(frozen=True)
class Shot:
    """How the picture is taken. `exposure` is the linear level of a perfect white in the middle;
    `lens_k1`: by what share the lens puts the corners outwards."""

    camera: str | Camera = "A"
    light: str = "daylight D50"
    width_px: int = 4000
    height_px: int = 3000
    exposure: float = 0.8
    tilt: float = 0.04
    turn_deg: float = 2.0
    fill: float = 0.9
    light_slope: float = 0.25
    falloff: float = 0.25
    blur_px: float = 0.7
    balanced_for: str | None = None
    side_light: str | None = None
    local_tone: LocalTone | None = None
    lens_k1: float = 0.0
    seed: int = 1

    @property
    def taken_with(self) -> Camera:
        return CAMERAS[self.camera] if isinstance(self.camera, str) else self.camera


def photograph(scene: Scene, shot: Shot, file_format: str = "JPEG") -> bytes:
    """A JPEG, PNG, WEBP, AVIF or HEIC (8 bits), a 16-bit TIFF ("TIFF16"), in sRGB, or the sensor's
    own light as "DNG" or as a linear TIFF ("TIFF linear")."""
    if file_format in ("DNG", "TIFF linear"):
        return write_raw(sensor_light(scene, shot), f"Simulated camera {shot.taken_with.name}", file_format)
    encoded = expose(scene, shot)
    if file_format == "TIFF16":
        codes = np.clip(encoded * 65535 + 0.5, 0, 65535).astype(np.uint16)
        return cv2.imencode(".tif", codes[..., ::-1])[1].tobytes()
    image = Image.fromarray(np.clip(encoded * 255 + 0.5, 0, 255).astype(np.uint8))
    buffer = io.BytesIO()
    exif = Image.Exif()
    exif[MODEL_TAG] = f"Simulated camera {shot.taken_with.name}"
    kept = {"quality": 92, "icc_profile": _srgb_profile(), "exif": exif.tobytes()}
    if file_format == "HEIC":
        pillow_heif.from_pillow(image).save(buffer, **kept)
    else:
        image.save(buffer, file_format, **kept)
    return buffer.getvalue()


@lru_cache(maxsize=1)
def _srgb_profile() -> bytes:
    """sRGB's profile, without the date in bytes 24 to 36: the same scene gives the same file."""
    profile = bytes(ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes())
    return profile[:24] + bytes(12) + profile[36:]


def expose(scene: Scene, shot: Shot) -> NDArray[np.float32]:
    """The rendered picture, (height, width, 3), 0 to 1, in the camera's own tone curve."""
    view = _exposed(scene, shot, raw=False)
    encoded = _tone(view, shot.taken_with)
    return map_locally(encoded, shot.local_tone) if shot.local_tone else encoded


def sensor_light(scene: Scene, shot: Shot) -> NDArray[np.float32]:
    """What the sensor itself sees, (height, width, 3), linear, 0 to 1, with no balance."""
    return _exposed(scene, shot, raw=True)


def _exposed(scene: Scene, shot: Shot, raw: bool) -> NDArray[np.float32]:
    view = _seen(scene, shot, shot.light, raw)
    rng = np.random.default_rng((shot.seed, 1))
    if shot.side_light:
        across = np.linspace(0, 1, shot.width_px, dtype=np.float32)[None, :, None]
        view += across * (_seen(scene, shot, shot.side_light, raw) - view)
    view *= shot.exposure * _light_over_view(shot, rng)[..., None]
    if shot.lens_k1:
        view = seen_through_lens(view, shot.lens_k1)
    if shot.blur_px:
        view = np.asarray(cv2.GaussianBlur(view, (0, 0), shot.blur_px), dtype=np.float32)
    view += _noise(view, shot.taken_with.noise, rng)
    return np.clip(view, 0, 1)


def _seen(scene: Scene, shot: Shot, light: str, raw: bool) -> NDArray[np.float32]:
    """The scene in one even light from where the camera stands, linear."""
    rng = np.random.default_rng(shot.seed)
    balanced_for = shot.balanced_for or shot.light
    render = (sensor_matrix if raw else rendering_matrix)(shot.taken_with, light, balanced_for)
    page_px_per_mm = min(8.0, 1.05 * shot.width_px / scene.sheet.page_mm[0])
    page, px_per_mm = page_reflected(scene, lambda spectra: spectra @ render, rng, page_px_per_mm)
    if scene.bend:
        page = lay_bent(page, scene.bend, scene.sheet.page_mm, px_per_mm)
    surround = tuple(float(v) for v in (scene.table @ render))
    view: NDArray[np.float32] = cv2.warpPerspective(  # type: ignore[assignment]
        page,
        _view_of_page(scene, shot, rng) @ np.diag([1 / px_per_mm, 1 / px_per_mm, 1.0]),
        (shot.width_px, shot.height_px),
        flags=cv2.INTER_LINEAR,
        borderMode=cv2.BORDER_CONSTANT,
        borderValue=(*surround, 0.0),
    )
    return view


@lru_cache(maxsize=16)
def rendering_matrix(camera: str | Camera, light: str, balanced_for: str | None = None) -> Floats:
    """Linear picture RGB of a reflectance spectrum, shape (36, 3), after the camera's own work.

    Sensor, white balance (a little off, as real ones are), and a fixed matrix to sRGB.
    `balanced_for` names another light when the camera's balance was left there.
    """
    camera = CAMERAS[camera] if isinstance(camera, str) else camera
    sensor = _sensitivities(camera.sensitivity_set)
    raw = sensor * _light_spectrum(_NAMES[light])[:, None]
    warmth = np.array([1 + camera.balance_warmth, 1.0, 1 - camera.balance_warmth])
    white = (sensor * _light_spectrum(_NAMES[balanced_for or light])[:, None]).sum(axis=0)
    level = raw.sum(axis=0)[1] / white[1]
    balanced = raw / white / level * warmth
    return balanced @ _to_srgb(camera.sensitivity_set)


@lru_cache(maxsize=16)
def sensor_matrix(camera: Camera, light: str, exposed_for: str) -> Floats:
    """Sensor light of a reflectance spectrum, shape (36, 3); white in the light that it is exposed
    for reaches 1 in the strongest channel."""
    sensor = _sensitivities(camera.sensitivity_set)
    white = (sensor * _light_spectrum(_NAMES[exposed_for])[:, None]).sum(axis=0)
    return np.asarray(sensor * _light_spectrum(_NAMES[light])[:, None] / white.max())


def _to_srgb(sensitivity_set: int | tuple[tuple[float, float, float], ...]) -> Floats:
    raw = _sensitivities(sensitivity_set) * _light_spectrum("D65")[:, None]
    patches = patch24_spectra() @ (raw / raw.sum(axis=0))
    colour = colour_science()
    adapted = colour.XYZ_to_RGB(patch24_xyz(), colour.RGB_COLOURSPACES["sRGB"], illuminant=np.array([0.3457, 0.3585]))
    matrix = np.linalg.lstsq(patches, adapted, rcond=None)[0]
    return matrix / matrix.sum(axis=0)


@lru_cache(maxsize=4)
def _sensitivities(which: int | tuple[tuple[float, float, float], ...]) -> Floats:
    if not isinstance(which, int):
        return np.stack([_bell(*peak) for peak in which], axis=-1)
    data = list(colour_science().MSDS_CAMERA_SENSITIVITIES.values())[which]
    return np.stack(
        [np.interp(WAVELENGTHS_NM, data.wavelengths, data.values[:, c], left=0, right=0) for c in range(3)], axis=-1
    )


def _bell(peak_nm: float, below_nm: float, above_nm: float) -> Floats:
    width = np.where(peak_nm > WAVELENGTHS_NM, below_nm, above_nm)
    return np.exp(-(((WAVELENGTHS_NM - peak_nm) / width) ** 2) / 2)


@lru_cache(maxsize=8)
def _light_spectrum(name: str) -> Floats:
    data = colour_science().SDS_ILLUMINANTS[name]
    return np.interp(WAVELENGTHS_NM, data.wavelengths, data.values)


def _view_of_page(scene: Scene, shot: Shot, rng: np.random.Generator) -> Floats:
    """Photo pixels from page millimetres: filled frame, turned, seen a little from the side."""
    width_mm, height_mm = scene.sheet.page_mm
    scale = shot.fill * min(shot.width_px / width_mm, shot.height_px / height_mm)
    corners = (np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]]) * [width_mm, height_mm]) / 2
    angle = np.radians(shot.turn_deg * rng.uniform(-1, 1))
    turn = np.array([[np.cos(angle), -np.sin(angle)], [np.sin(angle), np.cos(angle)]])
    seen = corners @ turn.T * scale
    seen *= 1 + shot.tilt * rng.uniform(-1, 0.2, size=(4, 1))
    seen += [shot.width_px / 2, shot.height_px / 2]
    page = corners + np.array([width_mm / 2, height_mm / 2])
    found = cv2.getPerspectiveTransform(page.astype(np.float32), seen.astype(np.float32))
    return np.asarray(found, dtype=float)


def _light_over_view(shot: Shot, rng: np.random.Generator) -> NDArray[np.float32]:
    """Light from one side and the lens's cos⁴ falloff, about 1 in the middle."""
    small_w, small_h = 160, 120
    x, y = np.meshgrid(np.linspace(-1, 1, small_w), np.linspace(-1, 1, small_h) * 0.75)
    angle = rng.uniform(0, 2 * np.pi)
    along = x * np.cos(angle) + y * np.sin(angle)
    slope = 1 + shot.light_slope * (0.7 * along + 0.3 * (along**2 - 0.5))
    lens = 1 / (1 + shot.falloff * (x**2 + y**2)) ** 2
    field = (slope * lens).astype(np.float32)
    return cv2.resize(field, (shot.width_px, shot.height_px), interpolation=cv2.INTER_CUBIC)


def _noise(view: NDArray[np.float32], level: float, rng: np.random.Generator) -> NDArray[np.float32]:
    """Shot noise, growing with the root of the light, from a tile that is laid over the view."""
    tile = rng.standard_normal((701, 997, 3), dtype=np.float32)
    height, width = view.shape[:2]
    repeats = (-(-height // 701), -(-width // 997), 1)
    grain = np.tile(tile, repeats)[:height, :width]
    return grain * np.sqrt(np.maximum(view, 0.0004)) * np.float32(level * 2)


def _tone(linear: NDArray[np.float32], camera: Camera) -> NDArray[np.float32]:
    """sRGB's curve with the camera's own contrast and black lift, by table."""
    x = np.linspace(0, 1, 65536)
    encoded = linear_to_srgb(x)
    smooth = encoded * encoded * (3 - 2 * encoded)
    curve = (1 - camera.contrast) * encoded + camera.contrast * smooth
    table = (camera.lift + (1 - camera.lift) * curve).astype(np.float32)
    return table[(linear * 65535).astype(np.uint16)]
