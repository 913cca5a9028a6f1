"""Plans that could be made before the bench knew more ways of working, and what they come to.

`python -m tests.core.plan.earlier_plans` writes the digests anew: to be done only where a change
of an answer is meant, and said in the commit.
"""

import hashlib
import json
from pathlib import Path
from random import Random
from typing import Any

from tests.small_study import levels, small_plan

from zesty_grid.core.dye.bench import bench_of
from zesty_grid.core.dye.protocol import Protocol
from zesty_grid.core.plan.factors import FACTOR_ORDER
from zesty_grid.core.plan.planned_study import on_paper
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.demo.marsh_study import DYE_LOTS, marsh_plan

DIGESTS = Path(__file__).with_name("earlier_plans.json")
VALUES = {
    "ph": [4, 7, 9, 10.5],
    "strength": [50, 100, 200],
    "temperature": [20, 60, 90],
    "duration": [15, 60, 2880],
    "after_ph": [4, 9],
}
IRON = [
    {"key": "iron-0", "label": "No iron", "value": 0},
    {"key": "iron-after", "label": "After", "value": 1, "route": "after-bath", "seconds": 60},
    {"key": "iron-pot", "label": "In the pot", "value": 2, "route": "pot"},
    {"key": "iron-first", "label": "First", "value": 3, "route": "mordant"},
]
NAMED = {"process": ["hot-bath", "room", "sun-jar", "bundle-print"], "extraction": ["hot", "room", "repeated"]}
# Soya milk came in one coat; files of then still have it so.
ONE_COAT = {"coats": 1, "dry_min": 0, "rest_min": 0}
SHELF = STARTING_SHELF.model_copy(
    update={
        "mordant_routes": tuple(
            route.model_copy(update={"baths": tuple(bath.model_copy(update=ONE_COAT) for bath in route.baths)})
            for route in STARTING_SHELF.mordant_routes
        )
    }
)
# Powders and liquids of dye are measured in now, and no longer simmered in a bag.
LOTS = [lot.key for lot in STARTING_SHELF.dye_lots if lot.state != "extract"]


def earlier_plans() -> dict[str, tuple[StudyPlan, Shelf]]:
    marsh = STARTING_SHELF.model_copy(update={"dye_lots": (*STARTING_SHELF.dye_lots, *DYE_LOTS)})
    found = {"marsh": (marsh_plan(), marsh), "small": (StudyPlan.model_validate(small_plan()), SHELF)}
    for seed in range(40):
        found[f"random-{seed}"] = (_random_plan(Random(seed)), SHELF)
    return found


def _random_plan(random: Random) -> StudyPlan:
    def some(items: list[Any], most: int = 3) -> list[Any]:
        return random.sample(items, random.randint(1, min(most, len(items))))

    factors: list[dict[str, Any]] = [
        {"kind": "fibre", "levels": levels(*some([one.key for one in STARTING_SHELF.fibres]))},
        {"kind": "dye", "levels": levels(*some(LOTS))},
    ]
    kinds = ["mordant", "iron", "second_dye", *VALUES, *NAMED]
    for kind in random.sample(kinds, random.randint(0, 3)):
        if kind in VALUES:
            made = [{"key": f"v-{v:g}", "label": f"{v:g}", "value": v} for v in some(VALUES[kind])]
        elif kind == "iron":
            made = some(IRON)
        else:
            routes = [one.key for one in STARTING_SHELF.mordant_routes]
            made = levels(*some(NAMED.get(kind) or (routes if kind == "mordant" else LOTS)))
        factors.append({"kind": kind, "levels": made})
    order = sorted((one["kind"] for one in factors), key=FACTOR_ORDER.index)
    cut = random.randint(0, len(order))
    return StudyPlan.model_validate(
        {
            "name": "Random",
            "factors": factors,
            "rows": order[:cut],
            "columns": order[cut:],
            "controls": some(["undyed", "unmordanted", "mordanted-undyed", "bridge"], 4),
            "swatch_mass_g": round(random.uniform(0.5, 40), 2),
            "liquor_ratio_ml_per_g": random.randint(20, 40),
            "replicates": random.randint(1, 3),
            "replicate_vessels": random.choice(["shared", "apart"]),
            "mordants_in_dye_bath": random.choice(["together", "apart"]),
            "order_seed": random.randint(0, 99),
        }
    )


def digests_of(plan: StudyPlan, shelf: Shelf) -> dict[str, str]:
    """For each vessel a digest of who goes in, what goes in, and how long each step takes.

    But for two things that were mended: a liquor of unknown strength is tried on a strip, and a
    print is laid and rolled before it is steamed.
    """
    found = {}
    for one in bench_of(on_paper(plan, shelf), Protocol()):
        vessel = one.vessel
        said = [
            vessel.key,
            vessel.bath,
            vessel.on_shelf,
            round(vessel.volume_ml, 6),
            vessel.swatches,
            vessel.cells,
            sorted(one.after),
            one.draws_from,
            sorted(one.settles.items()),
            [[f.role, f.name, _rounded(f.grams), _rounded(f.volume_ml), f.stock_percent] for f in one.amounts.figures],
            [
                [
                    s.key,
                    s.temperature_c,
                    s.duration_min,
                    s.shortest_min,
                    s.longest_min,
                    s.warm_min,
                    s.heat,
                    s.place,
                    s.asks,
                ]
                for s in one.steps
                if s.key != "try" and vessel.process != "bundle-print"
            ],
        ]
        text = json.dumps(said, sort_keys=True)
        found[one.name] = hashlib.sha256(text.encode()).hexdigest()[:10]
    return found


def _rounded(value: float | None) -> float | None:
    return None if value is None else round(value, 6)


if __name__ == "__main__":
    lines = (f"{json.dumps(name)}: {json.dumps(digests_of(*one))}" for name, one in earlier_plans().items())
    DIGESTS.write_text("{\n" + ",\n".join(lines) + "\n}\n")
