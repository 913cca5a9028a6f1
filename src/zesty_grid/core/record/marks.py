"""What went wrong, by swatch: said of it, of its whole bath, or of an extract or stock in it."""

from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.entry import BenchEntry, Cure, Deviation

LEAVES_OUT: tuple[Cure, ...] = ("leave out", "repeat", "replace")
LEAVES_OPEN: tuple[Cure, ...] = ("repeat", "replace")


class Mark(Frozen):
    """A deviation that a swatch carries from then on; `cure` None: not decided yet.

    `through` says by what it came: the vessel or stock where it happened, if that was not the
    swatch's own bath. What is done about it may be said with it, or later.
    """

    swatch: str
    entry: int
    vessel: str
    step: str
    at: datetime
    deviation: Deviation
    note: str
    cure: Cure | None
    through: str = ""


def marks_of(
    log: Sequence[BenchEntry],
    vessels: Iterable[BenchVessel],
    inside: Mapping[str, Iterable[str]],
    ended: Mapping[str, datetime],
) -> list[Mark]:
    """From the standing log; `inside` has who was in each vessel, or is expected there, `ended`
    when its pieces were out. A stock that went wrong spoils no bath that was over by then."""
    every = list(vessels)
    cures = {entry.about: entry.cure for entry in log if entry.kind == "cure"}
    found = []
    for entry in log:
        if entry.kind != "deviation":
            continue
        for code, through in _touched(entry, every, inside, ended).items():
            found.append(
                Mark(
                    swatch=code,
                    entry=entry.id,
                    vessel=entry.vessel,
                    step=entry.step,
                    at=entry.at,
                    deviation=entry.deviation or "other",
                    note=entry.note,
                    cure=cures.get(entry.id, entry.cure),
                    through=through,
                )
            )
    return found


def do_not_count(marks: Iterable[Mark]) -> frozenset[str]:
    """Codes of the swatches that are left out, or are to be made again."""
    return frozenset(mark.swatch for mark in marks if mark.cure in LEAVES_OUT)


def stock_name(name: str, percent: float) -> str:
    """How a stock solution is called in the log."""
    return f"{name} {percent:g} %"


def _touched(
    entry: BenchEntry,
    vessels: Sequence[BenchVessel],
    inside: Mapping[str, Iterable[str]],
    ended: Mapping[str, datetime],
) -> dict[str, str]:
    if entry.swatches:
        return dict.fromkeys(entry.swatches, "")
    if entry.stock:
        taking = [
            one.name for one in vessels if entry.stock in _stocks_in(one) and ended.get(one.name, entry.at) >= entry.at
        ]
        return {code: f"the stock of {entry.stock}" for name in taking for code in inside.get(name, ())}
    own = next((one for one in vessels if one.name == entry.vessel), None)
    if own is not None and own.vessel.bath == "extract":
        drawing = [one.name for one in vessels if one.draws_from == entry.vessel]
        return {code: f"the extract {entry.vessel}" for name in drawing for code in inside.get(name, ())}
    return dict.fromkeys(inside.get(entry.vessel, ()), "")


def _stocks_in(one: BenchVessel) -> set[str]:
    return {stock_name(figure.name, figure.stock_percent) for figure in one.amounts.figures if figure.stock_percent}
