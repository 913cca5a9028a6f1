"""Takes the studies of a package into a file: all of them, or nothing."""

import hashlib
import json
import sqlite3
from collections import Counter
from datetime import datetime
from typing import Any, NamedTuple, Protocol

from zesty_grid.core.record.states import AS_IT_CAME, AS_IT_CAME_WORDS, pause_in
from zesty_grid.core.record.taken_in import StudyTaken, TakenIn
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.store.packages.codes import as_text, with_codes, with_logs
from zesty_grid.store.packages.giving_codes import codes_here, serials_for
from zesty_grid.store.packages.held import HELD
from zesty_grid.store.packages.held_table import Held, HeldTable
from zesty_grid.store.packages.names import OF_A_STUDY, PAUSE, Names, light_name, names_of
from zesty_grid.store.packages.packing import recorded_rows
from zesty_grid.store.packages.same_rows import Comparison, compared, row_key, study_of
from zesty_grid.store.packages.shelf_of_package import take_shelf
from zesty_grid.store.packages.sound import broken, must_be_an_entry, must_be_plain, must_be_sound
from zesty_grid.store.worked_again import work_out_again

Row = dict[str, Any]


class Package(Protocol):
    """A package as it was read: rows by table, and its files."""

    @property
    def created(self) -> str: ...
    @property
    def rows(self) -> dict[str, list[Row]]: ...
    def photo(self, path: str) -> bytes | None: ...
    def calibration(self, path: str) -> str | None: ...


class _Columns(NamedTuple):
    """Of a table in the file."""

    keys: tuple[str, ...]
    texts: frozenset[str]
    may_be_null: frozenset[str]


def take_in(connection: sqlite3.Connection, package: Package, filename: str, starting: Shelf, at: datetime) -> TakenIn:
    """`starting`: what stands on the Shelf of a new file. Raises Refusal where the package does not
    hold together, or a study went on here and there."""
    try:
        taking = _Taking(connection, package)
        shelf = take_shelf(connection, package.rows, starting)
        for table in HELD:
            taking.take(table)
        affected = [taking.ids["study", uid] for uid, how in taking.how.items() if how != "here"]
        work_out_again(connection, affected)
    except Refusal:
        raise
    except (ValueError, LookupError, TypeError, sqlite3.IntegrityError) as error:
        # Each row is sound by itself, and together they are not.
        raise Refusal(
            "broken-package",
            "The tables of the package do not hold together.",
            "Write it again from the file that it came from. Nothing was taken in.",
        ) from error
    report = TakenIn(
        filename=filename[:200],
        written_at=package.created,
        at=at,
        studies=taking.report(),
        shelf_added=shelf.added,
        shelf_kept=shelf.kept,
    )
    if report.changes:
        connection.execute(
            "INSERT INTO taken_in (at, document) VALUES (?, ?)",
            (at.isoformat(timespec="seconds"), report.model_dump_json()),
        )
    return report


def list_taken(connection: sqlite3.Connection) -> list[TakenIn]:
    """What was taken in, the newest first."""
    rows = connection.execute("SELECT document FROM taken_in ORDER BY id DESC")
    return [TakenIn.model_validate_json(row["document"]) for row in rows]


class _Taking:
    """`ids`: row numbers in this file by kind and name in the package."""

    def __init__(self, connection: sqlite3.Connection, package: Package) -> None:
        self._connection = connection
        self._package = package
        self.ids: dict[tuple[str, str], int] = {}
        self.codes: dict[str, str] = {}
        self.marks: dict[str, str] = {}
        self.added: dict[str, Counter[str]] = {}
        self._same: dict[str, Comparison] = {}
        self._known_columns: dict[str, _Columns] = {}
        self._compare()
        self.how = {
            row["study"]: self._same[row["study"]].how if row["study"] in self._same else "new"
            for row in package.rows["studies"]
        }
        self._give_codes()
        self._group_lights()

    def report(self) -> tuple[StudyTaken, ...]:
        return tuple(
            StudyTaken(
                study=self.ids["study", uid],
                name=row["name"],
                how=self.how[uid],
                swatches=self._count("swatches", uid),
                readings=self._count("readings", uid),
                mark=self.marks.get(uid, ""),
                added=dict(self.added.get(uid, {})),
            )
            for row in self._package.rows["studies"]
            if (uid := row["study"])
        )

    def _count(self, table: str, uid: str) -> int:
        return sum(row["study"] == uid for row in self._package.rows[table])

    def _compare(self) -> None:
        """Studies that are here already, and the names of all their rows."""
        here: dict[str, int] = {}
        for row in self._package.rows["studies"]:
            found = self._connection.execute("SELECT id FROM study WHERE uid = ?", (row["study"],)).fetchone()
            if found:
                here[row["study"]] = found["id"]
        if not here:
            return
        names = names_of(self._connection, here.values())
        ours = recorded_rows(self._connection, here.values())
        for row in self._package.rows["studies"]:
            if row["study"] in here:
                uid, name = row["study"], row["name"]
                self._same[uid] = compared(ours, self._package.rows, uid, name)
        self._know(names)

    def _know(self, names: Names) -> None:
        self.codes = {name: code for code, name in names.codes.items()}
        self.ids = {(kind, name): number for (kind, number), name in names.rows.items()}

    def _give_codes(self) -> None:
        new: dict[str, list[str]] = {}
        for row in self._package.rows["swatches"]:
            if row["swatch"] not in self.codes:
                new.setdefault(row["study"], []).append(row["swatch"])
        for uid, names in new.items():
            codes = codes_here(self._connection, names, self.codes)
            self.codes |= codes
            first = next(iter(codes))
            self.marks[uid] = codes[first].removesuffix(first)
        self._serials = serials_for(self._connection, (self.codes[name] for names in new.values() for name in names))

    def _group_lights(self) -> None:
        known = {
            light_name(row["camera"], row["response"]): row["id"]
            for row in self._connection.execute("SELECT * FROM capture ORDER BY id DESC")
        }
        for number, row in enumerate(self._package.rows["lights"], 1):
            camera, response = row["camera"] or "", row["response"] or ""
            if light_name(camera, response) != row["light"]:
                raise broken("lights", number, "light", "It is not the name of this group.")
            if row["light"] not in known:
                made = self._connection.execute(
                    "INSERT INTO capture (camera, response) VALUES (?, ?)", (camera, response)
                )
                known[row["light"]] = int(made.lastrowid or 0)
        self.ids |= {("light", name): number for name, number in known.items()}

    def take(self, table: HeldTable) -> None:
        """Every row of a table that is not here yet; of tables that do not only grow, all rows of
        studies that are new or have grown."""
        for number, row in enumerate(self._package.rows[table.name], 1):
            uid = study_of(row)
            if uid is not None and uid not in self.how:
                raise broken(table.name, number, "study", f"{uid} is no study of the package.")
            if table.name == "photos":
                self._take_photo(number, row, uid)
                if row.get("sheet") is None:
                    continue  # a picture in the log
            if uid is not None and self._is_here(table, row, uid):
                continue
            if uid is None and self._stands(table, row):
                continue
            self._put(table, number, row)
            if uid is not None and self.how[uid] != "here":
                self.added.setdefault(uid, Counter())[table.name] += 1

    def _is_here(self, table: HeldTable, row: Row, uid: str) -> bool:
        if self.how[uid] == "here":
            return True
        same = self._same.get(uid)
        return bool(same and table.grows and row_key(table, row) in same.here[table.name])

    def _stands(self, table: HeldTable, row: Row) -> bool:
        """Of what belongs to no study: a cloth's colour that was typed."""
        return bool(
            self._connection.execute(
                "SELECT 1 FROM cloth_reading WHERE source = 'typed' AND cloth = ? AND lab_l = ? "
                "AND lab_a = ? AND lab_b = ? AND taken_on = ? AND kept_at = ?",
                (row["cloth"], row["lightness"], row["a_star"], row["b_star"], row["taken_on"], row["kept_at"]),
            ).fetchone()
        )

    def _put(self, table: HeldTable, number: int, row: Row) -> None:
        values = self._values(table, number, row)
        if table.name == "swatches":
            values["serial"] = self._serials.get(values["code"], 0)
        if table.name == "measurements":
            values["document"] = self._measured(number, row)
        if table.name == "run_members" and not row["belongs"]:
            return
        if table.name == "sheets":
            self._must_be_free(number, values)
        try:
            self._write(table, row, values)
        except sqlite3.IntegrityError as error:
            raise broken(table.name, number, table.columns[0].column, str(error)) from error
        if table.name == "entries" and row.get("device"):
            self._connection.execute(
                "INSERT INTO brought_signature (written, row_id, device) VALUES ('bench_entry', ?, ?)",
                (self.ids["entry", row["entry"]], row["device"]),
            )

    def _write(self, table: HeldTable, row: Row, values: Row) -> None:
        known = self.ids.get(self._own_key(table, row)) if table.own else None
        if known is not None:
            values.pop("serial", None)
            sets = ", ".join(f"{column} = ?" for column in values)
            self._connection.execute(f"UPDATE {table.stored} SET {sets} WHERE id = ?", (*values.values(), known))
            return
        keys = self._columns(table).keys
        rest = ", ".join(f"{one} = excluded.{one}" for one in values if one not in keys)
        over = ""
        if not table.grows and (keys != ("id",) or "id" in values):
            over = f" ON CONFLICT ({', '.join(keys)}) DO " + (f"UPDATE SET {rest}" if rest else "NOTHING")
        made = self._connection.execute(
            f"INSERT INTO {table.stored} ({', '.join(values)}) VALUES ({', '.join('?' * len(values))}){over}",
            tuple(values.values()),
        )
        if table.own:
            self.ids[self._own_key(table, row)] = int(made.lastrowid or 0)

    def _must_be_free(self, number: int, sheet: Row) -> None:
        there = self._connection.execute("SELECT study_id FROM sheet WHERE id = ?", (sheet["id"],)).fetchone()
        if there and there["study_id"] != sheet["study_id"]:
            why = f"A sheet {sheet['id']} of another study is in this file."
            raise broken("sheets", number, "sheet", why)

    def _own_key(self, table: HeldTable, row: Row) -> tuple[str, str]:
        assert table.own is not None
        kind, column = table.own
        return kind, f"{row['study']}/{row[column]}" if kind in OF_A_STUDY else row[column]

    def _values(self, table: HeldTable, number: int, row: Row) -> Row:
        columns = self._columns(table)
        found: Row = {}
        for held in table.columns:
            if held.derived:
                continue
            value = self._value(table, number, held, row)
            if value is None and held.stored not in columns.may_be_null:
                if held.stored not in columns.texts:
                    raise broken(table.name, number, held.column, "It is empty.")
                value = ""
            found[held.stored] = value
        return found

    def _columns(self, table: HeldTable) -> _Columns:
        if table.stored not in self._known_columns:
            self._known_columns[table.stored] = _columns_of(self._connection, table.stored)
        return self._known_columns[table.stored]

    def _value(self, table: HeldTable, number: int, held: Held, row: Row) -> Any:
        value = row.get(held.column)
        if held.kind == "entry_document":
            return self._entry(number, row)
        if held.kind == "plain":
            must_be_plain(table.name, number, held.column, value)
        if value is None or held.kind == "plain":
            return value
        if held.kind in ("json", "codes", "trial_entry_document"):
            document = json.loads(value)
            if held.kind == "codes":
                document = with_codes(document, self.codes)
            if held.kind == "trial_entry_document":
                logs = {name: one for (kind, name), one in self.ids.items() if kind == "log"}
                try:
                    document = with_logs(document, logs)
                except (KeyError, TypeError, AttributeError) as error:
                    raise broken(table.name, number, held.column, "It names no log.") from error
            text = as_text(document)
            must_be_sound(table.name, number, held.column, text)
            return text
        if held.kind == "swatch" and held.stored == "code":
            return self.codes[value]
        return self._id(table, number, held, row)

    def _id(self, table: HeldTable, number: int, held: Held, row: Row) -> int:
        kind, name = held.kind, str(row[held.column])
        pause = ""
        if kind == "state":
            if name == AS_IT_CAME_WORDS:
                return AS_IT_CAME
            kind = "run"
            name, _, pause = name.partition(PAUSE)
        if kind in OF_A_STUDY:
            name = f"{row['study']}/{name}"
        try:
            found = self.ids[kind, name]
            return pause_in(found, int(pause)) if pause else found
        except (KeyError, ValueError):
            why = f"“{name[:80]}” is not in the package."
            raise broken(table.name, number, held.column, why) from None

    def _entry(self, number: int, row: Row) -> str:
        document = json.loads(row["document"] or "{}")
        document = with_codes(document, self.codes)
        if row.get("about") is not None:
            about = self.ids.get(("entry", row["about"]))
            if about is None:
                raise broken("entries", number, "about", f"“{row['about']}” is no entry before it.")
            document["about"] = about
        columns = {
            "vessel": row["vessel"],
            "step": row["step"],
            "kind": row["kind"],
            "who": row["who"],
            "key": row["entry"],
            "at": row["at"],
            "entered_at": row["entered_at"],
        }
        must_be_an_entry(number, columns, document)
        return as_text(document)

    def _measured(self, number: int, row: Row) -> str:
        text = self._package.calibration(row["calibration"])
        if text is None:
            raise broken("measurements", number, "calibration", "The file is missing.")
        must_be_sound("measurements", number, "document", text)
        return text

    def _take_photo(self, number: int, row: Row, uid: str | None) -> None:
        if uid is not None and self.how[uid] == "here":
            return
        known = self._connection.execute("SELECT 1 FROM photo_file WHERE sha256 = ?", (row["photo"],)).fetchone()
        if known:
            return
        data = self._package.photo(row["path"] or "")
        if data is None:
            raise broken("photos", number, "path", "The file is missing.")
        if hashlib.sha256(data).hexdigest() != row["photo"]:
            raise broken("photos", number, "photo", "The file was changed.")
        self._connection.execute("INSERT INTO photo_file (sha256, bytes) VALUES (?, ?)", (row["photo"], data))


def _columns_of(connection: sqlite3.Connection, table: str) -> _Columns:
    rows = connection.execute(
        'SELECT name, type, "notnull", pk FROM pragma_table_info(?) ORDER BY pk', (table,)
    ).fetchall()
    return _Columns(
        keys=tuple(row["name"] for row in rows if row["pk"]),
        texts=frozenset(row["name"] for row in rows if row["type"] == "TEXT"),
        may_be_null=frozenset(row["name"] for row in rows if not row["notnull"]),
    )
