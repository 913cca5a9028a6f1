"""How a table of a study package stands in the data file."""

from typing import Literal, NamedTuple

# How a value is told in a package: rows go by names that last, not by their numbers.
Kind = Literal[
    "plain",
    "json",
    "codes",
    "study",
    "swatch",
    "run",
    "state",
    "trial",
    "entry",
    "photo",
    "light",
    "measurement",
    "reading",
    "file",
    "sample",
    "log",
    "entry_document",
    "trial_entry_document",
]


class Held(NamedTuple):
    """A column of a package's table, and the SQL that gives it. `derived`: it is worked out again
    when the package is taken in, and not read from it."""

    column: str
    sql: str = ""
    kind: Kind = "plain"
    derived: bool = False

    @property
    def expression(self) -> str:
        return self.sql or self.column

    @property
    def stored(self) -> str:
        """The column that it is written to."""
        return self.expression.rpartition(".")[2]


class HeldTable(NamedTuple):
    """`where` picks the rows of one study (`?1`). `own`: what kind of thing a row is, and which
    column names it. `grows`: rows are added and never changed; of others the newest are right."""

    name: str
    stored: str
    columns: tuple[Held, ...]
    where: str
    order: str
    own: tuple[Kind, str] | None = None
    grows: bool = True
    joins: str = ""
    as_rows: str = ""  # where several rows in the file are one in the package


def derived(column: str, sql: str, kind: Kind = "plain") -> Held:
    return Held(column, sql, kind, derived=True)


def plain(*columns: str) -> tuple[Held, ...]:
    """Columns that are called alike in both, and stand as they are."""
    return tuple(map(Held, columns))


OF_STUDY = "study_id = ?1"
STUDY = Held("study", "study_id", "study")
SWATCH = Held("swatch", "swatch_id", "swatch")
TRIAL = Held("trial", "trial_id", "trial")
OF_TRIAL = "trial_id IN (SELECT id FROM trial WHERE study_id = ?1)"
