"""What the record holds already, as far as a plan has to go round it."""

from collections.abc import Iterable

from pydantic import Field

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.bath import BathKind
from zesty_grid.core.plan.liquors import BegunLiquor


class NamedVessel(Frozen):
    """The name that was given to a vessel which has not begun, and what was to go in."""

    name: str
    bath: BathKind
    key: str
    swatches: tuple[str, ...] = ()


class Taken(Frozen):
    """`past` has the stages of each swatch's baths that have begun, by code, and `been` those of
    the baths that it was really put into: a vessel may be filled long before its pieces come.
    `has_record`: something was logged, and from then on names of vessels stay. `names` belong to
    baths that have begun, `kept` to those that are planned or were; `liquors` are in those that
    have begun. `lost` swatches are to be made again.
    """

    past: dict[str, frozenset[str]] = Field(default_factory=dict)
    been: dict[str, frozenset[str]] = Field(default_factory=dict)
    has_record: bool = False
    names: frozenset[str] = frozenset()
    kept: tuple[NamedVessel, ...] = ()
    liquors: tuple[BegunLiquor, ...] = ()
    lost: frozenset[str] = frozenset()

    def past_of(self, code: str) -> frozenset[str]:
        return self.past.get(code, frozenset())

    def been_in(self, code: str) -> frozenset[str]:
        return self.been.get(code, frozenset())


NOTHING_TAKEN = Taken()


def number_of(name: str) -> int:
    digits = name.lstrip("ABCDEFGHIJKLMNOPQRSTUVWXYZ")
    return int(digits) if digits.isdigit() else 0


def names_for(kind: BathKind, letters: str, made: Iterable[tuple[str, frozenset[str]]], taken: Taken) -> list[str]:
    """Names for the vessels of a kind, each given by its key and its swatches.

    As long as nothing was logged they are numbered from 1. After that a vessel keeps the name that
    it had, by its key or else by the swatches that it shares with before, and a new one takes the
    next number.
    """
    vessels = list(made)
    if not taken.has_record:
        return [f"{letters}{i}" for i in range(1, len(vessels) + 1)]
    free = {one.name: one for one in taken.kept if one.bath == kind and one.name not in taken.names}
    names: dict[int, str] = {}
    for i, (key, swatches) in enumerate(vessels):
        same = [n for n, one in free.items() if one.key == key]
        alike = [n for n in same if set(free[n].swatches) & swatches or not swatches]
        if alike or same:
            names[i] = (alike or same)[0]
            del free[names[i]]
    pairs = sorted(
        (
            (-len(swatches.intersection(one.swatches)), number_of(name), i, name)
            for i, (_, swatches) in enumerate(vessels)
            if i not in names
            for name, one in free.items()
            if swatches.intersection(one.swatches)
        )
    )
    for _, _, i, name in pairs:
        if i not in names and name in free:
            names[i] = name
            del free[name]
    every = (*taken.names, *(one.name for one in taken.kept if one.bath == kind))
    highest = max((number_of(n) for n in every if _letters(n) == letters), default=0)
    for i in range(len(vessels)):
        if i not in names:
            highest += 1
            names[i] = f"{letters}{highest}"
    return [names[i] for i in range(len(vessels))]


def _letters(name: str) -> str:
    return name.rstrip("0123456789")
