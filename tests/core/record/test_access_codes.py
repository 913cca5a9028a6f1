"""Access codes: what is typed, and how long one has to wait after wrong tries."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zesty_grid.core.plan.swatch_codes import ALPHABET
from zesty_grid.core.record.access import (
    FREE_TRIES,
    LONGEST_WAIT_S,
    as_typed,
    hash_of_secret,
    new_code,
    new_secret,
    wait_after,
)


def test_codes_are_long_enough_and_never_twice_the_same():
    codes = {new_code() for _ in range(500)}
    assert len(codes) == 500
    # 19 characters in 12 places are 51 bits; with at most a try in 15 minutes after the first
    # few, half of them take longer than the universe has stood.
    assert len(ALPHABET) ** 12 > 2**50
    assert all(len(code) == 14 and code.count("-") == 2 for code in codes)


@given(st.text(ALPHABET, min_size=12, max_size=12), st.sampled_from(["", " ", "-", " - "]))
def test_a_code_is_read_however_it_is_typed(plain, between):
    code = f"{plain[:4]}-{plain[4:8]}-{plain[8:]}"
    assert as_typed(between.join(plain).lower()) == code
    assert as_typed(f"  {code}\n") == code


@given(st.text(max_size=80))
def test_whatever_is_typed_becomes_no_more_than_letters_in_groups(text):
    assert set(as_typed(text)) <= {*ALPHABET, "-"}


def test_the_first_tries_are_free_and_then_waiting_doubles():
    assert wait_after([], 0.0) == 0
    wrong = [float(n) for n in range(FREE_TRIES - 1)]
    assert wait_after(wrong, 10.0) == 0
    wrong.append(10.0)
    assert wait_after(wrong, 10.0) == pytest.approx(4)
    assert wait_after(wrong, 13.0) == pytest.approx(1)
    assert wait_after([*wrong, 14.0], 14.0) == pytest.approx(8)
    assert wait_after([float(n) for n in range(40)], 39.0) == LONGEST_WAIT_S
    # An hour later all is forgotten.
    assert wait_after(wrong, 10.0 + 3600) == 0


@given(st.lists(st.floats(0, 5000), max_size=50), st.floats(5000, 6000))
def test_waiting_is_never_longer_than_a_quarter_of_an_hour(wrong, now):
    assert 0 <= wait_after(wrong, now) <= LONGEST_WAIT_S


def test_a_secret_is_as_long_as_a_key_and_only_its_hash_is_kept():
    secret = new_secret()
    assert len(secret) >= 43  # 256 bits in base 64 (RFC 4648)
    # FIPS 180-4, the example of “abc”.
    assert hash_of_secret("abc") == ("ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad")
