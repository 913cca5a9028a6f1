"""Enters a study of swatches that were dyed before the record began."""

import csv
import io
import json
import sqlite3
from collections.abc import Sequence
from datetime import UTC, date, datetime, time

import numpy as np

from zesty_grid.core.entered.shelf_from_table import TableShelf, shelf_from_table
from zesty_grid.core.entered.study_from_table import EarlierSwatch, TableStudy, levels_by_cell, study_from_table
from zesty_grid.core.read.colour_space import lab_to_hex
from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.core.read.instrument import ENTERED_LATER, InstrumentSample, NewInstrumentFile
from zesty_grid.core.record.entry import NewBenchEntry
from zesty_grid.core.record.swatch import NewSwatch
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.store.dye import add_entry
from zesty_grid.store.instruments import keep_instrument_file
from zesty_grid.store.keeping import create_study, name_planned
from zesty_grid.store.shelf import add_item, items_of, load_shelf
from zesty_grid.store.standing import standing_study
from zesty_grid.store.swatches import insert_swatches, next_serial

Codes = dict[int, str]


def enter_study(connection: sqlite3.Connection, wanted: TableStudy, at: datetime) -> int:
    """The number of the study. Raises Refusal with every fault of the table by row and column;
    nothing of it is then entered."""
    found = study_from_table(wanted, load_shelf(connection))
    _must_be_right(found.faults, found.asked)
    assert found.plan is not None
    for item in found.new_items:
        add_item(connection, item)
    source = wanted.table.filename or "a table"
    study = create_study(connection, found.plan, f"entered later, from {source}")
    codes = _codes(connection, study, found.swatches)
    own = sorted(codes.values())
    connection.execute(
        "UPDATE study SET origin = ? WHERE id = ?",
        (
            json.dumps({"kind": "table", "filename": source, "at": at.isoformat(timespec="seconds"), "swatches": own}),
            study,
        ),
    )
    # The knots of the application are not on them.
    connection.execute("UPDATE swatch SET tie = '' WHERE study_id = ?", (study,))
    _note(connection, study, found.swatches, codes, wanted.who, at)
    _keep_colours(connection, study, found.swatches, codes, source, at)
    name_planned(connection, study)
    return study


def enter_list(connection: sqlite3.Connection, wanted: TableShelf) -> int:
    """How many things came to the Shelf. Raises Refusal as `enter_study` does."""
    found = shelf_from_table(wanted, items_of(connection, wanted.kind))
    _must_be_right(found.faults, found.asked)
    for item in found.items:
        add_item(connection, item)
    return len(found.items)


def _must_be_right(faults: Sequence[Fault], asked: Sequence[str]) -> None:
    if not faults and not asked:
        return
    words = faults[0].field if faults else f"what “{asked[0]}” is made of"
    raise Refusal(
        "table-faults",
        f"The table cannot be entered yet: {words}.",
        "Put it right, and choose the file again.",
        tuple(faults),
    )


def _codes(connection: sqlite3.Connection, study: int, swatches: Sequence[EarlierSwatch]) -> Codes:
    """By row. Repeats that only some recipes have get a code too, beside the plan."""
    standing = standing_study(connection, study)
    by_cell = {standing.planned.planned_cell(one): one for one in standing.planned.swatches}
    codes: Codes = {}
    repeats: list[tuple[int, NewSwatch]] = []
    for cell, alike in levels_by_cell(list(swatches)).items():
        first = by_cell[cell]
        codes[alike[0].row] = first.code
        for one in alike[1:]:
            new = NewSwatch(
                fibre=first.fibre,
                mass_g=first.mass_g,
                pieces=first.pieces,
                levels=first.levels,
                control=first.control,
                larger=None,
                replicate=one.replicate,
            )
            repeats.append((one.row, new))
    serial = next_serial(connection)
    insert_swatches(connection, study, [new for _, new in repeats], serial, {})
    for i, (row, _) in enumerate(repeats):
        made = connection.execute("SELECT id, code FROM swatch WHERE serial = ?", (serial + i,)).fetchone()
        codes[row] = made["code"]
        connection.execute("UPDATE place SET planned = 0 WHERE swatch_id = ?", (made["id"],))
    return codes


def _note(
    connection: sqlite3.Connection, study: int, swatches: Sequence[EarlierSwatch], codes: Codes, who: str, at: datetime
) -> None:
    """Its own name and recipe, as they were kept."""
    for one in swatches:
        words = "\n".join(part for part in (one.name, one.said) if part) or f"row {one.row}"
        said = NewBenchEntry(
            kind="note",
            note=words,
            swatches=(codes[one.row],),
            who=who,
            at=min(at, datetime.combine(one.day, time(12), UTC)),
            entered_at=at,
        )
        add_entry(connection, study, said, at)


def _keep_colours(
    connection: sqlite3.Connection,
    study: int,
    swatches: Sequence[EarlierSwatch],
    codes: Codes,
    source: str,
    at: datetime,
) -> None:
    by_day: dict[date, list[EarlierSwatch]] = {}
    for one in swatches:
        if one.lab is not None:
            by_day.setdefault(one.day, []).append(one)
    for day, those in sorted(by_day.items()):
        new = NewInstrumentFile(
            filename=source,
            content=_as_text(those, codes),
            measured_on=day,
            early=True,
            instrument=ENTERED_LATER + source[: 60 - len(ENTERED_LATER)],
        )
        samples = [_sample(one, codes[one.row]) for one in those]
        keep_instrument_file(connection, study, new, samples, at)


def _sample(one: EarlierSwatch, code: str) -> InstrumentSample:
    lab = one.lab or (0.0, 0.0, 0.0)
    colour = np.array(lab)
    return InstrumentSample(
        name=one.name or f"row {one.row}",
        swatch=code,
        lab=lab,
        hex=lab_to_hex(colour),
        colour_words=colour_words(colour),
        given_lab=lab,
        given_under="D50/2°",
        uncertainty_de00=one.doubt_de00,
    )


def _as_text(swatches: Sequence[EarlierSwatch], codes: Codes) -> str:
    """What was entered, as it is kept beside the readings."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["row", "name", "code", "L*", "a*", "b*", "hex", "doubt_de00", "day"])
    for one in swatches:
        lab = one.lab or ("", "", "")
        writer.writerow([one.row, one.name, codes[one.row], *lab, one.hex, one.doubt_de00, one.day])
    return out.getvalue()
