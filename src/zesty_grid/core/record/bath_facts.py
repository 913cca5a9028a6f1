"""All that the log says of one bath that has begun, at once."""

from collections.abc import Sequence
from datetime import datetime

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.entry import BenchEntry
from zesty_grid.core.record.log import StepTimes, has_begun, step_times
from zesty_grid.core.record.passages import WhoIsIn, who_is_in
from zesty_grid.core.record.pauses import Pause, pauses_of
from zesty_grid.core.record.ready import ready_after


class BathFacts(Frozen):
    """`begun`: something was done that was not taken back since. `ended_at`: its pieces were out;
    `finished_at`: its last step was done; `ready_at`: what hung is dry and rested."""

    begun: bool
    begun_at: datetime | None
    ended_at: datetime | None
    finished_at: datetime | None
    ready_at: datetime | None
    steps: tuple[StepTimes, ...]
    who: WhoIsIn
    pauses: tuple[Pause, ...]


def facts_of(one: BenchVessel, log: Sequence[BenchEntry]) -> BathFacts:
    """From the standing log, of which only the entries of this bath matter."""
    own = [entry for entry in log if one.name in (entry.vessel, entry.instead_of)]
    steps = step_times(one, own)
    moments = [m for step in steps for m in (step.begun_at, step.done_at) if m]
    by_key = {step.key: step for step in steps}
    leaving = by_key.get(one.leaving_step or "")
    who = who_is_in(one, own, steps)
    last = by_key[one.steps[-1].key] if one.steps else None
    return BathFacts(
        begun=has_begun(one, own, steps),
        begun_at=min(moments, default=None),
        ended_at=leaving.done_at if leaving else last.done_at if last else None,
        finished_at=last.done_at if last else None,
        ready_at=ready_after(one, steps),
        steps=tuple(steps),
        who=who,
        pauses=pauses_of(who.passages, [entry for entry in own if entry.vessel == one.name], steps),
    )
