"""Colours of samples as an instrument or a maker gives them."""

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.measurement import Lab


class ColourRow(Frozen):
    """One sample: L*a*b* or XYZ (Y = 100 for the perfect diffuser), or reflectance (0 to 1)."""

    name: str
    lab: Lab | None = None
    xyz: Lab | None = None
    reflectance: tuple[float, ...] = ()


class ColourTable(Frozen):
    """`wavelengths_nm` of the reflectances; `illuminant` and `observer` as the file says them,
    empty where it does not."""

    rows: tuple[ColourRow, ...]
    wavelengths_nm: tuple[float, ...] = ()
    illuminant: str = ""
    observer: str = ""
