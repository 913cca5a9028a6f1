"""What came after the first plan of the demo: a piece in the wrong pot, iron for half of the
yellows, and a study on cloth that is dyed already. Made up."""

from datetime import UTC, datetime

from zesty_grid.core.plan.factors import Factor, Level
from zesty_grid.core.plan.going_on import GoingOn, TreatmentChoice, deal_out, study_from
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.treatment import Treatment
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.entry import NewBenchEntry
from zesty_grid.core.record.placing import true_place
from zesty_grid.core.record.swatch import Levels

IRON_ON = datetime(2026, 9, 28, 9, 0, tzinfo=UTC)
LOST: Levels = {"fibre": "linen", "mordant": "none", "dye": "elderberry", "ph": "ph-7", "iron": "iron-0"}
YELLOWS = {"silk": "alum-hot", "linen": "tannin-alum"}


def wrong_pot(study: PlannedStudy, bench: list[BenchVessel]) -> tuple[str, BenchVessel]:
    """The piece that went into another dye bath than its own, and that bath."""
    code = next(one.code for one in study.planned if study.levels(one) == LOST)
    pots = [one for one in bench if one.vessel.bath == "dye"]
    into = next(one for one in pots if one.settles.get("dye") == "coreopsis" and one.settles.get("ph") == "ph-7")
    return code, into


def said_of_it(study: PlannedStudy, code: str, into: BenchVessel, at: datetime) -> NewBenchEntry:
    """That it counts as what it really became."""
    place = true_place(study, study.by_code[code], into)
    return NewBenchEntry(
        kind="placed",
        vessel=into.name,
        swatches=(code,),
        levels=place.levels,
        who="Imke",
        at=at,
        note="found when the pots were emptied",
    )


def yellows(study: PlannedStudy) -> tuple[str, ...]:
    """Coreopsis without iron, on silk and linen, at each pH."""
    wanted = {"dye": "coreopsis", "iron": "iron-0"}
    return tuple(
        swatch.code
        for swatch in study.planned
        if wanted.items() <= study.levels(swatch).items()
        and YELLOWS.get(swatch.fibre) == study.levels(swatch).get("mordant")
    )


def iron_for_half(study: PlannedStudy) -> tuple[Treatment, ...]:
    """Two per cent iron, thirty seconds, for half of the yellows; the others stay to compare."""
    codes = yellows(study)
    iron = Treatment(
        key="iron-1",
        name="Iron 2 %, 30 s",
        kind="iron",
        swatches=codes,
        iron_percent_wof=2,
        route="after-bath",
        seconds=30,
    )
    wanted = GoingOn(swatches=codes, choices=(TreatmentChoice(levels=(iron, None)),), seed=2)
    alike = {code: study.cell(study.by_code[code]) for code in codes}
    return deal_out(wanted, alike, ()).treatments


def over_dyed_plan(study: PlannedStudy, left: tuple[str, ...]) -> StudyPlan:
    """New pieces cut from the yellows that were left as they are, in two more dyes."""
    swatches = [study.by_code[code] for code in left]
    words = {one.code: study.words(one) for one in swatches}
    begun = study_from("Over-dyed yellows", swatches, words, cut=True, mass_g=1)
    second = Factor(
        kind="dye", levels=(Level(key="elderberry", label="Elderberry"), Level(key="alder-cones", label="Alder cones"))
    )
    return begun.model_copy(
        update={
            "question": "What do a purple and a brown make of the yellow that is there?",
            "factors": (*begun.factors, second),
            "columns": ("dye",),
        }
    )
