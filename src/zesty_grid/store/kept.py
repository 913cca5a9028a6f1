"""What is asked for again and again is worked out once between two writes of the file."""

import sqlite3
from collections.abc import Callable
from threading import Lock
from typing import Generic, TypeVar

Found = TypeVar("Found")


class KeptBetweenWrites(Generic[Found]):
    """Keeps the last few answers by the moment of the file and a key; nobody changes what is given.

    Within a transaction nothing is kept: what is read there may never be written.
    """

    def __init__(self, most: int) -> None:
        self._most = most
        self._kept: dict[tuple[object, object], Found] = {}
        self._lock = Lock()

    def of(self, connection: sqlite3.Connection, key: object, work_out: Callable[[], Found]) -> Found:
        moment = None if connection.in_transaction else getattr(connection, "moment", None)
        if moment is None:
            return work_out()
        with self._lock:
            if (moment, key) in self._kept:
                return self._kept[moment, key]
        found = work_out()
        with self._lock:
            self._kept[moment, key] = found
            while len(self._kept) > self._most:
                del self._kept[next(iter(self._kept))]
        return found
