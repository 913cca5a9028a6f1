"""A colour chart: how its patches lie, and what colours they are."""

from functools import cached_property, lru_cache

import numpy as np
from pydantic import Field, model_validator

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_space import Floats, lab_to_xyz, xyz_to_lab
from zesty_grid.core.read.patch24 import COLUMNS, PATCH_NAMES, ROWS, patch24_spectra, patch24_xyz

Lab = tuple[float, float, float]
PATCH24 = "patch24"
# What lies within this of the grey axis serves for the tone curve.
GREY_CHROMA = 6.0
FEWEST_PATCHES, MOST_PATCHES = 18, 240
FEWEST_GREYS = 4
MOST_CHROMA = 200.0
DARK_ENOUGH_L, USUAL_COLOURS = 30.0, 18
# The card's frame takes up a little more than its patches.
FRAME_MM = 3.25
LARGEST_CARD_MM = (200.0, 72.0)


class ChartPatch(Frozen):
    """L*a*b* under D50, 2° observer."""

    name: str = Field(max_length=40)
    lab: Lab


class Chart(Frozen):
    """The file format `zesty-grid/chart`, version 1: patches row by row from the upper left.

    `pitch_mm` from middle to middle, across and down; `patch_mm` across and down.
    """

    format: str = Field(default="zesty-grid/chart", pattern="^zesty-grid/chart$")
    version: int = Field(default=1, ge=1, le=1)
    name: str = Field(pattern=r"^[A-Za-z0-9][A-Za-z0-9 ._-]{0,39}$")
    rows: int = Field(ge=1, le=30)
    columns: int = Field(ge=2, le=40)
    pitch_mm: tuple[float, float] = (16.0, 16.0)
    patch_mm: tuple[float, float] = (13.5, 13.5)
    patches: tuple[ChartPatch, ...] = Field(min_length=1, max_length=MOST_PATCHES)

    @model_validator(mode="after")
    def _fits(self) -> "Chart":
        if len(self.patches) != self.rows * self.columns:
            raise ValueError(
                f"{self.rows} rows of {self.columns} make {self.rows * self.columns} patches; "
                f"{len(self.patches)} are given"
            )
        values = np.array([patch.lab for patch in self.patches])
        if not np.isfinite(values).all() or np.abs(values[:, 1:]).max() > MOST_CHROMA:
            raise ValueError("a* and b* of a patch must lie between -200 and 200")
        neutral = [np.hypot(patch.lab[1], patch.lab[2]) < GREY_CHROMA for patch in self.patches]
        if all(neutral):
            raise ValueError(
                "a grey scale tells how bright and how warm the light is, but nothing of how the "
                "camera sees colours: they would be off by ΔE00 5 and more. Read by a chart with "
                "colours; the scale can lie beside it as a control tile"
            )
        if len(self.patches) < FEWEST_PATCHES:
            raise ValueError(
                f"{len(self.patches)} patches are too few to tell how a camera sees colours; at "
                f"least {FEWEST_PATCHES} are needed"
            )
        for patch, pitch in zip(self.patch_mm, self.pitch_mm, strict=True):
            if not 3 <= patch <= pitch:
                raise ValueError("patches must be 3 mm or wider, and no wider than their pitch")
        width, height = self.card_mm
        if width > LARGEST_CARD_MM[0] or height > LARGEST_CARD_MM[1]:
            raise ValueError(
                f"the card is {width:.0f} × {height:.0f} mm; at most {LARGEST_CARD_MM[0]:.0f} × "
                f"{LARGEST_CARD_MM[1]:.0f} mm fit on a sheet"
            )
        lightness = [patch.lab[0] for patch in self.patches]
        if min(lightness) < -1 or max(lightness) > 105:
            raise ValueError("L* of a patch must lie between 0 and 100")
        if len(self.greys) < FEWEST_GREYS:
            raise ValueError(
                f"the chart has {len(self.greys)} greys; at least {FEWEST_GREYS} are needed to "
                "straighten the camera's tone curve"
            )
        return self

    @property
    def card_mm(self) -> tuple[float, float]:
        """Width and height of the card with its frame."""
        across = (self.columns - 1) * self.pitch_mm[0] + self.patch_mm[0]
        down = (self.rows - 1) * self.pitch_mm[1] + self.patch_mm[1]
        return across + 2 * FRAME_MM, down + 2 * FRAME_MM

    @cached_property
    def xyz(self) -> Floats:
        """XYZ (D50, Y = 1 for the perfect diffuser) of the patches, (n, 3)."""
        if self.name == PATCH24 and len(self.patches) == len(PATCH_NAMES):
            own = np.array([patch.lab for patch in self.patches])
            if np.abs(own - xyz_to_lab(patch24_xyz())).max() < 1e-3:
                return patch24_xyz()
        return lab_to_xyz(np.array([patch.lab for patch in self.patches]))

    @cached_property
    def spectra(self) -> Floats | None:
        """Reflectances of the patches, (n, 36), where they are known."""
        return patch24_spectra() if self.xyz is patch24_xyz() else None

    @cached_property
    def lab(self) -> Floats:
        return xyz_to_lab(self.xyz)

    @cached_property
    def greys(self) -> tuple[int, ...]:
        """Indices of the nearly neutral patches, the lightest first."""
        lab = np.array([patch.lab for patch in self.patches])
        neutral = np.flatnonzero(np.hypot(lab[:, 1], lab[:, 2]) < GREY_CHROMA)
        return tuple(int(i) for i in neutral[np.argsort(-lab[neutral, 0])])

    @property
    def serves(self) -> tuple[str, ...]:
        """What the chart can do, in words."""
        lab = self.lab[list(self.greys)]
        chroma = np.hypot(self.lab[:, 1], self.lab[:, 2])
        coloured = len(self.patches) - len(self.greys)
        said = [
            f"{len(self.greys)} greys from L* {lab[:, 0].min():.0f} to {lab[:, 0].max():.0f} for the tone curve",
            f"{coloured} coloured patches, the most vivid of chroma {chroma.max():.0f}: colours "
            "beyond it are read with less certainty, and this is said",
        ]
        if lab[:, 0].min() > DARK_ENOUGH_L:
            said.append("no dark grey: very dark cloth is read with less certainty")
        if coloured < USUAL_COLOURS:
            said.append(f"fewer colours than the usual {USUAL_COLOURS}: expect larger uncertainties")
        return tuple(said)

    @property
    def label(self) -> str:
        """What the chart is called in words."""
        return "24-patch chart" if self.name == PATCH24 else f"chart “{self.name}”"

    @property
    def names(self) -> tuple[str, ...]:
        return tuple(patch.name for patch in self.patches)


@lru_cache(maxsize=1)
def patch24() -> Chart:
    """The common 24-patch chart."""
    labs = xyz_to_lab(patch24_xyz())
    return Chart(
        name=PATCH24,
        rows=ROWS,
        columns=COLUMNS,
        patches=tuple(
            ChartPatch(name=name, lab=(float(lab[0]), float(lab[1]), float(lab[2])))
            for name, lab in zip(PATCH_NAMES, labs, strict=True)
        ),
    )
