"""A step at a vessel: what is done, with what, for how long, and whether hands are needed."""

from typing import Literal

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.record.addition import Addition

Place = Literal["bench", "bowl", "iron bowl", "vessel", "line"]
Asks = Literal["", "loading", "iron watch", "rinses", "hand", "rolls", "addition", "taking out", "map"]


class Step(Frozen):
    """`hands_min` is work at its start; then it runs from `shortest_min` to `longest_min`.

    `duration_min` is the usual run, without `warm_min`, the time to come to temperature;
    `longest_min` None: it may wait as long as one likes. `attended`: it runs only while somebody
    is there. `place` says where the pieces or the bath are meanwhile; `asks` what is recorded.
    `adds` is put in with it, `takes_out` come out with it.
    """

    key: str
    title: str
    detail: str = ""
    temperature_c: float | None = None
    duration_min: int | None = None
    shortest_min: int = 0
    longest_min: int | None = 0
    warm_min: int = 0
    hands_min: float = 0
    heat: bool = False
    attended: bool = False
    place: Place = "bench"
    stir_every_min: int | None = None
    wants_ph: bool = False
    asks: Asks = ""
    caution: str = ""
    adds: Addition | None = None
    takes_out: tuple[str, ...] = ()
