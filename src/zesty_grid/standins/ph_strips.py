"""Simulated pH strips: pads of real indicators on paper, dipped into a bath; and their box's printed scale.

An indicator's two colours follow the pH by Henderson and Hasselbalch. pK and wavelengths are those of
handbook tables of acid-base indicators (CRC Handbook of Chemistry and Physics), from memory; widths
and strengths are invented.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.kubelka_munk import absorption_over_scattering, reflectance_of
from zesty_grid.core.read.patch24 import WAVELENGTHS_NM
from zesty_grid.standins.scene import Flat

PAD_PAPER = 0.86 - 0.04 * np.exp(-(WAVELENGTHS_NM - 380) / 60.0)
CARRIER = np.full(36, 0.84)
WIDTH_NM = 48.0


@dataclass(frozen=True)
class Indicator:
    """pK; where its acid and its alkaline form absorb most, in nm (None: colourless)."""

    pk: float
    acid_nm: float | None
    alkaline_nm: float | None


BROMOPHENOL_BLUE = Indicator(4.0, 436, 592)
BROMOCRESOL_GREEN = Indicator(4.8, 444, 617)
METHYL_RED = Indicator(5.0, 523, 430)
BROMOTHYMOL_BLUE = Indicator(7.2, 433, 617)
PHENOL_RED = Indicator(7.9, 433, 558)
THYMOL_BLUE_ACID = Indicator(1.7, 544, 435)
THYMOL_BLUE = Indicator(9.0, 435, 594)
PHENOLPHTHALEIN = Indicator(9.5, None, 553)
ALIZARIN_YELLOW = Indicator(11.1, 385, 491)

FOUR_PADS = (
    ((THYMOL_BLUE_ACID, 1.2), (BROMOPHENOL_BLUE, 0.8)),
    ((METHYL_RED, 1.1), (BROMOCRESOL_GREEN, 0.5)),
    ((BROMOTHYMOL_BLUE, 1.1),),
    ((THYMOL_BLUE, 0.7), (ALIZARIN_YELLOW, 1.2)),
)
ONE_PAD = (((METHYL_RED, 0.9), (BROMOTHYMOL_BLUE, 1.0), (PHENOLPHTHALEIN, 0.8)),)
Pads = tuple[tuple[tuple[Indicator, float], ...], ...]


def pad_reflectance(pad: tuple[tuple[Indicator, float], ...], ph: float, strength: float = 1.0) -> Floats:
    """Reflectance, (36,), of a pad after a bath of this pH; `strength`: how much dye it holds, relative."""
    absorbs = absorption_over_scattering(PAD_PAPER)
    for indicator, amount in pad:
        alkaline = 1 / (1 + 10 ** (indicator.pk - ph))
        absorbs = absorbs + strength * amount * (
            (1 - alkaline) * _bell(indicator.acid_nm) + alkaline * _bell(indicator.alkaline_nm)
        )
    return reflectance_of(absorbs)


def dipped(pads: Pads, ph: float, rng: np.random.Generator, spread: float = 0.1) -> tuple[Floats, ...]:
    """The pads of one strip after a dip: each holds a little more or less of its dye than the next strip's."""
    return tuple(pad_reflectance(pad, ph, float(np.exp(rng.normal(0, spread)))) for pad in pads)


def printed_scale(pads: Pads, phs: tuple[float, ...], rng: np.random.Generator, off: float = 0.1) -> list[list[Floats]]:
    """The colours that the box prints, value by value and pad by pad: inks that come near the pads', each
    off by about `off` of its light in broad bands."""
    return [[_printed(pad_reflectance(pad, ph), rng, off) for pad in pads] for ph in phs]


def _printed(reflectance: Floats, rng: np.random.Generator, off: float) -> Floats:
    knots = rng.normal(0, off, 4)
    wave = np.interp(WAVELENGTHS_NM, np.linspace(380, 730, 4), knots)
    return np.asarray(np.clip(reflectance * np.exp(wave), 0.01, 0.95))


def _bell(peak_nm: float | None) -> Floats:
    if peak_nm is None:
        return np.zeros(36)
    return np.asarray(np.exp(-(((WAVELENGTHS_NM - peak_nm) / WIDTH_NM) ** 2) / 2))


def laid_strip(
    pads: Sequence[Floats], at_mm: tuple[float, float], turn_deg: float = 0.0, pad_mm: float = 6.0, gap_mm: float = 2.0
) -> tuple[Flat, ...]:
    """A strip with its first pad's middle at `at_mm`, the others along its turn."""
    pitch = pad_mm + gap_mm
    ends = (-pad_mm / 2 - 1.5, (len(pads) - 0.5) * pitch + 25)
    carrier = Flat(_turned((ends[0], -pad_mm / 2 - 0.5, ends[1], pad_mm / 2 + 0.5), at_mm, turn_deg), CARRIER)
    return (carrier, *_squares([pads], at_mm, turn_deg, pad_mm, (pitch, pitch)))


def laid_scale(
    colours: Sequence[Sequence[Floats]], at_mm: tuple[float, float], turn_deg: float = 0.0, patch_mm: float = 6.0
) -> tuple[Flat, ...]:
    """A box's printed scale: pads across, pH downwards, the first colour's middle at `at_mm`."""
    pitch = (patch_mm + 1.5, patch_mm + 2.5)
    wide, high = pitch[0] * len(colours[0]), pitch[1] * len(colours)
    box = (-pitch[0] / 2 - 4, -pitch[1] / 2 - 4, wide - pitch[0] / 2 + 14, high - pitch[1] / 2 + 4)
    return (Flat(_turned(box, at_mm, turn_deg), CARRIER), *_squares(colours, at_mm, turn_deg, patch_mm, pitch))


def _squares(
    rows: Sequence[Sequence[Floats]],
    at_mm: tuple[float, float],
    turn_deg: float,
    side_mm: float,
    pitch_mm: tuple[float, float],
) -> tuple[Flat, ...]:
    half = side_mm / 2
    return tuple(
        Flat(
            _turned(
                (c * pitch_mm[0] - half, r * pitch_mm[1] - half, c * pitch_mm[0] + half, r * pitch_mm[1] + half),
                at_mm,
                turn_deg,
            ),
            colour,
        )
        for r, row in enumerate(rows)
        for c, colour in enumerate(row)
    )


def _turned(
    box_mm: tuple[float, float, float, float], at_mm: tuple[float, float], turn_deg: float
) -> tuple[tuple[float, float], ...]:
    """The corners of left, top, right, bottom, turned about the origin and moved to `at_mm`."""
    left, top, right, bottom = box_mm
    cos, sin = np.cos(np.radians(turn_deg)), np.sin(np.radians(turn_deg))
    return tuple(
        (float(at_mm[0] + x * cos - y * sin), float(at_mm[1] + x * sin + y * cos))
        for x, y in ((left, top), (right, top), (right, bottom), (left, bottom))
    )
