"""Levels and treatments that come and go while the random sequences dye."""

from typing import Any

from tests.small_study import levels, small_plan, valued

FIRST = small_plan(
    factors=[
        {"kind": "fibre", "levels": levels("wool", "silk")},
        {"kind": "mordant", "levels": levels("alum-hot")},
        {"kind": "dye", "levels": levels("dried-flowers", "dried-bark")},
    ],
    columns=["dye"],
)
LEVELS: dict[str, list[dict[str, Any]]] = {
    "fibre": levels("wool", "silk", "cotton"),
    "mordant": levels("none", "alum-hot", "tannin-alum"),
    "dye": levels("dried-flowers", "dried-bark", "dye-extract"),
    "ph": valued("ph", 4, 9),
    "iron": valued("iron", 0, 1),
    "second_dye": [{"key": "none", "label": "No second dye"}, *levels("dye-extract")],
}
TREATMENTS: list[dict[str, Any]] = [
    {"kind": "iron", "name": "Iron 2 %", "iron_percent_wof": 2, "route": "after-bath", "seconds": 30},
    {"kind": "adjust", "name": "Ammonia", "ph": 9, "adjust_with": "ammonia"},
    {"kind": "dye", "name": "Blue over it", "dye": "dye-extract"},
    {"kind": "wash", "name": "Wash", "temperature_c": 40},
]
