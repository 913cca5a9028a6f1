"""States between: a piece that was out of its bath and went in again, or whose bath was heated again."""

from collections.abc import Iterable, Sequence
from datetime import datetime, timedelta
from typing import Literal

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.record.entry import BenchEntry
from zesty_grid.core.record.log import StepTimes
from zesty_grid.core.record.passages import Passage

PauseKind = Literal["heating", "out"]
# A piece that went in again and a bath that is heated soon after are one pause.
SOON = timedelta(minutes=30)
MOST_PAUSES = 99


class Pause(Frozen):
    """What a piece is like from `from_at` on, until it went on: after its `number`th heating, or when it
    was out for the `number`th time. `go_ended_at`: what was done to the bath until then has made it so."""

    swatch: str
    kind: PauseKind
    number: int
    from_at: datetime
    go_ended_at: datetime


class _Break:
    """Out, in again, heated again: whichever of them belong to one pause."""

    def __init__(self, out_at: datetime | None) -> None:
        self.out_at = out_at
        self.in_at: datetime | None = None
        self.heated_at: datetime | None = None

    @property
    def end(self) -> datetime | None:
        return max((m for m in (self.in_at, self.heated_at) if m), default=None)

    def takes_heating(self, at: datetime) -> bool:
        return self.heated_at is None and (self.in_at is None or at - self.in_at <= SOON)


def pauses_of(passages: Iterable[Passage], own: Sequence[BenchEntry], steps: Iterable[StepTimes]) -> tuple[Pause, ...]:
    """From the standing log of one bath and the times of its steps. A look in between is a pause too."""
    heated = [at for step in steps if step.heats_again and (at := step.begun_at or step.done_at)]
    return tuple(pause for passage in passages for pause in _of_piece(passage, own, heated))


def _of_piece(passage: Passage, own: Sequence[BenchEntry], heated: Sequence[datetime]) -> list[Pause]:
    breaks = _breaks(passage, own, heated)
    found: list[Pause] = []
    since, heatings, outs = passage.in_at, 0, 0
    for one in breaks:
        if one.end is None:
            continue
        heatings += one.heated_at is not None
        outs += one.heated_at is None
        found.append(
            Pause(
                swatch=passage.swatch,
                kind="heating" if one.heated_at else "out",
                number=heatings if one.heated_at else outs,
                from_at=one.out_at or since,
                go_ended_at=one.out_at or one.end,
            )
        )
        since = one.end
    return [one for one in found if one.number <= MOST_PAUSES]


def _breaks(passage: Passage, own: Sequence[BenchEntry], heated: Sequence[datetime]) -> list[_Break]:
    """In order; one without an end is the last, in which the piece stayed out."""
    moved = [(entry.at, str(entry.kind)) for entry in own if passage.swatch in entry.swatches]
    breaks: list[_Break] = []
    for at, what in sorted([*moved, *((at, "heated") for at in heated)]):
        if not passage.in_at < at or (passage.out_at and at >= passage.out_at):
            continue
        last = breaks[-1] if breaks else None
        if what == "heated":
            if last is None or not last.takes_heating(at):
                last = _Break(None)
                breaks.append(last)
            last.heated_at = at
        elif what == "unloaded":
            breaks.append(_Break(at))
        elif what == "looked":
            breaks.append(_Break(at))
            breaks[-1].in_at = at
        elif what == "loaded" and last and last.out_at and last.in_at is None:
            last.in_at = at
    return breaks
