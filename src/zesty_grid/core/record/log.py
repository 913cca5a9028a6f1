"""The log of a study: what of it stands, and when the steps of a vessel were begun and done."""

from collections.abc import Iterable, Sequence
from datetime import datetime, timedelta

from zesty_grid.core.dye.step import Step
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.entry import BenchEntry

REHEAT = "reheat"
AGAIN = "again"


class StepTimes(Frozen):
    """When a step of a vessel was begun, is due, and was done; None: not yet.

    `due_at` None while it runs: it is watched, it has no end of its own. A reheat is a step that
    the recipe does not have: its key is "reheat-" and the number of its entry.
    """

    key: str
    title: str
    begun_at: datetime | None = None
    due_at: datetime | None = None
    done_at: datetime | None = None
    stir_every_min: int | None = None
    iron_watch: bool = False

    @property
    def runs(self) -> bool:
        return self.begun_at is not None and self.done_at is None

    @property
    def heats_again(self) -> bool:
        """A bath that had been heated before is heated once more, as planned or as it came."""
        return self.key.startswith((f"{AGAIN}-", f"{REHEAT}-"))


def standing(entries: Iterable[BenchEntry]) -> list[BenchEntry]:
    """The log without what was corrected or struck out since, in the order of its true times."""
    every = list(entries)
    over = {entry.replaces for entry in every if entry.replaces}
    left = [entry for entry in every if entry.id not in over and entry.kind != "struck"]
    return sorted(left, key=lambda entry: (entry.at, entry.id))


def ticked_at(entries: Iterable[BenchEntry], vessel: str, step: str) -> datetime | None:
    """When a step was ticked off; None where it is open or the tick was taken back."""
    ticks = _of(entries, vessel, step, "done", "undone")
    return ticks[-1].at if ticks and ticks[-1].kind == "done" else None


def begun_at(entries: Iterable[BenchEntry], vessel: str, step: str) -> datetime | None:
    """When a step was begun that has not been taken back since."""
    first = _begin(_of(entries, vessel, step, "begun", "undone"))
    return first.at if first else None


def step_times(one: BenchVessel, log: Sequence[BenchEntry]) -> list[StepTimes]:
    """Every step of a vessel, reheats at the end; `log` is the standing log, also of others."""
    own = [entry for entry in log if entry.vessel == one.name]
    by_step: dict[str, list[BenchEntry]] = {}
    for entry in own:
        by_step.setdefault(entry.step, []).append(entry)
    found = [_times(by_step.get(step.key, ()), step) for step in one.steps]
    for entry in own:
        if entry.kind == REHEAT:
            key = f"{REHEAT}-{entry.id}"
            more = _of(by_step.get(key, ()), one.name, key, "timer")
            minutes = entry.minutes and entry.minutes + sum(e.minutes or 0 for e in more)
            heat = f" to {entry.temperature_c:g} °C" if entry.temperature_c is not None else ""
            found.append(
                StepTimes(
                    key=key,
                    title=f"Heat again{heat}",
                    begun_at=entry.at,
                    due_at=entry.at + timedelta(minutes=minutes) if minutes else None,
                    done_at=ticked_at(by_step.get(key, ()), one.name, key),
                )
            )
    return found


def has_begun(one: BenchVessel, log: Sequence[BenchEntry], steps: Iterable[StepTimes] | None = None) -> bool:
    """Whether anything was done at a vessel that was not taken back since. `steps`: where its times
    are known already."""
    known = step_times(one, log) if steps is None else steps
    if any(times.begun_at or times.done_at for times in known):
        return True
    doing = ("loaded", "pulled", "addition", "rinses", "laid", "record", "looked", "deviation")
    inside = loaded(log, one.name)
    return any(entry.vessel == one.name and entry.kind in doing and (entry.kind != "loaded" or inside) for entry in log)


def loaded(entries: Iterable[BenchEntry], vessel: str) -> list[str]:
    """The codes of the swatches that are ticked into a vessel, in the order of ticking."""
    inside: dict[str, None] = {}
    for entry in entries:
        if entry.vessel == vessel and entry.kind == "loaded":
            inside |= dict.fromkeys(entry.swatches)
        elif entry.vessel == vessel and entry.kind == "unloaded":
            for code in entry.swatches:
                inside.pop(code, None)
    return list(inside)


def _times(own: Sequence[BenchEntry], step: Step) -> StepTimes:
    first = _begin([e for e in own if e.kind in ("begun", "undone")])
    ticks = [e for e in own if e.kind in ("done", "undone")]
    due = None
    if first and first.minutes:
        more = sum(e.minutes or 0 for e in own if e.kind == "timer" and e.at >= first.at)
        due = first.at + timedelta(minutes=first.minutes + more)
    return StepTimes(
        key=step.key,
        title=step.title,
        begun_at=first.at if first else None,
        due_at=due,
        done_at=ticks[-1].at if ticks and ticks[-1].kind == "done" else None,
        stir_every_min=step.stir_every_min,
        iron_watch=step.asks == "iron watch",
    )


def _begin(entries: Iterable[BenchEntry]) -> BenchEntry | None:
    found: BenchEntry | None = None
    for entry in entries:
        if entry.kind == "undone":
            found = None
        elif found is None:
            found = entry
    return found


def _of(entries: Iterable[BenchEntry], vessel: str, step: str, *kinds: str) -> list[BenchEntry]:
    return [e for e in entries if e.vessel == vessel and e.step == step and e.kind in kinds]
