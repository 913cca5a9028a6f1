"""Opening a study of 2,000 swatches: when its first cell stands, and what script came by then."""

import gzip
import json
import statistics
import sys
from pathlib import Path
from tempfile import TemporaryDirectory

sys.path.insert(0, str(Path(__file__).parent.parent))

from large_study import planned_study
from served import browser_on

ROUNDS, TARGET_MS = 7, 1500
WATCH = """new MutationObserver((_, watch) => {
  if (!document.querySelector("[role=gridcell]")) return;
  window.first = performance.now(); watch.disconnect();
}).observe(document, { childList: true, subtree: true })"""
SCRIPTS = """performance.getEntriesByType("resource")
  .filter((one) => one.name.endsWith(".js") && one.responseEnd < window.first)
  .map((one) => one.name)"""


def main() -> None:
    with TemporaryDirectory() as folder:
        database = planned_study(Path(folder) / "bench.db")
        first_ms, scripts = [], []
        with browser_on(database) as (browser, address):
            for _ in range(ROUNDS):
                page = browser.new_page(service_workers="block")
                page.add_init_script(WATCH)
                page.goto(f"{address}/#/study/1/plan")
                page.get_by_role("gridcell").first.wait_for()
                first_ms.append(page.evaluate("window.first"))
                scripts = page.evaluate(SCRIPTS)
                page.close()
        web = Path(__file__).parent.parent / "src/zesty_grid/web/assets"
        packed = sum(len(gzip.compress((web / Path(name).name).read_bytes())) for name in scripts)
        said = {
            "bench": "first look",
            "target_ms": TARGET_MS,
            "first_cell_ms": round(statistics.median(first_ms)),
            "slowest_ms": round(max(first_ms)),
            "script_kb_gzipped": round(packed / 1000),
        }
        print(json.dumps(said), flush=True)


if __name__ == "__main__":
    main()
