"""Finds what a word names on the Shelf, or makes a thing of it that can stand there."""

import re
import unicodedata
from collections.abc import Collection, Iterable

from zesty_grid.core.shelf.items import DyeLot, Fibre, FibreClass, MordantRoute, OnShelf
from zesty_grid.core.shelf.starting_shelf import EVERY_CLASS, NO_MORDANT

# Common names of textile fibres by what they are made of (textile handbooks; common knowledge).
CLASSES: dict[FibreClass, tuple[str, ...]] = {
    "protein": (
        "wool",
        "silk",
        "alpaca",
        "mohair",
        "cashmere",
        "merino",
        "angora",
        "llama",
        "camel",
        "yak",
        "tussah",
        "worsted",
    ),
    "cellulose": (
        "cotton",
        "linen",
        "flax",
        "hemp",
        "ramie",
        "jute",
        "nettle",
        "calico",
        "muslin",
        "sisal",
        "kapok",
        "canvas",
    ),
    "regenerated cellulose": ("viscose", "rayon", "lyocell", "modal", "bamboo", "cupro"),
    "synthetic": ("polyester", "acrylic", "acetate"),
    "polyamide": ("nylon", "polyamide"),
}
NO_WORDS = frozenset({"", "-", "–", "no", "none", "unmordanted", "without", "0", "nil"})


def plain_words(words: str) -> str:
    return " ".join(words.casefold().split())


def found_on_shelf(words: str, items: Iterable[OnShelf]) -> str | None:
    """The key of the item that is called so."""
    wanted = plain_words(words)
    return next((one.key for one in items if wanted in (plain_words(one.name), one.key)), None)


def class_of(words: str) -> FibreClass | None:
    """What a fibre is made of, where its name says so and only one thing."""
    said = re.findall(r"[a-zà-ÿ]+", words.casefold())
    found = {
        fibre_class
        for fibre_class, names in CLASSES.items()
        if any(one.startswith(name) for one in said for name in names)
    }
    return found.pop() if len(found) == 1 else None


def new_fibre(words: str, fibre_class: FibreClass, taken: Collection[str], source: str) -> Fibre:
    return Fibre(key=new_key(words, taken), name=words[:80], fibre_class=fibre_class, source=source)


def new_dye_lot(words: str, taken: Collection[str], source: str) -> DyeLot:
    return DyeLot(key=new_key(words, taken), name=words[:80], source=source)


def new_route(words: str, taken: Collection[str], source: str) -> MordantRoute:
    """A route of which nothing but its name is known."""
    return MordantRoute(
        key=new_key(words, taken),
        name=words[:80],
        suits=EVERY_CLASS,
        source=source,
        note="Its baths are not known: it was entered from a table.",
    )


def mordant_key(words: str, routes: Iterable[OnShelf]) -> str | None:
    if plain_words(words) in NO_WORDS:
        return NO_MORDANT
    return found_on_shelf(words, routes)


def new_key(words: str, taken: Collection[str]) -> str:
    """A short name that is free: letters and digits of the words."""
    letters = unicodedata.normalize("NFKD", words).encode("ascii", "ignore").decode().casefold()
    start = re.sub(r"[^a-z0-9]+", "-", letters).strip("-")[:34] or "entered"
    number, key = 1, start
    while key in taken:
        number += 1
        key = f"{start}-{number}"
    return key
