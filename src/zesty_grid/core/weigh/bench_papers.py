"""All that goes to the bench on paper or as a file, in one document."""

from typing import Literal

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.controls import all_cells
from zesty_grid.core.plan.factors import FACTOR_ORDER
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.swatch_codes import swatch_code
from zesty_grid.core.plan.swatches import swatches_of
from zesty_grid.core.plan.vessels import Vessel, vessels_of
from zesty_grid.core.plan.working_out import ties_of
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.cut_list import CutList, cut_list
from zesty_grid.core.weigh.weighing import Weighing, weigh_study
from zesty_grid.core.weigh.working import Figure, grams_words, volume_words


class BenchSwatch(Frozen):
    code: str
    tie: str
    words: str
    cell: str
    replicate: int
    control: str
    levels: dict[str, str]
    vessels: tuple[str, ...]


class BenchPapers(Frozen):
    format: Literal["zesty-grid/bench"] = "zesty-grid/bench"
    version: Literal[1] = 1
    plan: StudyPlan
    swatches: tuple[BenchSwatch, ...]
    vessels: tuple[Vessel, ...]
    weighing: Weighing
    cut_list: CutList


def papers_for_plan(plan: StudyPlan, shelf: Shelf) -> BenchPapers:
    """For a plan that is in no data file: its codes are counted from 1."""
    cells = all_cells(plan, shelf)
    swatches = swatches_of(cells, plan.replicates)
    codes = {swatch.key: swatch_code(i) for i, swatch in enumerate(swatches, 1)}
    return bench_papers(plan, cells, vessels_of(plan, cells, shelf), codes, shelf)


def bench_papers(
    plan: StudyPlan, cells: list[Cell], vessels: list[Vessel], codes: dict[str, str], shelf: Shelf
) -> BenchPapers:
    """Everything for the bench; `codes` by swatch key."""
    ties = ties_of(plan, cells, vessels)
    goes_into: dict[str, list[str]] = {}
    for vessel in vessels:
        for key in vessel.swatches:
            goes_into.setdefault(key, []).append(vessel.name)
    by_key = {cell.key: cell for cell in cells}
    swatches = []
    for swatch in swatches_of(cells, plan.replicates):
        cell = by_key[swatch.cell]
        levels = level_labels(plan, cell)
        control = cell.control or ""
        swatches.append(
            BenchSwatch(
                code=codes.get(swatch.key, ""), tie=ties.get(swatch.key, ""),
                words=", ".join([*levels.values(), *([control] if "control=" in cell.key else [])]),
                cell=cell.key, replicate=swatch.replicate, control=control, levels=levels,
                vessels=tuple(goes_into.get(swatch.key, ())),
            )
        )  # fmt: skip
    return BenchPapers(
        plan=plan, swatches=tuple(swatches), vessels=tuple(vessels),
        weighing=weigh_study(plan, cells, vessels, shelf),
        cut_list=cut_list(plan, cells, shelf),
    )  # fmt: skip


def level_labels(plan: StudyPlan, cell: Cell) -> dict[str, str]:
    """The label of each of a cell's levels, by factor, in the order in which they act."""
    found: dict[str, str] = {}
    for kind in FACTOR_ORDER:
        if kind in cell.levels:
            level = plan.level(kind, cell.levels[kind])
            found[kind] = level.label if level else cell.levels[kind]
    return found


def amount_words(figure: Figure) -> str:
    """An amount as it is read at the bench: stock in mL, else grams with spoons, else mL."""
    half = f", {figure.words}" if figure.role == "adjuster" else ""
    if figure.stock_percent and figure.volume_ml is not None:
        return f"{volume_words(figure.volume_ml)} of {figure.stock_percent:g} % stock{half}"
    if figure.grams is not None:
        spoons = f" ({figure.spoons})" if figure.spoons else ""
        drawn = f" in {figure.words}" if figure.role == "dye stuff" and figure.words else ""
        return f"{grams_words(figure.grams)}{spoons}{drawn}{half}"
    return volume_words(figure.volume_ml) if figure.volume_ml is not None else figure.words
