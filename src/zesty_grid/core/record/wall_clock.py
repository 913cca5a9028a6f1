"""Time as a clock shows it, without a zone: of the wall where one works, or of a camera."""

from typing import Annotated

from pydantic import NaiveDatetime, WithJsonSchema

WallClock = Annotated[
    NaiveDatetime,
    WithJsonSchema(
        {
            "type": "string",
            "pattern": r"^[12]\d{3}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])T([01]\d|2[0-3]):[0-5]\d"
            r"(:[0-5]\d(\.\d{1,6})?)?$",
        }
    ),
]
