"""Probes in baths: what they read, against what it should be."""

from datetime import UTC, datetime, timedelta

from fastapi import APIRouter, Request

from zesty_grid.api.answers import ProbeNow
from zesty_grid.api.dye import needed_vessel
from zesty_grid.api.probe_hub import ProbeHub
from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.dye.dosing import DoseAdvice, chemistry_of, dose_advice
from zesty_grid.core.dye.watching import Watch, alarms_of, band_of, put_in_by_hand, readings_by_hand
from zesty_grid.core.record.log import step_times
from zesty_grid.store.dye import standing_entries
from zesty_grid.store.probes import hung_probes, list_readings
from zesty_grid.store.shelf import load_shelf

router = APIRouter(prefix="/api", tags=["dye"])
SHOWN_FOR = timedelta(hours=30)


@router.get("/probes")
def list_probes(request: Request, store: Store) -> list[ProbeNow]:
    """Every probe that is heard, and where it hangs."""
    hub: ProbeHub = request.app.state.probes
    with store.connection() as connection:
        hung = {one.probe: one for one in hung_probes(connection)}
    return [
        ProbeNow(
            probe=line.probe,
            temperature_c=line.temperature_c,
            ph=line.ph,
            study=hung[line.probe].study if line.probe in hung else None,
            vessel=hung[line.probe].vessel if line.probe in hung else None,
        )
        for line in hub.newest()
    ]


@router.get("/studies/{study_id}/dye/watch")
def watch_bath(study_id: RowId, vessel: str, store: Store, step: str = "") -> Watch:
    """The curve of one bath with its band, and what is wrong now."""
    now = datetime.now(UTC)
    with store.connection() as connection:
        one = needed_vessel(connection, study_id, vessel)
        log = standing_entries(connection, study_id, vessel)
        probed = list_readings(connection, study_id, vessel, now - SHOWN_FOR)
    running = next((times.key for times in step_times(one, log) if times.runs), "")
    band = band_of(one, one.step(step) or one.step(running))
    by_hand = [r for r in readings_by_hand(log, vessel) if now - r.at <= SHOWN_FOR]
    readings = sorted([*probed, *by_hand], key=lambda reading: reading.at)
    alarms = alarms_of(readings, band, one.protein, one.may_boil, now)
    put_in = (one for one in put_in_by_hand(log, vessel) if now - one.at <= SHOWN_FOR)
    return Watch(vessel=vessel, band=band, readings=tuple(readings), put_in=tuple(put_in), alarms=tuple(alarms))


@router.get("/studies/{study_id}/dye/next-dose")
def next_dose_for(study_id: RowId, vessel: str, store: Store, step: str = "set-ph") -> DoseAdvice | None:
    """What to give next for the pH of a bath; nothing in a step that sets none."""
    with store.connection() as connection:
        one = needed_vessel(connection, study_id, vessel)
        log = standing_entries(connection, study_id, vessel)
        shelf = load_shelf(connection)
    return dose_advice(one, log, chemistry_of(shelf), step)
