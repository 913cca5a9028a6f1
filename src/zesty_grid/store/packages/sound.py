"""Whether the documents in a package are such that the application could have written them."""

from collections.abc import Callable
from datetime import date, datetime
from typing import Any, get_args

from pydantic import TypeAdapter, ValidationError

from zesty_grid.core.dye.protocol import Protocol
from zesty_grid.core.dye.scheduling.day_plan import DayPlan
from zesty_grid.core.fade.light_record import LightSample
from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.fade.trial_entry import TrialEntry
from zesty_grid.core.plan.bath import BathKind
from zesty_grid.core.plan.factors import FACTOR_ORDER, Level
from zesty_grid.core.plan.masses import ControlKind
from zesty_grid.core.plan.study_plan import PieceUse, StudyPlan
from zesty_grid.core.read.instrument import InstrumentSample
from zesty_grid.core.read.measurement import Measurement
from zesty_grid.core.read.readings import Assignment, Piece
from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.entry import NewBenchEntry
from zesty_grid.core.record.swatch import Levels
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.core.shelf.shelf import Shelf, ShelfItem

_KINDS: dict[tuple[str, str], Any] = {
    ("studies", "plan"): StudyPlan,
    ("studies", "kept_shelf"): Shelf,
    ("plan_versions", "plan"): StudyPlan,
    ("levels", "document"): Level,
    ("protocols", "document"): Protocol,
    ("day_plans", "document"): DayPlan,
    ("runs", "document"): BenchVessel,
    ("trials", "plan"): TrialPlan,
    ("sheets", "layout"): Sheet,
    ("sheets", "assignments"): tuple[Assignment, ...],
    ("light_logs", "samples"): tuple[LightSample, ...],
    ("instrument_samples", "document"): InstrumentSample,
    ("measurements", "document"): Measurement,
    ("shelf", "document"): ShelfItem,
    ("trial_entries", "document"): TrialEntry,
    ("places", "levels"): Levels,
    ("swatches", "pieces"): tuple[PieceUse, ...],
    ("readings", "flags"): tuple[str, ...],
    ("readings", "warnings"): tuple[str, ...],
    ("cloth_readings", "flags"): tuple[str, ...],
}
_WORDS: dict[tuple[str, str], frozenset[Any]] = {
    ("levels", "factor"): frozenset(FACTOR_ORDER),
    ("runs", "bath"): frozenset(get_args(BathKind)),
    ("planned_vessels", "bath"): frozenset(get_args(BathKind)),
    ("readings", "piece"): frozenset(get_args(Piece)),
    ("places", "control"): frozenset({None, *get_args(ControlKind)}),
}
_ADAPTERS = {place: TypeAdapter(kind) for place, kind in _KINDS.items()}


def must_be_sound(table: str, number: int, column: str, text: str) -> None:
    """Raises Refusal for a document that is not what belongs there; `number` counts rows from 1."""
    adapter = _ADAPTERS.get((table, column))
    if adapter is not None:
        _checked(lambda: adapter.validate_json(text), table, number, column)


def must_be_plain(table: str, number: int, column: str, value: Any) -> None:
    """Raises Refusal for a moment, a day or a word of a fixed list that is none."""
    try:
        if value and (column == "at" or column.endswith("_at")):
            datetime.fromisoformat(value)
        if value and column.endswith("_on"):
            date.fromisoformat(value)
    except ValueError as error:
        raise broken(table, number, column, f"“{value[:40]}” is no moment.") from error
    words = _WORDS.get((table, column))
    if words is not None and value not in words:
        raise broken(table, number, column, f"“{str(value)[:40]}” is none of its words.")


def must_be_an_entry(number: int, columns: dict[str, Any], document: dict[str, Any]) -> None:
    said = {name: value for name, value in columns.items() if value is not None}
    _checked(lambda: NewBenchEntry.model_validate(said | document), "entries", number, "document")


def broken(table: str, number: int, column: str, why: str) -> Refusal:
    """What is wrong with a row; the first line of a table has the names of its columns."""
    place = f"{table}.csv, row {number + 1}, {column}"
    return Refusal(
        "broken-package",
        f"The package holds what cannot be: {place}. {why}",
        "Write it again from the file that it came from. Nothing was taken in.",
        (
            Fault(
                field=place,
                given=why[:200],
                allowed="what the application writes there",
                cure="Write the package again from the file that it came from.",
            ),
        ),
    )


def _checked(check: Callable[[], Any], table: str, number: int, column: str) -> None:
    try:
        check()
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"])
        raise broken(table, number, column, f"{where}: {first['msg']}") from error
