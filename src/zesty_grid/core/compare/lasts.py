"""How far a colour is from itself after some years in a place, in words."""

from pydantic import computed_field

from zesty_grid.core.frozen import Frozen


class LastsWords(Frozen):
    """`beyond`: further than the trial has seen, so by the shape alone. The range holds 90 in
    100."""

    place: str
    years: float
    de00: float
    low_de00: float
    high_de00: float
    beyond: bool

    @computed_field  # type: ignore[prop-decorator]
    @property
    def words(self) -> str:
        by = ", beyond what was tried" if self.beyond else ""
        return (
            f"After {self.years:g} years in “{self.place}”: changed by {self.de00:.1f} ΔE00 "
            f"({self.low_de00:.1f} to {self.high_de00:.1f}{by})."
        )
