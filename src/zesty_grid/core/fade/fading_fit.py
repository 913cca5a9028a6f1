"""What the stages of a trial say about how a colour fades.

The change of colour is followed as a vector: lightness, redness and yellowness, scaled so that one
unit is about one ΔE00. Every shape with every bend is weighed by how well it foretold each stage
from the stages before it: the product of those predictions is the marginal likelihood (Dawid 1984,
prequential analysis), in which the size of the change is averaged out, so that a richer shape wins
only where the stages bear it. What the readings leave open stays open: all shapes together, each
with its weight, give the limits.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Annotated

import numpy as np
from pydantic import Field, model_validator
from scipy.special import logsumexp

from zesty_grid.core.fade.fading_shapes import FEWEST_STAGES, FadingModel, Shape, known_shapes
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import directions_2000
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.measurement import Lab
from zesty_grid.core.refusal import Fault, Refusal

PRIOR: dict[FadingModel, float] = {
    "no change": 0.12,
    "plateau": 0.30,
    "power": 0.22,
    "two pools": 0.22,
    "first another way": 0.14,
}
# How large the change at the last stage may be, and how far the early way may go, in ΔE00.
SIZES_DE00 = (1.5, 4.0, 10.0, 25.0)
EARLY_DE00 = 2.0
# The real scatter of a part of the vector, against the uncertainty that was stated.
SCATTERS = np.geomspace(0.4, 2.4, 8)
USUAL_SCATTER, SCATTER_SPREAD = 1.15, 0.4
LEAST_UNCERTAINTY_DE00 = 0.05


class ChangeSeen(Frozen):
    """A piece against its kept-dark part at one dose (lx·h or washes); `uncertainty_de00`: the
    standard uncertainty of that difference."""

    dose: Annotated[float, Field(ge=0, le=1e12, allow_inf_nan=False)]
    dark_lab: Lab
    exposed_lab: Lab
    uncertainty_de00: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)]

    @model_validator(mode="after")
    def _are_colours(self) -> "ChangeSeen":
        for lab in (self.dark_lab, self.exposed_lab):
            if not (0 <= lab[0] <= 110 and max(abs(lab[1]), abs(lab[2])) <= 150):
                raise ValueError("L* lies between 0 and 110, a* and b* between -150 and 150")
        return self


@dataclass(frozen=True)
class Weighed:
    """One shape, and the logarithm of its weight at each (bend, size, scatter)."""

    shape: Shape
    log_weight: Floats


@dataclass(frozen=True)
class Followed:
    """The change of one swatch as a vector in ΔE00, (n, 3) at doses (n,). `per_de00` (3, 3) takes a
    step in L*a*b* to one in ΔE00, at the colours of this swatch."""

    dark_lab: Floats
    per_de00: Floats
    last_dose: float
    doses: Floats
    change: Floats
    variance: Floats

    @cached_property
    def per_lab(self) -> Floats:
        """The step in L*a*b* for one in ΔE00 (3, 3)."""
        return np.asarray(np.linalg.inv(self.per_de00))


@dataclass(frozen=True)
class FadingFit:
    followed: Followed
    weighed: tuple[Weighed, ...]

    @property
    def model(self) -> FadingModel:
        """The shape that foretold the stages best."""
        totals = [float(logsumexp(one.log_weight)) for one in self.weighed]
        return self.weighed[int(np.argmax(totals))].shape.model


def fit_fading(points: Sequence[ChangeSeen], shared: Sequence[Floats] = ()) -> FadingFit:
    """Weighs every shape against the stages of one swatch; raises Refusal where none has a dose.

    `shared`: for each of `known_shapes`, log weights of its bends (m,) as other swatches of the
    same dye showed them.
    """
    ordered = sorted((one for one in points if one.dose > 0), key=lambda one: one.dose)
    if not ordered:
        raise Refusal(
            "no-stage",
            "No stage with a dose was read.",
            "Give at least one, better four or more.",
            (Fault(field="points", given="none", allowed="one or more above dose 0", cure="Give at least one stage."),),
        )
    doses = np.array([one.dose for one in ordered])
    dark = np.array([one.dark_lab for one in ordered], float)
    exposed = np.array([one.exposed_lab for one in ordered], float)
    per_de00 = _per_de00(dark.mean(axis=0), exposed[-2:].mean(axis=0))
    change = (exposed - dark) @ per_de00.T
    stated = np.array([max(one.uncertainty_de00, LEAST_UNCERTAINTY_DE00) for one in ordered])
    last = float(doses[-1])
    stages = len(np.unique(doses))
    weighed = []
    for i, shape in enumerate(known_shapes()):
        if stages < FEWEST_STAGES[shape.model]:
            continue
        bends = shared[i] if shared else np.full(len(shape.parameters), -np.log(len(shape.parameters)))
        log_weight = _log_likelihood(shape, doses / last, change, stated**2)
        log_weight += bends[:, None, None] + _log_scatter_prior() - np.log(len(SIZES_DE00))
        weighed.append((shape, log_weight + np.log(PRIOR[shape.model])))
    total = logsumexp([logsumexp(log_weight) for _, log_weight in weighed])
    followed = Followed(dark.mean(axis=0), per_de00, last, doses, change, stated**2)
    return FadingFit(followed, tuple(Weighed(s, w - total) for s, w in weighed))


def bends_of(fit: FadingFit) -> list[Floats]:
    """The weight of each bend within its shape (m,), for each of `known_shapes`; even where the
    shape was not weighed."""
    found = []
    by_model = {one.shape.model: one.log_weight for one in fit.weighed}
    for shape in known_shapes():
        if shape.model in by_model:
            log = logsumexp(by_model[shape.model], axis=(1, 2))
            found.append(np.exp(log - logsumexp(log)))
        else:
            found.append(np.full(len(shape.parameters), 1 / len(shape.parameters)))
    return found


def _per_de00(dark: Floats, faded: Floats) -> Floats:
    """The step in ΔE00, as a vector, for a step in each of L*, a* and b* midway between two
    colours: (3, 3)."""
    middle = (dark + faded) / 2
    steps = [directions_2000(middle - step / 2, middle + step / 2) / 0.2 for step in 0.2 * np.eye(3)]
    return np.stack(steps, axis=1)


def _log_scatter_prior() -> Floats:
    log = -((np.log(SCATTERS / USUAL_SCATTER) / SCATTER_SPREAD) ** 2) / 2
    return np.asarray(log - logsumexp(log))


def sizes_of(shape: Shape) -> Floats:
    """Prior standard deviations of each way of a shape, for each size: (sizes, ways)."""
    late = np.array(SIZES_DE00)[:, None]
    return np.hstack([late, np.full_like(late, EARLY_DE00)])[:, : shape.ways]


def size_given(shape: Shape, x: Floats, change: Floats, variance: Floats, scatter: Floats) -> tuple[Floats, Floats]:
    """The size of each way, given bend, prior size and scatter: mean (m, s, c, ways, 3) and
    covariance (m, s, c, ways, ways), the same for each part of the vector."""
    mean, covariance, _ = _sizes(shape, x, change, variance, scatter)
    return mean, covariance


def _sizes(shape: Shape, x: Floats, change: Floats, variance: Floats, scatter: Floats) -> tuple[Floats, Floats, Floats]:
    """As `size_given`, with the precision (m, s, c, ways, ways)."""
    basis = shape.progress(x)
    weight = 1 / variance[None, :, None]
    inner = np.einsum("mnw,mnv->mwv", basis * weight, basis)
    toward = np.einsum("mnw,nk->mwk", basis * weight, change)
    prior = np.stack([np.diag(1 / own**2) for own in sizes_of(shape)])
    noise = scatter[None, None, :, None, None] ** 2
    precision = prior[None, :, None] + inner[:, None, None] / noise
    covariance = _inverse(precision)
    return covariance @ (toward[:, None, None] / noise), covariance, precision


def _inverse(matrix: Floats) -> Floats:
    """Of positive definite matrices (..., 1, 1) or (..., 2, 2), by Cramer's rule: there are tens of
    thousands to a swatch, and a general inverse of each takes twenty times as long."""
    if matrix.shape[-1] == 1:
        return 1 / matrix
    adjugate = np.empty_like(matrix)
    adjugate[..., 0, 0], adjugate[..., 1, 1] = matrix[..., 1, 1], matrix[..., 0, 0]
    adjugate[..., 0, 1], adjugate[..., 1, 0] = -matrix[..., 0, 1], -matrix[..., 1, 0]
    return np.asarray(adjugate / _determinant(matrix)[..., None, None])


def _determinant(matrix: Floats) -> Floats:
    if matrix.shape[-1] == 1:
        return np.asarray(matrix[..., 0, 0])
    return np.asarray(matrix[..., 0, 0] * matrix[..., 1, 1] - matrix[..., 0, 1] * matrix[..., 1, 0])


def _log_likelihood(shape: Shape, x: Floats, change: Floats, variance: Floats) -> Floats:
    """Log marginal likelihood of the changes (n, 3) at doses x: (bends, sizes, scatters)."""
    n = len(x)
    noise = -1.5 * (n * np.log(2 * np.pi * SCATTERS**2) + np.log(variance).sum())
    alone = (change**2 / variance[:, None]).sum() / SCATTERS**2
    base = noise - alone / 2
    if shape.ways == 0:
        return np.broadcast_to(base, (1, len(SIZES_DE00), len(SCATTERS))) + np.zeros((1, 1, 1))
    mean, _, precision = _sizes(shape, x, change, variance, SCATTERS)
    precision_log = np.log(_determinant(precision))
    prior_log = -2 * np.log(sizes_of(shape)).sum(axis=1)[None, :, None]
    explained = (mean * (precision @ mean)).sum(axis=(-2, -1))
    return np.asarray(base + 1.5 * (prior_log - precision_log) + explained / 2)
