"""Studies that start from the cloth of earlier swatches: that cloth as fibres of their Shelf."""

from collections.abc import Mapping

from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.record.swatch import Swatch
from zesty_grid.core.shelf.items import Fibre
from zesty_grid.core.shelf.shelf import Shelf


def source_codes(plan: StudyPlan) -> set[str]:
    """Codes of the swatches whose cloth a plan starts from."""
    fibre = plan.factor("fibre")
    return {code for level in (fibre.levels if fibre else ()) for code in level.swatches}


def with_source_cloth(shelf: Shelf, plan: StudyPlan, sources: Mapping[str, Swatch]) -> Shelf:
    """The Shelf with a fibre for each level that is earlier cloth: of the kind that it was woven
    of, and weighed, as there is no more of it."""
    fibre = plan.factor("fibre")
    found = []
    for level in fibre.levels if fibre else ():
        source = next((sources[code] for code in level.swatches if code in sources), None)
        if source is None or shelf.fibre(level.key) is not None:
            continue
        cloth = shelf.fibre(source.fibre)
        if cloth is not None:
            found.append(
                Fibre(
                    key=level.key,
                    name=level.label,
                    fibre_class=cloth.fibre_class,
                    blend=cloth.blend,
                    form=cloth.form,
                    mass_g_m2=cloth.mass_g_m2,
                    source="cloth of an earlier study",
                    note=f"{cloth.name}, dyed before.",
                )
            )
    return shelf.model_copy(update={"fibres": (*shelf.fibres, *found)}) if found else shelf
