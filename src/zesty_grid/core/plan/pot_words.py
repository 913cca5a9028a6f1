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


def listed(names: Sequence[str]) -> str:
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
