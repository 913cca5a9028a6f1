"""How much colours differ where nothing was changed: the noise that effects are told against.

All three are standard deviations in ΔE00 along the noisiest direction of colour: where the depth
alone varies, nearly all of a difference lies in one direction, and an effect in that direction is
the hardest to tell.
"""

from collections.abc import Iterable

import numpy as np

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.study_plan import NoiseLevels
from zesty_grid.core.read.colour_difference import directions_2000
from zesty_grid.core.read.measurement import Lab

# Common practice, until the researcher's own studies say better: about 1 ΔE00 is just visible
# side by side, pieces of one pot look alike, and pots of one recipe do not quite.
DEFAULT_NOISE = NoiseLevels(swatch_de00=0.8, vessel_de00=1.2, reading_de00=0.5)
ENOUGH_PAIRS = 8


class NoiseEstimate(Frozen):
    """The noise to plan with. `own` names what came from the researcher's own readings."""

    levels: NoiseLevels
    own: tuple[str, ...] = ()
    words: str


class AlikeColours(Frozen):
    """Colours that should be the same but for one kind of noise."""

    groups: tuple[tuple[Lab, ...], ...] = ()


def variance_of_alike(colours: AlikeColours) -> tuple[float, int]:
    """Variance along the noisiest direction (ΔE00²), and the number of pairs that it rests on.

    Pairs are each colour against the first of its group. The largest eigenvalue of the pairs'
    second moments, halved, as each of a pair brings its own noise.
    """
    firsts = [group[0] for group in colours.groups for _ in group[1:]]
    others = [other for group in colours.groups for other in group[1:]]
    if not others:
        return 0.0, 0
    apart = directions_2000(np.array(firsts), np.array(others))
    moments = apart.T @ apart / len(others)
    return float(np.linalg.eigvalsh(moments)[-1]) / 2, len(others)


def estimate_noise(same_piece: AlikeColours, same_vessel: AlikeColours, other_vessel: AlikeColours) -> NoiseEstimate:
    """From repeated readings of one piece, replicates of one pot, and replicates of two pots.

    Each kind holds those before it: what differs in one pot holds the reading, and so on. A kind
    with fewer than 8 pairs keeps its default.
    """
    reading, n_reading = variance_of_alike(same_piece)
    swatch, n_swatch = variance_of_alike(same_vessel)
    vessel, n_vessel = variance_of_alike(other_vessel)
    levels, own = DEFAULT_NOISE.model_dump(), []
    if n_reading >= ENOUGH_PAIRS:
        levels["reading_de00"] = _root(reading)
        own.append(f"reading ({n_reading} repeats)")
    if n_swatch >= ENOUGH_PAIRS:
        levels["swatch_de00"] = _root(swatch - levels["reading_de00"] ** 2)
        own.append(f"swatch ({n_swatch} pairs)")
    if n_vessel >= ENOUGH_PAIRS:
        inner = levels["reading_de00"] ** 2 + levels["swatch_de00"] ** 2
        levels["vessel_de00"] = _root(vessel - inner)
        own.append(f"pot ({n_vessel} pairs)")
    said = "From your own readings: " + ", ".join(own) + "; the rest are defaults." if own else ""
    return NoiseEstimate(
        levels=NoiseLevels(**levels),
        own=tuple(own),
        words=said or "Defaults: your own studies have no repeats to learn from yet.",
    )


def alike(groups: Iterable[tuple[Lab, ...]]) -> AlikeColours:
    """Keeps the groups that have something to compare."""
    return AlikeColours(groups=tuple(group for group in groups if len(group) > 1))


def _root(variance: float) -> float:
    """A standard deviation; never below the 0.05 ΔE00 that is taken for no noise at all."""
    return max(0.05, float(np.sqrt(max(0.0, variance))))
