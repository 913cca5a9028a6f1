"""Backups that make themselves, are checked and thinned, and bring everything back."""

import os
import shutil
import sqlite3
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.record_snapshot import snapshot as snapshot_of
from tests.seeded_readings import add_readings, new_study
from tests.small_study import small_plan

from zesty_grid.core.record.backups_kept import kept_backups
from zesty_grid.core.record.clock import clock_warning
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.backup_names import BEFORE_RESTORE, backup_name, default_folder
from zesty_grid.store.backups import Backups
from zesty_grid.store.database import Database
from zesty_grid.store.due import study_lines
from zesty_grid.store.file_in_use import FileInUse
from zesty_grid.store.rescue import rescue
from zesty_grid.store.restoring import restore_file, restore_into
from zesty_grid.store.safekeeping import check

DAY = timedelta(days=1)
NOW = datetime(2026, 11, 27, 9, 0, tzinfo=UTC)


def names(database: Database) -> list[str]:
    with database.connection() as connection:
        return [line.name for line in study_lines(connection)]


def snapshot(database: Database) -> dict:
    with database.connection() as connection:
        return snapshot_of(connection)


@pytest.fixture
def filled(database: Database) -> Database:
    study, codes = new_study(database, small_plan(name="First"))
    laid = [(code, "whole", (60.0, 5.0, 20.0)) for code in list(codes.values())[:10]]
    add_readings(database, study, laid)
    return database


@pytest.fixture
def backups(filled: Database, tmp_path: Path) -> Backups:
    return Backups(filled, tmp_path / "kept")


def test_ten_years_of_daily_backups_leave_some_of_each_age():
    daily = [NOW - timedelta(days=n) for n in range(3650)]
    kept = kept_backups(daily, NOW)
    ages = [(NOW - at).days for at in kept]
    assert set(range(14)) <= set(ages)
    assert sum(age < 56 for age in ages) == pytest.approx(14 + 6, abs=1)
    assert sum(60 < age < 730 for age in ages) == pytest.approx(22, abs=1)
    # One of each year, for as long as there are any.
    assert {at.year for at in kept} == {at.year for at in daily}
    assert len(kept) < 60


@given(st.lists(st.integers(0, 60 * 24 * 900), min_size=1, max_size=60, unique=True))
def test_the_newest_backup_and_all_of_the_last_two_days_are_always_kept(minutes):
    made = [NOW - timedelta(minutes=n) for n in minutes]
    kept = kept_backups(made, NOW)
    assert max(made) in kept
    assert {at for at in made if NOW - at <= timedelta(days=2)} <= set(kept)
    assert set(kept) <= set(made)
    # Thinning again takes nothing more away.
    assert kept_backups(kept, NOW) == kept


def test_a_backup_is_a_whole_file_that_was_checked(backups, tmp_path):
    made = backups.make()
    assert [one.name for one in backups.all()] == [made.name]
    copied = tmp_path / "elsewhere.db"
    shutil.copyfile(backups.file_of(made.name), copied)  # nothing else belongs to it
    assert check(copied) == []
    assert snapshot(Database(copied)) == snapshot(backups.database)


def test_a_backup_is_made_at_the_start_and_then_once_a_day(backups):
    backups.make_if_due()
    backups.make_if_due()
    (made,) = backups.all()
    a_day_ago = datetime.now(UTC) - timedelta(hours=25)
    os.rename(backups.file_of(made.name), backups.folder / backup_name(a_day_ago))
    backups.make_if_due()
    assert len(backups.all()) == 2


def test_backups_that_are_too_old_go_and_files_of_other_names_stay(backups):
    backups.make()
    source = backups.folder / backups.all()[0].name
    for days in range(1, 60):
        old = backups.folder / backup_name(datetime.now(UTC) - timedelta(days=days))
        shutil.copyfile(source, old)
    (backups.folder / "my notes.txt").write_text("kept")
    backups.make()
    ages = sorted(round((datetime.now(UTC) - one.made_at) / DAY) for one in backups.all())
    assert ages[:2] == [0, 0]
    assert ages[2:14] == list(range(1, 13))
    assert len([age for age in ages if age >= 20]) < 10
    assert (backups.folder / "my notes.txt").exists()


def test_a_backup_that_cannot_be_written_says_so_and_goes_on_being_said(filled, tmp_path):
    (tmp_path / "kept").write_text("in the way")
    backups = Backups(filled, tmp_path / "kept")
    backups.make_if_due()
    assert "No backup can be written" in backups.fault
    assert "--backups" in backups.fault
    (tmp_path / "kept").unlink()
    backups.make_if_due()
    assert backups.fault == ""


def test_a_backup_for_which_there_is_no_room_is_not_begun(backups, monkeypatch):
    monkeypatch.setattr(shutil, "disk_usage", lambda _: shutil._ntuple_diskusage(100, 90, 10))
    with pytest.raises(Refusal, match="no room for a backup"):
        backups.make()
    assert list(backups.folder.iterdir()) == []


def test_a_copy_that_turns_out_damaged_is_no_backup(backups):
    with backups.database.transaction() as connection:
        connection.execute("INSERT INTO photo_file VALUES ('not its hash', x'00')")
    with pytest.raises(Refusal, match="not what was stored"):
        backups.make()
    assert backups.all() == []
    (faulty,) = backups.folder.iterdir()
    assert faulty.name.endswith(".faulty")


def test_restoring_brings_back_what_was_there_and_keeps_what_is_there(backups):
    database = backups.database
    before = snapshot(database)
    made = backups.make()
    new_study(database, small_plan(name="After the backup"))
    kept = restore_into(backups, backups.file_of(made.name))
    assert snapshot(database) == before
    assert check(database.path) == []
    assert BEFORE_RESTORE in kept.name
    assert names(Database(kept)) == ["First", "After the backup"]
    # And back again.
    restore_into(backups, kept)
    assert names(database) == ["First", "After the backup"]


def test_over_data_with_faults_a_backup_is_restored_and_they_are_kept_as_they_are(backups):
    made = backups.make()
    with backups.database.transaction() as connection:
        connection.execute("INSERT INTO photo_file VALUES ('not its hash', x'00')")
    kept = restore_into(backups, backups.file_of(made.name))
    assert kept.name.endswith(".faulty")
    assert "not what was stored" in check(kept)[0]
    assert check(backups.database.path) == []


def test_restoring_while_it_runs_is_not_taken_for_a_file_that_was_replaced(backups):
    database = backups.database
    database.in_use = in_use = FileInUse(database.path)
    in_use.begin()
    made = backups.make()
    new_study(database, small_plan(name="After the backup"))
    restore_into(backups, backups.file_of(made.name))
    assert not in_use.is_replaced()
    assert names(database) == ["First"]
    new_study(database, small_plan(name="Third"))
    in_use.end()
    assert names(Database(database.path)) == ["First", "Third"]


def test_what_is_no_sound_backup_is_not_restored(backups, tmp_path):
    made = backups.file_of(backups.make().name)
    with sqlite3.connect(made) as connection:
        connection.execute("INSERT INTO photo_file VALUES ('not its hash', x'00')")
    connection.close()
    (tmp_path / "letter.db").write_text("Dear colleague")
    before = snapshot(backups.database)
    with pytest.raises(Refusal, match="faults itself"):
        restore_into(backups, made)
    with pytest.raises(Refusal, match="not a data file"):
        restore_into(backups, tmp_path / "letter.db")
    with pytest.raises(Refusal, match="no file"):
        restore_into(backups, tmp_path / "none.db")
    for name in ("../grid.db", "zesty-grid 2026-01-01 000000.db", ""):
        with pytest.raises(Refusal, match="no backup"):
            backups.file_of(name)
    assert snapshot(backups.database) == before


def test_a_backup_comes_back_into_a_fresh_place(backups, tmp_path):
    before = snapshot(backups.database)
    made = backups.file_of(backups.make().name)
    fresh = tmp_path / "another computer" / "grid.db"
    assert restore_file(fresh, made) is None
    assert snapshot(Database(fresh)) == before


def test_over_a_damaged_file_a_backup_is_restored_and_the_damaged_one_kept(backups):
    path = backups.database.path
    before = snapshot(backups.database)
    made = backups.file_of(backups.make().name)
    path.write_bytes(b"\xa5" * 9000)
    kept = restore_file(path, made)
    assert kept is not None
    assert kept.read_bytes() == b"\xa5" * 9000
    assert snapshot(Database(path)) == before


def test_over_a_file_that_is_served_nothing_is_restored(backups):
    made = backups.file_of(backups.make().name)
    in_use = FileInUse(backups.database.path)
    with pytest.raises(Refusal, match="already runs"):
        restore_file(backups.database.path, made)
    in_use.end()


def test_a_sound_file_that_is_restored_over_becomes_one_more_backup(backups):
    made = backups.file_of(backups.make().name)
    new_study(backups.database, small_plan(name="After the backup"))
    kept = restore_file(backups.database.path, made)
    assert kept is not None
    assert kept.parent == default_folder(backups.database.path)
    assert names(Database(kept)) == ["First", "After the backup"]
    assert names(Database(backups.database.path)) == ["First"]


def pages_of(path: Path, table: str) -> tuple[int, list[int]]:
    """The page size, and every page that belongs to a table (SQLite, `dbstat`), first its root."""
    with sqlite3.connect(path) as connection:
        connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        size = connection.execute("PRAGMA page_size").fetchone()[0]
        found = connection.execute("SELECT rootpage FROM sqlite_schema WHERE name = ?", (table,)).fetchall()
    connection.close()
    return size, [row[0] for row in found]


def test_all_that_is_readable_is_rescued_into_a_new_file(filled, tmp_path):
    new_study(filled, small_plan(name="Second"))
    whole = snapshot(filled)
    size, (page,) = pages_of(filled.path, "reading_choice")
    with filled.path.open("r+b") as file:
        file.seek((page - 1) * size)
        file.write(b"\xa5" * size)
    found = rescue(filled.path, tmp_path / "rescued.db")
    assert found.faults == []
    rescued = Database(tmp_path / "rescued.db")
    assert names(rescued) == ["First", "Second"]
    assert snapshot(rescued) == whole  # nothing had been said of any reading: nothing is lost
    assert found.saved["reading"] == 10


def test_what_leads_to_something_lost_is_written_down_beside(filled, tmp_path):
    size, (page,) = pages_of(filled.path, "measurement")
    with filled.path.open("r+b") as file:
        file.seek((page - 1) * size)
        file.write(b"\xa5" * size)
    found = rescue(filled.path, tmp_path / "rescued.db")
    assert found.faults == []
    assert found.apart["reading"] == 10  # a reading without what was measured shows nothing
    written = (tmp_path / "rescued.db.apart.jsonl").read_text().splitlines()
    assert len([line for line in written if '"lab_l": 60.0' in line]) == 10
    assert names(Database(tmp_path / "rescued.db")) == ["First"]


def test_a_file_beyond_rescue_says_so_and_no_file_is_written_over(filled, tmp_path):
    (tmp_path / "there.db").write_text("mine")
    with pytest.raises(Refusal, match="exists already"):
        rescue(filled.path, tmp_path / "there.db")
    with filled.path.open("r+b") as file:
        file.write(b"\xa5" * 4096)
    with pytest.raises(Refusal, match="cannot be read"):
        rescue(filled.path, tmp_path / "rescued.db")


def test_a_clock_that_was_set_back_is_said_before_anything_is_logged():
    assert clock_warning(None, NOW) == ""
    assert clock_warning(NOW - timedelta(days=30), NOW) == ""
    assert clock_warning(NOW + timedelta(seconds=90), NOW) == ""
    said = clock_warning(NOW + timedelta(hours=3, minutes=20), NOW)
    assert "3 h 20 min before the last entry" in said
