"""Which classes of fibre go into a vessel."""

from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.vessels import Vessel
from zesty_grid.core.shelf.items import FibreClass


def classes_in(study: PlannedStudy, vessel: Vessel) -> frozenset[FibreClass]:
    """Every class of fibre that goes into a vessel."""
    keys = {study.by_code[code].fibre for code in vessel.swatches}
    fibres = [study.shelf.fibre(key) for key in keys]
    return frozenset().union(*(fibre.classes for fibre in fibres if fibre))
