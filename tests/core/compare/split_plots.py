"""Simulated designs with vessels, in known units of colour, for tests of the mixed model."""

import numpy as np

from zesty_grid.core.compare.compared import ComparedSwatch, CompareQuestion
from zesty_grid.core.compare.directions import unit_2000

MIDDLE = np.array([55.0, 15.0, 35.0])
TO_LAB = np.linalg.inv(unit_2000(MIDDLE))
FIBRE_STEP = np.array([2.0, 0.0, 0.0])


def split_plot(rng, effect=(0, 0, 0), pots=3, fibres=4, pot=1.0, swatch=1.0, levels=2):
    """Iron acts between pots, fibre within them. `effect`: of the last level of iron, in ΔE00 of
    lightness, chroma and hue; `pot`, `swatch`: standard deviations along each of them."""
    found = []
    for level in range(levels):
        for number in range(pots):
            of_pot = rng.normal(0, pot, 3)
            for fibre in range(fibres):
                change = of_pot + rng.normal(0, swatch, 3) + fibre * FIBRE_STEP
                if level == levels - 1:
                    change = change + np.asarray(effect, float)
                found.append(
                    ComparedSwatch(
                        code=f"{level}-{number}-{fibre}",
                        levels={"iron": str(level), "fibre": str(fibre)},
                        vessels={"dye": f"D{level}{number}"},
                        lab=tuple(MIDDLE + TO_LAB @ change),
                        uncertainty_de00=0.3,
                    )
                )
    return CompareQuestion(swatches=tuple(found), factors=("iron", "fibre"))


def strip_plot(rng, mordant_pots=3, dye_pots=3, each=2, sd=(1.0, 0.8, 0.5)):
    """Two mordants and two dyes, each in pots of its own, and every mordant pot's pieces in every
    dye pot."""
    mordant = {(a, p): rng.normal(0, sd[0], 3) for a in "AB" for p in range(mordant_pots)}
    dye = {(a, p): rng.normal(0, sd[1], 3) for a in "XY" for p in range(dye_pots)}
    found = []
    for (a, p), of_mordant in mordant.items():
        for (b, q), of_dye in dye.items():
            for k in range(each):
                change = of_mordant + of_dye + rng.normal(0, sd[2], 3)
                change[0] += 2 * (a == "B") + 3 * (b == "Y")
                found.append(
                    ComparedSwatch(
                        code=f"{a}{p}{b}{q}{k}",
                        levels={"mordant": a, "dye": b},
                        vessels={"mordant": f"M{a}{p}", "dye": f"D{b}{q}"},
                        lab=tuple(MIDDLE + TO_LAB @ change),
                    )
                )
    return CompareQuestion(swatches=tuple(found), factors=("mordant", "dye"))
