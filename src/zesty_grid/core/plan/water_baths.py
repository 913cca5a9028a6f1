"""Jars that stand in one pot of water: which stand together, and how much water is around them."""

from collections.abc import Sequence

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.shelf.items import ShelfVessel
from zesty_grid.core.shelf.shelf import Shelf

WATER_BATH = "water-bath"
# Jars side by side leave room for the water between them; common practice, rough.
JARS_SHARE, FILLED_SHARE = 0.6, 0.8


class WaterBath(Frozen):
    """`vessels` are the names of the jars, the first to be run first; `pot` None: none holds them.

    `water_l` is what stands around them.
    """

    vessels: tuple[str, ...]
    pot: str | None
    pot_name: str
    water_l: float


def water_baths(vessels: Sequence[Vessel], shelf: Shelf) -> list[WaterBath]:
    """Jars of one heat and time stand together, as many as the largest pot holds."""
    pots = [
        pot
        for pot in shelf.vessels
        if pot.form == "pot" and not pot.retired and not pot.iron_only and pot.material != "plastic"
    ]
    alike: dict[tuple[float | None, int | None], list[Vessel]] = {}
    for vessel in sorted(vessels, key=lambda one: one.run_order):
        if vessel.process == WATER_BATH and vessel.has_own_liquor:
            alike.setdefault((vessel.temperature_c, vessel.duration_min), []).append(vessel)
    found = []
    for jars in alike.values():
        while jars:
            together, pot = _as_many_as_fit(jars, pots, shelf)
            found.append(_bath(together, pot, shelf))
            jars = jars[len(together) :]
    return found


def _as_many_as_fit(
    jars: list[Vessel], pots: list[ShelfVessel], shelf: Shelf
) -> tuple[list[Vessel], ShelfVessel | None]:
    """Into the smallest pot that holds as many as the largest one does."""
    for count in range(len(jars), 0, -1):
        room_l = _room_l(jars[:count], shelf)
        holds = [pot for pot in pots if JARS_SHARE * pot.litres >= room_l]
        if holds:
            return jars[:count], min(holds, key=lambda pot: pot.litres)
    return jars[:1], None


def _room_l(jars: Sequence[Vessel], shelf: Shelf) -> float:
    own = (shelf.vessel(jar.on_shelf or "") for jar in jars)
    return sum(jar.litres if jar else vessel.volume_ml / 1000 for jar, vessel in zip(own, jars, strict=True))


def _bath(jars: Sequence[Vessel], pot: ShelfVessel | None, shelf: Shelf) -> WaterBath:
    water_l = max(0.0, FILLED_SHARE * pot.litres - _room_l(jars, shelf)) if pot else 0.0
    return WaterBath(
        vessels=tuple(jar.name for jar in jars),
        pot=pot.key if pot else None,
        pot_name=pot.name if pot else "",
        water_l=water_l,
    )
