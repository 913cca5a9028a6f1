"""What passes for a number, as JSON Schema has it: 2.0 is whole, `true` and "2" are none."""

import pytest
from pydantic import Field, ValidationError, model_validator

from zesty_grid.core.frozen import Frozen


class Inner(Frozen):
    count: int = 1
    mass_g: float = 1.0
    by_place: dict[int, float] = Field(default_factory=dict)


class Outer(Frozen):
    inner: Inner | None = None
    several: tuple[Inner, ...] = ()
    kids: tuple["Outer", ...] = ()
    share: float | None = None

    @model_validator(mode="after")
    def _is_whole(self) -> "Outer":
        return self


@pytest.mark.parametrize(
    "text",
    [
        '{"share": true}',
        '{"share": "0.5"}',
        '{"inner": {"count": true}}',
        '{"inner": {"count": "2"}}',
        '{"inner": {"mass_g": false}}',
        '{"several": [{"mass_g": "1"}]}',
        '{"kids": [{"share": true}]}',
        '{"inner": {"by_place": {"1": "2"}}}',
        '{"inner": {"count": 2.5}}',
    ],
)
def test_neither_truth_nor_text_is_a_number(text: str):
    with pytest.raises(ValidationError):
        Outer.model_validate_json(text)


def test_numbers_are_numbers_and_keys_are_text():
    found = Outer.model_validate_json(
        '{"share": 1, "inner": {"count": 2.0, "by_place": {"3": 1}}, "kids": [{"share": 0.5}]}'
    )
    assert found.share == 1.0
    assert found.inner == Inner(count=2, by_place={3: 1.0})
    assert found.kids[0].share == 0.5
    assert Outer.model_validate(found.model_dump()) == found
