"""The bench log: one entry for each thing that was done, seen or noted. Nothing is ever changed."""

from datetime import datetime, timedelta
from typing import Annotated, Literal

from pydantic import Field, model_validator

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.factors import Code, FactorKind
from zesty_grid.core.record.addition import Addition
from zesty_grid.core.record.laid import LaidZone
from zesty_grid.core.row_number import RowNumber
from zesty_grid.core.shelf.items import Key

EntryKind = Literal[
    "begun",
    "done",
    "undone",
    "timer",
    "record",
    "addition",
    "reheat",
    "loaded",
    "unloaded",
    "looked",
    "pulled",
    "rinses",
    "hand",
    "laid",
    "deviation",
    "cure",
    "placed",
    "probe",
    "note",
    "struck",
]
Deviation = Literal[
    "boiled",
    "ran dry",
    "too long",
    "spilled",
    "wrong swatch",
    "forgot to stir",
    "felted",
    "foamed",
    "iron spots",
    "bled from a neighbour",
    "twisted",
    "crowded",
    "other",
]
Cure = Literal["repeat", "replace", "leave out", "keep with a mark"]
HandWord = Literal["soft", "as before", "stiff", "sticky", "felted"]
Evenness = Literal["even", "a little uneven", "streaky", "spotted"]
Bleeding = Literal["none", "a little", "much"]

Ph = Annotated[float, Field(ge=0, le=14, allow_inf_nan=False)]
Minutes = Annotated[float, Field(gt=0, le=60 * 24 * 60, allow_inf_nan=False)]
FIRST_YEAR, LAST_YEAR = 1970, 2200
CLOCK_OFF = timedelta(seconds=3)
ENTERED_LATER = timedelta(minutes=1)
# A bath begins with any of these; the others may be said of one that has not begun.
BEGINS: frozenset[EntryKind] = frozenset(
    {
        "begun",
        "done",
        "timer",
        "record",
        "addition",
        "reheat",
        "loaded",
        "unloaded",
        "looked",
        "pulled",
        "rinses",
        "laid",
        "deviation",
    }
)
# What is done in a vessel must say in which.
AT_A_VESSEL: frozenset[EntryKind] = BEGINS - {"record", "deviation"} | {"undone"}
# What an entry must say at least, by kind; one of each group.
MUST_SAY: dict[EntryKind, tuple[tuple[str, str], ...]] = {
    "record": (("temperature_c ph strip note", "a temperature, a pH or a note"),),
    "timer": (("minutes", "how many minutes more"),),
    "addition": (("addition", "what was put in and how much"),),
    "reheat": (("temperature_c minutes", "how warm or how long"),),
    "placed": (("swatches", "which swatch"), ("levels", "its true levels")),
    "looked": (("swatches", "which swatches were looked at"),),
    "loaded": (("swatches", "which swatches went in"),),
    "unloaded": (("swatches", "which swatches came out"),),
    "pulled": (("swatches", "which swatches were pulled"),),
    "rinses": (("count", "how many rinses"),),
    "hand": (("hand evenness note", "the hand, the evenness or a note"),),
    "laid": (("note zones", "what lies where"),),
    "deviation": (("deviation", "what went wrong"),),
    "cure": (("cure", "what is done about it"), ("about", "which deviation it cures")),
    "probe": (("probe", "which probe"),),
    "note": (("note photo", "a note or a photo"),),
    "struck": (("replaces", "which entry it strikes out"),),
}


class StripSaid(Frozen):
    """How a strip was read from a photo: by which box on the Shelf, from `low` to `high` nine times of
    ten, None where it fits no point of the scale; `beyond`: at its end. `by_eye`: what a person read."""

    box: Key
    low: Ph | None = None
    high: Ph | None = None
    beyond: Literal["below", "above"] | None = None
    late: bool = False
    by_eye: Ph | None = None


class NewBenchEntry(Frozen):
    """`begun` starts a step and its timer, `done` ticks it off, `undone` takes a tick back.

    `swatches` holds swatch codes; where a `begun`, `hand` or `deviation` names none, all in the
    vessel are meant. `replaces` makes the entry a correction of an earlier one, which stays in the
    log, and keeps its time unless it says another. `key` is made by the device, so that an entry
    that is sent twice is kept once. `at` is when it happened, `entered_at` when it was written
    down and `sent_at` when it was sent, all by the device's clock. `sure`: what the server asked
    about was answered with yes. `stock` names the stock solution that a deviation concerns, `zones`
    are the map of what lies where on the named swatches. A note of no vessel is one of the study,
    or of what it names: swatches, one level in `levels`, or a trial, by its number in the study.
    `strip`: how the pH of this entry was read. `instead_of` names the vessel in which a placed swatch
    was meant to be and was not.
    """

    vessel: Annotated[str, Field(max_length=20)] = ""
    step: Annotated[str, Field(max_length=40)] = ""
    kind: EntryKind
    who: Annotated[str, Field(max_length=60)] = ""
    key: Annotated[str, Field(min_length=8, max_length=64)] | None = None
    at: datetime | None = None
    entered_at: datetime | None = None
    sent_at: datetime | None = None
    replaces: RowNumber | None = None
    temperature_c: Annotated[float, Field(ge=-20, le=130, allow_inf_nan=False)] | None = None
    ph: Ph | None = None
    strip: StripSaid | None = None
    minutes: Minutes | None = None
    addition: Addition | None = None
    sure: bool = False
    stock: Annotated[str, Field(max_length=80)] = ""
    levels: dict[FactorKind, Key] | None = None
    instead_of: Annotated[str, Field(min_length=1, max_length=20)] | None = None
    swatches: Annotated[tuple[Code, ...], Field(max_length=2000)] = ()
    count: Annotated[int, Field(ge=0, le=99)] | None = None
    clear: bool | None = None
    bled: Bleeding | None = None
    hand: HandWord | None = None
    evenness: Evenness | None = None
    deviation: Deviation | None = None
    cure: Cure | None = None
    zones: Annotated[tuple[LaidZone, ...], Field(max_length=200)] = ()
    about: RowNumber | None = None
    probe: Annotated[str, Field(min_length=1, max_length=60)] | None = None
    photo: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")] | None = None
    trial: Annotated[int, Field(ge=1, le=1000)] | None = None
    note: Annotated[str, Field(max_length=2000)] = ""

    @model_validator(mode="after")
    def _says_something(self) -> "NewBenchEntry":
        for fields, words in MUST_SAY.get(self.kind, ()):
            if not any(getattr(self, name) not in (None, "", (), {}) for name in fields.split()):
                raise ValueError(f"a {self.kind} entry needs {words}")
        if self.kind == "placed" and len(self.swatches) != 1:
            raise ValueError("a true place is said of one swatch at a time")
        if self.instead_of and (self.kind != "placed" or self.vessel in ("", self.instead_of)):
            raise ValueError("say which other vessel the swatch was in")
        if self.kind == "note" and sum(map(bool, (self.vessel, self.levels, self.trial))) > 1:
            raise ValueError("a note is of a vessel, of a level or of a trial")
        if self.kind == "note" and self.levels and len(self.levels) > 1:
            raise ValueError("a note is of one level at a time")
        for moment in (self.at, self.entered_at, self.sent_at):
            if moment is not None and moment.tzinfo is None:
                raise ValueError("times carry their offset from UTC")
            if moment is not None and not FIRST_YEAR <= moment.year <= LAST_YEAR:
                raise ValueError(f"times lie between {FIRST_YEAR} and {LAST_YEAR}")
        return self


class BenchEntry(NewBenchEntry):
    """Times are true times: the device's clock, put right by the server's at the sending."""

    id: int
    key: str
    at: datetime
    entered_at: datetime
    received_at: datetime

    @property
    def entered_later(self) -> bool:
        """It was written down well after it happened."""
        return self.entered_at - self.at > ENTERED_LATER


class Moments(Frozen):
    """When something happened and when it was written down, by the server's clock."""

    at: datetime
    entered_at: datetime


def true_times(entry: NewBenchEntry, received_at: datetime, corrects: datetime | None = None) -> Moments:
    """The times of an entry; `corrects` is the time of the entry that it corrects.

    A device's clock that is off by more than `CLOCK_OFF` is put right by how long before its
    sending the entry was made; a smaller difference is the way over the network, and is let be, so
    that quick taps keep their distances. Nothing happens after it has arrived.
    """
    written = entry.entered_at or (entry.at if entry.sent_at else None)
    entered = _true(written, entry.sent_at, received_at)
    if entry.at is None:
        return Moments(at=corrects or entered, entered_at=entered)
    return Moments(at=min(_true(entry.at, entry.sent_at, received_at), entered), entered_at=entered)


def _true(moment: datetime | None, sent_at: datetime | None, received_at: datetime) -> datetime:
    if moment is None:
        return received_at
    if sent_at is None or abs(received_at - sent_at) <= CLOCK_OFF:
        return min(moment, received_at)
    return received_at - max(sent_at - moment, timedelta(0))
