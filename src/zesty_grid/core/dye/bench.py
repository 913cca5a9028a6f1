"""All that is done at the bench for a study: every vessel with its amounts and its steps."""

from zesty_grid.core.dye.preparing import (
    extract_amounts,
    extract_vessels,
    extraction_of,
    scour_amounts,
    scour_vessels,
)
from zesty_grid.core.dye.protocol import Protocol, with_own_times
from zesty_grid.core.dye.step import Step
from zesty_grid.core.dye.steps import steps_of
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessels import Vessel
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.amounts import VesselAmounts
from zesty_grid.core.weigh.extraction import Extraction
from zesty_grid.core.weigh.weighing import amounts_of

# What may differ between the dips of one bath.
OF_ONE_DIP = {"key", "title", "name", "run_order", "swatches", "cells", "dip", "volume_ml",
              "on_shelf", "on_shelf_name"}  # fmt: skip


class BenchVessel(Frozen):
    """A vessel with what goes in and what is done. `after` holds the keys of the vessels that
    must be done with before its pieces (or its extract) are there."""

    vessel: Vessel
    amounts: VesselAmounts
    steps: tuple[Step, ...]
    after: tuple[str, ...]

    def step(self, key: str) -> Step | None:
        return next((step for step in self.steps if step.key == key), None)


def bench_of(
    plan: StudyPlan, cells: list[Cell], vessels: list[Vessel], shelf: Shelf, protocol: Protocol
) -> list[BenchVessel]:
    """Scours, extracts, and the vessels of the plan, in the order of the work."""
    amounts, extractions = amounts_of(plan, vessels, shelf)
    scours = scour_vessels(plan, cells, shelf) if protocol.scour and vessels else []
    extracts = extract_vessels(extractions, shelf)
    every = [
        *((one, scour_amounts(one, plan)) for one in scours),
        *((one, extract_amounts(one, extractions)) for one in extracts),
        *zip(vessels, amounts, strict=True),
    ]
    after = _before_each([vessel for vessel, _ in every], extractions)
    goes_on = _going_on([*scours, *vessels])
    return [
        BenchVessel(
            vessel=vessel, amounts=own, after=after[vessel.key],
            steps=tuple(
                with_own_times(
                    steps_of(vessel, own, shelf, goes_on.get(vessel.key, ())), vessel.bath, protocol
                )
            ),
        )
        for vessel, own in every
    ]  # fmt: skip


def _before_each(
    vessels: list[Vessel], extractions: list[Extraction]
) -> dict[str, tuple[str, ...]]:
    """For each vessel the ones directly before it: of its pieces, its extract, its earlier dip."""
    after: dict[str, list[str]] = {vessel.key: [] for vessel in vessels}
    last_of: dict[str, str] = {}
    for vessel in vessels:
        before = {last_of[swatch]: None for swatch in vessel.swatches if swatch in last_of}
        after[vessel.key] += before
        last_of |= dict.fromkeys(vessel.swatches, vessel.key)
        if vessel.bath == "extract":
            for share in extraction_of(vessel, extractions).shares:
                after[share.vessel].append(vessel.key)
        if (vessel.dip or 1) > 1 and (earlier := dip_before(vessel, vessels)):
            after[vessel.key].append(earlier.key)
    return {key: tuple(dict.fromkeys(keys)) for key, keys in after.items()}


def dip_before(vessel: Vessel, vessels: list[Vessel]) -> Vessel | None:
    """The vessel whose bath a later dip takes over."""

    def same_bath(other: Vessel) -> tuple[object, ...]:
        return tuple(other.model_dump(exclude=OF_ONE_DIP).values())

    earlier = [
        other
        for other in vessels
        if other.bath == vessel.bath
        and 0 < (other.dip or 0) < (vessel.dip or 0)
        and same_bath(other) == same_bath(vessel)
    ]
    return max(earlier, key=lambda other: other.dip or 0, default=None)


def _going_on(vessels: list[Vessel]) -> dict[str, tuple[str, ...]]:
    """For each vessel the swatches that have another bath after it."""
    last_of: dict[str, str] = {}
    for vessel in vessels:
        last_of |= dict.fromkeys(vessel.swatches, vessel.key)
    return {
        vessel.key: tuple(swatch for swatch in vessel.swatches if last_of[swatch] != vessel.key)
        for vessel in vessels
    }
