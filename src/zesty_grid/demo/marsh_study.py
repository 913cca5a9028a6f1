"""The demo study, made up: a field station by a salt marsh and three plants that grow there."""

from zesty_grid.core.fade.trial import StagePlan, TrialPlan, light_dose_lxh
from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.factors import Factor, Level
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.shelf.items import DyeLot

DYE_LOTS = (
    DyeLot(key="coreopsis", name="Dyer's coreopsis", part="flower heads", state="dried",
           collected="station garden, August 2026", strength_percent_wof=80, temperature_c=80,
           duration_min=60),
    DyeLot(key="alder-cones", name="Alder cones", part="cones", state="dried",
           collected="edge of the creek, November 2025", strength_percent_wof=150,
           temperature_c=90, duration_min=90),
    DyeLot(key="elderberry", name="Elderberries", part="berries", state="frozen",
           collected="sea wall hedge, September 2026", strength_percent_wof=200,
           temperature_c=60, duration_min=60,
           note="Raw berries upset the stomach: do not taste; ventilate."),
)  # fmt: skip


def marsh_plan() -> StudyPlan:
    factors = (
        Factor(kind="fibre", levels=(
            Level(key="wool", label="Wool"), Level(key="silk", label="Silk"),
            Level(key="cotton", label="Cotton"), Level(key="linen", label="Linen"),
        )),
        Factor(kind="mordant", levels=(
            Level(key="none", label="No mordant"), Level(key="alum-hot", label="Alum"),
            Level(key="tannin-alum", label="Tannin, then alum"),
        )),
        Factor(kind="dye", levels=(
            Level(key="coreopsis", label="Coreopsis"),
            Level(key="alder-cones", label="Alder cones"),
            Level(key="elderberry", label="Elderberry"),
        )),
        Factor(kind="ph", levels=(
            Level(key="ph-4.5", label="pH 4.5", value=4.5),
            Level(key="ph-7", label="pH 7", value=7),
            Level(key="ph-9", label="pH 9", value=9),
        )),
        Factor(kind="iron", levels=(
            Level(key="iron-0", label="No iron", value=0),
            Level(key="iron-1", label="Iron 1 %", value=1),
        )),
    )  # fmt: skip
    plan = StudyPlan(
        name="Salt marsh plants, autumn",
        question="Which of three plants by the marsh give colours that last, on which fibre, and "
        "what do pH and iron do to them?",
        factors=factors,
        rows=("fibre", "mordant"),
        columns=("dye", "ph", "iron"),
        controls=("undyed",),
        swatch_mass_g=4.0,
        liquor_ratio_ml_per_g=30,
    )
    return plan


def left_out(cells: list[Cell]) -> tuple[str, ...]:
    """By hand: tannin first on wool and silk, and unmordanted pieces away from pH 7."""
    return tuple(
        cell.key
        for cell in cells
        if (
            cell.levels.get("mordant") == "tannin-alum" and cell.levels["fibre"] in ("wool", "silk")
        )
        or (cell.levels.get("mordant") == "none" and cell.levels.get("ph") != "ph-7")
    )


def in_trials(cell: Cell) -> bool:
    """The swatches that are cut up for light and washing: suited mordants, neutral bath."""
    suited = {"wool": "alum-hot", "cotton": "tannin-alum"}
    levels = cell.levels
    return (
        levels.get("ph") == "ph-7"
        and suited.get(levels["fibre"]) == levels.get("mordant")
        and cell.included
    )


def light_trial(codes: tuple[str, ...]) -> TrialPlan:
    """A south window: 9 h a day at a mean of 14 klx behind glass."""
    days = (2, 4, 8, 16, 32)
    stages = tuple(
        StagePlan(label=f"{d} days", days=d, dose_lxh=light_dose_lxh(d, 9, 14_000)) for d in days
    )
    return TrialPlan(kind="light", name="South window", swatches=codes, stages=stages)


def wash_trial(codes: tuple[str, ...]) -> TrialPlan:
    stages = tuple(
        StagePlan(label="1 wash" if n == 1 else f"{n} washes", washes=n) for n in (1, 3, 5)
    )
    return TrialPlan(kind="wash", name="Neutral soap, 40 °C", swatches=codes, stages=stages)
