"""Parts of a piece with a colour of their own: prints, dipped corners, covered and exposed halves.

Colours are split in two, and each half again, as long as the two are plainly apart: few pixels lie
between them, and they differ by more than what an uneven dyeing does.
"""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from zesty_grid.core.read.cloth_finder import Mask
from zesty_grid.core.read.colour_space import Floats

Labels = NDArray[np.int32]

SMOOTH_MM = 0.7
BORDER_MM = 1.0
FRINGE_MM = 1.0
LEAST_APART_DE00 = 2.2
LEAST_SHARE = 0.01
# Between two colours the histogram must fall under this part of the lower peak.
VALLEY = 0.4
BINS = 24
MOST_ZONES = 6
SAMPLE = 1500
SMALLEST_SPECK_MM2 = 3.0


@dataclass(frozen=True)
class ZoneMap:
    """`labels` (h, w): 0 off the piece, then zones from the largest, 1 …; `core` is where a zone's
    own colour is seen, away from its borders; `shares` sum to 1."""

    labels: Labels
    core: Mask
    shares: tuple[float, ...]


def find_zones(lab: Floats, inner: Mask, whole: Mask, px_per_mm: float, count: int = 0) -> ZoneMap:
    """Zones of a piece from its colours (h, w, 3); `count`: so many, or all there are (0)."""
    firm = _firm(whole, px_per_mm) | inner
    smooth = smooth_within(lab, firm, SMOOTH_MM * px_per_mm)
    scaled = _perceptual(smooth)
    if count < 2 and (count == 1 or _one_colour(scaled[inner])):
        return _single(inner, whole)
    calm = inner & (_slope(scaled, inner) * px_per_mm < _calm_limit(scaled, inner, px_per_mm))
    if calm.sum() < 0.3 * inner.sum():
        calm = inner
    colours = scaled[calm]
    rng = np.random.default_rng(0)
    if len(colours) > SAMPLE:
        colours = colours[rng.choice(len(colours), SAMPLE, replace=False)]
    centres = _k_means(colours, count) if count else _split(colours, len(colours))
    labels, specks = _assign(scaled, inner, whole, centres, px_per_mm)
    return _by_size(labels, inner & ~specks, px_per_mm)


def _one_colour(colours: Floats) -> bool:
    """Whether all lie so close together that there is nothing to split."""
    low, high = np.percentile(colours[:: max(1, len(colours) // SAMPLE)], [1, 99], axis=0)
    return bool(np.linalg.norm(high - low) < LEAST_APART_DE00)


def _single(inner: Mask, whole: Mask) -> ZoneMap:
    return ZoneMap(whole.astype(np.int32), inner, (1.0,))


def smooth_within(values: Floats, mask: Mask, sigma_px: float) -> Floats:
    """Gaussian smoothing that takes nothing from outside of the mask."""
    weight = cv2.GaussianBlur(mask.astype(np.float32), (0, 0), sigma_px)
    blurred = cv2.GaussianBlur(values.astype(np.float32) * mask[..., None], (0, 0), sigma_px)
    return np.asarray(blurred / np.maximum(weight, 1e-6)[..., None], dtype=float)


def _perceptual(lab: Floats) -> Floats:
    """L*, a*, b* with chroma drawn together as CIEDE2000 does (S_C = 1 + 0.045 C*)."""
    chroma = np.hypot(lab[..., 1], lab[..., 2])
    drawn = np.log1p(0.045 * chroma) / 0.045 / np.maximum(chroma, 1e-6)
    scaled: Floats = np.stack([lab[..., 0], lab[..., 1] * drawn, lab[..., 2] * drawn], axis=-1)
    return scaled


def _slope(scaled: Floats, inner: Mask) -> Floats:
    """How fast the colour changes at each pixel, per pixel."""
    filled = np.where(inner[..., None], scaled, scaled[inner].mean(axis=0)).astype(np.float32)
    x, y = (cv2.Sobel(filled, cv2.CV_32F, dx, dy, scale=1 / 8) for dx, dy in ((1, 0), (0, 1)))
    return np.asarray(np.sqrt((x**2 + y**2).sum(axis=-1)), dtype=float)


def _calm_limit(scaled: Floats, inner: Mask, px_per_mm: float) -> float:
    """Slopes, per mm, above which a pixel lies on the border between two colours."""
    slope = _slope(scaled, inner)[inner] * px_per_mm
    return max(1.0, 3.0 * float(np.percentile(slope, 40)))


def _split(colours: Floats, total: int) -> list[Floats]:
    """Centres of as many groups as are plainly apart."""
    if len(colours) < 2 * max(8, LEAST_SHARE * total):
        return [np.median(colours, axis=0)]
    found = [c for c in _candidates(colours) if _apart(colours, c, total)]
    if not found:
        return [np.median(colours, axis=0)]
    nearer = _nearest(colours, found[0]) == 0
    centres = [*_split(colours[nearer], total), *_split(colours[~nearer], total)]
    return centres[:MOST_ZONES]


def _candidates(colours: Floats) -> list[Floats]:
    """Pairs of centres, from the two ends of the widest direction and from its middle and ends."""
    _, _, axes = np.linalg.svd(colours - colours.mean(axis=0), full_matrices=False)
    along = (colours - colours.mean(axis=0)) @ axes[0]
    pairs = []
    for low, high in ((5, 95), (1, 60), (40, 99)):
        ends = np.percentile(along, [low, high])
        start = np.stack([colours[np.argmin(np.abs(along - end))] for end in ends])
        pairs.append(_refined(colours, start))
    return pairs


def _refined(colours: Floats, centres: Floats) -> Floats:
    for _ in range(20):
        nearest = _nearest(colours, centres)
        moved = np.stack(
            [colours[nearest == i].mean(axis=0) if (nearest == i).any() else centres[i] for i in range(len(centres))]
        )
        if np.abs(moved - centres).max() < 1e-2:
            break
        centres = moved
    return centres


def _k_means(colours: Floats, count: int) -> list[Floats]:
    criteria = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, 50, 0.01)
    cv2.setRNGSeed(1)
    found = cv2.kmeans(
        colours.astype(np.float32), min(count, len(colours)), np.empty(0, np.int32), criteria, 5, cv2.KMEANS_PP_CENTERS
    )
    return list(np.asarray(found[2], dtype=float))


def _nearest(colours: Floats, centres: Floats) -> NDArray[np.intp]:
    # |c − m|² without the part that is the same for all centres.
    return np.asarray(((centres**2).sum(axis=-1) - 2 * colours @ centres.T).argmin(axis=-1))


def _apart(colours: Floats, pair: Floats, total: int) -> bool:
    """Whether the two groups are two colours, and no uneven single one."""
    nearest = _nearest(colours, pair)
    sizes = np.bincount(nearest, minlength=2)
    if sizes.min() < max(8, LEAST_SHARE * total):
        return False
    step = pair[1] - pair[0]
    distance = float(np.linalg.norm(step))
    if distance < LEAST_APART_DE00:
        return False
    along = (colours - pair[0]) @ step / distance**2
    counts, _ = np.histogram(along, bins=BINS, range=(-0.5, 1.5))
    dense = np.convolve(counts, [0.25, 0.5, 0.25], mode="same")
    first, second = dense[: BINS // 2].argmax(), BINS // 2 + dense[BINS // 2 :].argmax()
    between = dense[first : second + 1].min()
    return bool(between < VALLEY * min(dense[first], dense[second]))


def _assign(scaled: Floats, inner: Mask, whole: Mask, centres: list[Floats], px_per_mm: float) -> tuple[Labels, Mask]:
    """Every pixel of the piece to the nearest colour, and specks, which join what lies around them
    but do not count in its colour."""
    labels = np.zeros(inner.shape, dtype=np.int32)
    seen = inner | _firm(whole, px_per_mm)
    labels[seen] = _nearest(scaled[seen], np.stack(centres)) + 1
    smallest_px = SMALLEST_SPECK_MM2 * px_per_mm**2
    specks = np.zeros(labels.shape, dtype=bool)
    for zone in range(1, len(centres) + 1):
        parts, count = ndimage.label(labels == zone)
        sizes = ndimage.sum_labels(np.ones_like(labels), parts, np.arange(1, count + 1))
        for part in np.flatnonzero(np.atleast_1d(sizes) < smallest_px) + 1:
            labels[parts == part] = 0
            specks |= parts == part
    if not labels.any():
        labels[inner] = 1
    nearest = ndimage.distance_transform_edt(labels == 0, return_distances=False, return_indices=True)
    filled = labels[tuple(nearest)]
    return np.asarray(np.where(whole, filled, 0), dtype=np.int32), specks


def _firm(whole: Mask, px_per_mm: float) -> Mask:
    """The piece without its outermost threads, which let the page through."""
    padded = np.pad(whole.astype(np.uint8), 1)
    depth = cv2.distanceTransform(padded, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)[1:-1, 1:-1]
    return np.asarray(depth > FRINGE_MM * px_per_mm)


def _by_size(labels: Labels, inner: Mask, px_per_mm: float) -> ZoneMap:
    """Zones numbered from the largest; their cores keep off the borders between them."""
    sizes = np.bincount(labels.ravel())[1:]
    order = [int(i) for i in np.argsort(-sizes) if sizes[i] > 0]
    ranked = np.zeros_like(labels)
    core = np.zeros(labels.shape, dtype=bool)
    for rank, i in enumerate(order, 1):
        own = labels == i + 1
        ranked[own] = rank
        # Off the piece counts as own: only borders to other zones are kept off.
        deep = ndimage.distance_transform_edt(own | (labels == 0))
        kept = own & inner & (deep > BORDER_MM * px_per_mm)
        core |= kept if kept.sum() > 0.05 * own.sum() else own & inner
    shares = tuple(float(sizes[i] / sizes.sum()) for i in order)
    return ZoneMap(ranked, core, shares)
