"""Two of the dyes once more in November, three pots of each: how far are pots apart?"""

from collections.abc import Iterator
from datetime import UTC, date, datetime, timedelta

import numpy as np

from zesty_grid.core.plan.factors import Factor, Level
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.entry import NewBenchEntry

BEGUN_AT = datetime(2026, 11, 2, 8, 0, tzinfo=UTC)
READ_ON = date(2026, 11, 14)
# Made up: pots of one recipe differ by some per cent of what goes onto the cloth.
POT_SPREAD = 0.05
# The dye lots are two months older than in the autumn.
OLDER = 0.93


def again_plan() -> StudyPlan:
    return StudyPlan(
        name="Yellow and grey again, November",
        question="Are coreopsis and alder cones what they were in the autumn, and how far do pots "
        "of one recipe differ?",
        factors=(
            Factor(kind="fibre", levels=(Level(key="wool", label="Wool"), Level(key="silk", label="Silk"))),
            Factor(kind="mordant", levels=(Level(key="alum-hot", label="Alum"),)),
            Factor(
                kind="dye",
                levels=(Level(key="coreopsis", label="Coreopsis"), Level(key="alder-cones", label="Alder cones")),
            ),
            Factor(kind="ph", levels=(Level(key="ph-7", label="pH 7", value=7),)),
            Factor(
                kind="iron",
                levels=(Level(key="iron-0", label="No iron", value=0), Level(key="iron-1", label="Iron 1 %", value=1)),
            ),
        ),
        rows=("fibre", "mordant"),
        columns=("dye", "ph", "iron"),
        replicates=3,
        replicate_vessels="apart",
        swatch_mass_g=4.0,
    )


def plain_log(bench: list[BenchVessel], begun_at: datetime = BEGUN_AT) -> Iterator[tuple[datetime, NewBenchEntry]]:
    """Every step of every bath, one after the other, without a mishap."""
    at = begun_at
    for one in bench:
        for step in one.steps:
            at += timedelta(minutes=max(5, (step.duration_min or 10) // 4))
            yield at, NewBenchEntry(vessel=one.name, step=step.key, kind="done")


def pot_share(dye: str, replicate: int) -> float:
    """How much a pot gives against its recipe."""
    rng = np.random.default_rng([len(dye), replicate])
    return OLDER * float(rng.normal(1, POT_SPREAD))
