"""What a grid can tell of factors whose levels lie on one cloth."""

from collections.abc import Collection, Mapping

from zesty_grid.core.plan.factor_words import FACTOR_WORDS
from zesty_grid.core.plan.factors import FactorKind
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.told import Effect, LevelCount
from zesty_grid.core.plan.zones_on_cloth import ZONE_KINDS, cloth_key


def zone_effects(study: PlannedStudy, crossed: Mapping[str, Mapping[FactorKind, str]]) -> list[Effect]:
    """Each factor of a zone with two levels or more. Its levels are compared on the same cloth, so
    that neither pot nor piece comes between; how much zones of one cloth differ where nothing was
    changed is not known, and no smallest difference is said."""
    standing = {study.cell(study.by_code[code]) for code in crossed}
    cells = [cell for cell in study.cells if cell.included and cloth_key(cell) in standing]
    found = []
    for kind in ZONE_KINDS:
        factor = study.plan.factor(kind)
        if factor is None or len(factor.levels) < 2:
            continue
        cloths = {
            level.key: {cloth_key(cell) for cell in cells if cell.levels.get(kind) == level.key}
            for level in factor.levels
        }
        counts = tuple(
            LevelCount(level=level.key, label=level.label, swatches=len(cloths[level.key]), vessels=None)
            for level in factor.levels
        )
        found.append(_effect(kind, counts, cloths.values()))
    return found


def _effect(kind: FactorKind, counts: tuple[LevelCount, ...], cloths: Collection[set[str]]) -> Effect:
    shared = len(set.intersection(*cloths)) if cloths else 0
    return Effect(
        factor=kind, name=FACTOR_WORDS[kind], between=None, levels=counts, can_be_told=shared > 0, same_cloth=shared
    )
