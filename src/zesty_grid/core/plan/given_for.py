"""For how much fibre a recipe gives its grams, spoons and litres, where a bath is filled once more."""

from collections.abc import Sequence

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.liquors import BegunLiquor


class GivenFor(Frozen):
    """What is given by bath was given for so much dry fibre: `vessel_g` in one vessel (None: what
    goes into one vessel stays as it is), `bath_g` in all vessels of the bath. `vessel` names one
    that was filled so; empty: it was in another study."""

    vessel_g: float | None
    bath_g: float
    vessel: str = ""


def as_filled_before(key: str, begun: Sequence[BegunLiquor]) -> GivenFor | None:
    """How a bath was filled that is to be filled once more; None: it was not yet. As long as one of
    the vessels that were planned together is ahead, nothing in it changes."""
    same = [one for one in begun if bath_of_key(one.key) == bath_of_key(key)]
    if not same:
        return None
    first = same[0]
    further = len(same) >= first.parts
    return GivenFor(
        vessel_g=first.dry_fibre_g if further else None,
        bath_g=first.bath_fibre_g or first.dry_fibre_g * first.parts,
        vessel=first.name,
    )


def bath_of_key(key: str) -> str:
    """What acts in a vessel, whichever of several it is."""
    return ":".join(part for part in key.split(":") if not part.startswith(("pot-", "run-")))
