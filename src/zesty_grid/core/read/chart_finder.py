"""Finds the chart card in its slot, though it lies a little off and turned."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.sheet_layout import ChartSlot, RectMm, corners_of

# The card may lie 4 mm and 4° off; a little more is searched so that the best is inside.
SHIFTS_MM = np.arange(-6.0, 6.01, 1.5)
TURNS_DEG = np.arange(-6.0, 6.01, 2.0)
INNER_SHARE = 0.6
EDGE_SHARE = 0.94


@dataclass(frozen=True)
class ChartPlace:
    """How the card lies: shift and turn about the slot's centre, and its size over nominal;
    `beyond_mm`: how far its frame reaches beyond the slot, left, top, right and below."""

    shift_mm: tuple[float, float]
    turn_deg: float
    size_ratio: float
    beyond_mm: tuple[float, float, float, float] = (0.0, 0.0, 0.0, 0.0)

    def card_rect_mm(self, slot: ChartSlot) -> RectMm:
        """The card with its frame, on the card's own scale: as if it lay straight in its slot."""
        x, y, w, h = slot.rect_mm
        left, top, right, below = self.beyond_mm
        return (x - left, y - top, w + left + right, h + top + below)

    def card_quad_mm(self, slot: ChartSlot) -> Floats:
        """The corners of the card as it lies on the page, (4, 2)."""
        return place_points(self, np.array(corners_of(self.card_rect_mm(slot))), slot_centre_mm(slot))

    def undone(self) -> "ChartPlace":
        """The place that takes points of the card as it lies back to the slot."""
        angle = np.radians(self.turn_deg)
        turn = np.array([[np.cos(angle), np.sin(angle)], [-np.sin(angle), np.cos(angle)]])
        x, y = -(turn @ np.array(self.shift_mm)) / self.size_ratio
        return ChartPlace((float(x), float(y)), -self.turn_deg, 1 / self.size_ratio)


_Costs = Callable[[list[ChartPlace]], Floats]


def place_points(place: ChartPlace, points_mm: Floats, centre_mm: Floats) -> Floats:
    """Slot points (n, 2) moved to where the card really lies."""
    angle = np.radians(place.turn_deg)
    turn = np.array([[np.cos(angle), -np.sin(angle)], [np.sin(angle), np.cos(angle)]])
    moved: Floats = place.size_ratio * (points_mm - centre_mm) @ turn.T + centre_mm + np.array(place.shift_mm)
    return moved


def slot_centre_mm(slot: ChartSlot) -> Floats:
    return np.asarray(np.mean([patch.centre_mm for patch in slot.patches], axis=0))


def find_chart(log_light: Floats, origin_mm: Floats, px_per_mm: float, slot: ChartSlot) -> ChartPlace:
    """The place at which every patch window is most nearly of one colour.

    `log_light` is the logarithm of the slot's linear light, (height, width, 3), with its top left
    pixel's corner at `origin_mm`. Coarse to fine search over shift, turn and size.
    """
    centre = slot_centre_mm(slot)
    height, width = log_light.shape[:2]
    grey = log_light.mean(axis=2).ravel()
    window = _rim(_window_points(slot, EDGE_SHARE, 7), 7)

    around_px = (window.reshape(-1, 2) - centre) * px_per_mm
    middle_px = (centre - origin_mm) * px_per_mm

    def unevenness(places: list[ChartPlace]) -> Floats:
        angle = np.radians([place.turn_deg for place in places])
        size = np.array([place.size_ratio for place in places])
        along, across = size * np.cos(angle), size * np.sin(angle)
        at_px = middle_px + np.array([place.shift_mm for place in places]) * px_per_mm
        x = np.outer(along, around_px[:, 0]) - np.outer(across, around_px[:, 1]) + at_px[:, :1]
        y = np.outer(across, around_px[:, 0]) + np.outer(along, around_px[:, 1]) + at_px[:, 1:]
        column = np.clip(np.floor(x).astype(int), 0, width - 1)
        row = np.clip(np.floor(y).astype(int), 0, height - 1)
        values = grey[row * width + column].reshape(len(places), window.shape[0], -1)
        return np.asarray(np.log(values.std(axis=2) + 0.01).mean(axis=1))

    coarse = [ChartPlace((x, y), turn, 1.0) for x in SHIFTS_MM for y in SHIFTS_MM for turn in TURNS_DEG]
    best = coarse[int(np.argmin(unevenness(coarse)))]
    for step in (1.0, 0.5, 0.25, 0.12):
        best = _descend(best, unevenness, step)
    return best


def _descend(place: ChartPlace, costs_of: _Costs, step: float) -> ChartPlace:
    best, best_cost = place, costs_of([place])[0]
    for _ in range(12):
        (x, y), turn, size = best.shift_mm, best.turn_deg, best.size_ratio
        around = [
            ChartPlace((x + step, y), turn, size),
            ChartPlace((x - step, y), turn, size),
            ChartPlace((x, y + step), turn, size),
            ChartPlace((x, y - step), turn, size),
            ChartPlace((x, y), turn + step, size),
            ChartPlace((x, y), turn - step, size),
            ChartPlace((x, y), turn, min(1.05, size + step / 50)),
            ChartPlace((x, y), turn, max(0.95, size - step / 50)),
        ]
        costs = costs_of(around)
        nearest = int(np.argmin(costs))
        if costs[nearest] >= best_cost:
            break
        best, best_cost = around[nearest], costs[nearest]
    return best


def _window_points(slot: ChartSlot, share: float, per_side: int) -> Floats:
    """Points (24, per_side², 2) spread evenly over the middle `share` of each patch, in mm."""
    line = (np.arange(per_side) + 0.5) / per_side - 0.5
    grid = np.stack(np.meshgrid(line, line), axis=-1).reshape(-1, 2) * share
    return np.array([np.array(patch.centre_mm) + grid * np.array(patch.size_mm) for patch in slot.patches])


def _rim(window: Floats, per_side: int) -> Floats:
    """The outermost points of each patch's window: they are the first to leave the patch."""
    line = np.arange(per_side)
    row, column = np.divmod(np.arange(per_side**2), per_side)
    outer = np.isin(row, line[[0, -1]]) | np.isin(column, line[[0, -1]])
    rim: Floats = window[:, outer]
    return rim


def patch_window_points(slot: ChartSlot, place: ChartPlace, per_side: int = 24) -> Floats:
    """Page points (24, per_side², 2) in mm within each patch of the card as it lies."""
    window = _window_points(slot, INNER_SHARE, per_side)
    moved = place_points(place, window.reshape(-1, 2), slot_centre_mm(slot))
    return moved.reshape(window.shape)
