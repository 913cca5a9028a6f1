"""The bench: vessels with their steps, the log, and who goes in."""

import hashlib
from typing import Annotated

from fastapi import APIRouter, File, UploadFile
from fastapi.responses import Response

from zesty_grid.api.answers import DyeView, PhotoKept, StepState, VesselBench, WhoIsIt
from zesty_grid.api.benches import StudyBench, study_bench
from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.dye.bench import BenchVessel
from zesty_grid.core.dye.bench_entry import BenchEntry, NewBenchEntry
from zesty_grid.core.dye.iron_limits import iron_limits
from zesty_grid.core.dye.label_scan import read_labels
from zesty_grid.core.dye.loading import Identified, who_is
from zesty_grid.core.dye.log import begun_at, loaded, pulls_of, ready_at, ticked_at
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.photo import MAX_BYTES, open_photo
from zesty_grid.store.dye import add_entry, add_photo, load_photo
from zesty_grid.store.plan import keep_recipes

router = APIRouter(prefix="/api/studies/{study_id}/dye", tags=["dye"])


@router.get("")
def get_bench(study_id: RowId, store: Store) -> DyeView:
    with store.connection() as connection:
        return _view(study_bench(connection, study_id))


@router.post("/entries", status_code=201)
def add_bench_entry(study_id: RowId, entry: NewBenchEntry, store: Store) -> BenchEntry:
    with store.transaction() as connection:
        at_bench = study_bench(connection, study_id)
        if not any(known.key == entry.key for known in at_bench.entries):
            _check(at_bench, entry)
        keep_recipes(connection, study_id, at_bench.study.shelf)
        return add_entry(connection, study_id, entry)


@router.post("/who")
def who_goes_in(study_id: RowId, asked: WhoIsIt, store: Store) -> Identified:
    """Who a code, a label or a tie is, and whether it belongs in the vessel; nothing is logged."""
    with store.connection() as connection:
        return _who(study_bench(connection, study_id), asked.vessel, asked.text)


@router.post("/scan")
def scan_labels(
    study_id: RowId, vessel: str, file: Annotated[UploadFile, File()], store: Store
) -> list[Identified]:
    """Everybody whose label is in the picture."""
    codes = read_labels(open_photo(file.file.read(MAX_BYTES + 1)))
    if not codes:
        raise Refusal("no-label", "No label can be read in this picture.",
                      "Nearer, sharper, flat, in more light; or type the code.")  # fmt: skip
    with store.connection() as connection:
        at_bench = study_bench(connection, study_id)
    return [_who(at_bench, vessel, code) for code in codes]


@router.post("/photos", status_code=201)
def keep_photo(study_id: RowId, file: Annotated[UploadFile, File()], store: Store) -> PhotoKept:
    """A picture for the log; kept once, whatever it is called."""
    data = file.file.read(MAX_BYTES + 1)
    open_photo(data)
    digest = hashlib.sha256(data).hexdigest()
    with store.transaction() as connection:
        study_bench(connection, study_id)
        add_photo(connection, digest, data)
    return PhotoKept(photo=digest)


@router.get("/photos/{digest}")
def get_photo(study_id: RowId, digest: str, store: Store) -> Response:
    with store.connection() as connection:
        return Response(load_photo(connection, study_id, digest), media_type="image/jpeg")


def _who(at_bench: StudyBench, vessel: str, text: str) -> Identified:
    one = at_bench.vessel(vessel)
    inside = loaded(at_bench.log, vessel)
    return who_is(text, one, at_bench.bench, at_bench.codes, at_bench.ties(), inside)


def _check(at_bench: StudyBench, entry: NewBenchEntry) -> None:
    """Refuses what the plan contradicts, in words."""
    unknown = [code for code in entry.swatches if code not in at_bench.codes.values()]
    if unknown:
        raise Refusal("no-such-swatch", f"{unknown[0]} is no swatch of this study.",
                      "Read the code again.")  # fmt: skip
    if not entry.vessel:
        if entry.kind not in ("note", "struck", "hand", "deviation", "cure", "probe"):
            raise Refusal("no-such-step", "This entry does not say at which vessel.",
                          "Choose the vessel, and say it again.")  # fmt: skip
        return
    one = at_bench.vessel(entry.vessel)
    if entry.step and one.step(entry.step) is None:
        raise Refusal("no-such-step", "This vessel or step is no longer in the plan.",
                      "Reload the page: the plan has changed since.")  # fmt: skip
    inside = at_bench.codes_in(one)
    strange = [code for code in entry.swatches if code not in inside]
    if strange and entry.kind in ("loaded", "pulled"):
        where = _who(at_bench, entry.vessel, strange[0])
        raise Refusal("wrong-swatch", where.words, "If it was dyed there all the same, say that "
                      "it went wrong: wrong swatch.")  # fmt: skip


def _view(at_bench: StudyBench) -> DyeView:
    return DyeView(
        vessels=tuple(_vessel(at_bench, one) for one in at_bench.bench),
        entries=tuple(at_bench.entries),
        standing=tuple(entry.id for entry in at_bench.log),
        pulls=tuple(pulls_of(at_bench.bench, at_bench.log)),
        marks=tuple(at_bench.marks()),
        protocol=at_bench.protocol,
    )


def _vessel(at_bench: StudyBench, one: BenchVessel) -> VesselBench:
    log, key, study = at_bench.log, one.vessel.key, at_bench.study
    names = {other.vessel.key: other for other in at_bench.bench}
    return VesselBench(
        vessel=one.vessel,
        amounts=one.amounts,
        codes=at_bench.codes_in(one),
        inside=tuple(loaded(log, key)),
        steps=tuple(
            StepState(
                step=step,
                begun_at=begun_at(log, key, step.key),
                done_at=ticked_at(log, key, step.key),
            )
            for step in one.steps
        ),
        waits_for=tuple(
            names[before].vessel.name
            for before in one.after
            if not ticked_at(log, before, names[before].steps[-1].key)
        ),
        iron_limits=iron_limits(one, study.stored.plan, study.cells, at_bench.codes, study.shelf),
        ready_at=ready_at(one, log, at_bench.protocol),
    )
