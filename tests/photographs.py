"""Photographs of the simulated camera, kept on the disk by what they show: made at first use.

They lie outside of the repository, and go by the code that makes them: a changed camera makes new ones.
"""

import hashlib
import os
from dataclasses import fields, is_dataclass
from functools import cache
from pathlib import Path
from tempfile import NamedTemporaryFile
from typing import Any

import numpy as np
from pydantic import BaseModel

import zesty_grid.standins
from zesty_grid.core.read import kubelka_munk, patch24
from zesty_grid.formats import sheet_page
from zesty_grid.standins.camera import Shot
from zesty_grid.standins.camera import photograph as take
from zesty_grid.standins.scene import Scene

FOLDER = Path(os.environ.get("XDG_CACHE_HOME") or Path.home() / ".cache") / "zesty-grid" / "photographs"


def photograph(scene: Scene, shot: Shot, kind: str = "JPEG") -> bytes:
    """As the simulated camera takes it; from the disk where it was taken before."""
    name = hashlib.sha256(_camera() + _said((scene, shot, kind))).hexdigest()
    kept = FOLDER / name[:2] / name
    if kept.is_file():
        return kept.read_bytes()
    data = take(scene, shot, kind)
    kept.parent.mkdir(parents=True, exist_ok=True)
    with NamedTemporaryFile(dir=kept.parent, delete=False) as unfinished:
        unfinished.write(data)
    Path(unfinished.name).replace(kept)
    return data


def _said(value: Any) -> bytes:
    """All that a value holds, always in the same bytes."""
    if isinstance(value, np.ndarray):
        return str((value.shape, value.dtype)).encode() + value.tobytes()
    if isinstance(value, BaseModel):
        return value.model_dump_json().encode()
    if is_dataclass(value):
        return _said([type(value).__name__, *(getattr(value, field.name) for field in fields(value))])
    if isinstance(value, dict):
        return _said([*value.items()])
    if isinstance(value, list | tuple):
        return b"(" + b",".join(map(_said, value)) + b")"
    return repr(value).encode()


@cache
def _camera() -> bytes:
    """What the pictures rest on: the source of camera, cloth and page."""
    sources = [*Path(zesty_grid.standins.__path__[0]).glob("*.py")]
    sources += [Path(module.__file__) for module in (kubelka_munk, patch24, sheet_page) if module.__file__]
    return hashlib.sha256(b"".join(source.read_bytes() for source in sorted(sources))).digest()
