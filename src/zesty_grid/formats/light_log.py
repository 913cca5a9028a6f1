"""Files of light loggers: times and light, whatever their columns are called."""

import re
from collections.abc import Sequence
from datetime import datetime
from itertools import pairwise

from zesty_grid.core.fade.light_record import LM_PER_W, LightLog, LightSample
from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.formats.csv_rows import csv_rows, separator_of

MOST_BYTES, MOST_SAMPLES = 16 * 1024 * 1024, 200_000
FEWEST_SAMPLES = 2
FORMATS = (
    "%Y-%m-%dT%H:%M:%S",
    "%Y-%m-%d %H:%M:%S",
    "%Y-%m-%d %H:%M",
    "%d.%m.%Y %H:%M:%S",
    "%d.%m.%Y %H:%M",
    "%d/%m/%Y %H:%M:%S",
    "%d/%m/%Y %H:%M",
    "%m/%d/%Y %H:%M:%S",
    "%m/%d/%Y %H:%M",
    "%m/%d/%y %I:%M:%S %p",
    "%d-%m-%Y %H:%M:%S",
    "%d-%m-%Y %H:%M",
    "%Y/%m/%d %H:%M:%S",
    "%Y/%m/%d %H:%M",
    "%m/%d/%Y %I:%M:%S %p",
    "%d.%m.%y %H:%M:%S",
    "%d.%m.%y %H:%M",
)
WATT = re.compile(r"w\s*/\s*m|watt|irradian|bestrahlung|w m-2|solar rad", re.IGNORECASE)
LUX = re.compile(r"lux|\blx\b|klx|illumin|light|licht|lumi|beleucht", re.IGNORECASE)
KILO = re.compile(r"klx|kilolux|klux", re.IGNORECASE)


def read_light_log(data: bytes) -> LightLog:
    """Raises Refusal for a file in which no times and no light are found."""
    if len(data) > MOST_BYTES:
        raise _refused("The file is too large.", "Give at most 16 MB: fewer days, or hourly means.")
    rows = _rows(data)
    for start, head in enumerate(rows):
        if len(head) > 1 and any(re.search(r"[^\W\d_]{2,}", cell) for cell in head):
            body = rows[start + 1 :]
            light = _light_column(head, body)
            times = _time_columns(body, light)
            if light is not None and times:
                return _log(head[light], body, light, times)
    raise _refused(
        "No times and no light were found in this file.",
        "Give a table with a heading, a time in each line and a column of lux or W/m².",
    )


def _rows(data: bytes) -> list[list[str]]:
    for encoding in ("utf-8-sig", "utf-16", "latin-1"):
        try:
            text = data.decode(encoding)
            break
        except UnicodeError:
            continue
    rows = csv_rows(text, separator_of(text, 40))
    return [[cell.strip() for cell in row] for row in rows]


def _light_column(head: Sequence[str], body: Sequence[Sequence[str]]) -> int | None:
    known = [
        i
        for i, name in enumerate(head)
        if (LUX.search(name) or WATT.search(name)) and _number(_cell(body, 0, i)) is not None
    ]
    return known[0] if known else None


def _time_columns(body: Sequence[Sequence[str]], light: int | None) -> tuple[int, ...]:
    """One column of whole moments, or one of days and one of times."""
    if not body:
        return ()
    columns = [i for i in range(len(body[0])) if i != light]
    for i in columns:
        if _moment(_cell(body, 0, i)) is not None:
            return (i,)
    for i, j in pairwise(columns):
        if _moment(f"{_cell(body, 0, i)} {_cell(body, 0, j)}") is not None:
            return (i, j)
    return ()


def _log(name: str, body: Sequence[Sequence[str]], light: int, times: tuple[int, ...]) -> LightLog:
    watts = bool(WATT.search(name)) and not LUX.search(name.replace("light", ""))
    factor = LM_PER_W if watts else 1000.0 if KILO.search(name) else 1.0
    samples, skipped = [], 0
    day_first = _day_first(body, times)
    for row in body[:MOST_SAMPLES]:
        at = _moment(" ".join(row[i] for i in times if i < len(row)), day_first)
        value = _number(row[light]) if light < len(row) else None
        if at is None or value is None or value < -1 or value * factor > 1e6:
            skipped += 1 if any(row) else 0
            continue
        samples.append(LightSample(at=at, lux=max(0.0, value * factor)))
    if len(samples) < FEWEST_SAMPLES:
        raise _refused("Fewer than two lines have a time and a number.", "Give the whole log.")
    notes = [f"{len(samples)} samples from column “{name}”."]
    if watts:
        notes.append(f"Given in W/m², taken at {LM_PER_W:g} lm/W.")
    if skipped:
        notes.append(f"{skipped} lines without a time or a number were left out.")
    return LightLog(name, watts, tuple(sorted(samples, key=lambda one: one.at)), tuple(notes))


def _day_first(body: Sequence[Sequence[str]], times: tuple[int, ...]) -> bool:
    """Whether 5/6 is the fifth of June: yes, unless some line has a second number above 12."""
    for row in body[:MOST_SAMPLES]:
        found = re.match(r"(\d{1,2})/(\d{1,2})/", row[times[0]] if times[0] < len(row) else "")
        if found and int(found[2]) > 12:
            return False
    return True


def _moment(text: str, day_first: bool = True) -> datetime | None:
    text = text.strip().removesuffix("Z").split("+")[0].split(".000")[0].strip()
    if not any(character.isdigit() for character in text):
        return None
    try:
        found = datetime.fromisoformat(text)
        return found.replace(tzinfo=None) if ":" in text else None
    except ValueError:
        pass
    formats = FORMATS if day_first else sorted(FORMATS, key=lambda f: not f.startswith("%m"))
    for format_ in formats:
        try:
            return datetime.strptime(text, format_)
        except ValueError:
            continue
    return None


def _number(text: str) -> float | None:
    plain = text.replace(" ", "").replace(" ", "")
    if "," in plain:
        plain = plain.replace(",", "") if "." in plain else plain.replace(",", ".")
    try:
        value = float(plain)
    except ValueError:
        return None
    return value if abs(value) < 1e9 else None


def _cell(body: Sequence[Sequence[str]], row: int, column: int) -> str:
    return body[row][column] if row < len(body) and column < len(body[row]) else ""


def _refused(reason: str, cure: str) -> Refusal:
    return Refusal(
        "no-light-log",
        reason,
        cure,
        (Fault(field="file", given="the file", allowed="CSV of times and lux or W/m²", cure=cure),),
    )
