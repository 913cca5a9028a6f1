"""The page itself loads at most 150 kB of script, packed; the grid and its panels come as parts."""

import gzip
import re
from pathlib import Path

import zesty_grid

WEB = Path(zesty_grid.__file__).parent / "web"
MOST_BYTES = 150_000


def packed(name: str) -> int:
    return len(gzip.compress((WEB / name).read_bytes()))


def test_the_page_is_light():
    scripts = set(re.findall(r'"/(assets/[^"]+\.js)"', (WEB / "index.html").read_text()))
    assert len(scripts) >= 3
    assert sum(map(packed, scripts)) <= MOST_BYTES


def test_charts_and_the_tables_of_the_bench_are_parts():
    page = (WEB / "index.html").read_text()
    for part in ("study-screen", "plan-panel", "dye-panel", "read-panel", "fade-area", "controls"):
        assert list((WEB / "assets").glob(f"{part}-*.js")), part
        assert part not in page
