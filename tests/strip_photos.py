"""Photographs of simulated pH strips, and of their boxes' printed scales, beside the chart on a table."""

import cv2
import numpy as np
from tests.photographs import photograph

from zesty_grid.core.read.chart import patch24
from zesty_grid.core.read.chart_alone import ChartInPhoto, chart_in_photo
from zesty_grid.core.read.picture import Picture
from zesty_grid.core.read.sheet_layout import lay_out_sheet
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.ph_strips import Pads, dipped, laid_scale, laid_strip, printed_scale
from zesty_grid.standins.scene import Scene

TABLE = np.full(36, 0.45)
SHEET = lay_out_sheet("strips", 1, chart=patch24())
SCALE_AT_MM, SCALE_TURN, SCALE_PITCH_MM = (160.0, 25.0), 4.0, (8.5, 9.5)


def shot(light: str, camera: str, seed: int) -> Shot:
    return Shot(camera=camera, light=light, seed=seed, width_px=2400, height_px=1800)


def scale_photo(
    pads: Pads, phs: tuple[float, ...], seed: int, light: str = "daylight D65"
) -> tuple[bytes, list[float]]:
    """A box's printed scale; and where its corners lie, x and y of each as shares of the photo."""
    colours = printed_scale(pads, phs, np.random.default_rng(seed))
    flats = laid_scale(colours, SCALE_AT_MM, SCALE_TURN, patch_mm=7)
    scene = Scene(SHEET, paper_present=False, table=TABLE, flats=flats)
    data = photograph(scene, shot("daylight D65", "A", seed))
    places = [(0, 0), (len(pads) - 1, 0), (len(pads) - 1, len(phs) - 1)]
    angle = np.radians(SCALE_TURN)
    turn = np.array([[np.cos(angle), -np.sin(angle)], [np.sin(angle), np.cos(angle)]])
    mm = [turn @ (np.array(place) * SCALE_PITCH_MM) + SCALE_AT_MM for place in places[len(pads) == 1 :]]
    return data, [float(share) for share in _shares(open_photo(data), scene, np.array(mm)).ravel()]


def strip_photo(
    pads: Pads, ph: float, seed: int, light: str = "daylight D50", camera: str = "A", turn_deg: float | None = None
) -> bytes:
    """A strip dipped into a bath of this pH, laid as a hand lays it."""
    rng = np.random.default_rng((seed, 7))
    at = (float(rng.uniform(150, 180)), float(rng.uniform(40, 110)))
    turn = float(rng.uniform(-40, 40)) if turn_deg is None else turn_deg
    scene = Scene(SHEET, paper_present=False, table=TABLE, flats=laid_strip(dipped(pads, ph, rng), at, turn))
    return photograph(scene, shot(light, camera, seed))


def _shares(picture: Picture, scene: Scene, at_mm: np.ndarray) -> np.ndarray:
    found: ChartInPhoto = chart_in_photo(picture, patch24())
    slot = scene.sheet.chart
    middle, angle = np.array(slot.quad_mm).mean(axis=0), np.radians(scene.chart_turn_deg)
    turn = np.array([[np.cos(angle), -np.sin(angle)], [np.sin(angle), np.cos(angle)]])
    mm = (np.array([patch.centre_mm for patch in slot.patches]) - middle) @ turn.T + middle + scene.chart_shift_mm
    px_from_mm, _ = cv2.findHomography(mm.astype(np.float32), found.outlines_px.mean(axis=1).astype(np.float32))
    px = cv2.perspectiveTransform(at_mm.astype(np.float32).reshape(-1, 1, 2), px_from_mm).reshape(-1, 2)
    return px / [picture.width, picture.height]
