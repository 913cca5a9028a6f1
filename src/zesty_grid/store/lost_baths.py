"""Baths of an older file that its plan no longer held: kept by what the log knows of them."""

from collections.abc import Iterable

from zesty_grid.core.dye.step import Step
from zesty_grid.core.plan.bath import BATH_ORDER, KIND_OF_LETTERS, BathKind
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.taken import number_of
from zesty_grid.core.weigh.amounts import VesselAmounts

TITLE = "A bath that the plan no longer held"
NOT_KNOWN = "not known: the plan had changed before baths were kept as they were"


def lost_name(key: str, taken: Iterable[str]) -> str:
    """The next free name for a bath of the kind that its old key tells."""
    letters = BATH_ORDER[_kind(key)]
    own = [name for name in taken if name.rstrip("0123456789") == letters]
    return f"{letters}{max((number_of(name) for name in own), default=0) + 1}"


def lost_bath(name: str, key: str, steps: Iterable[str], swatches: Iterable[str]) -> BenchVessel:
    """What can be said of such a bath: its steps as they were logged, and who was named."""
    vessel = Vessel(
        key=key[:600], bath=KIND_OF_LETTERS[name.rstrip("0123456789")], title=TITLE, name=name,
        run_order=0, on_shelf=None, on_shelf_name="", volume_ml=0, swatches=tuple(swatches),
        cells=(),
    )  # fmt: skip
    amounts = VesselAmounts(vessel=name, dry_fibre_g=0, dry_fibre_working=NOT_KNOWN, figures=())
    return BenchVessel(
        vessel=vessel, amounts=amounts,
        steps=tuple(
            Step(key=step, title=step.replace("-", " ").capitalize())
            for step in dict.fromkeys(steps)
        ),
    )  # fmt: skip


def _kind(key: str) -> BathKind:
    word = key.partition(":")[0].replace("-", " ")
    return next((kind for kind in BATH_ORDER if kind == word), "dye")
