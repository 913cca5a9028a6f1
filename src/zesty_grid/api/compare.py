"""Differences from a chosen reference, and which effects are real."""

import sqlite3
from typing import Annotated

import numpy as np
from fastapi import APIRouter, Query
from fastapi.responses import Response

from zesty_grid.api.answers import EffectsView, TrialEffects
from zesty_grid.api.shared import RowId, Store, as_json
from zesty_grid.core.compare.came_out import CameOut
from zesty_grid.core.compare.colour_chart import ChartPoint, ColourChart, arrows, doubt, fading_ways
from zesty_grid.core.compare.profile import Profile, profile
from zesty_grid.core.compare.real_effects import SAME_DE00
from zesty_grid.core.compare.real_numbers import NumberEffect, real_numbers
from zesty_grid.core.compare.reference import (
    BeforeReference,
    Comparison,
    Reference,
    compare_before,
    compare_cells,
    error_words,
)
from zesty_grid.core.compare.studies_beside import StudiesBeside, lay_studies_beside
from zesty_grid.core.compare.third_lot import third_lot
from zesty_grid.core.compare.ways import Ways
from zesty_grid.core.fade.fade_points import change_at_shared_stage
from zesty_grid.core.plan.grid import grid_of
from zesty_grid.core.read.colour_space import lab_to_hex
from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.core.words.real_differences import chance_words, depends_words, effect_words, statements
from zesty_grid.store.came_out import came_out_of_study
from zesty_grid.store.compare import pieces_around, pieces_in_last_state
from zesty_grid.store.compared import study_compared, study_ways
from zesty_grid.store.compared_swatches import Looked, swatches_looked_at
from zesty_grid.store.fade import list_points, list_trials
from zesty_grid.store.kept import Kept
from zesty_grid.store.standing import standing_study
from zesty_grid.store.study_facts import filled_in, one_study

router = APIRouter(prefix="/api/studies/{study_id}/compare", tags=["compare"])
# They compute, of 2,000 swatches for seconds, and are looked at again and again.
_effects_kept: Kept[EffectsView] = Kept(8)
_unevenness_kept: Kept[list[NumberEffect]] = Kept(4)
_fading_kept: Kept[list[TrialEffects]] = Kept(4)
_profiles_kept: Kept[Profile] = Kept(8)
_charts_kept: Kept[ColourChart] = Kept(4)

FEWEST = 3
Filled = Annotated[int | None, Query(ge=1, le=2**53)]
# Differences in unevenness below this are none that matters (common practice: half of visible).
SAME_LEVELNESS_DE00 = 0.5


@router.post("")
def compare(study_id: RowId, reference: Reference, store: Store) -> Comparison:
    """Every read cell against the reference, without swatches that went wrong and do not count."""
    with store.connection() as connection:
        standing = standing_study(connection, study_id)
        if isinstance(reference, BeforeReference):
            before, after = pieces_around(connection, standing, reference)
            found = compare_before(before, after)
        else:
            seen = pieces_in_last_state(connection, standing)
            cells = grid_of(standing.planned).cells
            found = compare_cells(cells, seen, reference)
    return Comparison(differences=tuple(found), error_words=error_words(reference))


@router.get("/effects")
def effects(
    study_id: RowId, store: Store, state: Annotated[str, Query(max_length=80)] = "", filled: Filled = None
) -> EffectsView:
    """What each factor, and each pair, does to colour, of these pieces, dyed again, and as a rule; `filled` is a study
    whose swatches mend the gaps of this one."""
    with store.connection() as connection:
        return _effects_kept.of_file(
            connection, (study_id, state, filled), lambda: _effects(connection, study_id, state, filled)
        )


def _effects(connection: sqlite3.Connection, study_id: int, state: str, filled: int | None) -> EffectsView:
    standing = standing_study(connection, study_id)
    compared, names = study_compared(connection, standing, state, filled)
    if compared is None:
        return EffectsView(compared=None, words=names)
    cells = standing.planned.cells
    lots = {i: third_lot(one, cells) for i, one in enumerate(compared.effects) if one.together}
    return EffectsView(
        compared=compared,
        statements=tuple(statements(compared, names)),
        effect_words=tuple(effect_words(one, names) for one in compared.effects),
        depends=tuple(depends_words(one, names) for one in compared.interactions),
        chance=tuple(chance_words(compared)),
        words=names,
        third_lots={i: lot for i, lot in lots.items() if lot},
    )


@router.get("/came-out")
def whether_it_came_out(study_id: RowId, store: Store) -> list[CameOut]:
    """What followed the recipe of a swatch, beside that swatch; none where no recipe is followed."""
    with store.connection() as connection:
        return came_out_of_study(connection, standing_study(connection, study_id))


@router.get("/ways")
def ways(
    study_id: RowId,
    store: Store,
    factor: Annotated[str, Query(max_length=80)],
    start: Annotated[str, Query(max_length=80)],
    one: Annotated[str, Query(max_length=80)],
    other: Annotated[str, Query(max_length=80)],
) -> Ways:
    """Which of two levels of a factor keeps more of the colour that both started from: that of a third level, or of a
    state before (`state:` and its kind)."""
    with store.connection() as connection:
        return study_ways(connection, standing_study(connection, study_id), factor, start, one, other)


@router.get("/profile")
def two_factors(
    study_id: RowId,
    store: Store,
    first: Annotated[str, Query(max_length=80)],
    second: Annotated[str, Query(max_length=80)],
) -> Profile:
    """The mean colour at each combination of two factors."""
    with store.connection() as connection:
        looked = swatches_looked_at(connection, standing_study(connection, study_id))
        if len(looked.swatches) < FEWEST or not looked.factors:
            return Profile(first=first, second=second, points=())
        return _profiles_kept.of_study(
            connection, study_id, (first, second), lambda: profile(looked.question(), first, second)
        )


@router.get("/chart", response_model=ColourChart)
def chart(study_id: RowId, store: Store, filled: Filled = None) -> Response:
    """Every swatch at its place among colours, what each factor does to it, and how it fades."""
    with store.connection() as connection:
        found = _charts_kept.of_file(connection, (study_id, filled), lambda: _chart(connection, study_id, filled))
    return as_json(ColourChart, found)


def _chart(connection: sqlite3.Connection, study_id: int, filled: int | None) -> ColourChart:
    standing = standing_study(connection, study_id)
    looked = filled_in(connection, standing, swatches_looked_at(connection, standing), filled)
    trials, points = list_trials(connection, study_id), list_points(connection, study_id)
    planned = standing.planned
    found, levels = [], {}
    for one in looked.swatches:
        code, _, zone = one.code.partition(" ")
        swatch = planned.by_code.get(code)
        # One of a make-up run stands where it fills the gap.
        cell: str | None = looked.cells.get(code)
        if swatch is not None and cell is None:
            cell = planned.zone_cell(swatch, zone) if zone else planned.cell(swatch)
        ab, cl = doubt(one.lab, one.uncertainty_de00)
        lab = np.array(one.lab)
        levels[one.code] = one.levels
        found.append(
            ChartPoint(
                cell=cell or "",
                code=one.code,
                zone=zone,
                lab=one.lab,
                hex=lab_to_hex(lab),
                colour_words=colour_words(lab),
                ab=ab,
                cl=cl,
            )
        )
    ways = [
        way
        for trial, plan in trials.items()
        for way in fading_ways(
            plan.name,
            [stage.label for stage in plan.stages],
            [(p.swatch, p.stage, p.dark_lab, p.dark_hex, p.exposed_lab, p.exposed_hex) for p in points.get(trial, ())],
        )
    ]
    order = {
        factor: looked.level_order.get(factor)
        or tuple(dict.fromkeys(one.levels.get(factor, "") for one in looked.swatches))
        for factor in looked.factors
    }
    return ColourChart(points=tuple(found), arrows=tuple(arrows(levels, order)), fading=tuple(ways))


@router.get("/unevenness")
def unevenness(study_id: RowId, store: Store) -> list[NumberEffect]:
    """What each factor does to how uneven the pieces are."""
    with store.connection() as connection:
        looked = swatches_looked_at(connection, standing_study(connection, study_id))
        return _unevenness_kept.of_study(
            connection, study_id, "", lambda: _numbers(looked, looked.levelness_de00, SAME_LEVELNESS_DE00)
        )


@router.get("/fading")
def fading(study_id: RowId, store: Store) -> list[TrialEffects]:
    """What each factor does to the change in each trial, at the furthest stage at which all of its
    swatches were read; the trial of the most swatches first."""
    with store.connection() as connection:
        return _fading_kept.of_file(connection, study_id, lambda: _fading(connection, study_id))


def _fading(connection: sqlite3.Connection, study_id: int) -> list[TrialEffects]:
    looked = swatches_looked_at(connection, standing_study(connection, study_id))
    trials = list_trials(connection, study_id)
    points = list_points(connection, study_id)
    found = []
    for trial, plan in trials.items():
        stage, changes = change_at_shared_stage(points.get(trial, ()))
        if len(changes) >= FEWEST and stage is not None:
            label = plan.stages[stage].label if stage < len(plan.stages) else f"stage {stage + 1}"
            effects = _numbers(looked, changes, SAME_DE00)
            found.append(
                TrialEffects(
                    trial=trial,
                    name=plan.name,
                    stage=label,
                    stage_number=stage,
                    swatches=len(changes),
                    effects=tuple(effects),
                )
            )
    return sorted(found, key=lambda one: -one.swatches)


@router.get("/beside/{other_id}")
def beside(study_id: RowId, other_id: RowId, store: Store) -> StudiesBeside:
    """Another study matched with this one by the levels of its swatches."""
    with store.connection() as connection:
        first = one_study(connection, standing_study(connection, study_id))
        second = one_study(connection, standing_study(connection, other_id))
    return lay_studies_beside(first, second)


def _numbers(looked: Looked, values: dict[str, float], margin: float) -> list[NumberEffect]:
    if len(looked.swatches) < FEWEST:
        return []
    return real_numbers(looked.swatches, values, looked.factors, margin, looked.level_order)
