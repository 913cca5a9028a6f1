"""How one colour fades, in one answer: the shape, the doses that matter, the colour at a dose."""

from typing import Annotated, Literal

from pydantic import Field

from zesty_grid.core.fade.fading_curve import DoseReached, Foretold, Threshold, doses_to, draw_paths, foretell
from zesty_grid.core.fade.fading_fit import ChangeSeen, fit_fading
from zesty_grid.core.fade.fading_shapes import FadingModel
from zesty_grid.core.frozen import Frozen

STAGES_THAT_SUFFICE = 4
FAR_BEYOND = 2.0

Dose = Annotated[float, Field(ge=0, le=1e12, allow_inf_nan=False)]


class FadingQuestion(Frozen):
    """The stages of one swatch, and doses (lx·h or washes) at which its colour is wanted."""

    kind: Literal["light", "wash"] = "light"
    points: Annotated[tuple[ChangeSeen, ...], Field(min_length=1, max_length=200)]
    doses: Annotated[tuple[Dose, ...], Field(max_length=500)] = ()


class FadingAnswer(Frozen):
    model: FadingModel
    thresholds: dict[Threshold, DoseReached]
    predicted: tuple[Foretold, ...]
    warnings: tuple[str, ...]


def answer_fading(question: FadingQuestion) -> FadingAnswer:
    """Fits the stages and foretells; raises Refusal where no stage has a dose."""
    fit = fit_fading(question.points)
    paths = draw_paths(fit)
    predicted = tuple(foretell(paths, question.doses)) if question.doses else ()
    return FadingAnswer(
        model=fit.model,
        thresholds=doses_to(paths),
        predicted=predicted,
        warnings=_warnings(question, len(fit.followed.doses), fit.model, fit.followed.last_dose),
    )


def _warnings(question: FadingQuestion, stages: int, model: FadingModel, last: float) -> tuple[str, ...]:
    said = []
    if model == "no change":
        said.append("No change can be told from the error of reading.")
    if stages < STAGES_THAT_SUFFICE:
        said.append(
            f"Only {stages} stage{'s' if stages > 1 else ''}: the shape of the fading is open, and so are the limits."
        )
    furthest = max(question.doses, default=0.0)
    if furthest > last:
        unit = "lx·h" if question.kind == "light" else "washes"
        said.append(f"Beyond {last:.6g} {unit} nothing was seen: what is foretold there rests on the shape alone.")
    if furthest > FAR_BEYOND * last:
        said.append("More than twice as far as was seen is a guess.")
    return tuple(said)
