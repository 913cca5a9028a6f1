"""A plan that follows recipes as they were kept, with another mass of fibre."""

from collections.abc import Sequence
from hashlib import sha256
from math import ceil
from typing import Annotated

from pydantic import Field, model_validator

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.bath import Bath
from zesty_grid.core.plan.cells import cell_key
from zesty_grid.core.plan.factors import Factor, Level
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.row_number import RowNumber, StateNumber

HEAVIEST_PIECE_G, MOST_PIECES = 5000.0, 6


class RecipeOf(Frozen):
    """The recipe of a swatch, up to the bath of a number (None: all of it); or of a `cell` of a
    study, by its key, that was only foretold."""

    code: Annotated[str, Field(pattern=r"^[A-Z0-9]{2,12}$")] | None = None
    run: StateNumber | None = None
    study: RowNumber | None = None
    cell: Annotated[str, Field(max_length=600)] | None = None

    @model_validator(mode="after")
    def _names_one_thing(self) -> "RecipeOf":
        if (self.code is None) == (self.study is None or self.cell is None):
            raise ValueError("a recipe is of a swatch, or of a cell of a study")
        return self


def recipe_level(of: RecipeOf, words: str, baths: Sequence[Bath]) -> Level:
    """A recipe as a level."""
    if of.code is None:
        name = sha256(f"{of.study} {of.cell}".encode()).hexdigest()[:8]
        return Level(key=f"as-foretold-{name}", label=f"Foretold: {words}"[:80], baths=tuple(baths))
    key = f"as-{of.code.lower()}" + (f"-{of.run}" if of.run is not None else "")
    return Level(key=key, label=f"As {of.code}: {words}"[:80], baths=tuple(baths), of_swatch=of.code, of_run=of.run)


def with_cell(plan: StudyPlan, cell: str) -> StudyPlan:
    """A plan from its beginning, with a cell in it that may be left out."""
    return plan.model_copy(
        update={
            "left_out": tuple(one for one in plan.left_out if one != cell),
            "put_back": (*plan.put_back, cell),
            "treatments": (),
            "made_again": (),
        }
    )


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
