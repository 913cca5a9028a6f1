"""The tone curves of an RGB photograph's ICC profile (ICC.1:2022, curveType and parametric)."""

import struct

import numpy as np

from zesty_grid.core.read.colour_space import Floats
from zesty_grid.core.read.picture import Luminances


def profile_tone_curves(profile: bytes, codes: int) -> Luminances | None:
    """Linear light of `codes` equally spaced values for R, G, B: (3, codes).

    None where the profile has no such curves, as those built on tables have.
    """
    curves = []
    for channel in (b"rTRC", b"gTRC", b"bTRC"):
        tag = _tag(profile, channel)
        curve = _curve(tag, np.linspace(0, 1, codes)) if tag else None
        if curve is None:
            return None
        curves.append(curve)
    return np.clip(np.array(curves), 0, 1).astype(np.float32)


def _tag(profile: bytes, signature: bytes) -> bytes | None:
    if len(profile) < 132:
        return None
    (count,) = struct.unpack_from(">I", profile, 128)
    for i in range(min(count, 200)):
        if len(profile) < 132 + 12 * (i + 1):
            return None
        name, offset, size = struct.unpack_from(">4sII", profile, 132 + 12 * i)
        if name == signature:
            return profile[offset : offset + size]
    return None


def _curve(tag: bytes, v: Floats) -> Floats | None:
    if tag[:4] == b"curv" and len(tag) >= 12:
        (count,) = struct.unpack_from(">I", tag, 8)
        if count == 0:
            return v
        if len(tag) < 12 + 2 * count:
            return None
        table = np.frombuffer(tag, dtype=">u2", count=count, offset=12)
        if count == 1:
            return v ** (float(table[0]) / 256)
        return np.interp(v, np.linspace(0, 1, count), table / 65535)
    if tag[:4] == b"para" and len(tag) >= 16:
        (kind,) = struct.unpack_from(">H", tag, 8)
        count = {0: 1, 1: 3, 2: 4, 3: 5, 4: 7}.get(kind)
        if count is None or len(tag) < 12 + 4 * count:
            return None
        values = [p / 65536 for p in struct.unpack_from(f">{count}i", tag, 12)]
        return _parametric(kind, values, v)
    return None


def _parametric(kind: int, p: list[float], v: Floats) -> Floats:
    g = p[0]
    if kind == 0:
        return v**g
    a, b = p[1], p[2]
    power = np.maximum(a * v + b, 0) ** g
    if kind == 1:
        return np.where(v >= -b / a, power, 0)
    if kind == 2:
        return np.where(v >= -b / a, power + p[3], p[3])
    c, d = p[3], p[4]
    if kind == 3:
        return np.where(v >= d, power, c * v)
    return np.where(v >= d, power + p[5], c * v + p[6])
