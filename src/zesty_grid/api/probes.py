"""Probes in baths: what they read, against what it should be."""

from datetime import UTC, datetime, timedelta

from fastapi import APIRouter, Request

from zesty_grid.api.answers import ProbeNow
from zesty_grid.api.benches import study_bench
from zesty_grid.api.probe_hub import ProbeHub
from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.dye.dosing import DoseAdvice, dose_advice
from zesty_grid.core.dye.log import begun_at, ticked_at
from zesty_grid.core.dye.watching import Watch, alarms_of, band_of, readings_by_hand
from zesty_grid.core.weigh.weighing import classes_in
from zesty_grid.store.probes import hung_probes, list_readings

router = APIRouter(prefix="/api", tags=["dye"])
SHOWN_FOR = timedelta(hours=30)


@router.get("/probes")
def list_probes(request: Request, store: Store) -> list[ProbeNow]:
    """Every probe that is heard, and where it hangs."""
    hub: ProbeHub = request.app.state.probes
    with store.connection() as connection:
        hung = {one.probe: one for one in hung_probes(connection)}
    return [
        ProbeNow(probe=line.probe, temperature_c=line.temperature_c, ph=line.ph,
                 study=hung[line.probe].study if line.probe in hung else None,
                 vessel=hung[line.probe].vessel if line.probe in hung else None)
        for line in hub.newest()
    ]  # fmt: skip


@router.get("/studies/{study_id}/dye/watch")
def watch_bath(study_id: RowId, vessel: str, store: Store, step: str = "") -> Watch:
    """The curve of one bath with its band, and what is wrong now."""
    now = datetime.now(UTC)
    with store.connection() as connection:
        at_bench = study_bench(connection, study_id)
        one = at_bench.vessel(vessel)
        probed = list_readings(connection, study_id, vessel, now - SHOWN_FOR)
    log = at_bench.log
    running = next(
        (
            s
            for s in one.steps
            if begun_at(log, vessel, s.key) and not ticked_at(log, vessel, s.key)
        ),
        None,
    )
    band = band_of(one, one.step(step) or running)
    by_hand = [r for r in readings_by_hand(log, vessel) if now - r.at <= SHOWN_FOR]
    readings = sorted([*probed, *by_hand], key=lambda reading: reading.at)
    study = at_bench.study
    protein = "protein" in classes_in(one.vessel, study.cells, study.shelf)
    may_boil = one.vessel.process == "bundle-print" or one.vessel.bath == "extract"
    return Watch(vessel=vessel, band=band, readings=tuple(readings),
                 alarms=tuple(alarms_of(readings, band, protein, may_boil, now)))  # fmt: skip


@router.get("/studies/{study_id}/dye/next-dose")
def next_dose_for(study_id: RowId, vessel: str, store: Store) -> DoseAdvice | None:
    with store.connection() as connection:
        at_bench = study_bench(connection, study_id)
    return dose_advice(at_bench.vessel(vessel), at_bench.log)
