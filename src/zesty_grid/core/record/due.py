"""What is due in a study, in words, from what is counted in the record."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class StageDue:
    """A trial with stages that are not read yet; `label` names the next."""

    trial: str
    label: str
    left: int


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
    lens: str
    words: str
    count: int


def tasks_of(counts: Iterable[StudyCounts]) -> list[Task]:
    """Study by study; what is nothing is not said."""
    found = []
    for one in counts:
        said: Sequence[tuple[str, str, str, int]] = (
            ("dye", "vessel is not finished", "vessels are not finished", one.vessels_open),
            ("dye", "swatch went another way: say as what it counts",
             "swatches went another way: say as what they count", one.strays),
            ("read", "swatch is dry and rested: ready to read",
             "swatches are dry and rested: ready to read", one.ready),
            ("read", "swatch has no reading yet", "swatches have no reading yet",
             max(0, one.unread - one.ready)),
            ("read", "photo waits to be accepted", "photos wait to be accepted",
             one.photos_waiting),
            *(
                ("fade", f"stage left in “{stage.trial}”; next: {stage.label}",
                 f"stages left in “{stage.trial}”; next: {stage.label}", stage.left)
                for stage in one.stages
            ),
        )  # fmt: skip
        found += [
            Task(one.study, one.name, lens, single if count == 1 else many, count)
            for lens, single, many, count in said
            if count
        ]  # fmt: skip
    return found
