"""What to mind at a bath. Common practice; the supplier's safety sheet comes first."""

from collections.abc import Iterable

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.advice_on_levels import IRON_LIMIT_PERCENT_WOF
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.shelf.items import FibreClass, KnownFor
from zesty_grid.core.weigh.amounts import VesselAmounts
from zesty_grid.core.weigh.heat import ROOM_C

DEFER = "Local rules and the supplier's safety sheet come first."
POWDER = f"Powder: dust mask, gloves, eye protection; weigh out of draughts. {DEFER}"
IRON = (
    "Iron(II) sulphate is harmful if swallowed and dangerous to small children: gloves, own pot, "
    f"own spoon; never used for food again. {DEFER}"
)
VENTILATE = "Ventilate. Pots and spoons for dyeing are never used for food again."
FUMES = f"Fumes: ventilate, and keep your face out of the steam. Never near bleach. {DEFER}"
ALKALI = f"Alkali: gloves; rinse skin at once. Above pH 11, goggles too. {DEFER}"
ACID = "Vinegar and citric acid sting eyes: gloves; rinse skin at once. Never near bleach."
HOT = "Hot work: lift with tongs, no loose sleeves, no plastic that melts, handles inwards."
STEAM = (
    "Steam burns worse than water: open the lid away from you. A steamer boils dry in hours: put "
    "the water in that is said, and look at half time. Plastic pipes, wraps and ties melt in it."
)
FELT = (
    "Wool felts at a jump of more than 20 °C: enter at hand warmth, warm by about 1 °C a minute, "
    "and let it cool in the bath before rinsing."
)
IRON_ON_PROTEIN = "Over 2 % iron makes wool and silk harsh, and weakens them with time."
ALKALI_ON_PROTEIN = "Over pH 10 alkali dissolves wool and silk: less time, less heat, or less alkali."
ALUM_MEETS_ALKALI = "Alum and alkali in one bath foam and turn to slime: rinse mordanted pieces well first."
SUN_JAR = "A jar in the sun or in a water bath is covered, never sealed: it must let gas out."
GLASS = "Glass cracks on bare heat: stand the jar in a pot of water, a cloth under it."
COPPER = "Copper: gloves; poisonous to water life, never down a drain. " + DEFER
POISONOUS_RAW = "This one is poisonous raw: gloves, no tasting, away from food and children."
STAINS = "It stains skin, wood and enamel: gloves, an old apron, wipe up at once."
HAMMER = "Hammering: eye and ear protection, fingers away; a board that is for dyeing only."
PLANTS = "Some plants are poisonous raw or cooked: identify, do not taste, ventilate."
OF_A_LOT: dict[KnownFor, str] = {"poisonous raw": POISONOUS_RAW, "stains": STAINS, "fumes": FUMES}
POWDERS = frozenset({"tannin", "mordant", "assist", "iron", "adjuster"})
WARM_C, JUMP_C = 40.0, 20.0
ALKALI_PH, ACID_PH = 7.5, 6.5
PROTEIN_LIMIT_PH = 10.0


class SubstanceCard(Frozen):
    """What to know before a jar is opened; short, and behind the supplier's own sheet."""

    name: str
    harms: str
    wear: str
    spilled: str
    waste: str


CARDS: dict[str, SubstanceCard] = {
    card.name.lower(): card
    for card in (
        SubstanceCard(
            name="potassium alum",
            harms="Dust irritates eyes and throat.",
            wear="Mask, gloves.",
            spilled="Sweep up damp.",
            waste="Dilute; neutral.",
        ),
        SubstanceCard(
            name="aluminium sulphate",
            harms="Acid in water: can harm eyes for good.",
            wear="Mask, gloves, goggles.",
            spilled="Sweep up damp, then soda water.",
            waste="Soda until pH 7, dilute.",
        ),
        SubstanceCard(
            name="aluminium acetate",
            harms="Dust irritates; smells of vinegar.",
            wear="Mask, gloves.",
            spilled="Sweep up damp.",
            waste="Dilute; neutral.",
        ),
        SubstanceCard(
            name="aluminium triformate",
            harms="Dust irritates eyes and skin.",
            wear="Mask, gloves, goggles.",
            spilled="Sweep up damp.",
            waste="Dilute.",
        ),
        SubstanceCard(
            name="tannin",
            harms="Fine dust; stains and irritates the lungs.",
            wear="Mask, gloves.",
            spilled="Wipe up damp.",
            waste="Dilute.",
        ),
        SubstanceCard(
            name="cream of tartar",
            harms="Mild; dust irritates eyes.",
            wear="Mask.",
            spilled="Sweep up.",
            waste="Dilute.",
        ),
        SubstanceCard(
            name="iron(II) sulphate",
            harms="Harmful if swallowed, dangerous to small children; irritates.",
            wear="Mask, gloves, goggles.",
            spilled="Sweep up dry; water spreads stains.",
            waste="Soda until it drops out as rust; settle, dilute.",
        ),
        SubstanceCard(
            name="copper sulphate",
            harms="Harmful if swallowed, harms eyes for good, kills water life.",
            wear="Mask, gloves, goggles.",
            spilled="Sweep up dry into a jar.",
            waste="Never down a drain: take it to a collection point.",
        ),
        SubstanceCard(
            name="soda ash",
            harms="Irritates eyes badly; its solution is caustic.",
            wear="Mask, gloves, goggles.",
            spilled="Sweep up, then vinegar water.",
            waste="Vinegar until pH 8, dilute.",
        ),
        SubstanceCard(
            name="washing soda",
            harms="Irritates eyes badly.",
            wear="Gloves, goggles.",
            spilled="Sweep up.",
            waste="Vinegar, dilute.",
        ),
        SubstanceCard(
            name="citric acid",
            harms="Irritates eyes badly; dust stings.",
            wear="Mask, gloves, goggles.",
            spilled="Sweep up, then soda water.",
            waste="Baking soda until it stops foaming, dilute.",
        ),
        SubstanceCard(
            name="vinegar",
            harms="Steam stings eyes and throat.",
            wear="Gloves; ventilate.",
            spilled="Wipe up.",
            waste="Dilute.",
        ),
        SubstanceCard(
            name="ammonia",
            harms="Fumes burn eyes and lungs. Never near bleach.",
            wear="Gloves, goggles; ventilate.",
            spilled="Air the room, then much water.",
            waste="Vinegar until it does not smell, dilute.",
        ),
    )
}


def weighing_cautions(amounts: Iterable[VesselAmounts]) -> tuple[str, ...]:
    """The cautions that the substances to be weighed call for."""
    names = {figure.name.lower() for one in amounts for figure in one.figures}
    roles = {figure.role for one in amounts for figure in one.figures}
    said = []
    if roles & POWDERS:
        said.append(POWDER)
    if any("iron" in name for name in names):
        said.append(IRON)
    if any("copper" in name for name in names):
        said.append(COPPER)
    if "ammonia" in names:
        said.append(FUMES)
    return tuple(said)


def vessel_cautions(
    vessel: Vessel,
    own: VesselAmounts,
    classes: frozenset[FibreClass],
    alum_comes_in: bool,
    glass: bool = False,
    known_for: frozenset[KnownFor] = frozenset(),
) -> tuple[str, ...]:
    """The cautions of one bath: its substances, amounts, heat, the fibres in it, and whether they
    bring alum. `glass`: its vessel is made of that; `known_for` is what its dye is."""
    said = list(weighing_cautions([own]))
    heat = vessel.temperature_c or 0
    protein = "protein" in classes
    if vessel.process == "bundle-print":
        said.append(STEAM)
        if melting(vessel):
            said.append(melting(vessel))
    elif heat > WARM_C:
        said += [HOT, VENTILATE]
    if heat - ROOM_C > JUMP_C and protein:
        said.append(FELT)
    if vessel.process == "rolled" and melting(vessel):
        said.append(melting(vessel))
    if vessel.hammered:
        said.append(HAMMER)
    if any("copper" in label.lower() for label in vessel.pretreatments):
        said.append(COPPER)
    if any("iron" in label.lower() for label in vessel.pretreatments):
        said.append(IRON)
    if vessel.bath in ("dye", "overdye"):
        said.append(PLANTS)
        said += [words for what, words in OF_A_LOT.items() if what in known_for]
    if vessel.process in ("sun-jar", "water-bath") or vessel.extraction == "sun":
        said.append(SUN_JAR)
    if glass and heat > WARM_C and vessel.process not in ("water-bath", "sun-jar"):
        said.append(GLASS)
    if vessel.ph is not None and vessel.ph > ALKALI_PH:
        said.append(ALKALI)
        if alum_comes_in or any("alum" in figure.name.lower() for figure in own.figures):
            said.append(ALUM_MEETS_ALKALI)
    if vessel.ph is not None and vessel.ph < ACID_PH:
        said.append(ACID)
    if protein and _iron_percent_wof(own) > IRON_LIMIT_PERCENT_WOF + 0.001:
        said.append(IRON_ON_PROTEIN)
    if protein and vessel.ph is not None and vessel.ph > PROTEIN_LIMIT_PH:
        said.append(ALKALI_ON_PROTEIN)
    return tuple(dict.fromkeys(said))


def _iron_percent_wof(own: VesselAmounts) -> float:
    """All iron that goes in, whatever it is called there."""
    grams = sum(f.grams or 0 for f in own.figures if "iron" in f.name.lower())
    return 100 * grams / own.dry_fibre_g if own.dry_fibre_g else 0.0


def melting(vessel: Vessel) -> str:
    """What of a roll melts in steam or in a hot bath; empty where nothing does."""
    melts = vessel.rolling.melts if vessel.rolling else ()
    if not melts or (vessel.temperature_c or 0) <= WARM_C:
        return ""
    return f"Plastic melts: {' and '.join(melts)} in heat. Take cloth, paper, wood or metal."


def cards_for(amounts: Iterable[VesselAmounts]) -> tuple[SubstanceCard, ...]:
    """A card for each substance that is weighed and has one."""
    names = dict.fromkeys(figure.name.lower() for one in amounts for figure in one.figures)
    return tuple(CARDS[name] for name in names if name in CARDS)
