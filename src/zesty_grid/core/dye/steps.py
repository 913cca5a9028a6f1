"""What is done at each vessel, in order. Times, temperatures and hands are common practice."""

from zesty_grid.core.dye.coating import coats_of
from zesty_grid.core.dye.extracting import extract_steps
from zesty_grid.core.dye.folding_steps import folded
from zesty_grid.core.dye.holding import heated_again_and_left, held, put_in_before
from zesty_grid.core.dye.preparing import scour_of
from zesty_grid.core.dye.printing_steps import before_rolling, rolled_up, steamed, unrolled
from zesty_grid.core.dye.step import Step
from zesty_grid.core.dye.step_parts import (
    HOUR,
    PULL_MIN,
    SET_PH_MIN,
    cool,
    counted_in,
    drying,
    enter,
    fill,
    is_hot,
    rinse,
    said,
    warm_and_hold,
    wet_out,
)
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.plan.water_baths import WaterBath
from zesty_grid.core.shelf.items import FibreClass, MordantBath
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.amounts import VesselAmounts, bath_of_route, lot_of
from zesty_grid.core.weigh.cautions import ACID, ALKALI, FELT, IRON, POWDER, SUN_JAR
from zesty_grid.core.weigh.dye_stuff import STRAIGHT_IN
from zesty_grid.core.weigh.extraction import ExtractShare
from zesty_grid.core.weigh.hands import A_SWATCH_MIN, FILL_MIN, LIFT_MIN, MEASURE_MIN
from zesty_grid.core.weigh.working import Figure, volume_words

LONG_IRON_MIN = 10
TRY_MIN = 15.0
PASTE = "Stir it to a paste with a little warm water first."


def steps_of(
    vessel: Vessel,
    amounts: VesselAmounts,
    shelf: Shelf,
    goes_on: tuple[str, ...] = (),
    classes: frozenset[FibreClass] = frozenset(),
    water_bath: WaterBath | None = None,
    shares: tuple[ExtractShare, ...] = (),
) -> list[Step]:
    """The ordered steps at one vessel.

    `goes_on` holds the swatches that have another bath before them: they are not dried. `classes`
    are those of the fibres in it: a caution that does not concern them is not said. `shares` are
    what an extract is put by for.
    """
    steps = _steps(vessel, amounts, shelf, goes_on, shares)
    if water_bath:
        steps = [_in_water(step, vessel, water_bath) if step.heat else step for step in steps]
    if "protein" in classes:
        return steps
    return [step.model_copy(update={"caution": ""}) if step.caution == FELT else step for step in steps]


def _in_water(step: Step, vessel: Vessel, bath: WaterBath) -> Step:
    """Heating a jar in a pot of water, with the others that stand in it."""
    others = [name for name in bath.vessels if name != vessel.name]
    beside = f" with {', '.join(others)}" if others else ""
    pot = f"{bath.pot_name}: {bath.water_l:.1f} L of water around them" if bath.pot else "a pot"
    return step.model_copy(
        update={
            "title": step.title.replace("Warm slowly", "Warm the water slowly"),
            "detail": f"In {pot}{beside}; a cloth under the jars, lids loose. {step.detail}",
            "caution": f"{SUN_JAR} {step.caution}",
        }
    )


def _steps(
    vessel: Vessel, amounts: VesselAmounts, shelf: Shelf, goes_on: tuple[str, ...], shares: tuple[ExtractShare, ...]
) -> list[Step]:
    if vessel.bath == "scour":
        return _scour_steps(vessel, amounts, shelf)
    if vessel.bath == "extract":
        return extract_steps(vessel, amounts, shelf, shares)
    if vessel.again is not None:
        return _again_steps(vessel, amounts, shelf) + drying(vessel, set(goes_on))
    if vessel.bath == "wash":
        return _wash_steps(vessel, amounts, shelf) + drying(vessel, set(goes_on))
    if vessel.route is not None:
        return _mordant_steps(vessel, amounts, shelf)
    if vessel.bath == "iron mordant" and vessel.treatment is None:
        return _iron_mordant_steps(vessel, amounts, shelf)
    if vessel.bath in ("dye", "overdye"):
        steps = _dye_steps(vessel, amounts, shelf)
    elif vessel.bath == "adjust":
        steps = _adjust_steps(vessel, amounts, shelf)
    elif vessel.bath == "iron mordant" and vessel.treatment is not None:
        # On cloth that is dyed already it is the last bath.
        steps = _iron_mordant_steps(vessel, amounts, shelf)
    elif vessel.bath == "iron" and vessel.times_in:
        steps = [
            wet_out(vessel),
            fill(amounts),
            _measure_iron(amounts),
            *put_in_before(vessel, amounts, shelf, "first"),
            *folded(vessel, shelf, vessel.duration_min or 1),
            rinse(vessel, "Rinse at once"),
        ]
    elif _is_long_iron(vessel):
        steps = _long_iron_steps(vessel, amounts, shelf)
    else:
        steps = _iron_steps(vessel, amounts, shelf)
    return steps + drying(vessel, set(goes_on))


def _scour_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    scour = scour_of(vessel)
    put_in = "; ".join(said(figure) for figure in amounts.figures[1:])
    gently = "Move the pieces little, and do not rub."
    hold = warm_and_hold(vessel, shelf, scour.duration_min, gently, "Warm and hold")
    return [
        fill(amounts),
        Step(
            key="dissolve",
            title="Put in the detergent",
            detail=put_in,
            hands_min=2,
            place="vessel",
            caution=POWDER if scour.soda else "",
        ),
        enter(vessel),
        hold,
        cool(30),
        Step(
            key="finish",
            title="Lift out and rinse",
            place="bench",
            hands_min=LIFT_MIN + A_SWATCH_MIN * len(vessel.swatches),
            detail="In water as warm as the pieces, until it is clear. Go on wet, or dry and keep.",
        ),
    ]


def _unknown(bath: MordantBath, amounts: VesselAmounts) -> list[Step]:
    """A liquor of unknown strength is tried before the pieces see it."""
    dose = next(f for f in amounts.figures if f.role == bath.kind)
    if bath.is_iron and dose.grams is None and dose.volume_ml is None:
        return [
            Step(
                key="try",
                title="Try it on a strip first",
                hands_min=TRY_MIN,
                caution=IRON,
                detail=f"A strip of the same cloth, weighed: 5 mL of {bath.substance} in its "
                "water, then 5 mL more, until it is dark enough. Write mL for 100 g at the "
                "substance on the Shelf: from then on it is weighed out by that.",
            )
        ]
    return []


def _mordant_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    _, bath = bath_of_route(vessel, shelf)
    dissolve = "; ".join(said(f) for f in amounts.figures[1:] if not f.moment)
    hot = is_hot(vessel.temperature_c)
    if bath.coats > 1:
        return [fill(amounts), *_unknown(bath, amounts), *coats_of(vessel, bath, dissolve)]
    return [
        wet_out(vessel),
        fill(amounts),
        *_unknown(bath, amounts),
        Step(
            key="dissolve",
            title=f"Dissolve the {bath.substance}",
            detail=dissolve,
            hands_min=MEASURE_MIN,
            place="vessel",
            caution=IRON if "iron" in bath.substance else POWDER,
        ),
        *put_in_before(vessel, amounts, shelf, "first"),
        enter(vessel),
        *held(
            vessel,
            amounts,
            shelf,
            vessel.duration_min or bath.duration_min,
            "Move the pieces gently every 10 min." if hot else "Move the pieces when you pass.",
        ),
        *([cool()] if hot else []),
        Step(
            key="finish", title="Lift out", detail=bath.then, hands_min=LIFT_MIN + A_SWATCH_MIN * len(vessel.swatches)
        ),
    ]


def _dye_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    if vessel.process in ("bundle-print", "hammered"):
        return _print_steps(vessel, amounts, shelf)
    steps = [fill(amounts)]
    stuff = next((f for f in amounts.figures if f.role == "dye stuff" and not f.moment), None)
    if stuff and stuff.words == STRAIGHT_IN:
        steps.append(_straight_in(stuff))
    elif stuff and stuff.volume_ml:
        steps.append(
            Step(
                key="extract",
                title="Measure in the extract",
                hands_min=MEASURE_MIN,
                place="vessel",
                detail=f"{volume_words(stuff.volume_ml)} of the extract of "
                f"{lot_of(vessel, shelf).name}. {stuff.words and 'Stir it up first.'}",
            )
        )
    elif stuff:
        steps.append(
            Step(key="extract", title="Lay in the dye stuff", detail=said(stuff), hands_min=MEASURE_MIN, place="vessel")
        )
    steps += put_in_before(vessel, amounts, shelf, "first")
    if vessel.ph is not None and vessel.has_own_liquor:
        steps.append(_set_ph(vessel, amounts))
    steps += put_in_before(vessel, amounts, shelf, "after the pH")
    iron = next((f for f in amounts.figures if f.role == "iron"), None)
    if iron:
        steps.append(
            Step(key="iron", title="Add the iron", detail=said(iron), caution=IRON, hands_min=2, place="vessel")
        )
    steps.append(wet_out(vessel))
    minutes = vessel.duration_min or HOUR
    if vessel.process == "rolled":
        steps = [*steps[:-1], *before_rolling(vessel, _only_print(amounts), shelf)]
        steps += _rolled_in_dye(vessel, amounts, shelf, minutes)
    elif vessel.times_in:
        steps += folded(vessel, shelf, minutes)
    else:
        hot = is_hot(vessel.temperature_c)
        detail = "Stir every 10 min; turn at half time. Do not let it boil." if hot else "Move the pieces now and then."
        holding = held(vessel, amounts, shelf, minutes, detail)
        if vessel.process == "sun-jar":
            in_sun = {"title": "Stand it in the sun", "caution": SUN_JAR}
            holding = [s.model_copy(update=in_sun if s.key == "hold" else {}) for s in holding]
        steps += [enter(vessel), *holding, *heated_again_and_left(vessel, amounts, shelf)]
    return [*steps, rinse(vessel)]


def _print_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    """In the order of the work: the cloth is soaked, laid, rolled, bound, and only then steamed."""
    steps = []
    if vessel.ph is not None:
        steps = [fill(amounts), _set_ph(vessel, amounts)]
    steps += put_in_before(vessel, amounts, shelf, "first")
    steps += before_rolling(vessel, amounts, shelf)
    if vessel.process == "hammered":
        lay = enter(vessel, "All cloths are printed")
        return [*steps, lay, rinse(vessel, "Brush off, rinse once")]
    minutes = vessel.duration_min or HOUR
    return [*steps, *rolled_up(vessel), *steamed(vessel, shelf, minutes), unrolled(vessel), rinse(vessel)]


def _only_print(amounts: VesselAmounts) -> VesselAmounts:
    """Without the dye of the bath, which is in the pot already."""
    figures = [f for f in amounts.figures if f.role != "dye stuff" or f.grams is None]
    return amounts.model_copy(update={"figures": tuple(figures)})


def _rolled_in_dye(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf, minutes: int) -> list[Step]:
    """The rolls lie in a dye bath, which dyes their outside too."""
    detail = "Under the liquor, a plate on top; turn the rolls every 10 min."
    return [
        *rolled_up(vessel),
        *held(vessel, amounts, shelf, minutes, detail),
        *heated_again_and_left(vessel, amounts, shelf),
        unrolled(vessel),
    ]


def _straight_in(stuff: Figure) -> Step:
    dry = stuff.volume_ml is None
    return Step(
        key="extract",
        title="Measure in the dye",
        hands_min=MEASURE_MIN,
        place="vessel",
        detail=f"{said(stuff)}. {PASTE if dry else 'Shake or stir it first.'}",
        caution=POWDER if dry else "",
    )


def _set_ph(vessel: Vessel, amounts: VesselAmounts) -> Step:
    ph = vessel.ph or 7.0
    dose = amounts.ph.figure if amounts.ph else None
    given = f"{said(dose)} for plain water: give half" if dose else ("A little acid or alkali if need be")
    return Step(
        key="set-ph",
        title=f"Set the bath to pH {ph:g}",
        wants_ph=True,
        duration_min=15,
        shortest_min=15,
        longest_min=2 * HOUR,
        hands_min=SET_PH_MIN,
        place="vessel",
        caution=ACID if ph < 7 else ALKALI if ph > 7.5 else "",
        detail=f"{given}; wait 15 min, read again, then the rest.",
    )


def _adjust_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    minutes = vessel.duration_min or 15
    soak = Step(
        key="hold",
        title="Leave them in",
        temperature_c=vessel.temperature_c or 20,
        wants_ph=True,
        duration_min=minutes,
        shortest_min=minutes,
        longest_min=2 * minutes,
        place="vessel",
        detail="Until the colour no longer moves.",
    )
    hot = is_hot(vessel.temperature_c)
    inside = any(one.after_min is not None for one in vessel.additions)
    return [
        fill(amounts),
        *put_in_before(vessel, amounts, shelf, "first"),
        _set_ph(vessel, amounts),
        *put_in_before(vessel, amounts, shelf, "after the pH"),
        wet_out(vessel),
        enter(vessel),
        *(held(vessel, amounts, shelf, minutes, "Until the colour no longer moves.") if hot or inside else [soak]),
        rinse(vessel),
    ]


def _again_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    hot = is_hot(vessel.temperature_c)
    minutes = vessel.duration_min or HOUR
    return [
        Step(
            key="fill",
            title=f"Take the bath of {vessel.again} again",
            hands_min=FILL_MIN,
            place="vessel",
            detail=f"{said(amounts.figures[0])}; top it up so that the pieces move freely, and log what you add.",
            caution=IRON if vessel.has_iron else "",
        ),
        wet_out(vessel),
        enter(vessel),
        warm_and_hold(
            vessel,
            shelf,
            minutes,
            "Stir every 10 min. Do not let it boil." if hot else "Move the pieces when you pass.",
        ),
        *([cool()] if hot else []),
        rinse(vessel),
    ]


def _wash_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    soap = amounts.figures[-1]
    return [
        fill(amounts),
        Step(key="dissolve", title="Put in the soap", detail=said(soap), hands_min=2, place="vessel"),
        enter(vessel),
        warm_and_hold(vessel, shelf, vessel.duration_min or 30, "Move the pieces gently now and then.", "Wash"),
        rinse(vessel),
    ]


def _measure_iron(amounts: VesselAmounts) -> Step:
    iron = next(f for f in amounts.figures if f.role == "iron")
    return Step(
        key="stock", title="Measure in the iron", detail=said(iron), caution=IRON, hands_min=MEASURE_MIN, place="vessel"
    )


def _iron_mordant_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    return [
        wet_out(vessel),
        fill(amounts),
        _measure_iron(amounts),
        enter(vessel),
        warm_and_hold(vessel, shelf, vessel.duration_min or HOUR, "Move the pieces gently every 10 min."),
        cool(),
        Step(
            key="finish",
            title="Lift out",
            detail="Rinse well; keep apart from alum pieces.",
            hands_min=LIFT_MIN + A_SWATCH_MIN * len(vessel.swatches),
        ),
    ]


def _is_long_iron(vessel: Vessel) -> bool:
    """Nobody watches it by the second: it is warm, or longer than a dip."""
    if vessel.treatment is not None or vessel.seconds is not None:
        return False
    return is_hot(vessel.temperature_c) or (vessel.duration_min or 0) > LONG_IRON_MIN


def _long_iron_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    return [
        wet_out(vessel),
        fill(amounts),
        _measure_iron(amounts),
        *put_in_before(vessel, amounts, shelf, "first"),
        enter(vessel),
        *held(
            vessel,
            amounts,
            shelf,
            vessel.duration_min or HOUR,
            "Move the pieces gently; pull them sooner if they are dark enough.",
        ),
        rinse(vessel, "Rinse at once"),
    ]


def _iron_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    return [
        wet_out(vessel),
        fill(amounts),
        _measure_iron(amounts),
        *put_in_before(vessel, amounts, shelf, "first"),
        Step(
            key="dip",
            title="Dip and watch by the second",
            temperature_c=20,
            asks="iron watch",
            detail=f"{counted_in(vessel)} Cotton, linen and silk under 60 s, wool up to 5 min. "
            "Pull early: it darkens further as it dries.",
            caution=IRON,
            place="vessel",
            hands_min=5 + PULL_MIN * len(vessel.swatches),
        ),
        rinse(vessel, "Rinse at once"),
    ]
