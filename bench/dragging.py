"""A block of a grid of 2,000 swatches is dragged up to all of them: how long its frames are.

One frame of a screen is 16.7 ms; one that is longer was late. There is no graphics card here.
"""

import json
import statistics
import sys
from pathlib import Path
from tempfile import TemporaryDirectory

from playwright.sync_api import Page

sys.path.insert(0, str(Path(__file__).parent.parent))

from large_study import planned_study
from served import browser_on

STEPS, TARGET_MS, LATE_MS = 40, 16.7, 20
TIMED = """() => {
  window.frames_ms = []; let last = performance.now();
  const tick = (now) => {
    window.frames_ms.push(now - last); last = now; requestAnimationFrame(tick);
  };
  requestAnimationFrame(tick);
}"""


def drag(page: Page) -> dict[str, float]:
    cells = page.get_by_role("grid", name="Swatches").get_by_role("gridcell")
    boxes = cells.evaluate_all(
        "all => all.map((one) => one.getBoundingClientRect()).map((b) => [b.x + b.width / 2, b.y + b.height / 2])"
    )
    seen = [(x, y) for x, y in boxes if x < 1550 and y < 1040]
    (x0, y0), (x1, y1) = min(seen), max(seen)
    page.evaluate(TIMED)
    page.mouse.move(x0, y0)
    page.mouse.down()
    for step in (*range(1, STEPS + 1), *range(STEPS, 0, -1)):
        share = step / STEPS
        page.mouse.move(x0 + (x1 - x0) * share, y0 + (y1 - y0) * share)
        page.wait_for_timeout(40)
    page.mouse.up()
    frames_ms = page.evaluate("window.frames_ms")
    return {
        "cells": len(boxes),
        "frame_ms": round(statistics.median(frames_ms), 1),
        "p95_ms": round(statistics.quantiles(frames_ms, n=20)[-1], 1),
        "longest_ms": round(max(frames_ms), 1),
        "late_of_100": round(100 * sum(one > LATE_MS for one in frames_ms) / len(frames_ms), 1),
    }


def main() -> None:
    with TemporaryDirectory() as folder:
        database = planned_study(Path(folder) / "bench.db")
        with browser_on(database) as (browser, address):
            for lens in ("plan", "read"):
                page = browser.new_page(viewport={"width": 1920, "height": 1080})
                page.goto(f"{address}/#/study/1/{lens}")
                page.get_by_role("grid", name="Swatches").get_by_role("gridcell").first.wait_for()
                page.get_by_role("button", name="All", exact=True).click()
                page.wait_for_timeout(1500)
                said = {"bench": "dragging", "lens": lens, "target_ms": TARGET_MS}
                print(json.dumps(said | drag(page)), flush=True)
                page.close()


if __name__ == "__main__":
    main()
