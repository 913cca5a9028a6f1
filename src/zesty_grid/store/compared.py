"""Which differences of a study are real, against what all studies taught of noise, beside what Tell promised."""

import sqlite3
from dataclasses import replace
from typing import NamedTuple

from zesty_grid.core.compare.compared import Compared, FactorEffect
from zesty_grid.core.compare.real_effects import real_effects
from zesty_grid.core.compare.ways import Ways, which_keeps_more
from zesty_grid.core.plan.told import Promise
from zesty_grid.store.compared_swatches import Looked, as_they_stand, swatches_looked_at
from zesty_grid.store.noise import noise_besides
from zesty_grid.store.standing import StandingStudy
from zesty_grid.store.study_facts import filled_in
from zesty_grid.store.telling import promised_in

FEWEST = 2
# The level that stands for what a state was before: no key of a level has a colon.
BEFORE = "state:"


class Answer(NamedTuple):
    """`compared` None: too few swatches are read, or nothing differs between them. `names` of factors and levels."""

    compared: Compared | None
    names: dict[str, str]


def study_compared(
    connection: sqlite3.Connection, standing: StandingStudy, state: str = "", filled: int | None = None
) -> Answer:
    own = swatches_looked_at(connection, standing, state) if state else as_they_stand(connection, standing)
    looked = filled_in(connection, standing, own, filled)
    if len(looked.swatches) < FEWEST or not looked.factors:
        return Answer(None, looked.words)
    found = real_effects(looked.question(noise_besides(connection, standing)))
    promised = promised_in(standing) or ()
    effects = tuple(one.model_copy(update={"promised_de00": _promise_of(one, promised)}) for one in found.effects)
    return Answer(found.model_copy(update={"effects": effects}), looked.words)


def study_ways(
    connection: sqlite3.Connection, standing: StandingStudy, factor: str, start: str, one: str, other: str
) -> Ways:
    """`start` is a level of the factor, or `state:` and the kind of state in which the pieces were before."""
    looked = as_they_stand(connection, standing)
    named = Ways(factor=factor, start=start, one=one, other=other)
    if start.startswith(BEFORE):
        before = swatches_looked_at(connection, standing, start.removeprefix(BEFORE))
        looked = _with_start(looked, before, factor, start)
    if len(looked.swatches) < FEWEST or factor not in looked.factors:
        return named
    question = looked.question(noise_besides(connection, standing), with_pairs=False)
    return which_keeps_more(question, factor, start, one, other)


def _with_start(looked: Looked, before: Looked, factor: str, start: str) -> Looked:
    """Swatches as they were, as a level of their own beside what became of them."""
    began = [
        one.model_copy(update={"code": f"{one.code} before", "levels": one.levels | {factor: start}})
        for one in before.swatches
        if all(kind in one.levels for kind in looked.factors if kind != factor)
    ]
    return replace(looked, swatches=[*looked.swatches, *began])


def _promise_of(effect: FactorEffect, promised: tuple[Promise, ...]) -> float | None:
    pair = {effect.from_level, effect.to_level}
    own = (one for one in promised if one.factor == effect.factor and {one.from_level, one.to_level} == pair)
    return next((one.shows_de00 for one in own), None)
