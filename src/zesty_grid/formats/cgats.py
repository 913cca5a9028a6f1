"""Tables of measured colours as text: CGATS.17 and its kin (ISO 28178), and CSV.

A CGATS file has a header, a DATA_FORMAT that names the columns, and DATA. L*a*b*, XYZ and spectra
are read; what illuminant and observer the file names is kept beside them.
"""

import re
import shlex

import numpy as np

from zesty_grid.core.read.colour_table import ColourRow, ColourTable
from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.csv_rows import csv_rows, separator_of

MOST_TEXT = 4 * 1024 * 1024
MOST_ROWS = 5000
LONGEST_NAME = 200
MOST_LIGHT, MOST_CHROMA, MOST_REFLECTANCE = 130.0, 200.0, 2.0
NAMES = ("SAMPLE_NAME", "SAMPLE_ID", "SAMPLEID", "SAMPLE", "PATCH", "NAME", "CODE", "SWATCH")
LAB = ("LAB_L", "LAB_A", "LAB_B")
LAB_SHORT = ("L", "A", "B")
XYZ = ("XYZ_X", "XYZ_Y", "XYZ_Z")
XYZ_SHORT = ("X", "Y", "Z")
WAVELENGTH = re.compile(r"^(?:SPECTRAL_?(?:NM)?_?|NM_?|R_?)?(\d{3})(?:\.\d+)?(?:_?NM)?$")


def read_colour_table(text: str) -> ColourTable:
    """Raises Refusal for what is no table of colours."""
    if len(text) > MOST_TEXT:
        raise Refusal("too-long", "The file is too long.", "Save fewer samples in it.")
    if "BEGIN_DATA" in text.upper():
        names, rows, said = _cgats(text)
    else:
        names, rows, said = _csv(text)
    if not rows:
        raise Refusal("no-colours", "The file holds no samples.", "Export it again, with its data.")
    if len(rows) > MOST_ROWS:
        raise Refusal("too-long", f"More than {MOST_ROWS} samples.", "Split the file.")
    return _table(names, rows, said)


def write_cgats(table: ColourTable, title: str) -> str:
    """The table as CGATS text."""
    names = ["SAMPLE_NAME"]
    if all(row.lab for row in table.rows):
        names += LAB
    if all(row.xyz for row in table.rows):
        names += XYZ
    if table.wavelengths_nm and all(row.reflectance for row in table.rows):
        names += [f"SPECTRAL_NM_{nm:.0f}" for nm in table.wavelengths_nm]
    lines = ["CGATS.17", f'DESCRIPTOR "{title}"']
    if table.illuminant or table.observer:
        lines.append(f'WEIGHTING_FUNCTION "ILLUMINANT, {table.illuminant}"')
        lines.append(f'WEIGHTING_FUNCTION "OBSERVER, {table.observer}"')
    lines += [f"NUMBER_OF_FIELDS {len(names)}", "BEGIN_DATA_FORMAT", "\t".join(names)]
    lines += ["END_DATA_FORMAT", f"NUMBER_OF_SETS {len(table.rows)}", "BEGIN_DATA"]
    for row in table.rows:
        quoted = row.name.replace('"', "'")
        values: list[float] = []
        for name, found in (("LAB_L", row.lab), ("XYZ_X", row.xyz)):
            if name in names and found:
                values += found
        if len(names) > 1 + len(values):
            values += row.reflectance
        lines.append("\t".join([f'"{quoted}"', *(f"{value:.4f}" for value in values)]))
    return "\n".join([*lines, "END_DATA", ""])


def _cgats(text: str) -> tuple[list[str], list[list[str]], str]:
    names: list[str] = []
    rows: list[list[str]] = []
    header: list[str] = []
    part = ""
    for line in text.splitlines():
        word = line.strip().upper()
        if word in ("BEGIN_DATA_FORMAT", "BEGIN_DATA"):
            part = word
        elif word in ("END_DATA_FORMAT", "END_DATA"):
            part = ""
        elif part == "BEGIN_DATA_FORMAT":
            names += line.split()
        elif part == "BEGIN_DATA" and word and not word.startswith("#"):
            try:
                rows.append(shlex.split(line, posix=True))
            except ValueError as error:
                raise Refusal(
                    "broken-table",
                    f"A quotation mark is missing in: {line.strip()[:60]}",
                    "Mend the line, or export the file again.",
                ) from error
        elif not part:
            header.append(line)
    return names, rows, "\n".join(header)


def _csv(text: str) -> tuple[list[str], list[list[str]], str]:
    lines = [row for row in csv_rows(text, separator_of(text, 40)) if any(row)]
    names = lines[0] if lines else []
    if _is_a_sample(names):
        return ["NAME", *LAB], lines, ""
    # Some name the light in the heading of a column: "L* (D65/10°)".
    return names, lines[1:], " ".join(names)


def _is_a_sample(row: list[str]) -> bool:
    """Columns that were pasted without their headings: a code, L*, a*, b*."""
    return len(row) == 4 and not _is_number(row[0]) and all(_is_number(cell) for cell in row[1:])


def _is_number(cell: str) -> bool:
    try:
        float(cell.replace(",", "."))
    except ValueError:
        return False
    return True


def _table(names: list[str], rows: list[list[str]], said: str) -> ColourTable:
    known = [re.sub(r"\([^)]*\)|[*\s()%]", "", name).upper() for name in names]
    at = {name: i for i, name in enumerate(known)}
    name_at = next((at[name] for name in NAMES if name in at), None)
    lab_at = _all_of(at, LAB) or _all_of(at, LAB_SHORT)
    xyz_at = _all_of(at, XYZ) or _all_of(at, XYZ_SHORT)
    waves = [(float(match[1]), i) for i, n in enumerate(known) if (match := WAVELENGTH.match(n))]
    waves = sorted(pair for pair in waves if 340 <= pair[0] <= 850)
    if len(waves) < 10:
        waves = []
    if not (lab_at or xyz_at or waves):
        raise Refusal(
            "no-colours",
            "The file has no columns of L*a*b*, of XYZ or of wavelengths.",
            "Name them LAB_L LAB_A LAB_B, XYZ_X XYZ_Y XYZ_Z, or by wavelengths such as 400.",
        )
    found = []
    for number, row in enumerate(rows, 1):
        spectrum = _numbers(row, [i for _, i in waves], number)
        named = name_at is not None and name_at < len(row)
        found.append(
            ColourRow(
                name=row[name_at].strip() if named and name_at is not None else str(number),
                lab=_three(_numbers(row, lab_at, number)),
                xyz=_three(_numbers(row, xyz_at, number)),
                reflectance=tuple(spectrum),
            )
        )
    spectra = np.array([row.reflectance for row in found]) if waves else np.zeros(0)
    if spectra.size and spectra.max() > 2.5:  # in per cent
        found = [row.model_copy(update={"reflectance": tuple(v / 100 for v in row.reflectance)}) for row in found]
    for number, sample in enumerate(found, 1):
        _must_be_a_colour(sample, number)
    return ColourTable(
        rows=tuple(found),
        wavelengths_nm=tuple(nm for nm, _ in waves),
        illuminant=_illuminant(said),
        observer=_observer(said),
    )


def _must_be_a_colour(row: ColourRow, number: int) -> None:
    """Raises Refusal for values that no surface has, fluorescent ones included."""
    if len(row.name) > LONGEST_NAME:
        raise Refusal(
            "broken-table",
            f"The name of sample {number} has more than {LONGEST_NAME} letters.",
            "Look whether the columns are in order.",
        )
    lab_is_odd = row.lab is not None and (
        not -1 <= row.lab[0] <= MOST_LIGHT or max(map(abs, row.lab[1:])) > MOST_CHROMA
    )
    xyz_is_odd = row.xyz is not None and not (min(row.xyz) >= -1 and max(row.xyz) <= 2 * MOST_LIGHT)
    spectrum = row.reflectance or (0.0,)
    if lab_is_odd or xyz_is_odd or min(spectrum) < -0.05 or max(spectrum) > MOST_REFLECTANCE:
        raise Refusal(
            "no-such-colour",
            f"Sample {number} ({row.name[:30]}) has values that no cloth has.",
            "Look whether the columns and the decimal signs are in order.",
        )


def _all_of(at: dict[str, int], names: tuple[str, ...]) -> list[int]:
    return [at[name] for name in names] if all(name in at for name in names) else []


def _numbers(row: list[str], where: list[int], number: int) -> list[float]:
    try:
        values = [float(row[i].replace(",", ".")) for i in where]
    except (ValueError, IndexError) as error:
        raise Refusal(
            "broken-table",
            f"Sample {number} has a value that is missing or no number.",
            "Mend that line, or export the file again.",
        ) from error
    if not np.isfinite(values).all():
        raise Refusal("broken-table", f"Sample {number} has a value that is no number.", "Mend that line.")
    return values


def _three(values: list[float]) -> tuple[float, float, float] | None:
    return (values[0], values[1], values[2]) if len(values) == 3 else None


def _illuminant(said: str) -> str:
    match = re.search(r"\b(D50|D55|D65|D75|F2|F7|F11|ILLUMINANT[\s,=:]+\"?A)\b", said.upper())
    if match is None:
        return ""
    named = "A" if match[1].endswith("A") else match[1]
    return f"FL{named[1:]}" if named.startswith("F") else named


def _observer(said: str) -> str:
    match = re.search(r"\b(2|10)\s*(?:°|DEG)|OBSERVER[^0-9\n]*(10|2)\b", said.upper())
    return "" if match is None else str(match[1] or match[2])
