"""The codes by which swatches of a package go in this file."""

import sqlite3
from collections.abc import Iterable, Mapping
from itertools import chain

from zesty_grid.core.plan.swatch_codes import brought_marks, on_label, serial_of


def codes_here(connection: sqlite3.Connection, names: Iterable[str], given: Mapping[str, str]) -> dict[str, str]:
    """The new swatches of one study, by their names in the package: their own codes, or all of them
    with one mark before them where one of the codes is given already. `given`: what other studies
    of the same package got."""
    every = list(names)
    taken = set(given.values())
    for mark in chain([""], brought_marks()):
        codes = {name: mark + on_label(name) for name in every}
        free = not taken & set(codes.values()) and not _is_given(connection, codes.values())
        if free and (mark or all(_own_serial(connection, name) for name in every)):
            return codes
    raise AssertionError("marks never end")


def serials_for(connection: sqlite3.Connection, codes: Iterable[str]) -> dict[str, int]:
    """A code as it is given in every file keeps its number; one with a mark gets the next."""
    every = list(codes)
    found = {code: serial for code in every if (serial := serial_of(code)) is not None}
    last = connection.execute("SELECT coalesce(max(serial), 0) FROM swatch").fetchone()[0]
    following = max(last, *found.values(), 0) if found else last
    for code in every:
        if code not in found:
            following += 1
            found[code] = following
    return found


def _own_serial(connection: sqlite3.Connection, code: str) -> bool:
    serial = serial_of(code)
    return (
        serial is not None and connection.execute("SELECT 1 FROM swatch WHERE serial = ?", (serial,)).fetchone() is None
    )


def _is_given(connection: sqlite3.Connection, codes: Iterable[str]) -> bool:
    return any(connection.execute("SELECT 1 FROM swatch WHERE code = ?", (code,)).fetchone() for code in codes)
