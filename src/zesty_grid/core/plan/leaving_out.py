"""Rules for leaving cells out: which one applies, and which are worth proposing."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.factors import FactorKind
from zesty_grid.core.plan.study_plan import LeaveOutRule, StudyPlan
from zesty_grid.core.shelf.items import FibreClass
from zesty_grid.core.shelf.shelf import Shelf

ALKALI_LIMIT_PH = 10.0
ALKALI_REASON = "Alkali dissolves protein fibre, the faster the hotter: stay at or under pH 10 and keep the heat low."
SYNTHETIC_REASON = (
    "Synthetic fibre has nothing that a mordant can hold on to: it is stained at most. As a control it is useful."
)


@dataclass(frozen=True)
class AppliedRule:
    number: int
    reason: str


class ProposedRule(Frozen):
    """A rule that common practice suggests; nothing happens until the person takes it."""

    rule: LeaveOutRule
    words: str


def reason_to_leave_out(
    rules: tuple[LeaveOutRule, ...], levels: Mapping[FactorKind, str], classes: Mapping[str, frozenset[FibreClass]]
) -> AppliedRule | None:
    """The first rule that leaves these levels out; `classes` by fibre key."""
    for number, rule in enumerate(rules, 1):
        if any(levels.get(kind) not in keys for kind, keys in rule.levels.items()):
            continue
        own = classes.get(levels.get("fibre", ""), frozenset())
        if rule.fibre_classes and not own & set(rule.fibre_classes):
            continue
        return AppliedRule(number, rule.reason or f"rule {number}")
    return None


def proposed_rules(plan: StudyPlan, included: Iterable[Mapping[FactorKind, str]], shelf: Shelf) -> list[ProposedRule]:
    """Routes that do not suit a class of fibre in the plan, and protein above pH 10.

    `included` holds the levels of the cells that are in: a rule that would leave out none of them
    is not proposed.
    """
    classes = {fibre.key: fibre.classes for fibre in shelf.fibres}
    there = list(included)
    return [
        proposal
        for proposal in _unsuited(plan, shelf) + _too_alkaline(plan, shelf)
        if any(reason_to_leave_out((proposal.rule,), levels, classes) for levels in there)
    ]


def _classes(plan: StudyPlan, shelf: Shelf) -> list[FibreClass]:
    factor = plan.factor("fibre")
    found: list[FibreClass] = []
    for level in factor.levels if factor else ():
        fibre = shelf.fibre(level.key)
        if fibre and fibre.fibre_class not in found:
            found.append(fibre.fibre_class)
    return found


def _unsuited(plan: StudyPlan, shelf: Shelf) -> list[ProposedRule]:
    factor = plan.factor("mordant")
    proposals = []
    for level in factor.levels if factor else ():
        route = shelf.mordant_route(level.key)
        for fibre_class in _classes(plan, shelf) if route else ():
            if route is None or fibre_class in route.suits:
                continue
            reason = SYNTHETIC_REASON if fibre_class == "synthetic" else route.unsuited_reason
            rule = LeaveOutRule(levels={"mordant": (level.key,)}, fibre_classes=(fibre_class,), reason=reason[:300])
            words = f"{level.label} on {fibre_class} fibre"
            proposals.append(ProposedRule(rule=rule, words=words))
    return proposals


def _too_alkaline(plan: StudyPlan, shelf: Shelf) -> list[ProposedRule]:
    proposals = []
    kinds: tuple[FactorKind, ...] = ("ph", "after_ph")
    for kind in kinds:
        factor = plan.factor(kind)
        keys = tuple(
            level.key
            for level in (factor.levels if factor else ())
            if level.value is not None and level.value > ALKALI_LIMIT_PH
        )
        if keys and "protein" in _classes(plan, shelf):
            rule = LeaveOutRule(levels={kind: keys}, fibre_classes=("protein",), reason=ALKALI_REASON)
            proposals.append(ProposedRule(rule=rule, words="protein fibre above pH 10"))
    return proposals
