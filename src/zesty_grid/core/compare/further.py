"""What lies further along: twice the stuff, a longer or a warmer bath, where it is not known what they do."""

from collections.abc import Sequence
from typing import Literal

from zesty_grid.core.compare.compared import FactorEffect
from zesty_grid.core.compare.next_tests import NextTest, in_pots_enough
from zesty_grid.core.noise.levels import Noise
from zesty_grid.core.plan.factors import VALUES, Factor, Level
from zesty_grid.core.plan.planned_study import on_paper
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.working import duration_words

Along = Literal["strength", "duration", "temperature"]
ALONG: tuple[Along, ...] = ("strength", "duration", "temperature")
# Below a simmer, for all fibres; a step that dyers take (common practice).
HOTTEST_C, WARMER_C = 95.0, 15.0
# Plain to see; smaller changes are worth no more stuff (common practice).
WORTH_DE00 = 4.0
STILL_MOVES_DE00 = 2.0


def further_tests(plan: StudyPlan, effects: Sequence[FactorEffect], shelf: Shelf, noise: Noise) -> list[NextTest]:
    """For each of strength, time and temperature the next step up, where the last step still moved
    the colour, or where none was tried."""
    dyeing = [one for one in vessels_of(on_paper(_whole(plan), shelf)) if one.bath == "dye" and one.has_own_liquor]
    if not dyeing:
        return []
    found = [_further(plan, kind, dyeing[0], effects, shelf, noise) for kind in ALONG]
    return [one for one in found if one is not None]


def _whole(plan: StudyPlan) -> StudyPlan:
    """Its baths from the first, whatever has become of its swatches."""
    return plan.model_copy(update={"treatments": (), "made_again": ()})


def _further(
    plan: StudyPlan, kind: Along, vessel: Vessel, effects: Sequence[FactorEffect], shelf: Shelf, noise: Noise
) -> NextTest | None:
    factor = plan.factor(kind)
    tried = sorted((one for one in factor.levels if one.value), key=lambda one: one.value or 0) if factor else []
    if factor and not tried:
        return None  # given in grams: twice of it is no level of this factor
    now = tried[-1].value if tried else _held(kind, vessel, shelf)
    following = _next(kind, now) if now else None
    if now is None or following is None:
        return None
    why, wanted = f"Only {_words(kind, now)} was dyed. ", WORTH_DE00
    if len(tried) > 1:
        pair = {tried[-2].key, tried[-1].key}
        last = next((one for one in effects if one.factor == kind and {one.from_level, one.to_level} == pair), None)
        if last is None or last.de00 < STILL_MOVES_DE00:
            return None
        why = (
            f"From {_words(kind, tried[-2].value or 0)} to {_words(kind, now)} it still moved by {last.de00:.1f} ΔE00. "
        )
        wanted = max(STILL_MOVES_DE00, last.de00 / 2)
    here = tried[-1] if tried else _level(kind, now)
    step = Factor(kind=kind, levels=(here, _level(kind, following)))
    title = {"strength": "Twice the stuff", "duration": "Twice as long", "temperature": "Warmer"}[kind]
    return in_pots_enough(plan, step, f"{title}: {_words(kind, following)}?", why, wanted, shelf, noise)


def _held(kind: Along, vessel: Vessel, shelf: Shelf) -> float | None:
    """What a factor is held at, that is not crossed."""
    if kind == "duration":
        return vessel.duration_min
    if kind == "temperature":
        return vessel.temperature_c
    lot = shelf.dye_lot(vessel.dye or "")
    return vessel.strength_percent_wof or (lot.strength_percent_wof if lot and not vessel.dose_g else None)


def _next(kind: Along, now: float) -> float | None:
    following = now + WARMER_C if kind == "temperature" else 2 * now
    if kind == "temperature" and now < HOTTEST_C < following:
        following = HOTTEST_C
    return following if following <= min(VALUES[kind][1], HOTTEST_C if kind == "temperature" else 1e9) else None


def _level(kind: Along, value: float) -> Level:
    return Level(key=f"{kind}-{value:g}", label=_words(kind, value), value=value)


def _words(kind: Along, value: float) -> str:
    if kind == "duration":
        return duration_words(value)
    return f"{value:g} °C" if kind == "temperature" else f"{value:g} % WOF"
