"""How an amount is measured out: dry on the scale, or as a volume of a stock solution."""

from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.shelf.items import Substance
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.spoons import spoon_words
from zesty_grid.core.weigh.stock_solution import least_weighed_g, stock_percent_for, stock_volume_ml
from zesty_grid.core.weigh.working import Figure, Role, grams_words, volume_words


def dry_or_stock(
    plan: StudyPlan, shelf: Shelf, role: Role, name: str, grams: float, dry_fibre_g: float, working: str, source: str
) -> Figure:
    """Weighed dry where the scale is fine enough for the wanted accuracy, else from a stock."""
    substance, scale = shelf.substance_named(name), shelf.scale(plan.scale)
    grams, working = _for_purity(grams, working, substance)
    spoons = spoon_words(grams, substance.teaspoon_g if substance else None)
    least = least_weighed_g(scale.resolution_g, plan.weighing_accuracy_percent) if scale else 0.0
    if grams >= least or (substance and substance.stock_percent):
        return Figure(role=role, name=name, grams=grams, spoons=spoons, working=working, source=source)
    bath_ml = plan.liquor_ratio_ml_per_g * dry_fibre_g
    percent = stock_percent_for(grams, bath_ml)
    volume_ml = stock_volume_ml(grams, percent)
    said = (
        f"{working} → {volume_words(volume_ml)} of the {percent:g} % stock; the scale shows "
        f"{scale.resolution_g:g} g, so under {least:g} g is not within "
        f"{plan.weighing_accuracy_percent:g} %"
        if scale
        else working
    )
    return Figure(
        role=role,
        name=name,
        grams=grams,
        volume_ml=volume_ml,
        stock_percent=percent,
        spoons=spoons,
        working=said,
        source=source,
    )


def _for_purity(grams: float, working: str, substance: Substance | None) -> tuple[float, str]:
    if substance is None or substance.purity_percent == 100:
        return grams, working
    pure = grams * 100 / substance.purity_percent
    return pure, f"{working} ÷ {substance.purity_percent:g} % pure = {grams_words(pure)}"
