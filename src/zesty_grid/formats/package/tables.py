"""What stands in a study package, table by table, and the version of the format."""

from zesty_grid.formats.package.answer_tables import ANSWER_TABLES
from zesty_grid.formats.package.record_tables import RECORD_TABLES
from zesty_grid.formats.package.table import Table

FORMAT = "zesty-grid/study-package"
VERSION = "1.2.0"
TABLES: tuple[Table, ...] = (*ANSWER_TABLES, *RECORD_TABLES)
