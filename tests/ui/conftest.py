"""The real application on a fresh file, and Debian's Chromium to drive it."""

import socket
import threading
import time
from collections.abc import Iterator

import pytest
import uvicorn
from fastapi import FastAPI
from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright
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


@pytest.fixture(scope="session")
def window(browser: Browser, in_front: tuple[InFront, str]) -> Iterator[BrowserContext]:
    """Kept for all tests, so that scripts are loaded and compiled once; what a test left in it is cleared away."""
    size = {"width": 1280, "height": 800}
    context = browser.new_context(viewport=size, base_url=in_front[1], service_workers="block", reduced_motion="reduce")
    context.set_default_timeout(20_000)
    # A page that stays keeps the process alive in which the others are drawn.
    context.new_page().goto("/assets/sign.svg")
    yield context
    context.close()


@pytest.fixture
def page(window: BrowserContext, address: str) -> Iterator[Page]:
    """A page that fails its test on any script error or blocked resource."""
    complaints: list[str] = []
    page = window.new_page()
    page.on("pageerror", lambda error: complaints.append(str(error)))
    page.on(
        "console",
        lambda message: complaints.append(message.text) if "Content Security Policy" in message.text else None,
    )
    yield page
    said = list(complaints)
    clear_away(window, address)
    assert said == []


def clear_away(window: BrowserContext, address: str) -> None:
    window.set_offline(False)
    window.clear_permissions()
    window.clear_cookies()
    first, *others = window.pages
    for page in others:
        page.close()
    kinds = "local_storage,indexeddb,cache_storage"
    devtools = window.new_cdp_session(first)
    devtools.send("Storage.clearDataForOrigin", {"origin": address, "storageTypes": kinds})
    devtools.detach()
