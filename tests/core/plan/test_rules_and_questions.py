"""Leaving out by rule, and grids that start from a question."""

import math

import pytest
from pydantic import ValidationError
from tests.core.plan.test_telling import NOISE
from tests.small_study import cells_of, levels, small_plan, valued

from zesty_grid.core.plan.leaving_out import proposed_rules
from zesty_grid.core.plan.planned_study import on_paper
from zesty_grid.core.plan.questions import plan_from_question, ready_questions
from zesty_grid.core.plan.study_plan import LeaveOutRule, StudyPlan
from zesty_grid.core.plan.telling import what_it_can_tell
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF


def plan_of(**changes) -> StudyPlan:
    return StudyPlan.model_validate(small_plan(**changes))


def proposals_for(plan: StudyPlan):
    included = [cell.levels for cell in cells_of(plan) if cell.included]
    return proposed_rules(plan, included, STARTING_SHELF)


FLOWERS_ON_CELLULOSE = {
    "levels": {"dye": ["dried-flowers"], "ph": ["ph-9"]},
    "fibre_classes": ["cellulose"],
    "reason": "Tried already.",
}


def test_a_rule_leaves_out_what_it_names_with_its_reason():
    out = [c for c in cells_of(plan_of(rules=[FLOWERS_ON_CELLULOSE])) if not c.included]
    assert {(c.levels["fibre"], c.levels["ph"]) for c in out} == {("cotton", "ph-9")}
    assert {c.because for c in out} == {"Tried already."}
    # A fibre of that class that is added later falls under it too.
    factors = small_plan()["factors"]
    factors[0] = {"kind": "fibre", "levels": levels("wool", "cotton", "hemp")}
    later = plan_of(rules=[FLOWERS_ON_CELLULOSE], factors=factors)
    assert {c.levels["fibre"] for c in cells_of(later) if not c.included} == {"cotton", "hemp"}


def test_a_cell_can_be_put_back_in_spite_of_a_rule():
    out = [c.key for c in cells_of(plan_of(rules=[FLOWERS_ON_CELLULOSE])) if not c.included]
    back = cells_of(plan_of(rules=[FLOWERS_ON_CELLULOSE], put_back=out[:1]))
    assert [c.key for c in back if not c.included] == out[1:]


def test_common_practice_proposes_rules():
    factors = small_plan()["factors"]
    factors[3] = {"kind": "ph", "levels": valued("ph", 7, 10.5)}
    plan = plan_of(factors=factors)
    proposals = proposals_for(plan)
    # Alum sulphate does not suit plant fibre; wool stays at or under pH 10: common practice.
    assert [p.words for p in proposals] == ["Alum-hot on cellulose fibre", "protein fibre above pH 10"]
    taken = plan.model_copy(update={"rules": tuple(p.rule for p in proposals)})
    assert proposals_for(taken) == []
    out = {c.key for c in cells_of(taken) if not c.included}
    assert len(out) == 4 + 4
    assert all(p.rule.reason for p in proposals)


@pytest.mark.parametrize(
    "changes",
    [
        {"rules": [{"levels": {"dye": ["indigo"]}}]},
        {"rules": [{"levels": {"dip": ["dip-1"]}}]},
        {"rules": [{"levels": {}}]},
        {"rules": [{"levels": {"dye": []}}]},
        {"left_out": ["a"], "put_back": ["a"]},
    ],
)
def test_rules_that_name_nothing_or_contradict_are_refused(changes):
    with pytest.raises(ValidationError):
        plan_of(**changes)


def test_rules_that_together_leave_nothing_are_refused():
    rules = [{"levels": {"fibre": ["wool"]}}, {"fibre_classes": ["cellulose"]}]
    with pytest.raises(Refusal, match="contradict"):
        cells_of(plan_of(rules=rules))


QUESTIONS = {q.key: q for q in ready_questions(STARTING_SHELF)}


@pytest.mark.parametrize("key", QUESTIONS)
def test_every_question_makes_a_sound_grid_in_three_choices(key):
    assert len(QUESTIONS[key].choices) == 3
    plan = plan_from_question(key, {}, STARTING_SHELF)
    cells = cells_of(plan)
    included = [cell for cell in cells if cell.included]
    assert 8 <= len(included) * plan.replicates <= 60
    assert any(cell.control == "undyed" for cell in included)
    # Sound: every fibre on a mordant that suits it, and every factor can be told.
    for cell in included:
        route = STARTING_SHELF.mordant_route(cell.levels.get("mordant", ""))
        fibre = STARTING_SHELF.fibre(cell.levels["fibre"])
        assert route is None or fibre.fibre_class in route.suits
    study = on_paper(plan, STARTING_SHELF)
    baths = [(vessel.bath, vessel.swatches) for vessel in vessels_of(study)]
    effects = what_it_can_tell(study, baths, NOISE).effects
    asked = {
        "mordant": "mordant",
        "hot-or-cold": "mordant",
        "iron-where": "iron",
        "strength": "strength",
        "heat": "temperature",
        "ph-and-iron": "ph",
    }
    assert next(e for e in effects if e.factor == asked[key]).levels


def test_twenty_four_swatches_from_a_question():
    answers = {"dye": ("dried-flowers",), "fibres": ("wool", "silk"), "ph": ("4", "7", "9")}
    plan = plan_from_question("ph-and-iron", answers, STARTING_SHELF)
    crossed = [c for c in cells_of(plan) if c.included and not c.added]
    assert len(crossed) * plan.replicates == 24
    assert plan.replicate_vessels == "apart"


@pytest.mark.parametrize(
    ("key", "answers"),
    [
        ("mordant", {"dye": ("unicorn",)}),
        ("mordant", {"mordants": ("none",)}),
        ("mordant", {"fibres": ()}),
        ("astrology", {}),
    ],
)
def test_choices_that_are_not_offered_are_refused(key, answers):
    with pytest.raises(Refusal):
        plan_from_question(key, answers, STARTING_SHELF)


def test_a_rule_says_what():
    with pytest.raises(ValidationError, match="at least one"):
        LeaveOutRule()


def test_the_grid_of_a_question_is_broad_rather_than_long():
    for question in ready_questions(STARTING_SHELF):
        answers = {choice.key: choice.usual for choice in question.choices}
        plan = plan_from_question(question.key, answers, STARTING_SHELF)
        levels = {factor.kind: len(factor.levels) for factor in plan.factors}
        across = math.prod(levels[kind] for kind in plan.columns)
        assert across > 1, question.key
        assert set(plan.rows) | set(plan.columns) == set(levels)
