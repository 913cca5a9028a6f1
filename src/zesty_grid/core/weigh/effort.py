"""What all baths together cost in water, energy, hours and waste, hot beside cold."""

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessel import HOT_C, Vessel
from zesty_grid.core.plan.water_baths import water_baths
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.extraction import Extraction
from zesty_grid.core.weigh.hands import (
    A_STIR_MIN,
    A_SWATCH_MIN,
    ENTER_MIN,
    FILL_MIN,
    LIFT_MIN,
    MEASURE_MIN,
    STIR_EVERY_MIN,
)
from zesty_grid.core.weigh.heat import BathHeat, heat_of_bath, heat_of_steaming
from zesty_grid.core.weigh.working import counted

START_MIN = FILL_MIN + MEASURE_MIN + ENTER_MIN
MOST_STIRS = 12
STEAM_POWER_W = 1000.0
RINSE_L_FOR_EACH_G = 0.06


class VesselEffort(Frozen):
    vessel: str
    heat: BathHeat
    hands_min: float
    hands_working: str


class RouteEffort(Frozen):
    """Totals for the baths of one kind, so that routes can be compared."""

    title: str
    baths: int
    water_l: float
    energy_kwh: float
    hands_h: float


class Effort(Frozen):
    """`waste_l` is bath and rinsing water; `neutralise` says what it needs before it goes."""

    vessels: tuple[VesselEffort, ...]
    routes: tuple[RouteEffort, ...]
    water_l: float
    energy_kwh: float
    hands_h: float
    waste_l: float
    neutralise: tuple[str, ...]


def effort_of(plan: StudyPlan, vessels: list[Vessel], extractions: list[Extraction], shelf: Shelf) -> Effort:
    around = _water_around(vessels, shelf)
    each = [_vessel_effort(plan, vessel, shelf, around.get(vessel.name, 0.0)) for vessel in vessels]
    extracts = [
        heat_of_bath(
            one.water_ml / 1000,
            one.temperature_c,
            one.recipe.heat_min if one.recipe else one.duration_min,
            plan.lidded,
            one.recipe.rounds - 1 if one.recipe else 0,
        )
        for one in extractions
    ]
    rinse_l = sum(vessel.dry_fibre_g for vessel in vessels) * RINSE_L_FOR_EACH_G
    # A liquor that is used again was counted where it was filled.
    water_l = sum(one.heat.water_l for vessel, one in zip(vessels, each, strict=True) if vessel.has_own_liquor)
    extract_kwh = sum(one.warm_kwh + one.hold_kwh for one in extracts)
    return Effort(
        vessels=tuple(each),
        routes=tuple(_routes(vessels, each, extracts)),
        water_l=water_l + rinse_l,
        energy_kwh=sum(one.heat.warm_kwh + one.heat.hold_kwh for one in each) + extract_kwh,
        hands_h=sum(one.hands_min for one in each) / 60,
        waste_l=water_l + rinse_l,
        neutralise=tuple(_neutralise(vessels)),
    )


def _water_around(vessels: list[Vessel], shelf: Shelf) -> dict[str, float]:
    """Litres of water around each jar in a water bath: its share of the pot's."""
    return {name: bath.water_l / len(bath.vessels) for bath in water_baths(vessels, shelf) for name in bath.vessels}


def _vessel_effort(plan: StudyPlan, vessel: Vessel, shelf: Shelf, around_l: float) -> VesselEffort:
    litres = vessel.volume_ml / 1000 + around_l
    minutes = vessel.duration_min or 60
    if vessel.process == "bundle-print":
        power = min((place.power_w for place in shelf.heat_places), default=STEAM_POWER_W)
        heat = heat_of_steaming(litres, min(power, STEAM_POWER_W), minutes)
    else:
        in_sun = vessel.process == "sun-jar"
        heat = heat_of_bath(litres, None if in_sun else vessel.temperature_c, minutes, plan.lidded, vessel.reheats)
        if in_sun:
            heat = heat.model_copy(update={"working": "The sun warms it: no electricity."})
    stirs = min(MOST_STIRS, int(minutes // STIR_EVERY_MIN))
    count = len(vessel.swatches)
    hands = START_MIN + LIFT_MIN + stirs * A_STIR_MIN + count * A_SWATCH_MIN
    return VesselEffort(
        vessel=vessel.name,
        heat=heat,
        hands_min=hands,
        hands_working=f"{START_MIN:g} min to start + {stirs} × {A_STIR_MIN:g} min stirring + "
        f"{counted(count, 'swatch')} × {A_SWATCH_MIN:g} min + {LIFT_MIN:g} min to lift = "
        f"{hands:.0f} min",
    )


def _routes(vessels: list[Vessel], each: list[VesselEffort], extracts: list[BathHeat]) -> list[RouteEffort]:
    found: dict[str, list[VesselEffort]] = {}
    water_of = {
        vessel.name: one.heat.water_l for vessel, one in zip(vessels, each, strict=True) if vessel.has_own_liquor
    }
    for vessel, effort in zip(vessels, each, strict=True):
        name = vessel.title.split(", run")[0].split(", pot ")[0]
        heat = "hot" if (vessel.temperature_c or 0) > HOT_C else "cold"
        title = f"Mordant: {name}" if vessel.route else f"{vessel.bath.capitalize()} baths, {heat}"
        found.setdefault(title, []).append(effort)
    routes = [
        RouteEffort(
            title=title,
            baths=len(own),
            water_l=sum(water_of.get(one.vessel, 0.0) for one in own),
            energy_kwh=sum(one.heat.warm_kwh + one.heat.hold_kwh for one in own),
            hands_h=sum(one.hands_min for one in own) / 60,
        )
        for title, own in found.items()
    ]
    if extracts:
        routes.append(
            RouteEffort(
                title="Extracting the dyes",
                baths=len(extracts),
                water_l=sum(one.water_l for one in extracts),
                energy_kwh=sum(one.warm_kwh + one.hold_kwh for one in extracts),
                hands_h=len(extracts) * START_MIN / 60,
            )
        )
    return routes


def _neutralise(vessels: list[Vessel]) -> list[str]:
    said = []
    iron = sum(v.volume_ml for v in vessels if v.brings_iron_in and not v.again) / 1000
    vessels = [vessel for vessel in vessels if vessel.has_own_liquor]
    alkaline = sum(v.volume_ml for v in vessels if (v.ph or 7) > 8) / 1000
    acid = sum(v.volume_ml for v in vessels if v.ph is not None and v.ph < 6) / 1000
    alum = sum(v.volume_ml for v in vessels if v.route and not v.has_iron) / 1000
    if alkaline:
        said.append(f"{alkaline:.1f} L alkaline: vinegar until pH 7 to 8.")
    if acid:
        said.append(f"{acid:.1f} L acid: baking soda until pH 6 to 8; it foams.")
    if iron:
        said.append(f"{iron:.1f} L with iron: soda until it drops out as rust, let it settle.")
    if alum:
        said.append(f"{alum:.1f} L of mordant bath: use it again, or soda until pH 7; it gels.")
    if said:
        said.append("Then dilute, and follow the local rules. Copper never goes down a drain.")
    return said
