"""Brings a file of the version before the record over: migration 005, what SQL cannot say.

Baths that have begun are kept as they stand at opening, swatches keep their codes and the ties
that they had, and everything that was logged and read stays where it was.
"""

import json
import sqlite3
from dataclasses import dataclass, field, replace
from datetime import UTC, date, datetime

import numpy as np

from zesty_grid.core.dye.bench import bench_of
from zesty_grid.core.dye.earlier_steps import as_before, shelf_of_before
from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.plan.controls import all_cells
from zesty_grid.core.plan.placement import Slot, mass_of_cell_g, slots_of
from zesty_grid.core.plan.planned_study import PlannedStudy, archive_of
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.ties import ties_for
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.read.colour_space import lab_to_hex
from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.core.read.readings import moment_of
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.entry import BEGINS
from zesty_grid.core.record.swatch import Levels, Swatch
from zesty_grid.core.record.taken import NamedVessel
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.kept_recipes import with_kept
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.store.database import now, stamp
from zesty_grid.store.dye import load_protocol
from zesty_grid.store.fade import keep_stages
from zesty_grid.store.keeping import name_planned
from zesty_grid.store.lost_baths import lost_bath, lost_name
from zesty_grid.store.projecting import project_study
from zesty_grid.store.runs import keep_run, save_planned
from zesty_grid.store.shelf import load_shelf


@dataclass
class _Old:
    """A study as the version before showed it; `names` of its vessels by the keys that they had."""

    id: int
    revision: int
    study: PlannedStudy
    bench: list[BenchVessel]
    names: dict[str, str] = field(default_factory=dict)


# Tables of later migrations that are asked for meanwhile, and in which there is nothing yet.
LATER = {
    "instrument_sample": "(swatch_id INTEGER, file_id INTEGER)",
    "instrument_file": "(id INTEGER, study_id INTEGER)",
}


def bring_over(connection: sqlite3.Connection) -> None:
    for name, columns in LATER.items():
        connection.execute(f"CREATE TEMP TABLE {name} {columns}")
    _bring_over(connection)
    for name in LATER:
        connection.execute(f"DROP TABLE temp.{name}")


def _bring_over(connection: sqlite3.Connection) -> None:
    rows = connection.execute("SELECT * FROM study ORDER BY id").fetchall()
    shelf = load_shelf(connection)
    olds = [_as_it_stands(connection, row, shelf) for row in rows]
    for row, old in zip(rows, olds, strict=True):
        _keep_plan(connection, row, old.study.plan)
        _keep_swatches(connection, old)
    connection.execute("DROP TABLE swatch")
    connection.execute("ALTER TABLE swatch_thing RENAME TO swatch")
    for old in olds:
        _rename_in_log(connection, old)
        _rename_in_day_plans(connection, old)
    _replace_log_tables(connection)
    for old in olds:
        _keep_baths(connection, old)
    _keep_trials(connection)
    # Readings had no zones yet; what follows from the log asks for them.
    connection.execute("CREATE TEMP VIEW reading AS SELECT *, '' AS zone FROM main.reading")
    for old in olds:
        project_study(connection, old.id)
    connection.execute("DROP VIEW temp.reading")
    _place_readings(connection)
    for old in olds:
        name_planned(connection, old.id)


def _as_it_stands(connection: sqlite3.Connection, row: sqlite3.Row, live: Shelf) -> _Old:
    plan = StudyPlan.model_validate_json(row["plan"])
    kept = Shelf.model_validate_json(row["kept_shelf"]) if row["kept_shelf"] else None
    shelf = shelf_of_before(with_kept(live, kept) if kept else live)
    cells = all_cells(plan, shelf)
    swatches = connection.execute(
        "SELECT * FROM swatch WHERE study_id = ? ORDER BY serial", (row["id"],)
    ).fetchall()
    slots = {(slot.cell.key, slot.replicate): slot for slot in slots_of(plan, cells)}
    things = [_swatch(plan, one, slots.get((one["cell"], one["replicate"]))) for one in swatches]
    study = PlannedStudy(plan, shelf, things, archive_of([plan]))
    try:
        protocol = load_protocol(connection, row["id"])
        bench = [as_before(one) for one in bench_of(study, protocol)]
        vessels = [vessel.swatches for vessel in vessels_of(study)]
    except Refusal:
        # What the plan draws on is gone from the Shelf: its baths are known by the log alone.
        bench, vessels = [], []
    planned = [swatch.code for swatch in study.planned]
    ties = {tie.swatch: tie.words for tie in ties_for(vessels, planned)}
    tied = [one.model_copy(update={"tie": ties.get(one.code, "")}) for one in things]
    return _Old(row["id"], row["revision"], replace(study, swatches=tied), bench)


def _swatch(plan: StudyPlan, row: sqlite3.Row, slot: Slot | None) -> Swatch:
    """A swatch by the key of its cell, in which its levels are written."""
    levels, control = _levels_in(row["cell"])
    return Swatch.model_validate(
        {
            "code": row["code"], "serial": row["serial"], "fibre": levels.get("fibre", ""),
            "mass_g": mass_of_cell_g(plan, slot.cell) if slot else plan.swatch_mass_g,
            "pieces": plan.pieces, "levels": levels, "control": control,
            "replicate": row["replicate"], "planned": slot is not None,
        }
    )  # fmt: skip


def _levels_in(cell: str) -> tuple[Levels, str | None]:
    pairs = dict(part.partition("=")[::2] for part in cell.split(";"))
    control = pairs.pop("control", None)
    return pairs, control  # type: ignore[return-value]


def _keep_plan(connection: sqlite3.Connection, row: sqlite3.Row, plan: StudyPlan) -> None:
    connection.execute(
        "UPDATE study SET name = ?, question = ? WHERE id = ?",
        (plan.name, plan.question, row["id"]),
    )
    connection.execute(
        "INSERT INTO plan_version (study_id, revision, plan, words, saved_at) "
        "VALUES (?, ?, ?, ?, ?)",
        (row["id"], row["revision"], plan.model_dump_json(),
         "as it stood when versions began to be kept", now()),
    )  # fmt: skip
    connection.executemany(
        "INSERT INTO study_level (study_id, kind, key, document) VALUES (?, ?, ?, ?)",
        (
            (row["id"], kind, key, level.model_dump_json())
            for (kind, key), level in archive_of([plan]).items()
        ),
    )


def _keep_swatches(connection: sqlite3.Connection, old: _Old) -> None:
    ids = dict(
        connection.execute("SELECT code, id FROM swatch WHERE study_id = ?", (old.id,)).fetchall()
    )
    for one in old.study.swatches:
        connection.execute(
            "INSERT INTO swatch_thing (id, study_id, serial, code, tie, fibre, mass_g, pieces) "
            "VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
            (ids[one.code], old.id, one.serial, one.code, one.tie, one.fibre, one.mass_g,
             json.dumps(one.pieces)),
        )  # fmt: skip
        connection.execute(
            "INSERT INTO place (study_id, swatch_id, levels, control, larger, replicate, planned) "
            "VALUES (?, ?, ?, ?, NULL, ?, ?)",
            (old.id, ids[one.code], json.dumps(one.levels), one.control, one.replicate,
             int(one.planned)),
        )  # fmt: skip


def _rename_in_log(connection: sqlite3.Connection, old: _Old) -> None:
    old.names |= {one.vessel.key: one.name for one in old.bench}
    rows = connection.execute(
        "SELECT * FROM bench_entry WHERE study_id = ? ORDER BY id", (old.id,)
    ).fetchall()
    for row in rows:
        if row["vessel"] and row["vessel"] not in old.names:
            old.names[row["vessel"]] = lost_name(row["vessel"], old.names.values())
        kind, document = _as_said_now(row["kind"], json.loads(row["document"]))
        connection.execute(
            "INSERT INTO bench_entry_named (id, study_id, key, vessel, step, kind, at, "
            "entered_at, received_at, who, replaces, document) "
            "VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            (row["id"], old.id, row["key"], old.names.get(row["vessel"], ""), row["step"], kind,
             row["at"], row["at"], row["received_at"], row["who"], row["replaces"],
             json.dumps(document)),
        )  # fmt: skip
    connection.executemany(
        "INSERT INTO probe_reading_named (study_id, vessel, probe, at, temperature_c, ph) "
        "VALUES (?, ?, ?, ?, ?, ?)",
        (
            (old.id, old.names.get(r["vessel"], lost_name(r["vessel"], old.names.values())),
             r["probe"], r["at"], r["temperature_c"], r["ph"])
            for r in connection.execute(
                "SELECT * FROM probe_reading WHERE study_id = ? ORDER BY id", (old.id,)
            ).fetchall()
        ),
    )  # fmt: skip


def _as_said_now(kind: str, document: dict[str, object]) -> tuple[str, dict[str, object]]:
    """A dose of the version before is an addition in grams."""
    if kind != "dose":
        return kind, document
    rest = {k: v for k, v in document.items() if k not in ("grams", "substance")}
    grams = document.get("grams")
    addition = {
        "what": "substance", "amount": grams, "unit": "g", "name": document.get("substance"),
        "grams": grams, "working": f"{grams:g} g" if isinstance(grams, float) else f"{grams} g",
    }  # fmt: skip
    return "addition", rest | {"addition": addition}


def _rename_in_day_plans(connection: sqlite3.Connection, old: _Old) -> None:
    rows = connection.execute(
        "SELECT id, document FROM schedule WHERE study_id = ?", (old.id,)
    ).fetchall()
    for row in rows:
        document = json.loads(row["document"])
        for part in (*document["work"], *document["stays"]):
            part["vessel"] = part.pop("vessel_name")
        for work in document["work"]:
            work["task"] = f"{work['vessel']}|{work['task'].rpartition('|')[2]}"
        connection.execute(
            "UPDATE schedule SET document = ? WHERE id = ?", (json.dumps(document), row["id"])
        )


def _replace_log_tables(connection: sqlite3.Connection) -> None:
    for statement in (
        "DROP TABLE bench_entry",
        "ALTER TABLE bench_entry_named RENAME TO bench_entry",
        "CREATE INDEX bench_entry_by_study ON bench_entry (study_id, vessel, step)",
        "CREATE TRIGGER bench_entry_is_never_changed BEFORE UPDATE ON bench_entry "
        "BEGIN SELECT RAISE(ABORT, 'bench entries are never overwritten'); END",
        "CREATE TRIGGER bench_entry_is_never_deleted BEFORE DELETE ON bench_entry "
        "BEGIN SELECT RAISE(ABORT, 'bench entries are never deleted'); END",
        "DROP TABLE probe_reading",
        "ALTER TABLE probe_reading_named RENAME TO probe_reading",
        "CREATE INDEX probe_reading_by_vessel ON probe_reading (study_id, vessel, at)",
        "CREATE TRIGGER probe_reading_is_never_changed BEFORE UPDATE ON probe_reading "
        "BEGIN SELECT RAISE(ABORT, 'readings are never overwritten'); END",
        "CREATE TRIGGER probe_reading_is_never_deleted BEFORE DELETE ON probe_reading "
        "BEGIN SELECT RAISE(ABORT, 'readings are never deleted'); END",
    ):
        connection.execute(statement)


def _keep_baths(connection: sqlite3.Connection, old: _Old) -> None:
    save_planned(
        connection, old.id,
        (
            NamedVessel(name=one.name, bath=one.vessel.bath, key=one.vessel.key,
                        swatches=one.vessel.swatches)
            for one in old.bench
        ),
    )  # fmt: skip
    begun = {
        row["vessel"]
        for row in connection.execute(
            "SELECT DISTINCT vessel, kind FROM bench_entry WHERE study_id = ? AND vessel <> ''",
            (old.id,),
        )
        if row["kind"] in BEGINS
    }
    for one in old.bench:
        if one.name in begun:
            keep_run(connection, old.id, old.revision, one)
    there = {one.name for one in old.bench}
    for key, name in old.names.items():
        if name in begun and name not in there:
            entries = connection.execute(
                "SELECT step, document FROM bench_entry WHERE study_id = ? AND vessel = ? "
                "ORDER BY at, id",
                (old.id, name),
            ).fetchall()
            steps = [row["step"] for row in entries if row["step"]]
            codes = [
                code for row in entries for code in json.loads(row["document"]).get("swatches", ())
            ]
            known = [code for code in dict.fromkeys(codes) if code in old.study.by_code]
            keep_run(connection, old.id, old.revision, lost_bath(name, key, steps, known))


def _keep_trials(connection: sqlite3.Connection) -> None:
    for row in connection.execute("SELECT * FROM trial ORDER BY id").fetchall():
        plan = TrialPlan.model_validate_json(row["plan"])
        keep_stages(connection, row["id"], plan)
        ids = [
            found[0]
            for code in plan.swatches
            if (found := connection.execute(
                "SELECT id FROM swatch WHERE code = ?", (code,)).fetchone())
        ]  # fmt: skip
        connection.executemany(
            "INSERT INTO trial_swatch (trial_id, swatch_id, run_id) VALUES (?, ?, 0)",
            ((row["id"], swatch) for swatch in ids),
        )


def _place_readings(connection: sqlite3.Connection) -> None:
    """Each reading in the state of its day, with the colour that the screen shows."""
    rows = connection.execute(
        "SELECT id, swatch_id, taken_on, accepted_at, lab_l, lab_a, lab_b FROM reading ORDER BY id"
    ).fetchall()
    for row in rows:
        lab = np.array([row["lab_l"], row["lab_a"], row["lab_b"]])
        moment = moment_of(_day(row["taken_on"]), None, _moment(row["accepted_at"]))
        connection.execute(
            "UPDATE reading SET shown_at = ?, hex = ?, colour_words = ? WHERE id = ?",
            (stamp(moment), lab_to_hex(lab), colour_words(lab), row["id"]),
        )
    columns = [row["name"] for row in connection.execute("PRAGMA table_info(reading)")]
    kept = ", ".join(name for name in columns if name != "run_id")
    connection.execute(
        f"CREATE TRIGGER reading_is_never_changed BEFORE UPDATE OF {kept} ON reading "
        "BEGIN SELECT RAISE(ABORT, 'readings are never overwritten'); END"
    )
    connection.execute(
        "UPDATE photo SET waiting = NOT EXISTS (SELECT 1 FROM reading WHERE measurement_id = "
        "(SELECT max(id) FROM measurement WHERE measurement.photo_id = photo.id))"
    )
    connection.execute(
        "UPDATE trial_swatch SET run_id = coalesce((SELECT passage.run_id FROM passage "
        "JOIN trial ON trial.id = trial_swatch.trial_id WHERE "
        "passage.swatch_id = trial_swatch.swatch_id AND passage.ended = 1 "
        "AND passage.out_at <= trial.created_at ORDER BY passage.out_at DESC LIMIT 1), 0)"
    )


def _day(text: str) -> date:
    try:
        return date.fromisoformat(text[:10])
    except ValueError:
        return date.max


def _moment(text: str) -> datetime:
    try:
        found = datetime.fromisoformat(text)
    except ValueError:
        return datetime.now(UTC)
    return found if found.tzinfo else found.replace(tzinfo=UTC)
