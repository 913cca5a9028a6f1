"""What a grid can tell, in sentences."""

from zesty_grid.core.noise.together import Together
from zesty_grid.core.plan.pot_words import pot_words
from zesty_grid.core.plan.told import Effect, PairTold, Telling
from zesty_grid.core.weigh.working import counted
from zesty_grid.core.words.naming import Names, levels_named, upper_first

# Levels that are told nearly as well are told as one.
NEARLY = 1.15


def with_words(told: Telling) -> Telling:
    names = {f"{effect.factor}={one.level}": one.label for effect in told.effects for one in effect.levels}
    effects = tuple(
        one.model_copy(update={"words": " ".join([effect_words(one, names), *_promised(one, told)])})
        for one in told.effects
    )
    return told.model_copy(update={"effects": effects})


def _promised(effect: Effect, told: Telling) -> list[str]:
    own = [one.shows_de00 for one in told.promised or () if one.factor == effect.factor]
    return [f"When the first bath began: {_span(own)}."] if own else []


def effect_words(effect: Effect, names: Names) -> str:
    if effect.same_cloth is not None:
        return _zones_words(effect)
    said = []
    if effect.smallest_difference_de00 is not None:
        shown = [one.shows_de00 for one in effect.pairs if one.shows_de00 is not None]
        thing = pot_words(effect.between) if effect.between else "swatch"
        said.append(
            f"{effect.name}: shows differences {_span(shown)}, 8 times in 10; "
            f"with one more {thing} of each from {effect.one_more_shows_de00:.1f}."
        )
    else:
        said.append(f"{effect.name}: cannot be told.")
    told: dict[str, None] = {}
    for one in effect.pairs:
        told |= dict.fromkeys(_pair_words(effect, one, names))
    return " ".join([*said, *told])


def _span(shown: list[float]) -> str:
    if max(shown) < NEARLY * min(shown):
        return f"from {max(shown):.1f} ΔE00 on"
    return f"from {min(shown):.1f} ΔE00 on for some levels, from {max(shown):.1f} for others"


def _pair_words(effect: Effect, one: PairTold, names: Names) -> list[str]:
    first, second = (names[f"{effect.factor}={level}"] for level in (one.from_level, one.to_level))
    if one.how == "never":
        return [f"{upper_first(first)} and {second} never lie beside each other with all else the same."]
    if one.how == "summed":
        return ["Taken from what all factors do, if that adds up."]
    return [_together_words(first, second, other, names) for other in one.together]


def _together_words(first: str, second: str, other: Together, names: Names) -> str:
    with_first, with_second = (levels_named(names, other.factor, own) for own in (other.from_levels, other.to_levels))
    return f"{upper_first(first)} always goes with {with_first}, {second} with {with_second}: told as one."


def _zones_words(effect: Effect) -> str:
    if not effect.same_cloth:
        return f"{effect.name}: no cloth has all of its levels: they are compared between cloths."
    return (
        f"{effect.name}: compared on the same cloth, on {counted(effect.same_cloth, 'cloth')}. How much two zones of "
        "one cloth differ where nothing was changed is not known: lay one source twice to learn it."
    )
