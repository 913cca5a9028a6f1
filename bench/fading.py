"""How long fading takes to work out. One JSON object a line: milliseconds of processor time."""

import json
import time
from collections.abc import Callable
from datetime import date

import numpy as np

from zesty_grid.core.fade.fading_curve import doses_to, draw_paths, foretell
from zesty_grid.core.fade.fading_fit import ChangeSeen, fit_fading
from zesty_grid.core.fade.window import WindowStay
from zesty_grid.core.fade.window_light import dose_in_window

TIMES = 10


def main() -> None:
    points = [
        ChangeSeen(
            dose=1e5 * 2**n, dark_lab=(45, 40, 20), uncertainty_de00=0.5, exposed_lab=(45 + 3 * n, 40 - 3 * n, 20 - n)
        )
        for n in range(6)
    ]
    fit = fit_fading(points)
    paths = draw_paths(fit)
    year = WindowStay(latitude=50, longitude=8, start=date(2026, 1, 1), end=date(2026, 12, 31))
    for name, work in (
        ("fit of six stages", lambda: fit_fading(points)),
        ("paths of a fit", lambda: draw_paths(fit)),
        ("curve of 25 doses", lambda: foretell(paths, list(np.linspace(0, 6e6, 25)))),
        ("doses to five thresholds", lambda: doses_to(paths)),
        ("a year in a window", lambda: dose_in_window(year)),
    ):
        print(json.dumps({"what": name, "cpu_ms": round(_cpu_ms(work), 1)}), flush=True)


def _cpu_ms(work: Callable[[], object]) -> float:
    work()
    start = time.process_time()
    for _ in range(TIMES):
        work()
    return (time.process_time() - start) / TIMES * 1000


if __name__ == "__main__":
    main()
