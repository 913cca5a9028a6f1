"""How well the uncertainty of a difference holds, on pairs of readings whose truth is known.

`python bench/differences.py [SETS]`: each set is twelve pieces of cloth, some of them the same and
some neighbours at ΔE00 2, read twice with both simulated cameras in all four lights. One JSON
object a line: how often the same cloth is called different, how often a true 2 is missed, how often
twice the uncertainty holds the true error.
"""

import json
import sys
from collections.abc import Callable
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.pairs_of_cloth import Read, each_way, false_for_means, rates, simulate

FIRST_SET, SETS = 2000, 4
SORTS: dict[str, Callable[[Read, Read], bool]] = {
    "one photo": lambda a, b: a.seen.photo == b.seen.photo,
    "one camera and light": lambda a, b: (
        a.seen.photo != b.seen.photo and (a.seen.camera, a.light) == (b.seen.camera, b.light)
    ),
    "one camera, two lights": lambda a, b: a.seen.camera == b.seen.camera and a.light != b.light,
    "two cameras": lambda a, b: a.seen.camera != b.seen.camera,
}


def main() -> None:
    sets = int(sys.argv[1]) if len(sys.argv) > 1 else SETS
    reads = simulate(range(FIRST_SET, FIRST_SET + sets), each_way)
    for name, alike in SORTS.items():
        found = rates(reads, alike)
        said = {
            "bench": "differences",
            "pairs": name,
            "false_percent": 100 * found.false,
            "missed_2_percent": 100 * found.missed,
            "held_percent": 100 * found.held,
            "same_cloth": found.same,
            "neighbours": found.near,
        }
        print(json.dumps({k: round(v, 1) if isinstance(v, float) else v for k, v in said.items()}))
    share, pairs = false_for_means(reads, ("A", "B"))
    print(
        json.dumps(
            {
                "bench": "differences",
                "pairs": "means of repeats in two cameras",
                "false_percent": round(100 * share, 1),
                "same_cloth": pairs,
            }
        )
    )


if __name__ == "__main__":
    main()
