"""How swatches last in a place, as the trials of light foretell it."""

import sqlite3

from zesty_grid.core.fade.life import Aged, aged, yearly_light
from zesty_grid.core.fade.trial_paths import fading_groups, paths_of_trial
from zesty_grid.core.shelf.light_place import LightPlace
from zesty_grid.store.fade import list_points, list_trials
from zesty_grid.store.standing import standing_study


def aged_in_place(connection: sqlite3.Connection, study_id: int, place: LightPlace, years: float) -> dict[str, Aged]:
    """By code, of all swatches of a study's trials of light; the newest trial counts."""
    planned = standing_study(connection, study_id).planned
    points = list_points(connection, study_id)
    dose = years * yearly_light(place).dose_lxh
    found: dict[str, Aged] = {}
    for trial, plan in list_trials(connection, study_id).items():
        if plan.kind != "light":
            continue
        levels: dict[str, dict[str, str]] = {
            code: planned.level_words(planned.levels(planned.by_code[code]))
            for code in plan.swatches
            if code in planned.by_code
        }
        paths = paths_of_trial(points.get(trial, []), fading_groups(levels))
        found |= {one.swatch: one for one in aged(paths, dose)}
    return found
