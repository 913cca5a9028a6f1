"""What is done at each vessel, in order, with its temperature, time and caution."""

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.vessels import Vessel
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.items import Shelf
from zesty_grid.core.weigh.amounts import Figure, VesselAmounts
from zesty_grid.core.weigh.cautions import DEFER, IRON, POWDER

VENTILATE = "Ventilate. Pots and spoons for dyeing are never used for food again."
ALKALI = f"Alkali: gloves; rinse skin at once. Above pH 11, goggles too. {DEFER}"
ACID = "Vinegar and citric acid sting eyes: gloves; rinse skin at once. Never near bleach."


class Step(Frozen):
    key: str
    title: str
    detail: str = ""
    temperature_c: float | None = None
    duration_min: int | None = None
    wants_ph: bool = False
    caution: str = ""


def steps_of(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    """The ordered steps at one vessel. Times and temperatures are common practice."""
    if vessel.bath in ("tannin", "mordant"):
        return _mordant_steps(vessel, amounts, shelf)
    if vessel.bath == "dye":
        return _dye_steps(vessel, amounts, shelf)
    return _iron_steps(vessel, amounts)


def last_step_key(vessel: Vessel) -> str:
    """The step after which a vessel is done with."""
    return "finish" if vessel.bath in ("tannin", "mordant") else "dry"


def _fill(amounts: VesselAmounts) -> Step:
    return Step(key="fill", title="Fill the vessel", detail=_said(amounts.figures[0]))


def _wet_out() -> Step:
    return Step(
        key="wet-out", title="Wet out the pieces", duration_min=30,
        detail="Plain water, until the pieces sink, 20 to 60 min. Keep iron apart from alum.",
    )  # fmt: skip


def _mordant_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    route = shelf.mordant_route(vessel.route or "")
    if route is None or vessel.route_bath is None:
        raise Refusal("not-on-shelf", "The mordant route is not on the Shelf.", "Choose another.")
    bath = route.baths[vessel.route_bath]
    dissolve = "; ".join(_said(figure) for figure in amounts.figures[1:])
    return [
        _wet_out(),
        _fill(amounts),
        Step(key="dissolve", title=f"Dissolve the {bath.substance}", detail=dissolve,
             caution=IRON if "iron" in bath.substance else POWDER),
        Step(key="enter", title="Enter the pieces", detail=_count(vessel)),
        Step(key="hold", title="Warm slowly and hold", temperature_c=bath.temperature_c,
             duration_min=bath.duration_min, detail="Move the pieces gently every 10 min.",
             caution=VENTILATE if (bath.temperature_c or 0) > 40 else ""),
        Step(key="finish", title="Lift out", detail=bath.then),
    ]  # fmt: skip


def _dye_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    lot = shelf.dye_lot(vessel.dye or "")
    if lot is None:
        raise Refusal("not-on-shelf", "The dye lot is not on the Shelf.", "Choose another.")
    steps = [
        _fill(amounts),
        Step(key="extract", title="Extract the dye", detail=f"{_said(amounts.figures[1])}, in a "
             "mesh bag; lift the bag out at the end.", temperature_c=lot.temperature_c,
             duration_min=lot.duration_min, caution=VENTILATE),
    ]  # fmt: skip
    if vessel.ph is not None:
        acid = vessel.ph < 7
        steps.append(
            Step(key="set-ph", title=f"Set the bath to pH {vessel.ph:g}", wants_ph=True,
                 duration_min=15, caution=ACID if acid else ALKALI if vessel.ph > 7.5 else "",
                 detail=("Vinegar or citric acid" if acid else "Soda ash in solution")
                 + ", a little at a time; wait 15 min, read again, then the rest.")
        )  # fmt: skip
    return [
        *steps,
        _wet_out(),
        Step(key="enter", title="Enter the pieces", detail=_count(vessel)),
        Step(key="hold", title="Warm slowly and hold", temperature_c=lot.temperature_c,
             duration_min=60, detail="Stir every 10 min; turn at half time. Do not let it boil.",
             wants_ph=vessel.ph is not None, caution=VENTILATE),
        Step(key="cool", title="Cool in the bath", detail="To room temperature; overnight is well.",
             wants_ph=vessel.ph is not None),
        Step(key="rinse", title="Rinse until the water is clear", detail="Count the rinses."),
        Step(key="dry", title="Dry out of the sun",
             detail="Flat or hung; rest a day before reading."),
    ]  # fmt: skip


def _iron_steps(vessel: Vessel, amounts: VesselAmounts) -> list[Step]:
    return [
        _wet_out(),
        _fill(amounts),
        Step(key="stock", title="Measure in the iron stock", detail=_said(amounts.figures[1]),
             caution=IRON),
        Step(key="dip", title="Dip and watch by the second", temperature_c=20,
             detail=f"{_count(vessel)} Cotton, linen and silk under 60 s, wool up to 5 min. Pull "
             "early: it darkens further as it dries.", caution=IRON),
        Step(key="rinse", title="Rinse at once", detail="Until the water is clear."),
        Step(key="dry", title="Dry out of the sun", detail="Rest a day before reading."),
    ]  # fmt: skip


def _count(vessel: Vessel) -> str:
    return f"{len(vessel.cells)} pieces go in: count them by their codes."


def _said(figure: Figure) -> str:
    if figure.role == "iron" and figure.volume_ml is not None:
        return f"{figure.volume_ml:.1f} mL of the 1 % iron stock"
    if figure.grams is not None:
        return f"{figure.grams:.2f} g {figure.name}"
    return f"{figure.volume_ml:.0f} mL {figure.name}"
