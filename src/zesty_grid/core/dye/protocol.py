"""How a study is worked: the working week, the hands, what may wait, and times of one's own."""

from datetime import date
from typing import Annotated

from pydantic import Field, model_validator

from zesty_grid.core.dye.step import Step
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.bath import BathKind

MinuteOfDay = Annotated[int, Field(ge=0, le=24 * 60)]
RunMinutes = Annotated[int, Field(ge=0, le=60 * 24 * 60)]
Hours = Annotated[float, Field(ge=0, le=24 * 60, allow_inf_nan=False)]
MAX_OVERRIDES = 80
SATURDAY = 5


class WorkingHours(Frozen):
    """Minutes after midnight."""

    opens_min: MinuteOfDay = 9 * 60
    closes_min: MinuteOfDay = 18 * 60

    @model_validator(mode="after")
    def _closes_after_it_opens(self) -> "WorkingHours":
        if self.closes_min <= self.opens_min:
            raise ValueError("working hours end after they begin")
        return self


class StepTime(Frozen):
    """Times of one's own for a step of a kind of bath; None keeps the default."""

    bath: BathKind
    step: Annotated[str, Field(min_length=1, max_length=40)]
    shortest_min: RunMinutes | None = None
    longest_min: RunMinutes | None = None
    hands_min: Annotated[float, Field(ge=0, le=600, allow_inf_nan=False)] | None = None

    @model_validator(mode="after")
    def _longest_is_not_shorter(self) -> "StepTime":
        if None not in (self.shortest_min, self.longest_min) and ((self.longest_min or 0) < (self.shortest_min or 0)):
            raise ValueError("the longest time is at least the shortest")
        return self


USUAL_WEEK: tuple[WorkingHours | None, ...] = (*[WorkingHours()] * 5, None, None)


class Protocol(Frozen):
    """`week` runs from Monday; None is a day off. Waits are common practice, all changeable.

    `wet_within_h`: pieces go on wet from a mordant to the next bath within this time; None: they
    may be dried and kept between. `dry_h` and `rest_h` come before a piece is read.
    """

    week: Annotated[tuple[WorkingHours | None, ...], Field(min_length=7, max_length=7)] = USUAL_WEEK
    days_off: Annotated[tuple[date, ...], Field(max_length=200)] = ()
    pairs_of_hands: Annotated[int, Field(ge=1, le=6)] = 1
    scour: bool = True
    iron_last: bool = True
    wet_within_h: Hours | None = None
    extract_keeps_h: Hours = 72
    dry_h: Hours = 12
    rest_h: Hours = 24
    finish_by: date | None = None
    step_times: Annotated[tuple[StepTime, ...], Field(max_length=MAX_OVERRIDES)] = ()

    @model_validator(mode="after")
    def _somebody_works(self) -> "Protocol":
        if not any(self.week):
            raise ValueError("at least one day of the week has working hours")
        named = [(one.bath, one.step) for one in self.step_times]
        if len(set(named)) != len(named):
            raise ValueError("a step has its own times twice")
        return self


def with_own_times(steps: list[Step], bath: BathKind, protocol: Protocol) -> list[Step]:
    """The steps with the study's own times over the defaults."""
    own = {one.step: one for one in protocol.step_times if one.bath == bath}
    return [_retimed(step, own[step.key]) if step.key in own else step for step in steps]


def _retimed(step: Step, own: StepTime) -> Step:
    changes: dict[str, float | int | None] = {}
    shortest = step.shortest_min if own.shortest_min is None else own.shortest_min
    longest = step.longest_min if own.longest_min is None else own.longest_min
    if longest is not None:
        longest = max(longest, shortest)
    if own.shortest_min is not None or own.longest_min is not None:
        usual = step.duration_min or shortest
        most = usual if longest is None else longest
        changes |= {"shortest_min": shortest, "longest_min": longest}
        changes["duration_min"] = min(max(usual, shortest), max(most, shortest)) or None
    if own.hands_min is not None:
        changes["hands_min"] = own.hands_min
    return step.model_copy(update=changes)
