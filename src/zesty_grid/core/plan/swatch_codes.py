"""Short swatch codes that survive being read aloud, with a check character.

The alphabet leaves out what is confused on paper or in the ear (0 O Q D, 1 I L, 2 Z, 5 S, 8 B,
6 G, U V). It has 19 characters; as 19 is prime, the weighted check catches every single wrong
character and every exchange of two neighbours (check digit theory, ISO/IEC 7064).
"""

from collections.abc import Iterator
from itertools import count, product

ALPHABET = "ACEFHJKMNPRTWXY3479"
BASE = len(ALPHABET)
BODY_LENGTH = 3
LABEL_PREFIX = "ZS1:"
MARKS = "BDGLSUZ"
_SCATTER = 2741  # prime to 19: neighbouring serial numbers get codes that look different


def swatch_code(serial: int) -> str:
    """The code of a serial number from 0: three characters and the check, or more when needed."""
    if serial < 0:
        raise ValueError("serial numbers start at 0")
    length, first = BODY_LENGTH, 0
    while serial - first >= BASE**length:
        first += BASE**length
        length += 1
    value = (serial - first) * _SCATTER % BASE**length
    digits = []
    for _ in range(length):
        value, digit = divmod(value, BASE)
        digits.append(digit)
    return "".join(ALPHABET[d] for d in [*digits, _check(digits)])


def serial_of(code: str) -> int | None:
    """The serial number whose code this is; None for what is no code as `swatch_code` gives it."""
    if not is_swatch_code(code) or code != on_label(code.upper()):
        return None
    digits = [ALPHABET.index(character) for character in code[:-1]]
    value = sum(digit * BASE**place for place, digit in enumerate(digits))
    first = sum(BASE**length for length in range(BODY_LENGTH, len(digits)))
    size = int(BASE ** len(digits))
    return int(first + value * pow(_SCATTER, -1, size) % size)


def is_swatch_code(text: str) -> bool:
    """Whether a typed code is right in itself; case and blanks do not count."""
    code = on_label(text.strip().upper().replace(" ", ""))
    if len(code) <= BODY_LENGTH or any(c not in ALPHABET for c in code):
        return False
    digits = [ALPHABET.index(c) for c in code]
    return _check(digits[:-1]) == digits[-1]


def brought_marks() -> Iterator[str]:
    """What may stand before the codes of a study from another file, whose codes are given here
    already: letters that no code holds, and none that is confused with another of them."""
    for length in count(1):
        yield from map("".join, product(MARKS, repeat=length))


def on_label(code: str) -> str:
    """The code that stands on the label: without the mark of a study from another file."""
    return code.lstrip(MARKS)


def label_code_text(code: str) -> str:
    """What the square code on a label says."""
    return f"{LABEL_PREFIX}{code}"


def _check(digits: list[int]) -> int:
    return sum((i + 2) * digit for i, digit in enumerate(digits)) % BASE
