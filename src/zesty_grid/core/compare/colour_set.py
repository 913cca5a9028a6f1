"""A set of colours chosen together: as far apart as they can be, or in even steps from one to another."""

from collections.abc import Callable, Sequence
from typing import Annotated, Literal

import numpy as np
from pydantic import Field, model_validator
from scipy.optimize import linear_sum_assignment

from zesty_grid.core.compare.find import FindQuestion
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.row_number import RowNumber

# For fewer pots a colour may give way to one so near that it serves as well: plain, but no other colour.
SERVES_DE00 = 4.0
# Of each colour so many that serve as well are weighed against each other.
MOST_INSTEAD = 12


class SetQuestion(Frozen):
    """`first` says what else the colours have to be; in even steps it is the first of them, and
    `last_hex` the last. `study`: also what is foretold in it."""

    how: Literal["apart", "steps"]
    count: Annotated[int, Field(ge=2, le=12)] = 5
    first: FindQuestion
    study: RowNumber | None = None
    last_hex: Annotated[str, Field(pattern=r"^#?[0-9a-fA-F]{6}$")] | None = None

    @model_validator(mode="after")
    def _steps_have_an_end(self) -> "SetQuestion":
        if self.how == "steps" and self.last_hex is None:
            raise ValueError("say the last colour of the steps")
        return self


def far_apart(labs: Floats, count: int, keeps: Callable[[int], bool]) -> list[int]:
    """Places in `labs` (n, 3), each the furthest from those before it: no set of so many lies more
    than twice as far apart (Gonzalez 1985). `keeps` is only asked of those that would be taken."""
    chosen: list[int] = []
    left = np.full(len(labs), np.inf)
    # The first is the furthest from the middle of all.
    order = delta_e_2000(labs, np.broadcast_to(labs.mean(axis=0), labs.shape)) if len(labs) else left
    while len(chosen) < count and np.isfinite(order).any() and np.nanmax(order) > 0:
        best = int(np.argmax(order))
        if not keeps(best):
            left[best] = order[best] = -np.inf
            continue
        chosen.append(best)
        left = np.minimum(left, delta_e_2000(labs, np.broadcast_to(labs[best], labs.shape)))
        order = left.copy()
    return chosen


def in_steps(labs: Floats, ends: tuple[Floats, Floats], count: int, keeps: Callable[[int], bool]) -> list[int]:
    """Places in `labs`, each near to one of so many even steps between two colours, in their order."""
    wanted = np.linspace(ends[0], ends[1], count)
    apart = np.array([delta_e_2000(labs, np.broadcast_to(one, labs.shape)) for one in wanted]).reshape(count, -1)
    near: dict[int, None] = {}
    for row in apart:
        kept = [int(i) for i in np.argsort(row)[: 4 * MOST_INSTEAD] if keeps(int(i))]
        near |= dict.fromkeys(kept[:MOST_INSTEAD])
    places = list(near)
    if len(places) < count:
        return places
    _, taken = linear_sum_assignment(apart[:, places] ** 2)
    return [places[int(k)] for k in taken]


def with_fewer_pots(
    labs: Floats, chosen: Sequence[int], keeps: Callable[[int], bool], baths_of: Callable[[int], frozenset[str]]
) -> list[int]:
    """The same set with those in place of others that serve as well and share baths."""
    found = list(chosen)
    for k, place in enumerate(found):
        rest = [one for i, one in enumerate(found) if i != k]
        shared = frozenset[str]().union(*(baths_of(one) for one in rest))
        apart = delta_e_2000(labs, np.broadcast_to(labs[place], labs.shape))
        near = [int(i) for i in np.argsort(apart) if apart[i] <= SERVES_DE00 and int(i) not in rest][:MOST_INSTEAD]
        serve = [place, *(one for one in near if one != place and keeps(one))]
        found[k] = min(serve, key=lambda one: (len(baths_of(one) - shared), apart[one]))
    return found


def nearest_two(labs: Floats) -> float:
    """ΔE00 between the two of a set that lie nearest to each other; at least two."""
    first, second = np.triu_indices(len(labs), 1)
    return float(np.min(delta_e_2000(labs[first], labs[second])))
