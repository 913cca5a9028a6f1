"""What a print takes: its sources, and what they are dipped in before they are laid."""

from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.working import Figure, counted


def print_figures(vessel: Vessel, shelf: Shelf) -> list[Figure]:
    """Sources are laid to cover their zones: how much that is, is written down when it is done."""
    cloths = counted(len(vessel.swatches), "cloth")
    found = []
    for key in vessel.sources:
        lot = shelf.dye_lot(key)
        name = lot.name if lot else key
        prepared = f"; {lot.preparation}" if lot and lot.preparation else ""
        found.append(
            Figure(
                role="dye stuff",
                name=name,
                words=f"to cover its zones on {cloths}",
                working=f"laid, not weighed{prepared}",
                source="common practice",
            )
        )
    for label in vessel.pretreatments:
        found.append(
            Figure(
                role="addition",
                name=f"{label.lower()} for the plants",
                words="as you take it",
                working="log how strong it is and how long they lie in it",
                source="common practice",
            )
        )
    return found
