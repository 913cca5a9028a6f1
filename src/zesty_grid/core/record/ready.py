"""When a swatch may be read: its last bath is over, and it has dried and rested."""

from collections.abc import Sequence
from datetime import datetime, timedelta

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.log import StepTimes

DRY = "dry"


class Rest(Frozen):
    """`ready_at` None while it is still in a bath or not hung yet."""

    in_work: bool
    ready_at: datetime | None


def ready_after(one: BenchVessel, times: Sequence[StepTimes]) -> datetime | None:
    """When the pieces of a vessel are dry and rested; None where they do not hang yet.

    A bath without a step of hanging up (a mordant) counts from its last step.
    """
    by_key = {step.key: step for step in times}
    last = by_key.get(DRY) or (by_key.get(one.leaving_step) if one.leaving_step else None)
    if last is None or last.done_at is None:
        return None
    return last.done_at + timedelta(hours=one.rests_h)


def is_rested(rest: Rest, moment: datetime) -> bool:
    """Whether a swatch may be read at a moment; one that was in no bath always may."""
    if rest.in_work:
        return False
    return rest.ready_at is None or rest.ready_at <= moment
