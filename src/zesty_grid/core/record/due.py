"""What is due in a study, in words, from what is counted in the record."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

Lens = Literal["plan", "weigh", "dye", "read", "fade", "compare"]


@dataclass(frozen=True, slots=True)
class StageDue:
    """A trial with stages that are not read yet; `label` names the next, `due_on` its day where it
    has one, `days_late` how long that is past (negative: still to come)."""

    trial: str
    label: str
    left: int
    due_on: date | None = None
    days_late: int | None = None

    @property
    def words(self) -> str:
        """The next stage and when it is due."""
        if self.due_on is None or self.days_late is None:
            return f"next: {self.label}"
        if self.days_late == 0:
            return f"{self.label} is due today"
        if self.days_late < 0:
            return f"next: {self.label}, due {self.due_on:%-d %b %Y}"
        days = "day" if self.days_late == 1 else "days"
        return (
            f"“{self.label}” was due {self.days_late} {days} ago: read it now, it counts with "
            "the dose that it really had"
        )


@dataclass(frozen=True, slots=True)
class StudyCounts:
    """Of one study. `ready` swatches are dry, rested and unread in their last state; `unread` are
    all that have no reading; `strays` went another way, and nobody said yet as what they count."""

    study: int
    name: str
    vessels_open: int = 0
    ready: int = 0
    unread: int = 0
    photos_waiting: int = 0
    strays: int = 0
    stages: tuple[StageDue, ...] = ()


@dataclass(frozen=True, slots=True)
class Task:
    """Something that is due, and the lens in which it is done."""

    study: int
    study_name: str
    lens: Lens
    words: str
    count: int


def tasks_of(counts: Iterable[StudyCounts]) -> list[Task]:
    """Study by study; what is nothing is not said."""
    found = []
    for one in counts:
        said: Sequence[tuple[Lens, str, str, int]] = (
            ("dye", "vessel is not finished", "vessels are not finished", one.vessels_open),
            (
                "dye",
                "swatch went another way: say as what it counts",
                "swatches went another way: say as what they count",
                one.strays,
            ),
            (
                "read",
                "swatch is dry and rested: ready to read",
                "swatches are dry and rested: ready to read",
                one.ready,
            ),
            ("read", "swatch has no reading yet", "swatches have no reading yet", max(0, one.unread - one.ready)),
            ("read", "photo waits to be accepted", "photos wait to be accepted", one.photos_waiting),
            *(
                (
                    "fade",
                    f"stage left in “{stage.trial}”; {stage.words}",
                    f"stages left in “{stage.trial}”; {stage.words}",
                    stage.left,
                )
                for stage in one.stages
            ),
        )
        found += [
            Task(one.study, one.name, lens, single if count == 1 else many, count)
            for lens, single, many, count in said
            if count
        ]
    return found
