"""Takes the pictures in docs/screenshots from the demo data."""

import json
import shutil
import subprocess
import sys
import time
import urllib.request
from pathlib import Path
from tempfile import TemporaryDirectory

from playwright.sync_api import Page, expect, sync_playwright

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.demo_file import demo_file
from tests.ui.conftest import FLAGS

PORT = 8790
ADDRESS = f"http://127.0.0.1:{PORT}"
TARGET = Path(__file__).parent / "screenshots"


def wait_for_server() -> None:
    for _ in range(120):
        try:
            urllib.request.urlopen(f"{ADDRESS}/api/studies").close()
            return
        except OSError:
            time.sleep(1)
    raise SystemExit("The demo did not start.")


def shoot(page: Page, name: str, path: str) -> None:
    page.goto(f"{ADDRESS}/#/{path}")
    page.reload()
    page.wait_for_timeout(1200)
    panel = page.get_by_role("complementary")
    if name == "weigh":
        page.get_by_role("gridcell").nth(20).click()
        panel.get_by_role("button", name="+ potassium alum").first.click()
    if name == "plan-tell":
        panel.get_by_role("tab", name="Tell").click()
    if name == "photo":
        page.get_by_role("button", name="Look", exact=True).first.click()
        page.wait_for_timeout(2500)
    if name == "dye":
        for _ in range(2):
            panel.get_by_role("button", name="Done").click()
            page.wait_for_timeout(500)
        for chip in panel.locator("button[aria-pressed]").all()[:5]:
            chip.click()
    if name == "days":
        page.get_by_role("button", name="Plan the days").click()
        page.get_by_role("button", name="Plan the rest anew from now").wait_for(timeout=60_000)
        page.wait_for_timeout(9000)
    if name == "swatch-record":
        page.get_by_role("list", name="States").wait_for()
    if name == "fade":
        strips = page.get_by_role("list", name="Strips of stages").get_by_role("listitem")
        strips.nth(6).wait_for(timeout=30_000)
        strips.nth(6).scroll_into_view_if_needed()
        strips.nth(9).scroll_into_view_if_needed()
    if name == "fade-life":
        page.get_by_label("Beside").click()
        page.get_by_role("option", name="Bright room").click()
        page.get_by_role("row", name="Museum").or_(page.get_by_text("a year (")).first.wait_for()
        page.wait_for_timeout(4000)
    if name == "compare":
        page.get_by_role("button", name="Iron 1 % is").click()
    if name == "compare-chart":
        page.get_by_label("What this factor does to each").click()
        page.get_by_role("option", name="Iron", exact=True).click()
        page.get_by_label("The way they fade").check()
        page.get_by_role("option", name="949H").press("Enter")
    if name == "compare-table":
        panel.get_by_label("Study", exact=True).click()
        page.get_by_role("option", name="Yellow and grey again").click()
        panel.get_by_role("button", name="Lay these pairs").click()
        panel.get_by_label("In pairs").check()
        laid = page.get_by_role("list", name="Laid side by side").get_by_role("listitem")
        laid.nth(15).wait_for()
        for piece in reversed(laid.all()[8:]):
            piece.press("Delete")
            page.wait_for_timeout(200)
    if name == "compare-find":
        page.get_by_role("list", name="Nearest colours").wait_for()
    page.wait_for_timeout(400)
    expect(page.get_by_role("status").filter(has_text="Fetching")).to_have_count(0, timeout=60_000)
    page.wait_for_load_state("networkidle")
    page.screenshot(path=TARGET / f"{name}.png")


def main() -> None:
    with TemporaryDirectory() as folder, sync_playwright() as playwright:
        command = [sys.executable, "-m", "zesty_grid.cli", "serve", "--demo"]
        data = str(Path(folder) / "demo.db")
        shutil.copyfile(demo_file(), data)
        server = subprocess.Popen([*command, "--data", data, "--port", str(PORT)])
        try:
            wait_for_server()
            browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            for lens in ("plan", "weigh", "read"):
                shoot(page, lens, f"study/1/{lens}")
            shoot(page, "compare", "study/1/compare/real")
            for part in ("chart", "table", "find"):
                shoot(page, f"compare-{part}", f"study/1/compare/{part}")
            shoot(page, "fade", "study/1/fade/strips")
            shoot(page, "fade-life", "study/1/fade/life")
            shoot(page, "days", "study/2/dye/days")
            shoot(page, "dye", "study/2/dye/at/S1")
            with urllib.request.urlopen(f"{ADDRESS}/api/studies/1") as answer:
                (iron,) = json.load(answer)["plan"]["treatments"]
            shoot(page, "swatch-record", f"study/1/dye/swatch/{iron['swatches'][0]}")
            page.reload()
            shoot(page, "photo", "study/1/read")
            page.reload()
            shoot(page, "plan-tell", "study/1/plan")
            shoot(page, "today", "study/1/today")
            shoot(page, "shelf", "study/1/shelf")
            shoot(page, "safekeeping", "study/1/safekeeping")
            phone = browser.new_page(viewport={"width": 390, "height": 844})
            shoot(phone, "phone", "study/1/fade")
            dark = browser.new_page(viewport={"width": 1280, "height": 800})
            dark.goto(ADDRESS)
            dark.get_by_role("button", name="Dark bench").click()
            shoot(dark, "dark-bench", "study/1/fade")
            browser.close()
        finally:
            server.terminate()


if __name__ == "__main__":
    main()
