"""The bath of a further treatment."""

from zesty_grid.core.plan.after_baths import COLD_IRON_S
from zesty_grid.core.plan.bath import KIND_OF_LETTERS, Bath
from zesty_grid.core.plan.mordant_baths import HOT_IRON_C, HOT_IRON_MIN
from zesty_grid.core.plan.treatment import Treatment
from zesty_grid.core.shelf.shelf import Shelf


def treatment_bath(treatment: Treatment, shelf: Shelf) -> Bath:
    """The bath of a further treatment; its key is its own, so that nothing else shares it."""
    common = {
        "key": f"treatment:{treatment.key}",
        "title": treatment.name,
        "treatment": treatment.key,
        "duration_min": treatment.duration_min,
    }
    if treatment.kind == "iron":
        hot = treatment.route == "hot bath"
        seconds = None if hot else treatment.seconds
        cold_min = max(1, round((seconds or COLD_IRON_S) / 60))
        return Bath.model_validate(
            common
            | {
                "bath": "iron mordant" if hot else "iron",
                "has_iron": True,
                "seconds": seconds,
                "iron_percent_wof": treatment.iron_percent_wof,
                "temperature_c": treatment.temperature_c or (HOT_IRON_C if hot else 20),
                "duration_min": treatment.duration_min or (HOT_IRON_MIN if hot else cold_min),
            }
        )
    if treatment.kind == "adjust":
        return Bath.model_validate(
            common
            | {
                "bath": "adjust",
                "ph": treatment.ph,
                "adjuster": treatment.adjust_with,
                "temperature_c": treatment.temperature_c or 20,
                "duration_min": treatment.duration_min or 15,
            }
        )
    if treatment.kind == "dye":
        lot = shelf.dye_lot(treatment.dye or "")
        return Bath.model_validate(
            common
            | {
                "bath": "overdye",
                "dye": treatment.dye,
                "ph": treatment.ph,
                "strength_percent_wof": treatment.strength_percent_wof,
                "temperature_c": treatment.temperature_c or (lot.temperature_c if lot else None),
                "duration_min": treatment.duration_min or 60,
            }
        )
    if treatment.kind == "wash":
        return Bath.model_validate(
            common
            | {"bath": "wash", "temperature_c": treatment.temperature_c, "duration_min": treatment.duration_min or 30}
        )
    letters = (treatment.again or "").rstrip("0123456789")
    return Bath.model_validate(
        common
        | {
            "bath": KIND_OF_LETTERS.get(letters, "dye"),
            "again": treatment.again,
            "temperature_c": treatment.temperature_c,
            "has_iron": letters in ("F", "FM"),
            "duration_min": treatment.duration_min or 60,
        }
    )
