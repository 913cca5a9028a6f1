"""Compares what a package says of a study with what this file says of it."""

import json
from collections.abc import Iterable, Mapping
from typing import Any, NamedTuple

from zesty_grid.core.record.taken_in import HowTaken
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.packages.held import HELD
from zesty_grid.store.packages.held_table import HeldTable

Row = Mapping[str, Any]
RowKey = tuple[Any, ...]


class Comparison(NamedTuple):
    """`here`: rows of the package that stand in this file already, by table."""

    how: HowTaken
    here: dict[str, frozenset[RowKey]]


def study_of(row: Row) -> str | None:
    """The identity of the study that a row belongs to; None for what belongs to none."""
    if row.get("study"):
        return str(row["study"])
    for column in ("run", "trial", "reading", "log", "sample"):
        if row.get(column):
            return str(row[column]).partition("/")[0]
    if row.get("calibration"):
        return str(row["calibration"]).removeprefix("calibrations/").partition("/")[0]
    return None


def row_key(table: HeldTable, row: Row) -> RowKey:
    """All that a row says by itself, comparable however it was written."""
    return tuple(_plain(row.get(held.column)) for held in table.columns if not held.derived)


def compared(ours: Mapping[str, Iterable[Row]], theirs: Mapping[str, Iterable[Row]], uid: str, name: str) -> Comparison:
    """Raises Refusal where both have gone on since they were the same."""
    here: dict[str, frozenset[RowKey]] = {}
    missing = added = 0
    for table in HELD:
        if not table.grows:
            continue
        mine = {row_key(table, row) for row in ours[table.name] if study_of(row) == uid}
        other = {row_key(table, row) for row in theirs[table.name] if study_of(row) == uid}
        missing += len(mine - other)
        added += len(other - mine)
        here[table.name] = frozenset(mine & other)
    if missing and added:
        raise Refusal(
            "both-went-on",
            f"“{name}” went on in both files: this one has {missing} entries, readings or versions "
            f"that the package lacks, and the package {added} that this one lacks.",
            "Nothing was taken in. Take the package into an empty file, and look at the two.",
        )
    return Comparison("grown" if added else "here", here)


def _plain(value: Any) -> Any:
    if value == "":
        return None
    if isinstance(value, str) and value[:1] in ("{", "["):
        try:
            return json.dumps(json.loads(value), sort_keys=True)
        except ValueError:
            return value
    return value
