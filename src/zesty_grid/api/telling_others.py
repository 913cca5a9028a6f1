"""A study for others: a report, numbers, palettes."""

from datetime import datetime
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from fastapi.responses import Response

from zesty_grid.api.compare import fading as fading_effects
from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.compare.coloured import Coloured
from zesty_grid.core.compare.report import Report, Told, TrialTold, report_of
from zesty_grid.core.dye.log_words import log_lines
from zesty_grid.core.plan.grid import grid_of
from zesty_grid.core.read.sheet_layout import Paper
from zesty_grid.core.words.real_differences import in_words
from zesty_grid.formats.palette import colours_csv, palette_css, palette_svg, palette_text
from zesty_grid.formats.study_report import study_report_html, study_report_pdf
from zesty_grid.store.catalogue import every_stage, every_state, every_zone
from zesty_grid.store.compared import study_compared
from zesty_grid.store.dye import standing_entries
from zesty_grid.store.fade import list_points
from zesty_grid.store.plan import level_labels
from zesty_grid.store.standing import standing_study
from zesty_grid.store.study_facts import one_study

router = APIRouter(prefix="/api/studies/{study_id}", tags=["tell"])

PALETTES = {"css": palette_css, "svg": palette_svg, "txt": palette_text}
MEDIA = {"css": "text/css", "svg": "image/svg+xml", "txt": "text/plain"}
# What of the log is worth telling others; ticks and timers are not.
TOLD_KINDS = ("deviation", "note", "addition", "reheat", "placed", "cure")
Codes = Annotated[str, Query(max_length=20_000, description="codes, with commas; empty: all")]


@router.get("/report.pdf", response_class=Response)
def report_pdf(study_id: RowId, store: Store, paper: Paper = "A4") -> Response:
    pdf = study_report_pdf(_report(study_id, store), paper)
    return Response(pdf, media_type="application/pdf")


@router.get("/report.html", response_class=Response)
def report_html(study_id: RowId, store: Store) -> Response:
    page = study_report_html(_report(study_id, store))
    return Response(page, media_type="text/html; charset=utf-8")


@router.get("/colours.csv", response_class=Response)
def numbers(study_id: RowId, store: Store) -> Response:
    """Every colour of the study: states, zones, stages."""
    with store.connection() as connection:
        pieces = [
            *every_state(connection, study_id),
            *every_zone(connection, study_id),
            *every_stage(connection, study_id),
        ]
    return _file(colours_csv(pieces), "text/csv", "colours.csv")


@router.get("/palette.{kind}", response_class=Response)
def palette(study_id: RowId, kind: Literal["css", "svg", "txt"], store: Store, codes: Codes = "") -> Response:
    """The newest colour of each swatch, or of those that are named."""
    wanted = {code for code in codes.split(",") if code}
    with store.connection() as connection:
        newest = _newest(every_state(connection, study_id))
    pieces = [one for one in newest.values() if not wanted or one.code in wanted]
    return _file(PALETTES[kind](pieces), MEDIA[kind], f"palette.{kind}")


def _file(content: str, media: str, name: str) -> Response:
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(content, media_type=f"{media}; charset=utf-8", headers=headers)


def _newest(states: list[Coloured]) -> dict[str, Coloured]:
    return {one.code: one for one in states}


def _report(study_id: int, store: Store) -> Report:
    with store.connection() as connection:
        standing = standing_study(connection, study_id)
        compared, names = study_compared(connection, standing)
        if compared:
            compared = compared.model_copy(update={"words": tuple(in_words(compared, names))})
        newest = _newest(every_state(connection, study_id))
        facts = one_study(connection, standing).facts
        entries = standing_entries(connection, study_id, kinds=TOLD_KINDS)
        lines = log_lines(entries, standing.bench, labels=level_labels(connection, study_id))
        points = list_points(connection, study_id)
    trials = [
        TrialTold(
            name=one.name,
            stage=one.stage,
            effects=one.effects,
            lines=[
                (p.swatch, one.stage, f"{p.difference.de00:.1f}", p.rating_words)
                for p in points.get(one.trial, ())
                if p.swatch in newest and p.stage == one.stage_number
            ],
        )
        for one in fading_effects(study_id, store)
    ]
    return report_of(
        Told(
            plan=standing.plan,
            grid=grid_of(standing.planned),
            newest=newest,
            compared=compared,
            words=names,
            trials=trials,
            facts=facts,
            log=[
                (f"{line.at.astimezone():%-d %b %Y, %H:%M}", line.vessel, f"{line.kind_words}: {line.words}")
                for line in reversed(lines)
            ],
            made_on=f"{datetime.now().astimezone():%-d %b %Y}",
        )
    )
