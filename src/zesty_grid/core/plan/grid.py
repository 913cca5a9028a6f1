"""The grid as every lens shows it: what is planned, and what was begun and is planned no longer."""

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.cells import Cell
from zesty_grid.core.plan.factors import FACTOR_ORDER, FactorKind
from zesty_grid.core.plan.open_places import open_places
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.zones_on_cloth import cloth_key, zone_words

# A line of the grid for cells that a factor does not concern, beside those that it does.
NOT_SET = ""
NOT_SET_LABEL = "not set"


class GridLevel(Frozen):
    """`planned` is False where only swatches that were begun have the level."""

    key: str
    label: str
    planned: bool


class GridFactor(Frozen):
    kind: FactorKind
    levels: tuple[GridLevel, ...]


class GridCell(Cell):
    """A cell of the crossing, or beside it: an added control, a larger piece, a swatch of another
    study that is treated here.

    `swatches` really stand here; `meant` were to, and went another way. `planned`: the plan has the
    cell; else it only holds swatches that were begun. `lacks` counts the pieces that it was to have
    and has not. `zone` names the part of those swatches that the cell is of; empty for whole ones.
    """

    swatches: tuple[str, ...] = ()
    meant: tuple[str, ...] = ()
    planned: bool = True
    lacks: int = 0
    zone: str = ""


class Grid(Frozen):
    """Factors and axes of all that is planned or was begun, and every cell with its swatches."""

    factors: tuple[GridFactor, ...]
    rows: tuple[FactorKind, ...]
    columns: tuple[FactorKind, ...]
    cells: tuple[GridCell, ...]


def grid_of(study: PlannedStudy) -> Grid:
    stands: dict[str, list[str]] = {}
    meant: dict[str, list[str]] = {}
    unplanned: dict[str, Cell] = {}
    planned_keys = {cloth_key(cell) for cell in study.cells}
    control_of = {cell.key: cell.control for cell in study.cells}
    # A cell goes by a piece that is still there.
    for swatch in sorted(study.swatches, key=lambda s: (s.code in study.taken.lost, s.replicate, s.serial)):
        if not (swatch.planned or swatch.begun):
            continue
        key, planned_key = study.cell(swatch), study.planned_cell(swatch)
        stands.setdefault(key, []).append(swatch.code)
        if planned_key != key:
            meant.setdefault(planned_key, []).append(swatch.code)
        for one in (key, planned_key):
            if one not in planned_keys and one not in unplanned:
                levels = study.levels(swatch) if one == key else swatch.levels
                unplanned[one] = Cell(
                    key=one,
                    levels=levels,
                    control=swatch.control or control_of.get(one),
                    added=swatch.added,
                    larger=swatch.larger,
                )
    lacks = open_places(study)
    keyed = [(cell, cloth_key(cell)) for cell in (*study.cells, *unplanned.values())]
    cells = [
        GridCell(
            **dict(cell),
            # A zone that is left out lies on no cloth; a whole cell that is may still hold swatches.
            swatches=tuple(stands.get(key, ())) if cell.included or key == cell.key else (),
            meant=tuple(meant.get(key, ())),
            planned=key in planned_keys,
            lacks=lacks.get(key, 0),
            zone=zone_words(study.plan, cell.levels),
        )
        for cell, key in keyed
    ]
    own = {swatch.code for swatch in study.swatches}
    cells += [
        GridCell(key=f"guest={code}", levels={}, added=True, swatches=(code,))
        for code in study.guests
        if code not in own
    ]
    factors = _factors(study, [cell for cell in cells if not cell.added])
    kinds = [factor.kind for factor in factors]
    extra = [kind for kind in kinds if study.plan.factor(kind) is None]
    return Grid(factors=tuple(factors), rows=study.plan.rows, columns=(*study.plan.columns, *extra), cells=tuple(cells))


def _factors(study: PlannedStudy, crossed: list[GridCell]) -> list[GridFactor]:
    found = []
    kinds = {factor.kind for factor in study.plan.factors}.union(*(cell.levels for cell in crossed))
    for kind in (kind for kind in FACTOR_ORDER if kind in kinds):
        planned = study.plan.factor(kind)
        levels = [
            GridLevel(key=level.key, label=level.label, planned=True) for level in (planned.levels if planned else ())
        ]
        there = {level.key for level in levels}
        without = False
        for cell in crossed:
            key = cell.levels.get(kind)
            if key is None:
                without = True
            elif key not in there:
                there.add(key)
                label = study.level_words({kind: key})[kind]
                levels.append(GridLevel(key=key, label=label, planned=False))
        if not levels:
            continue
        if without:
            levels.insert(0, GridLevel(key=NOT_SET, label=NOT_SET_LABEL, planned=planned is None))
        found.append(GridFactor(kind=kind, levels=tuple(levels)))
    return found
