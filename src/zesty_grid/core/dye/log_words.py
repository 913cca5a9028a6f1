"""The bench log in words: one line an entry, to be read, searched, printed."""

from collections.abc import Iterable, Mapping
from datetime import datetime
from types import MappingProxyType

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.factors import FactorKind
from zesty_grid.core.record.addition import words_of
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.entry import BenchEntry, EntryKind, StripSaid
from zesty_grid.core.weigh.working import counted, duration_words

KIND_WORDS: dict[EntryKind, str] = {
    "begun": "begun",
    "done": "done",
    "undone": "tick taken back",
    "timer": "timer",
    "record": "reading",
    "addition": "put in",
    "reheat": "heated again",
    "loaded": "in",
    "unloaded": "taken out",
    "looked": "out for a look",
    "pulled": "pulled",
    "rinses": "rinsed",
    "hand": "hand",
    "laid": "laid",
    "deviation": "went wrong",
    "cure": "what is done about it",
    "placed": "counts as",
    "probe": "probe",
    "note": "note",
    "struck": "struck out",
}
MANY_CODES = 8
Labels = Mapping[tuple[FactorKind, str], str]
NO_LABELS: Labels = MappingProxyType({})


class LogLine(Frozen):
    """`replaced_by` is the entry that corrects this one; then this one no longer counts.

    `entered_later`: it was written down well after it happened, at `entered_at`. `device` is the
    one from which it came; empty for the computer itself.
    """

    id: int
    at: datetime
    entered_at: datetime
    received_at: datetime
    entered_later: bool
    who: str
    device: str = ""
    vessel: str
    step_title: str
    kind: EntryKind
    kind_words: str
    words: str
    swatches: tuple[str, ...]
    replaces: int | None
    replaced_by: int | None
    photo: str | None


def log_lines(
    entries: Iterable[BenchEntry],
    bench: Iterable[BenchVessel],
    devices: Mapping[int, str] = MappingProxyType({}),
    labels: Labels = NO_LABELS,
) -> list[LogLine]:
    """Every entry, the newest first; `devices` by the number of the entry, `labels` of levels by
    their factor and key."""
    vessels = {one.name: one for one in bench}
    entries = list(entries)
    over = {entry.replaces: entry.id for entry in entries if entry.replaces}
    lines = []
    for entry in entries:
        one = vessels.get(entry.vessel)
        step = one.step(entry.step) if one else None
        lines.append(
            LogLine(
                id=entry.id,
                at=entry.at,
                entered_at=entry.entered_at,
                received_at=entry.received_at,
                entered_later=entry.entered_later,
                who=entry.who,
                device=devices.get(entry.id, ""),
                vessel=entry.vessel,
                step_title=step.title if step else entry.step,
                kind=entry.kind,
                kind_words=KIND_WORDS[entry.kind],
                words=entry_words(entry, labels),
                swatches=entry.swatches,
                replaces=entry.replaces,
                replaced_by=over.get(entry.id),
                photo=entry.photo,
            )
        )
    return sorted(lines, key=lambda line: (line.at, line.id), reverse=True)


def entry_words(entry: BenchEntry, labels: Labels = NO_LABELS) -> str:
    """What an entry says beside its kind."""
    parts = [
        f"{entry.temperature_c:g} °C" if entry.temperature_c is not None else "",
        f"pH {entry.ph:g}" if entry.ph is not None else "",
        _strip_words(entry.strip) if entry.strip else "",
        words_of(entry.addition) if entry.addition else "",
        duration_words(entry.minutes) if entry.minutes is not None else "",
        f"{entry.count} rinses" if entry.count is not None else "",
        {True: "clear", False: "not clear yet"}.get(entry.clear) or "" if entry.clear is not None else "",
        f"bled: {entry.bled}" if entry.bled else "",
        entry.hand or "",
        entry.evenness or "",
        entry.deviation or "",
        f"stock: {entry.stock}" if entry.stock else "",
        _of_levels(entry, labels),
        f"of trial {entry.trial}" if entry.trial is not None else "",
        entry.cure or "",
        f"about no. {entry.about}" if entry.about else "",
        entry.probe or "",
        _codes(entry.swatches),
        f"map of {counted(len(entry.zones), 'zone')}" if entry.zones else "",
        entry.note,
    ]
    said = [part for part in parts if part]
    if entry.replaces:
        said.append(f"in place of no. {entry.replaces}")
    return ", ".join(said)


def search(lines: Iterable[LogLine], text: str = "", who: str = "", vessel: str = "", kind: str = "") -> list[LogLine]:
    """The lines that hold every word of `text`, by whom, where and of what kind one asks."""
    words = text.lower().split()

    def matches(line: LogLine) -> bool:
        said = " ".join((line.words, line.who, line.vessel, line.step_title, line.kind_words, *line.swatches)).lower()
        return (
            all(word in said for word in words)
            and who in ("", line.who)
            and vessel in ("", line.vessel)
            and kind in ("", line.kind)
        )

    return [line for line in lines if matches(line)]


def _of_levels(entry: BenchEntry, labels: Labels) -> str:
    words = ", ".join(labels.get(level, level[1]) for level in (entry.levels or {}).items())
    return f"of {words}" if words and entry.kind == "note" else words


def _codes(swatches: tuple[str, ...]) -> str:
    if len(swatches) > MANY_CODES:
        return counted(len(swatches), "swatch")
    return " ".join(swatches)


def _strip_words(strip: StripSaid) -> str:
    """How sure a strip is, what the eye read, and whether it was read late."""
    said = "by a strip that fits no point of its scale"
    if strip.low is not None and strip.high is not None:
        end = {"below": ", or lower", "above": ", or higher"}.get(strip.beyond or "", "")
        said = f"by strip, {strip.low:.1f} to {strip.high:.1f}{end}"
    late = ", read late" if strip.late else ""
    eye = f"; by eye {strip.by_eye:g}" if strip.by_eye is not None else ""
    return said + late + eye
