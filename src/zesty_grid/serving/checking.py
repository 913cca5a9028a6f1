"""Checks a file in a process of its own: it takes memory and minutes with years of work in it, and
the screens go on being answered."""

import json
import subprocess
import sys
from pathlib import Path


def check_apart(path: Path) -> list[str]:
    """As `check` of the store; a check that cannot be made is a fault too."""
    command = [sys.executable, "-m", "zesty_grid.cli", "check", "--data", str(path)]
    done = subprocess.run(command, capture_output=True, text=True)
    try:
        return [str(fault) for fault in json.loads(done.stdout)["faults"]]
    except (ValueError, KeyError, TypeError):
        return [f"could not be checked: {done.stderr.strip()[-200:] or 'no answer'}"]
