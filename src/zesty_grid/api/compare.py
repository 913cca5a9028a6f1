"""Differences from a chosen reference, and which effects are real."""

import sqlite3
from typing import Annotated, Literal

import numpy as np
from fastapi import APIRouter, Query
from fastapi.responses import Response

from zesty_grid.api.answers import EffectsView, Foretold, TrialEffects
from zesty_grid.api.shared import RowId, Store, as_json
from zesty_grid.core.compare.colour_chart import ChartPoint, ColourChart, arrows, doubt, fading_ways
from zesty_grid.core.compare.compared import KnownNoise
from zesty_grid.core.compare.equivalence import SAME_DE00
from zesty_grid.core.compare.profile import Profile, profile
from zesty_grid.core.compare.real_effects import real_effects
from zesty_grid.core.compare.real_numbers import NumberEffect, real_numbers
from zesty_grid.core.compare.reference import (
    BeforeReference,
    Comparison,
    FactorReference,
    Reference,
    compare_before,
    compare_cells,
    error_words,
)
from zesty_grid.core.compare.studies_beside import StudiesBeside, lay_studies_beside
from zesty_grid.core.fade.fade_points import change_at_shared_stage
from zesty_grid.core.plan.grid import grid_of
from zesty_grid.core.plan.noise import estimate_noise
from zesty_grid.core.plan.told import Effect, Telling
from zesty_grid.core.read.colour_space import lab_to_hex
from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.store.compare import pieces_around, pieces_in_last_state
from zesty_grid.store.compared_swatches import Looked, swatches_looked_at
from zesty_grid.store.fade import list_points, list_trials
from zesty_grid.store.kept import Kept
from zesty_grid.store.noise import colours_that_should_be_alike
from zesty_grid.store.standing import standing_study
from zesty_grid.store.study_facts import filled_in, one_study
from zesty_grid.store.telling import study_tells

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
    effect: Effect | None = None
    with store.connection() as connection:
        standing = standing_study(connection, study_id)
        if isinstance(reference, BeforeReference):
            before, after = pieces_around(connection, standing, reference.vessel)
            found = compare_before(before, after)
        else:
            seen = pieces_in_last_state(connection, standing)
            cells = grid_of(standing.planned).cells
            found = compare_cells(cells, seen, reference)
        if isinstance(reference, FactorReference):
            noise = estimate_noise(*colours_that_should_be_alike(connection))
            told = study_tells(connection, standing, noise)
            effect = next((e for e in told.effects if e.factor == reference.factor), None)
    return Comparison(differences=tuple(found), error_words=error_words(reference, effect))


@router.get("/effects")
def effects(
    study_id: RowId,
    store: Store,
    state: Annotated[str, Query(max_length=80)] = "",
    noise: Literal["learnt", "known"] = "learnt",
    filled: Filled = None,
) -> EffectsView:
    """What each factor, and each pair, does to colour. `noise=known` takes how vessels differ from
    earlier studies; `filled` is a study whose swatches mend the gaps of this one."""
    with store.connection() as connection:
        return _effects_kept.of_file(
            connection, (study_id, state, noise, filled), lambda: _effects(connection, study_id, state, noise, filled)
        )


def _effects(connection: sqlite3.Connection, study_id: int, state: str, noise: str, filled: int | None) -> EffectsView:
    standing = standing_study(connection, study_id)
    looked = filled_in(connection, standing, swatches_looked_at(connection, standing, state), filled)
    estimate = estimate_noise(*colours_that_should_be_alike(connection))
    told = study_tells(connection, standing, estimate)
    known = None
    if noise == "known":
        known = KnownNoise(
            vessel_de00=told.noise.levels.vessel_de00,
            words=told.noise.words[:1].lower() + told.noise.words[1:].rstrip("."),
        )
    if len(looked.swatches) < FEWEST or not looked.factors:
        return EffectsView(compared=None, words=looked.words, foretold=())
    question = looked.question(known)
    return EffectsView(compared=real_effects(question), words=looked.words, foretold=tuple(_foretold(told)))


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
    return real_numbers(looked.swatches, values, looked.factors, margin, looked.level_order, looked.words)


def _foretold(told: Telling) -> list[Foretold]:
    found = []
    for effect in told.effects:
        smallest = effect.smallest_difference_de00 if effect.can_be_told else None
        found.append(Foretold(factor=effect.factor, smallest_difference_de00=smallest, words=effect.words))
    return found
