"""A warning with its reason, and how warnings are gathered."""

from collections.abc import Iterable

from zesty_grid.core.frozen import Frozen


class Advice(Frozen):
    """A warning with its reason, and the cells that it concerns."""

    code: str
    text: str
    reason: str
    cells: tuple[str, ...]


class FoundAdvice:
    """Advice as it is gathered cell by cell."""

    def __init__(self) -> None:
        self.said: dict[str, tuple[str, str, list[str]]] = {}

    def add(self, code: str, text: str, reason: str, cells: Iterable[str]) -> None:
        self.said.setdefault(code, (text, reason, []))[2].extend(cells)

    def advice(self) -> list[Advice]:
        return [
            Advice(code=code, text=text, reason=reason, cells=tuple(dict.fromkeys(cells)))
            for code, (text, reason, cells) in self.said.items()
        ]
