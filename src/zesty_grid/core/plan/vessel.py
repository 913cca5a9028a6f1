"""A pot or jar with the bath that it is used for, and which one is right for a bath."""

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.bath import Bath
from zesty_grid.core.shelf.items import ShelfVessel

HOT_C = 45.0


class TakenOut(Frozen):
    """Pieces that come out of a vessel before the others, so long after they went in."""

    after_min: int
    swatches: tuple[str, ...]


class Vessel(Bath):
    """One pot or jar, used for one bath. `key` says what acts in it; `name` is its own for ever.

    `swatches` stand in the random order of their positions, by code; `run_order` is the vessel's
    place among those of the same kind of bath. `on_shelf` is None where no vessel of the Shelf
    fits. `fibre_words` is the working of `dry_fibre_g`. `liquor_of` is the vessel whose liquor it
    takes over, and in which it stands. `outs` come out before the rest, the soonest first.
    `bath_fibre_g` is that of all its parts. `as_given`: its doses are kept on purpose, whatever the fibre.
    `rolls` say which cloths lie in which roll.
    """

    name: str
    run_order: int
    part: int = 1
    parts: int = 1
    replicate: int | None = None
    on_shelf: str | None
    on_shelf_name: str
    volume_ml: float
    dry_fibre_g: float = 0.0
    bath_fibre_g: float | None = None
    as_given: bool = False
    fibre_words: str = ""
    swatches: tuple[str, ...]
    cells: tuple[str, ...]
    liquor_of: str | None = None
    outs: tuple[TakenOut, ...] = ()
    rolls: tuple[tuple[str, ...], ...] = ()

    @property
    def times(self) -> float:
        """How many times as much goes in as is given for one vessel."""
        given = self.given_for
        return self.dry_fibre_g / given.vessel_g if given and given.vessel_g else 1.0

    @property
    def has_own_liquor(self) -> bool:
        """It is filled anew: no later dip, and no bath that is used again."""
        return (self.dip or 1) == 1 and self.again is None


def fits(bath: Bath, vessel: ShelfVessel) -> bool:
    """Whether a vessel is right for a bath: iron apart, no plastic or iron pot in heat."""
    if vessel.retired or vessel.iron_only != bath.has_iron:
        return False
    if (vessel.form == "steamer") != (bath.process == "bundle-print"):
        return False
    if bath.process in ("sun-jar", "water-bath") and vessel.form != "jar":
        return False
    hot = (bath.temperature_c or 0) > HOT_C
    return not (hot and vessel.material == "plastic")
