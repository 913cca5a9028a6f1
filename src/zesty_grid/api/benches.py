"""A study's bench with its log, as the routers need it."""

import sqlite3
from dataclasses import dataclass

from zesty_grid.api.shared import WorkedStudy, worked_study
from zesty_grid.core.dye.bench import BenchVessel, bench_of
from zesty_grid.core.dye.bench_entry import BenchEntry
from zesty_grid.core.dye.log import Mark, marks_of, standing
from zesty_grid.core.dye.protocol import Protocol
from zesty_grid.core.plan.working_out import ties_of
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.dye import list_entries, load_protocol
from zesty_grid.store.plan import swatch_codes


@dataclass(frozen=True)
class StudyBench:
    """`entries` is the whole log, `log` what of it stands."""

    study: WorkedStudy
    protocol: Protocol
    bench: list[BenchVessel]
    codes: dict[str, str]
    entries: list[BenchEntry]
    log: list[BenchEntry]

    def vessel(self, key: str) -> BenchVessel:
        for one in self.bench:
            if one.vessel.key == key:
                return one
        raise Refusal(
            "no-such-step",
            "This vessel or step is no longer in the plan.",
            "Reload the page: the plan has changed since.",
        )

    def codes_in(self, one: BenchVessel) -> tuple[str, ...]:
        return tuple(self.codes[swatch] for swatch in one.vessel.swatches)

    def marks(self) -> list[Mark]:
        """What went wrong, by swatch."""
        return marks_of(self.log, {one.vessel.key: self.codes_in(one) for one in self.bench})

    def ties(self) -> dict[str, str]:
        return ties_of(self.study.stored.plan, self.study.cells, self.study.vessels)


def study_bench(connection: sqlite3.Connection, study_id: int) -> StudyBench:
    study = worked_study(connection, study_id)
    protocol = load_protocol(connection, study_id)
    entries = list_entries(connection, study_id)
    return StudyBench(
        study=study, protocol=protocol,
        bench=bench_of(study.stored.plan, study.cells, study.vessels, study.shelf, protocol),
        codes=swatch_codes(connection, study_id), entries=entries, log=standing(entries),
    )  # fmt: skip
