"""Weights and volumes for each vessel, every figure with its working."""

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.items import DyeLot, MordantBath, MordantRoute
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.bath_course import AfterAdding, course_of
from zesty_grid.core.weigh.dye_stuff import STRAIGHT_IN, dye_figure, weight_given
from zesty_grid.core.weigh.measuring_out import dry_or_stock
from zesty_grid.core.weigh.ph_dose import VesselPh, ph_of_vessel
from zesty_grid.core.weigh.planned_additions import addition_figures, in_order
from zesty_grid.core.weigh.print_stuffs import print_figures
from zesty_grid.core.weigh.stock_solution import Stock, dose_g, least_weighed_g, stock_to_make
from zesty_grid.core.weigh.working import Figure, Role, grams_words, volume_words

IRON_NAME = "iron(II) sulphate"
DETERGENT_ML_PER_L = 2.0


class VesselAmounts(Frozen):
    """What goes into the vessel of that name, in the order in which it goes in.

    `course` says how planned additions move its pH.
    """

    vessel: str
    dry_fibre_g: float
    dry_fibre_working: str
    figures: tuple[Figure, ...]
    ph: VesselPh | None = None
    course: tuple[AfterAdding, ...] = ()


def weigh_vessel(plan: StudyPlan, vessel: Vessel, shelf: Shelf) -> VesselAmounts:
    """Everything that goes into one vessel. Raises Refusal where the Shelf lacks an item."""
    mass_g = vessel.dry_fibre_g
    ph = None
    if not vessel.has_own_liquor:
        figures = [_liquor_figure(vessel)]
    elif vessel.bath == "wash":
        figures = [_soap_figure(vessel)]
    elif vessel.route is not None:
        figures = _mordant_figures(plan, vessel, mass_g, shelf)
    elif vessel.sources and vessel.dye is None:
        figures = print_figures(vessel, shelf)
    elif vessel.bath in ("dye", "overdye"):
        figures = [dye_figure(plan, vessel, lot_of(vessel, shelf), shelf)]
    else:
        figures = []
    if vessel.sources and vessel.dye is not None and vessel.has_own_liquor:
        figures += print_figures(vessel, shelf)
    if vessel.brings_iron_in:
        figures.append(_iron_figure(plan, vessel, mass_g, shelf))
    added = addition_figures(plan, vessel, shelf)
    first = [f for f, one in zip(added, in_order(vessel.additions), strict=True) if one.moment == "first"]
    if vessel.ph is not None and vessel.has_own_liquor:
        ph = ph_of_vessel(plan, vessel, [*figures, *first], shelf)
        if ph.figure:
            figures.insert(1 if vessel.bath == "dye" else 0, ph.figure)
    course = course_of(plan, vessel, figures, added, shelf) if added else ()
    return VesselAmounts(
        vessel=vessel.name,
        dry_fibre_g=mass_g,
        dry_fibre_working=vessel.fibre_words,
        figures=(
            *([_less_straight_in(_water(plan, vessel, mass_g), figures)] if vessel.has_own_liquor else []),
            *figures,
            *added,
        ),
        ph=ph,
        course=course,
    )


def stocks_to_make(plan: StudyPlan, shelf: Shelf, amounts: list[VesselAmounts]) -> list[Stock]:
    """The stock solutions that all vessels together need, with spare."""
    wanted: dict[tuple[str, float], float] = {}
    for one in amounts:
        for figure in one.figures:
            if figure.stock_percent and figure.volume_ml:
                what = (figure.name, figure.stock_percent)
                wanted[what] = wanted.get(what, 0.0) + figure.volume_ml
    scale = shelf.scale(plan.scale)
    least_g = least_weighed_g(scale.resolution_g, plan.weighing_accuracy_percent) if scale else 0.0
    return [
        stock_to_make(
            name, ml, percent, least_g, substance.teaspoon_g if (substance := shelf.substance_named(name)) else None
        )
        for (name, percent), ml in wanted.items()
    ]


def lot_of(vessel: Vessel, shelf: Shelf) -> DyeLot:
    lot = shelf.dye_lot(vessel.dye or "")
    if lot is None:
        raise _gone("dye lot", vessel.dye or "")
    return lot


def bath_of_route(vessel: Vessel, shelf: Shelf) -> tuple[MordantRoute, MordantBath]:
    route = shelf.mordant_route(vessel.route or "")
    if route is None or vessel.route_bath is None or vessel.route_bath >= len(route.baths):
        raise _gone("mordant route", vessel.route or "")
    return route, route.baths[vessel.route_bath]


def _water(plan: StudyPlan, vessel: Vessel, mass_g: float) -> Figure:
    volume_ml = vessel.volume_ml
    ratio = volume_ml / mass_g if mass_g else plan.liquor_ratio_ml_per_g
    chosen = abs(ratio - plan.liquor_ratio_ml_per_g) > 0.01
    name = "water" if vessel.process != "bundle-print" else "water, to soak the cloth"
    return Figure(
        role="water",
        name=name,
        volume_ml=volume_ml,
        working=f"{ratio:.3g} mL/g × {grams_words(mass_g)} = {volume_words(volume_ml)}",
        source="volume chosen for this bath" if chosen else "common practice: liquor ratio 20 to 40 mL/g",
    )


def _less_straight_in(water: Figure, figures: list[Figure]) -> Figure:
    """Water, less the liquid dye that is poured in."""
    poured_ml = sum(
        f.volume_ml or 0.0 for f in figures if f.words == STRAIGHT_IN and f.stock_percent is None and not f.moment
    )
    if not poured_ml or water.volume_ml is None:
        return water
    left_ml = max(0.0, water.volume_ml - poured_ml)
    working = f"{water.working}; less {volume_words(poured_ml)} of dye = {volume_words(left_ml)}"
    return water.model_copy(update={"volume_ml": left_ml, "working": working})


def _mordant_figures(plan: StudyPlan, vessel: Vessel, mass_g: float, shelf: Shelf) -> list[Figure]:
    route, bath = bath_of_route(vessel, shelf)
    if bath.dose_percent_wof is None:
        substance = shelf.substance_named(bath.substance)
        tried = substance.dose_ml_per_100_g if substance else None
        if per_100_g := bath.dose_ml_per_100_g or tried:
            return [_by_volume(bath, per_100_g, mass_g, route.source)]
        return [
            Figure(
                role=bath.kind,
                name=bath.substance,
                words="as much as it takes",
                working="Its strength is not known: try it on a strip and write down what you used.",
                source=route.source,
            )
        ]
    parts: list[tuple[Role, str, float]] = [(bath.kind, bath.substance, bath.dose_percent_wof)]
    if bath.assist and bath.assist_percent_wof:
        parts.append(("assist", bath.assist, bath.assist_percent_wof))
    return [
        dry_or_stock(
            plan, shelf, role, name, dose_g(percent, mass_g), mass_g, _dose_working(percent, mass_g), route.source
        )
        for role, name, percent in parts
    ]


def _by_volume(bath: MordantBath, per_100_g: float, mass_g: float, source: str) -> Figure:
    """A liquid, as the route says or as a strip showed."""
    volume_ml = per_100_g * mass_g / 100
    return Figure(
        role=bath.kind,
        name=bath.substance,
        volume_ml=volume_ml,
        source=source,
        working=f"{per_100_g:g} mL for 100 g × {grams_words(mass_g)} = {volume_words(volume_ml)}"
        + ("" if bath.dose_ml_per_100_g else ", as tried on a strip"),
    )


def _liquor_figure(vessel: Vessel) -> Figure:
    """A liquor that stands ready: it is no new water and no new dye."""
    of = vessel.liquor_of or vessel.again or f"dip {(vessel.dip or 2) - 1}"
    working = (
        "The same bath once more: it holds what was left in it."
        if vessel.again
        else "Exhaust bath: later dips take what is left, and come out paler."
    )
    return Figure(
        role="dye liquor",
        name=f"the bath of {of}, as it is",
        words="nothing new",
        working=working,
        source="common practice",
    )


def _soap_figure(vessel: Vessel) -> Figure:
    litres = vessel.volume_ml / 1000
    return Figure(
        role="detergent",
        name="neutral soap",
        volume_ml=DETERGENT_ML_PER_L * litres,
        working=f"{DETERGENT_ML_PER_L:g} mL/L × {litres:.2f} L",
        source="common practice",
    )


def _iron_figure(plan: StudyPlan, vessel: Vessel, mass_g: float, shelf: Shelf) -> Figure:
    if vessel.iron_g:
        return dry_or_stock(
            plan, shelf, "iron", IRON_NAME, vessel.iron_g, mass_g, weight_given(vessel, vessel.iron_g), "from the plan"
        )
    percent = vessel.iron_percent_wof or 0.0
    return dry_or_stock(
        plan,
        shelf,
        "iron",
        IRON_NAME,
        dose_g(percent, mass_g),
        mass_g,
        _dose_working(percent, mass_g),
        "common practice: 0.5 to 2 % WOF as after-bath",
    )


def _dose_working(percent: float, mass_g: float) -> str:
    return f"{percent:g} % × {grams_words(mass_g)} = {grams_words(dose_g(percent, mass_g))}"


def _gone(what: str, key: str) -> Refusal:
    return Refusal("not-on-shelf", f"The {what} “{key}” is not on the Shelf.", "Choose another level.")
