"""Two small studies with read swatches, of colours that follow a simple truth, for tests."""

import numpy as np
from tests.seeded_readings import add_readings, new_study
from tests.small_study import levels, small_plan, valued

from zesty_grid.core.compare.broad_channels import colour_of
from zesty_grid.core.compare.directions import unit_2000
from zesty_grid.store.database import Database

BASE = {"wool": (0.10, 0.13, 0.30), "cotton": (0.03, 0.035, 0.05)}
YELLOW = np.array([0.25, 0.6, 7.0])
IRON = np.array([1.2, 1.0, 0.8])
NOISE_DE00 = 0.3


def three_strengths(**changes):
    """Two fibres, three strengths, without and with iron; two runs of each, apart."""
    plan = small_plan(
        name="Strengths",
        factors=[
            {"kind": "fibre", "levels": levels("wool", "cotton")},
            {"kind": "mordant", "levels": levels("alum-hot")},
            {"kind": "dye", "levels": levels("dried-flowers")},
            {"kind": "strength", "levels": valued("strength", 25, 50, 100)},
            {"kind": "iron", "levels": valued("iron", 0, 1)},
        ],
        rows=["fibre", "mordant"],
        columns=["dye", "strength", "iron"],
        controls=["undyed"],
        replicates=2,
        replicate_vessels="apart",
    )
    return plan | changes


def true_lab(fibre: str, strength: float, iron: float) -> np.ndarray:
    """Kubelka and Munk: K/S of base, dye and iron add up; the dye has a ceiling."""
    dyed = YELLOW * strength / (strength + 80) * (0.6 if fibre == "cotton" else 1.0)
    return colour_of(np.log(np.array(BASE[fibre]) + dyed + IRON * iron / (iron + 0.7)))


def seeded_study(database: Database, seed: int = 1, shift=(0.0, 0.0, 0.0), **changes):
    """The study with every swatch read; its id and codes by cell."""
    rng = np.random.default_rng(seed)
    study, codes = new_study(database, three_strengths(**changes))
    laid = []
    for cell, code in codes.items():
        parts = dict(part.split("=") for part in cell.split("#")[0].split(";"))
        if "control" in parts:
            lab = colour_of(np.log(np.array(BASE[parts["fibre"]])))
        else:
            lab = true_lab(parts["fibre"], float(parts["strength"].split("-")[-1]), float(parts["iron"].split("-")[-1]))
        lab = lab + np.linalg.inv(unit_2000(lab)) @ (rng.normal(0, NOISE_DE00, 3) + shift)
        laid.append((code, "whole", tuple(float(value) for value in lab)))
    for start in range(0, len(laid), 12):
        add_readings(database, study, laid[start : start + 12])
    return study, codes
