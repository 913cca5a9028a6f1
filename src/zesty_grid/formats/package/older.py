"""Packages of older versions of the format, made such as today's.

Version 1.0.0 held what an analysis needs: no sheets, notes of trials, light logs, earlier versions
of plans, choices of readings. What follows from the rest is put in its place; the rest is said.
"""

import hashlib
import json
from collections.abc import Callable
from typing import Any

import numpy as np

from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.core.read.instrument import InstrumentSample
from zesty_grid.core.read.measurement import Measurement
from zesty_grid.core.read.sheet_layout import MOST_CELLS, lay_out_sheet
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.states import AS_IT_CAME_WORDS
from zesty_grid.core.refusal import Refusal

FIRST = "1.0.0"
LOST = (
    "The package is of the first version of the format. It held neither sheets nor notes and light "
    "logs of trials, nor earlier versions of the plan: the sheets were laid out anew from its "
    "readings, and the doses of its trials must be said again.",
)
Row = dict[str, Any]
Rows = dict[str, list[Row]]
ReadFile = Callable[[str], bytes | None]


def brought_up_to_date(version: str, rows: Rows, file: ReadFile) -> tuple[str, ...]:
    """Fills the tables that a version did not have; answers what it could not say. Raises Refusal
    for a version that never was."""
    if version != FIRST:
        raise Refusal("unknown-version", f"There is no version {version} of the format.",
                      "Write the package again from the file that it came from.")  # fmt: skip
    plans = {row["study"]: json.loads(row["plan"]) for row in rows["studies"]}
    rows["plan_versions"] = [
        {"study": row["study"], "revision": row["revision"], "plan": row["plan"],
         "words": "as it stood in a package", "saved_at": row["created_at"]}
        for row in rows["studies"]
    ]  # fmt: skip
    _swatches(rows, plans)
    _runs(rows)
    _entries(rows)
    _trials(rows)
    _photos(rows, file)
    _readings(rows)
    return LOST


def _swatches(rows: Rows, plans: dict[str, Any]) -> None:
    # Those of studies that were not packed had no study.
    rows["swatches"] = [row for row in rows["swatches"] if row["study"] in plans]
    known = {row["swatch"] for row in rows["swatches"]}
    for table in ("run_members", "readings"):
        rows[table] = [row for row in rows[table] if row["swatch"] in known]
    for row in rows["swatches"]:
        row["pieces"] = json.dumps(plans[row["study"]].get("pieces", ["dark", "light", "wash"]))
        levels = dict(part.split("=", 1) for part in (row["cell"] or "").split(";") if part)
        rows["places"].append(
            {"study": row["study"], "swatch": row["swatch"], "levels": json.dumps(levels),
             "control": row["control"], "larger": None, "replicate": row["replicate"],
             "planned": row["planned"]}
        )  # fmt: skip


def _runs(rows: Rows) -> None:
    revision = {row["study"]: row["revision"] for row in rows["studies"]}
    known = {row["swatch"] for row in rows["swatches"]}
    members = {(row["run"], row["swatch"]): row for row in rows["run_members"]}
    for row in members.values():
        row["belongs"] = 0
    for row in rows["runs"]:
        bath = BenchVessel.model_validate_json(row["document"])
        row |= {"bath_stage": bath.vessel.stage, "revision": revision[row["study"]],
                "kept_at": row["begun_at"] or ""}  # fmt: skip
        for code in bath.vessel.swatches:
            if code in known:
                empty = {"run": row["run"], "swatch": code}
                members.setdefault((row["run"], code), empty)["belongs"] = 1
    rows["run_members"] = list(members.values())


def _entries(rows: Rows) -> None:
    """A cure named the deviation by its row: taken is the last one before it at the vessel."""
    last: dict[tuple[str, str], str] = {}
    for row in rows["entries"]:
        document = json.loads(row["document"] or "{}")
        at = (row["study"], row["vessel"])
        row["about"] = last.get(at) if document.pop("about", None) is not None else None
        if row["kind"] == "cure" and row["about"] is None:
            row["kind"] = "note"
            document = {"note": document.get("note") or f"cure: {document.get('cure', '')}"}
        row["document"] = json.dumps(document, ensure_ascii=False)
        if row["kind"] == "deviation":
            last[at] = row["entry"]


def _trials(rows: Rows) -> None:
    shown = {
        (row["trial"], row["swatch"]): row["state"] for row in rows["readings"] if row["trial"]
    }
    ended: dict[str, str] = {}
    for row in rows["run_members"]:
        if row.get("out_at"):
            ended[row["swatch"]] = row["run"]
    for row in rows["trials"]:
        for code in json.loads(row["plan"])["swatches"]:
            state = shown.get((row["trial"], code)) or ended.get(code) or AS_IT_CAME_WORDS
            rows["trial_swatches"].append({"trial": row["trial"], "swatch": code, "state": state})


def _photos(rows: Rows, file: ReadFile) -> None:
    readings: dict[str, list[Row]] = {}
    for row in rows["readings"]:
        if row["calibration"]:
            readings.setdefault(row["calibration"], []).append(row)
    photos = {(row["study"], row["photo"]): row for row in rows["photos"]}
    sheets: dict[str, Row] = {}
    for calibration, those in readings.items():
        first = those[0]
        photo = photos.get((first["study"], first["photo"]))
        data = file(calibration)
        if photo is None or data is None:
            continue
        measured = Measurement.model_validate_json(data)
        sheet = measured.sheet_id or photo["photo"][:12]
        photo |= {"sheet": sheet, "waiting": 0, "discarded": 0, "taken_on": first["taken_on"]}
        sheets.setdefault(sheet, _sheet(sheet, len(measured.cells), those, photo))
        rows["measurements"].append(
            {"calibration": calibration, "study": photo["study"], "photo": photo["photo"],
             "measured_at": photo["uploaded_at"]}
        )  # fmt: skip
    for row in rows["photos"]:
        row.setdefault("sheet", None)
    rows["sheets"] = list(sheets.values())


def _sheet(name: str, cells: int, readings: list[Row], photo: Row) -> Row:
    laid = lay_out_sheet(name, min(max(cells, 1), MOST_CELLS["cuttings"]))
    assigned = {
        row["sheet_cell"]: {"cell": row["sheet_cell"], "swatch": row["swatch"],
                            "piece": row["piece"]}
        for row in readings
    }  # fmt: skip
    return {"sheet": name, "study": photo["study"], "trial": readings[0]["trial"], "page": 1,
            "layout": laid.model_dump_json(), "assignments": json.dumps(list(assigned.values())),
            "created_at": photo["uploaded_at"]}  # fmt: skip


def _readings(rows: Rows) -> None:
    measured = {row["calibration"] for row in rows["measurements"]}
    for row in rows["readings"]:
        lab = (row["lightness"], row["a_star"], row["b_star"])
        row |= {
            "said_state": row["state"] or AS_IT_CAME_WORDS, "shown_at": row["accepted_at"],
            "colour_words": colour_words(np.array(lab)), "evenness_de00": 0.0, "chart_de00": 0.0,
            "warnings": "[]", "share": 1.0 if row["zone"] else None,
        }  # fmt: skip
        if row["calibration"] not in measured:
            row["calibration"] = None
            _as_a_sample(rows, row, lab)
        if bool(row["counts"]) == bool(row["damp"]):
            rows["reading_choices"].append(
                {"reading": row["reading"], "number": 1, "counts": row["counts"], "who": "",
                 "state": None, "note": "as in a package", "at": row["accepted_at"]}
            )  # fmt: skip


def _as_a_sample(rows: Rows, row: Row, lab: tuple[float, float, float]) -> None:
    name = row["instrument"] or "not said"
    file = hashlib.sha256(f"{row['study']} {name} {row['taken_on']}".encode()).hexdigest()
    if not any(one["file"] == file for one in rows["instrument_files"]):
        rows["instrument_files"].append(
            {"study": row["study"], "file": file, "filename": "from a package",
             "instrument": name, "measured_on": row["taken_on"], "content": "",
             "kept_at": row["accepted_at"]}
        )  # fmt: skip
    row["sample"] = row["reading"].replace("/reading-", "/sample-")
    sample = InstrumentSample(
        name=row["swatch"], swatch=row["swatch"], piece=row["piece"], lab=lab, hex=row["hex"],
        colour_words=row["colour_words"], uncertainty_de00=row["uncertainty_de00"],
    )  # fmt: skip
    rows["instrument_samples"].append(
        {"sample": row["sample"], "study": row["study"], "file": file, "swatch": row["swatch"],
         "document": sample.model_dump_json()}
    )  # fmt: skip
