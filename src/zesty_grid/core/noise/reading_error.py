"""What errors of reading have in common."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.sparse import csr_matrix

from zesty_grid.core.noise.crossing import Matrix, incidence


@dataclass(frozen=True)
class ReadingError:
    """In each direction of colour: `own` (n,) the variance that each has for itself; `shared`: who has a part in an
    error (n, groups), with its variance."""

    own: Matrix
    shared: tuple[tuple[csr_matrix, float], ...] = ()

    def covariance(self, rows: csr_matrix) -> Matrix:
        """Of contrasts of readings (k, n), (k, k)."""
        found = (rows.multiply(self.own).tocsr() @ rows.T).toarray()
        for who, variance in self.shared:
            part = rows @ who
            found = found + variance * (part @ part.T).toarray()
        return np.asarray(found)


def shared_by(groups: Sequence[Sequence[str]], variance: float) -> tuple[csr_matrix, float] | None:
    """An error that readings of one group share; each swatch has its readings' groups. None: all are of one group,
    and it falls out of every difference."""
    names = {name: i for i, name in enumerate(dict.fromkeys(name for own in groups for name in own))}
    if len(names) < 2:
        return None
    return incidence([[names[name] for name in own] for own in groups], len(names)), variance
