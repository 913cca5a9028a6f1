"""Names that last for rows, in place of their numbers in one file."""

import sqlite3
from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass, field
from hashlib import sha256

from zesty_grid.core.plan.swatch_codes import on_label
from zesty_grid.core.record.states import AS_IT_CAME, AS_IT_CAME_WORDS, bath_of, pause_of

# Numbered in the order in which they were written, within their study or trial.
NUMBERED = {
    "run": ("SELECT id, study_id AS of FROM run WHERE study_id = ?", "/run-{:04d}"),
    "trial": ("SELECT id, study_id AS of FROM trial WHERE study_id = ?", "/trial-{:03d}"),
    "reading": (
        "SELECT reading.id, swatch.study_id AS of FROM reading JOIN swatch "
        "ON swatch.id = swatch_id WHERE swatch.study_id = ?",
        "/reading-{:06d}",
    ),
    "sample": (
        "SELECT instrument_sample.id, study_id AS of FROM instrument_sample JOIN instrument_file "
        "ON instrument_file.id = file_id WHERE study_id = ?",
        "/sample-{:05d}",
    ),
    "measurement": (
        "SELECT measurement.id, study_id AS of FROM measurement JOIN photo ON photo.id = photo_id WHERE study_id = ?",
        "/{:05d}.json",
    ),
}
# Told apart by their study: the same photo may have been read in two.
# Between the name of a bath and which of its pauses is meant.
PAUSE = "/pause-"
OF_A_STUDY = frozenset({"photo", "file"})
GIVEN = {
    "entry": "SELECT id, key AS name FROM bench_entry WHERE study_id = ?",
    "photo": "SELECT id, sha256 AS name FROM photo WHERE study_id = ?",
    "file": "SELECT id, sha256 AS name FROM instrument_file WHERE study_id = ?",
}


@dataclass
class Names:
    """By kind and row number; those that are told apart by their study with its identity before
    them. `codes`: of swatches, from the code in this file to the one in the
    package."""

    rows: dict[tuple[str, int], str] = field(default_factory=dict)
    codes: dict[str, str] = field(default_factory=dict)

    def of(self, kind: str, number: int | None) -> str | None:
        if kind == "state":
            return self._state(number)
        if number is None:
            return None
        name = self.rows[kind, number]
        return name.partition("/")[2] if kind in OF_A_STUDY else name

    def _state(self, state: int | None) -> str | None:
        """As it came, a bath, or one of its pauses."""
        if state == AS_IT_CAME:
            return AS_IT_CAME_WORDS
        if state is None or state > 0:
            return self.of("run", state)
        return f"{self.of('run', bath_of(state))}{PAUSE}{pause_of(state)}"

    def numbers(self, kind: str) -> dict[int, str]:
        return {number: name for (one, number), name in self.rows.items() if one == kind}


def names_of(connection: sqlite3.Connection, study_ids: Iterable[int]) -> Names:
    """The names of all rows of some studies that belong together."""
    names = Names()
    for study_id in study_ids:
        uid = connection.execute("SELECT uid FROM study WHERE id = ?", (study_id,)).fetchone()[0]
        names.rows["study", study_id] = uid
        for kind, (sql, pattern) in NUMBERED.items():
            start = f"calibrations/{uid}" if kind == "measurement" else uid
            for number, row in enumerate(connection.execute(f"{sql} ORDER BY 1", (study_id,)), 1):
                names.rows[kind, row["id"]] = start + pattern.format(number)
        for kind, sql in GIVEN.items():
            for row in connection.execute(sql, (study_id,)):
                names.rows[kind, row["id"]] = f"{uid}/{row['name']}" if kind in OF_A_STUDY else row["name"]
    for number, trial in names.numbers("trial").items():
        logs = connection.execute("SELECT id FROM light_log WHERE trial_id = ? ORDER BY id", (number,))
        for place, row in enumerate(logs, 1):
            names.rows["log", row["id"]] = f"{trial}/log-{place:02d}"
    for row in connection.execute("SELECT * FROM capture"):
        names.rows["light", row["id"]] = light_name(row["camera"], row["response"])
    _name_swatches(connection, names)
    return names


def light_name(camera: str, response: str) -> str:
    return sha256(f"{camera}\n{response}".encode()).hexdigest()[:12]


def _name_swatches(connection: sqlite3.Connection, names: Names) -> None:
    """By the codes on their labels, where no two of the package have the same."""
    every = [
        row
        for study_id in names.numbers("study")
        for row in connection.execute("SELECT id, code FROM swatch WHERE study_id = ?", (study_id,))
    ]
    often = Counter(on_label(row["code"]) for row in every)
    for row in every:
        label = on_label(row["code"])
        name = label if often[label] == 1 else row["code"]
        names.rows["swatch", row["id"]] = name
        names.codes[row["code"]] = name
