"""Vessels that come before those of the plan: scouring the pieces, extracting the dyes.

They are no factor of the study, so the plan does not count them; the bench does.
"""

from collections.abc import Sequence

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.bath import BATH_ORDER, Bath, BathKind
from zesty_grid.core.plan.filling import room_ml
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessel import Vessel, fits
from zesty_grid.core.plan.vessels import vessels_of_bath
from zesty_grid.core.record.swatch import Swatch
from zesty_grid.core.record.taken import Taken, names_for
from zesty_grid.core.shelf.items import Fibre, FibreClass, ShelfVessel
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.amounts import DETERGENT_ML_PER_L, VesselAmounts
from zesty_grid.core.weigh.extraction import Extraction
from zesty_grid.core.weigh.ph_dose import ph_of_vessel
from zesty_grid.core.weigh.stock_solution import dose_g
from zesty_grid.core.weigh.working import Figure, grams_words, volume_words

SODA_PERCENT_WOF = 2.0
PRACTICE = "common practice"


class Scour(Frozen):
    """How a kind of fibre is scoured (common practice)."""

    key: str
    title: str
    classes: frozenset[FibreClass]
    temperature_c: float
    duration_min: int
    longest_min: int
    soda: bool


SCOURS = (
    Scour(
        key="animal",
        title="Scour wool, silk and nylon",
        classes=frozenset({"protein", "polyamide"}),
        temperature_c=80,
        duration_min=30,
        longest_min=40,
        soda=False,
    ),
    Scour(
        key="plant",
        title="Scour plant fibres",
        classes=frozenset({"cellulose", "regenerated cellulose"}),
        temperature_c=90,
        duration_min=60,
        longest_min=120,
        soda=True,
    ),
    Scour(
        key="synthetic",
        title="Wash synthetics",
        classes=frozenset({"synthetic"}),
        temperature_c=40,
        duration_min=20,
        longest_min=60,
        soda=False,
    ),
)


SCOURED = "scour:0"


def scour_of(vessel: Vessel) -> Scour:
    """The way in which the pieces of a scour vessel are scoured."""
    return next(scour for scour in SCOURS if vessel.key.split(":")[1] == scour.key)


def scour_vessels(study: PlannedStudy) -> list[Vessel]:
    """A vessel for each kind of fibre, more where the pieces do not fit into one.

    Pieces that were in a bath already, and cloth of earlier swatches, are clean.
    """
    found: dict[str, list[Swatch]] = {}
    of_fibre: dict[str, str] = {}
    for swatch in study.planned:
        clean = study.taken.been_in(swatch.code) or SCOURED in study.taken.past_of(swatch.code)
        if swatch.parent or clean or _is_source(study, swatch):
            continue
        if swatch.fibre not in of_fibre:
            of_fibre[swatch.fibre] = _scour_for(study.shelf.fibre(swatch.fibre)).key
        found.setdefault(of_fibre[swatch.fibre], []).append(swatch)
    vessels: list[Vessel] = []
    for scour in SCOURS:
        if scour.key in found:
            bath = Bath(
                key=f"scour:{scour.key}",
                bath="scour",
                title=scour.title,
                temperature_c=scour.temperature_c,
                duration_min=scour.duration_min,
            )
            vessels += vessels_of_bath(study, bath, found[scour.key])
    return _named(vessels, "scour", study.taken)


def _scour_for(fibre: Fibre | None) -> Scour:
    kind: FibreClass = fibre.fibre_class if fibre else "cellulose"
    return next(one for one in SCOURS if kind in one.classes)


def _is_source(study: PlannedStudy, swatch: Swatch) -> bool:
    level = study.plan.level("fibre", swatch.levels.get("fibre"))
    return level is not None and bool(level.swatches)


def scour_amounts(vessel: Vessel, liquor_ratio_ml_per_g: float) -> VesselAmounts:
    mass_g = vessel.dry_fibre_g
    litres = vessel.volume_ml / 1000
    figures = [
        Figure(
            role="water",
            name="water",
            volume_ml=vessel.volume_ml,
            source=PRACTICE,
            working=f"{liquor_ratio_ml_per_g:g} mL/g × {grams_words(mass_g)} = {volume_words(vessel.volume_ml)}",
        ),
        Figure(
            role="detergent",
            name="neutral detergent",
            volume_ml=DETERGENT_ML_PER_L * litres,
            working=f"{DETERGENT_ML_PER_L:g} mL/L × {litres:.2f} L",
            source=PRACTICE,
        ),
    ]
    if scour_of(vessel).soda:
        grams = dose_g(SODA_PERCENT_WOF, mass_g)
        figures.append(
            Figure(
                role="adjuster",
                name="washing soda",
                grams=grams,
                source=PRACTICE,
                working=f"{SODA_PERCENT_WOF:g} % × {grams_words(mass_g)} = {grams_words(grams)}",
            )
        )
    return VesselAmounts(
        vessel=vessel.name, dry_fibre_g=mass_g, figures=tuple(figures), dry_fibre_working=vessel.fibre_words
    )


def scours_ahead(study: PlannedStudy) -> list[VesselAmounts]:
    """What the scours take of pieces that were in no bath yet."""
    ratio = study.plan.liquor_ratio_ml_per_g
    return [scour_amounts(vessel, ratio) for vessel in scour_vessels(study)]


def extract_vessels(extractions: Sequence[Extraction], shelf: Shelf, taken: Taken) -> list[Vessel]:
    """A pot for each shared extract, or several where no pot holds it."""
    vessels: list[Vessel] = []
    for extraction in extractions:
        bath = Bath(
            key=f"extract:{extraction.key}",
            bath="extract",
            title=f"Extract {extraction.name}, {extraction.way}",
            dye=extraction.dye,
            extraction=extraction.extraction,
            recipe=extraction.recipe,
            ph=extraction.recipe.soak_ph if extraction.recipe else None,
            adjuster=extraction.recipe.soak_with if extraction.recipe else None,
            temperature_c=extraction.temperature_c,
            duration_min=extraction.duration_min,
        )
        pots = _pots_for(bath, extraction.water_ml, shelf)
        for part, pot in enumerate(pots, 1):
            split = f", pot {part} of {len(pots)}" if len(pots) > 1 else ""
            facts = bath.model_dump() | {
                "key": bath.key if part == 1 else f"{bath.key}:pot-{part}",
                "title": bath.title + split,
            }
            vessels.append(
                Vessel(
                    **facts,
                    name="",
                    run_order=0,
                    part=part,
                    parts=len(pots),
                    on_shelf=pot.key if pot else None,
                    on_shelf_name=pot.name if pot else "",
                    volume_ml=extraction.water_ml / len(pots),
                    swatches=(),
                    cells=(),
                )
            )
    return _named(vessels, "extract", taken)


def extract_amounts(vessel: Vessel, own: Extraction, plan: StudyPlan, shelf: Shelf) -> VesselAmounts:
    split = f"; 1 of {vessel.parts} pots" if vessel.parts > 1 else ""
    figures = (
        Figure(
            role="dye stuff",
            name=own.name,
            grams=own.grams / vessel.parts,
            source=PRACTICE,
            spelled=own.spelled if vessel.parts == 1 else "",
            working=f"for {', '.join(share.vessel for share in own.shares)}: {grams_words(own.grams)}{split}",
        ),
        Figure(
            role="water",
            name="water",
            volume_ml=vessel.volume_ml,
            source=PRACTICE,
            working=f"make it up to {volume_words(own.water_ml)} before sharing out{split}",
        ),
    )
    ph = ph_of_vessel(plan, vessel, (), shelf) if vessel.ph is not None else None
    adjuster = (ph.figure,) if ph and ph.figure else ()
    return VesselAmounts(
        vessel=vessel.name, dry_fibre_g=0, figures=(*figures, *adjuster), ph=ph, dry_fibre_working="no fibre goes in"
    )


def extraction_of(vessel: Vessel, extractions: Sequence[Extraction]) -> Extraction:
    key = vessel.key.removeprefix("extract:").split(":pot-")[0]
    return next(one for one in extractions if one.key == key)


def _pots_for(bath: Bath, water_ml: float, shelf: Shelf) -> list[ShelfVessel | None]:
    """The smallest pot that holds it, else as many of the largest as it takes."""
    usable = [pot for pot in shelf.vessels if fits(bath, pot)]
    enough = [pot for pot in usable if room_ml(pot.litres) >= water_ml]
    if enough:
        return [min(enough, key=lambda pot: pot.litres)]
    if not usable:
        return [None]
    largest = max(usable, key=lambda pot: pot.litres)
    return [largest] * -(-int(water_ml) // int(room_ml(largest.litres)))


def _named(vessels: list[Vessel], kind: BathKind, taken: Taken) -> list[Vessel]:
    made = ((vessel.key, frozenset(vessel.swatches)) for vessel in vessels)
    names = names_for(kind, BATH_ORDER[kind], made, taken)
    return [
        vessel.model_copy(update={"name": name, "run_order": i})
        for i, (vessel, name) in enumerate(zip(vessels, names, strict=True), 1)
    ]
