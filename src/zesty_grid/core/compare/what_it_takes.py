"""How many more vessels or swatches would settle a difference that cannot be told yet."""

from collections.abc import Sequence

import numpy as np

from zesty_grid.core.compare.equivalence import SAME_DE00, Estimate
from zesty_grid.core.compare.strata import Stratum
from zesty_grid.core.plan.pot_words import pot_words
from zesty_grid.core.plan.power import DIRECTIONS, detectable_colour_standard_errors

MOST_MORE = 12


def what_it_takes(de00: float, directions: Sequence[Estimate], where: Stratum, swatches: tuple[int, int]) -> str:
    """In words: as many more of each level as show a difference of this size 8 times in 10, if it
    is true and the noise stays as it was; one below 1 ΔE00 counts as that."""
    noise = float(np.sqrt(sum(one.error**2 for one in directions) / DIRECTIONS))
    df = min((one.df for one in directions if one.df is not None), default=None)
    size = max(de00, SAME_DE00)
    own = where.vessels if where.between else swatches
    thing = pot_words(where.between) if where.between else "swatch"
    now = sum(1 / max(1, one) for one in own)
    for more in range(1, MOST_MORE + 1):
        then = noise * float(np.sqrt(sum(1 / (one + more) for one in own) / now))
        freedom = None if df is None else max(1, round(df)) + 2 * more
        if detectable_colour_standard_errors(freedom) * then <= size:
            many = thing if more == 1 else f"{thing}es" if thing.endswith("ch") else f"{thing}s"
            said = "One more" if more == 1 else f"{more} more"
            return f"{said} {many} of each would show a difference of {size:.1f} 8 times in 10."
    return f"More than {MOST_MORE} more of each: a difference this small is not worth it."
