"""A box of pH strips taught on the Shelf by three taps, and a strip read at the bench."""

from pathlib import Path

import pytest
from playwright.sync_api import Locator, Page, expect
from tests import patient_http as http
from tests.small_study import small_plan
from tests.strip_photos import scale_photo, strip_photo
from tests.ui.at_the_bench import bench_of, entries_of, open_bench

from zesty_grid.standins.ph_strips import FOUR_PADS

PHS = tuple(float(ph) for ph in range(1, 14))


def tap(dialog: Locator, photo: str, at: list[float]) -> None:
    shown = dialog.get_by_role("img", name=photo)
    for x, y in zip(at[::2], at[1::2], strict=True):
        shown.scroll_into_view_if_needed()
        box = shown.bounding_box()
        assert box
        shown.click(position={"x": box["width"] * x, "y": box["height"] * y}, force=True)


@pytest.fixture
def study(address: str) -> str:
    made = http.post(f"{address}/api/studies", json=small_plan())
    return f"{address}/api/studies/{made.json()['id']}"


def test_a_box_is_taught_and_a_strip_read_at_the_bench(page: Page, study: str, tmp_path: Path):
    scale, at = scale_photo(FOUR_PADS, PHS, seed=3)
    (tmp_path / "scale.jpg").write_bytes(scale)
    (tmp_path / "strip.jpg").write_bytes(strip_photo(FOUR_PADS, 6.4, seed=5))
    name = next(iter(bench_of(study)))
    bench = open_bench(page, name)
    bench.get_by_role("button", name="Reading").click()
    bench.get_by_role("button", name="pH by a strip").first.click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Teach a box").click()
    dialog.get_by_label("Name", exact=False).first.fill("Four pads")
    dialog.get_by_label("pH values that the box prints").fill(" ".join(f"{ph:g}" for ph in PHS))
    dialog.get_by_label("Pads on a strip").fill("4")
    dialog.get_by_label("Photo of the printed colours").set_input_files(tmp_path / "scale.jpg")
    expect(dialog.get_by_text("Tap the middle of the colour of the first pad at pH 1.")).to_be_visible()
    tap(dialog, "Photo of the printed colours", at)
    expect(dialog.get_by_role("img", name="Printed colours from pH 1 to 13")).to_be_visible(timeout=60_000)
    dialog.get_by_role("button", name="Put the box of pH strips on the Shelf").click()

    dialog.get_by_label("Photo of the strip").set_input_files(tmp_path / "strip.jpg")
    expect(dialog.get_by_text("nine times of ten from")).to_be_visible(timeout=60_000)
    dialog.get_by_label("Taken late").check()
    expect(dialog.get_by_text("an alkaline bath may read too low")).to_be_visible()
    dialog.get_by_label("Taken late").uncheck()
    expect(dialog.get_by_text("an alkaline bath may read too low")).to_be_hidden()
    dialog.get_by_label("pH as the eye reads it").fill("6")
    expect(dialog.get_by_role("button", name="Record")).to_be_enabled(timeout=60_000)
    dialog.get_by_role("button", name="Record").click()
    expect(dialog).to_be_hidden()
    page.goto("/#/study/1/dye/log")
    expect(page.locator("tbody tr").first).to_contain_text("by strip")
    (entry,) = [one for one in entries_of(study) if one["strip"]]
    strip = entry["strip"]
    assert strip["low"] <= 6.4 <= strip["high"]
    assert (strip["by_eye"], strip["box"], entry["vessel"]) == (6, "four-pads", name)
    assert entry["photo"]
