"""A file served to a browser, for what is measured on screen."""

import socket
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager

import uvicorn
from playwright.sync_api import Browser, sync_playwright
from tests.ui.conftest import FLAGS

from zesty_grid.api.application import create_application
from zesty_grid.store.database import Database


@contextmanager
def browser_on(database: Database) -> Iterator[tuple[Browser, str]]:
    """A browser, and the address of the application."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    settings = uvicorn.Config(create_application(database), port=port, log_level="warning")
    server = uvicorn.Server(settings)
    threading.Thread(target=server.run, daemon=True).start()
    while not server.started:
        time.sleep(0.05)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        yield browser, f"http://127.0.0.1:{port}"
        browser.close()
    server.should_exit = True
