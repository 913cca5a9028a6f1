"""What the API answers with beyond the core's own types."""

from datetime import date, datetime
from typing import Annotated

from pydantic import Field

from zesty_grid.core.compare.between import ForetoldColour, HowWell
from zesty_grid.core.compare.compared import Compared
from zesty_grid.core.compare.laid_table import LaidTable
from zesty_grid.core.compare.misfits import Misfit
from zesty_grid.core.compare.real_numbers import NumberEffect
from zesty_grid.core.compare.twins import Mover, Parting, Twins
from zesty_grid.core.dye.maps import ClothMap
from zesty_grid.core.dye.protocol import Protocol
from zesty_grid.core.dye.scheduling.curing import Cure
from zesty_grid.core.dye.scheduling.day_plan import DayPlan
from zesty_grid.core.dye.step import Step
from zesty_grid.core.dye.swatch_record import Relative
from zesty_grid.core.eye.judging import Judged
from zesty_grid.core.fade.blue_wool import WoolReading
from zesty_grid.core.fade.fade_points import FadePoint, StainPoint
from zesty_grid.core.fade.lasting import TrialFading
from zesty_grid.core.fade.lasting_effects import FactorLasting
from zesty_grid.core.fade.life import Aged
from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.fade.trial_state import TrialState
from zesty_grid.core.fade.window_light import DoseOfLight
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.effects import PlanEffect
from zesty_grid.core.plan.factors import Code
from zesty_grid.core.plan.going_on import Dealt, GoingOn
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.plan.working_out import WorkedPlan
from zesty_grid.core.read.chart import Chart
from zesty_grid.core.read.cloth_readings import ClothReading, Drift, MeanColour
from zesty_grid.core.read.instrument import InstrumentSample
from zesty_grid.core.read.instrument_agreement import Agreement
from zesty_grid.core.read.said_by_hand import CellByHand
from zesty_grid.core.read.sheet_layout import Paper, PrintedKind
from zesty_grid.core.record.addition import Addition
from zesty_grid.core.record.bench_vessel import IronLimit
from zesty_grid.core.record.entry import BenchEntry
from zesty_grid.core.record.log import StepTimes
from zesty_grid.core.record.marks import Mark
from zesty_grid.core.record.passages import Passage
from zesty_grid.core.record.swatch import Levels, Swatch
from zesty_grid.core.record.wall_clock import WallClock
from zesty_grid.core.row_number import RowNumber
from zesty_grid.core.weigh.amounts import VesselAmounts
from zesty_grid.core.weigh.cut_list import CutList
from zesty_grid.core.weigh.weighing import Weighing
from zesty_grid.core.words.real_differences import Statement


class EyeAnswers(Frozen):
    judged: Annotated[tuple[Judged, ...], Field(max_length=400)]


class ExampleMade(Frozen):
    study: int


class StudySummary(Frozen):
    id: int
    name: str
    question: str
    swatch_count: int
    read_count: int


class Guest(Frozen):
    """A swatch of another study that takes part in a further treatment of this one; `words` say
    what it is there."""

    swatch: Swatch
    study: int
    study_name: str
    words: str


class StudyView(WorkedPlan):
    """A study with all that follows from its plan and stands in its record.

    `vessels` are all that the plan counts: those in `begun` as they were kept, the others as
    planned. `recipes_kept`: dyeing has begun, and changes on the Shelf no longer move its recipes.
    `entered_from`: the table from which its swatches were entered when they had been dyed.
    `comes_from` and `goes_into` are the studies whose swatches it starts from, or that start from
    its own.
    """

    id: int
    revision: int
    plan: StudyPlan
    begun: tuple[str, ...]
    recipes_kept: bool
    entered_from: str
    guests: tuple[Guest, ...]
    comes_from: tuple[Relative, ...]
    goes_into: tuple[Relative, ...]


class SavePlan(Frozen):
    """`revision` is the one that was changed: a newer one is never overwritten unseen."""

    revision: RowNumber
    plan: StudyPlan


class VersionLine(Frozen):
    """A saved version of a plan, and what was changed by it."""

    revision: int
    words: str
    saved_at: datetime


class Created(Frozen):
    id: int


class Revision(Frozen):
    revision: int


class QuestionAnswers(Frozen):
    """What was chosen of a ready question, by choice; what is not named takes the usual."""

    answers: Annotated[dict[str, tuple[str, ...]], Field(max_length=10, default_factory=dict)]


class GoOn(Frozen):
    """Further treatments for swatches, saved into the plan of `revision`."""

    revision: RowNumber
    wanted: GoingOn


class GoingOnTried(Frozen):
    """Who would get what, and what saving it would do."""

    dealt: Dealt
    effect: PlanEffect


class NewStudyFrom(Frozen):
    """A study on the cloth of earlier swatches; `mass_g` is that of new pieces where they are
    cut."""

    name: Annotated[str, Field(min_length=1, max_length=120)]
    swatches: Annotated[tuple[Code, ...], Field(min_length=1, max_length=200)]
    cut: bool = False
    mass_g: Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)] = 2.0


class WeighView(Frozen):
    weighing: Weighing
    cut_list: CutList


class StepState(Frozen):
    step: Step
    begun_at: datetime | None
    done_at: datetime | None


class VesselBench(Frozen):
    """`inside` are the codes ticked in; `missed` belonged in and it went on without them.
    `waits_for` names the vessels that come before. `reheats` are steps that no recipe has. `maps`
    say what lies where on its cloths.

    `iron_limits` go by code; `ready_at`: what was hung is dry and rested.
    """

    vessel: Vessel
    begun: bool
    amounts: VesselAmounts
    cautions: tuple[str, ...]
    settles: Levels
    inside: tuple[str, ...]
    missed: tuple[str, ...]
    steps: tuple[StepState, ...]
    reheats: tuple[StepTimes, ...]
    waits_for: tuple[str, ...]
    iron_limits: dict[str, IronLimit]
    ready_at: datetime | None
    maps: tuple[ClothMap, ...] = ()


class DyeView(Frozen):
    """`entries` is the whole log in order of arrival; `standing` the numbers of those that were
    not corrected or struck out; `passages` who was really in which bath."""

    vessels: tuple[VesselBench, ...]
    entries: tuple[BenchEntry, ...]
    standing: tuple[int, ...]
    passages: tuple[Passage, ...]
    marks: tuple[Mark, ...]
    protocol: Protocol


class MadeAgain(Frozen):
    """The new pieces for open places, and the pots into which they go."""

    swatches: tuple[str, ...]
    vessels: tuple[str, ...]


class WhoIsIt(Frozen):
    vessel: Annotated[str, Field(min_length=1, max_length=20)]
    text: Annotated[str, Field(min_length=1, max_length=60)]


class AddingTo(Frozen):
    """An addition to a bath, to be looked at before it is logged."""

    vessel: Annotated[str, Field(min_length=1, max_length=20)]
    addition: Addition


class AddingSaid(Frozen):
    """The same with its grams, in words, and what to ask before it is logged."""

    addition: Addition
    words: str
    question: str | None


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
    start: WallClock | None = None
    with_cures: bool = False


class MoveWork(Frozen):
    task: Annotated[str, Field(min_length=1, max_length=700)]
    starts_at: WallClock


class PinWork(Frozen):
    """`starts_at` None lets it go."""

    task: Annotated[str, Field(min_length=1, max_length=700)]
    starts_at: WallClock | None = None


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


class Timer(Frozen):
    """A step that runs. `due_at` None: it is watched, it has no end of its own."""

    study: int
    vessel: str
    vessel_title: str
    step: str
    title: str
    begun_at: datetime
    due_at: datetime | None
    stir_every_min: int | None
    iron_watch: bool


class BenchNow(Frozen):
    """What runs, over all studies; `newest` grows with every entry, photo and reading of any."""

    timers: tuple[Timer, ...]
    newest: int
    now: datetime


class LoggedEntry(BenchEntry):
    """`newest`, as in `BenchNow`, with this entry."""

    newest: int


class NewSheets(Frozen):
    """Lay out pages for all swatches that have none, or for the pieces of a trial; for `swatches`
    of these pages of their own, whatever lies elsewhere already. `chart` of the Shelf; None: the
    common one. `free_cells` of each page are left for a tile or a cloth of the Shelf."""

    trial: RowNumber | None = None
    swatches: Annotated[tuple[Code, ...], Field(max_length=2000)] = ()
    cells_per_page: Annotated[int, Field(ge=1, le=24)] = 12
    kind: PrintedKind = "cuttings"
    paper: Paper = "A4"
    free_cells: Annotated[int, Field(ge=0, le=12)] = 0
    chart: Annotated[str, Field(max_length=40)] | None = None


class AcceptedCount(Frozen):
    readings: int


class MeasureAgain(Frozen):
    """`cells`: what a person says of some of them; the others are found anew. `join`: other photos
    of the same sheet, to be read together with this one; they are then set aside."""

    cells: Annotated[tuple[CellByHand, ...], Field(max_length=24)] = ()
    join: Annotated[tuple[RowNumber, ...], Field(max_length=8)] = ()


class Discarding(Frozen):
    discarded: bool


class StillWaiting(Frozen):
    """A photo that was not accepted, and what it asks."""

    photo: int
    filename: str
    asks: tuple[str, ...]


class ClearAccepted(Frozen):
    accepted: tuple[int, ...]
    left: tuple[StillWaiting, ...]


class InstrumentLook(Frozen):
    samples: tuple[InstrumentSample, ...]


class InstrumentFileKept(Frozen):
    id: int
    filename: str
    instrument: str
    measured_on: str
    samples: tuple[InstrumentSample, ...]


class InstrumentView(Frozen):
    files: tuple[InstrumentFileKept, ...]
    agreements: tuple[Agreement, ...]


class TeachCamera(Frozen):
    """`in_use` False: what it was taught is used no more."""

    camera: Annotated[str, Field(max_length=120)]
    capture: RowNumber
    in_use: bool


class ClothView(Frozen):
    """A cloth or tile of the Shelf with all its readings; `drift` of a tile that was read often
    enough."""

    readings: tuple[ClothReading, ...]
    mean: MeanColour | None
    drift: Drift | None


class ChartText(Frozen):
    """A chart's file. `columns` of a table's patches; 0: as their names say. `pitch_mm` from middle
    to middle and `patch_mm` of its patches, where a person has measured them."""

    name: Annotated[str, Field(min_length=1, max_length=40)]
    content: Annotated[str, Field(min_length=1, max_length=4 * 1024 * 1024)]
    columns: Annotated[int, Field(ge=0, le=40)] = 0
    pitch_mm: Annotated[float, Field(ge=3, le=100, allow_inf_nan=False)] | None = None
    patch_mm: Annotated[float, Field(ge=3, le=100, allow_inf_nan=False)] | None = None


class ChartLook(Frozen):
    """The chart, a screen colour for each patch row by row, and what it serves for."""

    chart: Chart
    hexes: tuple[str, ...]
    serves: tuple[str, ...]


class KeptLog(Frozen):
    """A logger's file that was kept; `notes` say how it was understood."""

    id: int
    filename: str
    column: str
    watts: bool
    samples: int
    start: datetime
    end: datetime
    notes: tuple[str, ...] = ()


class ProposalQuestion(Frozen):
    """`among`: swatches to choose from; empty: all of the grid."""

    pieces: Annotated[int, Field(ge=1, le=500)]
    among: Annotated[tuple[str, ...], Field(max_length=2000)] = ()


class DoseBySource(Frozen):
    """`dose` None: this source says nothing of these days, and `why_not`."""

    name: str
    dose: DoseOfLight | None
    why_not: str


class DoseView(Frozen):
    """The light from the start up to the day before `end`, by each source, and how they agree."""

    start: date | None
    end: date
    sources: tuple[DoseBySource, ...]
    agreement: tuple[str, ...]


class LastingView(Frozen):
    fading: TrialFading
    factors: tuple[FactorLasting, ...]


class AgedGrid(Frozen):
    """All swatches after `count` years in a place, or washes; foretold, not seen."""

    place: str
    count: float
    dose: float
    swatches: tuple[Aged, ...]


class TrialView(Frozen):
    """A trial as it was planned and as it stands. `number` counts the trials of its study from 1;
    `logs`: loggers' files that were kept for it."""

    id: int
    number: int
    plan: TrialPlan
    state: TrialState
    points: tuple[FadePoint, ...]
    stains: tuple[StainPoint, ...] = ()
    wools: tuple[WoolReading, ...] = ()
    logs: tuple[KeptLog, ...] = ()


class EffectsView(Frozen):
    """`compared` None: too few swatches are read. `statements` say its effects in sentences and `effect_words` each of
    them, `depends` what depends on what, `chance` how many come by chance; `words` name factors and their levels.
    `third_lots`: cells of the plan that would part the levels of an effect, by its number."""

    compared: Compared | None
    statements: tuple[Statement, ...] = ()
    effect_words: tuple[str, ...] = ()
    depends: tuple[str, ...] = ()
    chance: tuple[str, ...] = ()
    words: dict[str, str]
    third_lots: dict[int, tuple[str, ...]] = Field(default_factory=dict)


class TrialEffects(Frozen):
    """What factors do to the change at one stage of a trial."""

    trial: int
    name: str
    stage: str
    stage_number: int
    swatches: int
    effects: tuple[NumberEffect, ...]


class KeptTable(Frozen):
    """Swatches laid side by side, under a name."""

    id: int
    table: LaidTable


class ForetoldCell(Frozen):
    """A cell of the grid that was not read, as it is foretold."""

    cell: str
    colour: ForetoldColour


class NumericFactor(Frozen):
    """A factor whose numbers can be chosen between those that were dyed."""

    factor: str
    low: float
    high: float


class BetweenView(Frozen):
    """`how_well` None: too few swatches to foretell anything."""

    how_well: HowWell | None
    cells: tuple[ForetoldCell, ...]
    numeric: tuple[NumericFactor, ...]
    factors: tuple[str, ...]


class OddView(Frozen):
    twins: tuple[Twins, ...]
    partings: tuple[Parting, ...]
    movers: tuple[Mover, ...]
    misfits: tuple[Misfit, ...]
