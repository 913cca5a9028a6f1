"""Swatches as things, and the places that they have in studies."""

import json
import sqlite3
from collections.abc import Collection, Iterable, Mapping, Sequence

from zesty_grid.core.plan.swatch_codes import swatch_code
from zesty_grid.core.record.swatch import Levels, NewSwatch, Swatch
from zesty_grid.store.plan import NotFound

_SWATCH = """
SELECT swatch.id, swatch.code, swatch.serial, swatch.tie, swatch.fibre, swatch.mass_g,
  swatch.pieces, swatch.settled, parent.code AS parent, place.levels, place.control,
  place.larger, place.replicate, place.planned, place.begun, place.true_levels
FROM place JOIN swatch ON swatch.id = place.swatch_id
LEFT JOIN swatch AS parent ON parent.id = swatch.parent_id
"""
AT_ONCE = 400


def load_swatches(connection: sqlite3.Connection, study_id: int) -> list[Swatch]:
    """Every swatch that has or had a place in a study, in the order of their codes."""
    rows = connection.execute(_SWATCH + "WHERE place.study_id = ? ORDER BY swatch.serial", (study_id,))
    return [_swatch(row) for row in rows]


def load_by_code(connection: sqlite3.Connection, codes: Collection[str]) -> dict[str, Swatch]:
    """Swatches of any study, each with its place in the study that gave it its code."""
    found: dict[str, Swatch] = {}
    wanted = sorted(set(codes))
    for start in range(0, len(wanted), AT_ONCE):
        part = wanted[start : start + AT_ONCE]
        marks = ",".join("?" * len(part))
        rows = connection.execute(
            _SWATCH + f"WHERE place.study_id = swatch.study_id AND swatch.code IN ({marks})", part
        )
        found |= {row["code"]: _swatch(row) for row in rows}
    return found


def swatch_ids(connection: sqlite3.Connection, codes: Iterable[str]) -> dict[str, int]:
    """Row numbers by code; raises NotFound for a code that is no swatch."""
    found: dict[str, int] = {}
    for code in dict.fromkeys(codes):
        row = connection.execute("SELECT id FROM swatch WHERE code = ?", (code,)).fetchone()
        if row is None:
            raise NotFound(f"swatch as {code}")
        found[code] = row["id"]
    return found


def codes_of_study(connection: sqlite3.Connection, study_id: int) -> set[str]:
    """Everybody who has to do with a study."""
    rows = connection.execute(
        "SELECT code FROM study_swatch JOIN swatch ON swatch.id = swatch_id WHERE study_swatch.study_id = ?",
        (study_id,),
    )
    return {row["code"] for row in rows}


def home_of(connection: sqlite3.Connection, code: str) -> int:
    """The study that gave a swatch its code."""
    row = connection.execute("SELECT study_id FROM swatch WHERE code = ?", (code,)).fetchone()
    if row is None:
        raise NotFound("swatch")
    return int(row["study_id"])


def studies_with(connection: sqlite3.Connection, code: str) -> list[int]:
    """Every study in whose grid a swatch has a place."""
    rows = connection.execute(
        "SELECT place.study_id FROM place JOIN swatch ON swatch.id = place.swatch_id "
        "WHERE swatch.code = ? ORDER BY place.study_id",
        (code,),
    )
    return [row["study_id"] for row in rows]


def children_of(connection: sqlite3.Connection, code: str) -> list[tuple[str, int]]:
    """Codes of the pieces that were cut from a swatch, with the study of each."""
    rows = connection.execute(
        "SELECT child.code, child.study_id FROM swatch JOIN swatch AS child "
        "ON child.parent_id = swatch.id WHERE swatch.code = ? ORDER BY child.serial",
        (code,),
    )
    return [(row["code"], row["study_id"]) for row in rows]


def ties_in_work(connection: sqlite3.Connection, without_study: int) -> set[str]:
    """Ties of swatches of other studies that are at the bench now."""
    rows = connection.execute("SELECT DISTINCT tie FROM swatch WHERE in_work = 1 AND study_id <> ?", (without_study,))
    return {row["tie"] for row in rows}


def next_serial(connection: sqlite3.Connection) -> int:
    return int(connection.execute("SELECT coalesce(max(serial) + 1, 1) FROM swatch").fetchone()[0])


def insert_swatches(
    connection: sqlite3.Connection, study_id: int, new: Sequence[NewSwatch], first_serial: int, ties: Mapping[str, str]
) -> None:
    """Gives codes out, for ever; `ties` by code."""
    parents = swatch_ids(connection, (one.parent for one in new if one.parent))
    for serial, one in enumerate(new, first_serial):
        code = swatch_code(serial)
        cursor = connection.execute(
            "INSERT INTO swatch (study_id, serial, code, tie, fibre, mass_g, pieces, parent_id) "
            "VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
            (
                study_id,
                serial,
                code,
                ties.get(code, ""),
                one.fibre,
                one.mass_g,
                json.dumps(one.pieces),
                parents.get(one.parent or ""),
            ),
        )
        connection.execute(
            "INSERT INTO place (study_id, swatch_id, levels, control, larger, replicate, planned) "
            "VALUES (?, ?, ?, ?, ?, ?, 1)",
            (study_id, cursor.lastrowid, json.dumps(one.levels), one.control, one.larger, one.replicate),
        )


def save_places(
    connection: sqlite3.Connection, study_id: int, before: Mapping[str, Swatch], after: Iterable[Swatch]
) -> None:
    """Writes the places that have changed; swatches from elsewhere get a place in this study."""
    changed = [swatch for swatch in after if before.get(swatch.code) != swatch]
    moved = [swatch for swatch in changed if _place(before.get(swatch.code)) != _place(swatch)]
    ids = swatch_ids(connection, (swatch.code for swatch in moved))
    connection.executemany(
        "INSERT INTO place (study_id, swatch_id, levels, control, larger, replicate, planned, "
        "begun, is_read) VALUES (?, ?, ?, ?, ?, ?, ?, ?, coalesce((SELECT max(is_read) FROM "
        "place WHERE swatch_id = ?), 0)) ON CONFLICT (study_id, swatch_id) DO UPDATE SET "
        "levels = excluded.levels, replicate = excluded.replicate, "
        "planned = excluded.planned",
        (
            (
                study_id,
                ids[swatch.code],
                json.dumps(swatch.levels),
                swatch.control,
                swatch.larger,
                swatch.replicate,
                swatch.planned,
                swatch.begun,
                ids[swatch.code],
            )
            for swatch in moved
        ),
    )
    connection.executemany(
        "UPDATE swatch SET fibre = ?, mass_g = ?, pieces = ? WHERE code = ? AND settled = 0",
        ((swatch.fibre, swatch.mass_g, json.dumps(swatch.pieces), swatch.code) for swatch in changed),
    )


def _place(swatch: Swatch | None) -> object:
    return swatch and (swatch.levels, swatch.replicate, swatch.planned)


def save_guests(connection: sqlite3.Connection, study_id: int, codes: Iterable[str]) -> None:
    """Swatches of other studies that a study treats."""
    connection.execute("DELETE FROM guest WHERE study_id = ?", (study_id,))
    connection.executemany(
        "INSERT INTO guest (study_id, swatch_id) VALUES (?, ?)",
        ((study_id, swatch) for swatch in swatch_ids(connection, codes).values()),
    )


def project_begun(connection: sqlite3.Connection, ids: Iterable[int]) -> None:
    """Which swatches have begun in which study: they were in a bath of it or are expected in one
    that runs, were read for it, or are in a trial of it. Such keep their levels there, and their
    fibre, mass and pieces."""
    every = sorted(set(ids))
    connection.executemany(
        "UPDATE place SET begun = EXISTS (SELECT 1 FROM run_member JOIN run "
        "ON run.id = run_member.run_id WHERE run_member.swatch_id = place.swatch_id AND held = 1 "
        "AND void = 0 AND run.study_id = place.study_id) OR EXISTS (SELECT 1 FROM passage "
        "JOIN run ON run.id = passage.run_id WHERE passage.swatch_id = place.swatch_id "
        "AND void = 0 AND run.study_id = place.study_id) OR EXISTS (SELECT 1 FROM trial_swatch "
        "JOIN trial ON trial.id = trial_swatch.trial_id WHERE trial_swatch.swatch_id = "
        "place.swatch_id AND trial.study_id = place.study_id) OR EXISTS (SELECT 1 FROM reading "
        "JOIN measurement ON measurement.id = reading.measurement_id JOIN photo "
        "ON photo.id = measurement.photo_id WHERE reading.swatch_id = place.swatch_id "
        "AND photo.study_id = place.study_id) OR EXISTS (SELECT 1 FROM instrument_sample "
        "JOIN instrument_file ON instrument_file.id = instrument_sample.file_id "
        "WHERE instrument_sample.swatch_id = place.swatch_id "
        "AND instrument_file.study_id = place.study_id) WHERE swatch_id = ?",
        ((swatch,) for swatch in every),
    )
    connection.executemany(
        "UPDATE swatch SET settled = EXISTS (SELECT 1 FROM place WHERE place.swatch_id = swatch.id "
        "AND begun = 1) WHERE id = ?",
        ((swatch,) for swatch in every),
    )


def _swatch(row: sqlite3.Row) -> Swatch:
    true_levels: Levels | None = json.loads(row["true_levels"]) if row["true_levels"] else None
    return Swatch(
        code=row["code"],
        serial=row["serial"],
        tie=row["tie"],
        fibre=row["fibre"],
        mass_g=row["mass_g"],
        pieces=tuple(json.loads(row["pieces"])),
        levels=json.loads(row["levels"]),
        control=row["control"],
        larger=row["larger"],
        replicate=row["replicate"],
        planned=bool(row["planned"]),
        begun=bool(row["begun"]),
        settled=bool(row["settled"]),
        true_levels=true_levels,
        parent=row["parent"],
    )
