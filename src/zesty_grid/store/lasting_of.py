"""How swatches last in a place, as the trials of light foretell it."""

import sqlite3
from collections.abc import Iterable

from zesty_grid.core.fade.fading_curve import Paths
from zesty_grid.core.fade.life import Aged, aged, life_in_place, yearly_light
from zesty_grid.core.fade.trial_paths import fading_groups, paths_of_trial
from zesty_grid.core.shelf.light_place import LightPlace
from zesty_grid.core.words.lasting import life_words
from zesty_grid.store.fade import list_points, list_trials
from zesty_grid.store.standing import standing_study


def lives_in(connection: sqlite3.Connection, study_id: int, code: str, places: Iterable[LightPlace]) -> list[str]:
    """How long a swatch lives in each place, in words; nothing where it was never in light."""
    path = _paths_in_light(connection, study_id).get(code)
    if path is None:
        return []
    lives = [(one.name, life_in_place(one, {code: path}, trial_uv=True).years[code]["plain"]) for one in places]
    return [life_words(name, years) for name, years in lives]


def aged_in_place(connection: sqlite3.Connection, study_id: int, place: LightPlace, years: float) -> dict[str, Aged]:
    """By code, of all swatches of a study's trials of light; the newest trial counts."""
    dose = years * yearly_light(place).dose_lxh
    return {one.swatch: one for one in aged(_paths_in_light(connection, study_id), dose)}


def _paths_in_light(connection: sqlite3.Connection, study_id: int) -> dict[str, Paths]:
    planned = standing_study(connection, study_id).planned
    points = list_points(connection, study_id)
    found: dict[str, Paths] = {}
    for trial, plan in list_trials(connection, study_id).items():
        if plan.kind != "light":
            continue
        levels: dict[str, dict[str, str]] = {
            code: planned.level_words(planned.levels(planned.by_code[code]))
            for code in plan.swatches
            if code in planned.by_code
        }
        found |= paths_of_trial(points.get(trial, []), fading_groups(levels))
    return found
