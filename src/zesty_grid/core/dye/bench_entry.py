"""The bench log: one entry for each thing that was done, seen or noted. Nothing is ever changed."""

from datetime import datetime, timedelta
from typing import Annotated, Literal

from pydantic import Field, model_validator

from zesty_grid.core.frozen import Frozen

EntryKind = Literal[
    "begun", "done", "undone", "timer", "record", "dose", "loaded", "unloaded", "pulled", "rinses",
    "hand", "laid", "deviation", "cure", "probe", "note", "struck",
]  # fmt: skip
Deviation = Literal[
    "boiled", "ran dry", "too long", "spilled", "wrong swatch", "forgot to stir", "felted",
    "foamed", "other",
]  # fmt: skip
Cure = Literal["repeat", "replace", "leave out", "keep with a mark"]
HandWord = Literal["soft", "as before", "stiff", "sticky", "felted"]
Evenness = Literal["even", "a little uneven", "streaky", "spotted"]
Bleeding = Literal["none", "a little", "much"]

Code = Annotated[str, Field(min_length=1, max_length=20)]
Minutes = Annotated[float, Field(gt=0, le=60 * 24 * 60, allow_inf_nan=False)]
FIRST_YEAR, LAST_YEAR = 1970, 2200
CLOCK_OFF = timedelta(seconds=3)
# What an entry must say at least, by kind; one of each group.
MUST_SAY: dict[EntryKind, tuple[tuple[str, str], ...]] = {
    "record": (("temperature_c ph note", "a temperature, a pH or a note"),),
    "timer": (("minutes", "how many minutes more"),),
    "dose": (("grams", "how much was given"), ("substance", "what was given")),
    "loaded": (("swatches", "which swatches went in"),),
    "unloaded": (("swatches", "which swatches came out"),),
    "pulled": (("swatches", "which swatches were pulled"),),
    "rinses": (("count", "how many rinses"),),
    "hand": (("hand evenness note", "the hand, the evenness or a note"),),
    "laid": (("note", "what lies where"),),
    "deviation": (("deviation", "what went wrong"),),
    "cure": (("cure", "what is done about it"), ("about", "which deviation it cures")),
    "probe": (("probe", "which probe"),),
    "note": (("note photo", "a note or a photo"),),
    "struck": (("replaces", "which entry it strikes out"),),
}


class NewBenchEntry(Frozen):
    """`begun` starts a step and its timer, `done` ticks it off, `undone` takes a tick back.

    `swatches` holds swatch codes; where a `begun`, `hand` or `deviation` names none, all in the
    vessel are meant. `replaces` makes the entry a correction of an earlier one, which stays in the
    log. `key` is made by the device, so that an entry that is sent twice is kept once; `at` is
    when it happened and `sent_at` when it was sent, both by the device's clock.
    """

    vessel: Annotated[str, Field(max_length=600)] = ""
    step: Annotated[str, Field(max_length=40)] = ""
    kind: EntryKind
    who: Annotated[str, Field(max_length=60)] = ""
    key: Annotated[str, Field(min_length=8, max_length=64)] | None = None
    at: datetime | None = None
    sent_at: datetime | None = None
    replaces: Annotated[int, Field(ge=1, le=2**53)] | None = None
    temperature_c: Annotated[float, Field(ge=-20, le=130, allow_inf_nan=False)] | None = None
    ph: Annotated[float, Field(ge=0, le=14, allow_inf_nan=False)] | None = None
    minutes: Minutes | None = None
    grams: Annotated[float, Field(gt=0, le=1e5, allow_inf_nan=False)] | None = None
    substance: Annotated[str, Field(min_length=1, max_length=80)] | None = None
    swatches: Annotated[tuple[Code, ...], Field(max_length=2000)] = ()
    count: Annotated[int, Field(ge=0, le=99)] | None = None
    clear: bool | None = None
    bled: Bleeding | None = None
    hand: HandWord | None = None
    evenness: Evenness | None = None
    deviation: Deviation | None = None
    cure: Cure | None = None
    about: Annotated[int, Field(ge=1, le=2**53)] | None = None
    probe: Annotated[str, Field(min_length=1, max_length=60)] | None = None
    photo: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")] | None = None
    note: Annotated[str, Field(max_length=2000)] = ""

    @model_validator(mode="after")
    def _says_something(self) -> "NewBenchEntry":
        for fields, words in MUST_SAY.get(self.kind, ()):
            if not any(getattr(self, name) not in (None, "", ()) for name in fields.split()):
                raise ValueError(f"a {self.kind} entry needs {words}")
        for moment in (self.at, self.sent_at):
            if moment is not None and moment.tzinfo is None:
                raise ValueError("times carry their offset from UTC")
            if moment is not None and not FIRST_YEAR <= moment.year <= LAST_YEAR:
                raise ValueError(f"times lie between {FIRST_YEAR} and {LAST_YEAR}")
        return self


class BenchEntry(NewBenchEntry):
    """`at` is true time: the device's clock, put right by the server's at the moment of sending."""

    id: int
    key: str
    at: datetime
    received_at: datetime


def true_time(entry: NewBenchEntry, received_at: datetime) -> datetime:
    """When it happened by the server's clock.

    A device's clock that is off by more than `CLOCK_OFF` is put right by how long before its
    sending the entry was made; a smaller difference is the way over the network, and is let be, so
    that quick taps keep their distances. Nothing happens after it has arrived.
    """
    if entry.at is None:
        return received_at
    if entry.sent_at is None or abs(received_at - entry.sent_at) <= CLOCK_OFF:
        return min(entry.at, received_at)
    return received_at - max(entry.sent_at - entry.at, timedelta(0))
