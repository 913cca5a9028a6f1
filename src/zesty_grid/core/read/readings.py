"""Which swatch lies in which cell of a sheet, and the readings that were accepted."""

from collections.abc import Iterable, Sequence
from datetime import date, datetime, time
from typing import Annotated, Literal

from pydantic import Field, model_validator

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.measurement import Lab, Measurement
from zesty_grid.core.read.sheet_layout import Sheet
from zesty_grid.core.record.wall_clock import WallClock
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.core.row_number import RowNumber, StateNumber

Piece = Literal["whole", "dark", "light", "wash", "treated", "halves", "neighbour"]
# What the zones of a piece of a trial are called on its sheet.
COVERED, UNCOVERED = "covered", "exposed"
Backing = Literal["", "white", "black", "grey", "more of the same"]


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


class LiesIn(Frozen):
    """What really lies in a cell: another swatch than the sheet says, or a cloth of the Shelf."""

    cell: Annotated[str, Field(max_length=8)]
    swatch: Annotated[str, Field(max_length=12)] | None = None
    cloth: Annotated[str, Field(max_length=40)] | None = None

    @model_validator(mode="after")
    def _is_one_thing(self) -> "LiesIn":
        if (self.swatch is None) == (self.cloth is None):
            raise ValueError("in a cell lies a swatch or a cloth")
        return self


class Photo(Frozen):
    """A photo, what was last measured in it, and whether that has been accepted.

    `taken_on` and `taken_at` are what the camera wrote into it, by its own clock, where it did.
    `read_before`: readings of this sheet at this moment are kept already. `discarded`: set aside.
    `due_stage`: of the trial that its sheet serves, the first stage that was not read. `cloths`:
    what was read of the Shelf in cells of this sheet before. `own_zones`: what zones are read as
    unless a person says otherwise.
    """

    id: int
    filename: str
    uploaded_at: str
    taken_on: str | None
    taken_at: WallClock | None = None
    sheet: AssignedSheet
    measurement_id: int
    measurement: Measurement
    accepted: bool
    discarded: bool = False
    read_before: bool = False
    study: int = 0
    due_stage: int | None = None
    cloths: tuple[LiesIn, ...] = ()
    own_zones: tuple["NamedZone", ...] = ()


class PhotoLine(Frozen):
    """A photo in a list. `measured`: cells that were measured and wait, or that were accepted.
    `page` and `trial` are those of its sheet, whose `sheet_kind` is "none" where there is none."""

    id: int
    filename: str
    sheet: str
    sheet_kind: str
    page: int
    trial: int | None
    measured: int
    accepted: bool
    discarded: bool
    taken_on: str | None = None


class SheetLine(Frozen):
    """A sheet in a list: its page, and the swatches that lie on it."""

    id: str
    page: int
    trial: int | None
    kind: str
    swatches: tuple[str, ...]


class NamedZone(Frozen):
    """A zone of a cell that becomes a reading of its own.

    `name`: what it is called on the piece ("leaf", "dipped"). `zone` empty: all that lies in the
    cell is one place of a larger piece, or one zone of a cloth. `piece`: where the zones are pieces
    by themselves, as the covered and the exposed half of one.
    """

    cell: Annotated[str, Field(max_length=8)]
    zone: Annotated[str, Field(max_length=8)]
    name: Annotated[str, Field(max_length=120)] = ""
    piece: Piece | None = None

    @model_validator(mode="after")
    def _a_place_has_a_name(self) -> "NamedZone":
        if not self.zone and not self.name.strip():
            raise ValueError("a place that fills its cell has a name")
        return self


def zones_of_pieces(sheet: AssignedSheet, measurement: Measurement) -> tuple[NamedZone, ...]:
    """What the printed zones of a trial's pieces are read as: the covered half as kept dark, the
    rest as exposed, the fibres of a neighbour each by its name."""
    pieces = {a.cell: a.piece for a in sheet.assignments}
    found = []
    for cell in measurement.cells:
        piece = pieces.get(cell.cell)
        if cell.status != "measured" or piece not in ("halves", "neighbour"):
            continue
        for zone in cell.zones:
            if piece == "neighbour":
                found.append(NamedZone(cell=cell.cell, zone=zone.zone, name=zone.name, piece="neighbour"))
            elif zone.name == COVERED:
                found.append(NamedZone(cell=cell.cell, zone=zone.zone, piece="dark"))
            else:
                name = "" if zone.name == UNCOVERED else zone.name
                found.append(NamedZone(cell=cell.cell, zone=zone.zone, name=name, piece="light"))
    return tuple(found)


class NewReadings(Frozen):
    """What the person accepts of a measurement: which cells, taken when, at which stage.

    `run`: they show the state after this bath (0: as they came) where the day alone does not say.
    `damp` readings are kept and do not count. `early`: the pieces have not had their rest, and are
    accepted all the same. `layers` and `backing` say how they were folded and on what they lay.
    `instead`: where the same sheet at the same moment was read before, these count and not those.
    `lies`: where something else lies in a cell than the sheet says. `before`: pieces of a trial as
    they were before it.
    """

    measurement_id: RowNumber
    cells: Annotated[tuple[str, ...], Field(max_length=24)] = ()
    zones: Annotated[tuple[NamedZone, ...], Field(max_length=200)] = ()
    instead: bool = False
    lies: Annotated[tuple[LiesIn, ...], Field(max_length=24)] = ()
    taken_on: date
    stage: Annotated[int, Field(ge=0)] | None = None
    before: bool = False
    run: StateNumber | None = None
    damp: bool = False
    early: bool = False
    backing: Backing = ""
    layers: Annotated[int, Field(ge=1, le=32)] | None = None
    note: Annotated[str, Field(max_length=500)] = ""


class Reading(Frozen):
    """One measured colour of one piece at one time. Never overwritten.

    `run` is the bath after which it shows the piece, 0 as it came. `counts`: it is one of those
    that its state is known by. `zone`: the part of the piece that it is of, with its `share` of the
    piece; empty for the piece as a whole. `warnings`: what was doubtful in its photo.
    `instrument`: what it was measured with, where that was no photo.
    """

    id: int
    swatch: str
    piece: Piece
    trial: int | None
    stage: int | None
    run: int
    lab: Lab
    hex: str
    colour_words: str
    uncertainty_de00: float
    levelness_de00: float
    flags: tuple[str, ...]
    photo: int | None
    taken_on: str
    accepted_at: str
    instrument: str = ""
    damp: bool = False
    backing: Backing = ""
    layers: int | None = None
    note: str = ""
    counts: bool = True
    zone: str = ""
    share: float | None = None
    warnings: tuple[str, ...] = ()


class ReadingChoice(Frozen):
    """Whether a reading counts, as a person says, the state that it shows (`run`: after this bath,
    0 as it came) and the name of the zone that it is of; None: as it was said before. The newest
    word on each stands."""

    counts: bool
    run: StateNumber | None = None
    zone: Annotated[str, Field(max_length=120)] | None = None
    who: Annotated[str, Field(max_length=60)] = ""
    note: Annotated[str, Field(max_length=500)] = ""


def assign_pages(swatches: list[str], pieces: tuple[Piece, ...], cells_per_page: int) -> list[list[tuple[str, Piece]]]:
    """Pieces in the order in which they lie on each page; one swatch's pieces share a page."""
    per_page = max(1, cells_per_page // len(pieces))
    pages = [swatches[i : i + per_page] for i in range(0, len(swatches), per_page)]
    return [[(swatch, piece) for swatch in page for piece in pieces] for page in pages]


def next_pages(
    swatches: list[str],
    pieces: tuple[Piece, ...],
    laid: Iterable[AssignedSheet],
    trial: int | None,
    cells_per_page: int,
    anew: bool = False,
) -> list[tuple[int, list[tuple[str, Piece]]]]:
    """The pages still to be laid out, each with its number; what lies on a page stays there.

    `anew`: also those that lie on a page already, as for a few of many that went on.
    """
    own = [sheet for sheet in laid if sheet.trial == trial]
    there = {assignment.swatch for sheet in own for assignment in sheet.assignments}
    there = set() if anew else there
    left = [swatch for swatch in swatches if swatch not in there]
    pages = assign_pages(left, pieces, cells_per_page)
    return list(enumerate(pages, len(own) + 1))


def assigned_page(sheet: Sheet, number: int, trial: int | None, page: list[tuple[str, Piece]]) -> AssignedSheet:
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


def moment_of(day: date, camera_at: datetime | None, accepted_at: datetime) -> datetime:
    """When a photo was taken: by the camera's clock where it names that day, else towards the end
    of the day, and never after it was accepted. Moments carry an offset."""
    if camera_at is not None and camera_at.date() == day:
        return min(camera_at, accepted_at)
    end = datetime.combine(day, time(23, 59, 59), tzinfo=accepted_at.tzinfo)
    return min(end, accepted_at)


def must_show_one_moment(photos: Sequence[Photo]) -> None:
    """Raises Refusal for photos of different days: they show the pieces in different states."""
    days = sorted({photo.taken_on for photo in photos if photo.taken_on})
    if len(days) > 1:
        raise Refusal(
            "other-day",
            f"The photos were taken on different days, {days[0]} and {days[-1]}.",
            "Read together only photos of one sheet as it lay there at one time.",
        )


def check_day(day: date, today: date) -> None:
    """Raises Refusal for a day that has not come yet."""
    if day > today:
        raise Refusal(
            "in-the-future",
            f"{day:%-d %b %Y} has not come yet.",
            "Say the day of the photo.",
            (
                Fault(
                    field="taken_on",
                    given=day.isoformat(),
                    allowed=f"up to {today.isoformat()}",
                    cure="Say the day of the photo.",
                ),
            ),
        )
