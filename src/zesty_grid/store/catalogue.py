"""Everything that has a colour, of one study or of all, as it stands in the tables."""

import json
import sqlite3
from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from typing import NamedTuple

import numpy as np

from zesty_grid.core.compare.coloured import ClothKey, Coloured, StageKey, StateKey, parse_key, stage_key, state_key
from zesty_grid.core.fade.fade_points import FadePoint
from zesty_grid.core.plan.factors import FACTOR_ORDER, FactorKind
from zesty_grid.core.plan.placement import LevelArchive
from zesty_grid.core.read.cloth_readings import mean_colour
from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.core.read.difference_uncertainty import Seen
from zesty_grid.core.read.iscc_nbs import named_centroids
from zesty_grid.store.cloths import cloth_readings
from zesty_grid.store.colours import zone_colours
from zesty_grid.store.fade import list_trials
from zesty_grid.store.plan import level_archive
from zesty_grid.store.read import seen_readings
from zesty_grid.store.shelf import load_shelf
from zesty_grid.store.state_colours import state_names

_STATES = """
SELECT swatch.code, swatch.fibre, place.study_id, study.name AS study_name, place.control,
  place.larger, coalesce(place.true_levels, place.levels) AS levels, state_colour.state,
  state_colour.lab_l, state_colour.lab_a, state_colour.lab_b, state_colour.hex,
  state_colour.colour_words, state_colour.uncertainty_de00, state_colour.taken_on,
  coalesce(passage.out_at, passage.in_at, '') AS at,
  EXISTS (SELECT 1 FROM passage WHERE passage.swatch_id = swatch.id) AS logged
FROM state_colour JOIN swatch ON swatch.id = state_colour.swatch_id
JOIN place ON place.swatch_id = swatch.id AND place.study_id = swatch.study_id
JOIN study ON study.id = place.study_id AND study.deleted_at IS NULL
LEFT JOIN passage ON passage.run_id = state_colour.after_run AND passage.swatch_id = swatch.id
"""
_IN_ORDER = "ORDER BY place.study_id, swatch.serial, at, state_colour.state > 0, abs(state_colour.state)"


def every_state(connection: sqlite3.Connection, study_id: int | None = None) -> list[Coloured]:
    """Each swatch in each state that was read, in the order of study, swatch and state."""
    where, values = ("WHERE place.study_id = ?", [study_id]) if study_id else ("", [])
    rows = connection.execute(f"{_STATES} {where} {_IN_ORDER}", values).fetchall()
    return _coloured(connection, rows)


def states_by_key(connection: sqlite3.Connection, keys: Iterable[StateKey]) -> list[Coloured]:
    codes = json.dumps(sorted({one.code for one in keys}))
    rows = connection.execute(
        f"{_STATES} WHERE swatch.code IN (SELECT value FROM json_each(?)) {_IN_ORDER}", (codes,)
    ).fetchall()
    return _coloured(connection, rows)


class Searched(NamedTuple):
    """A colour as far as a search needs it; the rest is read for what is found."""

    key: str
    kind: str
    study: int | None
    code: str
    fibre: str
    lab: tuple[float, float, float]
    uncertainty_de00: float
    levels: str
    place: int


def searched_colours(connection: sqlite3.Connection) -> list[Searched]:
    """Every state of all studies and every reference cloth."""
    rows = connection.execute(
        "SELECT swatch.code, swatch.fibre, place.study_id, place.control, state_colour.state, "
        "coalesce(place.true_levels, place.levels) AS levels, "
        "lab_l, lab_a, lab_b, uncertainty_de00 "
        "FROM state_colour JOIN swatch ON swatch.id = state_colour.swatch_id "
        "JOIN place ON place.swatch_id = swatch.id AND place.study_id = swatch.study_id "
        "JOIN study ON study.id = place.study_id AND study.deleted_at IS NULL"
    )
    found = []
    for code, fibre, study, control, run, levels, lightness, a, b, off in map(tuple, rows):
        kind = "control" if control else "swatch"
        key = state_key(code, run)
        found.append(Searched(key, kind, study, code, fibre, (lightness, a, b), off, levels, run))
    return found + [
        Searched(one.key, "cloth", None, "", "", one.lab, one.uncertainty_de00, "", 0)
        for one in every_cloth(connection)
    ]


def _coloured(connection: sqlite3.Connection, rows: Sequence[sqlite3.Row]) -> list[Coloured]:
    archives = {study: level_archive(connection, study) for study in {row["study_id"] for row in rows}}
    labels = {one.run: one.label for one in state_names(connection, {row["state"] for row in rows if row["state"]})}
    undyed = _undyed_of(connection, {row["fibre"] for row in rows})
    return [
        Coloured.model_construct(
            key=state_key(row["code"], row["state"]),
            kind="control" if row["control"] else "swatch",
            study=row["study_id"],
            study_name=row["study_name"],
            code=row["code"],
            name=row["code"],
            words=_words(archives[row["study_id"]], json.loads(row["levels"]), row["control"]),
            state=labels.get(row["state"], "as it came" if row["logged"] else "as read"),
            lab=(row["lab_l"], row["lab_a"], row["lab_b"]),
            hex=row["hex"],
            colour_words=row["colour_words"],
            uncertainty_de00=row["uncertainty_de00"],
            fibre=row["fibre"],
            levels=json.loads(row["levels"]),
            taken_on=row["taken_on"],
            undyed=undyed.get((row["study_id"], row["fibre"])) or undyed.get((0, row["fibre"])),
        )
        for row in rows
    ]


def _words(archive: LevelArchive, levels: Mapping[FactorKind, str], control: str | None) -> str:
    named = [
        archive[(kind, levels[kind])].label if (kind, levels[kind]) in archive else levels[kind]
        for kind in FACTOR_ORDER
        if kind in levels
    ]
    return ", ".join([*named, *([control] if control else [])])


def _undyed_of(connection: sqlite3.Connection, fibres: Iterable[str]) -> dict[tuple[int, str], str]:
    """Undyed cloth by study and fibre, and by fibre alone under 0: a control of it, or a piece
    that was read before its first bath."""
    rows = connection.execute(
        "SELECT swatch.code, swatch.fibre, place.study_id, state_colour.state "
        "FROM state_colour JOIN swatch ON swatch.id = state_colour.swatch_id "
        "JOIN place ON place.swatch_id = swatch.id AND place.study_id = swatch.study_id "
        "WHERE (place.control = 'undyed' OR (state_colour.state = 0 AND EXISTS "
        "(SELECT 1 FROM passage WHERE passage.swatch_id = swatch.id))) "
        "AND swatch.fibre IN (SELECT value FROM json_each(?)) "
        "ORDER BY place.control = 'undyed', state_colour.state DESC",
        (json.dumps(sorted(set(fibres))),),
    )
    found: dict[tuple[int, str], str] = {}
    for row in rows:
        key = state_key(row["code"], row["state"])
        found[(row["study_id"], row["fibre"])] = found[(0, row["fibre"])] = key
    return found


def every_zone(connection: sqlite3.Connection, study_id: int) -> list[Coloured]:
    """Each zone of a study's swatches in the last state in which it was read."""
    whole = {row["code"]: row for row in connection.execute(_PLACES, (study_id,))}
    archive = level_archive(connection, study_id)
    found = []
    for one in zone_colours(connection, study_id):
        row = whole.get(one.swatch)
        if row is None:
            continue
        colour = one.colour
        found.append(
            Coloured(
                key=state_key(one.swatch, colour.run, one.zone),
                kind="zone",
                study=study_id,
                study_name=row["name"],
                code=one.swatch,
                name=f"{one.swatch}, {one.zone}",
                words=_words(archive, json.loads(row["levels"]), row["control"]),
                state=one.zone,
                lab=colour.lab,
                hex=colour.hex,
                colour_words=colour.colour_words,
                uncertainty_de00=colour.uncertainty_de00,
                fibre=row["fibre"],
                levels=json.loads(row["levels"]),
                taken_on=colour.taken_on,
            )
        )
    return found


_PLACES = """
SELECT swatch.code, swatch.fibre, study.name, place.control,
  coalesce(place.true_levels, place.levels) AS levels
FROM place JOIN swatch ON swatch.id = place.swatch_id JOIN study ON study.id = place.study_id
WHERE place.study_id = ?
"""


class StageSeen(NamedTuple):
    """One part of a piece at a stage of a trial, as far as it can be named without its colour."""

    trial: int
    stage: int
    zone: str
    part: str
    code: str
    fibre: str
    name: str
    words: str
    state: str
    levels: Mapping[FactorKind, str]

    @property
    def key(self) -> str:
        return stage_key(self.code, self.trial, self.stage, self.part, self.zone)


def stages_seen(connection: sqlite3.Connection, study_id: int) -> Iterator[StageSeen]:
    """Each piece of the trials of a study at each stage, kept dark and exposed."""
    archive = level_archive(connection, study_id)
    whole = {
        row["code"]: (row["fibre"], levels, _words(archive, levels, row["control"]))
        for row in connection.execute(_PLACES, (study_id,))
        for levels in (json.loads(row["levels"]),)
    }
    plans = list_trials(connection, study_id)
    rows = connection.execute(
        "SELECT fade_point.trial_id, swatch.code, fade_point.stage, fade_point.zone "
        "FROM fade_point JOIN trial ON trial.id = fade_point.trial_id "
        "JOIN swatch ON swatch.id = fade_point.swatch_id WHERE trial.study_id = ? "
        "ORDER BY fade_point.trial_id, fade_point.swatch_id, fade_point.stage, fade_point.zone",
        (study_id,),
    )
    for trial, code, stage, zone in map(tuple, rows):
        plan = plans.get(trial)
        if code not in whole or plan is None:
            continue
        fibre, levels, words = whole[code]
        label = plan.stages[stage].label if stage < len(plan.stages) else ""
        for part, said in (("dark", "kept dark"), ("exposed", "exposed")):
            state = ", ".join([plan.name, label, said, *([zone] if zone else [])])
            yield StageSeen(trial, stage, zone, part, code, fibre, f"{code}, {label}", words, state, levels)


def coloured_stages(connection: sqlite3.Connection, study_id: int, seen: Iterable[StageSeen]) -> list[Coloured]:
    """With their colours; what a colour is called takes longest (0.5 ms each)."""
    (study_name,) = connection.execute("SELECT name FROM study WHERE id = ?", (study_id,)).fetchone()
    found = []
    for one in seen:
        point = FadePoint.model_validate_json(
            connection.execute(
                "SELECT document FROM fade_point WHERE trial_id = ? AND stage = ? AND zone = ? "
                "AND swatch_id = (SELECT id FROM swatch WHERE code = ?)",
                (one.trial, one.stage, one.zone, one.code),
            ).fetchone()[0]
        )
        dark = one.part == "dark"
        lab = point.dark_lab if dark else point.exposed_lab
        found.append(
            Coloured.model_construct(
                key=one.key,
                kind="stage",
                study=study_id,
                study_name=study_name,
                code=one.code,
                name=one.name,
                words=one.words,
                state=one.state,
                lab=lab,
                hex=point.dark_hex if dark else point.exposed_hex,
                colour_words=colour_words(np.array(lab)),
                uncertainty_de00=point.uncertainty_de00 / 2**0.5,
                fibre=one.fibre,
                levels=one.levels,
                taken_on="",
                undyed=None,
            )
        )
    return found


def every_stage(connection: sqlite3.Connection, study_id: int) -> list[Coloured]:
    return coloured_stages(connection, study_id, stages_seen(connection, study_id))


def search_study(
    connection: sqlite3.Connection, study_id: int, text: str, codes: Collection[str], most: int
) -> list[Coloured]:
    """The first so many of a study's states, zones and stages whose name, state, recipe or colour
    holds every word of a text; `codes`: of these swatches only."""
    wanted = text.casefold().split()
    of_colours = {word for word in wanted if any(word in name for name, _ in named_centroids())}
    found: list[Coloured] = []

    def says(*texts: str) -> bool:
        whole = " ".join(texts).casefold()
        return all(word in whole for word in wanted)

    for one in [*every_state(connection, study_id), *every_zone(connection, study_id)]:
        if len(found) >= most:
            return found
        if (not codes or one.code in codes) and says(one.name, one.state, one.words, one.colour_words):
            found.append(one)
    for seen in stages_seen(connection, study_id):
        if len(found) >= most:
            return found
        if codes and seen.code not in codes:
            continue
        plain = f"{seen.name} {seen.state} {seen.words}".casefold()
        # What its colour is called is worked out only where that can still decide.
        if all(word in plain or word in of_colours for word in wanted):
            (piece,) = coloured_stages(connection, study_id, [seen])
            if says(plain, piece.colour_words):
                found.append(piece)
    return found


def every_cloth(connection: sqlite3.Connection) -> list[Coloured]:
    """The reference cloths of the Shelf that were read or typed in."""
    found = []
    for cloth in load_shelf(connection).cloths:
        mean = mean_colour(cloth_readings(connection, cloth.key))
        if mean is not None and not cloth.is_tile:
            found.append(
                Coloured(
                    key=f"cloth:{cloth.key}",
                    kind="cloth",
                    name=cloth.name,
                    words=cloth.note,
                    state="reference cloth",
                    lab=mean.lab,
                    hex=mean.hex,
                    colour_words=mean.colour_words,
                    uncertainty_de00=mean.uncertainty_de00,
                )
            )
    return found


def coloured_by_key(connection: sqlite3.Connection, keys: Iterable[str]) -> dict[str, Coloured]:
    """What some keys stand for; those that nothing stands for are left out."""
    wanted = {key: parse_key(key) for key in dict.fromkeys(keys)}
    found: dict[str, Coloured] = {}
    states = [one for one in wanted.values() if isinstance(one, StateKey)]
    if states:
        found |= {one.key: one for one in states_by_key(connection, states)}
    if any(isinstance(one, ClothKey) for one in wanted.values()):
        found |= {one.key: one for one in every_cloth(connection)}
    zoned = [one.code for one in wanted.values() if isinstance(one, StateKey) and one.zone]
    for study in _studies_of(connection, zoned):
        found |= {one.key: one for one in every_zone(connection, study)}
    staged = [one.code for one in wanted.values() if isinstance(one, StageKey)]
    for study in _studies_of(connection, staged):
        own = [one for one in stages_seen(connection, study) if one.key in wanted]
        found |= {one.key: one for one in coloured_stages(connection, study, own)}
    return {key: found[key] for key in wanted if key in found}


def _studies_of(connection: sqlite3.Connection, codes: Iterable[str]) -> list[int]:
    rows = connection.execute(
        "SELECT DISTINCT study_swatch.study_id FROM study_swatch JOIN swatch "
        "ON swatch.id = study_swatch.swatch_id WHERE swatch.code IN "
        "(SELECT value FROM json_each(?))",
        (json.dumps(sorted(set(codes))),),
    )
    return [row["study_id"] for row in rows]


def seen_of(connection: sqlite3.Connection, pieces: Iterable[Coloured]) -> dict[str, list[Seen]]:
    """The readings behind some colours, as far as their errors go."""
    found: dict[str, list[Seen]] = {}
    for piece in pieces:
        found[piece.key] = _seen(connection, piece) or [_alone(piece)]
    return found


def _seen(connection: sqlite3.Connection, piece: Coloured) -> list[Seen]:
    key = parse_key(piece.key)
    if isinstance(key, ClothKey):
        return []
    row = connection.execute("SELECT id FROM swatch WHERE code = ?", (key.code,)).fetchone()
    zoned = bool(key.zone) and isinstance(key, StateKey)
    readings = seen_readings(connection, swatch_ids=[row["id"]], zones=zoned)
    if isinstance(key, StateKey):
        return [one.seen for one in readings if one.piece == "whole" and one.run == key.run and one.zone == key.zone]
    return [
        one.seen
        for one in readings
        if one.trial == key.trial
        and one.stage == key.stage
        and (one.piece == "dark") == (key.part == "dark")
        and one.zone == key.zone
    ]


def _alone(piece: Coloured) -> Seen:
    """A colour of which only the uncertainty is known: it shares nothing with any other."""
    return Seen(lab=piece.lab, photo=-1, instrument=piece.key, evenness_de00=piece.uncertainty_de00)
