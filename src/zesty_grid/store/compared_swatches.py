"""The swatches of a study as the model of noise takes them: what each really got, in which vessels it
was, and its colour in a state."""

import json
import sqlite3
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from itertools import combinations
from typing import NamedTuple, cast

from zesty_grid.core.compare.coloured import state_key
from zesty_grid.core.compare.compared import ComparedSwatch, CompareQuestion
from zesty_grid.core.noise.levels import Noise
from zesty_grid.core.plan.factor_words import FACTOR_WORDS
from zesty_grid.core.plan.factors import FACTOR_ORDER, FactorKind
from zesty_grid.core.read.difference_uncertainty import Seen, mean_lab, mean_uncertainty, own_error
from zesty_grid.core.record.states import AS_IT_CAME, AS_IT_CAME_WORDS
from zesty_grid.store.compare import readings_by_state
from zesty_grid.store.kept import Kept
from zesty_grid.store.read import SeenReading
from zesty_grid.store.runs import held_by_run
from zesty_grid.store.standing import StandingStudy
from zesty_grid.store.state_colours import state_names

# Baths in which pieces of all levels lie together, or that hold no cloth.
NO_VESSEL = ("scour", "extract", "wash")
DYEING = ("dye", "overdye")
# The kind of state in which further treatments count too, the factor that they make, and its level without any.
GONE_ON, WENT_ON, AS_IT_WAS = "gone on", "went_on", "as-it-was"
PART = "part_of_mark"


class Bathed(NamedTuple):
    kind: str
    study: int
    vessel: str
    treatment: str | None
    day: str


@dataclass(frozen=True)
class Looked:
    """`levelness_de00` by code; `words` name factors and levels, `level_order` has the levels as
    the plan has them, `keys` names the state that was looked at; `cells` where
    swatches of another study fill a gap. A zone of a cloth goes by
    the cloth's code and its name."""

    swatches: list[ComparedSwatch]
    levelness_de00: dict[str, float]
    factors: tuple[str, ...]
    level_order: dict[str, tuple[str, ...]]
    words: dict[str, str]
    keys: dict[str, str]
    cells: dict[str, str] = field(default_factory=dict)

    def question(self, noise: Noise | None = None, with_pairs: bool = True) -> CompareQuestion:
        """Which of the factors make a difference, and whether any two act on each other; `noise` as other studies
        taught it."""
        return CompareQuestion(
            swatches=tuple(self.swatches),
            factors=self.factors,
            level_order=self.level_order,
            interactions=tuple(combinations(self.factors, 2)) if with_pairs else (),
            noise=noise,
            words=self.words,
        )


# Every view of Compare asks for it: 1.4 s of processor time with 2,000 swatches.
_kept: Kept[Looked] = Kept(4)


def swatches_looked_at(connection: sqlite3.Connection, standing: StandingStudy, kind: str = "") -> Looked:
    """`kind` of state; empty: the last state of the crossing in which each was read; `GONE_ON`: the last state of all,
    and by which further treatments it went on is one more factor. Controls that were added and larger pieces are none
    of the crossing. Nobody changes it."""
    return _kept.of_study(connection, standing.stored.id, kind, lambda: _looked_at(connection, standing, kind))


def _looked_at(connection: sqlite3.Connection, standing: StandingStudy, kind: str) -> Looked:
    planned = standing.planned
    vessels = _planned_vessels(connection, standing)
    read = readings_by_state(connection, standing)
    ever = {run for order, _ in read.values() for run in order if run}
    kinds = {AS_IT_CAME: AS_IT_CAME_WORDS} | {one.run: one.kind for one in state_names(connection, ever)}
    baths = _baths(connection, ever)
    study = standing.stored.id
    cells = {cell.key: cell for cell in planned.cells}
    found: list[ComparedSwatch] = []
    levelness: dict[str, float] = {}
    keys: dict[str, str] = {}
    seen_levels: dict[tuple[str, str], None] = {}
    for (code, zone), (order, by_state) in read.items():
        swatch = planned.by_code[code]
        own_order = [run for run in order if _counts(baths.get(run), study, kind == GONE_ON)]
        runs = [run for run in own_order if run in by_state and kind in ("", GONE_ON, kinds.get(run))]
        if not runs or swatch.added or code in planned.guests:
            continue
        levels: dict[str, str] = {str(factor): level for factor, level in planned.levels(swatch).items()}
        if zone:
            key, part = planned.zone_and_part(swatch, zone)
            cell = cells.get(key or "")
            if cell is None:
                continue
            levels = {str(factor): level for factor, level in cell.levels.items()}
            levels |= {PART: part} if part else {}
        readings = by_state[runs[-1]]
        name = f"{code} {zone}" if zone else code
        behind = own_order[1 : own_order.index(runs[-1]) + 1]
        own = _was_in(behind, baths) if len(order) > 1 else vessels.get(code, {})
        own |= {"cloth": code} if zone else {}
        way = [bath.treatment for run in behind if (bath := baths.get(run)) and bath.treatment]
        levels |= {WENT_ON: "+".join(way) or AS_IT_WAS} if kind == GONE_ON else {}
        day = _dyed_on(behind, baths)
        found.append(_compared(name, levels, own, day, readings))
        keys[name] = state_key(code, runs[-1], zone)
        levelness[name] = sum(one.levelness_de00 for one in readings) / len(readings)
        seen_levels |= dict.fromkeys(levels.items())
    factors = tuple(
        kind
        for kind in (*FACTOR_ORDER, PART, WENT_ON)
        if len({levels for factor, levels in seen_levels if factor == kind}) > 1
        or (
            any(one.levels.get(kind) is None for one in found)
            and any(one.levels.get(kind) is not None for one in found)
        )
    )
    named = {str(factor): said for factor, said in FACTOR_WORDS.items()} | {
        PART: "Part of the mark",
        WENT_ON: "Went on",
    }
    words = {kind: named[kind] for kind in factors}
    treated = {one.key: one.name for one in standing.plan.treatments}
    for factor, level in seen_levels:
        if factor == WENT_ON:
            way = [treated.get(key, key) for key in level.split("+")]
            words[f"{factor}={level}"] = "left as it was" if level == AS_IT_WAS else ", then ".join(way)
        elif factor == PART:
            words[f"{factor}={level}"] = level
        else:
            kind_of = cast(FactorKind, factor)
            words[f"{factor}={level}"] = planned.level_words({kind_of: level})[kind_of]
    order_of = {
        str(one.kind): tuple(level.key for level in one.levels) for one in standing.plan.factors if one.kind in factors
    }
    complete = [
        one.model_copy(update={"levels": {kind: one.levels.get(kind, "") for kind in factors}}) for one in found
    ]
    return Looked(complete, levelness, factors, order_of, words, keys)


def as_they_stand(connection: sqlite3.Connection, standing: StandingStudy) -> Looked:
    """With the ways by which they went on, where that differs between those that were read."""
    if standing.plan.treatments:
        found = swatches_looked_at(connection, standing, GONE_ON)
        if WENT_ON in found.factors:
            return found
    return swatches_looked_at(connection, standing)


def _planned_vessels(connection: sqlite3.Connection, standing: StandingStudy) -> dict[str, dict[str, str]]:
    """By code and kind of bath: for swatches whose baths nobody logged."""
    held = held_by_run(connection, standing.stored.id)
    baths = [(run.vessel.vessel.bath, run.name, held.get(run.id, ())) for run in standing.runs]
    baths += [(one.bath, one.name, one.swatches) for one in standing.ahead if not one.treatment]
    found: dict[str, dict[str, str]] = {}
    for kind, name, codes in baths:
        for code in codes if kind not in NO_VESSEL else ():
            found.setdefault(code, {}).setdefault(kind, name)
    return found


def _was_in(runs: Sequence[int], baths: Mapping[int, Bathed]) -> dict[str, str]:
    """The vessels of some runs, by kind; two baths of a kind are one place: both, in order."""
    found: dict[str, str] = {}
    for run in runs:
        bath = baths.get(run)
        if bath and bath.kind not in NO_VESSEL:
            there = found.get(bath.kind)
            found[bath.kind] = f"{there}, {bath.vessel}" if there else bath.vessel
    return found


def _dyed_on(runs: Sequence[int], baths: Mapping[int, Bathed]) -> str:
    """The day of the last dye bath; of none, that of the last bath."""
    there = [bath for run in runs if (bath := baths.get(run))]
    dyed = [bath.day for bath in there if bath.kind in DYEING] or [bath.day for bath in there]
    return dyed[-1] if dyed else ""


def _baths(connection: sqlite3.Connection, runs: set[int]) -> dict[int, Bathed]:
    rows = connection.execute(
        "SELECT id, study_id, name, bath, treatment, begun_at FROM run WHERE id IN (SELECT value FROM json_each(?))",
        (json.dumps(sorted(runs)),),
    )
    return {
        row["id"]: Bathed(row["bath"], row["study_id"], row["name"], row["treatment"], _day(row["begun_at"]))
        for row in rows
    }


def _day(at: str | None) -> str:
    """Of the bench's own clock; empty: not logged."""
    return datetime.fromisoformat(at).astimezone().date().isoformat() if at else ""


def _counts(bath: Bathed | None, study: int, gone_on: bool) -> bool:
    """A further treatment, here or in another study, makes something else of a swatch."""
    return bath is None or (bath.study == study and (gone_on or not bath.treatment))


def _compared(
    name: str, levels: dict[str, str], vessels: dict[str, str], day: str, readings: list[SeenReading]
) -> ComparedSwatch:
    seen = [one.seen for one in readings]
    lightness, a, b = (float(value) for value in mean_lab([seen]))
    return ComparedSwatch(
        code=name,
        levels=levels,
        vessels=vessels,
        day=day,
        lab=(lightness, a, b),
        uncertainty_de00=mean_uncertainty(seen, [one.uncertainty_de00 for one in readings]),
        own_de00=own_error(seen),
        photos=tuple(_shares(one) for one in seen),
    )


def _shares(seen: Seen) -> tuple[str, str, str]:
    """Camera, light and photo; an instrument's readings share all of them."""
    if seen.instrument:
        return (seen.instrument, seen.instrument, seen.instrument)
    light = f"light {seen.capture}" if seen.capture is not None else f"photo {seen.photo}"
    return (seen.camera or light, light, f"photo {seen.photo}")
