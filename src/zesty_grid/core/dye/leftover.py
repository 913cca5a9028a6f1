"""What is left of a dye bath or an extract, kept as a lot that another study may start from."""

from datetime import date
from typing import Annotated, Literal

from pydantic import Field

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.core.shelf.items import DyeLot
from zesty_grid.core.shelf.shelf import Shelf

HOLDS_DYE = ("dye", "overdye", "extract")
# A liquid's strength is in mL for 100 g of fibre; the largest one is a third of a usual bath.
A_THIRD_OF_A_BATH_ML = 1000.0


class Leftover(Frozen):
    """So many mL of the liquor of a vessel, and in what they are kept."""

    vessel: Annotated[str, Field(min_length=1, max_length=20)]
    volume_ml: Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)]
    kept_in: Literal["a jar", "a bottle", "the freezer"] = "a jar"


def lot_of_leftover(left: Leftover, vessel: Vessel, study: str, shelf: Shelf, on: date) -> DyeLot:
    """A liquid lot with its date, measured by the millilitre.

    Raises Refusal for a bath that holds no dye, and for more than it held.
    """
    if vessel.bath not in HOLDS_DYE:
        raise Refusal(
            "no-dye",
            f"{vessel.name} holds no dye that could be kept as a lot.",
            "Keep the liquor of a dye bath or an extract.",
        )
    if left.volume_ml > vessel.volume_ml * 1.05:
        cure = "Measure what is left."
        raise Refusal(
            "more-than-there-was",
            f"{vessel.name} held {vessel.volume_ml:.0f} mL: {left.volume_ml:.0f} mL are not left.",
            cure,
            (
                Fault(
                    field="volume_ml", given=f"{left.volume_ml:g}", allowed=f"at most {vessel.volume_ml:.0f}", cure=cure
                ),
            ),
        )
    source = shelf.dye_lot(vessel.dye or "")
    heat = source.temperature_c if source else 80
    taken = {lot.key for lot in shelf.dye_lots}
    base = f"liquor-{vessel.name.lower()}-{on:%y%m%d}"
    key = next(k for n in range(1, 1000) if (k := base if n == 1 else f"{base}-{n}") not in taken)
    name = f"Liquor of {vessel.title}"[:60]
    return DyeLot(
        key=key,
        name=f"{name}, {on.day} {on:%b %Y}",
        state="liquor",
        measured="liquid",
        collected=on.isoformat(),
        place=f"{vessel.name} of “{study}”"[:500],
        strength_percent_wof=A_THIRD_OF_A_BATH_ML,
        temperature_c=heat,
        amount_in_hand_g=left.volume_ml,
        known_for=source.known_for if source else (),
        note=f"Kept in {left.kept_in}. {A_THIRD_OF_A_BATH_ML:.0f} mL for 100 g of fibre are a "
        "third of a bath: change it as you need.",
        source="left over from a bath; strength unknown",
    )
