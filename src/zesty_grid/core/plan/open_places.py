"""Places in the grid that stand open: their piece was lost, or went another way."""

from collections import Counter

from zesty_grid.core.plan.placement import wanted_of
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.zones_on_cloth import cloths_of


def open_places(study: PlannedStudy) -> dict[str, int]:
    """How many pieces each cell lacks, by its key (of a cloth with zones: the cloth's)."""
    lost = study.taken.lost
    stand = Counter(
        study.cell(swatch) for swatch in study.swatches if (swatch.planned or swatch.begun) and swatch.code not in lost
    )
    lacks = {
        cell.key: wanted_of(study.plan, cell) - stand[cell.key] for cell in cloths_of(study.cells) if cell.included
    }
    return {key: count for key, count in lacks.items() if count > 0}


def with_open_made_again(study: PlannedStudy) -> StudyPlan:
    """The plan with a new piece for every open place."""
    again = [key for key, count in open_places(study).items() for _ in range(count)]
    return study.plan.model_copy(update={"made_again": (*study.plan.made_again, *again)})
