"""What a trial did: exposed pieces against kept-dark ones, and white neighbours with stains."""

from collections.abc import Iterable, Mapping, Sequence
from datetime import date
from typing import NamedTuple

import numpy as np

from zesty_grid.core.fade.grey_scale import grey_scale_change
from zesty_grid.core.fade.grey_scale_range import rate_change
from zesty_grid.core.fade.staining import stain_range, stain_rating
from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.fade.trial_state import StageDose
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.read.colour_difference import ColourDifference, cielab_difference, delta_e_2000
from zesty_grid.core.read.colour_space import Floats, lab_to_hex
from zesty_grid.core.read.difference_uncertainty import Seen, difference_uncertainty, mean_lab
from zesty_grid.core.read.measurement import Lab
from zesty_grid.core.read.readings import Piece
from zesty_grid.core.read.spectra import spectrum_lab
from zesty_grid.core.read.zone_names import is_named

BEFORE = -1
# What the zones of a strip are called, by their number.
STEP = "step "


class StageReading(Frozen):
    """One accepted colour at one stage, as the fade computation needs it; `stage` None: as it was
    before the trial. `zone`: a part of a print, a step of a strip, or the fibre of a neighbour."""

    swatch: str
    piece: Piece
    stage: int | None
    seen: Seen
    zone: str = ""


class FadePoint(Frozen):
    """An exposed piece against its kept-dark piece at one stage, each by the mean of its readings.

    `rating_words` is the range of ratings that the uncertainty leaves. `distinguishable`: it has
    changed by more than what unchanged pieces are read apart. `dose` None: nobody knows it.
    `standard_rating`: under D65 and 10°, as the standard has it, where spectra are known.
    """

    swatch: str
    stage: int
    zone: str = ""
    dose: float | None
    dose_low: float | None = None
    dose_high: float | None = None
    dark_lab: Lab
    exposed_lab: Lab
    dark_hex: str
    exposed_hex: str
    difference: ColourDifference
    def_a05: float
    rating: str
    rating_words: str
    uncertainty_de00: float
    limit_de00: float
    distinguishable: bool
    dark_from_same_stage: bool
    turned_round: bool = False
    standard_rating: str | None = None


class StageSpectrum(NamedTuple):
    """What an instrument measured of a piece at a stage, as reflectance by wavelength."""

    swatch: str
    piece: Piece
    stage: int
    wavelengths_nm: tuple[float, ...]
    reflectance: tuple[float, ...]


class StainPoint(Frozen):
    """A white neighbour after a stage, against its clean self; the rating by ISO 105-A04, and the
    range that the uncertainty of reading leaves."""

    swatch: str
    stage: int
    neighbour: str
    clean_hex: str
    hex: str
    de00: float
    de_gs: float
    rating: str
    rating_words: str
    distinguishable: bool


def fade_points(
    plan: TrialPlan, readings: Iterable[StageReading], doses: Mapping[int, StageDose | None]
) -> list[FadePoint]:
    """Every exposed piece against its kept-dark piece, ordered by swatch, stage and zone.

    The dark piece read at the same stage counts; without one, the last reading before it. Several
    readings of one piece at one stage count by their mean. A zone counts against the zone of that
    name where the dark piece has named ones, else (a step of a strip) against the whole of it.
    """
    exposed: dict[tuple[str, int, str], list[Seen]] = {}
    dark: dict[tuple[str, str], dict[int, list[Seen]]] = {}
    zoned: set[str] = set()
    for reading in readings:
        stage = BEFORE if reading.stage is None else reading.stage
        if reading.piece == plan.exposed and stage >= 0:
            exposed.setdefault((reading.swatch, stage, reading.zone), []).append(reading.seen)
        elif reading.piece in ("whole", "dark"):
            of_zone = (reading.swatch, reading.zone.strip().lower())
            dark.setdefault(of_zone, {}).setdefault(stage, []).append(reading.seen)
            zoned |= {reading.swatch} if is_named(reading.zone) else set()
    points = []
    for (swatch, stage, zone), sample in sorted(exposed.items()):
        by_zone = swatch in zoned and not zone.startswith(STEP)
        kept = dark.get((swatch, zone.strip().lower() if by_zone else ""), {})
        before = [s for s in kept if s <= stage]
        if not before:
            continue
        last = max(before)
        dose = dose_of_zone(doses, stage, zone)
        points.append(_fade_point(swatch, stage, zone, dose, kept[last], sample, last == stage, kept.get(BEFORE)))
    return points


def with_standard_ratings(
    points: Sequence[FadePoint], spectra: Iterable[StageSpectrum], exposed: Piece
) -> list[FadePoint]:
    """The points, each rated under D65 and the 10° observer too where both its pieces have spectra
    (ISO 105-A05 asks for these); a photo has three channels and cannot tell."""
    known: dict[tuple[str, str, int], Lab] = {
        (one.swatch, one.piece, one.stage): spectrum_lab(one.wavelengths_nm, one.reflectance, "D65", "10")
        for one in spectra
    }
    found = []
    for point in points:
        dark = known.get((point.swatch, "dark", point.stage))
        light = known.get((point.swatch, exposed, point.stage))
        if dark and light and not point.zone:
            rated = grey_scale_change(np.array(dark), np.array(light))
            point = point.model_copy(update={"standard_rating": rated.rating})
        found.append(point)
    return found


def dose_of_zone(doses: Mapping[int, StageDose | None], stage: int, zone: str) -> StageDose | None:
    """What a step of a strip got: all light since it was uncovered, "step 1" from the start, each
    further one from the stage before its number."""
    total = doses.get(stage)
    number = int(zone.removeprefix(STEP)) if zone.startswith(STEP) else 1
    if total is None or number <= 1:
        return total
    before = doses.get(number - 2)
    if before is None or before.dose >= total.dose:
        return None
    rest = total.dose - before.dose
    return StageDose(
        dose=rest, low=rest * total.low / total.dose, high=rest * total.high / total.dose, source=total.source
    )


def _fade_point(
    swatch: str,
    stage: int,
    zone: str,
    dose: StageDose | None,
    reference: Sequence[Seen],
    sample: Sequence[Seen],
    same_stage: bool,
    first: Sequence[Seen] | None,
) -> FadePoint:
    dark_lab, exposed_lab = mean_lab([reference]), mean_lab([sample])
    difference = cielab_difference(dark_lab, exposed_lab)
    uncertain = difference_uncertainty([reference], [sample])
    rating = rate_change(dark_lab, exposed_lab, uncertain.limit_de00)
    distinct = difference.de00 > uncertain.limit_de00
    return FadePoint(
        swatch=swatch,
        stage=stage,
        zone=zone,
        dose=dose.dose if dose else None,
        dose_low=dose.low if dose else None,
        dose_high=dose.high if dose else None,
        dark_lab=_triple(dark_lab),
        exposed_lab=_triple(exposed_lab),
        dark_hex=lab_to_hex(dark_lab),
        exposed_hex=lab_to_hex(exposed_lab),
        difference=difference,
        def_a05=rating.found.def_a05,
        rating=rating.found.rating,
        rating_words=rating.words,
        uncertainty_de00=uncertain.uncertainty_de00,
        limit_de00=uncertain.limit_de00,
        distinguishable=distinct,
        dark_from_same_stage=same_stage,
        turned_round=bool(first)
        and distinct
        and _turned_round(first or (), dark_lab, exposed_lab, uncertain.limit_de00),
    )


def _turned_round(first: Sequence[Seen], dark_lab: Floats, exposed_lab: Floats, limit_de00: float) -> bool:
    """Whether what was taken for the exposed half is as it was before, and the covered is not."""
    before = mean_lab([first])
    kept, changed = (float(delta_e_2000(before, lab)) for lab in (exposed_lab, dark_lab))
    return changed > kept + limit_de00


def stain_points(readings: Iterable[StageReading]) -> list[StainPoint]:
    """Every neighbour that was read after a stage, against the clean ones that were read before the
    trial; nothing where none was."""
    clean: dict[str, list[Seen]] = {}
    after: dict[tuple[str, int, str], list[Seen]] = {}
    for reading in readings:
        if reading.piece != "neighbour":
            continue
        if reading.stage is None:
            clean.setdefault(reading.zone, []).append(reading.seen)
        else:
            key = (reading.swatch, reading.stage, reading.zone)
            after.setdefault(key, []).append(reading.seen)
    found = []
    for (swatch, stage, zone), sample in sorted(after.items()):
        reference = clean.get(zone)
        if not reference:
            continue
        before, stained = mean_lab([reference]), mean_lab([sample])
        limit = difference_uncertainty([reference], [sample]).limit_de00
        rated = stain_rating(before, stained)
        worst, best = stain_range(before, stained, limit)
        de00 = float(delta_e_2000(np.asarray(before), np.asarray(stained)))
        found.append(
            StainPoint(
                swatch=swatch,
                stage=stage,
                neighbour=zone,
                clean_hex=lab_to_hex(before),
                hex=lab_to_hex(stained),
                de00=de00,
                de_gs=rated.de_gs,
                rating=rated.rating,
                rating_words=best if best == worst else f"{best} to {worst}",
                distinguishable=de00 > limit,
            )
        )
    return found


def stages_read(readings: Iterable[tuple[int | None, str]]) -> dict[int, date]:
    """The day of each stage: the last on which pieces of it were read."""
    found: dict[int, date] = {}
    for stage, taken_on in readings:
        if stage is not None:
            day = date.fromisoformat(taken_on)
            found[stage] = max(found.get(stage, day), day)
    return found


def change_at_shared_stage(points: Sequence[FadePoint]) -> tuple[int | None, dict[str, float]]:
    """The furthest stage at which all swatches of a trial were read, else the one with the most;
    and the change of each in ΔE00, of the most exposed zone where there are several."""
    by_stage: dict[int, dict[str, float]] = {}
    for point in points:
        own = by_stage.setdefault(point.stage, {})
        own[point.swatch] = max(own.get(point.swatch, 0.0), point.difference.de00)
    if not by_stage:
        return None, {}
    stage = max(by_stage, key=lambda one: (len(by_stage[one]), one))
    return stage, by_stage[stage]


def _triple(lab: Floats) -> Lab:
    lightness, a, b = (float(value) for value in lab)
    return lightness, a, b
