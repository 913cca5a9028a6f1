"""The bench log of the demo study, made up: what was ticked, read, pulled, and what went wrong."""

from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from random import Random
from typing import Any

from zesty_grid.core.dye.iron_limits import SHIFTS_SLOWLY_S
from zesty_grid.core.dye.step import Step
from zesty_grid.core.plan.bath import BathKind
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.entry import BenchEntry, EntryKind, NewBenchEntry

FIRST_DAY = datetime(2026, 9, 14, 8, 30, tzinfo=UTC)
DAY_OF: dict[BathKind, int] = {"scour": 0, "tannin": 1, "extract": 2, "mordant": 2, "dye": 3, "iron": 6}
DYERS = ("Imke", "Tarek")
A_STEP_MIN = 2.0
FORGOTTEN = "D7"


def marsh_log(bench: list[BenchVessel], lost: str = "", into: str = "") -> Iterator[tuple[datetime, NewBenchEntry]]:
    """Every entry with its time, vessel by vessel; the piece `lost` went into the vessel `into`."""
    rng = Random(11)
    seconds = {
        code: 45 if limit.most_s < SHIFTS_SLOWLY_S else 170 for one in bench for code, limit in one.iron_limits.items()
    }
    for number, one in enumerate(bench):
        at = FIRST_DAY + timedelta(days=DAY_OF[one.vessel.bath], minutes=25 * (number % 4))
        for step in one.steps:
            stayed_out = lost if one.vessel.bath == "dye" else ""
            inside = [code for code in one.vessel.swatches if code != stayed_out]
            inside += [lost] if one.name == into else []
            for after_s, entry in _entries(one, step, inside, seconds, rng, DYERS[number % 2]):
                yield at + timedelta(seconds=after_s), entry
            at += timedelta(minutes=_minutes(step))


def iron_log(one: BenchVessel, at: datetime) -> Iterator[tuple[datetime, NewBenchEntry]]:
    """A further iron bath: each piece pulled at its second."""
    rng = Random(12)
    seconds = dict.fromkeys(one.vessel.swatches, one.vessel.seconds or 30)
    for step in one.steps:
        for after_s, entry in _entries(one, step, [*seconds], seconds, rng, "Tarek"):
            yield at + timedelta(seconds=after_s), entry
        at += timedelta(minutes=_minutes(step))


def cure_for(deviation: BenchEntry) -> NewBenchEntry:
    """What was decided about the one thing that went wrong."""
    return NewBenchEntry(
        kind="cure",
        vessel=deviation.vessel,
        step=deviation.step,
        who=deviation.who,
        about=deviation.id,
        cure="keep with a mark",
        note="even by eye",
        at=deviation.at,
    )


def _minutes(step: Step) -> float:
    return A_STEP_MIN + step.hands_min + step.warm_min + step.shortest_min


def _entries(
    one: BenchVessel, step: Step, inside: list[str], seconds: dict[str, int], rng: Random, who: str
) -> Iterator[tuple[float, NewBenchEntry]]:
    def entry(kind: EntryKind, **more: Any) -> NewBenchEntry:
        where = {"vessel": one.name, "step": step.key, "who": who}
        return NewBenchEntry.model_validate({"kind": kind, **where, **more})

    end_s = 60 * _minutes(step) - 30
    if step.asks == "loading":
        yield 10, entry("loaded", swatches=inside, sure=True)
    if step.heat:
        yield 5, entry("begun", minutes=step.warm_min + (step.duration_min or 0))
        warm = round((step.temperature_c or 80) + rng.uniform(-2, 2), 1)
        yield 60 * (step.warm_min + 5), entry("record", temperature_c=warm)
    if step.wants_ph and one.vessel.ph:
        drift = {"set-ph": 0.0, "hold": 0.05, "cool": 0.09}.get(step.key, 0.12)
        yield end_s / 2, entry("record", ph=round(one.vessel.ph + (7 - one.vessel.ph) * drift, 1))
    if step.key == "hold" and one.name == FORGOTTEN:
        yield end_s - 20, entry("deviation", deviation="forgot to stir", note="no stirring for 20 min, telephone")
    if step.asks == "iron watch":
        yield 20, entry("begun")
        for code in inside:
            pulled_s = 20 + seconds[code] + round(rng.uniform(-4, 9), 1)
            yield pulled_s, entry("pulled", swatches=[code])
    if step.asks == "rinses":
        bled = rng.choice(["none", "a little", "much"])
        yield 60, entry("rinses", count=rng.randint(2, 5), clear=True, bled=bled)
    yield end_s, entry("done")
