"""A make-up run filled into the grid that it mends."""

from collections.abc import Mapping, Sequence

from zesty_grid.core.compare.compared import ComparedSwatch
from zesty_grid.core.compare.studies_beside import OneStudy


def fill_gaps(
    own: Sequence[ComparedSwatch], labels: Mapping[str, Mapping[str, str]], other: OneStudy, number: int
) -> list[ComparedSwatch]:
    """Swatches of another study at the combinations of levels where this one has none that counts.

    `labels` has the levels of each factor of this study by their labels. Those that lack a factor,
    or have a level that this study has not, are no part of it. Vessels stay those of the other
    study, whose `number` keeps them apart, so that its pots count as pots of their own.
    """
    there = {tuple(one.levels.get(kind, "") for kind in labels) for one in own}
    found = []
    for one in other.swatches:
        said = {kind: labels[kind].get(other.level_words.get((kind, one.levels.get(kind, "")), "")) for kind in labels}
        levels = {kind: level for kind, level in said.items() if level is not None}
        if len(levels) < len(labels) or tuple(levels[kind] for kind in labels) in there:
            continue
        vessels = {kind: f"{number}/{name}" for kind, name in one.vessels.items()}
        found.append(one.model_copy(update={"levels": levels, "vessels": vessels}))
    return found
