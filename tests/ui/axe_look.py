"""Looks at a page with the accessibility checker that the front end is built with."""

from functools import cache
from pathlib import Path

from playwright.sync_api import Page

AXE = Path(__file__).parents[2] / "frontend" / "node_modules" / "axe-core" / "axe.min.js"
LOOK = """axe.run(document, {resultTypes: ['violations']}).then(found => found.violations.flatMap(
  one => one.nodes.map(node => `${one.id}: ${node.html.slice(0, 200)}`)))"""


@cache
def checker() -> str:
    return AXE.read_text()


def violations(page: Page) -> list[str]:
    """Every rule that is broken, of WCAG and of best practice, with the element that breaks it."""
    if not page.evaluate("'axe' in window"):
        page.evaluate(checker())
    return page.evaluate(LOOK)
