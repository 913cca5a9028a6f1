"""From camera colour to measured colour: tone curve and colour correction, fitted on the chart.

Every model is judged on patches that it has not seen (leave one out), and the best is taken.
"""

from dataclasses import dataclass

import numpy as np

from zesty_grid.core.read.chart import FEWEST_GREYS, FEWEST_PATCHES, Chart
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats, xyz_to_lab
from zesty_grid.core.read.virtual_cloth import Support, cloth_as_seen
from zesty_grid.core.refusal import Refusal

# A richer model must beat a simpler one by this much (mean ΔE00 on unseen patches).
WORTHWHILE_DE00 = 0.02
DARKEST = 1e-5
LOWEST_LOG = -5.0
# How far a colour lies outside of what was fitted is judged by the lower of the two polynomials.
LEVERAGE_DEGREE = 2
DEGREE_OF = {3: 1, 6: 2, 13: 3}  # by the number of terms


def root_polynomial_terms(rgb: Floats, degree: int) -> Floats:
    """Exposure-independent terms of linear RGB, shape (n, 3) to (n, 3 | 6 | 13).

    Source: Finlayson, Mackiewicz and Hurlbert (2015), Color Correction Using Root-Polynomial
    Regression; order of terms as printed there for degrees 1, 2 and 3.
    """
    r, g, b = np.moveaxis(np.maximum(rgb, 0), -1, 0)
    terms = [r, g, b]
    # A root of a product is the product of the roots, of which there are fewer.
    if degree >= 2:
        sr, sg, sb = np.sqrt(r), np.sqrt(g), np.sqrt(b)
        terms += [sr * sg, sg * sb, sr * sb]
    if degree >= 3:
        cr, cg, cb = np.cbrt(r), np.cbrt(g), np.cbrt(b)
        terms += [cr * cg * cg, cg * cb * cb, cr * cb * cb, cg * cr * cr, cb * cg * cg, cb * cr * cr, cr * cg * cb]
    return np.stack(terms, axis=-1)


def perceptual_weights(xyz: Floats) -> Floats:
    """Squared slope of the CIELAB cube root at each patch, (3, n)."""
    return np.asarray(np.maximum(xyz, 0.008856).T ** (-4 / 3))


def _normal_equations(terms: Floats, xyz: Floats, weight: Floats | float = 1.0) -> tuple[Floats, Floats]:
    """Squared weights (3, n) and the inverse normal matrices (3, terms, terms), per channel."""
    weights = perceptual_weights(xyz) * weight
    normal = np.swapaxes(weights[..., None] * terms, 1, 2) @ terms
    # A trace of ridge keeps nearly equal terms apart in the normal equations.
    ridge = 1e-9 * np.trace(normal, axis1=1, axis2=2)[:, None, None] * np.eye(terms.shape[1])
    return weights, np.linalg.inv(normal + ridge)


def _with_cloth(terms: Floats, xyz: Floats, degree: int, support: Support | None) -> tuple[Floats, Floats, Floats]:
    """Terms and XYZ of patches and of cloths beside them, and how much each counts."""
    weight = np.ones(len(terms))
    if support is None:
        return terms, xyz, weight
    return (
        np.vstack([terms, root_polynomial_terms(support.rgb, degree)]),
        np.vstack([xyz, support.xyz]),
        np.concatenate([weight, np.full(len(support.rgb), support.weight)]),
    )


def fit_root_polynomial(
    rgb: Floats, xyz: Floats, degree: int, perceptual: bool = True, support: Support | None = None
) -> Floats:
    """Least-squares coefficients (terms, 3) that take linear RGB (n, 3) to XYZ (n, 3).

    `perceptual` weighs each residual by the slope of the CIELAB cube root at the patch, so that
    dark patches count as the eye counts them; without it this is the published regression.
    `support`: cloths that count beside the patches.
    """
    terms = root_polynomial_terms(rgb, degree)
    if not perceptual:
        return np.asarray(np.linalg.lstsq(terms, xyz, rcond=None)[0])
    terms, xyz, weight = _with_cloth(terms, xyz, degree, support)
    weights, inverse = _normal_equations(terms, xyz, weight)
    right = (weights * xyz.T)[:, None] @ terms
    return np.asarray((inverse @ np.swapaxes(right, 1, 2))[..., 0].T)


@dataclass(frozen=True)
class ToneCurve:
    """What the camera did to brightness, undone: ln y = shift + s·t + q·t² + c·t³, t = ln x."""

    shifts: tuple[float, float, float]
    powers: tuple[float, ...]

    def apply(self, linear: Floats) -> Floats:
        """Scene light from file light, (..., 3); straight below the darkest grey of the chart."""
        if self == STRAIGHT:
            return np.asarray(np.maximum(linear, DARKEST))
        t = np.log(np.maximum(linear, DARKEST))
        bent = np.clip(t, LOWEST_LOG, 0.25)
        value = sum((p * bent ** (i + 1) for i, p in enumerate(self.powers)), np.zeros_like(t))
        slope = sum((p * (i + 1) * bent**i for i, p in enumerate(self.powers)), np.zeros_like(t))
        curve: Floats = np.exp(value + np.maximum(slope, 0.2) * (t - bent) + np.array(self.shifts))
        return curve

    def rises(self, linear: Floats) -> bool:
        """Whether the curve rises over the range of the given light."""
        t = np.linspace(np.log(max(float(linear.min()), DARKEST)), 0.1, 60)
        slope = sum((p * (i + 1) * t**i for i, p in enumerate(self.powers)), np.zeros_like(t))
        return bool((slope > 0.15).all())


STRAIGHT = ToneCurve((0.0, 0.0, 0.0), (1.0,))


def fit_tone_curve(grey_linear: Floats, grey_xyz: Floats, terms: int) -> ToneCurve:
    """One curve for all channels from the chart's greys, (n, 3) each, n > terms.

    The channels share the bend and differ by a factor, which takes up the colour of the light.
    """
    t = np.log(np.maximum(grey_linear, DARKEST)).T.ravel()
    count = len(grey_linear)
    channel = np.repeat(np.eye(3), count, axis=0)
    design = np.column_stack([channel, *(t ** (i + 1) for i in range(terms))])
    target = np.tile(np.log(grey_xyz[:, 1]), 3)
    solved = np.linalg.lstsq(design, target, rcond=None)[0]
    r, g, b = (float(v) for v in solved[:3])
    return ToneCurve((r, g, b), tuple(float(v) for v in solved[3:]))


@dataclass(frozen=True)
class Model:
    """A kind of correction: how many tone terms (0: as the file says) and which degree."""

    tone_terms: int
    degree: int
    with_cloth: bool = False

    @property
    def name(self) -> str:
        if self.with_cloth:
            return f"root-polynomials, kept to dyed cloth{self._tone_words}"
        shape = {1: "linear 3×3", 2: "root-polynomial degree 2", 3: "root-polynomial degree 3"}
        return shape[self.degree] + self._tone_words

    @property
    def _tone_words(self) -> str:
        return ", tone curve from the greys" if self.tone_terms else ""


MODELS = tuple(Model(tone_terms, degree) for tone_terms in (0, 2) for degree in (1, 2, 3))


@dataclass(frozen=True)
class Correction:
    """A fitted correction and how well it did on patches left out of the fit.

    `alternative` is the next best model with the same tone curve and its matrix: where the two
    disagree, the chart cannot tell which is right. `response` (n, 3) is the straightened light of
    each patch in cube roots, relative to the white patch.
    """

    model: Model
    tone: ToneCurve
    matrix: Floats
    inverse: Floats
    alternative: tuple[Model, Floats]
    patch_lab: Floats
    unseen_de00: Floats
    used: tuple[int, ...]
    response: Floats

    def lab(self, linear_rgb: Floats) -> Floats:
        """L*a*b* (D50) of evenly lit linear camera RGB (..., 3)."""
        return xyz_to_lab(self._xyz(linear_rgb, self.model, self.matrix))

    def leverage(self, linear_rgb: Floats) -> float:
        """How far a colour (3,) lies outside of what the patches span: the largest of its leverages
        on the fit of X, Y and Z."""
        rgb = self.tone.apply(np.asarray(linear_rgb, dtype=float))[None]
        xyz = np.maximum(root_polynomial_terms(rgb, self.model.degree) @ self.matrix, DARKEST)
        terms = root_polynomial_terms(rgb, DEGREE_OF[self.inverse.shape[-1]])
        weights = perceptual_weights(xyz)[:, 0]
        own = np.einsum("i,cij,j->c", terms[0], self.inverse, terms[0])
        return float((weights * own).max())

    def disagreement_de00(self, linear_rgb: Floats, lab: Floats) -> float:
        """ΔE00 between what this model makes of a colour (3,), `lab`, and what the other does."""
        other = xyz_to_lab(self._xyz(linear_rgb, *self.alternative))
        return float(delta_e_2000(lab, other))

    def _xyz(self, linear_rgb: Floats, model: Model, matrix: Floats) -> Floats:
        flat = self.tone.apply(np.asarray(linear_rgb, dtype=float)).reshape(-1, 3)
        xyz = root_polynomial_terms(flat, model.degree) @ matrix
        return np.maximum(xyz, DARKEST).reshape(np.shape(linear_rgb))


def choose_correction(
    patch_linear: Floats, chart: Chart, used: tuple[int, ...], already_linear: bool = False
) -> Correction:
    """Fits every model on the usable patches and takes the one that does best on unseen ones.

    `patch_linear` is (n, 3); `used` are the indices of unclipped patches.
    `already_linear`: the light is linear as it stands, as a sensor's own is.
    The tone curve has few terms for six greys in three channels, so it is fitted once.
    Raises Refusal where too few patches or greys are left.
    """
    greys = usable_greys(used, chart)
    rows = list(used)
    reference_xyz = chart.xyz
    reference = reference_xyz[rows]
    tones = {0: STRAIGHT, 2: fit_tone_curve(patch_linear[greys], reference_xyz[greys], 2)}
    errors = {
        model: _unseen_de00(model, tones[model.tone_terms], patch_linear, chart, used)
        for model in MODELS
        if tones[model.tone_terms].rises(patch_linear) and not (already_linear and model.tone_terms)
    }

    def merit(model: Model) -> float:
        handicap = WORTHWHILE_DE00 * (model.degree + model.tone_terms)
        return float(errors[model].mean()) + handicap

    ranked = sorted(errors, key=merit)
    best = ranked[0]
    other = next(m for m in ranked[1:] if m.tone_terms == best.tone_terms)
    tone = tones[best.tone_terms]
    rgb = tone.apply(patch_linear[rows])
    matrix, other_matrix = (fit_root_polynomial(rgb, reference, m.degree) for m in (best, other))
    patch_xyz = root_polynomial_terms(tone.apply(patch_linear), best.degree) @ matrix
    patch_lab = xyz_to_lab(np.maximum(patch_xyz, DARKEST))
    straight = np.maximum(tone.apply(patch_linear), DARKEST)
    response = np.cbrt(straight / straight[chart.greys[0]])
    support = cloth_as_seen(rgb, chart.spectra[rows]) if chart.spectra is not None else None
    if support and best.degree > 1:
        return _kept_to_cloth(best.tone_terms, tone, patch_linear, chart, used, response, support)
    _, inverse = _normal_equations(root_polynomial_terms(rgb, best.degree), reference)
    return Correction(best, tone, matrix, inverse, (other, other_matrix), patch_lab, errors[best], used, response)


def _kept_to_cloth(
    tone_terms: int,
    tone: ToneCurve,
    patch_linear: Floats,
    chart: Chart,
    used: tuple[int, ...],
    response: Floats,
    support: Support,
) -> Correction:
    """The mean of the polynomials of degree 2 and 3, each fitted on patches and cloths.

    With cloths beside them the richer one no longer goes astray between patches, and the mean errs
    less than either on cloth (as `bench/measure_photo.py` measures).
    """
    rows = list(used)
    rgb, reference = tone.apply(patch_linear[rows]), chart.xyz[rows]
    lower, higher = (fit_root_polynomial(rgb, reference, d, support=support) for d in (2, 3))
    matrix = higher / 2
    matrix[: len(lower)] += lower / 2
    unseen = [_unseen_xyz(Model(tone_terms, degree), tone, patch_linear, chart, used, support) for degree in (2, 3)]
    patch_xyz = root_polynomial_terms(tone.apply(patch_linear), 3) @ matrix
    terms = root_polynomial_terms(rgb, LEVERAGE_DEGREE)
    _, inverse = _normal_equations(*_with_cloth(terms, reference, LEVERAGE_DEGREE, support))
    return Correction(
        Model(tone_terms, 3, with_cloth=True),
        tone,
        matrix,
        inverse,
        (Model(tone_terms, 2), lower),
        xyz_to_lab(np.maximum(patch_xyz, DARKEST)),
        _apart_from(np.mean(unseen, axis=0), reference),
        used,
        response,
    )


def usable_greys(used: tuple[int, ...], chart: Chart) -> list[int]:
    """Indices of the greys among the used patches; raises Refusal where the chart is too poor."""
    greys = [i for i in used if i in chart.greys]
    if len(used) < FEWEST_PATCHES or len(greys) < FEWEST_GREYS:
        raise Refusal(
            "chart-clipped",
            "Too few chart patches are usable.",
            "Lower the exposure and keep reflections off the chart.",
        )
    return greys


def _unseen_de00(model: Model, tone: ToneCurve, linear: Floats, chart: Chart, used: tuple[int, ...]) -> Floats:
    """ΔE00 of each used patch as predicted by the model fitted without it; `linear` (n, 3)."""
    predicted = _unseen_xyz(model, tone, linear, chart, used)
    return _apart_from(predicted, chart.xyz[list(used)])


def _apart_from(predicted_xyz: Floats, xyz: Floats) -> Floats:
    return delta_e_2000(xyz_to_lab(np.maximum(predicted_xyz, DARKEST)), xyz_to_lab(xyz))


def _unseen_xyz(
    model: Model, tone: ToneCurve, linear: Floats, chart: Chart, used: tuple[int, ...], support: Support | None = None
) -> Floats:
    """XYZ of each used patch as predicted by the model fitted without it; `linear` (n, 3).

    For least squares this needs no second fit: leaving a row out multiplies its residual by
    1 / (1 − leverage) (Cook and Weisberg, Residuals and Influence in Regression, 1982). The tone
    curve is fitted on the greys, so for each of them it is fitted anew without that grey.
    """
    rows = list(used)
    reference_xyz = chart.xyz
    xyz = reference_xyz[rows]
    terms = root_polynomial_terms(tone.apply(linear[rows]), model.degree)
    weights = perceptual_weights(xyz)
    _, inverse = _normal_equations(*_with_cloth(terms, xyz, model.degree, support))
    leverage = weights * np.einsum("ni,cij,nj->cn", terms, inverse, terms)
    matrix = fit_root_polynomial(tone.apply(linear[rows]), xyz, model.degree, support=support)
    predicted = xyz - (xyz - terms @ matrix) / np.maximum(1 - leverage.T, 1e-6)
    greys = usable_greys(used, chart)
    if model.tone_terms and len(greys) > model.tone_terms + 1:
        for grey in greys:
            others = [i for i in rows if i != grey]
            own = [i for i in greys if i != grey]
            without = fit_tone_curve(linear[own], reference_xyz[own], model.tone_terms)
            fitted = fit_root_polynomial(
                without.apply(linear[others]), reference_xyz[others], model.degree, support=support
            )
            left_out = root_polynomial_terms(without.apply(linear[grey][None]), model.degree)
            predicted[rows.index(grey)] = (left_out @ fitted)[0]
    return np.asarray(predicted)
