"""What the pieces of a vessel are, what they bring into it, and what it is made of."""

from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.shelf.items import FibreClass, KnownFor
from zesty_grid.core.shelf.mixtures import parts_of_lot


def classes_in(study: PlannedStudy, vessel: Vessel) -> frozenset[FibreClass]:
    """Every class of fibre that goes into a vessel."""
    keys = {study.by_code[code].fibre for code in vessel.swatches}
    fibres = [study.shelf.fibre(key) for key in keys]
    return frozenset().union(*(fibre.classes for fibre in fibres if fibre))


def known_for(study: PlannedStudy, vessel: Vessel) -> frozenset[KnownFor]:
    """What the dye of a bath is known for; of a mixture, each of its parts."""
    found = [study.shelf.dye_lot(key) for key in (vessel.dye or "", *vessel.sources)]
    lots = [lot for lot in found if lot is not None]
    parts = [part for lot in lots for part, _ in parts_of_lot(lot, 1.0, study.shelf)]
    return frozenset(what for one in (*lots, *parts) for what in one.known_for)


def is_glass(study: PlannedStudy, vessel: Vessel) -> bool:
    own = study.shelf.vessel(vessel.on_shelf or "")
    return own is not None and own.material == "glass"


def alum_comes_in(study: PlannedStudy, vessel: Vessel) -> bool:
    """Whether pieces that were mordanted with alum go into a vessel."""
    levels = (study.levels(study.by_code[code]) for code in vessel.swatches)
    routes = (study.shelf.mordant_route(own.get("mordant", "")) for own in levels)
    return any(route is not None and route.brings_alum for route in routes)
