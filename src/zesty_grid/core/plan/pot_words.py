"""How vessels are called where they carry a comparison: the same before dyeing and after it."""

from collections.abc import Sequence


def pot_words(between: str | None) -> str:
    """A kind of bath's vessel in a sentence."""
    return {
        "tannin": "tannin pot",
        "mordant": "mordant pot",
        "binder": "binder bath",
        "iron mordant": "iron pot",
        "dye": "pot",
        "overdye": "overdye pot",
        "adjust": "after-bath",
        "iron": "iron bath",
    }.get(between or "", "pot")


def single_pot_words(single: Sequence[str], pot: str, factor: str) -> str:
    """`single`: the levels that have one vessel each."""
    verb = "has a single" if len(single) == 1 else "have a single"
    each, cost = "" if len(single) == 1 else " each", len(single)
    return (
        f"{listed(single)} {verb} {pot}{each}: the {pot} and the {factor} cannot be told apart. "
        f"A second {pot} each costs {cost} vessel{'s' if cost > 1 else ''}."
    )


def listed(names: Sequence[str]) -> str:
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
