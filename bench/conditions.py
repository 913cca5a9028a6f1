"""What becomes of photos with something wrong: one JSON object a line for each condition.

`python bench/conditions.py [PHOTOS [NAME]]`: how many photos of each, and only those conditions
whose name holds NAME. `silent_percent` counts cells whose number is further from the truth than 2
and than three times the stated uncertainty, with nothing said on the cell or the photo.
"""

import json
import sys
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.photo_conditions import CONDITIONS, CellOutcome, look

FIRST_SEED = 300


def _summary(name: str, cells: list[CellOutcome]) -> dict[str, object]:
    faulty = [one for one in cells if one.faulty]
    errors = np.array([one.error_de00 for one in faulty if one.error_de00 is not None])
    held = [
        one.error_de00 <= 2 * one.uncertainty_de00
        for one in faulty
        if one.error_de00 is not None and one.uncertainty_de00 is not None
    ]
    plain = [one for one in cells if not one.faulty]
    flags: dict[str, int] = {}
    for one in faulty:
        for flag in (*(one.cell.flags if one.cell else ()), *one.warnings):
            flags[flag[:40]] = flags.get(flag[:40], 0) + 1
    return {
        "bench": "condition",
        "condition": name,
        "cells": len(faulty),
        "read_percent": round(100 * len(errors) / len(faulty)),
        "mean_de00": round(float(errors.mean()), 2) if len(errors) else None,
        "p95_de00": round(float(np.percentile(errors, 95)), 2) if len(errors) else None,
        "within_twice_percent": round(100 * float(np.mean(held))) if held else None,
        "warned_percent": round(100 * float(np.mean([one.warned for one in faulty]))),
        "silent_percent": round(100 * float(np.mean([one.silent for one in faulty])), 1),
        "warned_elsewhere_percent": round(100 * float(np.mean([one.warned for one in plain]))) if plain else None,
        "said": flags,
    }


def main() -> None:
    photos = int(sys.argv[1]) if len(sys.argv) > 1 else 4
    wanted = sys.argv[2] if len(sys.argv) > 2 else ""
    names = [name for name in CONDITIONS if wanted in name]
    with ProcessPoolExecutor(2) as pool:
        jobs = {name: [pool.submit(look, name, FIRST_SEED + n) for n in range(photos)] for name in names}
        for name, own in jobs.items():
            cells = [one for job in own for one in job.result()]
            print(json.dumps(_summary(name, cells)), flush=True)


if __name__ == "__main__":
    main()
