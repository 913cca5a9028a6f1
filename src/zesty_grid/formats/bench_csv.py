"""The bench papers as CSV: swatches, amounts, and the cut list."""

import csv
import io
from collections.abc import Iterable

from zesty_grid.core.plan.factors import FACTOR_ORDER
from zesty_grid.core.weigh.bench_papers import BenchPapers


def swatches_csv(papers: BenchPapers) -> str:
    kinds = [kind for kind in FACTOR_ORDER if papers.plan.factor(kind)]
    rows = (
        [
            s.code,
            s.tie,
            s.replicate,
            s.control,
            _number(s.mass_g),
            *(s.levels.get(kind, "") for kind in kinds),
            " ".join(s.vessels),
        ]
        for s in papers.swatches
    )
    return _csv(["code", "tie", "replicate", "control", "mass_g", *kinds, "vessels"], rows)


def amounts_csv(papers: BenchPapers) -> str:
    names = {vessel.name: vessel for vessel in papers.vessels}
    rows = (
        [
            names[own.vessel].name,
            names[own.vessel].title,
            i,
            figure.name,
            figure.role,
            _number(figure.grams),
            _number(figure.volume_ml),
            figure.stock_percent or "",
            figure.spoons,
            figure.working,
            figure.source,
        ]
        for own in papers.weighing.vessels
        for i, figure in enumerate(own.figures, 1)
    )
    head = [
        "vessel",
        "bath",
        "order",
        "what",
        "role",
        "grams",
        "volume_ml",
        "stock_percent",
        "spoons",
        "working",
        "source",
    ]
    return _csv(head, rows)


def cut_list_csv(papers: BenchPapers) -> str:
    rows = (
        [
            f.name,
            f.form,
            f.swatches,
            _number(f.grams),
            _number(f.width_cm),
            _number(f.height_cm),
            _number(f.cloth_length_cm),
            _number(f.yarn_m),
            f.working,
        ]
        for f in papers.cut_list.fibres
    )
    head = [
        "fibre",
        "form",
        "swatches",
        "grams",
        "swatch_width_cm",
        "swatch_height_cm",
        "cloth_length_cm",
        "yarn_m",
        "working",
    ]
    return _csv(head, rows)


def _number(value: float | None) -> str:
    return "" if value is None else f"{value:.4g}"


def _csv(head: Iterable[str], rows: Iterable[Iterable[object]]) -> str:
    buffer = io.StringIO()
    writer = csv.writer(buffer, lineterminator="\r\n")  # RFC 4180
    writer.writerow(head)
    writer.writerows([_harmless(str(value)) for value in row] for row in rows)
    return buffer.getvalue()


def _harmless(text: str) -> str:
    """A text that a spreadsheet would take for a formula is marked as text."""
    return f"'{text}" if text[:1] in "=+-@\t\r" and text[:1] else text
