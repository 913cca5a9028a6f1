"""What says two things at once, or nothing, is refused where it is made, in words."""

from typing import Any

import pytest
from pydantic import ValidationError

from zesty_grid.core.entered.columns import EnteredTable
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.masses import OwnMass
from zesty_grid.core.read.readings import LiesIn
from zesty_grid.core.record.addition import Addition


@pytest.mark.parametrize(
    ("shape", "said", "why"),
    [
        (Addition, {"what": "substance", "amount": 1, "unit": "g"}, "says what was put in"),
        (Addition, {"what": "water", "amount": 1, "unit": "g"}, "measured in mL or L"),
        (Addition, {"what": "substance", "item": "s", "amount": 1, "unit": "g", "stock_percent": 5}, "mL or drops"),
        (OwnMass, {"mass_g": 2}, "names a fibre, a control, or both"),
        (LiesIn, {"cell": "A1"}, "a swatch or a cloth"),
        (LiesIn, {"cell": "A1", "swatch": "AAAA", "cloth": "tile"}, "a swatch or a cloth"),
        (EnteredTable, {"headers": ["a", "b"], "rows": [["1"]]}, "a cell for each header"),
    ],
)
def test_it_is_refused(shape: type[Frozen], said: dict[str, Any], why: str):
    with pytest.raises(ValidationError, match=why):
        shape.model_validate(said)
