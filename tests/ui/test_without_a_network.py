"""The worker in the background: screens that open without a network, and what a device forgets."""

from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect
from tests.seeded_readings import new_study
from tests.small_study import small_plan

CACHED = """async () => {
  const kept = await caches.open("bench");
  return (await kept.keys()).map((one) => new URL(one.url).pathname);
}"""


@pytest.fixture
def context(browser: Browser, address: str) -> Iterator[BrowserContext]:
    context = browser.new_context(viewport={"width": 390, "height": 844}, base_url=address)
    yield context
    context.close()


@pytest.fixture
def bench(context: BrowserContext, database) -> Page:
    """A bench that was looked at once, with the worker at work."""
    study, _ = new_study(database, small_plan(name="Weld"))
    page = context.new_page()
    page.goto(f"/#/study/{study}/dye")
    page.evaluate("() => navigator.serviceWorker.ready")
    page.reload()
    expect(page.get_by_role("button", name="Weld ▾")).to_be_visible()
    page.wait_for_function("() => navigator.serviceWorker.controller !== null")
    page.reload()
    expect(page.get_by_role("heading", name="1. Fill the vessel")).to_be_visible()
    return page


def test_the_bench_opens_again_without_a_network_after_a_reload(context, bench: Page):
    context.set_offline(True)
    bench.reload()
    expect(bench.get_by_role("button", name="Weld ▾")).to_be_visible()
    expect(bench.get_by_role("heading", name="1. Fill the vessel")).to_be_visible()


def test_after_a_first_visit_already_the_bench_opens_without_a_network(context, database):
    study, _ = new_study(database, small_plan(name="Madder"))
    page = context.new_page()
    page.goto(f"/#/study/{study}/dye")
    page.wait_for_function("() => navigator.serviceWorker.controller !== null")
    needed = ["access", "shelf", "today/bench", f"studies/{study}", f"studies/{study}/dye"]
    page.wait_for_function(
        """(needed) => caches.open("bench").then((kept) => Promise.all(
        needed.map((one) => kept.match(`/api/${one}`)))).then((all) => all.every(Boolean))""",
        arg=needed,
    )
    context.set_offline(True)
    page.reload()
    expect(page.get_by_role("heading", name="1. Fill the vessel")).to_be_visible()


def test_only_what_the_bench_needs_is_kept_on_the_device(bench: Page):
    bench.goto("/#/safekeeping")
    expect(bench.get_by_role("heading", name="Safekeeping")).to_be_visible()
    kept = bench.evaluate(CACHED)
    assert "/api/studies/1/dye" in kept
    assert not [path for path in kept if "safekeeping" in path or "photos" in path]


def test_a_device_that_is_put_out_forgets_what_it_kept(bench: Page):
    assert bench.evaluate(CACHED)
    bench.route(
        "**/api/studies/**",
        lambda route: route.fulfill(
            status=401,
            content_type="application/problem+json",
            body='{"type": "urn:zesty-grid:problem:code-needed", "title": "", "status": 401}',
        ),
    )
    bench.evaluate("() => navigator.serviceWorker.getRegistration().then((one) => one.unregister())")
    bench.reload()
    bench.wait_for_function("() => caches.has('bench').then((there) => !there)")


def test_the_worker_and_the_manifest_come_from_the_application_itself(client):
    worker = client.get("/sw.js")
    assert worker.headers["content-type"].startswith(("text/javascript", "application/javascript"))
    assert worker.headers["cache-control"] == "no-cache"
    assert "://" not in worker.text.replace(client.base_url.host, "")
    manifest = client.get("/manifest.webmanifest")
    assert manifest.status_code == 200
    for icon in manifest.json()["icons"]:
        assert client.get(f"/{icon['src']}").status_code == 200
