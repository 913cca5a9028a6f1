"""The bench log: one entry for each thing that was done, seen or noted."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from zesty_grid.core.frozen import Frozen


class NewBenchEntry(Frozen):
    """`done` ticks a step off, `undone` takes a tick back; `record` keeps what was read."""

    vessel: Annotated[str, Field(min_length=1, max_length=600)]
    step: Annotated[str, Field(min_length=1, max_length=40)]
    kind: Literal["done", "undone", "record"]
    temperature_c: Annotated[float, Field(ge=-20, le=130, allow_inf_nan=False)] | None = None
    ph: Annotated[float, Field(ge=0, le=14, allow_inf_nan=False)] | None = None
    note: Annotated[str, Field(max_length=2000)] = ""

    @model_validator(mode="after")
    def _a_record_says_something(self) -> "NewBenchEntry":
        if self.kind == "record" and not (
            self.note or self.temperature_c is not None or self.ph is not None
        ):
            raise ValueError("a record needs a temperature, a pH or a note")
        return self


class BenchEntry(NewBenchEntry):
    id: int
    at: str


def ticked_at(entries: list[BenchEntry], vessel: str, step: str) -> str | None:
    """When a step was ticked off; None where it is open or the tick was taken back."""
    ticks = [e for e in entries if e.vessel == vessel and e.step == step and e.kind != "record"]
    return ticks[-1].at if ticks and ticks[-1].kind == "done" else None
