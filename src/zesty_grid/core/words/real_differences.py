"""What was found real, in sentences: the differences first, then what is the same, then what cannot be told."""

from collections.abc import Sequence
from typing import Literal

from zesty_grid.core.compare.compared import Compared, FactorEffect, PairEffect
from zesty_grid.core.compare.directions import DirectionChange
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.pot_words import listed, pot_words
from zesty_grid.core.words.naming import Names, factor_name, level_name, levels_named, upper_first

# A direction that is smaller than this against the largest is not worth a word.
LEAST_SHARE = 0.35
# More pairs of one factor than this are said as one.
FEW = 3
WORTH_SAYING = 0.5


class Statement(Frozen):
    """One sentence over effects, by their number in the answer, with what it `rests` on."""

    verdict: Literal["different", "same", "untold"]
    factor: str
    words: str
    rests: str = ""
    effects: tuple[int, ...]


def statements(found: Compared, names: Names) -> list[Statement]:
    """Pairs of levels that say the same are one sentence, the largest differences first."""
    by_factor: dict[str, list[int]] = {}
    for i, one in enumerate(found.effects):
        by_factor.setdefault(one.factor, []).append(i)
    said: list[Statement] = []
    for factor, numbers in by_factor.items():
        of = {v: [i for i in numbers if found.effects[i].verdict == v] for v in ("different", "same", "untold")}
        said += _different(found, names, factor, of["different"], len(numbers))
        if of["same"]:
            pairs = _pairs(found, names, of["same"])
            words = f"{upper_first(pairs)}: the same colour, within 1 ΔE00."
            said.append(Statement(verdict="same", factor=factor, words=words, effects=tuple(of["same"])))
        if of["untold"]:
            said.append(_untold(found, names, factor, of["untold"]))
    order = {"different": 0, "same": 1, "untold": 2}
    said.sort(key=lambda one: (order[one.verdict], -max(found.effects[i].de00 for i in one.effects)))
    rests = [one.rests for one in said]
    # What is the same as above is said once.
    return [one.model_copy(update={"rests": ""}) if one.rests in rests[:i] else one for i, one in enumerate(said)]


def in_words(found: Compared, names: Names) -> list[str]:
    """All that was found, a sentence a line."""
    said = [" ".join(filter(None, (one.words, one.rests))) for one in statements(found, names)]
    said += filter(None, (depends_words(one, names) for one in found.interactions))
    said += chance_words(found)
    if found.known_noise:
        known = found.known_noise
        said.append(f"How vessels differ is taken as known: {known.vessel_de00:.1f} ΔE00, {known.words}.")
    if found.constant:
        same = listed([factor_name(names, one) for one in found.constant])
        said.append(f"All have one level of {same}: nothing to compare.")
    return said


def depends_words(pair: PairEffect, names: Names) -> str:
    """Empty where nothing is known of it."""
    if pair.verdict != "different":
        return ""
    first, second = (factor_name(names, one) for one in pair.factors)
    return f"What the {first} does depends on the {second}: by up to {pair.largest_de00 or 0:.1f} ΔE00."


def chance_words(found: Compared) -> list[str]:
    """How many would look different by chance, where that is one or nearly."""
    many = sum(one.p_alone is not None for one in found.effects)
    different = sum(one.verdict == "different" for one in found.effects)
    if found.by_chance < WORTH_SAYING or not different:
        return []
    by_chance = max(1, round(found.by_chance))
    return [f"If nothing differed, {by_chance} of {many} comparisons would look different all the same, by chance."]


def effect_words(one: FactorEffect, names: Names) -> str:
    first, second = (_side(one, names, which) for which in ("from", "to"))
    if one.how == "never":
        return f"{first} and {second} never lie beside each other with all else the same."
    size = f"ΔE00 {one.de00:.1f} ({one.low_de00:.1f} to {one.high_de00:.1f})"
    if one.verdict == "same":
        return f"{first} and {second} are the same colour, within 1 ΔE00."
    if one.verdict == "untold":
        return f"{first} and {second} cannot be told apart: {size}."
    return f"{upper_first(second)} is {change_words(one.directions)} than {first}: {size}{_as_a_rule(one, names)}."


def rests_words(one: FactorEffect) -> str:
    """What it rests on, and what one more of each would make of it."""
    if one.rests_on is None or one.shows_de00 is None:
        return ""
    vessel = pot_words(one.between) if one.between else "swatch"
    more = f"one more {vessel} of each shows {one.one_more_shows_de00:.1f} instead of {one.shows_de00:.1f}"
    promised = "" if one.promised_de00 is None else f" Promised: {one.promised_de00:.1f}."
    if one.rests_on.how == "usual":
        return f"Usual values; {more}.{promised}"
    if one.rests_on.how == "learnt":
        return f"From {one.rests_on.repeats:.0f} repeats; {more}.{promised}"
    return promised.strip()


def change_words(changes: Sequence[DirectionChange]) -> str:
    """ "darker and duller": the directions that are real and large, the largest first."""
    real = sorted((one for one in changes if one.real), key=lambda one: -abs(one.change_de00))
    large = [one for one in real if abs(one.change_de00) > LEAST_SHARE * abs(real[0].change_de00)]
    return listed([one.word for one in large]) if large else "of another colour"


def _different(found: Compared, names: Names, factor: str, numbers: list[int], every: int) -> list[Statement]:
    if not numbers:
        return []
    if len(numbers) <= FEW:
        return [_one(found, names, i) for i in numbers]
    levels = list(dict.fromkeys(x for i in numbers for x in _levels(found.effects[i])))
    if len(numbers) == every:
        which = f"All {len(levels)} levels of {factor_name(names, factor)}"
        words = f"{which} differ from one another: {_sizes(found, names, numbers)}"
        return [_many(found, factor, words, numbers)]
    said: list[Statement] = []
    for hubs, others, own in _stars(found, levels, numbers):
        if len(own) == 1:
            said.append(_one(found, names, own[0]))
            continue
        verb = "differs" if len(hubs) == 1 else "differ"
        who, whom = levels_named(names, factor, hubs), levels_named(names, factor, others)
        said.append(_many(found, factor, f"{upper_first(who)} {verb} from {whom}: {_sizes(found, names, own)}", own))
    return said


def _stars(
    found: Compared, levels: Sequence[str], numbers: Sequence[int]
) -> list[tuple[list[str], list[str], list[int]]]:
    """Levels that differ from the same others, the one with the most first, each pair once."""
    stars: dict[frozenset[str], tuple[list[str], list[int]]] = {}
    left = list(numbers)
    while left:
        hub = max(levels, key=lambda level: sum(level in _levels(found.effects[i]) for i in left))
        own = [i for i in left if hub in _levels(found.effects[i])]
        left = [i for i in left if i not in own]
        others = frozenset(x for i in own for x in _levels(found.effects[i]) if x != hub)
        hubs, pairs = stars.setdefault(others, ([], []))
        hubs.append(hub)
        pairs += own
    return [(hubs, [x for x in levels if x in others], pairs) for others, (hubs, pairs) in stars.items()]


def _one(found: Compared, names: Names, number: int) -> Statement:
    one = found.effects[number]
    words = effect_words(one, names)
    return Statement(verdict="different", factor=one.factor, words=words, rests=rests_words(one), effects=(number,))


def _many(found: Compared, factor: str, words: str, numbers: Sequence[int]) -> Statement:
    least_sure = max((found.effects[i] for i in numbers), key=lambda one: one.shows_de00 or 0)
    return Statement(
        verdict="different", factor=factor, words=words, rests=rests_words(least_sure), effects=tuple(numbers)
    )


def _sizes(found: Compared, names: Names, numbers: Sequence[int]) -> str:
    ordered = sorted((found.effects[i] for i in numbers), key=lambda one: one.de00)
    least, most = ordered[0], ordered[-1]
    return f"ΔE00 {least.de00:.1f} ({_pair(least, names)}) to {most.de00:.1f} ({_pair(most, names)})."


def _untold(found: Compared, names: Names, factor: str, numbers: Sequence[int]) -> Statement:
    seldom = [i for i in numbers if found.effects[i].how == "never"]
    told = [found.effects[i] for i in numbers if i not in seldom]
    said = []
    if told:
        shows = sorted({round(one.shows_de00 or 0, 1) for one in told})
        span = f"{shows[0]:.1f}" if len(shows) == 1 else f"{shows[0]:.1f} to {shows[-1]:.1f}"
        pairs = _pairs(found, names, [i for i in numbers if i not in seldom])
        differ = all(one.verdicts.pieces == "different" for one in told)
        pieces = "these pieces differ, dyed again" if differ else "dyed again"
        said.append(f"{upper_first(pairs)}: {pieces} this grid shows differences from {span} on.")
    if seldom:
        said.append(f"{upper_first(_pairs(found, names, seldom))}: never beside each other with all else the same.")
    rests = rests_words(told[0]) if told else ""
    return Statement(verdict="untold", factor=factor, words=" ".join(said), rests=rests, effects=tuple(numbers))


def _pairs(found: Compared, names: Names, numbers: Sequence[int]) -> str:
    return "; ".join(_pair(found.effects[i], names) for i in numbers)


def _pair(one: FactorEffect, names: Names) -> str:
    return listed([_side(one, names, which) for which in ("from", "to")])


def _levels(one: FactorEffect) -> tuple[str, str]:
    return (one.from_level, one.to_level)


def _side(one: FactorEffect, names: Names, which: Literal["from", "to"]) -> str:
    """A level, with the levels of others that always go with it."""
    level = level_name(names, one.factor, one.from_level if which == "from" else one.to_level)
    others = [
        levels_named(names, other.factor, other.from_levels if which == "from" else other.to_levels)
        for other in one.together
    ]
    return f"{level} (with {listed(others)})" if others else level


def _as_a_rule(one: FactorEffect, names: Names) -> str:
    if one.alike is None or not one.at:
        return "; if what the others do adds up" if one.how == "summed" else ""
    if one.alike or one.depends_on is None:
        others = [factor for factor in one.at[0].levels if len({at.levels[factor] for at in one.at}) > 1]
        return f"; alike with every {listed([factor_name(names, other) for other in others])}" if others else ""
    on = one.depends_on
    most, least = (level_name(names, on.factor, level) for level in (on.most_level, on.least_level))
    first, second = (_side(one, names, which) for which in ("from", "to"))
    pale, other = (first, second) if one.from_near_white else (second, first)
    if one.from_near_white != one.to_near_white:
        everywhere = "both" if one.combinations == 2 else "all"
        return (
            f"; {pale} stays near white in {everywhere}, {other} takes {most} ({on.most_de00:.1f}) "
            f"more than {least} ({on.least_de00:.1f})"
        )
    if one.verdicts.rule == "different":
        return f"; everywhere, most with {most} ({on.most_de00:.1f}), least with {least} ({on.least_de00:.1f})"
    return f"; not told everywhere: most with {most} ({on.most_de00:.1f}), least with {least} ({on.least_de00:.1f})"
