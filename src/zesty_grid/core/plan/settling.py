"""Which levels a piece has by having been in a bath."""

from collections.abc import Mapping

from zesty_grid.core.plan.bath import BathKind
from zesty_grid.core.plan.factors import FactorKind

Levels = Mapping[FactorKind, str]
# Which factors a bath of a kind settles for the pieces in it.
SETTLES: dict[BathKind, frozenset[FactorKind]] = {
    "tannin": frozenset({"mordant"}),
    "mordant": frozenset({"mordant", "mordant_temperature", "mordant_duration"}),
    "binder": frozenset({"mordant"}),
    "iron mordant": frozenset({"iron", "iron_temperature", "iron_duration"}),
    "dye": frozenset(
        {
            "dye",
            "strength",
            "recipe",
            "extraction",
            "process",
            "temperature",
            "duration",
            "ph",
            "addition",
            "reheats",
            "rest",
            "dip",
        }
    ),
    "overdye": frozenset({"second_dye", "second_temperature", "second_duration"}),
    "adjust": frozenset({"after_ph", "after_temperature", "after_duration"}),
    "iron": frozenset({"iron", "iron_temperature", "iron_duration", "second_iron"}),
    "scour": frozenset(),
    "extract": frozenset(),
    "wash": frozenset(),
}
