"""What Find asks and answers: colours, sets of them, and recipes that are followed."""

from typing import Annotated

from pydantic import Field

from zesty_grid.core.compare.coloured import Coloured
from zesty_grid.core.compare.lasts import LastsWords
from zesty_grid.core.compare.recipe import Gentleness
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.factors import MAX_LEVELS
from zesty_grid.core.plan.following import RecipeOf
from zesty_grid.core.read.measurement import Lab
from zesty_grid.core.shelf.items import Key


class FollowRecipes(Frozen):
    """`mass_g` of each, in so many pieces; `fibres` of the Shelf, or none: each on its own."""

    swatches: Annotated[tuple[RecipeOf, ...], Field(min_length=1, max_length=MAX_LEVELS)]
    mass_g: Annotated[float, Field(gt=0, le=30_000, allow_inf_nan=False)]
    pieces: Annotated[int, Field(ge=1, le=6)] = 1
    fibres: Annotated[tuple[Key, ...], Field(max_length=MAX_LEVELS)] = ()


class FoundColour(Frozen):
    """A piece near to what is wanted. `same`: no further than two of one colour are often read.
    `cost` is for the mass that was asked; None where nothing has a price."""

    piece: Coloured
    de00: float
    uncertainty_de00: float
    same: bool
    gentle: Gentleness | None = None
    is_gentle: bool | None = None
    cost: float | None = None
    in_hand: bool | None = None
    lasts: LastsWords | None = None


class FindView(Frozen):
    """`lasting_unknown`: so many nearer ones were passed over as they were never in light."""

    lab: Lab
    hex: str
    colour_words: str
    uncertainty_de00: float
    found: tuple[FoundColour, ...]
    searched: int
    lasting_unknown: int


class InSet(Frozen):
    """A colour of a set: a swatch, or a cell that is foretold with an uncertainty."""

    of: RecipeOf
    words: str
    hex: str
    piece: Coloured | None = None
    foretold_de00: float | None = None


class SetView(Frozen):
    """Colours chosen together. `nearest_de00`: so far apart are the nearest two; `vessels`: so many
    it takes to dye them."""

    found: tuple[InSet, ...]
    searched: int
    nearest_de00: float | None
    vessels: int
