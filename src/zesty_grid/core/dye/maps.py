"""The map of each printed cloth: as it was drawn when it was laid, else one to begin with."""

from collections.abc import Iterable

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.plan.zones_on_cloth import zones_on
from zesty_grid.core.record.entry import BenchEntry
from zesty_grid.core.record.laid import LaidZone, laid_evenly, mirrored

PAIR = 2


class ClothMap(Frozen):
    """`drawn`: it is the map of the record, with the photo under it where there is one. `faces` is
    the cloth that it lies on, face to face: until it has a map of its own, it mirrors that one."""

    swatch: str
    zones: tuple[LaidZone, ...]
    drawn: bool
    photo: str | None = None
    faces: str | None = None


def maps_of(study: PlannedStudy, vessel: Vessel, log: Iterable[BenchEntry]) -> list[ClothMap]:
    """For each cloth of a vessel that has zones; of several maps of one cloth the last counts."""
    drawn: dict[str, ClothMap] = {}
    for entry in log:
        if entry.kind == "laid" and entry.zones and entry.vessel == vessel.name:
            for code in entry.swatches or vessel.swatches:
                drawn[code] = ClothMap(swatch=code, zones=entry.zones, drawn=True, photo=entry.photo)
    lower = facing(vessel)
    found = []
    for code in vessel.swatches:
        below = lower.get(code)
        if code in drawn:
            found.append(drawn[code].model_copy(update={"faces": below}))
        elif below in drawn:
            found.append(ClothMap(swatch=code, zones=mirrored(drawn[below].zones), drawn=False, faces=below))
        elif zones := zones_on(study.plan, study.cells, study.cell(study.by_code[code])):
            even = laid_evenly(zones)
            found.append(ClothMap(swatch=code, zones=mirrored(even) if below else even, drawn=False, faces=below))
    return found


def facing(vessel: Vessel) -> dict[str, str]:
    """For each upper cloth of a roll of two the lower one, which it lies on face to face."""
    return {roll[1]: roll[0] for roll in vessel.rolls if len(roll) == PAIR}
