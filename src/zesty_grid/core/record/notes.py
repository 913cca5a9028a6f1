"""Notes and pictures of a study, and of what in it each is about."""

from collections.abc import Iterable
from datetime import datetime
from typing import Literal

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.record.entry import BenchEntry
from zesty_grid.core.record.swatch import Levels

NoteOf = Literal["study", "level", "swatch", "vessel", "trial"]


class Note(Frozen):
    """`key` is that of its entry, made by the device that wrote it; `trial` by its number in the
    study; `photo` by its SHA-256."""

    entry: int
    key: str
    at: datetime
    who: str
    of: NoteOf
    words: str
    photo: str | None
    vessel: str
    swatches: tuple[str, ...]
    levels: Levels
    trial: int | None


def notes_in(log: Iterable[BenchEntry]) -> list[Note]:
    """The notes of a standing log, the newest first."""
    notes = [
        Note(
            entry=entry.id,
            key=entry.key,
            at=entry.at,
            who=entry.who,
            of=note_of(entry),
            words=entry.note,
            photo=entry.photo,
            vessel=entry.vessel,
            swatches=entry.swatches,
            levels=entry.levels or {},
            trial=entry.trial,
        )
        for entry in log
        if entry.kind == "note"
    ]
    return sorted(notes, key=lambda note: (note.at, note.entry), reverse=True)


def note_of(entry: BenchEntry) -> NoteOf:
    if entry.swatches:
        return "swatch"
    if entry.trial is not None:
        return "trial"
    if entry.levels:
        return "level"
    return "vessel" if entry.vessel else "study"
