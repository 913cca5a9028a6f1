"""The adjuster for a vessel: how much for plain water, and how two readings correct it."""

from collections.abc import Iterable
from functools import lru_cache
from typing import Annotated

from pydantic import Field
from scipy.optimize import brentq

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.core.shelf.items import Substance
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.measuring_out import dry_or_stock
from zesty_grid.core.weigh.ph_bath import (
    BathWater,
    PhAnswer,
    PhQuestion,
    Solute,
    bath_equilibrium,
    dose_for_ph,
    totals_of,
)
from zesty_grid.core.weigh.speciation import at_ph
from zesty_grid.core.weigh.working import Figure, grams_words

DEFAULT_ACID, DEFAULT_ALKALI = "citric-acid", "soda-ash"
PLAIN_WATER = BathWater(ph=7.5, alkalinity_mg_l_caco3=120)
CLOSE_ENOUGH_PH = 0.15
READING_ERROR_PH = 0.1
PLANT_BATHS = (
    "Worked out for your water alone. Plant baths hold acids of their own and buffer more: give "
    "half, wait 15 to 20 min, read, and let the two readings say the rest."
)


class VesselPh(Frozen):
    """What brings a vessel to its pH. `figure` None: nothing is needed, or it cannot be said."""

    target_ph: float
    ph_before: float
    figure: Figure | None
    grams_first: float
    words: str
    warnings: tuple[str, ...]
    question: PhQuestion | None


class TwoReadings(Frozen):
    """The bath read before anything was given, and after `grams_given` and a wait.

    `beside` is what else was given between the two readings.
    """

    question: PhQuestion
    ph_first: Annotated[float, Field(ge=1, le=13, allow_inf_nan=False)]
    grams_given: Annotated[float, Field(gt=0, le=1e5, allow_inf_nan=False)]
    ph_second: Annotated[float, Field(ge=1, le=13, allow_inf_nan=False)]
    beside: Annotated[tuple[Solute, ...], Field(max_length=20)] = ()


class NextDose(Frozen):
    """Grams still to give; `least_g` and `most_g` where each reading is off by 0.1 pH."""

    grams: float
    least_g: float
    most_g: float
    buffer_mmol_l_ph: float
    words: str


def ph_of_vessel(plan: StudyPlan, vessel: Vessel, figures: Iterable[Figure], shelf: Shelf) -> VesselPh:
    """The dose for one vessel, from its water, what is in it, and the chosen adjuster."""
    target = vessel.ph or 7.0
    on_shelf = shelf.water(plan.water)
    water = bath_water(plan, shelf)
    solutes = solutes_in_a_litre(vessel, figures, shelf)
    before = bath_equilibrium(1.0, water, solutes).ph
    name = on_shelf.name if on_shelf else "plain water"
    if abs(before - target) <= CLOSE_ENOUGH_PH:
        return VesselPh(
            target_ph=target,
            ph_before=before,
            figure=None,
            grams_first=0.0,
            words=f"{name} is at pH {before:.1f} already: read before you add anything.",
            warnings=(),
            question=None,
        )
    adjuster = _adjuster(plan, shelf, vessel.adjuster, acid=target < before)
    if adjuster is None or adjuster.chemistry is None:
        kind = "acid" if target < before else "alkali"
        return VesselPh(
            target_ph=target,
            ph_before=before,
            figure=None,
            grams_first=0.0,
            words=f"The Shelf has no {kind} whose strength is known: go by reading.",
            warnings=(),
            question=None,
        )
    for_a_litre = PhQuestion(
        volume_l=1.0, water=water, solutes=solutes, target_ph=target, adjust_with=adjuster.chemistry
    )
    answer = _dose(for_a_litre)
    if isinstance(answer, Refusal):
        return VesselPh(
            target_ph=target,
            ph_before=before,
            figure=None,
            grams_first=0.0,
            words=str(answer),
            warnings=(),
            question=None,
        )
    return _told(plan, shelf, vessel, name, adjuster, answer, for_a_litre)


def bath_water(plan: StudyPlan, shelf: Shelf) -> BathWater:
    on_shelf = shelf.water(plan.water)
    if on_shelf is None:
        return PLAIN_WATER
    return BathWater(
        ph=on_shelf.ph,
        alkalinity_mg_l_caco3=on_shelf.alkalinity_mg_l_caco3,
        hardness_mg_l_caco3=on_shelf.hardness_mg_l_caco3,
    )


def solutes_in_a_litre(vessel: Vessel, figures: Iterable[Figure], shelf: Shelf) -> tuple[Solute, ...]:
    """What of some figures counts for the pH, in g for each litre of the bath."""
    litres = vessel.volume_ml / 1000
    return tuple(
        Solute(substance=substance.chemistry, grams=figure.grams / litres)
        for figure in figures
        if figure.grams and (substance := shelf.substance_named(figure.name)) and substance.chemistry
    )


def next_dose(readings: TwoReadings) -> NextDose:
    """The dose that two readings ask for: the bath buffers more than water, evenly over pH.

    The bath is taken as the water with an unknown strong acid (so that it reads `ph_first`) and an
    unknown even buffer (so that `grams_given` brought it to `ph_second`). Raises Refusal where the
    readings cannot both be right.
    """
    moved = readings.ph_second - readings.ph_first
    wanted = readings.question.target_ph - readings.ph_first
    if moved * wanted <= 0 or abs(moved) < READING_ERROR_PH:
        cure = "Stir, wait 15 min, and read again; then enter both readings."
        raise Refusal(
            "readings-disagree",
            f"From pH {readings.ph_first:g} to {readings.ph_second:g}: that is no step towards "
            f"pH {readings.question.target_ph:g} that a reading can show.",
            cure,
            (
                Fault(
                    field="ph_second",
                    given=f"{readings.ph_second:g}",
                    allowed="a reading at least 0.1 nearer to the target",
                    cure=cure,
                ),
            ),
        )
    grams, buffer = _rest(readings)
    tries = [grams]
    for off in (-READING_ERROR_PH, READING_ERROR_PH):
        shifted = readings.model_copy(update={"ph_second": readings.ph_second + off})
        if (shifted.ph_second - shifted.ph_first) * wanted > 0:
            tries.append(_rest(shifted)[0])
    least, most = min(tries), max(tries)
    words = (
        f"Give {grams_words(grams)} more ({grams_words(least)} to {grams_words(most)}, as a "
        "reading is good to 0.1); give half of it first."
        if grams > 0
        else "It is there, or past it: give no more."
    )
    return NextDose(grams=grams, least_g=least, most_g=most, buffer_mmol_l_ph=1000 * buffer, words=words)


def _rest(readings: TwoReadings) -> tuple[float, float]:
    asked = readings.question

    def charge_of(solutes: tuple[Solute, ...], ph: float) -> float:
        totals, chalk = totals_of(asked.volume_l, asked.water, solutes)
        return at_ph(totals, ph, chalk).charge_mol_l

    def charge(grams: float, ph: float) -> float:
        added = Solute(substance=asked.adjust_with, grams=grams)
        return charge_of((*asked.solutes, *readings.beside, added), ph)

    offset = -charge_of(asked.solutes, readings.ph_first)
    step = readings.ph_second - readings.ph_first
    buffer = max(0.0, (charge(readings.grams_given, readings.ph_second) + offset) / step)

    def missing(grams: float) -> float:
        wanted = asked.target_ph - readings.ph_first
        return charge(grams, asked.target_ph) + offset - buffer * wanted

    most = max(readings.grams_given, 0.01)
    while missing(0.0) * missing(most) > 0 and most < 400 * asked.volume_l:
        most *= 2
    if missing(0.0) * missing(most) > 0:
        raise Refusal("ph-out-of-reach", "The adjuster is too weak for this bath.", "Take a stronger one.")
    total = float(brentq(missing, 0.0, most, xtol=1e-6 * asked.volume_l))
    return max(0.0, total - readings.grams_given), buffer


@lru_cache(maxsize=512)
def _dose(question: PhQuestion) -> PhAnswer | Refusal:
    """An answer or a refusal, kept: many vessels ask the same for a litre."""
    try:
        return dose_for_ph(question)
    except Refusal as refusal:
        return refusal


def _adjuster(plan: StudyPlan, shelf: Shelf, own: str | None, acid: bool) -> Substance | None:
    role, chosen, default = ("acid", plan.acid, DEFAULT_ACID) if acid else ("alkali", plan.alkali, DEFAULT_ALKALI)
    usable = [s for s in shelf.substances if s.role == role and s.chemistry and not s.retired]
    for key in (own, chosen, default):
        found = next((s for s in usable if s.key == key), None)
        if found:
            return found
    return usable[0] if usable else None


def _told(
    plan: StudyPlan,
    shelf: Shelf,
    vessel: Vessel,
    water: str,
    adjuster: Substance,
    answer: PhAnswer,
    question: PhQuestion,
) -> VesselPh:
    target, litres = question.target_ph, vessel.volume_ml / 1000
    grams = answer.grams * litres
    figure = dry_or_stock(
        plan,
        shelf,
        "adjuster",
        adjuster.name.lower(),
        grams,
        vessel.dry_fibre_g,
        f"{water} with what is in it is at pH {answer.ph_before:.1f}; to pH {target:g} it takes "
        f"{answer.grams:.3g} g/L × {litres:.2f} L = {grams_words(grams)}",
        "equilibrium at 25 °C, closed to the air; estimate for water alone",
    ).model_copy(update={"words": "half of it first"})
    own = question.model_copy(
        update={
            "volume_l": litres,
            "solutes": tuple(one.model_copy(update={"grams": one.grams * litres}) for one in question.solutes),
        }
    )
    # Gas and gel were worked out for one litre; so are their warnings.
    whole = _dose(own) if answer.warnings else None
    warnings = whole.warnings if isinstance(whole, PhAnswer) else ()
    return VesselPh(
        target_ph=target,
        ph_before=answer.ph_before,
        figure=figure,
        grams_first=grams / 2,
        words=PLANT_BATHS,
        warnings=warnings,
        question=own,
    )
