"""Which swatch lies in which cell of a sheet, and the readings that were accepted."""

from collections.abc import Iterable
from typing import Annotated, Literal

from pydantic import Field

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.measurement import Lab, Measurement
from zesty_grid.core.read.sheet_layout import Sheet

Piece = Literal["whole", "dark", "light", "wash"]


class Assignment(Frozen):
    """One piece of one swatch in one cell of the sheet."""

    cell: str
    swatch: str
    piece: Piece


class AssignedSheet(Frozen):
    """A page as printed for a study; `trial` where it serves a light or wash trial."""

    sheet: Sheet
    page: int
    trial: int | None = None
    assignments: tuple[Assignment, ...]


class Photo(Frozen):
    """A photo, what was last measured in it, and whether that has been accepted.

    `taken_on` is the day that the camera wrote into it, where it did.
    """

    id: int
    filename: str
    uploaded_at: str
    taken_on: str | None
    sheet: AssignedSheet
    measurement_id: int
    measurement: Measurement
    accepted: bool


class NewReadings(Frozen):
    """What the person accepts of a measurement: which cells, taken when, at which stage."""

    measurement_id: int
    cells: Annotated[tuple[str, ...], Field(min_length=1, max_length=24)]
    taken_on: Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")]
    stage: Annotated[int, Field(ge=0)] | None = None


class Reading(Frozen):
    """One measured colour of one piece at one time. Never overwritten."""

    id: int
    swatch: str
    cell: str
    piece: Piece
    trial: int | None
    stage: int | None
    lab: Lab
    hex: str
    colour_words: str
    uncertainty_de00: float
    levelness_de00: float
    flags: tuple[str, ...]
    photo: int
    taken_on: str
    accepted_at: str


def assign_pages(
    swatches: list[str], pieces: tuple[Piece, ...], cells_per_page: int
) -> list[list[tuple[str, Piece]]]:
    """Pieces in the order in which they lie on each page; one swatch's pieces share a page."""
    per_page = max(1, cells_per_page // len(pieces))
    pages = [swatches[i : i + per_page] for i in range(0, len(swatches), per_page)]
    return [[(swatch, piece) for swatch in page for piece in pieces] for page in pages]


def next_pages(
    swatches: list[str], pieces: tuple[Piece, ...], laid: Iterable[AssignedSheet],
    trial: int | None, cells_per_page: int,
) -> list[tuple[int, list[tuple[str, Piece]]]]:  # fmt: skip
    """The pages still to be laid out, each with its number; what lies on a page stays there."""
    own = [sheet for sheet in laid if sheet.trial == trial]
    there = {assignment.swatch for sheet in own for assignment in sheet.assignments}
    left = [swatch for swatch in swatches if swatch not in there]
    pages = assign_pages(left, pieces, cells_per_page)
    return list(enumerate(pages, len(own) + 1))


def assigned_page(
    sheet: Sheet, number: int, trial: int | None, page: list[tuple[str, Piece]]
) -> AssignedSheet:
    """A laid-out sheet with its pieces, in the order of its cells."""
    return AssignedSheet(
        sheet=sheet,
        page=number,
        trial=trial,
        assignments=tuple(
            Assignment(cell=cell.cell, swatch=swatch, piece=piece)
            for cell, (swatch, piece) in zip(sheet.cells, page, strict=False)
        ),
    )


def as_dyed(readings: Iterable[Reading]) -> dict[str, Reading]:
    """The newest reading of each whole swatch, by its code; readings oldest first."""
    return {reading.swatch: reading for reading in readings if reading.piece == "whole"}
