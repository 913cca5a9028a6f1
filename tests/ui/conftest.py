"""The real application on a fresh file, and Debian's Chromium to drive it."""

import socket
import threading
import time
from collections.abc import Iterator

import pytest
import uvicorn
from fastapi import FastAPI
from playwright.sync_api import Browser, BrowserContext, Page, ViewportSize, expect, sync_playwright
from starlette.types import Receive, Scope, Send

from zesty_grid.api.application import create_application
from zesty_grid.store.database import Database

# The machines that run this are slow at times; nothing here measures speed.
expect.set_options(timeout=30_000)
# A browser without a face has no use for the parts of its own window; they take as long to start as the page.
NOT_NEEDED = (
    "AimEnabled",
    "AvoidUnnecessaryBeforeUnloadCheckSync",
    "HttpsUpgrades",
    "LensOverlay",
    "MediaRouter",
    "OptimizationHints",
    "PaintHolding",
    "PreloadTopChromeWebUI",
    "ThirdPartyStoragePartitioning",
    "WebUIOmniboxAimPopup",
    "WebUIOmniboxFullPopup",
    "WebUIOmniboxPopup",
)
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--renderer-process-limit=1",
    f"--disable-features={','.join(NOT_NEEDED)}",
]


SIZE: ViewportSize = {"width": 1280, "height": 800}


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


@pytest.fixture
def application(database: Database) -> FastAPI:
    return create_application(database)


class InFront:
    """One server for all tests of a worker; it hands every request to the application of the test that runs."""

    application: FastAPI | None = None

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        assert self.application is not None
        await self.application(scope, receive, send)


@pytest.fixture(scope="session")
def in_front() -> Iterator[tuple[InFront, str]]:
    front, port = InFront(), free_port()
    server = uvicorn.Server(uvicorn.Config(front, port=port, log_level="warning", lifespan="off"))
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.02)
    yield front, f"http://127.0.0.1:{port}"
    server.should_exit = True
    thread.join()


@pytest.fixture
def address(application: FastAPI, in_front: tuple[InFront, str]) -> str:
    front, address = in_front
    front.application = application
    return address


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        yield browser
        browser.close()


def new_window(browser: Browser, address: str) -> BrowserContext:
    context = browser.new_context(viewport=SIZE, base_url=address, service_workers="block", reduced_motion="reduce")
    context.set_default_timeout(20_000)
    return context


@pytest.fixture(scope="session")
def window(browser: Browser, in_front: tuple[InFront, str]) -> Iterator[BrowserContext]:
    """Kept for all tests, so that scripts are loaded and compiled once; what a test left in it is cleared away."""
    context = new_window(browser, in_front[1])
    # A page that stays keeps the process alive in which the others are drawn.
    context.new_page().goto("/assets/sign.svg")
    yield context
    context.close()


def listen(page: Page) -> list[str]:
    """What a page complains of: any script error or blocked resource."""
    complaints: list[str] = []
    page.on("pageerror", lambda error: complaints.append(str(error)))
    page.on(
        "console",
        lambda message: complaints.append(message.text) if "Content Security Policy" in message.text else None,
    )
    return complaints


class KeptPage:
    """One page for many tests, as long as nothing of them stays in it: to load it takes as long as twenty clicks."""

    def __init__(self, window: BrowserContext) -> None:
        self._window = window
        self.page: Page | None = None
        self.complaints: list[str] = []

    def for_another_test(self) -> Page:
        """As a person finds it who comes for the first time: what was asked before is forgotten when the test, which
        has made its studies by then, goes to its first view."""
        if self.page is None:
            self.page = self._window.new_page()
            self.complaints = listen(self.page)
            return self.page
        page = self.page
        page.unroute_all()
        if page.viewport_size != SIZE:
            page.set_viewport_size(SIZE)
        page.goto("/#/words")

        def goto(address: str) -> None:
            del page.goto
            page.evaluate(FORGET)
            page.goto(address)

        page.goto = goto  # type: ignore[method-assign]
        self.complaints.clear()
        return page

    def leave(self, address: str) -> None:
        """Closed where something stays that is not told to the application: an open dialog, what is kept for next
        time but for who it was."""
        assert self.page
        vars(self.page).pop("goto", None)
        stays = self.page.is_closed() or not self.page.url.startswith(address) or self.page.evaluate(STAYS)
        for page in self._window.pages:
            if stays or page is not self.page:
                page.close()
        if stays:
            self.page = None
        clear_away(self.page or self._window.new_page(), address)


# What was asked of the application of the test before, as its own parts would forget it.
FORGET = """async () => {
  const root = document.getElementById('root');
  let part = root[Object.keys(root).find(key => key.startsWith('__reactContainer'))].stateNode.current;
  while (!part.memoizedProps?.client) part = part.child;
  sessionStorage.clear();
  const queries = part.memoizedProps.client;
  await queries.cancelQueries();
  queries.removeQueries({type: 'inactive'});
  await queries.resetQueries();
  // What was logged at the bench: its store is empty by now, and the page looks there as if another tab had said so.
  const looked = () => new Promise(done => {
    const opening = indexedDB.open('zesty-grid outbox', 1);
    opening.onupgradeneeded = () => opening.result.createObjectStore('waiting', {keyPath: 'entry.key'});
    opening.onsuccess = () => {
      const waiting = opening.result.transaction('waiting', 'readwrite');
      waiting.objectStore('waiting').clear();
      waiting.oncomplete = () => { opening.result.close(); setTimeout(done); };
    };
  });
  const [ear, mouth] = [1, 2].map(() => new BroadcastChannel('zesty-grid outbox'));
  await looked();
  await new Promise(heard => { ear.onmessage = heard; mouth.postMessage('changed'); });
  [ear, mouth].forEach(channel => channel.close());
  // Its own look comes before these: what is opened first is answered first.
  await looked();
  await looked();
}"""
STAYS = """() => { localStorage.removeItem('zesty-grid who');
  return localStorage.length > 0 || document.querySelector('[role=dialog], [role=alert]') !== null; }"""


@pytest.fixture(scope="session")
def kept_page(browser: Browser, in_front: tuple[InFront, str]) -> Iterator[KeptPage]:
    """In a window of its own: it sends what it finds waiting there, as any tab does."""
    window = new_window(browser, in_front[1])
    yield KeptPage(window)
    window.close()


@pytest.fixture
def own_page(window: BrowserContext, address: str) -> Iterator[Page]:
    """A page that no other test has seen or will see; it fails its test on whatever it complains of."""
    page = window.new_page()
    complaints = listen(page)
    yield page
    said = list(complaints)
    first, *others = window.pages
    for other in others:
        other.close()
    clear_away(first, address)
    assert said == []


@pytest.fixture
def page(request: pytest.FixtureRequest) -> Page:
    own = request.node.get_closest_marker("own_page")
    return request.getfixturevalue("own_page" if own else "shared_page")


@pytest.fixture
def shared_page(address: str, kept_page: KeptPage) -> Iterator[Page]:
    """The page that tests share which have no wish for one of their own."""
    page = kept_page.for_another_test()
    yield page
    said = list(kept_page.complaints)
    kept_page.leave(address)
    assert said == []


def clear_away(page: Page, address: str) -> None:
    page.context.set_offline(False)
    page.context.clear_permissions()
    page.context.clear_cookies()
    kinds = "local_storage,indexeddb,cache_storage"
    devtools = page.context.new_cdp_session(page)
    devtools.send("Storage.clearDataForOrigin", {"origin": address, "storageTypes": kinds})
    devtools.detach()
