"""The record of a whole file, to be compared with itself later."""

import json
import sqlite3
from typing import Any

from zesty_grid.store.plan import list_study_ids
from zesty_grid.store.standing import standing_study
from zesty_grid.store.swatch_record import record_of


def snapshot(connection: sqlite3.Connection) -> dict[str, Any]:
    """All that must not change by itself, table by table and swatch by swatch."""

    def rows(sql: str) -> list[dict[str, Any]]:
        return [dict(row) for row in connection.execute(sql)]

    found: dict[str, Any] = {
        "studies": list_study_ids(connection),
        "swatch": {r["code"]: (r["tie"], r["parent_id"]) for r in rows("SELECT * FROM swatch")},
        "run": {r["id"]: r["document"] for r in rows("SELECT * FROM run")},
        "reading": {
            r["id"]: (r["swatch_id"], r["lab_l"], r["piece"], r["damp"]) for r in rows("SELECT * FROM reading")
        },
        "entry": {r["id"]: tuple(r.values()) for r in rows("SELECT * FROM bench_entry")},
        "version": {(r["study_id"], r["revision"]): r["plan"] for r in rows("SELECT * FROM plan_version")},
        "bath": {},
        "who": {},
        "record": {},
    }
    for run in rows("SELECT * FROM run WHERE void = 0"):
        key = (run["study_id"], run["name"])
        steps = rows(f"SELECT * FROM run_step WHERE run_id = {run['id']} ORDER BY key")
        inside = rows(f"SELECT * FROM passage WHERE run_id = {run['id']} ORDER BY swatch_id")
        found["bath"][key] = (run, steps, inside)
        who = rows(
            "SELECT code FROM swatch WHERE id IN (SELECT swatch_id FROM run_member WHERE "
            f"run_id = {run['id']} UNION SELECT swatch_id FROM passage WHERE run_id = "
            f"{run['id']})"
        )
        # An extract's mishap touches all that draw from it.
        found["who"].setdefault(key, set()).update(row["code"] for row in who)
        draws = json.loads(run["document"])["draws_from"]
        if draws:
            found["who"].setdefault((run["study_id"], draws), set())
            found["who"][run["study_id"], draws] |= found["who"][key]
    for study in found["studies"]:
        standing_now = standing_study(connection, study)
        for swatch in standing_now.planned.swatches:
            if swatch.begun:
                record = record_of(connection, study, swatch.code)
                assert record is not None
                found["record"][study, swatch.code] = (
                    swatch.levels,
                    swatch.fibre,
                    swatch.mass_g,
                    swatch.pieces,
                    [p for p in record.passages if p.begun],
                    record.states,
                    record.readings,
                    record.marks,
                )
    return found
