"""What can be wrong with a photo or lie in a cell, and what becomes of it when it is read.

Every condition is photographed by the simulated camera, whose truth is known. Two of twelve cells
bear the fault where it is one of a cell; the others show whether it spreads.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
from tests.cloth_spectra import NM, cloths_on, dyed, true_lab
from tests.photographs import photograph

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.measure import measure_sheet
from zesty_grid.core.read.measurement import CellMeasurement
from zesty_grid.core.read.sheet_layout import RectMm, Sheet, lay_out_sheet
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.cloth import Cloth, Motif
from zesty_grid.standins.scene import PAPER, ChartFault, Scene, Shade

SHEET = lay_out_sheet("FAULTS")
FAULTY = (3, 8)
WHITE_SILK = 0.87 - 0.06 * np.exp(-(NM - 380) / 70)
SILENT_OVER_DE00 = 2.0
SILENT_TIMES_UNCERTAINTY = 3.0


@dataclass(frozen=True)
class Taken:
    """A scene before the camera; `faulty`: the cells that bear the fault, by number."""

    scene: Scene
    shot: Shot
    faulty: tuple[int, ...]


@dataclass(frozen=True)
class CellOutcome:
    """What became of one cell. `warned`: on the cell itself, or on the photo as a whole."""

    condition: str
    faulty: bool
    error_de00: float | None
    uncertainty_de00: float | None
    cell: CellMeasurement | None
    warnings: tuple[str, ...]

    @property
    def found(self) -> bool:
        return self.error_de00 is not None

    @property
    def warned(self) -> bool:
        """Light that only falls off over the page is divided out: to say so warns of nothing."""
        said = [one for one in self.warnings if not one.startswith("Uneven light")]
        return bool(said) or self.cell is None or bool(self.cell.flags)

    @property
    def silent(self) -> bool:
        """A number far from the truth, and nothing said."""
        if self.error_de00 is None or self.uncertainty_de00 is None or self.warned:
            return False
        limit = max(SILENT_OVER_DE00, SILENT_TIMES_UNCERTAINTY * self.uncertainty_de00)
        return self.error_de00 > limit


Condition = Callable[[int], Taken]


def _taken(seed: int, shot: Shot | None = None) -> Taken:
    rng = np.random.default_rng(seed)
    shift = (float(rng.uniform(-3, 3)), float(rng.uniform(-3, 3)))
    scene = Scene(SHEET, cloths_on(SHEET, seed), shift, float(rng.uniform(-3, 3)))
    shot = shot or Shot(width_px=3000, height_px=2250)
    camera = "AB"[seed % 2]
    light = ("daylight D65", "LED", "daylight D50", "daylight D65")[seed % 4]
    return Taken(scene, replace(shot, camera=camera, light=light, seed=seed), FAULTY)


def _on_cells(change: Callable[[Cloth, np.random.Generator], Cloth]) -> Condition:
    def taken(seed: int) -> Taken:
        base = _taken(seed)
        rng = np.random.default_rng(seed + 500)
        cloths = list(base.scene.cloths)
        for i in base.faulty:
            cloths[i] = change(cloths[i], rng)
        return replace(base, scene=replace(base.scene, cloths=tuple(cloths)))

    return taken


def _shaded(depth: float, on: str, soft_mm: float = 3.0) -> Condition:
    def taken(seed: int) -> Taken:
        base = _taken(seed)
        rects = [SHEET.cells[i].rect_mm for i in FAULTY]
        if on == "chart":
            (x0, y0), (x1, y1) = SHEET.chart.quad_mm[0], SHEET.chart.quad_mm[2]
            rects = [(x0, y0, x1 - x0, y1 - y0)]
        shades = tuple(Shade(_around(rect, 3), depth, soft_mm) for rect in rects)
        faulty = FAULTY if on == "cell" else tuple(range(12))
        return Taken(replace(base.scene, shades=shades), base.shot, faulty)

    return taken


def _around(rect: RectMm, by_mm: float) -> RectMm:
    x, y, w, h = rect
    return (x - by_mm, y - by_mm, w + 2 * by_mm, h + 2 * by_mm)


def _whole(**shot: object) -> Condition:
    def taken(seed: int) -> Taken:
        base = _taken(seed)
        return Taken(base.scene, replace(base.shot, **shot), tuple(range(12)))  # type: ignore[arg-type]

    return taken


def _chart(fault: ChartFault) -> Condition:
    def taken(seed: int) -> Taken:
        base = _taken(seed)
        return Taken(replace(base.scene, chart_fault=fault), base.shot, tuple(range(12)))

    return taken


def _paper(spectrum: Floats) -> Condition:
    def taken(seed: int) -> Taken:
        base = _taken(seed)
        return Taken(replace(base.scene, paper=spectrum), base.shot, tuple(range(12)))

    return taken


def saturated(rng: np.random.Generator) -> Floats:
    """Cloth more saturated than the chart: an edge from almost nothing to almost all."""
    edge_nm = rng.uniform(500, 610)
    high, low = rng.uniform(0.7, 0.85), rng.uniform(0.015, 0.035)
    rising = 1 / (1 + np.exp(-(NM - edge_nm) / 9))
    return np.asarray(low + (high - low) * rising)


def _motif(kind: str, share: float = 0.5) -> Callable[[Cloth, np.random.Generator], Cloth]:
    def change(cloth: Cloth, rng: np.random.Generator) -> Cloth:
        own = true_lab(cloth)
        other = dyed(rng)
        while delta_e_2000(own, true_lab(replace(cloth, reflectance=other))) < 8:
            other = dyed(rng)
        return replace(cloth, motifs=(Motif(kind, other, share),), width_share=0.9)  # type: ignore[arg-type]

    return change


CONDITIONS: dict[str, Condition] = {
    "plain": _taken,
    **{
        f"shadow on a cell {depth:.0%}{' soft' if soft > 5 else ''}": _shaded(depth, "cell", soft)
        for depth in (0.1, 0.2, 0.4)
        for soft in (3.0, 10.0)
    },
    **{f"shadow on the chart {depth:.0%}": _shaded(depth, "chart") for depth in (0.1, 0.2, 0.4)},
    "local tone narrow": _whole(local_tone="narrow"),
    "local tone strong": _whole(local_tone="strong"),
    "local tone histogram": _whole(local_tone="histogram"),
    "two lights": _whole(side_light="fluorescent"),
    "sheen 3 %": _chart(ChartFault(sheen=0.03)),
    "sheen 6 %": _chart(ChartFault(sheen=0.06)),
    "chart yellowed": _chart(ChartFault(yellowed=0.15)),
    "chart bleached": _chart(ChartFault(bleached=0.2)),
    "saturated": _on_cells(lambda cloth, rng: replace(cloth, reflectance=saturated(rng))),
    "skein shallow": _on_cells(lambda cloth, _: replace(cloth, strands=0.35)),
    "skein deep": _on_cells(lambda cloth, _: replace(cloth, strands=0.7)),
    "gauze": _on_cells(lambda cloth, _: replace(cloth, open_share=0.25)),
    "thin silk": _on_cells(lambda cloth, _: replace(cloth, see_through=0.3, weave=0.02)),
    "two colours": _on_cells(_motif("half")),
    "two pieces": _on_cells(_motif("pieces")),
    "hole": _on_cells(lambda cloth, _: replace(cloth, torn_mm=11.0)),
    "white silk": _on_cells(lambda c, _: replace(c, reflectance=WHITE_SILK, weave=0.012)),
    "white silk to the edge": _on_cells(lambda c, _: replace(c, reflectance=WHITE_SILK, weave=0.012, width_share=1.0)),
    "over the edge": _on_cells(lambda cloth, _: replace(cloth, width_share=1.1, turn_deg=2.0)),
    "cream paper": _paper(PAPER * (0.97 - 0.12 * np.exp(-(NM - 380) / 80))),
    "bluish paper": _paper(PAPER * (1 + 0.06 * np.exp(-(((NM - 440) / 25) ** 2)))),
}


def look(condition: str, seed: int, sheet: Sheet = SHEET) -> list[CellOutcome]:
    """The twelve cells of one photo under a condition; refused photos say so on every cell."""
    taken = CONDITIONS[condition](seed)
    data = photograph(taken.scene, taken.shot)
    try:
        measured = measure_sheet(open_photo(data), sheet)
    except Refusal as refusal:
        return [
            CellOutcome(condition, i in taken.faulty, None, None, None, (refusal.code,))
            for i in range(len(sheet.cells))
        ]
    outcomes = []
    for i, (cloth, cell) in enumerate(zip(taken.scene.cloths, measured.cells, strict=True)):
        error = None
        if cell.lab is not None:
            error = float(delta_e_2000(true_lab(cloth), np.array(cell.lab)))
        outcomes.append(
            CellOutcome(condition, i in taken.faulty, error, cell.uncertainty_de00, cell, measured.calibration.warnings)
        )
    return outcomes
