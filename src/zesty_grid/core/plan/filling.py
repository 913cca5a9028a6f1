"""Which vessels of the Shelf hold the pieces of a bath: the fewest, with room to stir."""

from collections.abc import Sequence
from typing import NamedTuple

# Room to stir without spilling; common practice.
FILL_SHARE = 0.8
CLOSE = 1e-9


class VesselKind(NamedTuple):
    """Vessels of one kind on the Shelf: how much each holds with room to stir, and how many."""

    key: str
    room_ml: float
    number: int


def room_ml(litres: float) -> float:
    """How much liquor with pieces a vessel holds, with room to stir."""
    return litres * 1000 * FILL_SHARE


def room_for(litres: float, swatch_ml: float) -> int:
    """How many swatches a vessel holds, with room to stir."""
    return int(room_ml(litres) / swatch_ml + CLOSE)


def fewest_vessels(count: int, kinds: list[tuple[str, int, int]]) -> list[tuple[str, int]]:
    """The fewest vessels for `count` swatches, from kinds of (key, room, number there).

    Answers the key and the load of each. Taking the roomiest first is optimal, as each vessel
    may take any number up to its room; the last is like the one before it where there is another,
    so that the pots of one bath are alike, else the smallest that does. When all are full, they
    are used again, one load after the other. Loads are spread evenly.
    """
    there = [(key, room, n) for key, room, n in kinds if room > 0]
    if count <= 0 or not there:
        return []
    room = {key: size for key, size, _ in there}
    chosen: list[tuple[str, int]] = []
    left = count
    while left > 0:
        free = {key: number for key, _, number in there}
        while left > 0 and any(free.values()):
            open_ones = [key for key, number in free.items() if number]
            enough = [key for key in open_ones if room[key] >= left]
            alike = chosen[-1][0] if chosen else ""
            if alike in enough:
                pick = alike
            elif enough:
                pick = min(enough, key=room.__getitem__)
            else:
                pick = max(open_ones, key=room.__getitem__)
            free[pick] -= 1
            chosen.append((pick, room[pick]))
            left -= room[pick]
    return _even_loads(count, chosen)


def fewest_for_unlike(volumes_ml: Sequence[float], kinds: list[VesselKind]) -> list[tuple[str, list[int]]]:
    """Vessels for pieces of unlike size, and which of them (by number) go into each.

    Largest piece first into the vessel that it fills best (first-fit decreasing; Johnson, Near-
    optimal bin packing algorithms, 1973): a good answer, not a proven one. Empty where a piece
    fits into none.
    """
    there = sorted((kind for kind in kinds if kind.number), key=lambda kind: -kind.room_ml)
    if not there or not volumes_ml or max(volumes_ml) > there[0].room_ml * (1 + CLOSE):
        return []
    order = sorted(range(len(volumes_ml)), key=lambda i: -volumes_ml[i])
    made: list[tuple[VesselKind, float, list[int]]] = []
    left_ml = sum(volumes_ml)
    used = dict.fromkeys((kind.key for kind in there), 0)
    for i in order:
        need = volumes_ml[i]
        fitting = [n for n, (_, free, _) in enumerate(made) if free * (1 + CLOSE) >= need]
        if not fitting:
            rounds = min(used[kind.key] // kind.number for kind in there)
            free_kinds = [
                kind for kind in there if used[kind.key] // kind.number == rounds and kind.room_ml * (1 + CLOSE) >= need
            ] or [there[0]]
            enough = [kind for kind in free_kinds if kind.room_ml * (1 + CLOSE) >= left_ml]
            pick = enough[-1] if enough else free_kinds[0]
            used[pick.key] += 1
            made.append((pick, pick.room_ml, []))
            fitting = [len(made) - 1]
        n = min(fitting, key=lambda n: made[n][1])
        kind, free, inside = made[n]
        made[n] = (kind, free - need, [*inside, i])
        left_ml -= need
    return [(kind.key, sorted(inside)) for kind, _, inside in made]


def _even_loads(count: int, chosen: list[tuple[str, int]]) -> list[tuple[str, int]]:
    loads = [0] * len(chosen)
    left = count
    while left:
        open_ones = [i for i, (_, room) in enumerate(chosen) if loads[i] < room]
        share = max(1, left // len(open_ones))
        for i in open_ones:
            given = min(share, chosen[i][1] - loads[i], left)
            loads[i] += given
            left -= given
    return [(key, load) for (key, _), load in zip(chosen, loads, strict=True)]
