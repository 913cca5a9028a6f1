"""How much colours differ when the same is done again: swatch from swatch, vessel from vessel, day from day."""

from collections.abc import Sequence
from typing import Annotated

from pydantic import Field

from zesty_grid.core.frozen import Frozen

# The weight in degrees of freedom of where each component starts, beside repeats that were dyed.
START_DF = 4.0
# Taken for no noise at all.
LEAST_DE00 = 0.05
Sd = Annotated[float, Field(ge=LEAST_DE00, le=20, allow_inf_nan=False)]


class NoiseLevels(Frozen):
    """Standard deviations in ΔE00, root mean square over the directions of colour: between swatches of one vessel,
    between vessels, between days, and of a reading."""

    swatch_de00: Sd = 0.8
    vessel_de00: Sd = 1.5
    day_de00: Sd = 1.0
    reading_de00: Sd = 0.5


# Common practice, until what was dyed says better: about 1 ΔE00 is just visible side by side, pieces of one pot look
# alike, and pots of one recipe do not quite.
USUAL = NoiseLevels()


class Component(Frozen):
    """A standard deviation in ΔE00, with the degrees of freedom of the `repeats` that it rests on beside its start.
    `known`: taken as it was given, whatever was dyed."""

    sd_de00: Annotated[float, Field(ge=LEAST_DE00, le=50, allow_inf_nan=False)]
    repeats: Annotated[float, Field(ge=0, allow_inf_nan=False)] = 0.0
    known: bool = False

    @property
    def df(self) -> float:
        return START_DF + self.repeats


class Noise(Frozen):
    swatch: Component
    vessel: Component
    day: Component

    @property
    def variances(self) -> tuple[float, float, float]:
        return (self.swatch.sd_de00**2, self.vessel.sd_de00**2, self.day.sd_de00**2)

    @property
    def components(self) -> tuple[Component, Component, Component]:
        return (self.swatch, self.vessel, self.day)


def starting_at(levels: NoiseLevels) -> Noise:
    return Noise(
        swatch=Component(sd_de00=levels.swatch_de00),
        vessel=Component(sd_de00=levels.vessel_de00),
        day=Component(sd_de00=levels.day_de00),
    )


def pooled(start: NoiseLevels, lessons: Sequence[Noise]) -> Noise:
    """What several studies taught, each from the same start: their repeats count by their degrees of freedom, and the
    start once."""
    began = starting_at(start)
    found = {}
    for name in ("swatch", "vessel", "day"):
        first, own = getattr(began, name), [getattr(one, name) for one in lessons]
        taught = sum(one.df * one.sd_de00**2 - START_DF * first.sd_de00**2 for one in own)
        repeats = sum(one.repeats for one in own)
        variance = (START_DF * first.sd_de00**2 + taught) / (START_DF + repeats)
        found[name] = Component(sd_de00=max(LEAST_DE00, max(variance, 0.0) ** 0.5), repeats=repeats)
    return Noise(**found)
