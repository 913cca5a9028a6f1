"""One line of a probe: JSON with its name and what it reads; all else in the line is let be."""

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, model_validator


class ProbeLine(BaseModel):
    """`at` None: now. A probe may read temperature, pH, or both."""

    model_config = ConfigDict(frozen=True)

    probe: Annotated[str, Field(min_length=1, max_length=60)]
    at: datetime | None = None
    temperature_c: Annotated[float, Field(ge=-20, le=130, allow_inf_nan=False)] | None = None
    ph: Annotated[float, Field(ge=0, le=14, allow_inf_nan=False)] | None = None

    @model_validator(mode="after")
    def _reads_something(self) -> "ProbeLine":
        if self.temperature_c is None and self.ph is None:
            raise ValueError("a line holds a temperature or a pH")
        return self
