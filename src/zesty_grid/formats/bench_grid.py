"""The grid as rows of text for paper, in blocks that fit the width of a page."""

from itertools import product

from zesty_grid.core.plan.cells import cell_key
from zesty_grid.core.plan.factors import FactorKind, Level
from zesty_grid.core.weigh.bench_papers import BenchPapers

COLUMNS_ON_A_PAGE = 12
Line = list[tuple[FactorKind, Level]]


def grid_blocks(papers: BenchPapers) -> list[list[list[str]]]:
    """Tables whose first row and column are headers; each other cell holds codes and ties."""
    rows, columns = _lines(papers, papers.plan.rows), _lines(papers, papers.plan.columns)
    found: dict[str, list[str]] = {}
    for swatch in papers.swatches:
        found.setdefault(swatch.cell, []).append(f"{swatch.code} ({swatch.tie})")
    blocks = []
    for start in range(0, len(columns), COLUMNS_ON_A_PAGE):
        part = columns[start : start + COLUMNS_ON_A_PAGE]
        block = [["", *(_words(column) for column in part)]]
        for row in rows:
            keys = [cell_key({k: v.key for k, v in [*row, *column]}) for column in part]
            block.append([_words(row), *(" ".join(found.get(key, ["out"])) for key in keys)])
        blocks.append(block)
    controls = [s for s in papers.swatches if s.added]
    if controls:
        blocks.append([["Controls", "Code and tie"], *([s.words, f"{s.code} ({s.tie})"] for s in controls)])
    return blocks


def _lines(papers: BenchPapers, kinds: tuple[FactorKind, ...]) -> list[Line]:
    factors = [factor for kind in kinds if (factor := papers.plan.factor(kind))]
    return [
        [(factor.kind, level) for factor, level in zip(factors, levels, strict=True)]
        for levels in product(*(factor.levels for factor in factors))
    ]


def _words(line: Line) -> str:
    return ", ".join(level.label for _, level in line)
