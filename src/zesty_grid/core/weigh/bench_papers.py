"""All that goes to the bench on paper or as a file, in one document."""

from collections.abc import Iterable
from typing import Literal

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.plan.zones_on_cloth import has_zones, zones_on
from zesty_grid.core.record.laid import LaidZone, laid_evenly
from zesty_grid.core.record.swatch import Swatch
from zesty_grid.core.weigh.amounts import VesselAmounts
from zesty_grid.core.weigh.cut_list import CutList, cut_list
from zesty_grid.core.weigh.extraction import Liquor
from zesty_grid.core.weigh.weighing import Weighed, Weighing, weigh_study
from zesty_grid.core.weigh.working import Figure, grams_words, volume_words


class BenchSwatch(Frozen):
    """`zones` are a map to begin with, of a cloth on which several cells of the grid lie."""

    code: str
    tie: str
    words: str
    cell: str
    replicate: int
    control: str
    added: bool
    mass_g: float
    levels: dict[str, str]
    vessels: tuple[str, ...]
    zones: tuple[LaidZone, ...] = ()


class BenchPapers(Frozen):
    format: Literal["zesty-grid/bench"] = "zesty-grid/bench"
    version: Literal[1] = 1
    plan: StudyPlan
    swatches: tuple[BenchSwatch, ...]
    vessels: tuple[Vessel, ...]
    weighing: Weighing
    cut_list: CutList


def bench_papers(
    study: PlannedStudy,
    begun: Iterable[Weighed] = (),
    liquors: Iterable[Liquor] = (),
    scours: Iterable[VesselAmounts] = (),
) -> BenchPapers:
    """Everything for the bench: what has begun as it was kept, the rest by the plan."""
    kept = list(begun)
    vessels = [*(one.vessel for one in kept if one.vessel.bath not in ("scour", "extract")), *vessels_of(study)]
    goes_into: dict[str, list[str]] = {}
    for vessel in vessels:
        for code in vessel.swatches:
            goes_into.setdefault(code, []).append(vessel.name)
    control_of = {cell.key: cell.control for cell in study.cells}
    swatches = []
    for swatch in study.planned:
        cell = study.cell(swatch)
        swatches.append(
            BenchSwatch(
                code=swatch.code,
                tie=swatch.tie,
                words=study.words(swatch),
                cell=cell,
                replicate=swatch.replicate,
                control=control_of.get(cell) or "",
                added=swatch.added,
                mass_g=swatch.mass_g,
                levels=study.level_words(study.levels(swatch)),
                vessels=tuple(goes_into.get(swatch.code, ())),
                zones=laid_evenly(_zones(study, swatch)),
            )
        )
    return BenchPapers(
        plan=study.plan,
        swatches=tuple(swatches),
        vessels=tuple(vessels),
        weighing=weigh_study(study, kept, liquors, scours),
        cut_list=cut_list(study),
    )


def _zones(study: PlannedStudy, swatch: Swatch) -> list[str]:
    """The zones of a printed cloth, or the places of a larger piece that are read."""
    larger = next((one for one in study.plan.larger_pieces if one.key == swatch.larger), None)
    if larger and larger.places:
        return list(larger.places)
    return zones_on(study.plan, study.cells, study.cell(swatch)) if has_zones(study.plan) else []


def amount_words(figure: Figure) -> str:
    """An amount as it is read at the bench: stock in mL, else grams with spoons, else mL; with
    what it is made of or counts."""
    plain = _plain_amount(figure)
    return f"{plain} ({figure.spelled})" if figure.spelled else plain


def _plain_amount(figure: Figure) -> str:
    half = f", {figure.words}" if figure.role == "adjuster" else ""
    if figure.stock_percent and figure.volume_ml is not None:
        spoons = f" (by spoon: {figure.spoons})" if figure.spoons else ""
        percent = figure.stock_percent
        return f"{volume_words(figure.volume_ml)} of {percent:g} % stock{spoons}{half}"
    spoons = f" ({figure.spoons})" if figure.spoons else ""
    if figure.role == "addition" and figure.volume_ml is not None:
        return f"{volume_words(figure.volume_ml)}{spoons}"
    if figure.grams is not None:
        drawn = f" in {figure.words}" if figure.role == "dye stuff" and figure.words else ""
        return f"{grams_words(figure.grams)}{spoons}{drawn}{half}"
    return volume_words(figure.volume_ml) if figure.volume_ml is not None else figure.words
