"""Recipes between those that were dyed, twins and odd ones, and what to test next."""

import json
import sqlite3
from functools import lru_cache
from typing import Annotated

import numpy as np
from fastapi import APIRouter
from pydantic import Field, TypeAdapter

from zesty_grid.api.answers import BetweenView, ForetoldCell, NumericFactor, OddView
from zesty_grid.api.compare import FEWEST
from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.compare.between import Foreteller, ForetoldColour, foreteller, how_well
from zesty_grid.core.compare.coloured import Coloured
from zesty_grid.core.compare.compared import ComparedSwatch
from zesty_grid.core.compare.find import FindQuestion, wanted_lab
from zesty_grid.core.compare.further import further_tests
from zesty_grid.core.compare.misfits import misfits
from zesty_grid.core.compare.next_tests import NextTest, reach_colour, settle_effect
from zesty_grid.core.compare.real_effects import SAME_DE00, real_effects
from zesty_grid.core.compare.twins import StageColour, Twins, close_pairs, movers, partings
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.following import RecipeOf
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.catalogue import Searched, coloured_by_key, every_state, searched_colours
from zesty_grid.store.compared_swatches import Looked, swatches_looked_at
from zesty_grid.store.fade import list_points, list_trials
from zesty_grid.store.kept import Kept
from zesty_grid.store.noise import noise_besides
from zesty_grid.store.plan import NotFound
from zesty_grid.store.recipes import RecipeBook
from zesty_grid.store.standing import StandingStudy, standing_study

router = APIRouter(prefix="/api/studies/{study_id}/compare", tags=["compare"])
_between_kept: Kept[BetweenView] = Kept(4)
_odd_kept: Kept[OddView] = Kept(4)

MASS_G = 100.0
_SWATCHES = TypeAdapter(list[ComparedSwatch])
Number = Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)]
Words = Annotated[str, Field(max_length=120)]


class ForetellQuestion(Frozen):
    """A recipe by its levels, with numbers of its own where they lie between."""

    levels: dict[Words, Words]
    numbers: dict[Words, Number] = Field(default_factory=dict)


class NextQuestion(Frozen):
    """Either an effect that cannot be told yet, or a colour that is wanted. `tell_de00`: the
    difference that the effect is to show; as it seems to be, less a third, where none is said."""

    factor: Words | None = None
    from_level: Words = ""
    to_level: Words = ""
    tell_de00: Annotated[float, Field(gt=0, le=50, allow_inf_nan=False)] | None = None
    wanted: FindQuestion | None = None
    most: Annotated[int, Field(ge=1, le=24)] = 6


@router.get("/between")
def between(study_id: RowId, store: Store) -> BetweenView:
    """What every cell that was not read is foretold to be, and how well that is done."""
    with store.connection() as connection:
        return foretold_cells(connection, study_id)


def foretold_cells(connection: sqlite3.Connection, study_id: int) -> BetweenView:
    """As kept: what every cell that was not read is foretold to be."""
    return _between_kept.of_file(connection, study_id, lambda: _between(connection, study_id))


def _between(connection: sqlite3.Connection, study_id: int) -> BetweenView:
    standing = standing_study(connection, study_id)
    looked = swatches_looked_at(connection, standing)
    found = _foreteller(standing, looked)
    if found is None:
        return BetweenView(how_well=None, cells=(), numeric=(), factors=looked.factors)
    read = {_cell_of(standing, one.code) for one in looked.swatches}
    empty = [cell for cell in standing.planned.cells if not cell.added and cell.key not in read]
    foretold = found.foretell([({str(k): v for k, v in c.levels.items()}, {}) for c in empty])
    labs = np.array([one.lab for one in looked.swatches])
    return BetweenView(
        how_well=how_well(found, labs),
        cells=tuple(ForetoldCell(cell=cell.key, colour=one) for cell, one in zip(empty, foretold, strict=True)),
        numeric=tuple(
            NumericFactor(factor=factor, low=found.ranges[factor][0], high=found.ranges[factor][1])
            for factor in found.factors
            if factor in found.numeric
        ),
        factors=found.factors,
    )


@router.post("/foretell")
def foretell(study_id: RowId, question: ForetellQuestion, store: Store) -> ForetoldColour:
    """The colour of a recipe that was not dyed."""
    with store.connection() as connection:
        standing = standing_study(connection, study_id)
        looked = swatches_looked_at(connection, standing)
    found = _foreteller(standing, looked)
    if found is None:
        raise _too_few()
    (answer,) = found.foretell([(question.levels, question.numbers)])
    return answer


@router.get("/odd")
def odd_ones(study_id: RowId, store: Store) -> OddView:
    """Twins over all studies with one of this in each pair, those that part, movers, misfits."""
    with store.connection() as connection:
        return _odd_kept.of_file(connection, study_id, lambda: _odd(connection, study_id))


def _odd(connection: sqlite3.Connection, study_id: int) -> OddView:
    standing = standing_study(connection, study_id)
    looked = swatches_looked_at(connection, standing)
    states = every_state(connection, study_id)
    told = _with_facts(connection, _twins(connection, study_id))
    stages = _stages(connection, study_id)
    found = _foreteller(standing, looked)
    own: dict[str, list[Coloured]] = {}
    for state in states:
        own.setdefault(state.code, []).append(state)
    words = {code: all_of[-1].words for code, all_of in own.items()}
    return OddView(
        twins=tuple(told),
        partings=tuple(partings(stages)),
        movers=tuple(movers(own, stages, words)),
        misfits=tuple(misfits(found, looked.swatches)) if found else (),
    )


@router.post("/next")
def what_next(study_id: RowId, question: NextQuestion, store: Store) -> NextTest:
    """The few swatches and pots that would tell most. Nothing is made yet."""
    with store.connection() as connection:
        standing = standing_study(connection, study_id)
        looked = swatches_looked_at(connection, standing)
        noise = noise_besides(connection, standing)
        wanted = _wanted(connection, question.wanted) if question.wanted else None
    test: NextTest | None = None
    if wanted is not None:
        found = _foreteller(standing, looked)
        if found is None:
            raise _too_few()
        dyed = {tuple(sorted(one.levels.items())) for one in looked.swatches}
        test = reach_colour(standing.plan, found, wanted, question.most, dyed, standing.shelf)
    elif question.factor:
        if len(looked.swatches) < FEWEST or not looked.factors:
            raise _too_few()
        compared = real_effects(looked.question(noise, with_pairs=False))
        effect = next(
            (
                one
                for one in compared.effects
                if one.factor == question.factor
                and {one.from_level, one.to_level} == {question.from_level, question.to_level}
            ),
            None,
        )
        if effect is None:
            raise NotFound("effect of that name")
        size = question.tell_de00 or max(SAME_DE00, effect.de00 * 2 / 3)
        test = settle_effect(standing.plan, effect, size, standing.shelf, noise, looked.words)
    if test is None:
        raise Refusal(
            "nothing-to-test",
            "There is nothing to test that would tell more.",
            "Say an effect that is not settled, or a colour that is wanted.",
        )
    return test


@router.get("/further")
def what_lies_further(study_id: RowId, store: Store) -> list[NextTest]:
    """Strengths, times and temperatures beyond those that were dyed. Nothing is made yet."""
    with store.connection() as connection:
        standing = standing_study(connection, study_id)
        looked = swatches_looked_at(connection, standing)
        noise = noise_besides(connection, standing)
    if not looked.swatches or standing.plan.factor("dye") is None:
        return []
    compared = real_effects(looked.question(noise, with_pairs=False)) if looked.factors else None
    return further_tests(standing.plan, compared.effects if compared else (), standing.shelf, noise)


def _wanted(connection: sqlite3.Connection, question: FindQuestion) -> tuple[float, float, float]:
    if question.key is None:
        return wanted_lab(question)
    found = coloured_by_key(connection, [question.key]).get(question.key)
    if found is None:
        raise NotFound("colour of that name")
    return found.lab


def _too_few() -> Refusal:
    return Refusal(
        "too-few-read",
        "Too few swatches are read to foretell a colour.",
        "Read at least six that differ in their recipes.",
    )


def _foreteller(standing: StandingStudy, looked: Looked) -> Foreteller | None:
    values = tuple(
        (str(factor.kind), level.key, level.value)
        for factor in standing.plan.factors
        for level in factor.levels
        if level.value is not None
    )
    return _fitted(_SWATCHES.dump_json(looked.swatches), looked.factors, values)


# The fit takes a second; the same swatches give the same one.
@lru_cache(maxsize=8)
def _fitted(swatches: bytes, factors: tuple[str, ...], values: tuple[tuple[str, str, float], ...]) -> Foreteller | None:
    known = {(factor, level): value for factor, level, value in values}
    return foreteller(_SWATCHES.validate_json(swatches), factors, known)


def _cell_of(standing: StandingStudy, name: str) -> str | None:
    code, _, zone = name.partition(" ")
    swatch = standing.planned.by_code[code]
    return standing.planned.zone_cell(swatch, zone) if zone else standing.planned.cell(swatch)


def _twins(connection: sqlite3.Connection, study_id: int) -> list[Twins]:
    """Of the newest state of each swatch of all studies, none of them a control: pairs with one of
    this study."""
    newest: dict[str, Searched] = {}
    for one in searched_colours(connection):
        there = newest.get(one.code)
        if one.kind == "swatch" and (there is None or one.place >= there.place):
            newest[one.code] = one
    every = list(newest.values())
    found = close_pairs(
        np.array([one.lab for one in every]).reshape(-1, 3),
        [i for i, one in enumerate(every) if one.study == study_id],
        [tuple(sorted(json.loads(one.levels).items())) for one in every],
    )
    keys = [every[i].key for pair in found for i in (pair.first, pair.second)]
    whole = coloured_by_key(connection, keys)
    return [Twins(first=whole[every[p.first].key], second=whole[every[p.second].key], de00=p.de00) for p in found]


def _with_facts(connection: sqlite3.Connection, pairs: list[Twins]) -> list[Twins]:
    """Which of two is gentler, and which cheaper."""
    book = RecipeBook(connection)
    told = []
    for pair in pairs:
        codes = (pair.first.code, pair.second.code)
        gentle = [book.gentleness(RecipeOf(code=code)) for code in codes]
        cost = [book.quick(RecipeOf(code=code), MASS_G)[0] for code in codes]
        harsh = [(one.iron + 2 * one.copper, (one.hottest_c or 20.0) // 10, not one.is_gentle) for one in gentle]
        gentler = codes[harsh.index(min(harsh))] if harsh[0] != harsh[1] else None
        cheaper = None
        if cost[0] is not None and cost[1] is not None and abs(cost[0] - cost[1]) > 0.005:
            cheaper = codes[0] if cost[0] < cost[1] else codes[1]
        said = [f"{gentler} is gentler"] if gentler else []
        said += [f"{cheaper} is cheaper"] if cheaper else []
        told.append(pair.model_copy(update={"gentler": gentler, "cheaper": cheaper, "words": ", ".join(said)}))
    return told


def _stages(connection: sqlite3.Connection, study_id: int) -> list[StageColour]:
    points = list_points(connection, study_id)
    found = []
    for trial, plan in list_trials(connection, study_id).items():
        for point in points.get(trial, ()):
            label = plan.stages[point.stage].label if point.stage < len(plan.stages) else ""
            found.append(
                StageColour(
                    code=point.swatch,
                    trial=plan.name,
                    stage=label,
                    number=point.stage,
                    dark_lab=point.dark_lab,
                    exposed_lab=point.exposed_lab,
                    dark_hex=point.dark_hex,
                    exposed_hex=point.exposed_hex,
                    limit_de00=point.limit_de00,
                )
            )
    return found
