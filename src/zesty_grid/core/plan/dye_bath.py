"""The dye bath that a swatch's levels ask for."""

from zesty_grid.core.plan.bath import Bath
from zesty_grid.core.plan.factors import EXTRACTIONS, PROCESSES, FactorKind, WayOfWorking
from zesty_grid.core.plan.level_of import label_of, level_of, value_of, whole_value_of
from zesty_grid.core.plan.settling import Levels
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.shelf.shelf import Shelf

WAYS: dict[tuple[str, str], WayOfWorking] = {("extraction", way.key): way for way in EXTRACTIONS}
WAYS |= {("process", way.key): way for way in PROCESSES}
USUAL_MIN = 60
# Factors that act in the dye vessel, with what names them in its key and title.
IN_THE_DYE_BATH: tuple[FactorKind, ...] = (
    "strength",
    "extraction",
    "process",
    "temperature",
    "duration",
    "dip",
    "reheats",
    "rest",
)


def dye_bath(plan: StudyPlan, levels: Levels, shelf: Shelf) -> Bath:
    dye = levels["dye"]
    ph = value_of(plan, levels, "ph")
    label = label_of(plan, levels, "dye")
    key = [f"dye:{dye}:{levels.get('ph', 'as-it-is') if ph is not None else 'as-it-is'}"]
    title = [f"{label} at pH {ph:g}" if ph is not None else label]
    for kind in IN_THE_DYE_BATH:
        level = level_of(plan, levels, kind)
        idle = kind in ("reheats", "rest") and not (level and level.value)
        # Pieces that come out of one vessel at different times are in the same bath.
        if kind in levels and not idle and (kind != "duration" or plan.taken_out == "apart"):
            key.append(f"{kind}={levels[kind]}")
            title.append(label_of(plan, levels, kind))
    addition = level_of(plan, levels, "addition")
    added = tuple(a for a in addition.additions if a.into == "dye") if addition else ()
    if addition and added:
        key.append(f"addition={addition.key}")
        title.append(addition.label)
    iron = level_of(plan, levels, "iron")
    in_pot = iron if iron and iron.route == "pot" and iron.is_dosed else None
    if in_pot:
        key.append(f"iron={in_pot.key}")
        title.append(f"iron {in_pot.dose_words} in the pot")
    route = shelf.mordant_route(levels.get("mordant", ""))
    before = bool((route and route.brings_iron) or (iron and iron.route == "mordant" and iron.is_dosed))
    if before and plan.iron_with_alum == "apart":
        # Iron spreads: pieces that bring it are dyed apart from the others.
        key.append("iron-mordanted")
        title.append("iron-mordanted pieces")
    if plan.mordants_in_dye_bath == "apart" and "mordant" in levels:
        key.append(f"mordant={levels['mordant']}")
        title.append(f"on {label_of(plan, levels, 'mordant')}")
    lot = shelf.dye_lot(dye)
    process = WAYS.get(("process", levels.get("process", "")))
    temperature = value_of(plan, levels, "temperature")
    if temperature is None:
        temperature = process.temperature_c if process else None
    if temperature is None:
        temperature = lot.temperature_c if lot else None
    dip = whole_value_of(plan, levels, "dip")
    strength = level_of(plan, levels, "strength")
    extraction = level_of(plan, levels, "extraction")
    usual = process.duration_min if process else USUAL_MIN
    return Bath(
        key=":".join(key),
        bath="dye",
        title=", ".join(title),
        dye=dye,
        strength_percent_wof=strength.value if strength else None,
        dose_g=strength.grams if strength else None,
        extraction=levels.get("extraction"),
        recipe=extraction.recipe if extraction else None,
        process=levels.get("process"),
        temperature_c=temperature,
        duration_min=whole_value_of(plan, levels, "duration") or usual,
        ph=ph,
        dip=dip,
        iron_percent_wof=(in_pot.value or None) if in_pot else None,
        iron_g=in_pot.grams if in_pot else None,
        has_iron=bool(in_pot) or before or any(_is_iron(a.item) for a in added),
        additions=tuple(a for a in added if a.dip == (dip or 1)),
        reheats=whole_value_of(plan, levels, "reheats") or 0,
        rest_min=whole_value_of(plan, levels, "rest") or 0,
    )


def _is_iron(item: str) -> bool:
    return "iron" in item
