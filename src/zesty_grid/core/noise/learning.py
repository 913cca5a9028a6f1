"""What repeats say of the noise: swatches of one cell differ by nothing else.

Components are those that make the differences within cells likeliest (restricted maximum likelihood: Patterson and
Thompson 1971), beside where they start, which counts as if it had been seen with four degrees of freedom. Directions of
colour are pooled. What a component has learnt is its share of Fisher's information.
"""

from collections.abc import Sequence

import numpy as np
from scipy.linalg import cho_factor, cho_solve
from scipy.optimize import minimize
from scipy.sparse import csr_matrix

from zesty_grid.core.noise.crossing import Crossing, Matrix
from zesty_grid.core.noise.detecting import DIRECTIONS
from zesty_grid.core.noise.levels import LEAST_DE00, START_DF, Component, Noise
from zesty_grid.core.noise.reading_error import ReadingError
from zesty_grid.core.read.colour_difference import directions_2000

MOST_REPEATS = 400
# Standard deviations are looked for within these factors of where they start.
WIDEST = 12.0


def learnt_from(crossing: Crossing, labs: Matrix, read: ReadingError, noise: Noise) -> Noise:
    """`noise` sharpened by the repeats among swatches of colour `labs` (n, 3), or of a number (n, 1)."""
    rows, apart = _within_cells(crossing, labs)
    if not len(rows):
        return noise
    cloth, vessel, day = (rows @ z.toarray() for z in crossing.shared)
    shares = [rows @ rows.T + cloth @ cloth.T, vessel @ vessel.T, day @ day.T]
    reading = read.covariance(csr_matrix(rows))
    free = [k for k, one in enumerate(noise.components) if not one.known and np.abs(shares[k]).max() > 1e-12]
    start = np.array(noise.variances)
    weight = np.array([one.df for one in noise.components])

    def unlikeliness(logs: Matrix) -> tuple[float, Matrix]:
        variances = start.copy()
        variances[free] = np.exp(logs)
        solve = cho_factor(_covariance(variances, shares, reading))
        solved = cho_solve(solve, apart)
        value = float(np.log(np.diag(solve[0])).sum() + 0.5 * np.sum(apart * solved) / apart.shape[1])
        slope = []
        inverse = cho_solve(solve, np.eye(len(rows)))
        for k in free:
            value += 0.5 * weight[k] * float(np.log(variances[k]) + start[k] / variances[k])
            fit = np.sum(inverse * shares[k]) - np.sum(solved * (shares[k] @ solved)) / apart.shape[1]
            slope.append(0.5 * (variances[k] * fit + weight[k] * (1 - start[k] / variances[k])))
        return value, np.array(slope)

    wide = 2 * np.log(WIDEST)
    bounds = [(np.log(start[k]) - wide, np.log(start[k]) + wide) for k in free]
    found = minimize(unlikeliness, np.log(start[free]), jac=True, method="L-BFGS-B", bounds=bounds)
    variances = start.copy()
    variances[free] = np.exp(found.x)
    inverse = np.linalg.inv(_covariance(variances, shares, reading))
    weighed = [inverse @ shares[k] for k in free]
    information = np.array([[0.5 * np.sum(a * b.T) for b in weighed] for a in weighed])
    information += np.diag([0.5 * weight[k] / variances[k] ** 2 for k in free])
    doubt = np.diag(np.linalg.inv(information))
    components = list(noise.components)
    for k, own in zip(free, doubt, strict=True):
        df = max(float(weight[k]), 2 * float(variances[k]) ** 2 / float(own))
        sd = max(LEAST_DE00, float(np.sqrt(variances[k])))
        components[k] = Component(sd_de00=sd, repeats=df - START_DF)
    return Noise(swatch=components[0], vessel=components[1], day=components[2])


def _covariance(variances: Matrix, shares: Sequence[Matrix], reading: Matrix) -> Matrix:
    whole = sum(v * share for v, share in zip(variances, shares, strict=True)) + reading
    return np.asarray(whole + 1e-10 * np.eye(len(reading)))


def _within_cells(crossing: Crossing, labs: Matrix) -> tuple[Matrix, Matrix]:
    """Contrasts of swatches of one cell (k, n), orthonormal, and what they are in ΔE00 along each direction (k, d)."""
    rows: list[Matrix] = []
    apart: list[Matrix] = []
    for members in crossing.members:
        if len(members) < 2 or len(rows) >= MOST_REPEATS:
            continue
        own = _contrasts(len(members))
        wide = np.zeros((len(own), len(labs)))
        wide[:, members] = own
        rows.extend(wide)
        apart.extend(own @ _along(labs[members]))
    shape = DIRECTIONS if labs.shape[1] == DIRECTIONS else labs.shape[1]
    return np.array(rows).reshape(len(rows), len(labs)), np.array(apart).reshape(len(rows), shape)


def _along(labs: Matrix) -> Matrix:
    """Colours in ΔE00 from their mean along its three directions; other numbers as they are."""
    if labs.shape[1] != DIRECTIONS:
        return labs
    return np.asarray(directions_2000(np.broadcast_to(labs.mean(axis=0), labs.shape), labs))


def _contrasts(many: int) -> Matrix:
    """Helmert's, orthonormal (many − 1, many)."""
    rows = np.tril(np.ones((many, many)), -1)[1:] - np.diag(np.arange(1, many), 1)[:-1]
    return np.asarray(rows / np.linalg.norm(rows, axis=1)[:, None])
