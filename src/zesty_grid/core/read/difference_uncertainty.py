"""How far a difference between measured colours may be from the truth.

Two colours of one photo share most of what is wrong with it; two of different photos less, of
different lights and cameras least. The errors of readings are taken as covarying: for each thing
that two readings share (all cameras, the camera, its light, the photo) a part of their error is
common, and the less so the further apart their colours are. What is a piece's own (its unevenness,
its place on the page) falls with the number of pieces; what is shared does not.

Variances are of the whole error in ΔE00², fitted on 11,519 readings of dyed cloth, undyed cloth
and neighbours at ΔE00 2, over two simulated cameras and four lights; those of a piece's own and of
the light are widened (from 0.31 and 0.81), so that they hold on other cloths too, as measured by
`bench/differences.py`.
"""

from collections.abc import Sequence

import numpy as np

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.measurement import Lab

OWN_DE00 = 0.37
SHARED_DE00 = {"everything": 1.28, "camera": 1.02, "capture": 0.95, "photo": 0.26}
COLOUR_SCALE_DE00 = 33.0
# A chart that fits worse than this says that the photo's error is larger in proportion.
USUAL_CHART_DE00 = 2.5
# Twice the uncertainty holds about 95 in 100 (JCGM 100, Guide to the Expression of Uncertainty).
COVERAGE_FACTOR = 2.0
# What two readings of one instrument share of their error; with a photo they share nothing.
SHARED_INSTRUMENT_DE00 = 0.25
SAME_RESPONSE = 0.008
# As far apart lie the same camera's photos in lights of one kind; other kinds lie from 0.03.
LIKE_RESPONSE = 0.02


class Seen(Frozen):
    """One reading as far as its error goes. `capture` is the same for photos of one camera in one
    light; `camera` empty: not known. `instrument`: the one that it was measured with, empty for a
    photo; its `evenness_de00` is then its whole own uncertainty."""

    lab: Lab
    photo: int
    capture: int | None = None
    camera: str = ""
    evenness_de00: float = 0.0
    chart_de00: float = 0.0
    instrument: str = ""


class DifferenceUncertainty(Frozen):
    """`uncertainty_de00`: standard uncertainty of the difference as found. `limit_de00`: what two
    colours that are really the same stay under, 95 times in 100."""

    uncertainty_de00: float
    limit_de00: float


def same_response(first: Sequence[Lab], second: Sequence[Lab]) -> bool:
    """Whether two photos saw the chart alike: the same camera in the same light."""
    return response_distance(first, second) < SAME_RESPONSE


def response_distance(first: Sequence[Lab], second: Sequence[Lab]) -> float:
    """How differently two photos saw the chart; infinite for charts that cannot be compared."""
    if not first or len(first) != len(second):
        return float("inf")
    apart = np.asarray(first) - np.asarray(second)
    return float(np.sqrt(np.mean(apart**2)))


def difference_uncertainty(first: Sequence[Sequence[Seen]], second: Sequence[Sequence[Seen]]) -> DifferenceUncertainty:
    """Of the mean colour of some pieces against that of others; at least one reading of each.

    Each side holds the readings of its pieces, piece by piece: a piece counts once, by the mean
    of its readings.
    """
    return difference_uncertainties([(first, second)])[0]


def difference_uncertainties(
    pairs: Sequence[tuple[Sequence[Sequence[Seen]], Sequence[Sequence[Seen]]]],
) -> list[DifferenceUncertainty]:
    """As `difference_uncertainty`, of many together: colours are set apart in one go."""
    sides = [
        (
            [one for side in pair for piece in side for one in piece],
            np.concatenate([_weights(pair[0]), -_weights(pair[1])]),
        )
        for pair in pairs
    ]
    found = [np.array([one.lab for one in readings]) for readings, _ in sides]
    # Were the two really the same, the readings of both would lie about one colour.
    alike = [labs + (weights < 0)[:, None] * (weights @ labs) for labs, (_, weights) in zip(found, sides, strict=True)]
    apart = _all_apart([*found, *alike])
    variances = [_variance(*sides[i % len(sides)], matrix) for i, matrix in enumerate(apart)]
    return [
        DifferenceUncertainty(
            uncertainty_de00=float(np.sqrt(as_found)), limit_de00=COVERAGE_FACTOR * float(np.sqrt(same))
        )
        for as_found, same in zip(variances[: len(pairs)], variances[len(pairs) :], strict=True)
    ]


def _all_apart(groups: Sequence[Floats]) -> list[Floats]:
    """ΔE00 within each group of colours (n, 3), as (n, n)."""
    if not groups:
        return []
    first = np.concatenate([np.repeat(labs, len(labs), axis=0) for labs in groups])
    second = np.concatenate([np.tile(labs, (len(labs), 1)) for labs in groups])
    flat = np.asarray(delta_e_2000(first, second))
    ends = np.cumsum([len(labs) ** 2 for labs in groups])[:-1]
    return [own.reshape(len(labs), len(labs)) for own, labs in zip(np.split(flat, ends), groups, strict=True)]


def mean_uncertainty(readings: Sequence[Seen], uncertainties_de00: Sequence[float]) -> float:
    """Standard uncertainty of the mean of readings of one colour, from each one's own.

    What they share does not shrink: the correlation of two readings is that of their errors.
    """
    if len(readings) == 1:
        return float(uncertainties_de00[0])
    shared = _covariance(readings, _apart(np.array([one.lab for one in readings])))
    spread = np.sqrt(np.diag(shared))
    correlation = shared / np.outer(spread, spread)
    own = np.asarray(uncertainties_de00)
    total = correlation * np.outer(own, own)
    return float(np.sqrt(total.mean()))


def own_error(readings: Sequence[Seen]) -> float:
    """What the mean of readings of one piece shares with no other, as a standard deviation in each direction."""
    own = [(0.0 if one.instrument else OWN_DE00) ** 2 + one.evenness_de00**2 for one in readings]
    return float(np.sqrt(sum(own) / 3)) / len(own)


def mean_lab(pieces: Sequence[Sequence[Seen]]) -> Floats:
    """The mean colour of some pieces, (3,), each by the mean of its readings."""
    labs = np.array([one.lab for piece in pieces for one in piece])
    return np.asarray(_weights(pieces) @ labs)


def _weights(pieces: Sequence[Sequence[Seen]]) -> Floats:
    return np.concatenate([np.full(len(p), 1 / len(p) / len(pieces)) for p in pieces])


def _variance(readings: Sequence[Seen], weights: Floats, apart: Floats) -> float:
    return max(0.0, float(weights @ _covariance(readings, apart) @ weights))


def _apart(labs: Floats) -> Floats:
    return np.asarray(delta_e_2000(labs[:, None], labs[None]))


def _covariance(readings: Sequence[Seen], apart: Floats) -> Floats:
    closeness = np.exp(-apart / COLOUR_SCALE_DE00)
    photo = np.array([one.photo for one in readings])
    capture = np.array([one.capture if one.capture is not None else -1 - one.photo for one in readings])
    names = [one.camera or f"? {c}" for one, c in zip(readings, capture, strict=True)]
    camera = np.unique(names, return_inverse=True)[1]
    by_camera = np.array([not one.instrument for one in readings])
    common = SHARED_DE00["everything"] ** 2 * np.ones_like(closeness)
    for name, key in (("camera", camera), ("capture", capture), ("photo", photo)):
        common += SHARED_DE00[name] ** 2 * (key[:, None] == key[None])
    instruments = np.array([one.instrument for one in readings])
    same = instruments[:, None] == instruments[None]
    common = np.where(by_camera[:, None] & by_camera[None], common, SHARED_INSTRUMENT_DE00**2 * same)
    scale = np.array([max(1.0, one.chart_de00 / USUAL_CHART_DE00) for one in readings])
    place = np.where(by_camera, OWN_DE00, 0.0)
    own = place**2 + np.array([one.evenness_de00 for one in readings]) ** 2
    shared = common * closeness * np.outer(scale, scale)
    return np.asarray(shared + np.diag(own))
