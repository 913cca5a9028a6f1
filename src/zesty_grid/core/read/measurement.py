"""What a photograph told: the file format `zesty-grid/measurement`, version 1."""

from typing import Literal

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.cell_labels import CellLabel
from zesty_grid.core.read.levelness import Unevenness
from zesty_grid.core.read.said_by_hand import CellByHand, PointPx
from zesty_grid.core.read.uncertainty import UncertaintyParts

Lab = tuple[float, float, float]
CellStatus = Literal["measured", "empty", "refused"]


class Residual(Frozen):
    """ΔE00 of chart patches, each predicted without itself."""

    mean: float
    p95: float
    max: float


class Taught(Frozen):
    """What a camera was taught by: how many swatches, and the mean ΔE00 of swatches left out
    without and with it."""

    swatches: int
    before_de00: float
    after_de00: float


class Calibration(Frozen):
    """`response`: what the camera made of each chart patch, in cube roots relative to its white.

    Photos with the same response see cloth in the same way, and so share their error.
    `patch_light`: its linear light over that of paper, before the correction.
    """

    model: str
    illuminant: Literal["D50"] = "D50"
    observer: Literal["2"] = "2"
    residual_de00: Residual
    warnings: tuple[str, ...] = ()
    camera: str = ""
    response: tuple[Lab, ...] = ()
    patch_light: tuple[Lab, ...] = ()
    taught: Taught | None = None


class ZoneMeasurement(Frozen):
    """A part of a piece with a colour of its own; zones are numbered from the largest.

    `outline_px` is its largest part, `more_outlines_px` the others. `share` is of the piece's area.
    """

    zone: str
    name: str = ""
    share: float
    lab: Lab
    hex: str
    colour_words: str
    levelness_de00: float
    uncertainty_de00: float
    parts: UncertaintyParts
    light: Lab | None = None
    untaught_lab: Lab | None = None
    outline_px: tuple[PointPx, ...]
    more_outlines_px: tuple[tuple[PointPx, ...], ...] = ()


class CellMeasurement(Frozen):
    """One cell. Uncertainty is a standard uncertainty: the truth lies within twice it.

    A piece with more than one colour has `zones`; its own colour is then no more than their mean.
    `light`: its mean linear light over that of paper, before the correction. `agreement_de00`: how
    far photos that were joined lie from their mean (root mean square). `untaught_lab`: as it was
    before what the camera was taught. `as_seen_lab`: with what shows through left in, where it was
    taken off.
    """

    cell: str
    status: CellStatus
    lab: Lab | None = None
    hex: str | None = None
    colour_words: str | None = None
    levelness_de00: float | None = None
    uncertainty_de00: float | None = None
    parts: UncertaintyParts | None = None
    flags: tuple[str, ...] = ()
    outline_px: tuple[PointPx, ...] = ()
    zones: tuple[ZoneMeasurement, ...] = ()
    unevenness: Unevenness | None = None
    light: Lab | None = None
    untaught_lab: Lab | None = None
    as_seen_lab: Lab | None = None
    agreement_de00: float | None = None

    def with_zones(self) -> "CellMeasurement":
        """A measured piece of one colour as its own only zone."""
        if self.zones or self.lab is None or self.parts is None:
            return self
        whole = ZoneMeasurement(
            zone="1",
            share=1.0,
            lab=self.lab,
            hex=self.hex or "",
            colour_words=self.colour_words or "",
            levelness_de00=self.levelness_de00 or 0.0,
            uncertainty_de00=self.uncertainty_de00 or 0.0,
            parts=self.parts,
            light=self.light,
            outline_px=self.outline_px,
        )
        return self.model_copy(update={"zones": (whole,)})


class PatchMeasurement(Frozen):
    name: str
    lab: Lab
    reference_lab: Lab
    outline_px: tuple[PointPx, ...] = ()


class JoinedPhoto(Frozen):
    """One of several photos that were read as one; `light`: which of the lights, from 1."""

    name: str
    model: str
    camera: str = ""
    light: int


class Measurement(Frozen):
    format: Literal["zesty-grid/measurement"] = "zesty-grid/measurement"
    version: Literal[1] = 1
    software_version: str
    sheet_id: str | None = None
    photo_size_px: tuple[int, int]
    calibration: Calibration
    cells: tuple[CellMeasurement, ...] = ()
    patches: tuple[PatchMeasurement, ...] = ()
    by_hand: tuple[CellByHand, ...] = ()
    photos: tuple[JoinedPhoto, ...] = ()
    labels: tuple[CellLabel, ...] = ()
