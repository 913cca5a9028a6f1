"""What the log says of each stretch of work: not begun, running, or done."""

from collections.abc import Callable, Iterable
from datetime import datetime
from itertools import pairwise

from zesty_grid.core.dye.scheduling.from_bench import SoFar, StretchOfWork
from zesty_grid.core.record.entry import BenchEntry
from zesty_grid.core.record.log import begun_at, ticked_at


def so_far_of(
    stretches: Iterable[StretchOfWork],
    log: list[BenchEntry],
    own_time: Callable[[datetime], datetime],
    vessels: dict[str, str],
    pinned: dict[str, datetime],
) -> SoFar:
    """`own_time` turns a logged moment into the bench's own time.

    A stretch is done when its last step is ticked, or when a later one of its vessel was begun.
    """
    begun: dict[str, datetime] = {}
    done: dict[str, datetime] = {}
    in_order = list(stretches)
    for stretch in in_order:
        ticks = [ticked_at(log, stretch.vessel, step) for step in stretch.steps]
        starts = [begun_at(log, stretch.vessel, step) for step in stretch.steps]
        moments = [moment for moment in (*ticks, *starts) if moment]
        if moments:
            begun[stretch.task] = own_time(min(moments))
        last = ticks[-1]
        if last:
            done[stretch.task] = own_time(last)
    for after, before in pairwise(reversed(in_order)):
        if before.vessel == after.vessel and after.task in begun:
            begun.setdefault(before.task, begun[after.task])
            done.setdefault(before.task, begun[after.task])
    return SoFar(
        begun=begun, done=done, vessels=vessels, pinned={task: at for task, at in pinned.items() if task not in begun}
    )
