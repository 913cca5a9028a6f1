"""A difference between two mean colours of a mixed model, with its error in every direction."""

from collections.abc import Sequence

import numpy as np

from zesty_grid.core.compare.crossed import Matrix
from zesty_grid.core.compare.directions import DirectionChange, direction_words, unit_2000
from zesty_grid.core.compare.equivalence import SIGNIFICANCE, Estimate, chance_of, limit
from zesty_grid.core.compare.mixed_model import Fitted
from zesty_grid.core.plan.power import DIRECTIONS
from zesty_grid.core.read.colour_difference import delta_e_2000, directions_2000

NAMES = ("lightness", "chroma", "hue")


class ColourContrast:
    """A difference between two colours in its three directions, each with its error."""

    def __init__(self, fitted: Fitted, row: Matrix, labs: Sequence[Matrix], most_df: float | None = None) -> None:
        """`most_df`: no more degrees of freedom than the vessels of its stratum have."""
        self.fitted, self.row, self.labs, self.most_df = fitted, row, labs, most_df
        self.unit = unit_2000((labs[0] + labs[1]) / 2)
        along = directions_2000(labs[0], labs[1])
        spread = [fitted.variance(row, self.unit[k]) for k in range(DIRECTIONS)]
        self.untold = spread[0].untold
        self.directions = [
            Estimate(float(value), float(np.sqrt(one.variance)), self._capped(one.df))
            for value, one in zip(along, spread, strict=True)
        ]
        self.de00 = float(delta_e_2000(labs[0], labs[1]))

    def _capped(self, df: float | None) -> float | None:
        if self.most_df is None:
            return df
        return self.most_df if df is None else min(df, self.most_df)

    @property
    def df(self) -> float | None:
        """Of the direction that shows most."""
        return min(self.directions, key=chance_of).df

    def chance(self) -> float:
        each = [chance_of(one) for one in self.directions]
        return min(1.0, DIRECTIONS * min(each))

    def range_de00(self) -> tuple[float, float]:
        """95 % of the size. Noise alone makes a difference, and so is taken off its square; along
        the difference it counts at least as in the mean direction. It reaches down to nothing
        unless one direction shows more."""
        values = np.array([one.value for one in self.directions])
        size = float(np.linalg.norm(values))
        towards = values / size if size > 0 else np.array([1.0, 0.0, 0.0])
        own = self.fitted.variance(self.row, towards @ self.unit)
        whole = sum(one.error**2 for one in self.directions)
        variance = max(own.variance, whole / DIRECTIONS)
        centre = float(np.sqrt(max(0.0, size**2 - whole + variance)))
        least = min((one.df for one in self.directions if one.df is not None), default=None)
        df = self._capped(own.df) if own.variance >= whole / DIRECTIONS else least
        wide = limit(Estimate(0, float(np.sqrt(variance)), df), 1 - SIGNIFICANCE / 2)
        low = max(0.0, centre - wide) if self.chance() < SIGNIFICANCE else 0.0
        return low, centre + wide

    def changes(self) -> list[DirectionChange]:
        words = direction_words(self.labs[0], self.labs[1])
        found = []
        for name, word, one in zip(NAMES, words, self.directions, strict=True):
            wide = limit(Estimate(0, one.error, one.df), 1 - SIGNIFICANCE / 2)
            found.append(
                DirectionChange(
                    direction=name,
                    change_de00=one.value,
                    low_de00=one.value - wide,
                    high_de00=one.value + wide,
                    word=word,
                    real=not self.untold and DIRECTIONS * chance_of(one) < SIGNIFICANCE,
                )
            )
        return found
