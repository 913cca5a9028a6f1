"""Trials: planning them, noting what happens, the light that they get."""

from datetime import date
from typing import Annotated

from fastapi import APIRouter, File, Query, UploadFile
from fastapi.responses import Response

from zesty_grid.api.answers import Created, DoseBySource, DoseView, KeptLog, ProposalQuestion, TrialView
from zesty_grid.api.shared import RowId, Store
from zesty_grid.core.fade.conditions import KNOWN_CONDITIONS, Conditions
from zesty_grid.core.fade.light_record import agreement_words
from zesty_grid.core.fade.mounting_card import lay_out_cards
from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.fade.trial_choice import Candidate, Proposal, propose_swatches
from zesty_grid.core.fade.trial_entry import TrialEntry
from zesty_grid.core.fade.trial_state import TrialState, doses_by_source, has_uv
from zesty_grid.core.fade.window import WindowStay
from zesty_grid.core.fade.window_light import DoseOfLight, dose_in_window
from zesty_grid.core.read.sheet_layout import Paper
from zesty_grid.formats.calendar import trial_stages_ics
from zesty_grid.formats.light_log import MOST_BYTES, read_light_log
from zesty_grid.formats.mounting_cards import mounting_cards_pdf
from zesty_grid.formats.towns import Town, find_towns
from zesty_grid.store import fade as store_fade
from zesty_grid.store.database import Database
from zesty_grid.store.plan import NotFound, load_study
from zesty_grid.store.standing import standing_study

router = APIRouter(prefix="/api/studies/{study_id}/trials", tags=["fade"])
light_router = APIRouter(prefix="/api/light", tags=["fade"])


@router.get("", response_model=list[TrialView])
def get_trials(study_id: RowId, store: Store) -> Response:
    with store.connection() as connection:
        trials = [
            _with_points(
                TrialView(
                    id=row,
                    number=number,
                    plan=plan,
                    state=store_fade.state_of(connection, row),
                    points=(),
                    stains=tuple(store_fade.list_stains(connection, row)),
                    wools=tuple(store_fade.wool_readings(connection, row, plan)),
                    logs=tuple(KeptLog.model_validate(one) for one in store_fade.log_lines(connection, row)),
                ),
                store_fade.points_as_kept(connection, row),
            )
            for number, (row, plan) in enumerate(store_fade.list_trials(connection, study_id).items(), 1)
        ]
    return Response(f"[{','.join(trials)}]", media_type="application/json")


def _with_points(trial: TrialView, points: list[str]) -> str:
    """Points as they stand in the table: there are thousands, and each was checked before."""
    empty = '"points":[]'
    before, _, after = trial.model_dump_json().partition(empty)
    return f'{before}"points":[{",".join(points)}]{after}'


@router.post("", status_code=201)
def create_trial(study_id: RowId, plan: TrialPlan, store: Store) -> Created:
    with store.transaction() as connection:
        return Created(id=store_fade.add_trial(connection, study_id, plan))


@router.post("/proposal")
def propose(study_id: RowId, question: ProposalQuestion, store: Store) -> Proposal:
    """Swatches that tell most for so many pieces, of those given or of all in the grid."""
    with store.connection() as connection:
        planned = standing_study(connection, study_id).planned
    offered = set(question.among)
    candidates = [
        Candidate(one.code, planned.level_words(planned.levels(one)), one.control is not None)
        for one in planned.planned
        if not offered or one.code in offered
    ]
    return propose_swatches(candidates, question.pieces)


@router.post("/{trial_id}/entries", status_code=201)
def note(study_id: RowId, trial_id: RowId, entry: TrialEntry, store: Store) -> Created:
    """Notes what happened: the light, a stage, one left out or added, a turn."""
    with store.transaction() as connection:
        _must_be_of(store_fade.load_trial(connection, trial_id)[0], study_id)
        return Created(id=store_fade.add_entry(connection, trial_id, entry))


@router.post("/{trial_id}/logs", status_code=201)
def keep_log(study_id: RowId, trial_id: RowId, store: Store, log: Annotated[UploadFile, File()]) -> KeptLog:
    """Keeps a logger's file; its columns are found by what is in them."""
    data = log.file.read(MOST_BYTES + 1)
    found = read_light_log(data)
    with store.transaction() as connection:
        _must_be_of(store_fade.load_trial(connection, trial_id)[0], study_id)
        number = store_fade.add_light_log(connection, trial_id, (log.filename or "log.csv")[:120], data, found)
        line = next(one for one in store_fade.log_lines(connection, trial_id) if one["id"] == number)
    return KeptLog.model_validate({**line, "notes": found.notes})


@router.get("/{trial_id}/dose")
def dose(study_id: RowId, trial_id: RowId, store: Store, until: date | None = None) -> DoseView:
    """The light from the start to the last stage that was read, or to a day, by every source."""
    with store.connection() as connection:
        owner, plan = store_fade.load_trial(connection, trial_id)
        _must_be_of(owner, study_id)
        state = store_fade.state_of(connection, trial_id)
        logs = store_fade.light_logs(connection, trial_id)
        wools = store_fade.doses_by_wools(connection, trial_id, plan, has_uv(state.light))
    read = [one.on for one in state.stages if one.on]
    end = until or max(read, default=date.today())
    if state.light is None or state.starts_on is None or end <= state.starts_on:
        return DoseView(start=state.starts_on, end=end, sources=(), agreement=())
    known = doses_by_source(state.light, state.starts_on, end, logs)
    sources = [DoseBySource(name=name, dose=found, why_not=why) for name, found, why in known]
    last = max(wools, default=None)
    if last is not None and (told := wools[last]).dose_lxh:
        sources.append(
            DoseBySource(
                name="blue wools",
                why_not="",
                dose=DoseOfLight(
                    dose_lxh=told.dose_lxh,
                    low_lxh=told.low_lxh,
                    high_lxh=told.high_lxh,
                    direct_lxh=0,
                    uv=state.uv,
                    days=(),
                ),
            )
        )
    spoken = [(one.name, one.dose) for one in sources if one.dose]
    agreement = [agreement_words(spoken[0], other) for other in spoken[1:]] if spoken else []
    return DoseView(start=state.starts_on, end=end, sources=tuple(sources), agreement=tuple(agreement))


@router.get("/{trial_id}/cards.pdf", response_class=Response)
def cards(study_id: RowId, trial_id: RowId, store: Store, paper: Paper = "A4") -> Response:
    plan, state, name = _on_paper(store, study_id, trial_id)
    pdf = mounting_cards_pdf(plan, state, lay_out_cards(plan), name, paper)
    return Response(pdf, media_type="application/pdf")


@router.get("/{trial_id}/stages.ics", response_class=Response)
def stages_calendar(study_id: RowId, trial_id: RowId, store: Store) -> Response:
    """The stages that are due, for a calendar."""
    plan, state, name = _on_paper(store, study_id, trial_id)
    return Response(trial_stages_ics(plan, state, name, trial_id), media_type="text/calendar")


@light_router.get("/towns")
def towns(words: Annotated[str, Query(min_length=2, max_length=60)]) -> list[Town]:
    """Towns whose names begin so, the largest first."""
    return find_towns(words)


@light_router.post("/window")
def light_in_window(stay: WindowStay) -> DoseOfLight:
    """The light of each day of a stay in a window."""
    return dose_in_window(stay)


@light_router.get("/conditions")
def known_conditions() -> dict[str, tuple[Conditions, ...]]:
    """Conditions of washing, rubbing and wetting by name."""
    return {kind: tuple(found) for kind, found in KNOWN_CONDITIONS.items()}


def _on_paper(store: Database, study_id: int, trial_id: int) -> tuple[TrialPlan, TrialState, str]:
    """What cards and calendars are made of: the plan, how it stands, and the study's name."""
    with store.connection() as connection:
        owner, plan = store_fade.load_trial(connection, trial_id)
        _must_be_of(owner, study_id)
        state = store_fade.state_of(connection, trial_id)
        return plan, state, load_study(connection, study_id).plan.name


def _must_be_of(owner: int, study_id: int) -> None:
    if owner != study_id:
        raise NotFound("trial")
