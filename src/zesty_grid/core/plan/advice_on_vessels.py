"""What the vessels of a plan should be warned about: their size, their heat, what they share."""

from zesty_grid.core.plan.advice_on_levels import IRON_LIMIT_PERCENT_WOF, MUCH_IRON
from zesty_grid.core.plan.found_advice import FoundAdvice
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessel import HOT_C, Vessel, fits
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.dye_stuff import dye_figure, parts_taken
from zesty_grid.core.weigh.heat import PLACE_EFFICIENCY, ROOM_C, warming_j
from zesty_grid.core.weigh.pieces_in import classes_in, is_glass
from zesty_grid.core.weigh.working import counted

LONGEST_WARMING_H = 2.0
CROWDED = 0.5
FORMS = {"bundle-print": "steamer", "sun-jar": "jar", "water-bath": "jar"}


def on_vessels(found: FoundAdvice, study: PlannedStudy, vessels: list[Vessel]) -> None:
    for vessel in vessels:
        _on_vessel(found, study, vessel)
        _on_liquor(found, study.plan, vessel)
        _on_iron_with_alum(found, study, vessel)
    _on_glass(found, study, vessels)
    _on_melting(found, vessels)
    _on_iron_in_grams(found, study, vessels)
    _on_shared_liquors(found, vessels)
    _on_heat_places(found, vessels, study.shelf)
    _on_lots(found, study, vessels)
    _on_counted(found, vessels, study.shelf)


def _on_vessel(found: FoundAdvice, study: PlannedStudy, vessel: Vessel) -> None:
    plan, shelf = study.plan, study.shelf
    if vessel.on_shelf is not None or not shelf.vessels:
        return
    for_iron = "iron-only " if vessel.has_iron else ""
    form = FORMS.get(vessel.process or "", "vessel")
    suited = [one for one in shelf.vessels if fits(vessel, one)]
    largest_g = max((study.by_code[code].mass_g for code in vessel.swatches), default=0.0)
    swatch_ml = largest_g * plan.liquor_ratio_ml_per_g
    if suited:
        text = f"No {for_iron}{form} holds even one swatch of {vessel.title}."
        reason = (
            f"One swatch of {largest_g:g} g at {plan.liquor_ratio_ml_per_g:g} mL/g needs "
            f"{swatch_ml:.0f} mL: take a smaller swatch, less liquor, or a larger {form}."
        )
    else:
        text = f"There is no {for_iron}{form} on the Shelf for {vessel.title}."
        reason = "Put one on the Shelf, with its litres, and the vessels are counted anew."
    found.add(f"vessel:{vessel.bath}:{for_iron}{form}", text, reason, vessel.cells)


def _on_liquor(found: FoundAdvice, plan: StudyPlan, vessel: Vessel) -> None:
    if vessel.dip and vessel.dip > 1 and vessel.liquor_of is None:
        found.add(
            f"no-first-dip:{vessel.key}",
            f"{vessel.name} {vessel.title} has no dip {vessel.dip - 1} before it.",
            "A later dip takes over the liquor of the dip before, in its vessel: put the cells of "
            "that dip back, or fill this bath anew as a dip 1.",
            vessel.cells,
        )
    ratio = vessel.volume_ml / vessel.dry_fibre_g if vessel.dry_fibre_g else 0.0
    if vessel.liquor_of and ratio < CROWDED * plan.liquor_ratio_ml_per_g:
        found.add(
            f"crowded:{vessel.key}",
            f"{vessel.name} takes over the bath of {vessel.liquor_of}: {ratio:.0f} mL for each g "
            f"of fibre, not {plan.liquor_ratio_ml_per_g:g}.",
            "Crowded pieces come out uneven: fewer or smaller pieces in the later dip, or more in the first.",
            vessel.cells,
        )


def _on_iron_with_alum(found: FoundAdvice, study: PlannedStudy, vessel: Vessel) -> None:
    if vessel.bath != "dye" or study.plan.iron_with_alum == "apart":
        return
    members = [study.by_code[code] for code in vessel.swatches]
    routes = {study.levels(one).get("mordant", "") for one in members}
    there = [route for key in routes if (route := study.shelf.mordant_route(key))]
    iron = study.plan.factor("iron")
    brings = {one.key for one in iron.levels if one.route == "mordant"} if iron else set()
    irons = any(route.brings_iron for route in there) or any(study.levels(one).get("iron") in brings for one in members)
    if irons and any(route.brings_alum for route in there):
        found.add(
            "iron-with-alum",
            "Iron- and alum-mordanted pieces share a bath on purpose.",
            "Iron wanders to the alum pieces and dulls them; the vessel counts as an iron vessel "
            "from then on. As a test of just that it is useful.",
            vessel.cells,
        )


def _on_melting(found: FoundAdvice, vessels: list[Vessel]) -> None:
    for vessel in vessels:
        if vessel.rolling and vessel.rolling.melts and (vessel.temperature_c or 0) > HOT_C:
            what = " and ".join(vessel.rolling.melts)
            found.add(
                "melts",
                f"{what[0].upper()}{what[1:]} melts in steam or a hot bath.",
                "Take cloth, paper, wood or metal; film only for what stays cold.",
                vessel.cells,
            )


def _on_glass(found: FoundAdvice, study: PlannedStudy, vessels: list[Vessel]) -> None:
    for vessel in vessels:
        bare = vessel.process not in ("water-bath", "sun-jar")
        if is_glass(study, vessel) and bare and (vessel.temperature_c or 0) > HOT_C:
            found.add(
                "glass-on-heat",
                "Glass jars would stand on bare heat.",
                "They crack: take the process “Jars in a water bath”, or choose a pot.",
                vessel.cells,
            )


def _on_shared_liquors(found: FoundAdvice, vessels: list[Vessel]) -> None:
    users: dict[str, list[Vessel]] = {}
    for vessel in vessels:
        if vessel.liquor_of and vessel.again is None:
            users.setdefault(vessel.liquor_of, []).append(vessel)
    for of, same in users.items():
        if len(same) > 1:
            names = " and ".join(vessel.name for vessel in same)
            found.add(
                f"shared-liquor:{of}",
                f"{names} both take over the bath of {of}: one after the other.",
                "What the first leaves is less: give each a first dip of its own, or leave one out.",
                [cell for vessel in same for cell in vessel.cells],
            )


def _on_heat_places(found: FoundAdvice, vessels: list[Vessel], shelf: Shelf) -> None:
    hot = [vessel for vessel in vessels if (vessel.temperature_c or 0) > HOT_C]
    strongest_w = max((p.power_w for p in shelf.heat_places if not p.retired), default=0.0)
    if hot and not strongest_w:
        found.add(
            "no-heat",
            f"{counted(len(hot), 'hot bath')}, and the Shelf has no heat place.",
            "Put a hotplate or a ring on the Shelf, or choose cold routes.",
            [cell for vessel in hot for cell in vessel.cells],
        )
        return
    for vessel in hot:
        rise_c = (vessel.temperature_c or 0) - ROOM_C
        joules = warming_j(vessel.volume_ml / 1000, rise_c)
        hours = joules / (strongest_w * PLACE_EFFICIENCY) / 3600
        if hours > LONGEST_WARMING_H:
            found.add(
                f"slow-heat:{vessel.name}",
                f"{vessel.name} would take {hours:.0f} h to warm on the strongest heat place.",
                f"{vessel.volume_ml / 1000:.0f} L to {vessel.temperature_c:g} °C with "
                f"{strongest_w:g} W: take a smaller bath or a stronger place.",
                vessel.cells,
            )


def _on_counted(found: FoundAdvice, vessels: list[Vessel], shelf: Shelf) -> None:
    for vessel in vessels:
        lot = shelf.dye_lot(vessel.dye or "")
        if lot and lot.measured == "counted" and lot.piece_g is None:
            found.add(
                f"never-weighed:{lot.key}",
                f"How much one {lot.piece_name} of {lot.name} weighs is not on the Shelf.",
                "Weigh one once: then strength, extract and stock are worked out from the count.",
                vessel.cells,
            )


def _on_iron_in_grams(found: FoundAdvice, study: PlannedStudy, vessels: list[Vessel]) -> None:
    """What grams for a bath are of the fibre is known only once its pieces are."""
    for vessel in vessels:
        percent = 100 * (vessel.iron_g or 0) / vessel.dry_fibre_g if vessel.dry_fibre_g else 0.0
        if percent > IRON_LIMIT_PERCENT_WOF and "protein" in classes_in(study, vessel):
            found.add(
                f"iron-g:{vessel.key}",
                f"{vessel.name}: {vessel.iron_g:g} g iron is {percent:.1f} % of its fibre.",
                MUCH_IRON,
                vessel.cells,
            )


def _on_lots(found: FoundAdvice, study: PlannedStudy, vessels: list[Vessel]) -> None:
    shelf = study.shelf
    wanted: dict[str, float] = {}
    cells: dict[str, list[str]] = {}
    for vessel in vessels:
        lot = shelf.dye_lot(vessel.dye or "")
        if lot is None or not vessel.has_own_liquor:
            continue
        for part, own in parts_taken(dye_figure(study.plan, vessel, lot, shelf), lot, shelf):
            wanted[part.key] = wanted.get(part.key, 0.0) + own
            cells.setdefault(part.key, []).extend(vessel.cells)
    for key, amount in wanted.items():
        own_lot = shelf.dye_lot(key)
        in_hand = own_lot.amount_in_hand_g if own_lot else None
        if own_lot and in_hand is not None and amount > in_hand:
            plain_liquid = own_lot.measured == "liquid" and not own_lot.solution_percent
            unit = "mL" if plain_liquid else "g"
            found.add(
                f"short:{key}",
                f"{own_lot.name} does not suffice: {amount:.0f} {unit} are needed, {in_hand:.0f} {unit} are in hand.",
                "Take smaller swatches, a weaker bath, fewer cells, or get more.",
                cells[key],
            )
