"""Printing cloth with plants: wet out, lay, hammer or roll, bind, steam, cool, unroll."""

from zesty_grid.core.dye.step import Step
from zesty_grid.core.dye.step_parts import DAY, HOUR, ROLL_MIN, WEAKEST_PLACE_W, enter, said, wet_out
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.amounts import VesselAmounts
from zesty_grid.core.weigh.cautions import COPPER, HAMMER, IRON, POISONOUS_RAW, STEAM, VENTILATE, melting
from zesty_grid.core.weigh.hands import A_SWATCH_MIN, FILL_MIN, MEASURE_MIN
from zesty_grid.core.weigh.heat import steamer_water_l
from zesty_grid.core.weigh.working import Figure, counted

LAY_MIN, HAMMER_MIN, BIND_MIN = 6.0, 8.0, 2.0
LOOK_AT_WATER_MIN = 30


def before_rolling(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    """Plants made ready, cloth wetted, what lies where laid, and hammered where it is."""
    plants = [f for f in amounts.figures if f.role == "dye stuff" and not f.moment]
    dipped = [f for f in amounts.figures if f.role == "addition" and not f.moment]
    steps = []
    if plants:
        steps.append(_make_ready(plants, dipped, shelf))
    steps.append(wet_out(vessel))
    if vessel.sources:
        steps.append(
            Step(
                key="lay",
                title="Lay what lies where",
                asks="map",
                place="bench",
                hands_min=LAY_MIN * len(vessel.swatches),
                detail="Each source in its zone, face down for the underside; draw the map, or "
                "take a picture of it, before anything is rolled up.",
            )
        )
    if vessel.hammered:
        steps.append(
            Step(
                key="hammer",
                title="Hammer what is hammered",
                place="bench",
                hands_min=HAMMER_MIN * len(vessel.swatches),
                caution=HAMMER,
                detail="Between paper or film, from the middle outwards, until the sap is "
                "through; lift the plants off.",
            )
        )
    return steps


def rolled_up(vessel: Vessel) -> list[Step]:
    """Cloths on one another, rolled and bound."""
    rolling = vessel.rolling
    on = f" on {rolling.rolled_on}" if rolling and rolling.rolled_on != "nothing" else ""
    roll = enter(vessel, "Roll the bundles", ROLL_MIN)
    layers = "; ".join(f"roll {i}: {', '.join(codes)}" for i, codes in enumerate(vessel.rolls, 1))
    named = f" {layers}." if vessel.sources and layers else ""
    facing = " Face to face, the first lowest." if rolling and vessel.sources and rolling.cloths_per_roll > 1 else ""
    wrapped = rolling.wrapped_in if rolling and vessel.sources else "nothing"
    bound = rolling.bound_with if rolling and vessel.sources else "string"
    wrap = f", wrapped in {wrapped}" if wrapped != "nothing" else ""
    return [
        roll.model_copy(
            update={"asks": "rolls", "detail": f"{roll.detail}{named}{facing} Roll tightly{on}, without a crease."}
        ),
        Step(
            key="bind",
            title="Bind the rolls",
            place="bench",
            hands_min=BIND_MIN * max(1, len(vessel.rolls)),
            detail=f"With {bound}{wrap}; tight and close: what does not touch does not print.",
            caution=melting(vessel),
        ),
    ]


def steamed(vessel: Vessel, shelf: Shelf, minutes: int) -> list[Step]:
    """The steamer with the water that it needs, its reminders, and the night in the roll."""
    power = min((p.power_w for p in shelf.heat_places if not p.retired), default=WEAKEST_PLACE_W)
    water = steamer_water_l(min(power, WEAKEST_PLACE_W), minutes)
    caution = f"{STEAM} {melting(vessel)}".strip()
    return [
        Step(
            key="steamer",
            title="Fill the steamer",
            hands_min=FILL_MIN,
            place="vessel",
            detail=f"{water:.1f} L of water, below the rack; lid on.",
        ),
        Step(
            key="hold",
            title="Steam",
            temperature_c=vessel.temperature_c,
            duration_min=minutes,
            shortest_min=minutes,
            longest_min=minutes,
            warm_min=20,
            heat=True,
            attended=True,
            place="vessel",
            caution=caution,
            stir_every_min=LOOK_AT_WATER_MIN,
            detail=f"{water:.1f} L of water in the steamer: it must not boil dry. Look every "
            f"{LOOK_AT_WATER_MIN} min and fill up with hot water.",
        ),
        Step(
            key="cool",
            title="Cool in the roll",
            duration_min=10 * HOUR,
            shortest_min=8 * HOUR,
            longest_min=2 * DAY,
            place="vessel",
            detail="Overnight, unopened.",
        ),
    ]


def unrolled(vessel: Vessel) -> Step:
    count = counted(max(1, len(vessel.rolls)), "roll")
    return Step(
        key="unroll",
        title="Unroll",
        place="bench",
        hands_min=ROLL_MIN + A_SWATCH_MIN * len(vessel.swatches),
        detail=f"{count}; lift the plants off. Take a picture beside the map: what printed where, "
        "and what came through to the next layer.",
    )


def _make_ready(plants: list[Figure], dipped: list[Figure], shelf: Shelf) -> Step:
    names = {f.name for f in plants}
    lots = [lot for lot in shelf.dye_lots if lot.name in names]
    ways = " ".join(f.name.lower() for f in dipped)
    cautions = [
        f"Identify the plant; do not taste. {VENTILATE}",
        POISONOUS_RAW if any("poisonous raw" in lot.known_for for lot in lots) else "",
        IRON if "iron" in ways else "",
        COPPER if "copper" in ways else "",
    ]
    return Step(
        key="plants",
        title="Make the plants ready",
        hands_min=MEASURE_MIN,
        place="bench",
        detail="; ".join(said(f) for f in (*plants, *dipped)) + ".",
        caution=" ".join(one for one in cautions if one),
    )
