"""What a table of a study package is: its name, its columns with their meanings, its keys."""

from typing import NamedTuple


class Column(NamedTuple):
    """`unit` is empty for what has none. Types are those of the Table Schema (Data Package 1.0)."""

    name: str
    type: str
    description: str
    unit: str = ""
    required: bool = False


class Table(NamedTuple):
    """`key` names its rows; `refers` leads from its columns to the key of another table."""

    name: str
    description: str
    columns: tuple[Column, ...]
    key: tuple[str, ...]
    refers: tuple[tuple[tuple[str, ...], str], ...] = ()


STUDY = Column("study", "string", "Identity of the study, the same in every file", required=True)
CODE = Column("swatch", "string", "Code of the swatch, as it stands on its label", required=True)
NUMBER = Column("number", "integer", "Its place in the order of writing", required=True)
OF_STUDY = ((("study",), "studies"),)
OF_SWATCH = ((("swatch",), "swatches"),)
OF_TRIAL = ((("trial",), "trials"),)
