"""A question as the model of noise takes it: its crossing, its errors of reading, and what it taught."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from zesty_grid.core.compare.compared import ComparedSwatch, CompareQuestion
from zesty_grid.core.noise.contrast import Weighing
from zesty_grid.core.noise.crossing import Crossing, Done, Matrix, cross
from zesty_grid.core.noise.detecting import DIRECTIONS
from zesty_grid.core.noise.learning import learnt_from
from zesty_grid.core.noise.levels import USUAL, Component, Noise, starting_at
from zesty_grid.core.noise.reading_error import ReadingError, shared_by
from zesty_grid.core.read.difference_uncertainty import SHARED_DE00
from zesty_grid.core.refusal import Fault, Refusal


@dataclass(frozen=True)
class Weighed:
    """`labs` (n, 3) of the swatches, `cell_labs` (c, 3) of the cells."""

    weighing: Weighing
    labs: Matrix

    @property
    def crossing(self) -> Crossing:
        return self.weighing.crossing

    @property
    def noise(self) -> Noise:
        return self.weighing.noise

    @cached_property
    def cell_labs(self) -> Matrix:
        return np.asarray(self.weighing.of_cells @ self.labs)


def weighed(question: CompareQuestion) -> Weighed:
    """Raises Refusal where a swatch has no level of a factor that is asked for."""
    _must_have_levels(question)
    swatches = question.swatches
    crossing = cross([done_to(one) for one in swatches], question.factors, question.level_order)
    labs, reading = np.array([one.lab for one in swatches]), reading_error(swatches)
    noise = learnt_from(crossing, labs, reading, _start(question))
    return Weighed(Weighing(crossing, noise, reading), labs)


def done_to(swatch: ComparedSwatch) -> Done:
    return Done(swatch.levels, swatch.vessels, swatch.day)


def reading_error(swatches: tuple[ComparedSwatch, ...]) -> ReadingError:
    """The error that readings of one photo, one light or one camera share counts where levels lie in different ones."""
    own = np.array([one.uncertainty_de00 if one.own_de00 is None else one.own_de00 for one in swatches]) ** 2
    if not all(one.photos for one in swatches):
        return ReadingError(own)
    shared = []
    for place, name in enumerate(("camera", "capture", "photo")):
        groups = [[said[place] for said in one.photos] for one in swatches]
        part = shared_by(groups, SHARED_DE00[name] ** 2 / DIRECTIONS)
        if part is not None:
            shared.append(part)
    return ReadingError(own, tuple(shared))


def _start(question: CompareQuestion) -> Noise:
    noise = question.noise or starting_at(USUAL)
    if question.known_noise is None:
        return noise
    vessel = Component(sd_de00=question.known_noise.vessel_de00, known=True)
    return noise.model_copy(update={"vessel": vessel})


def _must_have_levels(question: CompareQuestion) -> None:
    for factor in question.factors:
        without = [one.code for one in question.swatches if factor not in one.levels]
        if without and len(without) < len(question.swatches):
            raise Refusal(
                "no-level",
                f"“{without[0]}” has no level of {factor}.",
                "Give every swatch a level of each factor, or leave the factor out.",
                (
                    Fault(
                        field="swatches",
                        given=without[0],
                        allowed=f"a level of {factor}",
                        cure="Say its level, or leave it out.",
                    ),
                ),
            )
