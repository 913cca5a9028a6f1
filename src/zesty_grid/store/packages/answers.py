"""What of a study package is worked out for its readers: factors, cells, effects."""

import sqlite3
from typing import Any

from zesty_grid.store.compared import study_compared
from zesty_grid.store.standing import standing_study

Rows = list[dict[str, Any]]


def factors_of(connection: sqlite3.Connection, study_id: int) -> Rows:
    standing = standing_study(connection, study_id)
    rows = set(standing.plan.rows)
    return [
        {
            "study": _uid(connection, study_id),
            "factor": str(factor.kind),
            "position": position,
            "axis": "row" if factor.kind in rows else "column",
        }
        for position, factor in enumerate(standing.plan.factors)
    ]


def cells_of(swatches: Rows) -> Rows:
    cells: dict[tuple[str, str], dict[str, Any]] = {}
    for row in swatches:
        cell = cells.setdefault(
            (row["study"], row["cell"]),
            {"study": row["study"], "cell": row["cell"], "control": row["control"], "swatches": 0},
        )
        cell["swatches"] += 1
    return list(cells.values())


def effects_of(connection: sqlite3.Connection, study_id: int) -> Rows:
    compared, _ = study_compared(connection, standing_study(connection, study_id))
    return [
        {
            "study": _uid(connection, study_id),
            "factor": one.factor,
            "from_level": one.from_level,
            "to_level": one.to_level,
            "delta_lightness": one.delta_lab[0],
            "delta_a_star": one.delta_lab[1],
            "delta_b_star": one.delta_lab[2],
            "de00": one.de00,
            "low_de00": one.low_de00,
            "high_de00": one.high_de00,
            "p": one.p,
            "verdict": one.verdicts.again,
            "these_pieces": one.verdicts.pieces,
            "as_a_rule": one.verdicts.rule,
        }
        for one in (compared.effects if compared else ())
        if one.delta_lab is not None
    ]


def _uid(connection: sqlite3.Connection, study_id: int) -> str:
    return str(connection.execute("SELECT uid FROM study WHERE id = ?", (study_id,)).fetchone()["uid"])
