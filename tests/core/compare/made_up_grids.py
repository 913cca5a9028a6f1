"""Made-up grids whose truth is known, as people dye them."""

from dataclasses import dataclass

import numpy as np

from zesty_grid.core.compare.compared import ComparedSwatch, CompareQuestion
from zesty_grid.core.compare.directions import unit_2000
from zesty_grid.core.read.colour_difference import delta_e_2000, directions_2000

MIDDLE = np.array([55.0, 15.0, 35.0])
TO_LAB = np.linalg.inv(unit_2000(MIDDLE))


def lab(change):
    """About the middle, by a change in ΔE00 of lightness, chroma and hue."""
    return tuple(float(v) for v in MIDDLE + TO_LAB @ np.asarray(change, float))


def beside(change, noise):
    """A colour that lies `noise` beside another, in ΔE00 at its own place."""
    true = np.array(lab(change))
    return tuple(float(v) for v in true + np.linalg.inv(unit_2000(true)) @ noise)


@dataclass(frozen=True)
class Design:
    """`levels` of a dye in `pots` each; in every pot `fibres`, with `pieces` of each. `nested`: each pot has a fibre of
    its own. `printed`: the dyes lie on one cloth as zones, on as many cloths as there are pots."""

    levels: int = 2
    pots: int = 1
    pieces: int = 1
    fibres: int = 1
    nested: bool = False
    printed: bool = False


def made(rng, design, effect=0.0, depends=0.0, noise=1.0, read=0.3):
    """One study, and the true size of its effect: of the second dye against the first. Noise in multiples of usual:
    0.8 from piece to piece, 1.5 from pot to pot. `depends`: how much dyes do differently on each fibre."""
    way = rng.normal(size=3)
    way *= effect / np.linalg.norm(way)
    base = rng.normal(size=(design.fibres, 3)) * 2
    joint = rng.normal(size=(design.levels, design.fibres, 3)) * depends
    # What is done differently is nothing in the mean, also where ΔE00 is curved: the effect is what it is said to be.
    joint -= joint.mean(axis=1, keepdims=True)
    for _ in range(5):
        truth = np.array([[lab(base[f] + joint[d, f] + way * (d == 1)) for f in range(design.fibres)] for d in (0, 1)])
        joint[1] += 0.7 * (way - np.mean(directions_2000(truth[0], truth[1]), axis=0))
    truth = np.array([[lab(base[f] + joint[d, f] + way * (d == 1)) for f in range(design.fibres)] for d in (0, 1)])
    swatches = []
    cloths = rng.normal(0, 0.8 * noise, (design.pots, 3))
    for d in range(design.levels):
        for p in range(design.pots):
            of_pot = cloths[p] if design.printed else rng.normal(0, 1.5 * noise, 3)
            fibres = [p % design.fibres] if design.nested else range(design.fibres)
            for f in fibres:
                for k in range(design.pieces):
                    own = rng.normal(0, 0.8 * noise, 3) + rng.normal(0, read, 3)
                    vessels = {"cloth": f"K{p}"} if design.printed else {"dye": f"D{d}-{p}"}
                    swatches.append(
                        ComparedSwatch(
                            code=f"{d}-{p}-{f}-{k}",
                            levels={"dye": f"d{d}", "fibre": f"f{f}"},
                            vessels=vessels,
                            lab=beside(base[f] + joint[d, f] + way * (d == 1), of_pot + own),
                            uncertainty_de00=read,
                        )
                    )
    size = float(np.linalg.norm(np.mean(directions_2000(truth[0], truth[1]), axis=0)))
    return CompareQuestion(swatches=tuple(swatches), factors=("dye", "fibre")), size


def grid(colours, pots=None, **how):
    """Swatches by their levels: {(level, …): L*a*b*}, one of each; `pots` names the pot by the levels."""
    factors = how.pop("factors")
    swatches = [
        ComparedSwatch(
            code="-".join(levels),
            levels=dict(zip(factors, levels, strict=True)),
            vessels={"dye": pots(levels)} if pots else {},
            lab=colour,
        )
        for levels, colour in colours.items()
    ]
    return CompareQuestion(swatches=tuple(swatches), factors=factors, **how)


def apart(first, second):
    return float(delta_e_2000(np.array(first, float), np.array(second, float)))
