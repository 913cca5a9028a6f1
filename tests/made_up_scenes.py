"""Photographs made up at random, whose truth is known: cameras, lights, lenses, paper, charts, cloth.

Each scene goes by its number. What is made to be wrong with a cell or with the photo is noted as a
cause, so that it can be counted which flag fires for which.
"""

from dataclasses import dataclass, replace

import numpy as np
from tests.cloth_spectra import cloths_on, dyed, true_lab

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.measure import measure_sheet
from zesty_grid.core.read.measurement import CellMeasurement
from zesty_grid.core.read.sheet_layout import Sheet, lay_out_sheet
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.bent import Bend
from zesty_grid.standins.camera import Camera, Shot, photograph
from zesty_grid.standins.cloth import Cloth, Motif
from zesty_grid.standins.scene import Scene, Shade

SHEET = lay_out_sheet("MADEUP")
LIGHTS = ("daylight D50", "daylight D65", "LED", "tungsten")
FIBRES = ("plain", "silk", "velvet", "gauze", "see-through", "yarn", "glare", "two colours", "small")
OF_THE_PHOTO = ("two lights", "local tone", "shadow on the chart")


@dataclass(frozen=True)
class MadeUp:
    """`causes`: what is wrong with each cell, by its name; `of_photo`: with all of it."""

    scene: Scene
    shot: Shot
    causes: dict[str, set[str]]
    of_photo: set[str]


@dataclass(frozen=True)
class Read:
    """One cell as it was read: how far its colour lies from the truth (of zones the furthest)."""

    cell: CellMeasurement
    causes: set[str]
    warned: bool
    error_de00: float | None


def camera(rng: np.random.Generator) -> Camera:
    """Bells for sensitivities, as broad and as far apart as those of real cameras are."""
    peaks = [(600.0, 30, 42), (535.0, 36, 44), (455.0, 24, 34)]
    return Camera(
        f"M{rng.integers(1_000_000)}",
        tuple((p + rng.uniform(-8, 8), a * rng.uniform(0.85, 1.2), b * rng.uniform(0.85, 1.2)) for p, a, b in peaks),
        contrast=float(rng.uniform(0, 0.4)),
        lift=float(rng.uniform(0, 0.005)),
        noise=float(rng.uniform(0.002, 0.008)),
        balance_warmth=float(rng.uniform(-0.06, 0.06)),
    )


def _cloth(cloth: Cloth, kind: str, rng: np.random.Generator) -> Cloth:
    if kind == "silk":
        return replace(cloth, weave=0.015)
    if kind == "velvet":
        return replace(cloth, weave=0.14, uneven=0.03)
    if kind == "gauze":
        return replace(cloth, open_share=float(rng.uniform(0.1, 0.3)))
    if kind == "see-through":
        return replace(cloth, see_through=float(rng.uniform(0.1, 0.35)), weave=0.02)
    if kind == "yarn":
        return replace(cloth, strands=float(rng.uniform(0.3, 0.7)))
    if kind == "glare":
        return replace(cloth, glare=True)
    if kind == "two colours":
        motif = ("half", "corner", "stripes", "dots", "blotches")[rng.integers(5)]
        return replace(cloth, motifs=(Motif(motif, dyed(rng), float(rng.uniform(0.25, 0.5))),), width_share=0.9)  # type: ignore[arg-type]
    if kind == "small":
        return replace(cloth, width_share=0.42)
    return cloth


def made_up(number: int) -> MadeUp:
    rng = np.random.default_rng(number)
    causes: dict[str, set[str]] = {}
    cloths, shades = [], []
    for cloth in cloths_on(SHEET, number):
        kind = FIBRES[rng.integers(len(FIBRES))] if rng.random() < 0.4 else "plain"
        cloths.append(_cloth(cloth, kind, rng))
        causes[cloth.cell] = set() if kind in ("plain", "silk", "velvet") else {kind}
    rects = {cell.cell: cell.rect_mm for cell in SHEET.cells}
    if rng.random() < 0.25:
        cell = SHEET.cells[rng.integers(len(SHEET.cells))].cell
        x, y, w, h = rects[cell]
        depth, soft = float(rng.uniform(0.08, 0.35)), float(rng.uniform(2, 10))
        shades.append(Shade((x - 3, y - 3, w + 6, h + 6), depth, soft))
        causes[cell].add("shadow")
    of_photo = set()
    shot = Shot(
        camera(rng),
        LIGHTS[rng.integers(4)],
        2600,
        1950,
        exposure=float(rng.uniform(0.6, 0.85)),
        tilt=float(rng.uniform(0, 0.07)),
        light_slope=float(rng.uniform(0, 0.4)),
        falloff=float(rng.uniform(0, 0.35)),
        blur_px=float(rng.uniform(0.4, 1.2)),
        lens_k1=float(rng.uniform(-0.1, 0.1)) if rng.random() < 0.5 else 0.0,
        seed=number,
    )
    if rng.random() < 0.06:
        shot = replace(shot, side_light="fluorescent")
        of_photo.add("two lights")
    elif rng.random() < 0.06:
        shot = replace(shot, local_tone=("narrow", "strong", "histogram")[rng.integers(3)])  # type: ignore[arg-type]
        of_photo.add("local tone")
    elif rng.random() < 0.06:
        (x0, y0), (x1, y1) = SHEET.chart.quad_mm[0], SHEET.chart.quad_mm[2]
        shades.append(Shade((x0 - 3, y0 - 3, x1 - x0 + 6, y1 - y0 + 6), float(rng.uniform(0.1, 0.35)), 4.0))
        of_photo.add("shadow on the chart")
    bend = None
    if rng.random() < 0.3:
        kind, height = (("curl", 8.0), ("fold", 3.0))[rng.integers(2)]
        edge = ("left", "right", "top", "foot")[rng.integers(4)]
        bend = Bend(kind, edge, float(rng.uniform(1, height)))  # type: ignore[arg-type]
        of_photo.add("page not flat")
    scene = Scene(
        SHEET,
        tuple(cloths),
        chart_shift_mm=(float(rng.uniform(-3, 3)), float(rng.uniform(-3, 3))),
        chart_turn_deg=float(rng.uniform(-3, 3)),
        shades=tuple(shades),
        card_beyond_mm=float(rng.choice([0.0, 0.0, 1.0, 2.0, 3.0])),
        card_frame=np.full(36, rng.choice([0.042, 0.3, 0.55, 0.8])),
        bend=bend,
    )
    return MadeUp(scene, shot, causes, of_photo)


def _truths(cloth: Cloth) -> list[Floats]:
    return [true_lab(cloth), *(true_lab(replace(cloth, reflectance=motif.reflectance)) for motif in cloth.motifs)]


def _error(cloth: Cloth, cell: CellMeasurement) -> float | None:
    if cell.lab is None:
        return None
    truths = _truths(cloth)
    seen = [zone.lab for zone in cell.zones] if len(cell.zones) > 1 else [cell.lab]
    return max(min(float(delta_e_2000(truth, np.array(lab))) for truth in truths) for lab in seen)


def read(number: int, sheet: Sheet = SHEET) -> list[Read] | Refusal:
    """The cells of a made up photo; or why it was refused."""
    made = made_up(number)
    try:
        measured = measure_sheet(open_photo(photograph(made.scene, made.shot)), sheet)
    except Refusal as refusal:
        return refusal
    warned = any(not one.startswith("Uneven light") for one in measured.calibration.warnings)
    return [
        Read(cell, made.causes[cell.cell] | made.of_photo, warned, _error(cloth, cell))
        for cloth, cell in zip(made.scene.cloths, measured.cells, strict=True)
    ]
