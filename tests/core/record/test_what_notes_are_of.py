"""What a note of the log is about: the narrowest thing that it names."""

from datetime import UTC, datetime, timedelta

import pytest
from pydantic import ValidationError

from zesty_grid.core.dye.log_words import entry_words
from zesty_grid.core.record.entry import BenchEntry, NewBenchEntry
from zesty_grid.core.record.notes import note_of, notes_in

AT = datetime(2026, 9, 14, 8, tzinfo=UTC)


def entry(number: int, kind: str = "note", minutes: int = 0, **said) -> BenchEntry:
    at = AT + timedelta(minutes=minutes)
    words = {"note": "as it was seen"} | said
    return BenchEntry(id=number, key=f"device-{number}", kind=kind, at=at, entered_at=at, received_at=at, **words)


@pytest.mark.parametrize(
    ("named", "of"),
    [
        ({}, "study"),
        ({"vessel": "D1"}, "vessel"),
        ({"levels": {"ph": "ph-9"}}, "level"),
        ({"trial": 2}, "trial"),
        ({"swatches": ("JTMY",)}, "swatch"),
        ({"swatches": ("JTMY",), "vessel": "D1"}, "swatch"),
    ],
)
def test_a_note_is_of_the_narrowest_that_it_names(named, of):
    assert note_of(entry(1, **named)) == of


def test_notes_come_newest_first_by_when_it_happened_and_nothing_else_is_one():
    log = [
        entry(1, minutes=5),
        entry(2, minutes=1),
        entry(3, minutes=5),
        entry(4, "record", ph=4.5),
        entry(5, "hand", hand="soft"),
    ]
    assert [note.entry for note in notes_in(log)] == [3, 1, 2]


@pytest.mark.parametrize(
    "named",
    [
        {"vessel": "D1", "trial": 1},
        {"vessel": "D1", "levels": {"ph": "ph-9"}},
        {"levels": {"ph": "ph-9"}, "trial": 1},
        {"levels": {"ph": "ph-9", "iron": "iron-1"}},
        {"trial": 0},
        {"trial": 1001},
        {"note": "", "photo": None},
    ],
)
def test_a_note_of_two_things_or_of_nothing_is_none(named):
    with pytest.raises(ValidationError):
        NewBenchEntry.model_validate({"kind": "note", "note": "?"} | named)


def test_other_entries_may_name_several_levels():
    placed = NewBenchEntry(kind="placed", swatches=("JTMY",), levels={"ph": "ph-9", "dye": "weld"})
    assert len(placed.levels or {}) == 2


def test_in_the_log_a_level_goes_by_its_name_and_by_its_key_where_it_has_none():
    noted = entry(1, levels={"ph": "ph-9"})
    assert entry_words(noted, {("ph", "ph-9"): "pH 9"}) == "of pH 9, as it was seen"
    assert entry_words(noted) == "of ph-9, as it was seen"
    assert entry_words(entry(2, trial=2)) == "of trial 2, as it was seen"
