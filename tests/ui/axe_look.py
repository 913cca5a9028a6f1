"""Looks at a page with the accessibility checker that the front end is built with."""

from functools import cache
from pathlib import Path

from playwright.sync_api import Page, expect

AXE = Path(__file__).parents[2] / "frontend" / "node_modules" / "axe-core" / "axe.min.js"
# What the colours of the bench can break; the other rules are the same in light and dark.
OF_COLOURS = ["color-contrast", "link-in-text-block"]
LOOK = """([part, rules]) => axe.run(part, {resultTypes: ['violations'], ...(rules && {runOnly: rules})}).then(
  found => found.violations.flatMap(one => one.nodes.map(node => `${one.id}: ${node.html.slice(0, 200)}`)))"""


@cache
def checker() -> str:
    return AXE.read_text()


def violations(page: Page, part: str = ":root", rules: list[str] | None = None) -> list[str]:
    """Every rule that is broken, of WCAG and of best practice, with the element that breaks it; or of some rules."""
    if not page.evaluate("'axe' in window"):
        page.evaluate(checker())
    return page.evaluate(LOOK, [part, rules])


def violations_in_light_and_dark(page: Page, part: str = ":root") -> list[str]:
    page.emulate_media(color_scheme="light")
    found = violations(page, part)
    page.emulate_media(color_scheme="dark")
    expect(page.locator(":root")).to_have_css("color-scheme", "dark")
    found += [f"dark: {one}" for one in violations(page, part, OF_COLOURS)]
    page.emulate_media(color_scheme="light")
    return found
