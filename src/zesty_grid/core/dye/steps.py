"""What is done at each vessel, in order, with its temperature, time and caution."""

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.vessels import Vessel
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.amounts import VesselAmounts, bath_of_route, lot_of
from zesty_grid.core.weigh.cautions import ACID, ALKALI, IRON, POWDER, STEAM, VENTILATE
from zesty_grid.core.weigh.working import Figure, volume_words

COLD_C = 30.0


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
    if vessel.route is not None:
        return _mordant_steps(vessel, amounts, shelf)
    if vessel.bath in ("dye", "overdye"):
        return _dye_steps(vessel, amounts, shelf)
    if vessel.bath == "iron mordant":
        return _iron_mordant_steps(vessel, amounts)
    if vessel.bath == "adjust":
        return _adjust_steps(vessel, amounts)
    return _iron_steps(vessel, amounts)


def last_step_key(vessel: Vessel) -> str:
    """The step after which a vessel is done with."""
    return "finish" if vessel.route is not None or vessel.bath == "iron mordant" else "dry"


def _fill(amounts: VesselAmounts) -> Step:
    water = next((f for f in amounts.figures if f.role == "water"), None)
    return Step(key="fill", title="Fill the vessel", detail=_said(water) if water else
                "The bath of the dip before, as it is.")  # fmt: skip


def _wet_out() -> Step:
    return Step(
        key="wet-out", title="Wet out the pieces", duration_min=30,
        detail="Plain water, until the pieces sink, 20 to 60 min. Keep iron apart from alum.",
    )  # fmt: skip


def _mordant_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    _, bath = bath_of_route(vessel, shelf)
    dissolve = "; ".join(_said(figure) for figure in amounts.figures[1:])
    return [
        _wet_out(),
        _fill(amounts),
        Step(key="dissolve", title=f"Dissolve the {bath.substance}", detail=dissolve,
             caution=IRON if "iron" in bath.substance else POWDER),
        Step(key="enter", title="Enter the pieces", detail=_count(vessel)),
        Step(key="hold", title="Warm slowly and hold" if (bath.temperature_c or 0) > COLD_C
             else "Leave it to soak", temperature_c=bath.temperature_c,
             duration_min=bath.duration_min, detail="Move the pieces gently every 10 min.",
             caution=VENTILATE if (bath.temperature_c or 0) > 40 else ""),
        Step(key="finish", title="Lift out", detail=bath.then),
    ]  # fmt: skip


def _dye_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    lot = lot_of(vessel, shelf)
    steps = [_fill(amounts)]
    stuff = next((f for f in amounts.figures if f.role == "dye stuff"), None)
    if stuff and stuff.volume_ml:
        steps.append(
            Step(key="extract", title="Extract the dye, or measure in the extract",
                 detail=f"{_said(stuff)}: {stuff.words}, in a mesh bag where it is extracted; lift "
                 "the bag out at the end.", temperature_c=lot.temperature_c,
                 duration_min=lot.duration_min, caution=VENTILATE)
        )  # fmt: skip
    elif stuff:
        steps.append(Step(key="extract", title="Lay in the dye stuff", detail=_said(stuff)))
    if vessel.ph is not None and (vessel.dip or 1) == 1:
        steps.append(_set_ph(vessel, amounts))
    iron = next((f for f in amounts.figures if f.role == "iron"), None)
    if iron:
        steps.append(Step(key="iron", title="Add the iron", detail=_said(iron), caution=IRON))
    printed = vessel.process == "bundle-print"
    cold = (vessel.temperature_c or 0) <= COLD_C
    title = "Steam" if printed else "Leave it to soak" if cold else "Warm slowly and hold"
    return [
        *steps,
        _wet_out(),
        Step(key="enter", title="Roll the bundles" if printed else "Enter the pieces",
             detail=_count(vessel)),
        Step(key="hold", title=title,
             temperature_c=vessel.temperature_c, duration_min=vessel.duration_min,
             detail="The steamer must not boil dry: look at half time." if printed
             else "Move the pieces now and then." if cold
             else "Stir every 10 min; turn at half time. Do not let it boil.",
             wants_ph=vessel.ph is not None, caution=STEAM if printed else VENTILATE),
        Step(key="cool", title="Cool in the bath", detail="To room temperature; overnight is well.",
             wants_ph=vessel.ph is not None),
        Step(key="rinse", title="Rinse until the water is clear", detail="Count the rinses."),
        Step(key="dry", title="Dry out of the sun",
             detail="Flat or hung; rest a day before reading."),
    ]  # fmt: skip


def _set_ph(vessel: Vessel, amounts: VesselAmounts) -> Step:
    ph = vessel.ph or 7.0
    dose = amounts.ph.figure if amounts.ph else None
    given = (
        f"{_said(dose)} for plain water: give half"
        if dose
        else "A little acid or alkali if need be"
    )
    return Step(key="set-ph", title=f"Set the bath to pH {ph:g}", wants_ph=True, duration_min=15,
                caution=ACID if ph < 7 else ALKALI if ph > 7.5 else "",
                detail=f"{given}; wait 15 min, read again, then the rest.")  # fmt: skip


def _adjust_steps(vessel: Vessel, amounts: VesselAmounts) -> list[Step]:
    return [
        _wet_out(),
        _fill(amounts),
        _set_ph(vessel, amounts),
        Step(key="enter", title="Enter the pieces", detail=_count(vessel)),
        Step(key="hold", title="Leave them in", temperature_c=20, wants_ph=True,
             duration_min=vessel.duration_min, detail="Until the colour no longer moves."),
        Step(key="rinse", title="Rinse until the water is clear", detail="Count the rinses."),
        Step(key="dry", title="Dry out of the sun", detail="Rest a day before reading."),
    ]  # fmt: skip


def _iron_mordant_steps(vessel: Vessel, amounts: VesselAmounts) -> list[Step]:
    return [
        _wet_out(),
        _fill(amounts),
        Step(key="stock", title="Measure in the iron", detail=_said(amounts.figures[-1]),
             caution=IRON),
        Step(key="hold", title="Warm slowly and hold", temperature_c=vessel.temperature_c,
             duration_min=vessel.duration_min, detail=_count(vessel), caution=VENTILATE),
        Step(key="finish", title="Lift out", detail="Rinse well; keep apart from alum pieces."),
    ]  # fmt: skip


def _iron_steps(vessel: Vessel, amounts: VesselAmounts) -> list[Step]:
    return [
        _wet_out(),
        _fill(amounts),
        Step(key="stock", title="Measure in the iron", detail=_said(amounts.figures[-1]),
             caution=IRON),
        Step(key="dip", title="Dip and watch by the second", temperature_c=20,
             detail=f"{_count(vessel)} Cotton, linen and silk under 60 s, wool up to 5 min. Pull "
             "early: it darkens further as it dries.", caution=IRON),
        Step(key="rinse", title="Rinse at once", detail="Until the water is clear."),
        Step(key="dry", title="Dry out of the sun", detail="Rest a day before reading."),
    ]  # fmt: skip


def _count(vessel: Vessel) -> str:
    return f"{len(vessel.swatches)} pieces go in: count them by their codes."


def _said(figure: Figure) -> str:
    if figure.stock_percent and figure.volume_ml is not None:
        return f"{figure.volume_ml:.1f} mL of the {figure.stock_percent:g} % {figure.name} stock"
    if figure.grams is not None:
        return f"{figure.grams:.2f} g {figure.name}"
    if figure.volume_ml is not None:
        return f"{volume_words(figure.volume_ml)} {figure.name}"
    return f"{figure.name}, {figure.words}"
