"""What a study's runs were like, as the log has it: what differs between two of one recipe."""

import sqlite3
from dataclasses import replace
from statistics import mean

from zesty_grid.core.compare.filled import fill_gaps
from zesty_grid.core.compare.studies_beside import OneStudy
from zesty_grid.core.plan.cells import cell_key
from zesty_grid.core.plan.factor_words import FACTOR_WORDS
from zesty_grid.core.weigh.working import duration_words
from zesty_grid.store.compared_swatches import Looked, swatches_looked_at
from zesty_grid.store.dye import standing_entries
from zesty_grid.store.runs import StoredRun
from zesty_grid.store.standing import StandingStudy, standing_study

DYE_BATHS = ("mordant", "dye", "overdye", "adjust", "iron")


def one_study(connection: sqlite3.Connection, standing: StandingStudy) -> OneStudy:
    looked = swatches_looked_at(connection, standing)
    planned = standing.planned
    words: dict[tuple[str, str], str] = {}
    swatches = []
    for one in looked.swatches:
        # Factors with a single level are fixed there, and may vary in the other study.
        code = one.code.split(" ")[0]
        levels = {str(k): v for k, v in planned.levels(planned.by_code[code]).items()}
        levels |= {k: v for k, v in one.levels.items() if v}
        swatches.append(one.model_copy(update={"levels": levels}))
        named = planned.level_words(planned.levels(planned.by_code[code]))
        words |= {(kind, levels[kind]): label for kind, label in named.items() if kind in levels}
    return OneStudy(
        name=standing.plan.name,
        swatches=swatches,
        level_words=words,
        facts=_facts(connection, standing),
        keys=looked.keys,
    )


def filled_in(connection: sqlite3.Connection, standing: StandingStudy, looked: Looked, other: int | None) -> Looked:
    """What was looked at, with the swatches of a make-up run in the gaps; of none, as it was."""
    if other is None or other == standing.stored.id:
        return looked
    mended = one_study(connection, standing_study(connection, other))
    kinds = [factor.kind for factor in standing.plan.factors]
    labels = {str(factor.kind): {level.label: level.key for level in factor.levels} for factor in standing.plan.factors}
    own = [one.model_copy(update={"levels": _whole_levels(standing, one.code) | one.levels}) for one in looked.swatches]
    more = fill_gaps(own, labels, mended, other)
    cells = {one.code: cell_key({kind: one.levels[kind] for kind in kinds}) for one in more}
    factors = [str(kind) for kind in kinds if len({one.levels.get(kind, "") for one in (*own, *more)}) > 1]
    words = dict(looked.words)
    for factor in standing.plan.factors:
        words.setdefault(str(factor.kind), FACTOR_WORDS[factor.kind])
        for level in factor.levels:
            words.setdefault(f"{factor.kind}={level.key}", level.label)
    return replace(
        looked,
        swatches=[*own, *more],
        factors=tuple(factors),
        cells=cells,
        words=words,
        level_order={str(f.kind): tuple(v.key for v in f.levels) for f in standing.plan.factors},
        keys=looked.keys | {code: mended.keys[code] for code in cells},
    )


def _whole_levels(standing: StandingStudy, name: str) -> dict[str, str]:
    swatch = standing.planned.by_code[name.split(" ")[0]]
    return {str(kind): level for kind, level in standing.planned.levels(swatch).items()}


def _facts(connection: sqlite3.Connection, standing: StandingStudy) -> dict[str, str]:
    plan = standing.plan
    waters = {one.key: one.name for one in standing.shelf.waters}
    found = {
        "Water": waters.get(plan.water or "", "not said"),
        "Liquor": f"{plan.liquor_ratio_ml_per_g:g} mL/g",
        "Swatch": f"{plan.swatch_mass_g:g} g",
    }
    days = sorted(
        row["begun_at"][:10]
        for row in connection.execute(
            "SELECT begun_at FROM run WHERE study_id = ? AND void = 0 AND begun_at IS NOT NULL "
            "AND bath IN ('dye', 'overdye')",
            (standing.stored.id,),
        )
    )
    if days:
        found["Dyed"] = days[0] if days[0] == days[-1] else f"{days[0]} to {days[-1]}"
    for bath in DYE_BATHS:
        runs = [run for run in standing.runs if run.vessel.vessel.bath == bath]
        found |= _true_values(connection, standing.stored.id, bath, runs)
    return found


def _true_values(connection: sqlite3.Connection, study_id: int, bath: str, runs: list[StoredRun]) -> dict[str, str]:
    """True temperatures, pH and times of the baths of a kind, as far as they were logged."""
    warm, acid, minutes = [], [], []
    for run in runs:
        for entry in standing_entries(connection, study_id, run.name, kinds=("record",)):
            warm += [entry.temperature_c] if entry.temperature_c is not None else []
            acid += [entry.ph] if entry.ph is not None else []
        row = connection.execute(
            "SELECT avg((julianday(out_at) - julianday(in_at)) * 1440) AS stayed FROM passage "
            "WHERE run_id = ? AND out_at IS NOT NULL",
            (run.id,),
        ).fetchone()
        minutes += [row["stayed"]] if row["stayed"] else []
    name = bath.capitalize()
    found = {}
    if warm:
        found[f"{name} bath, measured"] = f"{mean(warm):.0f} °C"
    if acid:
        found[f"{name} bath, pH"] = f"{min(acid):.1f} to {max(acid):.1f}"
    if minutes:
        found[f"{name} bath, time"] = duration_words(mean(minutes))
    return found
