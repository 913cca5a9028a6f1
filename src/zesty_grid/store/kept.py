"""What is asked for again and again is worked out once, as long as what it depends on stands as it was."""

import sqlite3
from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import Future
from threading import Lock
from typing import Generic, TypeVar

from zesty_grid.store.database import FileConnection
from zesty_grid.store.relatives import studies_after, studies_before

Found = TypeVar("Found")
SHELF = 0


class Kept(Generic[Found]):
    """The answers that were asked for last, by what they depend on and a key; nobody changes what is given.

    Each study and the Shelf have a token in the file that every write of theirs changes (`change_token`). Two who
    ask at the same time wait for one answer. Once a transaction has written nothing is kept: it may be taken back.
    """

    def __init__(self, most: int) -> None:
        self._most = most
        self._kept: OrderedDict[tuple[object, ...], Future[Found]] = OrderedDict()
        self._lock = Lock()

    def of_study(
        self, connection: sqlite3.Connection, study_id: int, key: object, work_out: Callable[[], Found]
    ) -> Found:
        """Depends on a study, on those that it shares swatches with, and on the Shelf."""
        return self._of(connection, *_tokens_around(connection, study_id), (study_id, key), work_out)

    def give(self, connection: sqlite3.Connection, study_id: int, key: object, found: Found) -> None:
        """What will be found once this transaction is there to stay; if it is taken back nobody asks by its tokens."""
        rows, values = _tokens_around(connection, study_id)
        answer: Future[Found] = Future()
        answer.set_result(found)
        with self._lock:
            self._kept[((study_id, key), *map(tuple, connection.execute(rows, values)))] = answer
            self._forget_oldest()

    def of_file(self, connection: sqlite3.Connection, key: object, work_out: Callable[[], Found]) -> Found:
        """Depends on every study, as what is learnt from all of them does."""
        return self._of(connection, "SELECT study_id, token FROM change_token ORDER BY study_id", (), key, work_out)

    def _of(
        self,
        connection: sqlite3.Connection,
        tokens: str,
        values: tuple[int, ...],
        key: object,
        work_out: Callable[[], Found],
    ) -> Found:
        has_written = connection.in_transaction and connection.total_changes > 0
        if has_written or not isinstance(connection, FileConnection):
            return work_out()
        name = (key, *map(tuple, connection.execute(tokens, values)))
        with self._lock:
            is_first = name not in self._kept
            answer = self._kept.setdefault(name, Future())
            self._kept.move_to_end(name)
            self._forget_oldest()
        if not is_first:
            return answer.result()
        try:
            answer.set_result(work_out())
        except BaseException as error:
            with self._lock:
                self._kept.pop(name, None)
            answer.set_exception(error)
        return answer.result()

    def _forget_oldest(self) -> None:
        while len(self._kept) > self._most:
            self._kept.popitem(last=False)


def _tokens_around(connection: sqlite3.Connection, study_id: int) -> tuple[str, tuple[int, ...]]:
    """The tokens of the Shelf, of a study and of those that it shares swatches with, as SQL and its values."""
    related = {SHELF, study_id, *studies_before(connection, study_id), *studies_after(connection, study_id)}
    marks = ", ".join("?" * len(related))
    return f"SELECT study_id, token FROM change_token WHERE study_id IN ({marks}) ORDER BY study_id", tuple(related)
