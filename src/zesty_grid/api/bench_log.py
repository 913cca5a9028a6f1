"""The log to be read and taken away, and the run that makes up for what was lost."""

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from zesty_grid.api.answers import MadeAgain
from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.dye.log_words import LogLine, log_lines, search
from zesty_grid.core.dye.other_pots import OtherPot
from zesty_grid.core.plan.open_places import with_open_made_again
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.log_csv import log_csv
from zesty_grid.store.dye import list_entries
from zesty_grid.store.keeping import save_plan
from zesty_grid.store.other_pots import other_pots_of
from zesty_grid.store.plan import level_labels
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


@router.get("/other-pots/{code}")
def where_else(study_id: RowId, code: str, store: Store) -> list[OtherPot]:
    """In which pots a swatch may have been instead of its own, the likeliest first."""
    with store.connection() as connection:
        return other_pots_of(connection, study_id, code)


@router.post("/make-again")
def make_again(study_id: RowId, store: Store) -> MadeAgain:
    """Plans a new piece for every open place, in this study; its pots are filled as before."""
    with store.transaction() as connection:
        before = standing_study(connection, study_id)
        plan = with_open_made_again(before.planned)
        if plan == before.plan:
            raise Refusal(
                "nothing-open", "No place in the grid stands open.", "Say first which piece was lost or went elsewhere."
            )
        after = save_plan(connection, study_id, before.stored.revision, plan)
        known = before.planned.by_code.keys()
        new = [swatch.code for swatch in after.planned.planned if swatch.code not in known]
        pots = [one.name for one in after.bench if not one.begun and set(new) & set(one.vessel.swatches)]
        return MadeAgain(swatches=tuple(new), vessels=tuple(pots))
