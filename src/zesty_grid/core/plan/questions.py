"""Ready questions: three choices make a sound grid, with its controls and its second pots."""

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.cells import cross
from zesty_grid.core.plan.factors import Factor, FactorKind, Level
from zesty_grid.core.plan.leaving_out import proposed_rules
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.core.shelf.items import MordantRoute, OnShelf
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.shelf.starting_shelf import NO_MORDANT

Answers = dict[str, tuple[str, ...]]
USUAL_ROUTES = ("alum-hot", "alum-acetate", "triformate-cold", "tannin")


class Option(Frozen):
    key: str
    label: str


class Choice(Frozen):
    """`usual` is chosen to begin with; `at_least` and `at_most` say how many may be."""

    key: str
    words: str
    options: tuple[Option, ...]
    usual: tuple[str, ...]
    at_least: int = 1
    at_most: int = 12


class Question(Frozen):
    key: str
    words: str
    finds_out: str
    choices: tuple[Choice, ...]


def ready_questions(shelf: Shelf) -> list[Question]:
    """The questions with what the Shelf offers for each choice."""
    dye = _choice("dye", "Which dye?", _in_use(shelf.dye_lots), 1, most=1)
    # One's own lots stand at the end of the Shelf.
    dye = dye.model_copy(update={"usual": tuple(option.key for option in dye.options[-1:])})
    fibres = _choice("fibres", "On which fibres?", _in_use(shelf.fibres), 2)
    mixed = fibres.model_copy(update={"usual": _there(fibres, "wool", "silk", "cotton", "linen")})
    animal = _choice(
        "fibres",
        "On which fibres?",
        tuple(_option(f) for f in shelf.fibres if f.fibre_class == "protein" and not f.retired),
        3,
    )
    both = fibres.model_copy(update={"usual": _there(fibres, "wool", "cotton")})
    routes = _choice("mordants", "Which mordants?", _in_use(shelf.mordant_routes), 3, least=2)
    usual_routes = _there(routes, NO_MORDANT, "alum-hot", "alum-acetate")
    routes = routes.model_copy(update={"usual": usual_routes})
    repeats = _numbers("repeats", "How many runs of each?", (1, 2, 3), (2,), "runs", most=1)
    ph = _numbers("ph", "At which pH?", (4, 5.5, 7, 9, 10), (4, 7, 9), "pH", least=2)
    strengths = _numbers("strengths", "How much dye stuff?", (50, 100, 200), (100, 200), "% of the fibre", least=2)
    heat = _numbers("heat", "At which temperatures?", (20, 40, 60, 80, 95), (20, 60, 95), "°C", least=2)
    dose = _numbers("dose", "How much iron?", (0.5, 1, 2), (1,), "% of the fibre")
    return [
        Question(
            key="mordant",
            words="Does the mordant matter on these fibres?",
            finds_out="What each mordant adds, fibre by fibre, beside none.",
            choices=(dye, mixed, routes),
        ),
        Question(
            key="ph-and-iron",
            words="What do pH and iron do to this dye?",
            finds_out="How far the colour moves in acid and alkali, and where iron takes it.",
            choices=(dye, both, ph),
        ),
        Question(
            key="hot-or-cold",
            words="Hot or cold mordant?",
            finds_out="Whether a cold alum bath gives as much colour as a hot one.",
            choices=(dye, animal, repeats),
        ),
        Question(
            key="iron-where",
            words="Iron in the pot or after?",
            finds_out="Even and muted, or more of the first colour left.",
            choices=(dye, both, dose),
        ),
        Question(
            key="strength",
            words="One to one or two to one?",
            finds_out="Whether twice the dye stuff is worth it.",
            choices=(dye, mixed, strengths),
        ),
        Question(
            key="heat",
            words="Does heat spoil it?",
            finds_out="The heat at which the colour turns.",
            choices=(dye, both, heat),
        ),
    ]


def plan_from_question(key: str, answers: Answers, shelf: Shelf) -> StudyPlan:
    """A study plan from a ready question. Raises Refusal for choices that are not offered."""
    question = next((q for q in ready_questions(shelf) if q.key == key), None)
    if question is None:
        raise Refusal("no-such-question", f"There is no question “{key}”.", "Choose another.")
    chosen = {choice.key: _checked(choice, answers) for choice in question.choices}
    dye_key = chosen["dye"][0]
    lot = shelf.dye_lot(dye_key)
    label = lot.name if lot else dye_key
    fibres = Factor(kind="fibre", levels=_levels(shelf.fibres, chosen["fibres"]))
    dye = Factor(kind="dye", levels=(Level(key=dye_key, label=label),))
    others, settings = _what_is_asked(key, chosen, shelf)
    kinds: list[FactorKind] = [factor.kind for factor in others]
    # Alone it lies across: one long column of small swatches could not be judged.
    down: tuple[FactorKind, ...] = ("mordant",) if "mordant" in kinds and len(kinds) > 1 else ()
    base = StudyPlan(
        name=f"{label}: {question.words[0].lower()}{question.words[1:].rstrip('?')}",
        question=f"{question.words} {question.finds_out}",
        factors=(fibres, *(f for f in others if f.kind == "mordant"), dye, *(f for f in others if f.kind != "mordant")),
        rows=("fibre", *down),
        columns=("dye", *(kind for kind in kinds if kind not in down)),
        controls=("undyed",),
    )
    crossed = (cell.levels for cell in cross(base, shelf))
    rules = tuple(proposal.rule for proposal in proposed_rules(base, crossed, shelf))
    return StudyPlan.model_validate(base.model_dump() | {"rules": rules} | settings)


def _what_is_asked(key: str, chosen: Answers, shelf: Shelf) -> tuple[list[Factor], dict[str, object]]:
    """The factors beside fibre and dye, and how many runs tell pots from what is done in them."""
    runs: dict[str, object] = {"replicates": 2, "replicate_vessels": "apart"}
    suited = _suited_routes(chosen["fibres"], shelf)
    if key == "mordant":
        return [Factor(kind="mordant", levels=_levels(shelf.mordant_routes, chosen["mordants"]))], {"replicates": 2}
    if key == "hot-or-cold":
        routes = Factor(kind="mordant", levels=_levels(shelf.mordant_routes, ("alum-hot", "alum-cold")))
        return [routes], runs | {"replicates": int(float(chosen["repeats"][0]))}
    if key == "ph-and-iron":
        return [
            suited,
            _valued("ph", chosen["ph"], "pH {}"),
            Factor(kind="iron", levels=(_iron(0, None), _iron(1, "after-bath"))),
        ], runs
    if key == "iron-where":
        levels = [_iron(0, None)]
        for dose in chosen["dose"]:
            levels += [_iron(float(dose), "pot"), _iron(float(dose), "after-bath")]
        return [suited, Factor(kind="iron", levels=tuple(levels))], runs
    if key == "strength":
        return [suited, _valued("strength", chosen["strengths"], "{} % dye")], runs
    return [suited, _valued("temperature", chosen["heat"], "{} °C")], runs


def _suited_routes(fibres: tuple[str, ...], shelf: Shelf) -> Factor:
    """The fewest usual routes so that every fibre has one that suits it."""
    needed: list[MordantRoute] = []
    for key in fibres:
        fibre = shelf.fibre(key)
        if fibre is None or any(fibre.fibre_class in route.suits for route in needed):
            continue
        usual = [route for name in USUAL_ROUTES if (route := shelf.mordant_route(name))]
        fitting = [route for route in usual if fibre.fibre_class in route.suits]
        needed += fitting[:1]
    chosen = [route.key for route in needed] or [NO_MORDANT]
    return Factor(kind="mordant", levels=_levels(shelf.mordant_routes, tuple(chosen)))


def _iron(dose: float, route: str | None) -> Level:
    if not dose:
        return Level(key="iron-0", label="No iron", value=0)
    words = {"pot": "in the pot", "after-bath": "after"}[route or "after-bath"]
    return Level.model_validate(
        {"key": f"iron-{dose:g}-{route}", "label": f"Iron {dose:g} % {words}", "value": dose, "route": route}
    )


def _valued(kind: FactorKind, values: tuple[str, ...], label: str) -> Factor:
    ordered = sorted(float(value) for value in values)
    levels = tuple(
        Level(key=f"{kind.replace('_', '-')}-{value:g}", label=label.format(f"{value:g}"), value=value)
        for value in ordered
    )
    return Factor(kind=kind, levels=levels)


def _levels(items: tuple[OnShelf, ...], keys: tuple[str, ...]) -> tuple[Level, ...]:
    name = {item.key: item.name for item in items}
    return tuple(Level(key=key, label=name[key]) for key in keys if key in name)


def _checked(choice: Choice, answers: Answers) -> tuple[str, ...]:
    given = tuple(dict.fromkeys(answers.get(choice.key, choice.usual)))
    allowed = {option.key for option in choice.options}
    wrong = [key for key in given if key not in allowed]
    if wrong or not choice.at_least <= len(given) <= choice.at_most:
        cure = f"Choose {choice.at_least} to {choice.at_most} of what is offered."
        raise Refusal(
            "choice",
            f"{choice.words} “{', '.join(wrong or given)}” cannot be chosen here.",
            cure,
            (Fault(field=choice.key, given=", ".join(given), allowed=cure, cure=cure),),
        )
    return given


def _in_use(items: tuple[OnShelf, ...]) -> tuple[Option, ...]:
    return tuple(_option(item) for item in items if not item.retired)


def _option(item: OnShelf) -> Option:
    return Option(key=item.key, label=item.name)


def _there(choice: Choice, *keys: str) -> tuple[str, ...]:
    offered = {option.key for option in choice.options}
    return tuple(key for key in keys if key in offered) or choice.usual


def _choice(key: str, words: str, options: tuple[Option, ...], usual: int, least: int = 1, most: int = 12) -> Choice:
    first = tuple(option.key for option in options[:usual])
    return Choice(key=key, words=words, options=options, usual=first, at_least=least, at_most=most)


def _numbers(
    key: str, words: str, values: tuple[float, ...], usual: tuple[float, ...], unit: str, least: int = 1, most: int = 12
) -> Choice:
    options = tuple(Option(key=f"{v:g}", label=f"pH {v:g}" if unit == "pH" else f"{v:g} {unit}") for v in values)
    return Choice(
        key=key, words=words, options=options, usual=tuple(f"{v:g}" for v in usual), at_least=least, at_most=most
    )
