"""The colour library's tables of spectra, loaded when they are first asked for: that takes more than a second."""

import warnings
from functools import cache
from importlib import import_module
from types import ModuleType


@cache
def colour_science() -> ModuleType:
    # Without its notice about plotting extras.
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        return import_module("colour")
