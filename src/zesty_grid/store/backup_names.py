"""What backups are called, and where they lie."""

import re
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

NAME = re.compile(r"zesty-grid (\d{4}-\d{2}-\d{2} \d{6})(?: ([a-z ]+))?\.db")
BEFORE_RESTORE = "before a restore"
BEFORE_NEW_VERSION = "before a new version"


@dataclass(frozen=True)
class Backup:
    """One checked copy; `why` is empty for the daily ones."""

    name: str
    made_at: datetime
    size_bytes: int
    why: str


def default_folder(data: Path) -> Path:
    """Beside the data file."""
    return data.with_name(f"{data.stem} backups")


def backup_name(moment: datetime, why: str = "") -> str:
    return f"zesty-grid {moment:%Y-%m-%d %H%M%S}{f' {why}' if why else ''}.db"


def backups_in(folder: Path) -> list[Backup]:
    """Newest first."""
    if not folder.is_dir():
        return []
    found = []
    for file in folder.iterdir():
        match = NAME.fullmatch(file.name)
        if match:
            at = datetime.strptime(match[1], "%Y-%m-%d %H%M%S").replace(tzinfo=UTC)
            found.append(Backup(file.name, at, file.stat().st_size, match[2] or ""))
    return sorted(found, key=lambda one: one.made_at, reverse=True)
