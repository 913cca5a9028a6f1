"""Colours on paper: as measured, in a profile that is named, and what lies outside it."""

from collections.abc import Iterable

import numpy as np
from reportlab.lib.colors import Color, HexColor

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import hex_to_lab, lab_to_hex
from zesty_grid.core.read.measurement import Lab

PROFILE = "sRGB (IEC 61966-2-1), from L*a*b* under D50 and 2° by Bradford's adaptation"
OUTSIDE_DE00 = 0.8


def paper_colour(lab: Lab) -> Color:
    return HexColor(lab_to_hex(np.array(lab)))


def profile_words(labs: Iterable[Lab]) -> str:
    """What the colours are printed in, and how many lie outside and are the nearest there is."""
    outside = sum(_outside(lab) for lab in labs)
    said = f"Colours as measured, in {PROFILE}."
    if outside:
        one = "1 colour lies" if outside == 1 else f"{outside} colours lie"
        said += f" {one} outside it: the nearest is shown."
    return said


def _outside(lab: Lab) -> bool:
    shown = hex_to_lab(lab_to_hex(np.array(lab)).removeprefix("#"))
    return float(delta_e_2000(np.array(lab), shown)) > OUTSIDE_DE00
