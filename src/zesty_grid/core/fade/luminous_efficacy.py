"""Light for sunshine: lumens for each watt of the sun's beam and of the sky.

Source: Perez, Ineichen, Seals, Michalsky, Stewart (1990), Solar Energy 44 (5) 271–289, table 4;
the coefficients are from memory, checked against the handbook range of illuminances.
"""

import numpy as np

from zesty_grid.core.read.colour_space import Floats

# Upper limits of sky clearness ε for the eight kinds of sky, from overcast to clear.
CLEARNESS = (1.065, 1.230, 1.500, 1.950, 2.800, 4.500, 6.200)
SKY = np.array(
    [
        (97.24, -0.46, 12.00, -8.91),
        (107.22, 1.15, 0.59, -3.95),
        (104.97, 2.96, -5.53, -8.77),
        (102.39, 5.59, -13.95, -13.90),
        (100.71, 5.94, -22.75, -23.74),
        (106.42, 3.83, -36.15, -28.83),
        (141.88, 1.90, -53.24, -14.03),
        (152.23, 0.35, -45.27, -7.98),
    ]
)
BEAM = np.array(
    [
        (57.20, -4.55, -2.98, 117.12),
        (98.99, -3.46, -1.21, 12.38),
        (109.83, -4.90, -1.71, -8.81),
        (110.34, -5.84, -1.99, -4.56),
        (106.36, -3.97, -1.75, -6.16),
        (107.19, -1.25, -1.51, -26.73),
        (105.75, 0.77, -1.26, -34.44),
        (101.18, 1.58, -1.10, -8.29),
    ]
)
LEAST_BRIGHTNESS = 0.01
# Outside of these the polynomials were never fitted: the lowest sun, the darkest cloud.
LEAST_LM_W, MOST_LM_W = 60.0, 170.0


def sky_clearness(dni_w_m2: Floats, dhi_w_m2: Floats, zenith_deg: Floats) -> Floats:
    """ε of Perez: 1 under cloud, over 6 under a clear sky."""
    z3 = 1.041 * np.radians(zenith_deg) ** 3
    ratio = (dhi_w_m2 + dni_w_m2) / np.maximum(dhi_w_m2, 1e-6)
    return np.asarray((ratio + z3) / (1 + z3))


def sky_brightness(dhi_w_m2: Floats, airmass: Floats, extra_w_m2: Floats) -> Floats:
    """Δ of Perez: the sky's light over that beyond the air."""
    return np.maximum(dhi_w_m2 * airmass / extra_w_m2, LEAST_BRIGHTNESS)


def efficacies_lm_w(
    clearness: Floats, brightness: Floats, zenith_deg: Floats, water_cm: float
) -> tuple[Floats, Floats]:
    """Luminous efficacy of the sun's beam and of the sky, lm/W each, all arrays (n,)."""
    kind = np.searchsorted(CLEARNESS, clearness, side="right")
    zenith = np.radians(zenith_deg)
    a, b, c, d = SKY[kind].T
    sky = a + b * water_cm + c * np.cos(zenith) + d * np.log(brightness)
    a, b, c, d = BEAM[kind].T
    beam = a + b * water_cm + c * np.exp(5.73 * zenith - 5) + d * brightness
    return np.clip(beam, 0, MOST_LM_W), np.clip(sky, LEAST_LM_W, MOST_LM_W)
