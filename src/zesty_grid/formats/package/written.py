"""Writes a study package: tables as CSV, a description of them, and files; as a folder or zip.

Data Package 1.0 with Table Schema (open, frictionless): `datapackage.json` names every table with
its columns, types, units and keys.
"""

import csv
import io
import json
import zipfile
from collections.abc import Iterable, Iterator, Mapping
from pathlib import Path
from typing import Any

from zesty_grid.formats.package.table import Column, Table
from zesty_grid.formats.package.tables import FORMAT, TABLES, VERSION
from zesty_grid.formats.spreadsheet_text import plain_text

Row = Mapping[str, Any]
# The same bytes for the same content: a zip would else hold the moment at which it was written.
MOMENT_IN_ZIP = (1980, 1, 1, 0, 0, 0)


def package_files(
    rows: Mapping[str, Iterable[Row]], factors: Iterable[str], files: Iterable[tuple[str, bytes]], created: str
) -> Iterator[tuple[str, bytes]]:
    """Every file of the package with its path. `factors` become columns of the swatches."""
    wide = tuple(Column(name, "string", f"Level of the factor {name} that it really got") for name in factors)
    tables = [one._replace(columns=one.columns + wide) if one.name == "swatches" else one for one in TABLES]
    yield "datapackage.json", _described(tables, created)
    for table in tables:
        yield f"{table.name}.csv", _as_csv(table, rows[table.name])
    yield from files


def write_folder(folder: Path, files: Iterable[tuple[str, bytes]]) -> None:
    for path, content in files:
        target = folder / path
        target.parent.mkdir(parents=True, exist_ok=True)
        target.write_bytes(content)


def write_zip(target: Path, files: Iterable[tuple[str, bytes]]) -> None:
    with zipfile.ZipFile(target, "w") as package:
        for path, content in files:
            # Photographs are packed already.
            how = zipfile.ZIP_STORED if path.startswith("photos/") else zipfile.ZIP_DEFLATED
            package.writestr(zipfile.ZipInfo(path, MOMENT_IN_ZIP), content, how)


def _as_csv(table: Table, rows: Iterable[Row]) -> bytes:
    out = io.StringIO()
    # As RFC 4180 wants it; with another end of line a lone return in a text would not be quoted.
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow([column.name for column in table.columns])
    for row in rows:
        writer.writerow([_cell(column, row.get(column.name)) for column in table.columns])
    return out.getvalue().encode()


def _cell(column: Column, value: Any) -> str:
    if value is None:
        return ""
    if column.type == "boolean":
        return "true" if value else "false"
    if column.type in ("object", "array"):
        held = json.loads(value) if isinstance(value, str) else value
        return json.dumps(held, ensure_ascii=False)
    if column.type in ("number", "integer"):
        return repr(value)
    return plain_text(str(value))


def _described(tables: Iterable[Table], created: str) -> bytes:
    document = {
        "name": "zesty-grid-studies",
        "profile": "data-package",
        "format": FORMAT,
        "version": VERSION,
        "created": created,
        "description": "Studies of natural dyes: plan, log, readings and trials. Colours are CIE "
        "L*a*b* under D50 for the 2° observer. A text that a spreadsheet would take for a formula "
        "has an apostrophe before it.",
        "resources": [_resource(table) for table in tables],
    }
    return (json.dumps(document, indent=1, ensure_ascii=False) + "\n").encode()


def _resource(table: Table) -> dict[str, Any]:
    schema: dict[str, Any] = {"fields": [_field(column) for column in table.columns], "primaryKey": list(table.key)}
    if table.refers:
        schema["foreignKeys"] = [
            {"fields": list(columns), "reference": {"resource": other, "fields": list(_key_of(other))}}
            for columns, other in table.refers
        ]
    return {
        "name": table.name,
        "path": f"{table.name}.csv",
        "profile": "tabular-data-resource",
        "description": table.description,
        "format": "csv",
        "mediatype": "text/csv",
        "encoding": "utf-8",
        "schema": schema,
    }


def _key_of(name: str) -> tuple[str, ...]:
    return next(table.key for table in TABLES if table.name == name)


def _field(column: Column) -> dict[str, Any]:
    described: dict[str, Any] = {"name": column.name, "type": column.type, "description": column.description}
    if column.unit:
        described["unit"] = column.unit
    if column.required:
        described["constraints"] = {"required": True}
    return described
