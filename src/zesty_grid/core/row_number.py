"""The number of a row, as a question may name it."""

from typing import Annotated

from pydantic import Field

# Larger numbers than SQLite or a browser can hold are no row of ours.
RowNumber = Annotated[int, Field(ge=1, le=2**53)]
