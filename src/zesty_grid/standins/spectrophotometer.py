"""A simulated hand-held spectrophotometer: reflectance from 380 to 730 nm, touch by touch, as the
text that such instruments export."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.colour_table import ColourRow, ColourTable
from zesty_grid.core.read.patch24 import WAVELENGTHS_NM
from zesty_grid.core.read.spectra import Illuminant, Observer, spectrum_lab
from zesty_grid.formats.cgats import write_cgats

NAME = "Simulated spectrophotometer"


@dataclass(frozen=True)
class Spectrophotometer:
    """`noise` of each wavelength, `uneven`: how cloth differs from place to place, both as shares
    of the reflectance; `zero` is a small constant error of the instrument itself."""

    noise: float = 0.002
    uneven: float = 0.012
    zero: float = 0.0008
    places: int = 3
    seed: int = 1

    def export(
        self,
        samples: Mapping[str, Floats],
        illuminant: Illuminant = "D50",
        observer: Observer = "2",
        with_spectra: bool = True,
    ) -> str:
        """CGATS text of every sample at some places; `samples`: name to reflectance, (36,)."""
        rng = np.random.default_rng(self.seed)
        nm = tuple(float(v) for v in WAVELENGTHS_NM)
        rows = []
        for name, reflectance in samples.items():
            for _ in range(self.places):
                seen = reflectance * (1 + self.uneven * rng.normal())
                seen = seen * (1 + self.noise * rng.normal(size=len(nm))) + self.zero
                spectrum = tuple(float(v) for v in np.clip(seen, 0, 1.2))
                rows.append(
                    ColourRow(
                        name=name,
                        lab=spectrum_lab(nm, spectrum, illuminant, observer),
                        reflectance=spectrum if with_spectra else (),
                    )
                )
        table = ColourTable(
            rows=tuple(rows), wavelengths_nm=nm if with_spectra else (), illuminant=illuminant, observer=observer
        )
        return write_cgats(table, NAME)
