"""How far a test goes: `make test` takes the short form, which can fail; `make test-long` the whole one."""

import os
from typing import TypeVar

T = TypeVar("T")
LONG = os.environ.get("TEST_DEPTH") == "long"


def depth(short: T, long: T) -> T:
    return long if LONG else short
