"""The steps of extracting a dye: soak, heat or soak in rounds, draw off, settle, share out."""

from collections.abc import Sequence

from zesty_grid.core.dye.step import Step
from zesty_grid.core.dye.step_parts import DAY, HOUR, OVERNIGHT_MIN, SET_PH_MIN, is_hot, said, warming_min
from zesty_grid.core.plan.extraction_recipe import ExtractionRecipe
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.shelf.items import DyeLot
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.amounts import VesselAmounts
from zesty_grid.core.weigh.cautions import ACID, ALKALI, HOT, POISONOUS_RAW, VENTILATE
from zesty_grid.core.weigh.extraction import ExtractShare, usual_recipe
from zesty_grid.core.weigh.hands import FILL_MIN, MEASURE_MIN, STIR_EVERY_MIN
from zesty_grid.core.weigh.working import volume_words

NIGHT_MIN = 16 * HOUR
DRAW_MIN, DECANT_MIN, SHARE_MIN = 6.0, 8.0, 10.0
DRAW = "draw"


def extract_steps(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf, shares: Sequence[ExtractShare]) -> list[Step]:
    """In the order in which they are done; `shares` say what is drawn off on the way."""
    lot = shelf.dye_lot(vessel.dye or "") or DyeLot(key="gone", name=vessel.title[:80])
    recipe = vessel.recipe or usual_recipe(vessel.extraction or "hot", lot)
    steps = [_lay_in(vessel, amounts, lot)]
    if recipe.soak_ph is not None:
        steps.append(_set_ph(recipe.soak_ph, amounts))
    if recipe.soak_min:
        steps.append(
            Step(
                key="soak",
                title="Leave it to soak, cold",
                duration_min=recipe.soak_min,
                shortest_min=recipe.soak_min,
                longest_min=recipe.soak_min + DAY,
                place="vessel",
                wants_ph=recipe.soak_ph is not None,
                detail="Covered; stir when you pass.",
            )
        )
    for turn in range(1, recipe.rounds + 1):
        steps += _round(vessel, shelf, recipe, turn)
        drawn = [share for share in shares if share.drawn_after == turn < recipe.rounds]
        if drawn:
            steps.append(_draw_off(turn, drawn))
    if recipe.settle_min:
        steps.append(
            Step(
                key="settle",
                title="Let it settle",
                duration_min=recipe.settle_min,
                shortest_min=recipe.settle_min,
                longest_min=recipe.settle_min + 2 * DAY,
                place="vessel",
                detail="Do not move it: the sludge sinks.",
            )
        )
    return [*steps, _share_out(vessel, recipe)]


def drawing_step(shares: Sequence[ExtractShare], vessel: str, rounds: int) -> str | None:
    """The step with which a vessel's share is drawn off, where that is not the last one."""
    for share in shares:
        if share.vessel == vessel and share.drawn_after and share.drawn_after < rounds:
            return f"{DRAW}-{share.drawn_after}"
    return None


def _lay_in(vessel: Vessel, amounts: VesselAmounts, lot: DyeLot) -> Step:
    stuff = next(f for f in amounts.figures if f.role == "dye stuff")
    water = next(f for f in amounts.figures if f.role == "water")
    poisonous = f" {POISONOUS_RAW}" if "poisonous raw" in lot.known_for else ""
    prepared = f" Prepared: {lot.preparation}." if lot.preparation else ""
    return Step(
        key="fill",
        title="Lay in the dye stuff",
        place="vessel",
        detail=f"{said(stuff)} in a mesh bag; {said(water)}.{prepared}",
        hands_min=FILL_MIN + MEASURE_MIN,
        caution=f"Identify the plant; do not taste. {VENTILATE}{poisonous}",
    )


def _set_ph(ph: float, amounts: VesselAmounts) -> Step:
    dose = amounts.ph.figure if amounts.ph else None
    given = f"{said(dose)} for plain water: give half" if dose else ("A little acid or alkali if need be")
    return Step(
        key="set-ph",
        title=f"Bring the soak to pH {ph:g}",
        wants_ph=True,
        duration_min=15,
        shortest_min=15,
        longest_min=2 * HOUR,
        hands_min=SET_PH_MIN,
        place="vessel",
        caution=ACID if ph < 7 else ALKALI,
        detail=f"{given}; wait 15 min, read again, then the "
        "rest. The stuff gives acids of its own: read it again when it has soaked.",
    )


def _round(vessel: Vessel, shelf: Shelf, recipe: ExtractionRecipe, turn: int) -> list[Step]:
    turns = recipe.rounds
    mark = "" if turns == 1 else f"-{turn}"
    named = "" if turns == 1 else f", {turn} of {turns}"
    minutes, last = recipe.heat_min, turn == turns
    if not is_hot(vessel.temperature_c):
        soak = Step(
            key=f"extract{mark}",
            title=f"Leave it to soak{named}",
            duration_min=minutes,
            shortest_min=minutes,
            longest_min=minutes + 2 * DAY,
            place="vessel",
            temperature_c=vessel.temperature_c,
            detail="Covered; stir when you pass.",
        )
        decant = Step(
            key=f"decant{mark}",
            title="Decant, and fill it up again",
            place="bench",
            hands_min=DECANT_MIN,
            detail="Without stirring up the sediment; keep what you pour off, lidded: the rounds are put together.",
        )
        return [soak] if last else [soak, decant]
    warm = warming_min(vessel.volume_ml / 1000, vessel.temperature_c or 0, shelf, slowly=False)
    night = NIGHT_MIN if recipe.daily and not last else 0
    return [
        Step(
            key=f"extract{mark}",
            title=f"Simmer{named}",
            temperature_c=vessel.temperature_c,
            duration_min=minutes,
            shortest_min=minutes,
            longest_min=minutes,
            warm_min=warm,
            heat=True,
            attended=True,
            place="vessel",
            stir_every_min=STIR_EVERY_MIN,
            hands_min=0 if turn == 1 and not recipe.soak_min else 2,
            caution=f"{VENTILATE} {HOT}",
            detail="Below a simmer for flowers and leaves; barks and seeds may simmer.",
        ),
        Step(
            key=f"steep{mark}",
            title="Let it steep",
            shortest_min=night,
            longest_min=OVERNIGHT_MIN + 8 * HOUR,
            duration_min=night or None,
            place="vessel",
            detail="Off the heat, lidded; overnight gives more.",
        ),
    ]


def _draw_off(turn: int, drawn: Sequence[ExtractShare]) -> Step:
    each = ", ".join(f"{volume_words(share.volume_ml)} for {share.vessel}" for share in drawn)
    whole_ml = sum(share.volume_ml for share in drawn)
    return Step(
        key=f"{DRAW}-{turn}",
        title="Draw some off",
        hands_min=DRAW_MIN,
        place="bench",
        detail=f"{each}, into marked, lidded jars; then {volume_words(whole_ml)} of water back in: the rest goes on.",
    )


def _share_out(vessel: Vessel, recipe: ExtractionRecipe) -> Step:
    if recipe.settle_min:
        return Step(
            key="finish",
            title="Decant it from its sludge, share the extract",
            place="bench",
            hands_min=SHARE_MIN,
            detail=f"Pour slowly and stop before the sludge; make it up to "
            f"{volume_words(vessel.volume_ml)} again. Into marked, lidded pots or buckets.",
        )
    return Step(
        key="finish",
        title="Lift the bag out, share the extract",
        hands_min=SHARE_MIN,
        detail=f"Press it out; make it up to {volume_words(vessel.volume_ml)} again; leave "
        "the sediment. Into marked, lidded pots or buckets.",
    )
