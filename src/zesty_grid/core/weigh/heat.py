"""Energy, water and time of a bath, and water that a steamer boils away.

Warming is mass × specific heat × rise. A held bath loses heat through its walls, its lid or its
surface: convection and radiation by an overall coefficient, and evaporation by the correlation of
the ASHRAE Handbook, HVAC Applications (indoor pools; from memory) with the saturation pressure of
Magnus (WMO Guide to Instruments, CIMO). All are estimates, good to about a third.
"""

from math import exp, pi

from zesty_grid.core.frozen import Frozen

WATER_J_KG_K = 4186.0
EVAPORATION_J_KG = 2.257e6  # at 100 °C; CRC Handbook of Chemistry and Physics
J_KWH = 3.6e6
ROOM_C = 20.0
ROOM_HUMIDITY = 0.5
WALL_W_M2_K = 10.0
LID_W_M2_K = 10.0
SURFACE_W_M2_K = 10.0
LID_LEAKS = 0.1
PLACE_EFFICIENCY = 0.7
STEAMER_SPARE = 1.5


class BathHeat(Frozen):
    """What a bath needs: water, energy to warm and to hold, and what boils away."""

    water_l: float
    warm_kwh: float
    hold_kwh: float
    evaporated_l: float
    steam_water_l: float | None
    working: str


def warming_j(litres: float, rise_c: float) -> float:
    """Energy to warm so much water, in J."""
    if litres <= 0:
        raise ValueError("a bath holds more than nothing")
    return litres * WATER_J_KG_K * max(0.0, rise_c)


def saturation_pressure_kpa(temperature_c: float) -> float:
    """Magnus' formula over water: 0.6112 exp(17.62 t / (243.12 + t)) kPa."""
    return 0.6112 * exp(17.62 * temperature_c / (243.12 + temperature_c))


def evaporation_kg_s_m2(temperature_c: float) -> float:
    """Water that leaves an open surface in still room air."""
    drop_kpa = saturation_pressure_kpa(temperature_c) - ROOM_HUMIDITY * saturation_pressure_kpa(ROOM_C)
    return max(0.0, drop_kpa) * 0.089 / (EVAPORATION_J_KG / 1000)


def pot_areas_m2(litres: float) -> tuple[float, float]:
    """Open surface and wetted wall with bottom of a pot that is as deep as it is wide."""
    diameter_m = (4 * litres / 1000 / pi) ** (1 / 3)
    surface = pi * diameter_m**2 / 4
    return surface, pi * diameter_m**2 + surface


def holding_w(litres: float, temperature_c: float, lidded: bool) -> float:
    """Heat lost each second by a bath held at a temperature."""
    surface, wall = pot_areas_m2(litres)
    rise = max(0.0, temperature_c - ROOM_C)
    share = LID_LEAKS if lidded else 1.0
    wet = evaporation_kg_s_m2(temperature_c) * EVAPORATION_J_KG * surface * share
    return (wall * WALL_W_M2_K + surface * (LID_W_M2_K if lidded else SURFACE_W_M2_K)) * rise + wet


def heat_of_bath(
    litres: float, temperature_c: float | None, duration_min: int, lidded: bool, reheats: int = 0
) -> BathHeat:
    """Water and energy for one bath, warmed anew `reheats` times; a cold one needs only water."""
    goal = ROOM_C if temperature_c is None else temperature_c
    if goal <= ROOM_C + 5:
        return BathHeat(
            water_l=litres,
            warm_kwh=0,
            hold_kwh=0,
            evaporated_l=0,
            steam_water_l=None,
            working="At room temperature: no heat.",
        )
    times = 1 + reheats
    warm = times * warming_j(litres, goal - ROOM_C) / J_KWH / PLACE_EFFICIENCY
    watts = holding_w(litres, goal, lidded)
    duration_min *= times
    hold = watts * duration_min * 60 / J_KWH / PLACE_EFFICIENCY
    surface, _ = pot_areas_m2(litres)
    gone = evaporation_kg_s_m2(goal) * surface * duration_min * 60 * (LID_LEAKS if lidded else 1)
    lid = "lidded" if lidded else "open"
    return BathHeat(
        water_l=litres,
        warm_kwh=warm,
        hold_kwh=hold,
        evaporated_l=gone,
        steam_water_l=None,
        working=(f"{times} × " if reheats else "")
        + f"{litres:.2f} L × 4.186 kJ/(kg K) × {goal - ROOM_C:.0f} K ÷ {PLACE_EFFICIENCY:.0%}"
        f" = {warm:.2f} kWh to warm; {watts:.0f} W lost, {lid}, for {duration_min} min ÷ "
        f"{PLACE_EFFICIENCY:.0%} = {hold:.2f} kWh to hold",
    )


def steamer_water_l(power_w: float, duration_min: float) -> float:
    """Water so that a steamer on so much heat does not boil dry: all heat makes steam, half more.

    Raises ValueError for no heat or no time.
    """
    if power_w <= 0 or duration_min <= 0:
        raise ValueError("power and time must be above 0")
    return power_w * PLACE_EFFICIENCY * duration_min * 60 / EVAPORATION_J_KG * STEAMER_SPARE


def heat_of_steaming(fibre_l: float, power_w: float, duration_min: int) -> BathHeat:
    """A bundle print: the steamer's water, warmed and then boiled at a low setting."""
    water = steamer_water_l(power_w, duration_min)
    warm = warming_j(water + fibre_l, 100 - ROOM_C) / J_KWH / PLACE_EFFICIENCY
    hold = power_w * duration_min * 60 / J_KWH
    boiled = water / STEAMER_SPARE
    return BathHeat(
        water_l=water + fibre_l,
        warm_kwh=warm,
        hold_kwh=hold,
        evaporated_l=boiled,
        steam_water_l=water,
        working=f"{power_w:.0f} W × {PLACE_EFFICIENCY:.0%} × {duration_min} min ÷ 2257 kJ/kg = "
        f"{boiled:.1f} L boil away; × {STEAMER_SPARE:g} to be safe = {water:.1f} L",
    )
