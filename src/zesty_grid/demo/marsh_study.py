"""The demo study, made up: a field station by a salt marsh and three plants that grow there."""

from zesty_grid.core.plan.factors import Factor, Level
from zesty_grid.core.plan.printing import Rolling
from zesty_grid.core.plan.questions import plan_from_question
from zesty_grid.core.plan.study_plan import LeaveOutRule, StudyPlan
from zesty_grid.core.record.swatch import Levels
from zesty_grid.core.shelf.items import DyeLot
from zesty_grid.core.shelf.shelf import Shelf

DYE_LOTS = (
    DyeLot(
        key="coreopsis",
        name="Dyer's coreopsis",
        part="flower heads",
        state="dried",
        place="station garden",
        collected="August 2026",
        amount_in_hand_g=400,
        price_per_100_g=6,
        strength_percent_wof=80,
        temperature_c=80,
        duration_min=60,
    ),
    DyeLot(
        key="alder-cones",
        name="Alder cones",
        part="cones",
        state="dried",
        place="edge of the creek",
        collected="November 2025",
        amount_in_hand_g=900,
        strength_percent_wof=150,
        temperature_c=90,
        duration_min=90,
    ),
    DyeLot(
        key="elderberry",
        name="Elderberries",
        part="berries",
        state="frozen",
        place="sea wall hedge",
        collected="September 2026",
        amount_in_hand_g=600,
        spoils_above_c=60,
        strength_percent_wof=200,
        temperature_c=60,
        duration_min=60,
        note="Raw berries upset the stomach: do not taste; ventilate.",
    ),
)
RULES = (
    LeaveOutRule(
        levels={"mordant": ("tannin-alum",)},
        fibre_classes=("protein",),
        reason="Tannin is there to hold alum on plant fibre.",
    ),
    LeaveOutRule(
        levels={"mordant": ("none",), "ph": ("ph-4.5", "ph-9")},
        reason="Unmordanted pieces are controls: one pH is enough.",
    ),
)


def marsh_plan() -> StudyPlan:
    factors = (
        Factor(
            kind="fibre",
            levels=(
                Level(key="wool", label="Wool"),
                Level(key="silk", label="Silk"),
                Level(key="cotton", label="Cotton"),
                Level(key="linen", label="Linen"),
            ),
        ),
        Factor(
            kind="mordant",
            levels=(
                Level(key="none", label="No mordant"),
                Level(key="alum-hot", label="Alum"),
                Level(key="tannin-alum", label="Tannin, then alum"),
            ),
        ),
        Factor(
            kind="dye",
            levels=(
                Level(key="coreopsis", label="Coreopsis"),
                Level(key="alder-cones", label="Alder cones"),
                Level(key="elderberry", label="Elderberry"),
            ),
        ),
        Factor(
            kind="ph",
            levels=(
                Level(key="ph-4.5", label="pH 4.5", value=4.5),
                Level(key="ph-7", label="pH 7", value=7),
                Level(key="ph-9", label="pH 9", value=9),
            ),
        ),
        Factor(
            kind="iron",
            levels=(Level(key="iron-0", label="No iron", value=0), Level(key="iron-1", label="Iron 1 %", value=1)),
        ),
    )
    plan = StudyPlan(
        name="Salt marsh plants, autumn",
        question="Which of three plants by the marsh give colours that last, on which fibre, and "
        "what do pH and iron do to them?",
        factors=factors,
        rows=("fibre", "mordant"),
        columns=("dye", "ph", "iron"),
        rules=RULES,
        controls=("undyed",),
        swatch_mass_g=4.0,
        liquor_ratio_ml_per_g=30,
    )
    return plan


def next_plan(shelf: Shelf) -> StudyPlan:
    """What is planned next, from a ready question; nothing of it is dyed yet."""
    answers = {"dye": ("elderberry",), "fibres": ("wool", "cotton"), "heat": ("20", "60", "95")}
    plan = plan_from_question("heat", answers, shelf)
    return plan.model_copy(update={"name": "Elderberry, winter: does heat spoil it"})


def prints_plan() -> StudyPlan:
    """Prints for the spring: three plants, each plain and from iron water, on one cloth."""
    return StudyPlan(
        name="Sea wall prints, spring",
        question="What do the three plants print on silk and wool, and what does iron water add?",
        factors=(
            Factor(kind="fibre", levels=(Level(key="silk", label="Silk"), Level(key="wool", label="Wool"))),
            Factor(kind="mordant", levels=(Level(key="none", label="No mordant"), Level(key="alum-hot", label="Alum"))),
            Factor(
                kind="source",
                levels=(
                    Level(key="coreopsis", label="Coreopsis"),
                    Level(key="alder-cones", label="Alder cones"),
                    Level(key="elderberry", label="Elderberry"),
                ),
            ),
            Factor(
                kind="pretreatment",
                levels=(Level(key="none", label="Plain"), Level(key="iron-water", label="Iron water")),
            ),
        ),
        rows=("fibre", "mordant"),
        columns=("source", "pretreatment"),
        swatch_mass_g=12,
        rolling=Rolling(cloths_per_roll=2, bound_with="linen thread", wrapped_in="cloth"),
    )


def in_trials(levels: Levels) -> bool:
    """The swatches that are cut up for light and washing: suited mordants, neutral bath."""
    suited = {"wool": "alum-hot", "cotton": "tannin-alum"}
    return levels.get("ph") == "ph-7" and suited.get(levels["fibre"]) == levels.get("mordant")


def in_wash_trial(levels: Levels) -> bool:
    """Of those the plain ones: without iron."""
    return in_trials(levels) and levels.get("iron") == "iron-0"
