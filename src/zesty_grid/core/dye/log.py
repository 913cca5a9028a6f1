"""What the bench log says now: ticks, timers, who is in the vessel, pulls, marks."""

from collections.abc import Iterable
from datetime import datetime, timedelta

from zesty_grid.core.dye.bench import BenchVessel
from zesty_grid.core.dye.bench_entry import BenchEntry, Cure, Deviation
from zesty_grid.core.dye.protocol import Protocol
from zesty_grid.core.frozen import Frozen


class Timer(Frozen):
    """A step that runs. `due_at` None: it is watched, it has no end of its own."""

    study: int
    vessel: str
    vessel_name: str
    vessel_title: str
    step: str
    title: str
    begun_at: datetime
    due_at: datetime | None
    stir_every_min: int | None
    iron_watch: bool


class Pull(Frozen):
    """The true seconds that a swatch was in the iron bath."""

    swatch: str
    vessel: str
    seconds: float


class Mark(Frozen):
    """A deviation that a swatch carries from then on; `cure` None: not decided yet."""

    swatch: str
    entry: int
    vessel: str
    step: str
    at: datetime
    deviation: Deviation
    note: str
    cure: Cure | None


def standing(entries: Iterable[BenchEntry]) -> list[BenchEntry]:
    """The log without what was corrected or struck out since, in the order of its true times."""
    every = list(entries)
    over = {entry.replaces for entry in every if entry.replaces}
    left = [entry for entry in every if entry.id not in over and entry.kind != "struck"]
    return sorted(left, key=lambda entry: (entry.at, entry.id))


def ticked_at(entries: list[BenchEntry], vessel: str, step: str) -> datetime | None:
    """When a step was ticked off; None where it is open or the tick was taken back."""
    ticks = _of(entries, vessel, step, "done", "undone")
    return ticks[-1].at if ticks and ticks[-1].kind == "done" else None


def begun_at(entries: list[BenchEntry], vessel: str, step: str) -> datetime | None:
    """When a step was begun that has not been taken back since."""
    begun = _of(entries, vessel, step, "begun", "undone")
    found = None
    for entry in begun:
        found = entry.at if entry.kind == "begun" and found is None else found
        if entry.kind == "undone":
            found = None
    return found


def timers_of(study: int, bench: list[BenchVessel], entries: list[BenchEntry]) -> list[Timer]:
    """Every step that was begun and is not done, the one that is due first in front."""
    begun = {(e.vessel, e.step) for e in entries if e.kind == "begun"}
    found = []
    for one in bench:
        for step in one.steps:
            key = (one.vessel.key, step.key)
            start = begun_at(entries, *key) if key in begun else None
            if start is None or ticked_at(entries, *key):
                continue
            first = next(e for e in _of(entries, *key, "begun") if e.at == start)
            more = sum(e.minutes or 0 for e in _of(entries, *key, "timer") if e.at >= start)
            due = start + timedelta(minutes=first.minutes + more) if first.minutes else None
            found.append(
                Timer(
                    study=study, vessel=one.vessel.key, vessel_name=one.vessel.name,
                    vessel_title=one.vessel.title, step=step.key, title=step.title,
                    begun_at=start, due_at=due, stir_every_min=step.stir_every_min,
                    iron_watch=step.asks == "iron watch",
                )
            )  # fmt: skip
    return sorted(found, key=lambda timer: timer.due_at or timer.begun_at)


def ready_at(one: BenchVessel, entries: list[BenchEntry], protocol: Protocol) -> datetime | None:
    """When the pieces that were hung are dry and rested; None where nothing hangs."""
    hung = ticked_at(entries, one.vessel.key, "dry") if one.step("dry") else None
    return hung + timedelta(hours=protocol.dry_h + protocol.rest_h) if hung else None


def loaded(entries: list[BenchEntry], vessel: str) -> list[str]:
    """The codes of the swatches that are ticked into a vessel, in the order of ticking."""
    inside: dict[str, None] = {}
    for entry in entries:
        if entry.vessel == vessel and entry.kind == "loaded":
            inside |= dict.fromkeys(entry.swatches)
        elif entry.vessel == vessel and entry.kind == "unloaded":
            for code in entry.swatches:
                inside.pop(code, None)
    return list(inside)


def pulls_of(bench: list[BenchVessel], entries: list[BenchEntry]) -> list[Pull]:
    """Seconds in the iron for each pulled swatch, from when it (or all of them) went in."""
    found: dict[tuple[str, str], Pull] = {}
    watched = {
        (one.vessel.key, step.key)
        for one in bench
        for step in one.steps
        if step.asks == "iron watch"
    }
    went_in: dict[tuple[str, str], datetime] = {}
    for entry in entries:
        if (entry.vessel, entry.step) not in watched:
            continue
        if entry.kind == "begun":
            for code in entry.swatches or ("",):
                went_in[entry.vessel, code] = entry.at
        for code in entry.swatches if entry.kind == "pulled" else ():
            start = went_in.get((entry.vessel, code), went_in.get((entry.vessel, "")))
            if start is not None and (entry.vessel, code) not in found:
                seconds = (entry.at - start).total_seconds()
                found[entry.vessel, code] = Pull(swatch=code, vessel=entry.vessel, seconds=seconds)
    return list(found.values())


def marks_of(entries: list[BenchEntry], inside: dict[str, tuple[str, ...]]) -> list[Mark]:
    """What went wrong, by swatch; `inside` has the codes of each vessel."""
    cures = {entry.about: entry.cure for entry in entries if entry.kind == "cure"}
    return [
        Mark(swatch=code, entry=entry.id, vessel=entry.vessel, step=entry.step, at=entry.at,
             deviation=entry.deviation or "other", note=entry.note, cure=cures.get(entry.id))
        for entry in entries
        if entry.kind == "deviation"
        for code in entry.swatches or inside.get(entry.vessel, ())
    ]  # fmt: skip


def _of(entries: list[BenchEntry], vessel: str, step: str, *kinds: str) -> list[BenchEntry]:
    return [e for e in entries if e.vessel == vessel and e.step == step and e.kind in kinds]
