"""Swatch codes and row numbers inside documents."""

import json
from collections.abc import Mapping
from typing import Any

# Where documents hold codes; notes and names that people typed are left as they are.
OF_SWATCHES = frozenset({"swatch", "swatches"})
KEYED_BY_SWATCH = frozenset({"iron_limits"})


def with_codes(document: Any, new: Mapping[str, str]) -> Any:
    """The document with each swatch's code replaced; `new` by code. A list of codes alone is taken
    as one of swatches."""
    if isinstance(document, list) and all(isinstance(one, str) for one in document):
        return [new.get(one, one) for one in document]
    return _within(document, new)


def _within(value: Any, new: Mapping[str, str]) -> Any:
    if isinstance(value, list):
        return [_within(one, new) for one in value]
    if not isinstance(value, dict):
        return value
    return {
        name: _codes(one, new)
        if name in OF_SWATCHES
        else {new.get(code, code): _within(each, new) for code, each in one.items()}
        if name in KEYED_BY_SWATCH and isinstance(one, dict)
        else _within(one, new)
        for name, one in value.items()
    }


def _codes(value: Any, new: Mapping[str, str]) -> Any:
    if isinstance(value, str):
        return new.get(value, value)
    if isinstance(value, list) and all(isinstance(one, str) for one in value):
        return [new.get(one, one) for one in value]
    return _within(value, new)


def with_logs(document: dict[str, Any], new: Mapping[Any, Any]) -> dict[str, Any]:
    """An entry of a trial whose sources of light name their logs otherwise."""
    if "sources" not in document:
        return document
    sources = [one | {"log": new[one["log"]]} if "log" in one else one for one in document["sources"]]
    return document | {"sources": sources}


def as_text(document: Any) -> str:
    return json.dumps(document, ensure_ascii=False)
