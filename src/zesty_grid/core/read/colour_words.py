"""A plain-words name for a colour, so that colour is never the only carrier."""

import numpy as np

from zesty_grid.core.read.colour_space import Floats, lab_to_lch

_HUES = (
    (15, "pink"),
    (40, "red"),
    (62, "orange"),
    (80, "golden yellow"),
    (100, "yellow"),
    (125, "yellow green"),
    (170, "green"),
    (225, "blue green"),
    (285, "blue"),
    (320, "violet"),
    (350, "purple"),
    (361, "pink"),
)


def colour_words(lab: Floats) -> str:
    """Words such as 'dark greyish violet' for L*a*b* (D50). Bounds are our own choice."""
    lightness, chroma, hue_deg = (float(v) for v in lab_to_lch(np.asarray(lab, float)))
    if chroma < 4:
        if lightness > 92:
            return "white"
        return f"{_depth(lightness)} grey".strip() if lightness > 20 else "black"
    hue = next(name for limit, name in _HUES if hue_deg < limit)
    if 30 <= hue_deg < 85 and lightness < 58 and chroma < 50:
        hue = "brown"
    elif 80 <= hue_deg < 125 and lightness < 62:
        hue = "olive"
    elif 45 <= hue_deg < 110 and lightness > 80 and chroma < 22:
        hue = "cream"
    strength = "greyish" if chroma < 14 and hue != "cream" else "strong" if chroma > 60 else ""
    return " ".join(part for part in (_depth(lightness), strength, hue) if part)


def _depth(lightness: float) -> str:
    if lightness < 25:
        return "very dark"
    if lightness < 45:
        return "dark"
    if lightness > 85:
        return "pale"
    return "light" if lightness > 70 else ""
