"""The substances whose effect on pH is computed, by their names in the commands and formats."""

from typing import Literal

PhSubstance = Literal[
    "alum_potassium",
    "alum_sulphate",
    "alum_acetate",
    "cream_of_tartar",
    "citric_acid",
    "vinegar_5pct",
    "soda_ash",
    "washing_soda_decahydrate",
    "baking_soda",
    "ammonia_5pct",
    "iron_sulphate",
    "chalk",
]
