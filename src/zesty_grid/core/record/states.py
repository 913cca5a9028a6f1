"""The states of a swatch: as it came, and after each bath that ended; and the colour of each."""

from collections.abc import Iterable, Sequence
from datetime import datetime

import numpy as np

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.bath import BathKind
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import lab_to_hex
from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.core.read.difference_uncertainty import Seen, mean_uncertainty
from zesty_grid.core.read.measurement import Lab
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.pauses import PauseKind

AS_IT_CAME = 0
AS_IT_CAME_WORDS = "as it came"


# A state between is numbered by its bath, its kind and which it is: below 0, so that it is no bath's own.
BETWEEN_EACH_RUN, OUT_FROM = 200, 100


def state_between(run: int, kind: PauseKind, number: int) -> int:
    """The number of the state that a piece had in a pause of a bath."""
    return pause_in(run, (OUT_FROM if kind == "out" else 0) + number)


def pause_in(run: int, pause: int) -> int:
    """The state of one of a bath's pauses; raises ValueError where there can be no such pause."""
    if not 0 < pause < BETWEEN_EACH_RUN:
        raise ValueError("a bath has no such pause")
    return -(run * BETWEEN_EACH_RUN + pause)


def pause_of(state: int) -> int:
    """Which pause of its bath a state between is."""
    return -state % BETWEEN_EACH_RUN


def bath_of(state: int) -> int:
    """The bath after which, or within which, a piece is in a state; 0: none yet."""
    return -state // BETWEEN_EACH_RUN if state < 0 else state


class EndedBath(Frozen):
    """A state that a swatch has behind it; `run` is the number of the bath that had begun, or of the
    state between, `place` its place in the order of the work."""

    run: int
    out_at: datetime
    place: int = 0

    @property
    def order(self) -> tuple[datetime, int, int]:
        """Baths that were logged with one time follow the order of the work."""
        return (self.out_at, self.place, self.run)


class CountedReading(Frozen):
    """A reading of a whole swatch that counts, as far as its colour goes."""

    seen: Seen
    uncertainty_de00: float
    taken_on: str


class StateColour(Frozen):
    """The mean of all readings of one state. `run` 0: as it came. `scatter_de00` is the root mean
    square distance of the readings from their mean, None for a single one."""

    run: int
    readings: int
    lab: Lab
    hex: str
    colour_words: str
    uncertainty_de00: float
    scatter_de00: float | None
    taken_on: str


class SwatchStates(Frozen):
    """The states of a swatch in their order, and the colours of those that were read."""

    swatch: str
    states: tuple[int, ...]
    colours: tuple[StateColour, ...]


class StateName(Frozen):
    """What a state is called: after which bath, of which study. `kind` groups those of one sort:
    a kind of bath, or one further treatment."""

    run: int
    study: int
    vessel: str
    kind: str
    label: str


class ZoneColour(Frozen):
    """The colour of a zone of a swatch, in the last state in which it was read."""

    swatch: str
    zone: str
    colour: StateColour


class ClothPicture(Frozen):
    """The reading whose photo shows a swatch in one state, and how uneven it is there."""

    swatch: str
    run: int
    reading: int
    levelness_de00: float


class MostFaded(Frozen):
    """The largest change of a swatch at any stage of any trial."""

    swatch: str
    de00: float


class StudyColours(Frozen):
    swatches: tuple[SwatchStates, ...]
    names: tuple[StateName, ...]
    zones: tuple[ZoneColour, ...] = ()
    pictures: tuple[ClothPicture, ...] = ()
    faded: tuple[MostFaded, ...] = ()


# What a piece is called by the kind of bath that it was in last.
AFTER: dict[BathKind, str] = {
    "scour": "scoured",
    "tannin": "with tannin",
    "mordant": "mordanted",
    "binder": "bound",
    "iron mordant": "with iron",
    "dye": "as dyed",
    "overdye": "overdyed",
    "adjust": "after the pH",
    "iron": "after iron",
    "wash": "washed",
    "extract": "extracted",
}


ORDINALS = ("", "first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth")


def state_name(run: int, study: int, one: BenchVessel) -> StateName:
    """The state after a bath that had begun; a further treatment goes by its own name."""
    vessel = one.vessel
    kind = f"treatment:{vessel.treatment}" if vessel.treatment else vessel.bath
    label = f"after {one.vessel.title}" if vessel.treatment else AFTER[vessel.bath]
    return StateName(run=run, study=study, vessel=one.name, kind=kind, label=label)


def name_between(state: int, within: StateName) -> StateName:
    """The state in a pause of a bath: after its first heating, or when it was out for the second time."""
    number = pause_of(state)
    kind, which = ("out", number - OUT_FROM) if number > OUT_FROM else ("heating", number)
    ordinal = ORDINALS[which] if which < len(ORDINALS) else f"{which}th"
    label = f"after the {ordinal} heating" if kind == "heating" else f"out the {ordinal} time"
    return within.model_copy(update={"run": state, "kind": f"{within.kind}:{kind}:{which}", "label": label})


def state_at(baths: Iterable[EndedBath], moment: datetime) -> int:
    """The state that a reading of that moment shows: after the last bath that had ended by then."""
    ended = [bath for bath in baths if bath.out_at <= moment]
    last = max(ended, key=lambda bath: bath.order, default=None)
    return last.run if last else AS_IT_CAME


def state_shown(said: int | None, baths: Sequence[EndedBath], moment: datetime) -> int:
    """The state that a reading shows: what was said, where the swatch was in that bath (0: as it
    came), else by its moment."""
    known = said is not None and said in (AS_IT_CAME, *(bath.run for bath in baths))
    return said if known and said is not None else state_at(baths, moment)


def in_order(baths: Iterable[EndedBath]) -> list[int]:
    """The states of a swatch, first to last: as it came, then after each bath and in its pauses."""
    return [AS_IT_CAME, *(bath.run for bath in sorted(baths, key=lambda bath: bath.order))]


def state_colour(run: int, readings: Sequence[CountedReading]) -> StateColour:
    """The mean colour of one state and how far its readings scatter; at least one reading."""
    labs = np.array([one.seen.lab for one in readings])
    mean = labs.mean(axis=0)
    scatter = None
    if len(readings) > 1:
        apart = delta_e_2000(labs, np.broadcast_to(mean, labs.shape))
        scatter = float(np.sqrt((apart**2).sum() / (len(readings) - 1)))
    lightness, a, b = (float(value) for value in mean)
    return StateColour(
        run=run,
        readings=len(readings),
        lab=(lightness, a, b),
        hex=lab_to_hex(mean),
        colour_words=colour_words(mean),
        scatter_de00=scatter,
        uncertainty_de00=mean_uncertainty([one.seen for one in readings], [one.uncertainty_de00 for one in readings]),
        taken_on=max(one.taken_on for one in readings),
    )
