"""What a package of studies brings to a file."""

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from zesty_grid.core.frozen import Frozen

# `new`: was not here. `grown`: the package goes on where this file stands. `here`: nothing in it
# that is not here.
HowTaken = Literal["new", "grown", "here"]


class StudyTaken(Frozen):
    """One study of a package. `mark` stands before the codes of its swatches in this file, where
    their own codes are given already; `added` counts what is new, by the package's tables."""

    study: int
    name: str
    how: HowTaken
    swatches: int
    readings: int
    mark: str
    added: dict[str, int] = Field(default_factory=dict)


class TakenIn(Frozen):
    """`shelf_added` and `shelf_kept` name things of the Shelf: those that are new, and those of
    which this file keeps its own."""

    filename: Annotated[str, Field(max_length=200)]
    written_at: str
    at: datetime
    studies: tuple[StudyTaken, ...]
    shelf_added: tuple[str, ...] = ()
    shelf_kept: tuple[str, ...] = ()

    @property
    def changes(self) -> bool:
        return any(one.how != "here" for one in self.studies) or bool(self.shelf_added)
