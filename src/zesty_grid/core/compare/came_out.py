"""Whether what was dyed by the recipe of a swatch came out as that swatch, and what was otherwise."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from scipy.special import chdtri

from zesty_grid.core.compare.directions import NAMES, changes_along
from zesty_grid.core.compare.studies_beside import Differs
from zesty_grid.core.dye.swatch_record import BathPassed
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.noise.contrast import error_of
from zesty_grid.core.noise.detecting import DIRECTIONS, SIGNIFICANCE, widened
from zesty_grid.core.noise.levels import Noise
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import lab_to_hex
from zesty_grid.core.read.measurement import Lab
from zesty_grid.core.weigh.working import duration_words

# As far apart as a person would not call another bath.
SAME_PH, SAME_C, SAME_TIMES = 0.25, 3.0, 1.1


class Dyed(NamedTuple):
    """A piece with its colour and what is known of its reading, in ΔE00."""

    code: str
    lab: Lab
    uncertainty_de00: float


class CameOut(Frozen):
    """Pieces of one fibre that followed a recipe, beside the swatch whose it is.

    `usual_de00`: two dyeings of one recipe stay under it 96 times in 100; `is_other`: this one did
    not. `words` say which way it went, `differs` what was otherwise in its baths: the swatch's own
    first.
    """

    of_swatch: str
    swatches: tuple[str, ...]
    fibre: str
    of_hex: str
    hex: str
    de00: float
    usual_de00: float
    is_other: bool
    words: str
    differs: tuple[Differs, ...]


def came_out(origin: Dyed, pieces: Sequence[Dyed], noise: Noise, fibre: str, differs: Sequence[Differs]) -> CameOut:
    """Two dyeings lie in two vessels on two days; the pieces of one share theirs."""
    lab = np.mean([one.lab for one in pieces], axis=0)
    de00 = float(delta_e_2000(np.array(origin.lab), lab))
    count = len(pieces)
    swatch, vessel, day = noise.variances
    parts = (swatch * (1 + 1 / count), 2 * vessel, 2 * day)
    reading = origin.uncertainty_de00**2 + sum(one.uncertainty_de00**2 for one in pieces) / count**2
    error = error_of(parts, reading, noise)
    usual = error.sd * widened(error.df) * float(np.sqrt(chdtri(DIRECTIONS, SIGNIFICANCE)))
    along = changes_along(np.array([origin.lab]), lab[None, :], error.sd, error.df)
    told = [one for one in along if one.real] or [max(along, key=lambda one: abs(one.change_de00))]
    return CameOut(
        of_swatch=origin.code,
        swatches=tuple(one.code for one in pieces),
        fibre=fibre,
        of_hex=lab_to_hex(np.array(origin.lab)),
        hex=lab_to_hex(lab),
        de00=de00,
        usual_de00=usual,
        is_other=de00 > usual,
        words=", ".join(one.word for one in sorted(told, key=lambda one: NAMES.index(one.direction))),
        differs=tuple(differs),
    )


def baths_differ(then: Sequence[BathPassed], now: Sequence[BathPassed]) -> list[Differs]:
    """What was measured otherwise, bath by bath; what was not measured in both is not compared."""
    found = []
    for before, after in zip(then, now, strict=False):
        said = [
            ("pH", _far(before.ph, after.ph, SAME_PH), _span(before.ph, ".1f"), _span(after.ph, ".1f")),
            (
                "°C",
                _far(before.temperature_c, after.temperature_c, SAME_C),
                _span(before.temperature_c, ".0f"),
                _span(after.temperature_c, ".0f"),
            ),
            ("time", *_times(before, after)),
            (
                "heated again",
                before.heated_again != after.heated_again,
                f"{before.heated_again} ×",
                f"{after.heated_again} ×",
            ),
        ]
        found += [
            Differs(what=f"{after.title}: {what}", first=first, second=second)
            for what, is_far, first, second in said
            if is_far
        ]
    return found


def _far(then: tuple[float, float] | None, now: tuple[float, float] | None, same: float) -> bool:
    return bool(then and now and abs(sum(then) - sum(now)) / 2 > same)


def _span(pair: tuple[float, float] | None, digits: str) -> str:
    if pair is None:
        return ""
    first, last = (format(value, digits) for value in pair)
    return first if first == last else f"{first} to {last}"


def _times(then: BathPassed, now: BathPassed) -> tuple[bool, str, str]:
    stayed = [_stayed_min(one) for one in (then, now)]
    if None in stayed:
        return False, "", ""
    first, second = (value or 0.0 for value in stayed)
    is_far = max(first, second) > SAME_TIMES * min(first, second)
    in_seconds = max(first, second) < 10
    words = [f"{60 * m:.0f} s" if in_seconds else duration_words(m) for m in (first, second)]
    return is_far, words[0], words[1]


def _stayed_min(one: BathPassed) -> float | None:
    if one.seconds is not None:
        return one.seconds / 60
    return (one.out_at - one.in_at).total_seconds() / 60 if one.in_at and one.out_at else None
