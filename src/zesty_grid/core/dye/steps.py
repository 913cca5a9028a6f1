"""What is done at each vessel, in order. Times, temperatures and hands are common practice."""

from zesty_grid.core.dye.preparing import scour_of
from zesty_grid.core.dye.step import Step
from zesty_grid.core.plan.vessels import Vessel
from zesty_grid.core.shelf.items import FibreClass
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.amounts import VesselAmounts, bath_of_route, lot_of
from zesty_grid.core.weigh.cautions import (
    ACID,
    ALKALI,
    FELT,
    HOT,
    IRON,
    POWDER,
    STEAM,
    SUN_JAR,
    VENTILATE,
)
from zesty_grid.core.weigh.heat import PLACE_EFFICIENCY, ROOM_C, steamer_water_l, warming_j
from zesty_grid.core.weigh.working import Figure, counted, volume_words

COLD_C = 30.0
HOUR = 60
DAY = 24 * HOUR
# Minutes of hands; common practice, as in the effort of the Weigh lens.
FILL_MIN, MEASURE_MIN, ENTER_MIN, LIFT_MIN, SET_PH_MIN = 4.0, 6.0, 2.0, 4.0, 4.0
A_SWATCH_MIN, ROLL_MIN, PULL_MIN = 0.5, 4.0, 0.75
STIR_MIN = 10
SLOW_C_PER_MIN = 1.0
OVERNIGHT_MIN = 16 * HOUR
WEAKEST_PLACE_W = 1000.0


def steps_of(
    vessel: Vessel, amounts: VesselAmounts, shelf: Shelf, goes_on: tuple[str, ...] = (),
    classes: frozenset[FibreClass] = frozenset(),
) -> list[Step]:  # fmt: skip
    """The ordered steps at one vessel.

    `goes_on` holds the swatches that have another bath before them: they are not dried. `classes`
    are those of the fibres in it: a caution that does not concern them is not said.
    """
    steps = _steps(vessel, amounts, shelf, goes_on)
    if "protein" in classes:
        return steps
    return [
        step.model_copy(update={"caution": ""}) if step.caution == FELT else step for step in steps
    ]


def _steps(
    vessel: Vessel, amounts: VesselAmounts, shelf: Shelf, goes_on: tuple[str, ...]
) -> list[Step]:
    if vessel.bath == "scour":
        return _scour_steps(vessel, amounts, shelf)
    if vessel.bath == "extract":
        return _extract_steps(vessel, amounts, shelf)
    if vessel.again is not None:
        return _again_steps(vessel, amounts, shelf) + _after(vessel, set(goes_on))
    if vessel.bath == "wash":
        return _wash_steps(vessel, amounts, shelf) + _after(vessel, set(goes_on))
    if vessel.route is not None:
        return _mordant_steps(vessel, amounts, shelf)
    if vessel.bath == "iron mordant" and vessel.treatment is None:
        return _iron_mordant_steps(vessel, amounts, shelf)
    if vessel.bath in ("dye", "overdye"):
        steps = _dye_steps(vessel, amounts, shelf)
    elif vessel.bath == "adjust":
        steps = _adjust_steps(vessel, amounts)
    elif vessel.bath == "iron mordant" and vessel.treatment is not None:
        # On cloth that is dyed already it is the last bath.
        steps = _iron_mordant_steps(vessel, amounts, shelf)
    else:
        steps = _iron_steps(vessel, amounts)
    return steps + _after(vessel, set(goes_on))


def warming_min(litres: float, temperature_c: float, shelf: Shelf, slowly: bool) -> int:
    """Minutes to come to temperature on the weakest heat place; at most 1 °C/min with pieces in."""
    rise_c = max(0.0, temperature_c - ROOM_C)
    power_w = min((p.power_w for p in shelf.heat_places if not p.retired), default=WEAKEST_PLACE_W)
    by_power = warming_j(litres, rise_c) / (power_w * PLACE_EFFICIENCY) / 60 if litres > 0 else 0.0
    by_fibre = rise_c / SLOW_C_PER_MIN if slowly else 0.0
    return round(max(by_power, by_fibre))


def _is_hot(temperature_c: float | None) -> bool:
    return (temperature_c or 0) > COLD_C


def _fill(amounts: VesselAmounts) -> Step:
    water = next((f for f in amounts.figures if f.role == "water"), None)
    if water is None:
        liquor = next(f for f in amounts.figures if f.role == "dye liquor")
        return Step(key="fill", title="Take over the bath", detail=f"{said(liquor)}. Stir it up "
                    "first, and log what you put in.", hands_min=FILL_MIN,
                    place="vessel")  # fmt: skip
    return Step(key="fill", title="Fill the vessel", detail=said(water), hands_min=FILL_MIN,
                place="vessel")  # fmt: skip


def _wet_out(vessel: Vessel) -> Step:
    return Step(
        key="wet-out", title="Wet out the pieces", duration_min=30, shortest_min=20,
        longest_min=60, place="iron bowl" if vessel.has_iron else "bowl",
        detail="Plain water, until the pieces sink. Keep iron apart from alum: each has its own "
        "bowl. Pieces that come wet from the bath before need no soaking.",
    )  # fmt: skip


def _enter(vessel: Vessel, title: str = "Enter the pieces", each_min: float = A_SWATCH_MIN) -> Step:
    return Step(key="enter", title=title, detail=_count(vessel), asks="loading", place="vessel",
                hands_min=ENTER_MIN + each_min * len(vessel.swatches))  # fmt: skip


def _hold(vessel: Vessel, shelf: Shelf, minutes: int, detail: str, title: str = "") -> Step:
    """Warm and hold at a temperature, or leave to soak where it is cold."""
    temperature_c = vessel.temperature_c
    if not _is_hot(temperature_c):
        return Step(
            key="hold", title=title or "Leave it to soak", temperature_c=temperature_c,
            duration_min=minutes, shortest_min=minutes, longest_min=max(minutes + 60, minutes * 2),
            detail=detail, place="vessel", wants_ph=vessel.ph is not None,
        )  # fmt: skip
    warm = warming_min(vessel.volume_ml / 1000, temperature_c or 0, shelf, slowly=True)
    return Step(
        key="hold", title=title or "Warm slowly and hold", temperature_c=temperature_c,
        duration_min=minutes, shortest_min=minutes, longest_min=minutes, warm_min=warm, heat=True,
        attended=True, place="vessel", stir_every_min=STIR_MIN, wants_ph=vessel.ph is not None,
        detail=detail, caution=f"{VENTILATE} {HOT}",
    )  # fmt: skip


def _cool(shortest_min: int = HOUR, wants_ph: bool = False) -> Step:
    return Step(key="cool", title="Cool in the bath", duration_min=shortest_min,
                shortest_min=shortest_min, longest_min=OVERNIGHT_MIN, place="vessel",
                wants_ph=wants_ph, caution=FELT,
                detail="Off the heat, to room temperature; overnight is well.")  # fmt: skip


def _rinse(vessel: Vessel, title: str = "Rinse until the water is clear") -> Step:
    return Step(key="rinse", title=title, detail="Count the rinses; look how much bleeds.",
                hands_min=LIFT_MIN + A_SWATCH_MIN * len(vessel.swatches), asks="rinses",
                wants_ph=vessel.ph is not None)  # fmt: skip


def _after(vessel: Vessel, goes_on: set[str]) -> list[Step]:
    """Drying, for the pieces for which this was the last bath."""
    last = [key for key in vessel.swatches if key not in goes_on]
    if not last:
        return []
    onward = len(vessel.swatches) - len(last)
    stay = f" {onward} stay wet for their next bath." if onward else ""
    return [
        Step(key="dry", title="Hang to dry, out of the sun", place="line", asks="hand",
             hands_min=1 + 0.25 * len(last), longest_min=None,
             detail=f"Flat or hung.{stay} Then a day's rest before reading; note the hand when "
             "dry.")
    ]  # fmt: skip


def _scour_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    scour = scour_of(vessel)
    put_in = "; ".join(said(figure) for figure in amounts.figures[1:])
    hold = _hold(vessel, shelf, scour.duration_min, "Move the pieces little, and do not rub.",
                 "Warm and hold")  # fmt: skip
    return [
        _fill(amounts),
        Step(key="dissolve", title="Put in the detergent", detail=put_in, hands_min=2,
             place="vessel", caution=POWDER if scour.soda else ""),
        _enter(vessel),
        hold,
        _cool(30),
        Step(key="finish", title="Lift out and rinse", place="bench",
             hands_min=LIFT_MIN + A_SWATCH_MIN * len(vessel.swatches),
             detail="In water as warm as the pieces, until it is clear. Go on wet, or dry and "
             "keep."),
    ]  # fmt: skip


def _extract_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    stuff, water = amounts.figures
    minutes = vessel.duration_min or HOUR
    fill = Step(key="fill", title="Lay in the dye stuff", detail=f"{said(stuff)} in a mesh bag; "
                f"{said(water)}.", hands_min=FILL_MIN + MEASURE_MIN, place="vessel",
                caution="Identify the plant; do not taste. " + VENTILATE)  # fmt: skip
    if _is_hot(vessel.temperature_c):
        turns = 3 if vessel.extraction == "repeated" else 1
        steps = [fill]
        for turn in range(1, turns + 1):
            steps += _simmer(vessel, shelf, minutes // turns, turn, turns)
    else:
        steps = [fill, Step(key="extract", title="Leave it to soak", duration_min=minutes,
                            shortest_min=minutes, longest_min=minutes + 2 * DAY, place="vessel",
                            temperature_c=vessel.temperature_c, detail="Covered; stir when you "
                            "pass.")]  # fmt: skip
    return [
        *steps,
        Step(key="finish", title="Lift the bag out, share the extract", hands_min=10,
             detail=f"Press it out; make it up to {volume_words(vessel.volume_ml)} again; leave "
             "the sediment. Into marked, lidded pots or buckets."),
    ]  # fmt: skip


def _simmer(vessel: Vessel, shelf: Shelf, minutes: int, turn: int, turns: int) -> list[Step]:
    mark = "" if turns == 1 else f"-{turn}"
    named = "" if turns == 1 else f", {turn} of {turns}"
    warm = warming_min(vessel.volume_ml / 1000, vessel.temperature_c or 0, shelf, slowly=False)
    last = turn == turns
    return [
        Step(key=f"extract{mark}", title=f"Simmer{named}", temperature_c=vessel.temperature_c,
             duration_min=minutes, shortest_min=minutes, longest_min=minutes, warm_min=warm,
             heat=True, attended=True, place="vessel", stir_every_min=STIR_MIN,
             hands_min=0 if turn == 1 else 2, caution=f"{VENTILATE} {HOT}",
             detail="Below a simmer for flowers and leaves; barks and seeds may simmer."),
        Step(key=f"steep{mark}", title="Let it steep",
             shortest_min=0 if last else 16 * HOUR, longest_min=OVERNIGHT_MIN + 8 * HOUR,
             duration_min=None if last else 16 * HOUR, place="vessel",
             detail="Off the heat, lidded; overnight gives more."),
    ]  # fmt: skip


def _mordant_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    _, bath = bath_of_route(vessel, shelf)
    dissolve = "; ".join(said(figure) for figure in amounts.figures[1:])
    hot = _is_hot(bath.temperature_c)
    return [
        _wet_out(vessel),
        _fill(amounts),
        Step(key="dissolve", title=f"Dissolve the {bath.substance}", detail=dissolve,
             hands_min=MEASURE_MIN, place="vessel",
             caution=IRON if "iron" in bath.substance else POWDER),
        _enter(vessel),
        _hold(vessel, shelf, bath.duration_min, "Move the pieces gently every 10 min." if hot else
              "Move the pieces when you pass."),
        *([_cool()] if hot else []),
        Step(key="finish", title="Lift out", detail=bath.then,
             hands_min=LIFT_MIN + A_SWATCH_MIN * len(vessel.swatches)),
    ]  # fmt: skip


def _dye_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    steps = [_fill(amounts)]
    stuff = next((f for f in amounts.figures if f.role == "dye stuff"), None)
    if stuff and stuff.volume_ml:
        steps.append(
            Step(key="extract", title="Measure in the extract", hands_min=MEASURE_MIN,
                 place="vessel", detail=f"{volume_words(stuff.volume_ml)} of the extract of "
                 f"{lot_of(vessel, shelf).name}. {stuff.words and 'Stir it up first.'}")
        )  # fmt: skip
    elif stuff:
        steps.append(Step(key="extract", title="Lay in the dye stuff", detail=said(stuff),
                          hands_min=MEASURE_MIN, place="vessel"))  # fmt: skip
    if vessel.ph is not None and (vessel.dip or 1) == 1:
        steps.append(_set_ph(vessel, amounts))
    iron = next((f for f in amounts.figures if f.role == "iron"), None)
    if iron:
        steps.append(Step(key="iron", title="Add the iron", detail=said(iron), caution=IRON,
                          hands_min=2, place="vessel"))  # fmt: skip
    steps.append(_wet_out(vessel))
    minutes = vessel.duration_min or HOUR
    if vessel.process == "bundle-print":
        steps += _print_steps(vessel, shelf, minutes)
    else:
        hot = _is_hot(vessel.temperature_c)
        detail = ("Stir every 10 min; turn at half time. Do not let it boil." if hot
                  else "Move the pieces now and then.")  # fmt: skip
        hold = _hold(vessel, shelf, minutes, detail)
        if vessel.process == "sun-jar":
            hold = hold.model_copy(update={"title": "Stand it in the sun", "caution": SUN_JAR})
        steps += [_enter(vessel), hold]
        steps += [_cool(wants_ph=vessel.ph is not None)] if hot else []
    return [*steps, _rinse(vessel)]


def _print_steps(vessel: Vessel, shelf: Shelf, minutes: int) -> list[Step]:
    power = min((p.power_w for p in shelf.heat_places if not p.retired), default=WEAKEST_PLACE_W)
    water = steamer_water_l(min(power, WEAKEST_PLACE_W), minutes)
    roll = _enter(vessel, "Roll the bundles", ROLL_MIN)
    return [
        roll.model_copy(update={"asks": "rolls", "detail": f"{roll.detail} Lay the plants on, roll "
                                "tightly, tie; write down what lies where in which roll."}),
        Step(key="hold", title="Steam", temperature_c=vessel.temperature_c, duration_min=minutes,
             shortest_min=minutes, longest_min=minutes, warm_min=20, heat=True, attended=True,
             place="vessel", caution=STEAM, detail=f"{water:.1f} L of water in the steamer: it "
             "must not boil dry. Look at half time."),
        Step(key="cool", title="Cool in the roll", duration_min=10 * HOUR, shortest_min=8 * HOUR,
             longest_min=2 * DAY, place="vessel", detail="Overnight, unopened."),
    ]  # fmt: skip


def _set_ph(vessel: Vessel, amounts: VesselAmounts) -> Step:
    ph = vessel.ph or 7.0
    dose = amounts.ph.figure if amounts.ph else None
    given = f"{said(dose)} for plain water: give half" if dose else (
        "A little acid or alkali if need be")  # fmt: skip
    return Step(key="set-ph", title=f"Set the bath to pH {ph:g}", wants_ph=True, duration_min=15,
                shortest_min=15, longest_min=2 * HOUR, hands_min=SET_PH_MIN, place="vessel",
                caution=ACID if ph < 7 else ALKALI if ph > 7.5 else "",
                detail=f"{given}; wait 15 min, read again, then the rest.")  # fmt: skip


def _adjust_steps(vessel: Vessel, amounts: VesselAmounts) -> list[Step]:
    minutes = vessel.duration_min or 15
    return [
        _fill(amounts),
        _set_ph(vessel, amounts),
        _wet_out(vessel),
        _enter(vessel),
        Step(key="hold", title="Leave them in", temperature_c=20, wants_ph=True,
             duration_min=minutes, shortest_min=minutes, longest_min=2 * minutes, place="vessel",
             detail="Until the colour no longer moves."),
        _rinse(vessel),
    ]  # fmt: skip


def _again_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    hot = _is_hot(vessel.temperature_c)
    minutes = vessel.duration_min or HOUR
    return [
        Step(key="fill", title=f"Take the bath of {vessel.again} again", hands_min=FILL_MIN,
             place="vessel", detail=f"{said(amounts.figures[0])}; top it up so that the pieces "
             "move freely, and log what you add.", caution=IRON if vessel.has_iron else ""),
        _wet_out(vessel),
        _enter(vessel),
        _hold(vessel, shelf, minutes, "Stir every 10 min. Do not let it boil." if hot else
              "Move the pieces when you pass."),
        *([_cool()] if hot else []),
        _rinse(vessel),
    ]  # fmt: skip


def _wash_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    soap = amounts.figures[-1]
    return [
        _fill(amounts),
        Step(key="dissolve", title="Put in the soap", detail=said(soap), hands_min=2,
             place="vessel"),
        _enter(vessel),
        _hold(vessel, shelf, vessel.duration_min or 30, "Move the pieces gently now and then.",
              "Wash"),
        _rinse(vessel),
    ]  # fmt: skip


def _iron_mordant_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    return [
        _wet_out(vessel),
        _fill(amounts),
        Step(key="stock", title="Measure in the iron", detail=said(amounts.figures[-1]),
             caution=IRON, hands_min=MEASURE_MIN, place="vessel"),
        _enter(vessel),
        _hold(vessel, shelf, vessel.duration_min or HOUR, "Move the pieces gently every 10 min."),
        _cool(),
        Step(key="finish", title="Lift out", detail="Rinse well; keep apart from alum pieces.",
             hands_min=LIFT_MIN + A_SWATCH_MIN * len(vessel.swatches)),
    ]  # fmt: skip


def _iron_steps(vessel: Vessel, amounts: VesselAmounts) -> list[Step]:
    return [
        _wet_out(vessel),
        _fill(amounts),
        Step(key="stock", title="Measure in the iron", detail=said(amounts.figures[-1]),
             caution=IRON, hands_min=MEASURE_MIN, place="vessel"),
        Step(key="dip", title="Dip and watch by the second", temperature_c=20, asks="iron watch",
             detail=f"{_count(vessel)} Cotton, linen and silk under 60 s, wool up to 5 min. Pull "
             "early: it darkens further as it dries.", caution=IRON, place="vessel",
             hands_min=5 + PULL_MIN * len(vessel.swatches)),
        _rinse(vessel, "Rinse at once"),
    ]  # fmt: skip


def _count(vessel: Vessel) -> str:
    goes = "goes" if len(vessel.swatches) == 1 else "go"
    return f"{counted(len(vessel.swatches), 'piece')} {goes} in: count them by their codes."


def said(figure: Figure) -> str:
    """An amount as it is read out at the bench."""
    if figure.stock_percent and figure.volume_ml is not None:
        return f"{figure.volume_ml:.1f} mL of the {figure.stock_percent:g} % {figure.name} stock"
    if figure.grams is not None:
        return f"{figure.grams:.2f} g {figure.name}"
    if figure.volume_ml is not None:
        return f"{volume_words(figure.volume_ml)} {figure.name}"
    return f"{figure.name}, {figure.words}"
