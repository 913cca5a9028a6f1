"""The one way in which the core says no."""

from pydantic import BaseModel, ConfigDict


class Fault(BaseModel):
    """One thing that is wrong with what was given, and the cure."""

    model_config = ConfigDict(frozen=True)

    field: str
    given: str
    allowed: str
    cure: str


class Refusal(ValueError):
    """What was asked cannot be done; says why and what to do, in words for the person.

    `code` is a short, stable name for programs; `faults` name the fields where there are any.
    """

    def __init__(self, code: str, reason: str, cure: str, faults: tuple[Fault, ...] = ()) -> None:
        super().__init__(f"{reason} {cure}".strip())
        self.code = code
        self.reason = reason
        self.cure = cure
        self.faults = faults
