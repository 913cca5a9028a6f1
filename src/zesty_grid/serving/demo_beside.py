"""The demo, made beside the running application: its page is there at once and says how far it is."""

from collections.abc import Callable
from contextlib import suppress
from threading import Event, Thread

from fastapi import FastAPI

from zesty_grid.api.demo import DemoBeingMade
from zesty_grid.demo.build import Stopped, build_demo, needs_demo
from zesty_grid.store.database import Database


class DemoBeside:
    """`end` stops it where it is; nothing of it is then in the file, and the next start makes it anew."""

    def __init__(self, database: Database, app: FastAPI, say: Callable[[str], None], then: Callable[[], None]) -> None:
        self._stopped = Event()
        self._thread: Thread | None = None
        if not needs_demo(database):
            then()
            return
        app.state.demo = DemoBeingMade(being_made=True)

        def far(photos: int, of_photos: int) -> None:
            app.state.demo = DemoBeingMade(being_made=True, photos=photos, of_photos=of_photos)

        def make() -> None:
            try:
                with suppress(Stopped):
                    build_demo(database, say, far, self._stopped)
                    then()
            finally:
                app.state.demo = DemoBeingMade()

        self._thread = Thread(target=make, daemon=True)
        self._thread.start()

    def end(self) -> None:
        self._stopped.set()
        if self._thread is not None:
            self._thread.join()
