"""A plan that follows recipes as they were kept, with another mass of fibre."""

from collections.abc import Sequence
from math import ceil
from typing import Annotated

from pydantic import Field

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.bath import Bath
from zesty_grid.core.plan.cells import cell_key
from zesty_grid.core.plan.factors import Factor, Level
from zesty_grid.core.plan.study_plan import StudyPlan

HEAVIEST_PIECE_G, MOST_PIECES = 5000.0, 6


class RecipeOf(Frozen):
    """A swatch, and the bath up to which its recipe goes; None: all of it."""

    code: Annotated[str, Field(pattern=r"^[A-Z0-9]{2,12}$")]
    run: Annotated[int, Field(ge=0, le=2**53)] | None = None


def recipe_level(code: str, words: str, baths: Sequence[Bath], run: int | None = None) -> Level:
    """The recipe of a swatch, or of one of its states, as a level."""
    key = f"as-{code.lower()}" + (f"-{run}" if run is not None else "")
    return Level(key=key, label=f"As {code}: {words}"[:80], baths=tuple(baths), of_swatch=code, of_run=run)


def following_plan(
    name: str, like: StudyPlan, wanted: Sequence[tuple[Level, Level]], mass_g: float, pieces: int = 1
) -> StudyPlan:
    """Each wanted fibre by its recipe, `mass_g` in so many pieces; scale, water, acid and lid are
    those of the study that it is taken from. Heavier than one piece may be, it is divided."""
    parts = max(pieces, ceil(mass_g / HEAVIEST_PIECE_G))
    fibres = {fibre.key: fibre for fibre, _ in wanted}.values()
    recipes = {recipe.key: recipe for _, recipe in wanted}.values()
    asked = {(fibre.key, recipe.key) for fibre, recipe in wanted}
    return StudyPlan(
        name=name,
        factors=(Factor(kind="fibre", levels=tuple(fibres)), Factor(kind="recipe", levels=tuple(recipes))),
        rows=("fibre",),
        columns=("recipe",),
        replicates=min(parts, MOST_PIECES),
        left_out=tuple(
            cell_key({"fibre": fibre.key, "recipe": recipe.key})
            for fibre in fibres
            for recipe in recipes
            if (fibre.key, recipe.key) not in asked
        ),
        swatch_mass_g=mass_g / parts,
        liquor_ratio_ml_per_g=like.liquor_ratio_ml_per_g,
        weighing_accuracy_percent=like.weighing_accuracy_percent,
        scale=like.scale,
        water=like.water,
        acid=like.acid,
        alkali=like.alkali,
        lidded=like.lidded,
    )
