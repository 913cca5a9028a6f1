"""A check in a process of its own says what the check says."""

from zesty_grid.serving.checking import check_apart
from zesty_grid.store.safekeeping import check


def test_a_file_is_checked_apart_as_it_is_checked_here(database, tmp_path):
    assert check_apart(database.path) == []
    with database.transaction() as connection:
        connection.execute("INSERT INTO photo_file VALUES ('not its hash', x'00')")
    assert check_apart(database.path) == check(database.path) != []
    (said,) = check_apart(tmp_path / "none.db")
    assert "could not be checked" in said
    assert "There is no data file" in said
