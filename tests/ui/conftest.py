"""The real application on a fresh file, and Debian's Chromium to drive it."""

import socket
import threading
import time
from collections.abc import Iterator

import pytest
import uvicorn
from fastapi import FastAPI
from playwright.sync_api import Browser, Page, expect, sync_playwright

from zesty_grid.api.application import create_application
from zesty_grid.store.database import Database

# The machines that run this are slow at times; nothing here measures speed.
expect.set_options(timeout=30_000)
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


@pytest.fixture
def application(database: Database) -> FastAPI:
    return create_application(database)


@pytest.fixture
def address(application: FastAPI) -> Iterator[str]:
    port = free_port()
    server = uvicorn.Server(uvicorn.Config(application, port=port, log_level="warning"))
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.02)
    yield f"http://127.0.0.1:{port}"
    server.should_exit = True
    thread.join()


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        yield browser
        browser.close()


@pytest.fixture
def page(browser: Browser, address: str) -> Iterator[Page]:
    """A page that fails its test on any script error or blocked resource."""
    complaints: list[str] = []
    context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=address, service_workers="block")
    page = context.new_page()
    page.set_default_timeout(20_000)
    page.on("pageerror", lambda error: complaints.append(str(error)))
    page.on(
        "console",
        lambda message: complaints.append(message.text) if "Content Security Policy" in message.text else None,
    )
    yield page
    context.close()
    assert complaints == []
