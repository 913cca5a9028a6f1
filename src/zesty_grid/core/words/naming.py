"""What factors and levels are called in a sentence."""

from collections.abc import Mapping, Sequence

from zesty_grid.core.plan.pot_words import listed

Names = Mapping[str, str]


def factor_name(names: Names, factor: str) -> str:
    return lower_first(names.get(factor, factor))


def level_name(names: Names, factor: str, level: str) -> str:
    return names.get(f"{factor}={level}", level or "not set")


def levels_named(names: Names, factor: str, levels: Sequence[str]) -> str:
    return listed([level_name(names, factor, level) for level in levels])


def upper_first(words: str) -> str:
    return words if words[1:2].isupper() else words[:1].upper() + words[1:]


def lower_first(words: str) -> str:
    return words if words[1:2].isupper() else words[:1].lower() + words[1:]
