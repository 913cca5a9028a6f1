"""What the API answers with beyond the core's own types."""

from datetime import datetime
from typing import Annotated

from pydantic import Field, NaiveDatetime

from zesty_grid.core.dye.bench_entry import BenchEntry
from zesty_grid.core.dye.iron_limits import IronLimit
from zesty_grid.core.dye.log import Mark, Pull, Timer
from zesty_grid.core.dye.protocol import Protocol
from zesty_grid.core.dye.scheduling.curing import Cure
from zesty_grid.core.dye.scheduling.day_plan import DayPlan
from zesty_grid.core.dye.step import Step
from zesty_grid.core.fade.trial import FadePoint, TrialPlan
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessels import Vessel
from zesty_grid.core.plan.working_out import WorkedPlan
from zesty_grid.core.weigh.amounts import VesselAmounts
from zesty_grid.core.weigh.cut_list import CutList
from zesty_grid.core.weigh.weighing import Weighing


class StudySummary(Frozen):
    id: int
    name: str
    question: str
    swatch_count: int
    read_count: int


class StudyView(WorkedPlan):
    """A study with all that follows from its plan. Codes go by swatch key.

    `recipes_kept`: dyeing has begun, and changes on the Shelf no longer move its recipes.
    """

    id: int
    revision: int
    plan: StudyPlan
    codes: dict[str, str]
    recipes_kept: bool


class SavePlan(Frozen):
    """`revision` is the one that was changed: a newer one is never overwritten unseen."""

    revision: Annotated[int, Field(ge=1)]
    plan: StudyPlan


class Created(Frozen):
    id: int


class Revision(Frozen):
    revision: int


class QuestionAnswers(Frozen):
    """What was chosen of a ready question, by choice; what is not named takes the usual."""

    answers: Annotated[dict[str, tuple[str, ...]], Field(max_length=10, default_factory=dict)]


class WeighView(Frozen):
    weighing: Weighing
    cut_list: CutList


class StepState(Frozen):
    step: Step
    begun_at: datetime | None
    done_at: datetime | None


class VesselBench(Frozen):
    """`inside` are the codes ticked in; `waits_for` names the vessels that come before.

    `iron_limits` go by code; `ready_at`: what was hung is dry and rested.
    """

    vessel: Vessel
    amounts: VesselAmounts
    codes: tuple[str, ...]
    inside: tuple[str, ...]
    steps: tuple[StepState, ...]
    waits_for: tuple[str, ...]
    iron_limits: dict[str, IronLimit]
    ready_at: datetime | None


class DyeView(Frozen):
    """`entries` is the whole log in order of arrival; `standing` the numbers of those that were
    not corrected or struck out."""

    vessels: tuple[VesselBench, ...]
    entries: tuple[BenchEntry, ...]
    standing: tuple[int, ...]
    pulls: tuple[Pull, ...]
    marks: tuple[Mark, ...]
    protocol: Protocol


class WhoIsIt(Frozen):
    vessel: Annotated[str, Field(min_length=1, max_length=600)]
    text: Annotated[str, Field(min_length=1, max_length=60)]


class PhotoKept(Frozen):
    photo: str


class PlanningState(Frozen):
    """A day plan in the making: `best` is what there is so far."""

    running: bool
    words: str
    seconds: float
    elapsed_s: float
    answers: int
    best: DayPlan | None
    problem: str
    short: tuple[str, ...]
    cures: tuple[Cure, ...]


class DayPlanView(Frozen):
    """`outdated`: the study has other baths or steps than when the plan was made."""

    plan: DayPlan | None
    outdated: bool
    planning: PlanningState | None


class NewDayPlan(Frozen):
    """`start`: not before then, in the bench's own time; None: from now."""

    seconds: Annotated[float, Field(ge=1, le=600)] = 20
    start: NaiveDatetime | None = None
    with_cures: bool = False


class MoveWork(Frozen):
    task: Annotated[str, Field(min_length=1, max_length=700)]
    starts_at: NaiveDatetime


class PinWork(Frozen):
    """`starts_at` None lets it go."""

    task: Annotated[str, Field(min_length=1, max_length=700)]
    starts_at: NaiveDatetime | None = None


class MadePlan(Frozen):
    begun: bool
    faults: tuple[str, ...] = ()


class ProbeNow(Frozen):
    """`study` and `vessel` None: it hangs in no bath."""

    probe: str
    temperature_c: float | None
    ph: float | None
    study: int | None
    vessel: str | None


class BenchNow(Frozen):
    """What runs, over all studies; `newest` is the number of the newest entry of any log."""

    timers: tuple[Timer, ...]
    newest: int
    now: datetime


class NewSheets(Frozen):
    """Lay out pages for all swatches as dyed, or for the pieces of a trial."""

    trial: int | None = None
    cells_per_page: Annotated[int, Field(ge=2, le=24)] = 12


class AcceptedCount(Frozen):
    readings: int


class TrialView(Frozen):
    id: int
    plan: TrialPlan
    points: tuple[FadePoint, ...]


class Task(Frozen):
    """Something that is due, and the lens in which it is done."""

    study: int
    study_name: str
    lens: str
    words: str
    count: int
