"""Studies that start from the swatches of others, and back."""

import sqlite3

# Swatches of one study that have a place in another, or were cut from one of its own.
_LINKS = """
SELECT DISTINCT swatch.study_id AS earlier, there.study_id AS later FROM study_swatch AS there
  JOIN swatch ON swatch.id = there.swatch_id WHERE swatch.study_id <> there.study_id
UNION SELECT DISTINCT parent.study_id, child.study_id FROM swatch AS child
  JOIN swatch AS parent ON parent.id = child.parent_id WHERE parent.study_id <> child.study_id
"""


def studies_before(connection: sqlite3.Connection, study_id: int) -> list[int]:
    """The studies whose swatches this one starts from."""
    rows = connection.execute(
        f"SELECT earlier FROM ({_LINKS}) WHERE later = ? ORDER BY earlier", (study_id,)
    )
    return [row["earlier"] for row in rows]


def studies_after(connection: sqlite3.Connection, study_id: int) -> list[int]:
    """The studies that start from swatches of this one."""
    rows = connection.execute(
        f"SELECT later FROM ({_LINKS}) WHERE earlier = ? ORDER BY later", (study_id,)
    )
    return [row["later"] for row in rows]
