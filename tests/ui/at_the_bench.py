"""What the browser tests at the bench need: a study's log through the API, and its lens."""

from datetime import UTC, datetime, timedelta

from playwright.sync_api import Locator, Page, expect
from tests import patient_http as http


def bench_of(study: str) -> dict:
    """The vessels of a study by name; `study` is its address in the API."""
    return {one["vessel"]["name"]: one for one in http.get(f"{study}/dye").json()["vessels"]}


def entries_of(study: str) -> list[dict]:
    return http.get(f"{study}/dye").json()["entries"]


def log(study: str, **entry) -> dict:
    answer = http.post(f"{study}/dye/entries", json=entry)
    assert answer.status_code == 201, answer.text
    return answer.json()


def tick(study: str, name: str, until: str = "", at: datetime | None = None) -> None:
    """Ticks off every step at a vessel before one, or all of them."""
    for state in bench_of(study)[name]["steps"]:
        key = state["step"]["key"]
        if key == until:
            return
        when = {"at": at.isoformat()} if at else {}
        log(study, vessel=name, step=key, kind="done", **when)


def dye_all(study: str, days_ago: float = 5) -> None:
    """Every vessel from its first step to its last, in the order of the work."""
    at = datetime.now(UTC) - timedelta(days=days_ago)
    for number, name in enumerate(bench_of(study)):
        tick(study, name, at=at + timedelta(hours=number))


def open_bench(page: Page, name: str = "") -> Locator:
    page.goto(f"/#/study/1/dye{f'/at/{name}' if name else ''}")
    bench = page.get_by_role("complementary")
    expect(bench.get_by_label("At the vessel")).to_be_visible()
    return bench


def now_step(bench: Locator) -> Locator:
    return bench.locator("section[aria-current=step]")
