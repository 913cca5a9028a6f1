"""How a dye is drawn out of its stuff: soaked, heated, in rounds, drawn off, left to settle."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.shelf.items import Key, Minutes, Temperature
from zesty_grid.core.weigh.working import DAY_MIN, duration_words

MOST_ROUNDS = 14


class ExtractionRecipe(Frozen):
    """`soak_min` in cold water comes first, at `soak_ph` with `soak_with` where that is said. Then
    `rounds`, each of `heat_min` at `temperature_c` (or of a cold soak, where that is None), one a
    day where they are `daily`; each round of a cold soak is decanted and filled up again.

    `drawn_after`: of several levels that differ in nothing else, one pot: this one is drawn off
    after so many rounds. `settle_min`: left to settle, and decanted from its sludge. `kept`: one
    extract for all baths, one for each bath, or the stuff stays in the bath with the fibre.
    """

    soak_min: Annotated[int, Field(ge=0, le=30 * DAY_MIN)] = 0
    soak_ph: Annotated[float, Field(ge=1, le=13, allow_inf_nan=False)] | None = None
    soak_with: Key | None = None
    rounds: Annotated[int, Field(ge=1, le=MOST_ROUNDS)] = 1
    temperature_c: Temperature | None = None
    heat_min: Minutes = 60
    daily: bool = False
    drawn_after: Annotated[int, Field(ge=1, le=MOST_ROUNDS)] | None = None
    settle_min: Annotated[int, Field(ge=0, le=14 * DAY_MIN)] = 0
    kept: Literal["shared", "apart", "in the bath"] = "shared"

    @model_validator(mode="after")
    def _is_drawn_while_it_runs(self) -> "ExtractionRecipe":
        if self.drawn_after is not None and self.drawn_after > self.rounds:
            raise ValueError("what is drawn off is drawn after one of the rounds")
        if self.soak_with and self.soak_ph is None:
            raise ValueError("say to which pH the soak is brought")
        return self

    @property
    def pot(self) -> str:
        """What names the pot: levels that differ only in when they are drawn off share it."""
        return self.model_copy(update={"drawn_after": None}).model_dump_json(exclude_defaults=True)

    @property
    def is_hot(self) -> bool:
        return self.temperature_c is not None

    @property
    def duration_min(self) -> int:
        """All rounds together, without the soak and the nights between."""
        return self.rounds * self.heat_min

    @property
    def words(self) -> str:
        heat = f" at {self.temperature_c:g} °C" if self.temperature_c is not None else ", cold"
        times = f"{self.rounds} × " if self.rounds > 1 else ""
        parts = [
            f"soaked {duration_words(self.soak_min)}" if self.soak_min else "",
            f"at pH {self.soak_ph:g}" if self.soak_ph is not None else "",
            f"{times}{duration_words(self.heat_min)}{heat}{', a day apart' if self.daily else ''}",
            f"settled {duration_words(self.settle_min)}" if self.settle_min else "",
        ]
        return ", ".join(part for part in parts if part)
