"""A study that is being dyed keeps the recipes that it began with."""

from zesty_grid.core.shelf.items import OnShelf, Stocked
from zesty_grid.core.shelf.shelf import Shelf


def with_kept(live: Shelf, kept: Shelf) -> Shelf:
    """The Shelf as it is, but for the items that were there when dyeing began.

    What is in hand, its price, and whether it is retired follow the Shelf of today.
    """
    fields = {field: _merged(getattr(live, field), getattr(kept, field)) for field in Shelf.model_fields}
    return live.model_copy(update=fields)


def _merged(live: tuple[OnShelf, ...], kept: tuple[OnShelf, ...]) -> tuple[OnShelf, ...]:
    by_key = {item.key: item for item in kept}
    there = {item.key for item in live}
    return (
        *(_today(by_key[item.key], item) if item.key in by_key else item for item in live),
        *(item for item in kept if item.key not in there),
    )


def _today(kept: OnShelf, live: OnShelf) -> OnShelf:
    changes: dict[str, object] = {"retired": live.retired}
    if isinstance(live, Stocked):
        changes |= {"amount_in_hand_g": live.amount_in_hand_g, "price_per_100_g": live.price_per_100_g}
    return kept.model_copy(update=changes)
