"""Readings of an instrument: matched to swatches by their codes, and kept apart by their light.

Colours of this application are those under D50 seen by the 2° observer. A spectrum gives them; so
does a table for D50 and 2°. Values for another light or observer cannot be turned into them, as
two cloths that look alike under one light may differ under another: they are kept as they are and
never stand among the others.
"""

import re
from collections.abc import Collection, Sequence
from datetime import date
from typing import Annotated, get_args

import numpy as np
from pydantic import Field

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats, lab_to_hex
from zesty_grid.core.read.colour_table import ColourRow, ColourTable
from zesty_grid.core.read.colour_words import colour_words
from zesty_grid.core.read.measurement import Lab
from zesty_grid.core.read.readings import Piece
from zesty_grid.core.read.spectra import Illuminant, Observer, spectrum_lab, white_point_xyz, xyz_lab
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.core.row_number import RowNumber, StateNumber

# Hand-held instruments of good make agree within about 0.3 (common practice); one touch of a cloth
# tells of that place alone, and cloth differs from place to place.
INSTRUMENT_DE00 = 0.3
ONE_PLACE_DE00 = 0.5
LEAST_SPREAD_DE00 = 0.2
DISAGREES_DE00 = 1.0
PIECES: dict[str, Piece] = {
    "dark": "dark",
    "covered": "dark",
    "light": "light",
    "exposed": "light",
    "wash": "wash",
    "washed": "wash",
}


class ViewedUnder(Frozen):
    """The light and the observer for which values are given."""

    illuminant: Illuminant
    observer: Observer

    @property
    def words(self) -> str:
        return f"{self.illuminant}/{self.observer}°"


# What a person entered from an earlier table is no measurement of an instrument.
ENTERED_LATER = "entered later, from "
OURS = ViewedUnder(illuminant="D50", observer="2")


class InstrumentSample(Frozen):
    """All measurements of one sample in a file, as one.

    `lab` is under D50, 2°; None where that cannot be known from what was given. `given_lab` is
    what the file says, under `given_under`. `spread_de00`: root mean square distance of repeats
    from their mean. `swatch`: whose code its name holds, None where it holds none of the study's.
    """

    name: str
    swatch: str | None = None
    piece: Piece = "whole"
    cloth: str | None = None
    lab: Lab | None = None
    hex: str = ""
    colour_words: str = ""
    given_lab: Lab | None = None
    given_under: str = ""
    wavelengths_nm: tuple[float, ...] = ()
    reflectance: tuple[float, ...] = ()
    repeats: Annotated[int, Field(ge=1)] = 1
    spread_de00: float | None = None
    uncertainty_de00: float
    warnings: tuple[str, ...] = ()


class SampleNamed(Frozen):
    """What a person says that a sample is: a swatch, a cloth of the Shelf, or (both None) nothing
    that is to be kept."""

    name: Annotated[str, Field(max_length=200)]
    swatch: Annotated[str, Field(max_length=12)] | None = None
    cloth: Annotated[str, Field(max_length=40)] | None = None


class NewInstrumentFile(Frozen):
    """A file of an instrument, as text. `said`: its light and observer, where it names none.
    `trial` and `stage`: for pieces of a trial. `early`: as for photos."""

    filename: Annotated[str, Field(max_length=200)] = "pasted"
    content: Annotated[str, Field(min_length=1, max_length=4 * 1024 * 1024)]
    instrument: Annotated[str, Field(min_length=1, max_length=60)]
    measured_on: date
    said: ViewedUnder | None = None
    trial: RowNumber | None = None
    stage: Annotated[int, Field(ge=0, le=1000)] | None = None
    run: StateNumber | None = None
    early: bool = False
    named: Annotated[tuple[SampleNamed, ...], Field(max_length=5000)] = ()


def as_named(samples: Sequence[InstrumentSample], named: Sequence[SampleNamed]) -> list[InstrumentSample]:
    """The samples with what a person says that they are."""
    said = {one.name: one for one in named}
    return [
        one.model_copy(update={"swatch": said[one.name].swatch, "cloth": said[one.name].cloth})
        if one.name in said
        else one
        for one in samples
    ]


def samples_of(table: ColourTable, codes: Collection[str], said: ViewedUnder | None = None) -> list[InstrumentSample]:
    """The samples of a file, in its order; measurements of one swatch, or of one name, are one.

    `said`: the light and observer, for a file that does not name them. Raises Refusal where they
    are not known and there are no spectra.
    """
    under = _under(table, said)
    groups: dict[tuple[str, Piece], list[ColourRow]] = {}
    for row in table.rows:
        swatch, piece = named_swatch(row.name, codes)
        groups.setdefault((swatch or f" {row.name}", piece), []).append(row)
    return [
        _sample(rows, None if key.startswith(" ") else key, piece, table.wavelengths_nm, under)
        for (key, piece), rows in groups.items()
    ]


def named_swatch(name: str, codes: Collection[str]) -> tuple[str | None, Piece]:
    """The swatch whose code stands in a sample's name, and which piece of it."""
    words = re.split(r"[^A-Za-z0-9]+", name)
    swatch = next((word.upper() for word in words if word.upper() in codes), None)
    named: list[Piece] = [PIECES[word.lower()] for word in words if word.lower() in PIECES]
    return swatch, named[0] if named else "whole"


def _under(table: ColourTable, said: ViewedUnder | None) -> ViewedUnder | None:
    if table.illuminant and table.observer:
        if table.illuminant in get_args(Illuminant) and table.observer in get_args(Observer):
            return ViewedUnder.model_validate({"illuminant": table.illuminant, "observer": table.observer})
        named = f"{table.illuminant}/{table.observer}°"
        raise Refusal(
            "unknown-light",
            f"The file is for {named}, which is not known here.",
            "Export it with spectra, or for a standard illuminant.",
        )
    if said is None and not table.wavelengths_nm:
        raise Refusal(
            "which-light",
            "The file does not say for which light and observer its values are.",
            "Look at the instrument's settings, and say which.",
            (
                Fault(
                    field="illuminant",
                    given="",
                    allowed="the light and the observer",
                    cure="Choose them; with spectra they need not be known.",
                ),
            ),
        )
    return said


def _sample(
    rows: Sequence[ColourRow], swatch: str | None, piece: Piece, nm: tuple[float, ...], under: ViewedUnder | None
) -> InstrumentSample:
    given = [lab for row in rows if (lab := _given(row, under)) is not None]
    spectra = [row.reflectance for row in rows if row.reflectance]
    ours: list[Lab] = [spectrum_lab(nm, spectrum) for spectrum in spectra]
    if not ours and under == OURS:
        ours = given
    told = ours or given
    spread = _spread(np.array(told))
    lab = _mean(ours) if ours else None
    return InstrumentSample(
        name=rows[0].name,
        swatch=swatch,
        piece=piece,
        lab=lab,
        hex=lab_to_hex(np.array(lab)) if lab else "",
        colour_words=colour_words(np.array(lab)) if lab else "",
        given_lab=_mean(given) if given else None,
        given_under=under.words if under and given else "",
        wavelengths_nm=nm if spectra else (),
        reflectance=tuple(float(v) for v in np.mean(spectra, axis=0)) if spectra else (),
        repeats=len(rows),
        spread_de00=spread,
        uncertainty_de00=_uncertainty(len(rows), spread),
        warnings=tuple(_disagreement(nm, spectra, given, under)),
    )


def _given(row: ColourRow, under: ViewedUnder | None) -> Lab | None:
    if row.lab or row.xyz is None or under is None:
        return row.lab
    return xyz_lab(np.array(row.xyz) / 100, white_point_xyz(under.illuminant, under.observer))


def _mean(labs: Sequence[Lab]) -> Lab:
    lightness, a, b = np.mean(labs, axis=0)
    return (float(lightness), float(a), float(b))


def _spread(labs: Floats) -> float | None:
    if len(labs) < 2:
        return None
    apart = delta_e_2000(labs, np.broadcast_to(labs.mean(axis=0), labs.shape))
    return float(np.sqrt((apart**2).sum() / (len(labs) - 1)))


def _uncertainty(repeats: int, spread: float | None) -> float:
    places = ONE_PLACE_DE00 if spread is None else max(spread, LEAST_SPREAD_DE00)
    return float(np.hypot(INSTRUMENT_DE00, places / np.sqrt(repeats)))


def _disagreement(
    nm: tuple[float, ...], spectra: Sequence[tuple[float, ...]], given: Sequence[Lab], under: ViewedUnder | None
) -> list[str]:
    """Says where a file's values are not those of its own spectra."""
    if not spectra or not given or under is None:
        return []
    own = spectrum_lab(nm, np.mean(spectra, axis=0).tolist(), under.illuminant, under.observer)
    apart = float(delta_e_2000(np.array(own), np.array(_mean(given))))
    if apart <= DISAGREES_DE00:
        return []
    return [f"its L*a*b* lies {apart:.1f} ΔE00 from what its spectrum gives for {under.words}; the spectrum is used"]
