"""Reads a study package, from a folder or a zip, and says what in it cannot be."""

import csv
import io
import json
import math
import zipfile
import zlib
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path
from typing import Any, BinaryIO, NamedTuple, Protocol

from zesty_grid.core.refusal import Fault, Refusal
from zesty_grid.formats.package.table import Column, Table
from zesty_grid.formats.package.tables import FORMAT, TABLES, VERSION
from zesty_grid.formats.photo import MAX_BYTES
from zesty_grid.formats.spreadsheet_text import as_it_was

MOST_BYTES_OF_TABLE = 2**30
MOST_FAULTS = 20
UNREADABLE = (OSError, zipfile.BadZipFile, zlib.error, NotImplementedError, RuntimeError, EOFError)
# One plan is one cell; the reader's own limit is 128 KB.
csv.field_size_limit(2**28)
Row = dict[str, Any]


class _Files(Protocol):
    def read(self, path: str, most: int) -> bytes | None:
        """A file of the package; None where there is none. Raises Refusal where it is too large."""


class PackageRead(NamedTuple):
    """`rows` by table, as `package_files` was given them."""

    created: str
    rows: dict[str, list[Row]]
    files: _Files

    def photo(self, path: str) -> bytes | None:
        return self.files.read(path, MAX_BYTES)

    def calibration(self, path: str) -> str | None:
        data = self.files.read(path, MAX_BYTES)
        return None if data is None else data.decode(errors="replace").rstrip("\n")


@contextmanager
def opened_package(source: Path | BinaryIO) -> Iterator[PackageRead]:
    """A folder, or a zip as a path or an open file.

    Raises Refusal for what is no package, is of a newer version, or holds what cannot be: the
    faults name table, row and column.
    """
    if isinstance(source, Path) and source.is_dir():
        yield _read(_Folder(source))
        return
    try:
        packed = zipfile.ZipFile(source)
    except (OSError, zipfile.BadZipFile) as error:
        raise _no_package("It is no zip, or a damaged one.") from error
    with packed:
        yield _read(_Zip(packed))


class _Folder:
    def __init__(self, folder: Path) -> None:
        self._folder = folder.resolve()

    def read(self, path: str, most: int) -> bytes | None:
        file = (self._folder / path).resolve()
        if not file.is_relative_to(self._folder) or not file.is_file():
            return None
        if file.stat().st_size > most:
            raise _too_large(path, most)
        return file.read_bytes()


class _Zip:
    def __init__(self, packed: zipfile.ZipFile) -> None:
        self._packed = packed
        self._names = set(packed.namelist())

    def read(self, path: str, most: int) -> bytes | None:
        if path not in self._names:
            return None
        if self._packed.getinfo(path).file_size > most:
            raise _too_large(path, most)
        try:
            return self._packed.read(path)
        except UNREADABLE as error:
            raise _no_package(f"{path} in it is damaged.") from error


def _read(files: _Files) -> PackageRead:
    described = _description(files)
    rows: dict[str, list[Row]] = {}
    faults: list[Fault] = []
    for table in TABLES:
        data = files.read(f"{table.name}.csv", MOST_BYTES_OF_TABLE)
        if data is None:
            faults.append(_fault(f"{table.name}.csv", "", "the file", "Pack it again."))
        else:
            rows[table.name] = _rows_of(table, data, faults)
    if faults:
        raise Refusal(
            "broken-package",
            f"The package holds what cannot be: {faults[0].field}.",
            "Write it again from the file that it came from.",
            tuple(faults[:MOST_FAULTS]),
        )
    return PackageRead(str(described.get("created", "")), rows, files)


def _description(files: _Files) -> dict[str, Any]:
    data = files.read("datapackage.json", 2**24)
    if data is None:
        raise _no_package("It has no datapackage.json.")
    try:
        described = json.loads(data)
    except ValueError as error:
        raise _no_package("Its datapackage.json is no JSON.") from error
    if not isinstance(described, dict) or described.get("format") != FORMAT:
        raise _no_package("It was not written by Zesty Grid.")
    if _parts(described.get("version")) > _parts(VERSION):
        raise Refusal(
            "newer-package",
            "The package was written by a newer version of Zesty Grid.",
            "Bring this one up to date first.",
        )
    if described.get("version") != VERSION:
        raise Refusal(
            "older-package",
            "The package was written by a version that was never released.",
            "Write it again from the file that it came from.",
        )
    return described


def _parts(version: Any) -> tuple[int, ...]:
    try:
        return tuple(int(part) for part in str(version).split("."))
    except ValueError as error:
        raise _no_package("It does not say its version.") from error


def _rows_of(table: Table, data: bytes, faults: list[Fault]) -> list[Row]:
    try:
        reader = csv.DictReader(io.StringIO(data.decode("utf-8"), newline=""), strict=True)
        header = set(reader.fieldnames or ())
        for column in table.columns:
            if column.name not in header:
                faults.append(
                    _fault(
                        f"{table.name}.csv", ", ".join(sorted(header))[:80], f"a column {column.name}", "Pack it again."
                    )
                )
        return [_row(table, number, cells, faults) for number, cells in enumerate(reader, 2)]
    except (UnicodeDecodeError, csv.Error) as error:
        faults.append(_fault(f"{table.name}.csv", str(error)[:80], "CSV in UTF-8", "Pack it again."))
        return []


def _row(table: Table, number: int, cells: Mapping[str, Any], faults: list[Fault]) -> Row:
    row: Row = {}
    for column in table.columns:
        cell = cells.get(column.name) or ""
        try:
            row[column.name] = _value(column, cell)
        except (ValueError, RecursionError):
            row[column.name] = None
            faults.append(
                _fault(
                    f"{table.name}.csv, row {number}, {column.name}",
                    cell[:60],
                    f"a value of type {column.type}",
                    "Put it right, or pack it again.",
                )
            )
    return row


def _value(column: Column, cell: str) -> Any:
    if cell == "":
        if column.required:
            raise ValueError
        return None
    if column.type == "boolean":
        return {"true": 1, "false": 0}[cell] if cell in ("true", "false") else _wrong()
    if column.type == "integer":
        found = int(cell)
        return found if abs(found) < 2**53 else _wrong()
    if column.type == "number":
        number = float(cell)
        return number if math.isfinite(number) else _wrong()
    if column.type in ("object", "array"):
        document = json.loads(cell, parse_constant=_wrong)
        right = dict if column.type == "object" else list
        return cell if isinstance(document, right) else _wrong()
    return as_it_was(cell)


def _wrong(_: str = "") -> Any:
    raise ValueError


def _fault(field: str, given: str, allowed: str, cure: str) -> Fault:
    return Fault(field=field, given=given, allowed=allowed, cure=cure)


def _no_package(why: str) -> Refusal:
    return Refusal(
        "no-package",
        f"This is no package of studies. {why}",
        "Choose a zip that “Package” of Tell others or the verb export has written.",
    )


def _too_large(path: str, most: int) -> Refusal:
    return Refusal(
        "package-too-large",
        f"{path} in the package is larger than {most >> 20} MB.",
        "Write the package again from the file that it came from.",
    )
