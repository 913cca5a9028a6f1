"""Photos made up at random: how far the colours lie from the truth, and which flag fires for what.

One JSON object a line. `python bench/made_up_scenes.py FIRST COUNT`
"""

import json
import sys
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from itertools import count, islice
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.made_up_scenes import made_up, read

from zesty_grid.core.refusal import Refusal

FEWEST_SILENT_DE00 = 2.0


def one(number: int) -> dict[str, object]:
    try:
        found = read(number)
    except Exception as error:
        return {"number": number, "error": repr(error)[:200]}
    if isinstance(found, Refusal):
        return {"number": number, "refused": found.code}
    cells = [
        {
            "cell": one.cell.cell,
            "de00": one.error_de00,
            "u": one.cell.uncertainty_de00,
            "flags": list(one.cell.flags),
            "causes": sorted(one.causes),
            "warned": one.warned,
        }
        for one in found
    ]
    return {"number": number, "light": made_up(number).shot.light, "cells": cells}


def main(first: int, scenes: int) -> None:
    fired: dict[str, Counter[str]] = {}
    errors: dict[str, list[float]] = {}
    silent, cells, refused, failed = [], 0, Counter(), []
    with ProcessPoolExecutor(2) as pool:
        for found in pool.map(one, islice(count(first), scenes), chunksize=4):
            if "error" in found:
                failed.append(found)
            elif "refused" in found:
                refused[str(found["refused"])] += 1
            for cell in found.get("cells", []):  # type: ignore[attr-defined]
                cells += 1
                for flag in cell["flags"]:
                    fired.setdefault(flag, Counter()).update(cell["causes"] or ["nothing"])
                if cell["de00"] is None:
                    continue
                if set(cell["causes"]) <= {"page not flat"}:
                    errors.setdefault(str(found["light"]), []).append(cell["de00"])
                far = cell["de00"] > max(FEWEST_SILENT_DE00, 3 * (cell["u"] or 0))
                if far and not cell["flags"] and not cell["warned"]:
                    silent.append({"number": found["number"], **cell})
    for light, own in sorted(errors.items()):
        mean, p95 = float(np.mean(own)), float(np.percentile(own, 95))
        print(json.dumps({"light": light, "swatches": len(own), "mean_de00": round(mean, 2), "p95": round(p95, 2)}))
    for flag, causes in sorted(fired.items()):
        print(json.dumps({"flag": flag, "fired_for": dict(causes.most_common(5))}))
    print(json.dumps({"cells": cells, "silent": len(silent), "refused": dict(refused), "uncaught": len(failed)}))
    for line in (*failed[:10], *silent[:30]):
        print(json.dumps(line))


if __name__ == "__main__":
    main(int(sys.argv[1]), int(sys.argv[2]))
