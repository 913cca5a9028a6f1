"""Colours for other programs: numbers as CSV; palettes as CSS, SVG and plain text."""

import csv
import io
import re
from collections.abc import Sequence
from html import escape

from zesty_grid.core.compare.coloured import Coloured
from zesty_grid.formats.spreadsheet_text import plain_text

HEAD = [
    "key",
    "code",
    "study",
    "recipe",
    "state",
    "lightness",
    "a",
    "b",
    "uncertainty_de00",
    "srgb_hex",
    "colour",
    "taken_on",
]
SIDE, ACROSS, LABEL = 90, 8, 34


def colours_csv(pieces: Sequence[Coloured]) -> str:
    """L*a*b* under D50 and 2°. Text that a spreadsheet would take for a formula is made text."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(HEAD)
    for one in pieces:
        lightness, a, b = one.lab
        writer.writerow(
            [
                one.key,
                one.code,
                plain_text(one.study_name),
                plain_text(one.words),
                plain_text(one.state),
                f"{lightness:.3f}",
                f"{a:.3f}",
                f"{b:.3f}",
                f"{one.uncertainty_de00:.2f}",
                one.hex,
                one.colour_words,
                one.taken_on,
            ]
        )
    return out.getvalue()


def palette_css(pieces: Sequence[Coloured]) -> str:
    """A variable for each colour, in sRGB and, where it is understood, as L*a*b* itself."""
    lines = [f"  --{_name(one)}: {one.hex}; /* {_comment(f'{one.words}, {one.state}')} */" for one in pieces]
    exact = [f"    --{_name(one)}: lab({one.lab[0]:.2f}% {one.lab[1]:.2f} {one.lab[2]:.2f});" for one in pieces]
    return (
        ":root {\n" + "\n".join(lines) + "\n}\n"
        "@supports (color: lab(50% 0 0)) {\n  :root {\n" + "\n".join(exact) + "\n  }\n}\n"
    )


def palette_svg(pieces: Sequence[Coloured]) -> str:
    rows = -(-len(pieces) // ACROSS)
    width, height = ACROSS * SIDE, max(1, rows) * (SIDE + LABEL)
    squares = []
    for number, one in enumerate(pieces):
        x, y = number % ACROSS * SIDE, number // ACROSS * (SIDE + LABEL)
        squares.append(
            f'<g><title>{escape(one.words)}</title><rect x="{x}" y="{y}" width="{SIDE}" '
            f'height="{SIDE}" fill="{escape(one.hex)}"/><text x="{x + 3}" y="{y + SIDE + 13}">'
            f'{escape(one.name)}</text><text x="{x + 3}" y="{y + SIDE + 27}">{escape(one.hex)}'
            "</text></g>"
        )
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width} {height}" '
        f'font-family="sans-serif" font-size="12">{"".join(squares)}</svg>\n'
    )


def palette_text(pieces: Sequence[Coloured]) -> str:
    return "".join(
        f"{one.name}\t{one.hex}\tL* {one.lab[0]:.1f} a* {one.lab[1]:.1f} b* {one.lab[2]:.1f}\t{one.words}\n"
        for one in pieces
    )


def _name(one: Coloured) -> str:
    return re.sub(r"[^a-z0-9]+", "-", f"{one.code or one.name}".lower()).strip("-") or "colour"


def _comment(words: str) -> str:
    return words.replace("*/", "* /")
