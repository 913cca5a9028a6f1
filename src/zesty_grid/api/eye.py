"""The trainer for the eye: a round of tasks, and what the answers say."""

from typing import Annotated

from fastapi import APIRouter, Query

from zesty_grid.api.answers import EyeAnswers
from zesty_grid.api.shared import Store
from zesty_grid.core.eye.judging import EyeResult, judge
from zesty_grid.core.eye.tasks import EyeTask, make_round
from zesty_grid.core.row_number import RowNumber
from zesty_grid.store.plan import load_study
from zesty_grid.store.state_colours import colours_of_study

router = APIRouter(prefix="/api/eye", tags=["read"])


@router.get("/round")
def eye_round(
    store: Store, seed: Annotated[int, Query(ge=0, le=2**31)], study: RowNumber | None = None
) -> list[EyeTask]:
    """Tasks in made-up colours, or in those of a study that were read."""
    own = []
    if study is not None:
        with store.connection() as connection:
            load_study(connection, study)
            seen = colours_of_study(connection, study)
        own = [one.colours[-1].lab for one in seen.swatches if one.colours]
    return list(make_round(seed, own))


@router.post("/result")
def eye_result(answers: EyeAnswers) -> EyeResult:
    """The just noticeable difference of the one who answered, and which way the ratings lean."""
    return judge(answers.judged)
