"""The Shelf: all items, found by key."""

from typing import Annotated, Literal, TypeVar, get_args

from pydantic import Field

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.shelf.items import (
    DyeLot,
    Fibre,
    HeatPlace,
    MordantRoute,
    OnShelf,
    ReferenceCloth,
    Scale,
    ShelfChart,
    ShelfVessel,
    Substance,
    Water,
)
from zesty_grid.core.shelf.light_place import LightPlace
from zesty_grid.core.shelf.ph_strip import PhStrip

ShelfKind = Literal[
    "fibre",
    "mordant_route",
    "dye_lot",
    "substance",
    "vessel",
    "heat_place",
    "scale",
    "water",
    "chart",
    "cloth",
    "light_place",
    "ph_strip",
]
SHELF_KINDS: tuple[ShelfKind, ...] = get_args(ShelfKind)
ShelfItem = Annotated[
    Fibre
    | MordantRoute
    | DyeLot
    | Substance
    | ShelfVessel
    | HeatPlace
    | Scale
    | Water
    | ShelfChart
    | ReferenceCloth
    | LightPlace
    | PhStrip,
    Field(discriminator="kind"),
]
Item = TypeVar("Item", bound=OnShelf)


class Shelf(Frozen):
    fibres: tuple[Fibre, ...] = ()
    mordant_routes: tuple[MordantRoute, ...] = ()
    dye_lots: tuple[DyeLot, ...] = ()
    substances: tuple[Substance, ...] = ()
    vessels: tuple[ShelfVessel, ...] = ()
    heat_places: tuple[HeatPlace, ...] = ()
    scales: tuple[Scale, ...] = ()
    waters: tuple[Water, ...] = ()
    charts: tuple[ShelfChart, ...] = ()
    cloths: tuple[ReferenceCloth, ...] = ()
    light_places: tuple[LightPlace, ...] = ()
    ph_strips: tuple[PhStrip, ...] = ()

    def fibre(self, key: str) -> Fibre | None:
        return _by_key(self.fibres, key)

    def mordant_route(self, key: str) -> MordantRoute | None:
        return _by_key(self.mordant_routes, key)

    def dye_lot(self, key: str) -> DyeLot | None:
        return _by_key(self.dye_lots, key)

    def vessel(self, key: str) -> ShelfVessel | None:
        return _by_key(self.vessels, key)

    def chart(self, key: str) -> ShelfChart | None:
        return _by_key(self.charts, key)

    def ph_strip(self, key: str) -> PhStrip | None:
        return _by_key(self.ph_strips, key)

    def substance_named(self, name: str) -> Substance | None:
        """The substance that a recipe calls by its name."""
        return next((s for s in self.substances if s.name.lower() == name.lower()), None)

    def scale(self, key: str | None) -> Scale | None:
        """The chosen scale, or the finest in use."""
        chosen = _by_key(self.scales, key or "")
        in_use = [scale for scale in self.scales if not scale.retired]
        return chosen or min(in_use, key=lambda scale: scale.resolution_g, default=None)

    def water(self, key: str | None) -> Water | None:
        """The chosen water, or the first in use."""
        chosen = _by_key(self.waters, key or "")
        return chosen or next((water for water in self.waters if not water.retired), None)


def _by_key(items: tuple[Item, ...], key: str) -> Item | None:
    return next((item for item in items if item.key == key), None)
