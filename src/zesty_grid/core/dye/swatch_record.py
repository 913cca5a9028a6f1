"""The whole record of one swatch: where it comes from, every bath that it was in, its states."""

from collections.abc import Iterable, Sequence
from datetime import datetime

from zesty_grid.core.dye.holding import HEATED_AGAIN
from zesty_grid.core.dye.log_words import LogLine
from zesty_grid.core.dye.step_parts import said
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.factors import FactorKind
from zesty_grid.core.read.colour_difference import ColourDifference
from zesty_grid.core.read.readings import Reading
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.entry import BenchEntry
from zesty_grid.core.record.marks import Mark
from zesty_grid.core.record.passages import Known, Passage
from zesty_grid.core.record.states import StateColour
from zesty_grid.core.record.swatch import Levels

# What is said of a whole vessel, beside what names the swatch itself.
OF_THE_VESSEL = {"begun", "done", "record", "addition", "reheat", "rinses", "probe", "laid", "deviation", "note"}


class BathPassed(Frozen):
    """A bath that the swatch was in, or is to be in (`in_at` None), with what was logged there.

    `study` and `study_name` are those of the bath, which may be another than the swatch's own.
    Readings are those of the time when it was in. `heated_again` counts each further heat of the
    bath, planned or not.
    """

    study: int
    study_name: str
    vessel: str
    title: str
    begun: bool
    recipe: tuple[str, ...]
    in_at: datetime | None = None
    out_at: datetime | None = None
    ended: bool = False
    known: Known | None = None
    stray: bool = False
    seconds: float | None = None
    temperature_c: tuple[float, float] | None = None
    ph: tuple[float, float] | None = None
    heated_again: int = 0
    lines: tuple[LogLine, ...] = ()


class StateShown(Frozen):
    """A state of the swatch, its colour where it was read, and how that differs from the state
    before it. `limit_de00` is what two alike would stay under."""

    run: int
    label: str
    at: datetime | None
    colour: StateColour | None
    change: ColourDifference | None = None
    uncertainty_de00: float | None = None
    limit_de00: float | None = None


class Relative(Frozen):
    """A swatch that this one was cut from, or that was cut from it; or a study that it is in."""

    study: int
    study_name: str
    swatch: str = ""


class SwatchRecord(Frozen):
    """`levels` are those it really has, `meant` those it was planned for, where they differ."""

    code: str
    tie: str
    cell: str
    levels: dict[FactorKind, str]
    level_words: dict[str, str]
    meant: Levels | None
    planned: bool
    control: str
    fibre_words: str
    mass_g: float
    cut_from: Relative | None
    cut_into: tuple[Relative, ...]
    studies: tuple[Relative, ...]
    passages: tuple[BathPassed, ...]
    states: tuple[StateShown, ...]
    marks: tuple[Mark, ...]
    hand: tuple[LogLine, ...]
    readings: tuple[Reading, ...]


def bath_passed(
    study: int,
    study_name: str,
    one: BenchVessel,
    passage: Passage | None,
    code: str,
    lines: Iterable[LogLine],
    read: Sequence[tuple[datetime, float | None, float | None]],
) -> BathPassed:
    """`lines` is the standing log of the study; `read` the bath's temperatures (°C) and pH, by
    hand and by probe."""
    own = [
        line
        for line in lines
        if line.vessel == one.name and (code in line.swatches or (not line.swatches and line.kind in OF_THE_VESSEL))
    ]
    base = BathPassed(
        study=study,
        study_name=study_name,
        vessel=one.name,
        title=one.vessel.title,
        begun=one.begun,
        recipe=tuple(said(figure) for figure in one.amounts.figures),
        lines=tuple(sorted(own, key=lambda line: (line.at, line.id))),
        heated_again=sum(
            line.kind == "reheat" or (line.kind == "done" and line.step_title.startswith(HEATED_AGAIN)) for line in own
        ),
    )
    if passage is None:
        return base
    until = passage.out_at
    there = [(warm, ph) for at, warm, ph in read if at >= passage.in_at and (not until or at <= until)]
    warm = [value for value, _ in there if value is not None]
    acid = [value for _, value in there if value is not None]
    return base.model_copy(
        update={
            "in_at": passage.in_at,
            "out_at": until,
            "ended": passage.ended,
            "known": passage.known,
            "stray": passage.stray,
            "seconds": passage.seconds,
            "temperature_c": (min(warm), max(warm)) if warm else None,
            "ph": (acid[0], acid[-1]) if acid else None,
        }
    )


def hand_lines(code: str, lines: Iterable[LogLine], entries: Iterable[BenchEntry]) -> list[LogLine]:
    """What was felt and seen of this swatch when it was dry, newest first."""
    meant = {e.id for e in entries if e.kind == "hand" and (not e.swatches or code in e.swatches)}
    return [line for line in lines if line.id in meant]
