"""The page, its print and the chart, checked against one another: what is doubtful in a photo."""

from dataclasses import dataclass

import numpy as np

from zesty_grid.core.read.cell_view import Calibrated
from zesty_grid.core.read.local_light import LocalLight
from zesty_grid.core.read.page_finder import MARKER_MODULES
from zesty_grid.core.read.sheet_layout import RectMm, Sheet

# White papers, coated or not, read L* 92 to 97 (common practice).
LIGHTEST_PAPER_L = 97.3
DARKEST_PAPER_L = 91.5
# Toner and ink on plain paper read L* 17 to 35 (common practice).
DARKEST_PRINT_L = 17.0
CHART_DOUBT = 0.008
PAGE_SCALE_OFF = 0.025
BLACK_PX_PER_MM = 4.0
# A sheen that takes the print from L* 17 to 2 misreads cloth by about 4 (measured by simulation).
SHEEN_DE00_PER_L = 0.25


@dataclass(frozen=True)
class PageLooks:
    """What is to be said of paper, print and chart; `doubt_de00`: a standard uncertainty for every
    colour of the photo."""

    warnings: tuple[str, ...]
    doubt_de00: float


def look_at_page(photo: Calibrated, sheet: Sheet, chart_light: LocalLight, card_size_ratio: float) -> PageLooks:
    """Looks at paper and print through the finished correction, and at the light on the chart."""
    paper = photo.correction.lab(np.ones((1, 3)))[0]
    black = _printed_black_l(photo, sheet)
    warnings = [
        *_about_paper(float(paper[0])),
        *_about_print(black),
        *_about_chart(chart_light),
        *_about_scale(card_size_ratio),
    ]
    lightness = float(paper[0])
    beyond = max(0.0, lightness - LIGHTEST_PAPER_L, DARKEST_PAPER_L - lightness)
    sheen = SHEEN_DE00_PER_L * max(0.0, DARKEST_PRINT_L - black)
    doubt = float(np.hypot(beyond / 2, np.hypot(sheen, 33 * max(0.0, chart_light.doubt_ratio - 0.002))))
    return PageLooks(tuple(warnings), doubt)


def _about_paper(lightness: float) -> list[str]:
    if lightness > LIGHTEST_PAPER_L:
        return [
            f"The white paper reads as L* {lightness:.0f}, lighter than paper is: the chart lies "
            "in a shadow or is soiled. Clear the light on the chart and take the photo again."
        ]
    if lightness < DARKEST_PAPER_L:
        return [
            f"The paper reads as L* {lightness:.0f}: unless it is grey, the chart gets more light "
            "than the page does, or the phone has changed brightness from place to place. Switch "
            "such corrections off, or move the lamp."
        ]
    return []


def _about_print(black_l: float) -> list[str]:
    if black_l >= DARKEST_PRINT_L:
        return []
    return [
        f"The printed black reads as L* {black_l:.0f}, darker than print is: there is a sheen on "
        "the chart. Turn the chart or the lamp until no light is thrown back from it."
    ]


def _about_chart(light: LocalLight) -> list[str]:
    if light.doubt_ratio <= CHART_DOUBT:
        return []
    return [
        f"The light on the paper around the chart differs by {2 * light.doubt_ratio:.0%} from side "
        "to side: the edge of a shadow lies there, or the phone has changed brightness from place "
        "to place."
    ]


def _about_scale(card_size_ratio: float) -> list[str]:
    if abs(card_size_ratio - 1) <= PAGE_SCALE_OFF:
        return []
    return [
        f"The chart looks {card_size_ratio - 1:+.0%} of its size: the page was not printed at "
        "100 %. Colours are not touched by that; sizes are."
    ]


def _printed_black_l(photo: Calibrated, sheet: Sheet) -> float:
    """L* of the darkest marker, on its black rim."""
    seen = []
    for marker in sheet.markers:
        (x0, y0), (x1, y1) = marker.corners_mm[0], marker.corners_mm[2]
        module = (x1 - x0) / MARKER_MODULES
        rims: tuple[RectMm, RectMm] = (
            (x0 + 0.2 * module, y0 + module, 0.6 * module, y1 - y0 - 2 * module),
            (x1 - 0.8 * module, y0 + module, 0.6 * module, y1 - y0 - 2 * module),
        )
        for rim in rims:
            crop = photo.page.crop(photo.picture, rim, BLACK_PX_PER_MM)
            linear = photo.picture.linear(crop).reshape(-1, 3).mean(axis=0)
            middle = np.array([[rim[0] + rim[2] / 2, rim[1] + rim[3] / 2]])
            seen.append(linear / photo.light.at(middle)[0])
    return float(photo.correction.lab(np.array(seen))[:, 0].min())
