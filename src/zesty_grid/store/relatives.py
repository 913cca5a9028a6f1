"""Studies that start from the swatches of others, and back."""

import sqlite3

_BEFORE = """
SELECT swatch.study_id FROM study_swatch JOIN swatch ON swatch.id = study_swatch.swatch_id
  WHERE study_swatch.study_id = ?1 AND swatch.study_id <> ?1
UNION SELECT parent.study_id FROM swatch AS child JOIN swatch AS parent
  ON parent.id = child.parent_id WHERE child.study_id = ?1 AND parent.study_id <> ?1
ORDER BY 1
"""
_AFTER = """
SELECT there.study_id FROM swatch JOIN place AS there ON there.swatch_id = swatch.id
  WHERE swatch.study_id = ?1 AND there.study_id <> ?1
UNION SELECT there.study_id FROM swatch JOIN guest AS there ON there.swatch_id = swatch.id
  WHERE swatch.study_id = ?1 AND there.study_id <> ?1
UNION SELECT child.study_id FROM swatch AS parent JOIN swatch AS child
  ON child.parent_id = parent.id WHERE parent.study_id = ?1 AND child.study_id <> ?1
ORDER BY 1
"""


def studies_before(connection: sqlite3.Connection, study_id: int) -> list[int]:
    """The studies whose swatches this one starts from: they have a place in it, are treated in it,
    or were cut for it."""
    return [row[0] for row in connection.execute(_BEFORE, (study_id,))]


def studies_after(connection: sqlite3.Connection, study_id: int) -> list[int]:
    """The studies that start from swatches of this one."""
    return [row[0] for row in connection.execute(_AFTER, (study_id,))]
