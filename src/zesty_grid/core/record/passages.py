"""The true path: which swatches were in a bath, from when until when, as the log tells."""

from collections.abc import Iterable, Sequence
from datetime import datetime
from typing import Literal

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.entry import BenchEntry
from zesty_grid.core.record.log import StepTimes, step_times

# How it is known that a swatch was in: it was ticked in, or nobody ticked and it belonged there.
Known = Literal["ticked", "as planned"]


class Passage(Frozen):
    """A swatch in a vessel. `out_at` None: it is still in. `ended`: its bath is over, so that it
    is in the state after it. `stray`: it did not belong there. `seconds` in an iron watch."""

    swatch: str
    vessel: str
    in_at: datetime
    out_at: datetime | None
    ended: bool
    known: Known
    stray: bool
    seconds: float | None = None


class WhoIsIn(Frozen):
    """`passages` of those who are or were in; `expected` belong in and may still come; `missed`
    belonged in, and the bath went on without them."""

    passages: tuple[Passage, ...]
    expected: tuple[str, ...]
    missed: tuple[str, ...]

    @property
    def held(self) -> frozenset[str]:
        """Everybody for whom this bath counts as theirs."""
        return frozenset((*(one.swatch for one in self.passages), *self.expected))


def who_is_in(one: BenchVessel, log: Sequence[BenchEntry], steps: Iterable[StepTimes] | None = None) -> WhoIsIn:
    """From the standing log. A vessel that was filled without a single tick had all of its own in
    it; where some were ticked in, only those were. What was said later of a swatch that was in
    another vessel counts before both. `steps`: where its times are known already."""
    own = [entry for entry in log if entry.vessel == one.name]
    times = {step.key: step for step in (step_times(one, own) if steps is None else steps)}
    belongs = one.vessel.swatches
    entered = _entered_at(one, own, times)
    came = _comings(own)
    singly, together = _dipped(one, own)
    left = _taken_out(one, times) | _leavings(own)
    went_in = dict(came)
    known: Known = "ticked"
    if together is not None and not came:
        went_in = dict.fromkeys(belongs, together)
    elif not came and not singly and entered is not None:
        known, went_in = "as planned", dict.fromkeys(belongs, entered)
    went_in |= singly
    end = _end_at(one, times)
    came_from = {code: entry for entry in own if entry.instead_of for code in entry.swatches}
    went_in |= {code: entered or entry.at for code, entry in came_from.items()}
    gone = {code for entry in log if entry.instead_of == one.name for code in entry.swatches}
    went_in = {code: in_at for code, in_at in went_in.items() if code not in gone}
    passages = []
    for code, in_at in went_in.items():
        out_at = left.get(code)
        # Ticked out again before the lid went on: it was not in at all.
        if out_at is not None and code in came and (entered is None or out_at < entered):
            continue
        pulled = _pulled_at(own, code)
        out_at = min((m for m in (out_at, pulled, end) if m is not None), default=None)
        begun = singly.get(code, together)
        seconds = (pulled - begun).total_seconds() if pulled and begun else None
        passages.append(
            Passage(
                swatch=code,
                vessel=one.name,
                in_at=min(in_at, out_at or in_at),
                out_at=out_at,
                ended=out_at is not None,
                known="ticked" if code in came_from else known,
                stray=code not in belongs,
                seconds=seconds,
            )
        )
    inside = {passage.swatch for passage in passages}
    outside = tuple(code for code in belongs if code not in inside)
    over = entered is not None
    return WhoIsIn(
        passages=tuple(sorted(passages, key=lambda p: (p.in_at, p.swatch))),
        expected=() if over else outside,
        missed=outside if over else (),
    )


def _entered_at(one: BenchVessel, own: Sequence[BenchEntry], times: dict[str, StepTimes]) -> datetime | None:
    """When the pieces were all in: the entering step was ticked off, or something after it."""
    key = one.entry_step
    if key is None:
        return None
    step = times[key]
    together = _dipped(one, own)[1] if step.iron_watch else None
    if step.done_at or together:
        return min(moment for moment in (step.done_at, together) if moment)
    keys = [each.key for each in one.steps]
    later = [times[each] for each in keys[keys.index(key) + 1 :]]
    moments = [m for each in later for m in (each.begun_at, each.done_at) if m]
    return min(moments, default=None)


def _end_at(one: BenchVessel, times: dict[str, StepTimes]) -> datetime | None:
    """When the pieces that were still in came out."""
    key = one.leaving_step
    if key is None:
        return None
    keys = [step.key for step in one.steps]
    after = [times[each] for each in keys[keys.index(key) :]]
    return min((m for each in after for m in (each.begun_at, each.done_at) if m), default=None)


def _taken_out(one: BenchVessel, times: dict[str, StepTimes]) -> dict[str, datetime]:
    """When pieces came out before the rest, as planned: by the step that says so."""
    return {
        code: done
        for step in one.steps
        if step.takes_out and (done := times[step.key].done_at)
        for code in step.takes_out
    }


def _comings(own: Iterable[BenchEntry]) -> dict[str, datetime]:
    """When each swatch was first ticked in, if it was not ticked out for good before."""
    found: dict[str, datetime] = {}
    for entry in own:
        if entry.kind == "loaded":
            for code in entry.swatches:
                found.setdefault(code, entry.at)
    return found


def _leavings(own: Iterable[BenchEntry]) -> dict[str, datetime]:
    """When each swatch was taken out last, if it did not go in again."""
    out: dict[str, datetime] = {}
    for entry in own:
        for code in entry.swatches:
            if entry.kind == "unloaded":
                out[code] = entry.at
            elif entry.kind == "loaded":
                out.pop(code, None)
    return out


def _dipped(one: BenchVessel, own: Iterable[BenchEntry]) -> tuple[dict[str, datetime], datetime | None]:
    """In an iron watch: when single swatches went in, and when all others did."""
    watched = {step.key for step in one.steps if step.asks == "iron watch"}
    begun = [entry for entry in own if entry.kind == "begun" and entry.step in watched]
    singly = {code: entry.at for entry in begun for code in entry.swatches}
    together = [entry.at for entry in begun if not entry.swatches]
    return singly, together[-1] if together else None


def _pulled_at(own: Iterable[BenchEntry], code: str) -> datetime | None:
    return next((e.at for e in own if e.kind == "pulled" and code in e.swatches), None)
