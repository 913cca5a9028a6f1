"""Steps that many baths have. Times, temperatures and hands are common practice."""

from zesty_grid.core.dye.step import Step
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.amounts import VesselAmounts
from zesty_grid.core.weigh.cautions import FELT, HOT, VENTILATE
from zesty_grid.core.weigh.hands import A_SWATCH_MIN, ENTER_MIN, FILL_MIN, LIFT_MIN, STIR_EVERY_MIN
from zesty_grid.core.weigh.heat import PLACE_EFFICIENCY, ROOM_C, warming_j
from zesty_grid.core.weigh.working import Figure, counted, volume_words

COLD_C = 30.0
HOUR = 60
DAY = 24 * HOUR
# Minutes of hands, beside those of every bath (`weigh/hands.py`); common practice.
SET_PH_MIN, ROLL_MIN, PULL_MIN = 4.0, 4.0, 0.75
SLOW_C_PER_MIN = 1.0
OVERNIGHT_MIN = 16 * HOUR
WEAKEST_PLACE_W = 1000.0


def warming_min(litres: float, temperature_c: float, shelf: Shelf, slowly: bool) -> int:
    """Minutes to come to temperature on the weakest heat place; at most 1 °C/min with pieces in."""
    rise_c = max(0.0, temperature_c - ROOM_C)
    power_w = min((p.power_w for p in shelf.heat_places if not p.retired), default=WEAKEST_PLACE_W)
    by_power = warming_j(litres, rise_c) / (power_w * PLACE_EFFICIENCY) / 60 if litres > 0 else 0.0
    by_fibre = rise_c / SLOW_C_PER_MIN if slowly else 0.0
    return round(max(by_power, by_fibre))


def is_hot(temperature_c: float | None) -> bool:
    return (temperature_c or 0) > COLD_C


def fill(amounts: VesselAmounts) -> Step:
    water = next((f for f in amounts.figures if f.role == "water"), None)
    if water is None:
        liquor = next(f for f in amounts.figures if f.role == "dye liquor")
        return Step(
            key="fill",
            title="Take over the bath",
            detail=f"{said(liquor)}. Stir it up first, and log what you put in.",
            hands_min=FILL_MIN,
            place="vessel",
        )
    return Step(key="fill", title="Fill the vessel", detail=said(water), hands_min=FILL_MIN, place="vessel")


def wet_out(vessel: Vessel) -> Step:
    return Step(
        key="wet-out",
        title="Wet out the pieces",
        duration_min=30,
        shortest_min=20,
        longest_min=60,
        place="iron bowl" if vessel.has_iron else "bowl",
        detail="Plain water, until the pieces sink. Keep iron apart from alum: each has its own "
        "bowl. Pieces that come wet from the bath before need no soaking.",
    )


def enter(vessel: Vessel, title: str = "Enter the pieces", each_min: float = A_SWATCH_MIN) -> Step:
    return Step(
        key="enter",
        title=title,
        detail=counted_in(vessel),
        asks="loading",
        place="vessel",
        hands_min=ENTER_MIN + each_min * len(vessel.swatches),
    )


def warm_and_hold(vessel: Vessel, shelf: Shelf, minutes: int, detail: str, title: str = "") -> Step:
    """Warm and hold at a temperature, or leave to soak where it is cold."""
    temperature_c = vessel.temperature_c
    if not is_hot(temperature_c):
        return Step(
            key="hold",
            title=title or "Leave it to soak",
            temperature_c=temperature_c,
            duration_min=minutes,
            shortest_min=minutes,
            longest_min=max(minutes + 60, minutes * 2),
            detail=detail,
            place="vessel",
            wants_ph=vessel.ph is not None,
        )
    warm = warming_min(vessel.volume_ml / 1000, temperature_c or 0, shelf, slowly=True)
    return Step(
        key="hold",
        title=title or "Warm slowly and hold",
        temperature_c=temperature_c,
        duration_min=minutes,
        shortest_min=minutes,
        longest_min=minutes,
        warm_min=warm,
        heat=True,
        attended=True,
        place="vessel",
        stir_every_min=STIR_EVERY_MIN,
        wants_ph=vessel.ph is not None,
        detail=detail,
        caution=f"{VENTILATE} {HOT}",
    )


def cool(shortest_min: int = HOUR, wants_ph: bool = False) -> Step:
    return Step(
        key="cool",
        title="Cool in the bath",
        duration_min=shortest_min,
        shortest_min=shortest_min,
        longest_min=OVERNIGHT_MIN,
        place="vessel",
        wants_ph=wants_ph,
        caution=FELT,
        detail="Off the heat, to room temperature; overnight is well.",
    )


def rinse(vessel: Vessel, title: str = "Rinse until the water is clear") -> Step:
    return Step(
        key="rinse",
        title=title,
        detail="Count the rinses; look how much bleeds.",
        hands_min=LIFT_MIN + A_SWATCH_MIN * len(vessel.swatches),
        asks="rinses",
        wants_ph=vessel.ph is not None,
    )


def drying(vessel: Vessel, goes_on: set[str]) -> list[Step]:
    """Drying, for the pieces for which this was the last bath."""
    last = [key for key in vessel.swatches if key not in goes_on]
    if not last:
        return []
    onward = len(vessel.swatches) - len(last)
    stay = f" {onward} stay wet for their next bath." if onward else ""
    return [
        Step(
            key="dry",
            title="Hang to dry, out of the sun",
            place="line",
            asks="hand",
            hands_min=1 + 0.25 * len(last),
            longest_min=None,
            detail=f"Flat or hung.{stay} Then a day's rest before reading; note the hand when dry.",
        )
    ]


def counted_in(vessel: Vessel) -> str:
    goes = "goes" if len(vessel.swatches) == 1 else "go"
    return f"{counted(len(vessel.swatches), 'piece')} {goes} in: count them by their codes."


def said(figure: Figure) -> str:
    """An amount as it is read out at the bench, with what it is made of or counts."""
    plain = _amount(figure)
    return f"{plain} ({figure.spelled})" if figure.spelled else plain


def _amount(figure: Figure) -> str:
    if figure.stock_percent and figure.volume_ml is not None:
        return f"{figure.volume_ml:.1f} mL of the {figure.stock_percent:g} % {figure.name} stock"
    if figure.grams is not None:
        spoons = f" ({figure.spoons})" if figure.spoons else ""
        return f"{figure.grams:.2f} g {figure.name}{spoons}"
    if figure.volume_ml is not None:
        return f"{volume_words(figure.volume_ml)} {figure.name}"
    return f"{figure.name}, {figure.words}"
