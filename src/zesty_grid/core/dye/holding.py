"""A bath while pieces are in it: what is put in and taken out on the way, heated again, left."""

from collections.abc import Sequence

from zesty_grid.core.dye.step import Step
from zesty_grid.core.dye.step_parts import DAY, HOUR, OVERNIGHT_MIN, cool, is_hot, said, warm_and_hold, warming_min
from zesty_grid.core.plan.planned_addition import BY_FIBRE_OR_BATH, PlannedAddition
from zesty_grid.core.plan.vessel import TakenOut, Vessel
from zesty_grid.core.record.addition import Addition
from zesty_grid.core.record.log import AGAIN
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.amounts import VesselAmounts
from zesty_grid.core.weigh.cautions import ACID, ALKALI, FUMES, HOT, IRON, POWDER, VENTILATE
from zesty_grid.core.weigh.hands import A_SWATCH_MIN, ENTER_MIN, STIR_EVERY_MIN
from zesty_grid.core.weigh.planned_additions import in_order
from zesty_grid.core.weigh.working import Figure

PUT_IN_MIN = 3.0
# Within a working day somebody stands by; a longer wait may end some hours late.
SHORT_MIN = 4 * HOUR
ADDITION_KEY = "add"
HEATED_AGAIN = "Heat it again"


def held(
    vessel: Vessel, amounts: VesselAmounts, shelf: Shelf, minutes: int, detail: str, title: str = ""
) -> list[Step]:
    """Warm and hold, or leave to soak, in as many stretches as things happen meanwhile."""
    later = [(one, key, figure) for one, key, figure in _additions(vessel, amounts) if one.after_min is not None]
    moments = sorted({one.after_min or 0 for one, _, _ in later} | {out.after_min for out in vessel.outs})
    if not moments:
        return [warm_and_hold(vessel, shelf, minutes, detail, title)]
    steps: list[Step] = []
    gone = part = 0
    for moment in [*moments, max(minutes, moments[-1])]:
        if moment > gone:
            part += 1
            steps.append(_stretch(vessel, shelf, moment - gone, detail, title, part))
            gone = moment
        if moment in moments:
            steps += [
                _put_in(vessel, amounts, one, key, figure, shelf)
                for one, key, figure in later
                if one.after_min == moment
            ]
            steps += [_take_out(out, i, vessel) for i, out in enumerate(vessel.outs, 1) if out.after_min == moment]
            moments = [one for one in moments if one != moment]
    return steps


def heated_again_and_left(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf) -> list[Step]:
    """Cooling in the bath; heated again on as many later days as planned; left to rest."""
    hot = is_hot(vessel.temperature_c)
    steps: list[Step] = []
    for turn in range(1, vessel.reheats + 1):
        steps += [
            cool(8 * HOUR, vessel.ph is not None).model_copy(
                update={"key": f"cool-{turn}", "title": "Leave it until tomorrow", "longest_min": 3 * DAY}
            ),
            _again(vessel, shelf, turn),
        ]
    if vessel.rest_min:
        steps.append(
            Step(
                key="rest",
                title="Leave the pieces in the bath",
                duration_min=vessel.rest_min,
                shortest_min=vessel.rest_min,
                longest_min=vessel.rest_min + OVERNIGHT_MIN,
                place="vessel",
                wants_ph=vessel.ph is not None,
                detail="Lidded, off the heat; turn them when you pass.",
            )
        )
    elif hot:
        steps.append(cool(wants_ph=vessel.ph is not None))
    return steps


def put_in_before(vessel: Vessel, amounts: VesselAmounts, shelf: Shelf, moment: str) -> list[Step]:
    """Steps for the planned additions of one moment before the pieces go in."""
    return [
        _put_in(vessel, amounts, one, key, figure, shelf)
        for one, key, figure in _additions(vessel, amounts)
        if one.moment == moment
    ]


def _additions(vessel: Vessel, amounts: VesselAmounts) -> list[tuple[PlannedAddition, str, Figure]]:
    figures: Sequence[Figure] = [figure for figure in amounts.figures if figure.moment]
    ordered = in_order(vessel.additions)
    return [
        (one, f"{ADDITION_KEY}-{i}", figure) for i, (one, figure) in enumerate(zip(ordered, figures, strict=True), 1)
    ]


def _stretch(vessel: Vessel, shelf: Shelf, minutes: int, detail: str, title: str, part: int) -> Step:
    step = warm_and_hold(vessel, shelf, minutes, detail, title)
    late = minutes if minutes <= SHORT_MIN else minutes + max(8 * HOUR, minutes // 10)
    changes: dict[str, object] = {"longest_min": minutes if step.heat else late}
    if part > 1:
        title = "Go on holding it" if step.heat else "Leave the others in"
        changes |= {"key": f"hold-{part}", "warm_min": 0, "title": title}
    return step.model_copy(update=changes)


def _again(vessel: Vessel, shelf: Shelf, turn: int) -> Step:
    minutes = vessel.duration_min or HOUR
    warm = warming_min(vessel.volume_ml / 1000, vessel.temperature_c or 0, shelf, slowly=True)
    return Step(
        key=f"{AGAIN}-{turn}",
        title=f"{HEATED_AGAIN}, {turn} of {vessel.reheats}",
        temperature_c=vessel.temperature_c,
        duration_min=minutes,
        shortest_min=minutes,
        longest_min=minutes,
        warm_min=warm,
        heat=True,
        attended=True,
        place="vessel",
        stir_every_min=STIR_EVERY_MIN,
        wants_ph=vessel.ph is not None,
        hands_min=2,
        detail="As slowly as before; look at the colour first.",
        caution=f"{VENTILATE} {HOT}",
    )


def _put_in(
    vessel: Vessel, amounts: VesselAmounts, one: PlannedAddition, key: str, figure: Figure, shelf: Shelf
) -> Step:
    does, warnings = _does(amounts, figure)
    inside = one.after_min is not None
    how = "Lift the pieces, stir it in, let them back." if inside else "Stir until it is dissolved."
    return Step(
        key=key,
        title=f"Put in the {figure.name}" if one.what == "substance" else f"Put in more {figure.name}",
        place="vessel",
        hands_min=PUT_IN_MIN,
        asks="addition",
        adds=_as_logged(one, figure, vessel.times),
        detail=f"{said(figure)}, {figure.moment}. {how} {does}".strip(),
        caution=f"{_caution(one, figure, shelf)} {warnings}".strip(),
    )


def _does(amounts: VesselAmounts, figure: Figure) -> tuple[str, str]:
    """What it does to the pH of the water, and its foam or slime, in words."""
    for after in amounts.course:
        if (after.name, after.moment) == (figure.name, figure.moment):
            return (
                f"In plain water the pH goes from {after.ph_before:.1f} to {after.ph_after:.1f}.",
                " ".join(after.warnings),
            )
    return "", ""


def _as_logged(one: PlannedAddition, figure: Figure, times: float) -> Addition:
    """The entry that says that it was put in as planned."""
    if one.what == "dye lot":
        if figure.volume_ml is not None:
            return Addition(what="extract", item=figure.name, amount=figure.volume_ml, unit="mL")
        return Addition(what="dye lot", item=one.item, amount=figure.grams or 0.01, unit="g")
    common = {"what": "substance", "item": one.item}
    if figure.stock_percent and figure.volume_ml:
        return Addition.model_validate(
            common | {"amount": figure.volume_ml, "unit": "mL", "stock_percent": figure.stock_percent}
        )
    if one.unit not in BY_FIBRE_OR_BATH and (times == 1 or figure.words):
        return Addition.model_validate(common | {"amount": one.amount * times, "unit": one.unit})
    if figure.volume_ml is not None:
        return Addition.model_validate(common | {"amount": figure.volume_ml, "unit": "mL"})
    return Addition.model_validate(common | {"amount": figure.grams, "unit": "g"})


def _caution(one: PlannedAddition, figure: Figure, shelf: Shelf) -> str:
    if one.what == "dye lot":
        return ""
    if "iron" in one.item:
        return IRON
    if one.item == "ammonia":
        return FUMES
    substance = next((each for each in shelf.substances if each.key == one.item), None)
    if substance and substance.role == "alkali":
        return ALKALI
    if substance and substance.role == "acid":
        return ACID
    return POWDER if substance and substance.stock_percent is None and figure.grams else ""


def _take_out(out: TakenOut, number: int, vessel: Vessel) -> Step:
    return Step(
        key=f"out-{number}",
        title=f"Take out {', '.join(out.swatches[:6])}" + (" …" if len(out.swatches) > 6 else ""),
        detail=f"{len(out.swatches)} of {len(vessel.swatches)} come out now: rinse them, hang them "
        "to dry; the others stay in.",
        hands_min=ENTER_MIN + A_SWATCH_MIN * len(out.swatches),
        place="vessel",
        asks="taking out",
        takes_out=out.swatches,
    )
