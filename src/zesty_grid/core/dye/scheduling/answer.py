"""What a search answers, tells on its way, and how it is stopped; without the solver itself."""

from typing import Literal, Protocol

from zesty_grid.core.dye.scheduling.bounds import Bound
from zesty_grid.core.dye.scheduling.problem import Solution
from zesty_grid.core.frozen import Frozen


class Stoppable(Protocol):
    def stop_search(self) -> None: ...


class Answer(Frozen):
    """`bound`: no schedule finishes before it; `first_come_finish` is that of the plain list.

    `proven`: nothing finishes earlier, or, where there is no solution, that there is none within
    the days looked at.
    """

    solution: Solution | None
    bound: Bound
    first_come_finish: int | None
    proven: bool


class Progress(Frozen):
    aim: Literal["finish", "days"]
    solution: Solution
    bound: int


class Stop:
    """Asked from another thread to end the search with what it has."""

    def __init__(self) -> None:
        self.asked = False
        self._solver: Stoppable | None = None

    def ask(self) -> None:
        self.asked = True
        if self._solver:
            self._solver.stop_search()

    def watch(self, solver: Stoppable) -> None:
        self._solver = solver
        if self.asked:
            solver.stop_search()
