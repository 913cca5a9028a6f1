"""The bench log as CSV, corrected entries included."""

import csv
import io
from collections.abc import Iterable

from zesty_grid.core.dye.log_words import LogLine
from zesty_grid.formats.spreadsheet_text import plain_text

HEAD = [
    "number",
    "at",
    "entered_at",
    "received_at",
    "who",
    "vessel",
    "step",
    "kind",
    "words",
    "swatches",
    "replaces",
    "replaced_by",
    "device",
]


def log_csv(lines: Iterable[LogLine]) -> str:
    """Text that a spreadsheet would take for a formula is written as text."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(HEAD)
    for line in lines:
        writer.writerow(
            [
                line.id,
                line.at.isoformat(timespec="milliseconds"),
                line.entered_at.isoformat(timespec="milliseconds"),
                line.received_at.isoformat(timespec="milliseconds"),
                plain_text(line.who),
                plain_text(line.vessel),
                line.step_title,
                line.kind,
                plain_text(line.words),
                " ".join(line.swatches),
                line.replaces or "",
                line.replaced_by or "",
                plain_text(line.device),
            ]
        )
    return out.getvalue()
