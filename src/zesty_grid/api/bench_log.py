"""The log to be read and taken away, and the run that makes up for what was lost."""

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from zesty_grid.api.answers import Created
from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.dye.log_words import LogLine, log_lines, search
from zesty_grid.core.dye.make_up import make_up_plan
from zesty_grid.core.record.marks import to_be_made_again
from zesty_grid.formats.log_csv import log_csv
from zesty_grid.store.dye import list_entries
from zesty_grid.store.keeping import create_study
from zesty_grid.store.plan import level_labels
from zesty_grid.store.projecting import marks_for
from zesty_grid.store.signing import signed_entries
from zesty_grid.store.standing import standing_study

router = APIRouter(prefix="/api/studies/{study_id}/dye", tags=["dye"])
Short = Annotated[str, Query(max_length=600)]


@router.get("/log")
def read_log(
    study_id: RowId, store: Store, text: Short = "", who: Short = "", vessel: Short = "", kind: Short = ""
) -> list[LogLine]:
    """Every entry, the newest first, corrected ones included; narrowed by what is asked."""
    with store.connection() as connection:
        bench = standing_study(connection, study_id).bench
        lines = log_lines(
            list_entries(connection, study_id),
            bench,
            signed_entries(connection, study_id),
            level_labels(connection, study_id),
        )
    return search(lines, text, who, vessel, kind)


@router.get("/log.csv")
def export_log(
    study_id: RowId, store: Store, text: Short = "", who: Short = "", vessel: Short = "", kind: Short = ""
) -> Response:
    lines = read_log(study_id, store, text, who, vessel, kind)
    headers = {"Content-Disposition": 'attachment; filename="bench-log.csv"'}
    return Response(log_csv(lines), media_type="text/csv; charset=utf-8", headers=headers)


@router.post("/make-up", status_code=201)
def plan_make_up(study_id: RowId, store: Store) -> Created:
    """A study for the lost cells only; its swatches get codes of their own."""
    with store.transaction() as connection:
        planned = standing_study(connection, study_id).planned
        lost = to_be_made_again(marks_for(connection, study_id))
        cells = {planned.planned_cell(swatch) for code, swatch in planned.by_code.items() if code in lost}
        plan = make_up_plan(planned.plan, planned.cells, cells)
        words = f"makes up for what was lost in “{planned.plan.name}”"
        return Created(id=create_study(connection, plan, words))
