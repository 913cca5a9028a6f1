"""How long a colour lives, said so that it can be used."""

import pytest

from zesty_grid.core.fade.life import YearsTo
from zesty_grid.core.words.lasting import years_words


@pytest.mark.parametrize(
    ("middle", "low", "high", "beyond", "said"),
    [
        (5.2, 3.1, 9.0, False, "about 5.2 years (3.1 to 9)"),
        (0.17, 0.09, 0.33, False, "about 2 months (1.1 to 4)"),
        (0.02, 0.01, 0.04, False, "about 7.3 days (3.6 to 15)"),
        (250.0, 120.0, None, True, "about 250 years (120 or more, beyond what was tried)"),
        (None, 40.0, None, True, "more than 40 years"),
        (None, None, None, True, "longer than can be said"),
    ],
)
def test_years_months_or_days_with_their_range(middle, low, high, beyond, said):
    assert years_words(YearsTo(middle=middle, low=low, high=high, beyond=beyond)) == said
