"""The number of a row, or of a state, as a question may name it."""

from typing import Annotated

from pydantic import Field

# Larger numbers than SQLite or a browser can hold are no row of ours.
StateNumber = Annotated[int, Field(ge=-(2**53), le=2**53)]
RowNumber = Annotated[int, Field(ge=1, le=2**53)]
