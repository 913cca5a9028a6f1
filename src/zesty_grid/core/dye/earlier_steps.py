"""Baths as versions before the fifth had them, for files of theirs in which baths had begun."""

from zesty_grid.core.dye.step import Step
from zesty_grid.core.dye.step_parts import FILL_MIN, MEASURE_MIN, said
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.shelf.shelf import Shelf

# What a print had in those versions, in that order.
OF_A_PRINT = ("fill", "extract", "wet-out", "enter", "hold", "cool", "rinse", "dry")


def shelf_of_before(shelf: Shelf) -> Shelf:
    """Extracts were simmered like any other stuff, and not yet measured straight in."""
    return shelf.model_copy(
        update={
            "dye_lots": tuple(
                lot.model_copy(update={"state": ""}) if lot.goes_straight_in else lot
                for lot in shelf.dye_lots
            )
        }
    )


def as_before(one: BenchVessel) -> BenchVessel:
    """The same bath with the steps that its log knows."""
    if one.vessel.process != "bundle-print":
        return one.model_copy(update={"steps": tuple(s for s in one.steps if s.key != "try")})
    there = {step.key: step for step in one.steps} | {step.key: step for step in _poured(one)}
    steps = tuple(there[key] for key in OF_A_PRINT if key in there)
    return one.model_copy(update={"steps": steps})


def _poured(one: BenchVessel) -> list[Step]:
    water = next(f for f in one.amounts.figures if f.role == "water")
    stuff = next(f for f in one.amounts.figures if f.role == "dye stuff")
    return [
        Step(key="fill", title="Fill the vessel", detail=said(water), hands_min=FILL_MIN,
             place="vessel"),
        Step(key="extract", title="Lay in the dye stuff", detail=said(stuff),
             hands_min=MEASURE_MIN, place="vessel"),
    ]  # fmt: skip
