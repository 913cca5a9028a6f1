"""A vessel at the bench with all that belongs to it: as planned, or kept as it stood when begun."""

from pydantic import Field

from zesty_grid.core.dye.step import Step
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.told import Promise
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.plan.water_baths import WaterBath
from zesty_grid.core.record.swatch import Levels
from zesty_grid.core.weigh.amounts import VesselAmounts
from zesty_grid.core.weigh.extraction import ExtractShare


class IronLimit(Frozen):
    """`planned_s` is what the plan wants, where it says so."""

    most_s: int
    planned_s: int | None


class BenchVessel(Frozen):
    """`begun`: its first step was logged; from then on nothing here is worked out again.

    `after` names the vessels that must be done with before its pieces (or its extract) are there,
    `draws_from` the extract that it takes its dye from, `shares` what an extract is put by for.
    `water_bath` names the jars that stand in one pot of water with it, itself among them.
    `settles` has the levels that a piece has by having been in it. `iron_limits` go by code.
    `rests_h` is the time from hanging up to reading. `promised`: what Tell said, with the first bath of a study.
    """

    vessel: Vessel
    amounts: VesselAmounts
    steps: tuple[Step, ...]
    after: tuple[str, ...] = ()
    draws_from: str | None = None
    shares: tuple[ExtractShare, ...] = ()
    cautions: tuple[str, ...] = ()
    settles: Levels = Field(default_factory=dict)
    protein: bool = False
    iron_limits: dict[str, IronLimit] = Field(default_factory=dict)
    rests_h: float = 0.0
    water_bath: WaterBath | None = None
    begun: bool = False
    promised: tuple[Promise, ...] | None = None

    @property
    def name(self) -> str:
        return self.vessel.name

    @property
    def may_boil(self) -> bool:
        return self.vessel.process == "bundle-print" or self.vessel.bath == "extract"

    @property
    def entry_step(self) -> str | None:
        """The step with which the pieces go in; None for an extract."""
        return next((step.key for step in self.steps if step.key in ("enter", "dip")), None)

    @property
    def leaving_step(self) -> str | None:
        """The step with which the pieces leave the vessel."""
        return next((s.key for s in self.steps if s.key in ("finish", "rinse")), None)

    def step(self, key: str) -> Step | None:
        return next((step for step in self.steps if step.key == key), None)
