"""Pairs of readings whose true difference is known: the same cloth again, or a neighbour at ΔE00 2,
through both simulated cameras and all lights."""

import zlib
from collections.abc import Callable, Iterable
from itertools import combinations
from typing import NamedTuple

import numpy as np
from tests.cloth_spectra import NM, UNDYED, dyed
from tests.photographs import photograph

from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import Floats, xyz_to_lab
from zesty_grid.core.read.difference_uncertainty import Seen, difference_uncertainty, same_response
from zesty_grid.core.read.kubelka_munk import absorption_over_scattering, reflectance_of
from zesty_grid.core.read.measure import measure_sheet
from zesty_grid.core.read.patch24 import spectra_to_xyz
from zesty_grid.core.read.sheet_layout import lay_out_sheet
from zesty_grid.formats.photo import open_photo
from zesty_grid.standins.camera import CAMERAS, LIGHTS, Shot
from zesty_grid.standins.cloth import Cloth
from zesty_grid.standins.scene import Scene

SHEET = lay_out_sheet("PAIRS", 12)
NEIGHBOUR_DE00 = 2.0


class Read(NamedTuple):
    """One reading: of which cloth, and what it truly is."""

    cloth: str
    true_lab: Floats
    light: str
    seen: Seen


# A camera and a light; and how photos that saw the chart alike are known.
Condition = tuple[str, str]
Capture = tuple[str, tuple[tuple[float, float, float], ...]]
OTHERS_LOOKED_AT = 0.05


class Rates(NamedTuple):
    """Shares among pairs: the same cloth called different, a true 2 not told, and the true error
    held by twice the uncertainty; with how many pairs each rests on."""

    false: float
    missed: float
    held: float
    same: int
    near: int


def lab_of(reflectance: Floats) -> Floats:
    return xyz_to_lab(spectra_to_xyz(reflectance[None])[0])


def neighbour(reflectance: Floats, rng: np.random.Generator) -> Floats:
    """The same cloth with more of its dye, or with a second one: truly 2 ΔE00 away."""
    absorbs = absorption_over_scattering(reflectance)
    centre, width = rng.uniform(400, 640), rng.uniform(50, 130)
    bell = np.exp(-(np.abs((NM - centre) / width) ** 1.7))
    more = absorbs if rng.integers(2) else bell

    def at(amount: float) -> Floats:
        return np.asarray(reflectance_of(absorbs + amount * more))

    own, low, high = lab_of(reflectance), 0.0, 0.01
    while delta_e_2000(own, lab_of(at(high))) < NEIGHBOUR_DE00 and high < 50:
        high *= 2
    for _ in range(50):
        middle = (low + high) / 2
        if delta_e_2000(own, lab_of(at(middle))) < NEIGHBOUR_DE00:
            low = middle
        else:
            high = middle
    return at(high)


def a_set(seed: int) -> list[tuple[str, Floats]]:
    """Twelve pieces for one sheet: three cloths twice and with a neighbour, and three more."""
    rng = np.random.default_rng(seed)
    pieces = []
    for k in range(3):
        cloth = dyed(rng) if k < 2 or seed % 2 else UNDYED[rng.integers(4)]
        near = neighbour(cloth, rng)
        pieces += [(f"{seed}-{k}", cloth), (f"{seed}-{k}", cloth), (f"{seed}-{k}-near", near)]
    return pieces + [(f"{seed}-{k}", dyed(rng)) for k in range(3, 6)]


def each_way(seed: int) -> list[Condition]:
    """Every camera in every light, each twice."""
    return [(camera, light) for camera in CAMERAS for light in LIGHTS for _ in range(2)]


def five_ways(seed: int) -> list[Condition]:
    """Two photos of one camera in one light, the other light, and the other camera in both; which
    they are changes from set to set."""
    names, lights = list(CAMERAS), list(LIGHTS)
    one, other = names[seed % 2], names[1 - seed % 2]
    first, second = lights[seed % 4], lights[(seed + 1 + seed % 3) % 4]
    return [(one, first), (one, first), (one, second), (other, first), (other, second)]


def simulate(
    seeds: Iterable[int], ways: Callable[[int], list[Condition]] = five_ways, width_px: int = 2400
) -> list[Read]:
    """Every set photographed and read under each of its conditions."""
    found: list[Read] = []
    captures: list[Capture] = []
    photo = 0
    for seed in seeds:
        pieces = a_set(seed)
        for camera, light in ways(seed):
            photo += 1
            rng = np.random.default_rng(zlib.crc32(f"{seed} {photo} {camera} {light}".encode()))
            found += _read(pieces, camera, light, rng, photo, captures, width_px)
    return found


def rates(reads: list[Read], alike: Callable[[Read, Read], bool]) -> Rates:
    """Over all pairs of one set for which `alike` says that they are of the wanted sort; of pairs
    that are far apart only some are looked at."""
    false, missed, held = [], [], []
    rng = np.random.default_rng(0)
    for one, other in combinations(reads, 2):
        if one.cloth.split("-")[0] != other.cloth.split("-")[0] or not alike(one, other):
            continue
        kin = one.cloth.removesuffix("-near") == other.cloth.removesuffix("-near")
        if not kin and rng.random() > OTHERS_LOOKED_AT:
            continue
        truth = float(delta_e_2000(one.true_lab, other.true_lab))
        found = float(delta_e_2000(np.array(one.seen.lab), np.array(other.seen.lab)))
        said = difference_uncertainty([[one.seen]], [[other.seen]])
        shift = (np.array(other.seen.lab) - one.seen.lab) - (other.true_lab - one.true_lab)
        error = float(delta_e_2000(other.true_lab, other.true_lab + shift))
        held.append(error <= 2 * said.uncertainty_de00)
        if truth < 1e-6:
            false.append(found > said.limit_de00)
        elif abs(truth - NEIGHBOUR_DE00) < 0.05:
            missed.append(found <= said.limit_de00)
    return Rates(*(float(np.mean(some)) if some else 0.0 for some in (false, missed, held)), len(false), len(missed))


def false_for_means(reads: list[Read], cameras: tuple[str, str]) -> tuple[float, int]:
    """How often the means of repeats, each in another camera, are called different."""
    sides: dict[tuple[str, str, str], list[Seen]] = {}
    for one in reads:
        sides.setdefault((one.cloth, one.seen.camera, one.light), []).append(one.seen)
    said = []
    for (cloth, camera, _), first in sides.items():
        if camera != cameras[0]:
            continue
        for (other, seen_by, _), second in sides.items():
            if other == cloth and seen_by == cameras[1]:
                means = [np.mean([one.lab for one in side], axis=0) for side in (first, second)]
                limit = difference_uncertainty([[one] for one in first], [[one] for one in second])
                said.append(float(delta_e_2000(*means)) > limit.limit_de00)
    return float(np.mean(said)), len(said)


def _read(
    pieces: list[tuple[str, Floats]],
    camera: str,
    light: str,
    rng: np.random.Generator,
    photo: int,
    captures: list[Capture],
    width_px: int,
) -> list[Read]:
    order = rng.permutation(len(pieces))
    cloths = tuple(
        Cloth(
            cell.cell,
            pieces[i][1],
            width_share=float(rng.uniform(0.65, 0.95)),
            turn_deg=float(rng.uniform(-8, 8)),
            uneven=float(rng.uniform(0.005, 0.04)),
        )
        for cell, i in zip(SHEET.cells, order, strict=True)
    )
    shift = (float(rng.uniform(-3, 3)), float(rng.uniform(-3, 3)))
    scene = Scene(SHEET, cloths, shift, float(rng.uniform(-3, 3)))
    shot = Shot(camera, light, width_px, width_px * 3 // 4, seed=int(rng.integers(1 << 30)))
    measured = measure_sheet(open_photo(photograph(scene, shot)), SHEET)
    response = measured.calibration.response
    capture = next(
        (n for n, (by, own) in enumerate(captures) if by == camera and same_response(response, own)), len(captures)
    )
    if capture == len(captures):
        captures.append((camera, response))
    return [
        Read(
            cloth=pieces[i][0],
            true_lab=lab_of(pieces[i][1]),
            light=light,
            seen=Seen(
                lab=cell.lab,
                photo=photo,
                capture=capture,
                camera=camera,
                evenness_de00=cell.parts.evenness_de00,
                chart_de00=cell.parts.chart_de00,
            ),
        )
        for cell, i in zip(measured.cells, order, strict=True)
        if cell.lab is not None and cell.parts is not None
    ]
