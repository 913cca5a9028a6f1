"""Codes that let a device in: how they are made, read and tried."""

import hashlib
import secrets
from collections.abc import Sequence
from typing import Literal

from zesty_grid.core.plan.swatch_codes import ALPHABET

AccessWhat = Literal["wrong code", "came in", "new code", "code taken back", "device put out", "left"]
CodeKind = Literal["full", "guest"]
GROUPS, GROUP_LENGTH = 3, 4
FREE_TRIES = 5
FIRST_WAIT_S, LONGEST_WAIT_S = 4.0, 900.0
FORGOTTEN_AFTER_S = 3600.0


def new_code() -> str:
    """Twelve characters that are easy to read aloud, in groups of four."""
    groups = ("".join(secrets.choice(ALPHABET) for _ in range(GROUP_LENGTH)) for _ in range(GROUPS))
    return "-".join(groups)


def as_typed(text: str) -> str:
    """What somebody typed, as the code is written: large letters, groups of four."""
    plain = "".join(c for c in text.upper() if c in ALPHABET)
    return "-".join(plain[i : i + GROUP_LENGTH] for i in range(0, len(plain), GROUP_LENGTH))


def new_secret() -> str:
    """For a device's cookie: 256 bits."""
    return secrets.token_urlsafe(32)


def hash_of_secret(secret: str) -> str:
    """SHA-256; enough for what is as long as a key (a code that is typed needs a slow hash)."""
    return hashlib.sha256(secret.encode()).hexdigest()


def wait_after(wrong_at_s: Sequence[float], now_s: float) -> float:
    """Seconds until the next try after wrong ones at these times: none for the first five within an
    hour, then four seconds, twice as long each time, at most a quarter of an hour."""
    recent = [at for at in wrong_at_s if now_s - at < FORGOTTEN_AFTER_S]
    if len(recent) < FREE_TRIES:
        return 0.0
    wait = min(FIRST_WAIT_S * 2.0 ** (len(recent) - FREE_TRIES), LONGEST_WAIT_S)
    return max(0.0, max(recent) + wait - now_s)
