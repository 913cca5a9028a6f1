"""What a swatch went through, as a recipe that can be followed: with any mass, in any study."""

import hashlib
from collections.abc import Sequence
from datetime import datetime
from typing import NamedTuple

from zesty_grid.core.plan.bath import Bath, BathKind
from zesty_grid.core.plan.given_for import GivenFor
from zesty_grid.core.plan.planned_addition import PlannedAddition
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.entry import BenchEntry
from zesty_grid.core.record.log import REHEAT

# Each study scours and extracts by itself.
BY_ITSELF: tuple[BathKind, ...] = ("scour", "extract")


class PassedThrough:
    """A bath that a swatch was in (or is to be in): as it was kept, since when, and its standing log."""

    def __init__(self, one: BenchVessel, in_at: datetime | None, log: Sequence[BenchEntry]) -> None:
        self.one = one
        self.in_at = in_at
        self.log = [entry for entry in log if entry.vessel == one.name]


class ReadIn(NamedTuple):
    """The lowest and the highest that was said of a bath; None: nothing was."""

    temperature_c: tuple[float, float] | None
    ph: tuple[float, float] | None


def read_in(log: Sequence[BenchEntry]) -> ReadIn:
    warm = [entry.temperature_c for entry in log if entry.temperature_c is not None]
    acid = [entry.ph for entry in log if entry.ph is not None]
    return ReadIn((min(warm), max(warm)) if warm else None, (min(acid), max(acid)) if acid else None)


def followed_baths(passed: Sequence[PassedThrough], code: str) -> tuple[Bath, ...]:
    """The baths of a recipe in their order. What was put in and heated again at the bench belongs to it."""
    own = [one for one in passed if one.one.vessel.bath not in BY_ITSELF]
    return tuple(_followed(one, code, place) for place, one in enumerate(own))


def _followed(passed: PassedThrough, code: str, place: int) -> Bath:
    vessel = passed.one.vessel
    facts = {name: getattr(vessel, name) for name in Bath.model_fields}
    given = vessel.given_for
    fibre_g = vessel.dry_fibre_g
    for_g = given.vessel_g if given and given.vessel_g else fibre_g
    more = [one for one in (_put_in(entry, passed) for entry in passed.log) if one is not None]
    more = [one.model_copy(update={"amount": one.amount * for_g / fibre_g}) for one in more]
    heats = sum(entry.kind == REHEAT for entry in passed.log)
    out = next((one.after_min for one in vessel.outs if code in one.swatches), None)
    facts |= {
        "title": _without_pot(vessel.title),
        "treatment": None,
        "again": None,
        # A liquor that was used already: no new water, no new dye.
        "dip": 2 if vessel.again else vessel.dip,
        "additions": (*vessel.additions, *more),
        "reheats": vessel.reheats + heats,
        "duration_min": out or vessel.duration_min,
        "strength_percent_wof": vessel.strength_percent_wof or _strength(passed.one),
        "given_for": GivenFor(vessel_g=for_g, bath_g=fibre_g),
        "ml_per_g": vessel.volume_ml / fibre_g,
        "place": place,
    }
    bath = Bath.model_validate(facts | {"key": ""})
    what = bath.model_dump_json(exclude={"key", "title"})
    return bath.model_copy(update={"key": f"as-kept:{vessel.bath}:{hashlib.sha256(what.encode()).hexdigest()[:12]}"})


def _put_in(entry: BenchEntry, passed: PassedThrough) -> PlannedAddition | None:
    """What was put in beyond the plan, at its minute; water and extracts are left to the log."""
    added = entry.addition
    step = passed.one.step(entry.step)
    if entry.kind != "addition" or added is None or (step and step.asks == "addition"):
        return None
    if added.what not in ("substance", "dye lot") or not added.item:
        return None
    minutes = (entry.at - passed.in_at).total_seconds() / 60 if passed.in_at else -1
    grams = added.what == "dye lot" or added.stock_percent is not None
    if grams and not added.grams:
        return None
    return PlannedAddition(
        what="dye lot" if added.what == "dye lot" else "substance",
        item=added.item,
        amount=added.grams if grams and added.grams else added.amount,
        unit="g" if grams else added.unit,
        moment="with the pieces in" if minutes >= 0 else "first",
        after_min=round(minutes) if minutes >= 0 else None,
    )


def _strength(one: BenchVessel) -> float | None:
    """Of a dye at the strength of its lot on that day."""
    vessel = one.vessel
    if vessel.dye is None or vessel.dose_g or not vessel.has_own_liquor or not vessel.dry_fibre_g:
        return None
    stuff = [f.grams for f in one.amounts.figures if f.role == "dye stuff" and not f.moment and f.grams]
    return 100 * stuff[0] / vessel.dry_fibre_g if len(stuff) == 1 else None


def _without_pot(title: str) -> str:
    return title.split(", pot ")[0].split(", run ")[0]
