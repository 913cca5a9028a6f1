"""Speed and accuracy of reading a photo: one JSON object a line.

Accuracy is on spectra of dyed cloth that no fit has seen, over two cameras and four lights.
Speed is processor time from bytes to twelve measured swatches, beside the bare decode of the same JPEG.
"""

import io
import json
import statistics
import sys
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import numpy as np
from PIL import Image

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.cloth_spectra import cloths_on, true_lab

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.measure import measure_sheet
from zesty_grid.core.read.sheet_layout import lay_out_sheet
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.camera import CAMERAS, LIGHTS, Shot, photograph
from zesty_grid.standins.scene import Scene

SHEET = lay_out_sheet("BENCH")
PHOTOS_EACH = 4


def median_s(run: Callable[[], object], times: int = 7) -> float:
    """Of the processor's time, all threads together."""
    run()
    found = []
    for _ in range(times):
        start = time.process_time()
        run()
        found.append(time.process_time() - start)
    return statistics.median(found)


def say(**facts: object) -> None:
    print(json.dumps(facts), flush=True)


def accuracy() -> None:
    everything: list[tuple[float, float]] = []
    missed = 0
    for camera in CAMERAS:
        for light in LIGHTS:
            found = []
            for n in range(PHOTOS_EACH):
                seed = 1000 + 17 * n
                rng = np.random.default_rng(seed)
                shift = (float(rng.uniform(-3, 3)), float(rng.uniform(-3, 3)))
                scene = Scene(SHEET, cloths_on(SHEET, seed), shift, float(rng.uniform(-3, 3)))
                shot = Shot(camera, light, 3000, 2250, seed=seed)
                cells = measure_sheet(open_photo(photograph(scene, shot)), SHEET).cells
                for cloth, cell in zip(scene.cloths, cells, strict=True):
                    if cell.lab is None or cell.uncertainty_de00 is None:
                        missed += 1
                        continue
                    error = float(delta_e_2000(true_lab(cloth), np.array(cell.lab)))
                    found.append((error, cell.uncertainty_de00))
            say(bench="accuracy", camera=camera, light=light, **summary(found))
            everything += found
    say(bench="accuracy over all", swatches_not_found=missed, **summary(everything))


def summary(found: list[tuple[float, float]]) -> dict[str, float]:
    errors, uncertainties = np.array(found).T
    return {
        "mean_de00": round(float(errors.mean()), 2),
        "p95_de00": round(float(np.percentile(errors, 95)), 2),
        "within_twice_uncertainty": round(float((errors <= 2 * uncertainties).mean()), 3),
        "mean_uncertainty_de00": round(float(uncertainties.mean()), 2),
    }


def speed() -> None:
    scene = Scene(SHEET, cloths_on(SHEET, 1))
    data = photograph(scene, replace(Shot(), width_px=4000, height_px=3000))
    decode = median_s(lambda: Image.open(io.BytesIO(data)).load())
    whole = median_s(lambda: measure_sheet(open_photo(data), SHEET))
    say(
        bench="12-megapixel photo to 12 swatches",
        seconds=round(whole, 3),
        bare_decode_seconds=round(decode, 3),
        times_the_decode=round(whole / decode, 1),
        target_times_the_decode=5,
    )


if __name__ == "__main__":
    accuracy()
    speed()
