"""What was found, in plain sentences: the real ones first, then what is the same, then the rest."""

from collections.abc import Sequence

from zesty_grid.core.compare.compared import Compared, CompareQuestion, EffectAt, FactorEffect
from zesty_grid.core.compare.directions import DirectionChange
from zesty_grid.core.plan.pot_words import listed

ORDER = {"different": 0, "same": 1, "untold": 2}
# A direction that is smaller than this against the largest is not worth a word.
LEAST_SHARE = 0.35


def with_words(question: CompareQuestion, found: Compared) -> Compared:
    """`words` of the question name factors ("dye") and levels ("dye=alder")."""
    names = question.words
    acting = {frozenset(one.factors) for one in found.interactions if one.verdict == "different"}
    effects = [one.model_copy(update={"words": _effect(names, one, acting)}) for one in found.effects]
    ordered = sorted(effects, key=lambda one: (ORDER[one.verdict], bool(one.why), -one.de00))
    said = [one.words for one in ordered]
    said += [
        _first(f"What {_name(names, a)} does depends on {_name(names, b)}: by up to {one.largest_de00 or 0:.1f} ΔE00.")
        for one in found.interactions
        if one.verdict == "different"
        for a, b in [one.factors]
    ]
    return found.model_copy(update={"effects": tuple(effects), "words": tuple(said)})


def change_words(changes: Sequence[DirectionChange]) -> str:
    """ "darker and duller": the directions that are real and large, the largest first."""
    real = sorted((one for one in changes if one.real), key=lambda one: -abs(one.change_de00))
    large = [one for one in real if abs(one.change_de00) > LEAST_SHARE * abs(real[0].change_de00)]
    return listed([one.word for one in large]) if large else "of another colour"


def _effect(names: dict[str, str], one: FactorEffect, acting: set[frozenset[str]]) -> str:
    first, second = (_level(names, one.factor, level) for level in (one.from_level, one.to_level))
    size = f"ΔE00 {one.de00:.1f} ({one.low_de00:.1f} to {one.high_de00:.1f})"
    if one.why:
        return f"{first} and {second}: {one.why}"
    if one.verdict == "same":
        return f"{first} and {second} are the same colour: within {one.furthest_de00:.1f} ΔE00."
    if one.verdict == "untold":
        return f"{first} and {second} cannot be told apart yet: {size}. {one.would_take}"
    words = f"{_first(second)} is {change_words(one.directions)} than {first}: {size}"
    return f"{words}{_everywhere(names, one, acting)}."


def _everywhere(names: dict[str, str], one: FactorEffect, acting: set[frozenset[str]]) -> str:
    """Of what it holds everywhere, and where it is most and least: of the factor that matters most
    for it."""
    always, spread = [], []
    for factor in dict.fromkeys(at.factor for at in one.at):
        here = sorted((at for at in one.at if at.factor == factor), key=lambda at: -at.de00)
        if len(here) < 2:
            continue
        if all(at.low_de00 > 0 and _same_way(one, at) for at in here):
            always.append(_name(names, factor))
        if frozenset((one.factor, factor)) in acting:
            spread.append((here[0].de00 - here[-1].de00, here[0], here[-1]))
    said = f"; with every {listed(always)}" if always else ""
    if spread:
        _, most, least = max(spread, key=lambda each: each[0])
        said += (
            f"; most with {_level(names, most.factor, most.level)} ({most.de00:.1f}), "
            f"least with {_level(names, least.factor, least.level)} ({least.de00:.1f})"
        )
    return said


def _same_way(one: FactorEffect, at: EffectAt) -> bool:
    return sum(a * b for a, b in zip(one.delta_lab, at.delta_lab, strict=True)) > 0


def _name(names: dict[str, str], factor: str) -> str:
    said = names.get(factor, factor)
    return said if said[1:2].isupper() else said[:1].lower() + said[1:]


def _level(names: dict[str, str], factor: str, level: str) -> str:
    return names.get(f"{factor}={level}", level or "not set")


def _first(words: str) -> str:
    return words if words[1:2].isupper() else words[:1].upper() + words[1:]
