"""Baths that take over the liquor of an earlier one: later dips, and baths used again."""

from collections.abc import Iterable, Mapping, Sequence
from typing import Protocol

from zesty_grid.core.frozen import Frozen


class Dip(Protocol):
    """What is known of a bath whose liquor may be used again."""

    @property
    def key(self) -> str: ...
    @property
    def name(self) -> str: ...
    @property
    def dip(self) -> int | None: ...
    @property
    def on_shelf(self) -> str | None: ...
    @property
    def on_shelf_name(self) -> str: ...
    @property
    def volume_ml(self) -> float: ...


class BegunLiquor(Frozen):
    """A bath that has begun, as far as its liquor goes. It had `parts` vessels, for `bath_fibre_g`
    together (None: kept before that was)."""

    name: str
    key: str
    dip: int | None = None
    on_shelf: str | None = None
    on_shelf_name: str = ""
    volume_ml: float
    dry_fibre_g: float = 0.0
    bath_fibre_g: float | None = None
    parts: int = 1


def liquor_key(key: str, iron_comes_later: bool = False) -> str:
    """What names the liquor that the dips of one bath share: its key without dip and pot."""
    left = (part for part in key.split(":") if not part.startswith(("dip=", "pot-")))
    if iron_comes_later:
        left = (part for part in left if not part.startswith("iron="))
    return ":".join(left)


def dip_taken_over(key: str, dip: int, earlier: Iterable[Dip]) -> list[Dip]:
    """The pots of the last dip before this one, of the same liquor; iron may come with this dip.

    Empty: there is no first dip whose liquor it could take.
    """
    before = [one for one in earlier if 0 < (one.dip or 0) < dip]
    for iron_comes_later in (False, True):
        wanted = liquor_key(key, iron_comes_later)
        same = [one for one in before if liquor_key(one.key) == wanted]
        if same:
            last = max(one.dip or 0 for one in same)
            return [one for one in same if one.dip == last]
    return []


def users_in_turn(first: Mapping[str, str], order: Sequence[str]) -> dict[str, str]:
    """For each bath that takes over a liquor the one that has it directly before: of several that
    name the same one, each waits for the one before it in the `order` of the work."""
    last_user: dict[str, str] = {}
    found = {}
    for name in order:
        if name in first:
            root = first[name]
            while root in first and first[root] != root:
                root = first[root]
            found[name] = last_user.get(root, first[name])
            last_user[root] = name
    return found
