"""The log to be read and taken away, the record of one swatch, and the run that makes up."""

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from zesty_grid.api.answers import Created
from zesty_grid.api.benches import study_bench
from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.dye.log import pulls_of, ticked_at
from zesty_grid.core.dye.log_words import LogLine, log_lines, search
from zesty_grid.core.dye.make_up import make_up_plan
from zesty_grid.core.dye.swatch_record import SwatchRecord, hand_lines, lost_of, passages_of
from zesty_grid.core.plan.controls import all_cells
from zesty_grid.core.plan.swatches import swatches_of
from zesty_grid.formats.log_csv import log_csv
from zesty_grid.store.plan import NotFound, create_study
from zesty_grid.store.read import list_readings

router = APIRouter(prefix="/api/studies/{study_id}", tags=["dye"])
Short = Annotated[str, Query(max_length=600)]


@router.get("/dye/log")
def read_log(
    study_id: RowId, store: Store, text: Short = "", who: Short = "", vessel: Short = "",
    kind: Short = "",
) -> list[LogLine]:  # fmt: skip
    """Every entry, the newest first, corrected ones included; narrowed by what is asked."""
    with store.connection() as connection:
        at_bench = study_bench(connection, study_id)
    return search(log_lines(at_bench.entries, at_bench.bench), text, who, vessel, kind)


@router.get("/dye/log.csv")
def export_log(
    study_id: RowId, store: Store, text: Short = "", who: Short = "", vessel: Short = "",
    kind: Short = "",
) -> Response:  # fmt: skip
    lines = read_log(study_id, store, text, who, vessel, kind)
    headers = {"Content-Disposition": 'attachment; filename="bench-log.csv"'}
    return Response(log_csv(lines), media_type="text/csv; charset=utf-8", headers=headers)


@router.get("/swatches/{code}")
def swatch_record(study_id: RowId, code: str, store: Store) -> SwatchRecord:
    """One swatch, from the Shelf to its last reading."""
    with store.connection() as connection:
        at_bench = study_bench(connection, study_id)
        readings = [one for one in list_readings(connection, study_id) if one.swatch == code]
    plan = at_bench.study.stored.plan
    places = {p.key: p for p in swatches_of(at_bench.study.cells, plan.replicates)}
    key = next((key for key, own in at_bench.codes.items() if own == code and key in places), None)
    if key is None:
        raise NotFound("swatch")
    cell = next(cell for cell in at_bench.study.cells if cell.key == places[key].cell)
    fibre = at_bench.study.shelf.fibre(cell.levels.get("fibre", ""))
    log = at_bench.log
    lines = log_lines(log, at_bench.bench)
    done = {
        one.vessel.key
        for one in at_bench.bench
        if ticked_at(log, one.vessel.key, one.steps[-1].key)
    }
    return SwatchRecord(
        code=code, tie=at_bench.ties().get(key, ""), cell=cell.key, levels=cell.levels,
        control=cell.control or "", mass_g=plan.swatch_mass_g,
        fibre_words=f"{fibre.name}, {fibre.fibre_class}. {fibre.note}" if fibre else "",
        passages=tuple(passages_of(key, code, at_bench.bench, lines, done)),
        pulls=tuple(pull for pull in pulls_of(at_bench.bench, log) if pull.swatch == code),
        marks=tuple(mark for mark in at_bench.marks() if mark.swatch == code),
        hand=tuple(hand_lines(code, lines, log)), readings=tuple(readings),
    )  # fmt: skip


@router.post("/dye/make-up", status_code=201)
def plan_make_up(study_id: RowId, store: Store) -> Created:
    """A study for the lost cells only; its swatches get codes of their own."""
    with store.transaction() as connection:
        at_bench = study_bench(connection, study_id)
        lost = lost_of(at_bench.marks())
        cell_of = {
            at_bench.codes[place.key]: place.cell
            for place in swatches_of(at_bench.study.cells, at_bench.study.stored.plan.replicates)
        }
        plan = make_up_plan(
            at_bench.study.stored.plan, at_bench.study.cells,
            {cell_of[code] for code in lost if code in cell_of},
        )  # fmt: skip
        return Created(id=create_study(connection, plan, all_cells(plan, at_bench.study.shelf)))
