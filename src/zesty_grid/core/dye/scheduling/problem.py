"""A schedule problem: tasks on shared resources, in working hours, with waits between them.

Time is counted in whole ticks from 0. The bench uses ticks of five minutes; a plain job shop is the
same problem without working hours.
"""

from functools import cached_property

from pydantic import Field

from zesty_grid.core.frozen import Frozen

HANDS = "hands"


class Need(Frozen):
    """One unit of a resource, from and until so many ticks after the start of the task."""

    resource: str
    start: int
    end: int


class Task(Frozen):
    """`chain` names the bath that it belongs to; empty: it stands alone.

    `open_ticks` from its start (and `lead` before it) lie in one stretch of working hours. `tail`
    is what follows its end before the study is ready (drying, resting). `late`: its hands come
    after those of all other tasks of its day.
    """

    key: str
    chain: str = ""
    length: int
    needs: tuple[Need, ...] = ()
    open_ticks: int = 0
    lead: int = 0
    tail: int = 0
    late: bool = False

    @property
    def hands(self) -> int:
        return max((need.end for need in self.needs if need.resource == HANDS), default=0)


class Link(Frozen):
    """`then` starts `least` to `most` ticks after the end of `first`; None: no latest."""

    first: str
    then: str
    least: int = 0
    most: int | None = None


class Claim(Frozen):
    """A vessel that is taken from the start of one task to the end of another.

    One of `choices`; claims that are `alike` take the same choice.
    """

    key: str
    first: str
    last: str
    choices: tuple[str, ...]
    alike: str | None = None


class ScheduleProblem(Frozen):
    """`windows` are the working hours as [opens, closes) in ticks, empty: always open.

    `fixed` tasks have been started already, and `chosen` holds the vessel that a claim is in; all
    other tasks start at or after `not_before`.
    """

    tasks: tuple[Task, ...]
    links: tuple[Link, ...] = ()
    claims: tuple[Claim, ...] = ()
    capacity: dict[str, int]
    windows: tuple[tuple[int, int], ...] = ()
    day_ticks: int | None = None
    fixed: dict[str, int] = Field(default_factory=dict)
    chosen: dict[str, str] = Field(default_factory=dict)
    not_before: int = 0

    @cached_property
    def task(self) -> dict[str, Task]:
        return {task.key: task for task in self.tasks}

    @cached_property
    def links_into(self) -> dict[str, list[Link]]:
        found: dict[str, list[Link]] = {task.key: [] for task in self.tasks}
        for link in self.links:
            found[link.then].append(link)
        return found

    @cached_property
    def in_order(self) -> list[Task]:
        """Every task after all that it follows. Raises ValueError where they go in a circle."""
        left = {task.key: len(self.links_into[task.key]) for task in self.tasks}
        following: dict[str, list[str]] = {}
        for link in self.links:
            following.setdefault(link.first, []).append(link.then)
        ready = [task.key for task in self.tasks if left[task.key] == 0]
        done: list[Task] = []
        while ready:
            key = ready.pop(0)
            done.append(self.task[key])
            for then in following.get(key, ()):
                left[then] -= 1
                if left[then] == 0:
                    ready.append(then)
        if len(done) < len(self.tasks):
            raise ValueError("the tasks follow each other in a circle")
        return done

    def allowed(self, claim: Claim) -> tuple[str, ...]:
        """The vessels that a claim can take: the one that it is in, once it is in one."""
        return (self.chosen[claim.key],) if claim.key in self.chosen else claim.choices

    def next_start(self, task: Task, earliest: int) -> int | None:
        """The first moment from `earliest` at which the working hours allow a task to start."""
        if not self.windows or not task.open_ticks:
            return earliest
        for opens, closes in self.windows:
            start = max(earliest, opens + task.lead)
            if start + task.open_ticks <= closes:
                return start
        return None

    def start_intervals(self, task: Task, latest: int) -> list[tuple[int, int]]:
        """When a task may start, as closed intervals, up to `latest`."""
        low = self.not_before
        if not self.windows or not task.open_ticks:
            return [(low, latest)] if low <= latest else []
        found = [(max(low, opens + task.lead), min(latest, closes - task.open_ticks)) for opens, closes in self.windows]
        return [(start, end) for start, end in found if start <= end]

    def finish_of(self, starts: dict[str, int]) -> int:
        return max((starts[t.key] + t.length + t.tail for t in self.tasks), default=0)


class Solution(Frozen):
    """Start of each task, and what each claim took."""

    starts: dict[str, int]
    choices: dict[str, str]
    finish: int
