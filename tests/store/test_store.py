"""The one file: migrations, what can never change, backup and check."""

import sqlite3

import pytest
from tests.seeded_readings import codes_by_cell
from tests.small_study import cells_of, small_plan

from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.record.entry import NewBenchEntry
from zesty_grid.store import dye, plan, read
from zesty_grid.store.database import Database
from zesty_grid.store.due import study_lines
from zesty_grid.store.keeping import create_study, save_plan
from zesty_grid.store.logging import log_entry
from zesty_grid.store.safekeeping import backup, check

PLAN = StudyPlan.model_validate(small_plan())


@pytest.fixture
def study(database: Database) -> int:
    with database.transaction() as connection:
        return create_study(connection, PLAN)


def test_every_reference_is_found_by_an_index(database):
    with database.connection() as connection:
        tables = [
            row[0]
            for row in connection.execute(
                "SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%'"
            )
        ]
        for table in tables:
            firsts = set()
            for index in connection.execute(f"PRAGMA index_list({table})").fetchall():
                firsts.add(connection.execute(f"PRAGMA index_info({index[1]})").fetchone()[2])
            for key in connection.execute(f"PRAGMA foreign_key_list({table})").fetchall():
                assert key["from"] in firsts, f"{table}.{key['from']}"


@pytest.mark.parametrize(
    "said",
    [
        "UPDATE swatch SET in_work = 2",
        "UPDATE place SET begun = -1",
        "UPDATE swatch SET state = 99",
        "INSERT INTO bench_entry (study_id, key, vessel, step, kind, at, entered_at, received_at, "
        "document) VALUES (1, 'k', '', '', 'guessed', '', '', '', '{}')",
    ],
)
def test_what_no_column_may_hold_is_refused(database, study, said):
    with pytest.raises(sqlite3.IntegrityError), database.transaction() as connection:
        connection.execute(said)


def test_tables_are_strict_foreign_keys_on_and_writes_safe(database):
    with database.connection() as connection:
        tables = connection.execute("PRAGMA table_list").fetchall()
        own = [t for t in tables if t["type"] == "table" and not t["name"].startswith("sqlite_")]
        assert own
        assert all(t["strict"] for t in own)
        assert connection.execute("PRAGMA foreign_keys").fetchone()[0] == 1
        assert connection.execute("PRAGMA journal_mode").fetchone()[0] == "wal"
        assert connection.execute("PRAGMA synchronous").fetchone()[0] == 2  # FULL


def test_a_failed_transaction_leaves_nothing(database, study):
    def fail_midway() -> None:
        with database.transaction() as connection:
            create_study(connection, PLAN)
            raise KeyError("midway")

    with pytest.raises(KeyError):
        fail_midway()
    with database.connection() as connection:
        assert plan.list_study_ids(connection) == [study]


def test_codes_are_unique_over_studies_and_kept_when_a_cell_is_left_out(database, study):
    with database.transaction() as connection:
        other = create_study(connection, PLAN)
        before = codes_by_cell(connection, study)
        assert not set(before.values()) & set(codes_by_cell(connection, other).values())
        gone = cells_of(PLAN)[0].key
        thinner = PLAN.model_copy(update={"left_out": (gone,)})
        save_plan(connection, study, 1, thinner)
        after = codes_by_cell(connection, study)
        assert after == {cell: code for cell, code in before.items() if cell != gone}
        save_plan(connection, study, 2, PLAN)
        assert codes_by_cell(connection, study) == before


def test_a_stale_save_is_refused_and_shows_the_newer_version(database, study):
    with database.transaction() as connection:
        newer = PLAN.model_copy(update={"name": "Newer"})
        save_plan(connection, study, 1, newer)
        with pytest.raises(plan.StudyChangedElsewhere) as refused:
            save_plan(connection, study, 1, PLAN)
    assert refused.value.current.plan.name == "Newer"


def test_every_version_of_a_plan_is_kept_with_what_was_changed(database, study):
    with database.transaction() as connection:
        more = PLAN.model_copy(update={"replicates": 2, "liquor_ratio_ml_per_g": 40.0})
        save_plan(connection, study, 1, more)
        lines = plan.list_versions(connection, study)
        assert [line.revision for line in lines] == [2, 1]
        assert "swatches of each cell: 1 → 2" in lines[0].words
        assert "liquor ratio: 30 → 40" in lines[0].words
        assert plan.load_version(connection, study, 1) == PLAN
        assert plan.load_version(connection, study, 2) == more
        with pytest.raises(sqlite3.IntegrityError, match="never"):
            connection.execute("UPDATE plan_version SET plan = '{}'")


def test_a_bath_that_has_begun_can_be_neither_rewritten_nor_deleted(database, study):
    with database.transaction() as connection:
        log_entry(connection, study, NewBenchEntry(vessel="M1", step="fill", kind="done"))
    for statement in ("UPDATE run SET document = '{}'", "DELETE FROM run"):
        with database.transaction() as connection, pytest.raises(sqlite3.IntegrityError, match="never"):
            connection.execute(statement)


@pytest.mark.parametrize(
    ("wrong", "where"),
    [
        ("UPDATE passage SET out_at = NULL, ended = 0", "passage"),
        ("DELETE FROM run_step WHERE key = 'fill'", "run_step"),
        ("UPDATE run SET finished_at = NULL", "run (id 1)"),
        ("UPDATE place SET begun = 0", "place"),
        ("UPDATE swatch SET in_work = 1", "swatch"),
    ],
)
def test_tables_that_say_otherwise_than_the_log_are_found(database, study, wrong, where):
    with database.transaction() as connection:
        for step in ("fill", "enter", "finish"):
            log_entry(connection, study, NewBenchEntry(vessel="M1", step=step, kind="done"))
        connection.execute("UPDATE run SET finished_at = finished_at")
    assert check(database.path) == []
    with database.transaction() as connection:
        connection.execute(wrong)
    assert any(where in fault for fault in check(database.path))


def test_what_is_read_is_of_one_moment_whoever_writes_meanwhile(database, study):
    def entries(connection: sqlite3.Connection) -> int:
        return len(dye.list_entries(connection, study))

    with database.connection() as reader:
        assert entries(reader) == 0
        with database.transaction() as connection:
            log_entry(connection, study, NewBenchEntry(kind="note", note="a skein more"))
        assert entries(reader) == 0
        with pytest.raises(sqlite3.OperationalError, match="readonly"):
            reader.execute("DELETE FROM study")
    with database.connection() as reader:
        assert entries(reader) == 1


def test_bench_entries_can_be_neither_changed_nor_deleted(database, study):
    entry = NewBenchEntry(vessel="v", step="s", kind="done")
    with database.transaction() as connection:
        dye.add_entry(connection, study, entry)
    for statement in ("UPDATE bench_entry SET who = 'x'", "DELETE FROM bench_entry"):
        with database.transaction() as connection, pytest.raises(sqlite3.IntegrityError, match="never"):
            connection.execute(statement)


def test_the_same_photo_twice_is_one_photo(database, study):
    from zesty_grid.core.read.readings import AssignedSheet
    from zesty_grid.core.read.sheet_layout import lay_out_sheet

    with database.transaction() as connection:
        sheet = AssignedSheet(sheet=lay_out_sheet("S1"), page=1, assignments=())
        read.add_sheet(connection, study, sheet)
        first = read.add_photo(connection, study, "S1", "a.jpg", b"the same bytes")
        assert read.add_photo(connection, study, "S1", "b.jpg", b"the same bytes") == first
        assert read.photo_bytes(connection, first) == b"the same bytes"
    damage_is_found(database)


def damage_is_found(database: Database) -> None:
    assert check(database.path) == []
    with database.transaction() as connection:
        connection.execute("UPDATE photo_file SET bytes = x'00'")
    assert "is not what was stored" in check(database.path)[0]


def test_backup_of_a_file_in_use_is_whole(database, study, tmp_path):
    with database.connection() as reader:
        reader.execute("SELECT * FROM study").fetchall()
        backup(database.path, tmp_path / "copy.db")
    assert check(tmp_path / "copy.db") == []
    with Database(tmp_path / "copy.db").connection() as connection:
        assert plan.load_study(connection, study).plan == PLAN
    assert not list(tmp_path.glob("*.unfinished"))


def test_check_of_what_is_no_database(tmp_path):
    (tmp_path / "no.db").write_bytes(b"not a database at all" * 100)
    assert "damaged" in check(tmp_path / "no.db")[0]


def test_what_follows_from_the_record_is_worked_out_again_and_a_difference_is_said(database, study):
    with database.transaction() as connection:
        said = NewBenchEntry(vessel="M1", step="fill", kind="done")
        log_entry(connection, study, said)
    assert check(database.path) == []
    with database.transaction() as connection:
        line = study_lines(connection)[0]
        assert (line.swatches, line.read) == (18, 0)
        connection.execute("UPDATE study SET read_swatches = 3")
        connection.execute("UPDATE run SET ended_at = '2026-01-01T00:00:00.000+00:00'")
    assert check(database.path) == ["run (id 1) is not what the log gives", "study (id 1) counts its places wrong"]
