"""The whole record of one swatch, from the Shelf to its last reading."""

from zesty_grid.core.dye.bench import BenchVessel
from zesty_grid.core.dye.bench_entry import BenchEntry
from zesty_grid.core.dye.log import Mark, Pull
from zesty_grid.core.dye.log_words import LogLine
from zesty_grid.core.dye.steps import said
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.factors import FactorKind
from zesty_grid.core.read.readings import Reading

# What is said of a whole vessel, beside what names the swatch itself.
OF_THE_VESSEL = {"begun", "done", "record", "dose", "rinses", "probe", "laid", "deviation", "note"}


class Passage(Frozen):
    """One bath that the swatch goes through, with its recipe and what was logged there."""

    vessel: str
    vessel_name: str
    title: str
    recipe: tuple[str, ...]
    done: bool
    lines: tuple[LogLine, ...]


class SwatchRecord(Frozen):
    code: str
    tie: str
    cell: str
    levels: dict[FactorKind, str]
    control: str
    fibre_words: str
    mass_g: float
    passages: tuple[Passage, ...]
    pulls: tuple[Pull, ...]
    marks: tuple[Mark, ...]
    hand: tuple[LogLine, ...]
    readings: tuple[Reading, ...]


def passages_of(
    swatch: str, code: str, bench: list[BenchVessel], lines: list[LogLine], done: set[str]
) -> list[Passage]:
    """Each bath in the order of the work; `lines` is the standing log, `done` finished vessels."""
    found = []
    for one in bench:
        if swatch not in one.vessel.swatches:
            continue
        own = [
            line
            for line in lines
            if line.vessel == one.vessel.key
            and (code in line.swatches or (not line.swatches and line.kind in OF_THE_VESSEL))
        ]
        found.append(
            Passage(
                vessel=one.vessel.key, vessel_name=one.vessel.name, title=one.vessel.title,
                recipe=tuple(said(figure) for figure in one.amounts.figures),
                done=one.vessel.key in done,
                lines=tuple(sorted(own, key=lambda line: (line.at, line.id))),
            )
        )  # fmt: skip
    return found


def left_out_of(marks: list[Mark]) -> set[str]:
    """Codes of the swatches that went wrong and are left out of comparing."""
    return {mark.swatch for mark in marks if mark.cure == "leave out"}


def lost_of(marks: list[Mark]) -> set[str]:
    """Codes of the swatches that are to be made again."""
    return {mark.swatch for mark in marks if mark.cure in ("repeat", "replace")}


def hand_lines(code: str, lines: list[LogLine], entries: list[BenchEntry]) -> list[LogLine]:
    """What was felt and seen of this swatch when it was dry, newest first."""
    meant = {e.id for e in entries if e.kind == "hand" and (not e.swatches or code in e.swatches)}
    return [line for line in lines if line.id in meant]
