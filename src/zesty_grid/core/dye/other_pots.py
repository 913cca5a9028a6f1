"""Seen when dry: a piece was in another pot than its own. In which, by its colour and by what was at hand."""

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import NamedTuple

import numpy as np

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.measurement import Lab
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.placing import TruePlace, true_place

# Whoever was swapped fits the other pot at least so many times better than its own.
FITS_BETTER = 2.0


class FilledPot(NamedTuple):
    """A bath that has begun, who was in it, and since when."""

    bench: BenchVessel
    in_at: datetime
    codes: frozenset[str]


class OtherPot(Frozen):
    """A pot in which a swatch may have been instead of its own. `counts_as`: what it then is.

    `de00` is how far its colour lies from the like pieces there, `own_de00` from those in its own
    pot; None where it, or none of them, was read. `swapped_with`: a piece of that pot that looks
    like one of this. `hours_later`: that pot was filled so long after its own.
    """

    instead_of: str
    vessel: str
    title: str
    at: datetime
    hours_later: float
    counts_as: TruePlace
    de00: float | None
    own_de00: float | None
    swapped_with: str | None


def other_pots(study: PlannedStudy, code: str, pots: Sequence[FilledPot], colours: Mapping[str, Lab]) -> list[OtherPot]:
    """Those of the same kind of bath, the likeliest first; `colours` has the last colour of each
    swatch that was read."""
    found = []
    for own in pots:
        if code not in own.codes or code not in own.bench.vessel.swatches or not own.bench.settles:
            continue
        for other in pots:
            if other.bench.vessel.bath != own.bench.vessel.bath or code in other.codes:
                continue
            found.append(
                OtherPot(
                    instead_of=own.bench.name,
                    vessel=other.bench.name,
                    title=other.bench.vessel.title,
                    at=other.in_at,
                    hours_later=(other.in_at - own.in_at).total_seconds() / 3600,
                    counts_as=true_place(study, study.by_code[code], other.bench),
                    de00=_apart(study, code, other.codes, colours),
                    own_de00=_apart(study, code, own.codes, colours),
                    swapped_with=_swapped_with(study, code, own, other, colours),
                )
            )
    return sorted(found, key=lambda one: (one.de00 is None, one.de00 or 0.0, abs(one.hours_later)))


def _apart(study: PlannedStudy, code: str, there: frozenset[str], colours: Mapping[str, Lab]) -> float | None:
    """From the nearest of the pieces there, of its own class of fibre where some are."""
    read = [one for one in there if one != code and one in colours and one in study.by_code]
    if code not in colours or not read:
        return None
    kind = _fibre_class(study, code)
    like = [one for one in read if _fibre_class(study, one) == kind] or read
    labs = np.array([colours[one] for one in like])
    return float(np.min(delta_e_2000(np.broadcast_to(colours[code], labs.shape), labs)))


def _fibre_class(study: PlannedStudy, code: str) -> str:
    fibre = study.shelf.fibre(study.by_code[code].fibre)
    return fibre.fibre_class if fibre else ""


def _swapped_with(
    study: PlannedStudy, code: str, own: FilledPot, other: FilledPot, colours: Mapping[str, Lab]
) -> str | None:
    """Of the pieces of the other pot the one that fits this pot best, where that is far better."""
    best: tuple[bool, float, str] | None = None
    for one in other.codes & frozenset(other.bench.vessel.swatches) & study.by_code.keys():
        here = _apart(study, one, own.codes - {code}, colours)
        there = _apart(study, one, other.codes, colours)
        if here is None or there is None or here * FITS_BETTER > there:
            continue
        rank = (study.by_code[one].fibre != study.by_code[code].fibre, here, one)
        best = min(best, rank) if best else rank
    return best[2] if best else None
