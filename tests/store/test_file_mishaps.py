"""What can happen to a data file: each has an answer in words, and nothing is lost by it."""

import hashlib
import os
import shutil
import sqlite3
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest
from tests.seeded_readings import add_readings, new_study
from tests.small_study import small_plan

from zesty_grid.core.refusal import Refusal
from zesty_grid.store import file_in_use
from zesty_grid.store.database import FIRST_VERSION, Database, OnlyReading, newest_applied, newest_version
from zesty_grid.store.due import study_lines
from zesty_grid.store.file_in_use import FileInUse, FileReplaced, mark_of, settle_log
from zesty_grid.store.opening import is_damage, open_data, refusal_for
from zesty_grid.store.plan import list_study_ids
from zesty_grid.store.safekeeping import backup, check


def names(database: Database) -> list[str]:
    with database.connection() as connection:
        return [line.name for line in study_lines(connection)]


def held_by(database: Database) -> FileInUse:
    """As the server holds it."""
    in_use = FileInUse(database.path, "http://127.0.0.1:8750")
    in_use.begin()
    database.in_use = in_use
    return in_use


@pytest.fixture
def filled(database: Database) -> Database:
    study, codes = new_study(database, small_plan(name="First"))
    laid = [(code, "whole", (60.0, 5.0, 20.0)) for code in list(codes.values())[:10]]
    add_readings(database, study, laid)
    return database


@pytest.mark.parametrize(
    ("content", "code"), [(b"not a database at all", "no-data-file"), (b"SQLite format 3", "no-data-file")]
)
def test_what_is_no_data_file_is_refused_and_left_as_it_is(tmp_path, content, code):
    path = tmp_path / "letter.db"
    path.write_bytes(content)
    with pytest.raises(Refusal) as refused:
        open_data(path)
    assert refused.value.code == code
    assert str(path) in refused.value.reason
    assert path.read_bytes() == content


def test_a_folder_and_a_place_where_no_file_can_be_are_refused_in_words(tmp_path):
    with pytest.raises(Refusal, match="is a folder"):
        open_data(tmp_path)
    (tmp_path / "file").write_text("x")
    with pytest.raises(Refusal, match="No file can be made"):
        FileInUse(tmp_path / "file" / "grid.db")


def test_the_database_of_another_program_is_never_written_to(tmp_path):
    path = tmp_path / "others.db"
    with sqlite3.connect(path) as other:
        other.execute("CREATE TABLE bookmark (address TEXT)")
    other.close()
    before = path.read_bytes()
    with pytest.raises(Refusal, match="database of another program"):
        open_data(path)
    assert path.read_bytes() == before


def test_a_file_of_a_newer_version_is_refused_and_not_changed(filled):
    newer = newest_version() + 1
    with filled.transaction() as connection:
        connection.execute("INSERT INTO migration VALUES (?, 'to come', '2030-01-01')", (newer,))
    before = check(filled.path)
    with pytest.raises(Refusal, match="written by a newer Zesty Grid"):
        open_data(filled.path)
    assert check(filled.path) == before


def test_a_file_of_an_older_version_is_copied_before_it_is_brought_up_to_date(filled, tmp_path, monkeypatch):
    newer = newest_version() + 1
    sql = "CREATE TABLE to_come (id INTEGER PRIMARY KEY) STRICT;"
    monkeypatch.setattr("zesty_grid.store.database.migrations", lambda: [(newer, "to_come", sql)])
    folder = tmp_path / "kept"
    database = open_data(filled.path, folder)
    assert not database.only_reading
    with database.connection() as connection:
        assert newest_applied(connection) == newer
        assert connection.execute("SELECT count(*) FROM to_come").fetchone()[0] == 0
    (kept,) = folder.iterdir()
    assert "before a new version" in kept.name
    with sqlite3.connect(kept) as copy:
        assert newest_applied(copy) == newer - 1
    copy.close()


def test_a_file_of_a_version_that_was_never_released_is_refused(filled):
    with filled.transaction() as connection:
        connection.execute("UPDATE migration SET number = ?", (FIRST_VERSION - 1,))
    before = filled.path.read_bytes()
    with pytest.raises(Refusal, match="never released"):
        open_data(filled.path)
    assert filled.path.read_bytes() == before


def test_a_file_that_another_program_holds_is_refused_in_words(filled, monkeypatch):
    monkeypatch.setattr("zesty_grid.store.opening.open_to_read", impatient)
    holding = sqlite3.connect(filled.path, isolation_level=None)
    holding.execute("PRAGMA journal_mode = DELETE")
    holding.execute("BEGIN EXCLUSIVE")
    with pytest.raises(Refusal, match="held by another program"):
        open_data(filled.path)
    holding.execute("ROLLBACK")
    holding.close()
    assert names(open_data(filled.path)) == ["First"]


def impatient(path: Path) -> sqlite3.Connection:
    return sqlite3.connect(path, timeout=0, isolation_level=None)


def test_where_nothing_may_be_written_all_is_shown_and_nothing_written(filled, monkeypatch):
    monkeypatch.setattr(os, "access", lambda *_: False)
    opened = open_data(filled.path)
    assert "may only be read" in opened.only_reading
    assert names(opened) == ["First"]
    with pytest.raises(OnlyReading), opened.transaction():
        raise AssertionError("nothing is written")


def damage(path: Path, table: str) -> None:
    """Overwrites the page with the newest rows of a table, as a failing disk would."""
    with sqlite3.connect(path) as connection:
        connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        size = connection.execute("PRAGMA page_size").fetchone()[0]
        root = connection.execute("SELECT rootpage FROM sqlite_schema WHERE name = ?", (table,)).fetchone()[0]
    connection.close()
    with path.open("r+b") as file:
        file.seek((root - 1) * size)
        file.write(b"\xa5" * 512)


def test_a_damaged_file_is_opened_to_read_what_can_be_read(filled):
    damage(filled.path, "reading")
    opened = open_data(filled.path)
    assert "damaged" in opened.only_reading
    assert "rescue" in opened.only_reading
    assert names(opened) == ["First"]
    with pytest.raises(OnlyReading), opened.transaction():
        raise AssertionError("nothing is written")


def test_the_mark_waits_for_whoever_reads_and_is_refused_when_that_never_ends(filled, monkeypatch):
    monkeypatch.setattr("zesty_grid.store.file_in_use.MARK_TRIES", 1)
    new_study(filled, small_plan(name="In the log"))
    reading = sqlite3.connect(filled.path, isolation_level=None)
    reading.execute("BEGIN")
    reading.execute("SELECT count(*) FROM study").fetchone()
    in_use = FileInUse(filled.path)
    with pytest.raises(Refusal, match=r"reads .* without end"):
        in_use.begin()
    reading.execute("COMMIT")
    reading.close()
    in_use.begin()
    assert not in_use.is_replaced()
    in_use.end()


def test_two_servers_do_not_share_a_file(filled):
    in_use = held_by(filled)
    with pytest.raises(Refusal, match=r"already runs with .* at http://127.0.0.1:8750"):
        FileInUse(filled.path)
    in_use.end()
    FileInUse(filled.path).end()


def test_a_backup_copied_over_a_running_file_is_noticed_and_both_are_kept(filled, tmp_path):
    backup(filled.path, tmp_path / "copy.db")
    held_by(filled)
    new_study(filled, small_plan(name="Second, after the backup"))
    shutil.copyfile(tmp_path / "copy.db", filled.path)  # into the same file, as `cp` does
    with pytest.raises(FileReplaced, match="was replaced while the application ran"), filled.transaction():
        raise AssertionError("nothing is written")
    with pytest.raises(FileReplaced), filled.connection():
        raise AssertionError("nothing is read either")
    # What was entered since lies in the log that was set aside: with the file that it belongs to
    # nothing is missing. The file there now is the backup, whole.
    (aside,) = tmp_path.glob("grid.db log set aside*")
    assert aside.stat().st_size > 0
    next_start = as_left(filled.path, tmp_path / "next")
    settle_after_stop(next_start)
    assert names(Database(next_start)) == ["First"]
    assert check(next_start) == []


def test_a_backup_moved_over_a_running_file_leaves_all_of_the_old_one(filled, tmp_path):
    backup(filled.path, tmp_path / "copy.db")
    held_by(filled)
    new_study(filled, small_plan(name="Second, after the backup"))
    (tmp_path / "copy.db").replace(filled.path)  # another file under the same name, as `mv` does
    with pytest.raises(FileReplaced), filled.connection():
        raise AssertionError("nothing is read")
    (aside,) = tmp_path.glob("grid.db data set aside*")
    assert names(Database(aside)) == ["First", "Second, after the backup"]
    next_start = as_left(filled.path, tmp_path / "next")
    settle_after_stop(next_start)
    assert names(Database(next_start)) == ["First"]


@pytest.fixture
def folds_at_each_write(monkeypatch):
    monkeypatch.setattr(file_in_use, "LONG_LOG_BYTES", 1)


@pytest.mark.usefixtures("folds_at_each_write")
def test_a_plain_copy_of_the_running_file_is_noticed_when_it_comes_back(filled, tmp_path):
    held_by(filled)
    new_study(filled, small_plan(name="Second"))
    shutil.copyfile(filled.path, tmp_path / "copy.db")  # as people do, with the log left behind
    new_study(filled, small_plan(name="Third"))
    shutil.copyfile(tmp_path / "copy.db", filled.path)
    with pytest.raises(FileReplaced), filled.connection():
        raise AssertionError("nothing is read")


def test_a_copy_that_is_still_the_same_harms_nothing(filled, tmp_path):
    held_by(filled)
    shutil.copyfile(filled.path, tmp_path / "copy.db")
    new_study(filled, small_plan(name="Second"))  # into the log
    shutil.copyfile(tmp_path / "copy.db", filled.path)
    assert names(filled) == ["First", "Second"]
    assert check(filled.path) == []


@pytest.mark.usefixtures("folds_at_each_write")
def test_while_the_log_is_folded_in_the_power_may_fail(filled, tmp_path):
    in_use = held_by(filled)
    reader = sqlite3.connect(filled.path)
    reader.execute("BEGIN")
    reader.execute("SELECT count(*) FROM study").fetchone()  # keeps the folding from its end
    new_study(filled, small_plan(name="Second"))
    before = mark_of_running(filled.path)
    cut = as_left(filled.path, tmp_path / "cut")
    assert settle_log(cut) == []
    assert names(Database(cut)) == ["First", "Second"]
    assert not in_use.is_replaced()
    reader.close()
    new_study(filled, small_plan(name="Third"))
    assert mark_of_running(filled.path) != before
    assert not in_use.is_replaced()
    after = as_left(filled.path, tmp_path / "after")
    assert settle_log(after) == []
    assert names(Database(after)) == ["First", "Second", "Third"]


@pytest.mark.usefixtures("folds_at_each_write")
def test_many_who_read_and_write_never_take_their_own_file_for_another(filled):
    held_by(filled)

    def work(n: int) -> None:
        for i in range(6):
            if n % 2:
                new_study(filled, small_plan(name=f"{n} {i}"))
            else:
                names(filled)

    with ThreadPoolExecutor(6) as several:
        list(several.map(work, range(6)))
    assert len(names(filled)) == 1 + 3 * 6
    assert check(filled.path) == []


def mark_of_running(path: Path) -> int:
    """Read by another process: one that closes the file here would take its locks away."""
    code = f"import pathlib; print(int.from_bytes(pathlib.Path({str(path)!r}).read_bytes()[60:64]))"
    return int(subprocess.run([sys.executable, "-c", code], capture_output=True, check=True).stdout)


def settle_after_stop(path: Path) -> None:
    """What the next start says of the log that does not belong to the file."""
    (notice,) = settle_log(path)
    assert "did not belong to it and was set aside" in notice


def as_left(path: Path, folder: Path) -> Path:
    """The files as a program that ended at this moment leaves them on the disk."""
    folder.mkdir()
    for ending in ("", "-wal", ".in-use"):
        shutil.copyfile(f"{path}{ending}", f"{folder / path.name}{ending}")
    return folder / path.name


def test_a_log_that_is_missing_is_said(filled, tmp_path):
    in_use = held_by(filled)
    new_study(filled, small_plan(name="Only in the log"))
    copied = tmp_path / "elsewhere" / "grid.db"
    copied.parent.mkdir()
    shutil.copyfile(filled.path, copied)  # without the file that ends in -wal
    (notice,) = settle_log(copied)
    assert "what was entered last may be missing" in notice
    in_use.end()


def test_a_file_that_was_closed_in_order_is_whole_on_its_own(filled, tmp_path):
    in_use = held_by(filled)
    assert mark_of(filled.path) != 0
    new_study(filled, small_plan(name="Second"))
    in_use.end()
    assert mark_of(filled.path) == 0
    shutil.copyfile(filled.path, tmp_path / "copied.db")
    assert settle_log(tmp_path / "copied.db") == []
    assert names(Database(tmp_path / "copied.db")) == ["First", "Second"]


def test_after_a_power_cut_the_log_is_taken_up_again(filled, tmp_path):
    """The three files as they lie on the disk while the application runs."""
    held_by(filled)
    new_study(filled, small_plan(name="Second"))
    cut = as_left(filled.path, tmp_path / "cut")
    assert settle_log(cut) == []
    assert names(Database(cut)) == ["First", "Second"]


@pytest.fixture
def small_disk(tmp_path):
    """A disk of 4 MiB where one may be mounted; else the file may not grow beyond that."""
    place = tmp_path / "disk"
    place.mkdir()
    done = subprocess.run(["mount", "-t", "tmpfs", "-o", "size=4m", "none", str(place)], capture_output=True)
    yield place, done.returncode == 0
    if done.returncode == 0:
        subprocess.run(["umount", "-l", str(place)], check=True)


def test_a_full_disk_loses_nothing_that_was_acknowledged(small_disk, monkeypatch):
    place, mounted = small_disk
    database = Database(place / "grid.db")
    if not mounted:
        monkeypatch.setattr(Database, "_opened", opened_small)
    acknowledged: list[str] = []
    with pytest.raises(sqlite3.Error) as full:
        keep_until_it_fails(database, acknowledged)
    said = refusal_for(full.value)
    assert said.code == "disk-full"
    assert "still on the screen" in said.cure
    monkeypatch.undo()
    with database.connection() as connection:
        there = {row[0] for row in connection.execute("SELECT sha256 FROM photo_file")}
    assert len(acknowledged) > 10
    assert there == set(acknowledged)
    assert check(place / "grid.db") == []


def keep_until_it_fails(database: Database, acknowledged: list[str]) -> None:
    for n in range(500):
        data = bytes([n % 251]) * 100_000 + str(n).encode()
        digest = hashlib.sha256(data).hexdigest()
        with database.transaction() as connection:
            connection.execute("INSERT INTO photo_file VALUES (?, ?)", (digest, data))
        acknowledged.append(digest)


def opened_small(database: Database) -> sqlite3.Connection:
    connection = sqlite3.connect(database.path, timeout=20, isolation_level=None)
    connection.execute("PRAGMA max_page_count = 1000")
    return connection


def test_what_sqlite_says_means_something_to_the_person():
    for name, code in (
        ("SQLITE_FULL", "disk-full"),
        ("SQLITE_BUSY_SNAPSHOT", "file-held"),
        ("SQLITE_READONLY_DBMOVED", "only-reading"),
        ("SQLITE_CORRUPT_VTAB", "file-damaged"),
        ("SQLITE_IOERR_FSYNC", "disk-error"),
        ("SQLITE_NOTADB", "file-damaged"),
    ):
        error = sqlite3.OperationalError("as SQLite says it")
        error.sqlite_errorname = name
        assert refusal_for(error).code == code
    own_fault = sqlite3.OperationalError("no such column: colour")
    own_fault.sqlite_errorname = "SQLITE_ERROR"
    assert not is_damage(own_fault)
    with pytest.raises(sqlite3.OperationalError):
        refusal_for(own_fault)


def test_a_write_that_fails_midway_leaves_the_file_as_it_was(filled):
    with filled.connection() as connection:
        before = list_study_ids(connection)
    with pytest.raises(KeyboardInterrupt):
        stop_midway(filled)
    with filled.connection() as connection:
        assert list_study_ids(connection) == before
    assert names(filled) == ["First"]


def stop_midway(database: Database) -> None:
    with database.transaction() as connection:
        connection.execute("UPDATE study SET name = 'half'")
        raise KeyboardInterrupt


def test_looking_at_the_mark_does_not_let_go_of_the_file(filled):
    """Closing any descriptor of a file drops this process's locks on it (POSIX; SQLite, “How to
    corrupt a database file”, 2.2): another program would then take itself for the last one, and
    take the log away from under the server."""
    in_use = held_by(filled)
    log = Path(f"{filled.path}-wal")
    for n in range(3):
        new_study(filled, small_plan(name=f"Here {n}"))
        before = log.stat().st_ino
        other = (
            "import sqlite3, sys; c = sqlite3.connect(sys.argv[1]); "
            "c.execute('UPDATE study SET question = question || 1'); "
            "c.commit(); c.close()"
        )
        subprocess.run([sys.executable, "-c", other, str(filled.path)], check=True)
        assert log.exists()
        assert log.stat().st_ino == before
    assert names(filled) == ["First", "Here 0", "Here 1", "Here 2"]
    in_use.end()
    assert check(filled.path) == []
