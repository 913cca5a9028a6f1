"""The rows of a text in which values are separated by a character."""

import csv
import io
from collections import Counter

from zesty_grid.core.refusal import Refusal


def csv_rows(text: str, separator: str) -> list[list[str]]:
    """Lines may end in any way (RFC 4180 has CR LF); raises Refusal for what is no such table."""
    try:
        return list(csv.reader(io.StringIO(text, newline=""), delimiter=separator))
    except csv.Error as error:
        raise Refusal("no-table", f"The table cannot be read: {error}.", "Save it again as CSV.") from error


def separator_of(text: str, lines: int, among: str = "\t;|,") -> str:
    """The character that most of the first lines hold equally often; of two the one named first,
    as a comma may be the mark of decimals."""
    first = [line for line in text.splitlines()[:lines] if line.strip()]

    def alike(separator: str) -> int:
        counts = Counter(count for line in first if (count := line.count(separator)))
        return max(counts.values(), default=0)

    return max(among, key=alike)
