"""The pH of a bath, and how much of an adjuster brings it to another."""

from collections.abc import Callable
from contextlib import suppress
from functools import lru_cache
from typing import Annotated

from pydantic import Field
from scipy.optimize import brentq

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.core.shelf.ph_substance import PhSubstance
from zesty_grid.core.weigh.speciation import Equilibrium, at_ph, equilibrium

CACO3_EQUIVALENT_MG = 50.04
CACO3_MG_MMOL = 100.09
CO2_L_MOL = 24.5
ALUMINIUM_HYDROXIDE_G_MOL = 78.0
MOST_G_L, MOST_L = 400.0, 10_000.0
FOAMS_ABOVE_L = 0.1
HARMS_PROTEIN_PH = 10.0

# Molar mass (g/mol), and the components that one mole brings (mol). H+ is not counted: it follows
# from the balance of charges.
_BRINGS: dict[PhSubstance, tuple[float, dict[str, float]]] = {
    "alum_potassium": (474.39, {"K": 1, "Al": 1, "S": 2}),
    "alum_sulphate": (666.42, {"Al": 2, "S": 3}),
    "alum_acetate": (204.11, {"Al": 1, "Ac": 3}),
    "cream_of_tartar": (188.18, {"K": 1, "Tar": 1}),
    "citric_acid": (192.12, {"Cit": 1}),
    "vinegar_5pct": (60.05 / 0.05, {"Ac": 1}),
    "soda_ash": (105.99, {"Na": 2, "C": 1}),
    "washing_soda_decahydrate": (286.14, {"Na": 2, "C": 1}),
    "baking_soda": (84.01, {"Na": 1, "C": 1}),
    "ammonia_5pct": (17.031 / 0.05, {"N": 1}),
    "iron_sulphate": (278.01, {"Fe": 1, "S": 1}),
    "chalk": (100.09, {"Ca": 1, "C": 1}),
}
WORDS: dict[PhSubstance, str] = {
    "alum_potassium": "potassium alum",
    "alum_sulphate": "aluminium sulphate",
    "alum_acetate": "aluminium acetate",
    "cream_of_tartar": "cream of tartar",
    "citric_acid": "citric acid",
    "vinegar_5pct": "vinegar",
    "soda_ash": "soda ash",
    "washing_soda_decahydrate": "washing soda",
    "baking_soda": "baking soda",
    "ammonia_5pct": "ammonia",
    "iron_sulphate": "iron(II) sulphate",
    "chalk": "chalk",
}
# Moles of H+ that one mole gives off on its way to pH 7.
_ACID_EQUIVALENTS: dict[PhSubstance, float] = {
    "alum_potassium": 3,
    "alum_sulphate": 6,
    "alum_acetate": 3,
    "cream_of_tartar": 1,
    "citric_acid": 3,
    "vinegar_5pct": 1,
}
ACIDS: frozenset[PhSubstance] = frozenset({"cream_of_tartar", "citric_acid", "vinegar_5pct"})
CARBONATES: frozenset[PhSubstance] = frozenset({"soda_ash", "washing_soda_decahydrate", "baking_soda", "chalk"})
ALUMINIUM: frozenset[PhSubstance] = frozenset({"alum_potassium", "alum_sulphate", "alum_acetate"})


class BathWater(Frozen):
    """Hardness above alkalinity is balanced by chloride, alkalinity above hardness by sodium."""

    ph: Annotated[float, Field(ge=4, le=10.5, allow_inf_nan=False)]
    alkalinity_mg_l_caco3: Annotated[float, Field(ge=0, le=2000, allow_inf_nan=False)]
    hardness_mg_l_caco3: Annotated[float, Field(ge=0, le=2000, allow_inf_nan=False)] = 0


class Solute(Frozen):
    substance: PhSubstance
    grams: Annotated[float, Field(ge=0, le=2 * MOST_G_L * MOST_L, allow_inf_nan=False)]


class PhQuestion(Frozen):
    volume_l: Annotated[float, Field(gt=0, le=MOST_L, allow_inf_nan=False)]
    water: BathWater
    solutes: Annotated[tuple[Solute, ...], Field(max_length=20)] = ()
    target_ph: Annotated[float, Field(ge=0, le=14, allow_inf_nan=False)]
    adjust_with: PhSubstance


class PhAnswer(Frozen):
    """Grams of the adjuster, all told; `grams_first` is the half to give before reading again."""

    grams: float
    grams_first: float
    ph_before: float
    ph_after: float
    carbon_dioxide_l: float
    aluminium_hydroxide_g: float
    warnings: tuple[str, ...]


@lru_cache(maxsize=512)
def bath_equilibrium(volume_l: float, water: BathWater, solutes: tuple[Solute, ...]) -> Equilibrium:
    """What a bath holds at equilibrium, 25 °C, closed to the air.

    Raises Refusal where it is too strong to be computed.
    """
    totals, chalk = totals_of(volume_l, water, solutes)
    try:
        return equilibrium(totals, chalk)
    except ValueError as error:
        raise Refusal(
            "too-strong", "This bath is too strong for its pH to be computed.", "Check the amounts and the volume."
        ) from error


def dose_for_ph(question: PhQuestion) -> PhAnswer:
    """How much of the adjuster brings the bath to the target.

    Raises Refusal where it cannot: the wrong way round, or too weak.
    """
    start = bath_equilibrium(question.volume_l, question.water, question.solutes)
    if abs(start.ph - question.target_ph) < 0.005:
        return _answer(question, 0.0, start.ph, start)
    lower = question.target_ph < start.ph

    def missing(grams: float) -> float:
        """Above 0 while the bath at the target pH would still lack base (or acid)."""
        added = Solute(substance=question.adjust_with, grams=grams)
        totals, chalk = totals_of(question.volume_l, question.water, (*question.solutes, added))
        charge = at_ph(totals, question.target_ph, chalk).charge_mol_l
        return charge if lower else -charge

    most = _most_that_helps(missing, question)
    if most is None:
        raise _unreachable(question, start.ph, lower)
    grams = float(brentq(missing, 0.0, most, xtol=1e-7 * question.volume_l, rtol=1e-6))
    added = Solute(substance=question.adjust_with, grams=grams)
    after = bath_equilibrium(question.volume_l, question.water, (*question.solutes, added))
    return _answer(question, grams, start.ph, after)


def what_adding_does(volume_l: float, water: BathWater, there: tuple[Solute, ...], added: Solute) -> PhAnswer:
    """The pH before and after something goes into a bath, with the foam and slime that it makes.

    Raises Refusal where the bath is too strong to be computed.
    """
    before = bath_equilibrium(volume_l, water, there)
    after = bath_equilibrium(volume_l, water, (*there, added))
    question = PhQuestion(
        volume_l=volume_l, water=water, solutes=there, target_ph=after.ph, adjust_with=added.substance
    )
    return _answer(question, added.grams, before.ph, after)


def _most_that_helps(missing: Callable[[float], float], question: PhQuestion) -> float | None:
    grams = 0.01 * question.volume_l
    while grams <= MOST_G_L * question.volume_l:
        if missing(grams) <= 0:
            return grams
        grams *= 2
    return None


def _unreachable(question: PhQuestion, start_ph: float, lower: bool) -> Refusal:
    name = WORDS[question.adjust_with]
    acid = question.adjust_with in ACIDS
    if acid != lower:
        way, cure = ("up", "an alkali") if not lower else ("down", "an acid")
        reason = f"{name.capitalize()} cannot bring this bath {way} to pH {question.target_ph:g}."
        cure = f"Take {cure}: soda ash, or ammonia." if not lower else f"Take {cure}: vinegar."
    else:
        limit = _as_far_as_it_goes(question, start_ph, lower)
        there = f" It goes no further than pH {limit:.1f}."
        reason = f"{name.capitalize()} is too weak for pH {question.target_ph:g}.{there}"
        cure = "Take a stronger one, or another target."
    return Refusal(
        "ph-out-of-reach",
        reason,
        cure,
        (
            Fault(
                field="target_ph",
                given=f"{question.target_ph:g}",
                allowed=f"what {name} can reach from pH {start_ph:.1f}",
                cure=cure,
            ),
        ),
    )


def _as_far_as_it_goes(question: PhQuestion, start_ph: float, lower: bool) -> float:
    reached = [start_ph]
    for grams_l in (0.1, 0.5, 2.0, 10.0, 50.0, 200.0):
        added = Solute(substance=question.adjust_with, grams=grams_l * question.volume_l)
        with suppress(Refusal):
            solutes = (*question.solutes, added)
            reached.append(bath_equilibrium(question.volume_l, question.water, solutes).ph)
    return min(reached) if lower else max(reached)


def _answer(question: PhQuestion, grams: float, before: float, after: Equilibrium) -> PhAnswer:
    gas_l = _gas_mol(question, grams) * CO2_L_MOL
    gel_g = after.aluminium_hydroxide_mol_l * question.volume_l * ALUMINIUM_HYDROXIDE_G_MOL
    return PhAnswer(
        grams=grams,
        grams_first=grams / 2,
        ph_before=before,
        ph_after=after.ph,
        carbon_dioxide_l=gas_l,
        aluminium_hydroxide_g=gel_g,
        warnings=tuple(_warnings(question, after, gas_l, gel_g)),
    )


def _gas_mol(question: PhQuestion, grams: float) -> float:
    """The most carbon dioxide that acid and carbonate can make where they meet, unstirred."""
    acid = carbonate = uses = 0.0
    for one in (*question.solutes, Solute(substance=question.adjust_with, grams=grams)):
        amount = one.grams / _BRINGS[one.substance][0]
        acid += amount * _ACID_EQUIVALENTS.get(one.substance, 0)
        if one.substance in CARBONATES:
            carbonate += amount
            uses += amount * (1 if one.substance == "baking_soda" else 2)
    return min(carbonate, acid * carbonate / uses) if uses else 0.0


def _warnings(question: PhQuestion, after: Equilibrium, gas_l: float, gel_g: float) -> list[str]:
    there = {one.substance for one in question.solutes if one.grams > 0} | {question.adjust_with}
    said = []
    if there & CARBONATES and gas_l > FOAMS_ABOVE_L:
        said.append(
            f"It foams: up to {gas_l:.1f} L of carbon dioxide. Add a little at a time, in a pot with room above."
        )
    if gel_g > 0.05:
        said.append(
            f"It turns to slime: {gel_g:.1f} g of aluminium hydroxide, which stiffens cloth and "
            "wastes mordant and alkali. Mordant first, rinse, then the alkaline bath."
        )
    if question.target_ph > HARMS_PROTEIN_PH:
        said.append("Above pH 10 wool and silk are harmed, the faster the hotter.")
    if after.undissolved_chalk_mol_l > 1e-6:
        left_g = after.undissolved_chalk_mol_l * question.volume_l * CACO3_MG_MMOL
        said.append(f"{left_g:.1f} g of the chalk stay undissolved.")
    if there & ALUMINIUM and there & {"citric_acid", "cream_of_tartar"}:
        said.append(
            "Citrate and tartrate hold on to aluminium, which is not computed: the bath will be "
            "more acid than said. Go by the reading."
        )
    if "iron_sulphate" in there and after.ph > 7.5:
        said.append("Above pH 7.5 iron drops out and rusts: the bath loses it.")
    return said


def totals_of(volume_l: float, water: BathWater, solutes: tuple[Solute, ...]) -> tuple[dict[str, float], float]:
    """Totals (mol/L) by component, and chalk (mol/L), for the water with what is in it."""
    totals = dict(_water_totals(water))
    chalk = 0.0
    for solute in solutes:
        molar_mass, brings = _BRINGS[solute.substance]
        amount = solute.grams / molar_mass / volume_l
        if solute.substance == "chalk":
            chalk += amount
            continue
        for component, n in brings.items():
            totals[component] = totals.get(component, 0.0) + n * amount
    return totals, chalk


@lru_cache(maxsize=256)
def _water_totals(water: BathWater) -> dict[str, float]:
    """Carbonate and strong ions that give the water its pH and alkalinity.

    Raises Refusal where nothing gives it both.
    """
    alkalinity = water.alkalinity_mg_l_caco3 / CACO3_EQUIVALENT_MG / 1000
    calcium = water.hardness_mg_l_caco3 / CACO3_MG_MMOL / 1000
    strong = alkalinity

    def charge(carbonate: float) -> float:
        sodium, chloride = max(0.0, strong - 2 * calcium), max(0.0, 2 * calcium - strong)
        totals = {"C": carbonate, "Ca": calcium, "Na": sodium, "Cl": chloride}
        return at_ph(totals, water.ph).charge_mol_l

    # Where hydroxide alone outweighs the alkalinity there is no room for carbonate.
    carbonate = 0.0
    if charge(0.0) > 0:
        most = max(2 * alkalinity, 1e-5)
        while charge(most) > 0 and most < 1:
            most *= 2
        if charge(most) > 0:
            raise Refusal(
                "no-such-water",
                f"No water of pH {water.ph:g} has an alkalinity of "
                f"{water.alkalinity_mg_l_caco3:g} mg/L: it would foam with carbon dioxide.",
                "Measure both again; strips for pools often read the alkalinity too high.",
            )
        carbonate = float(brentq(charge, 0.0, most, xtol=1e-10))
    sodium, chloride = max(0.0, strong - 2 * calcium), max(0.0, 2 * calcium - strong)
    if carbonate == 0.0:
        # Pure water of another pH than 7: a trace of strong base or acid.
        sodium -= min(0.0, charge(0.0))
    return {"C": carbonate, "Ca": calcium, "Na": sodium, "Cl": chloride}
