"""What to mind while weighing. Common practice; the supplier's safety sheet comes first."""

from collections.abc import Iterable

from zesty_grid.core.weigh.amounts import VesselAmounts

DEFER = "Local rules and the supplier's safety sheet come first."
POWDER = f"Powder: dust mask, gloves, eye protection; weigh out of draughts. {DEFER}"
IRON = (
    "Iron(II) sulphate is harmful if swallowed and dangerous to small children: gloves, own pot, "
    f"own spoon; never used for food again. {DEFER}"
)


def weighing_cautions(amounts: Iterable[VesselAmounts]) -> tuple[str, ...]:
    """The cautions that the substances to be weighed call for."""
    roles = {figure.role for one in amounts for figure in one.figures}
    names = {figure.name for one in amounts for figure in one.figures}
    said = []
    if roles & {"tannin", "mordant", "assist"}:
        said.append(POWDER)
    if "iron" in roles or any("iron" in name for name in names):
        said.append(IRON)
    return tuple(said)
