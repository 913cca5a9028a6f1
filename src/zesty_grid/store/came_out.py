"""What followed the recipes of swatches, beside those swatches, from the record."""

import sqlite3

from zesty_grid.core.compare.came_out import CameOut, Dyed, baths_differ, came_out
from zesty_grid.core.compare.studies_beside import Differs
from zesty_grid.core.dye.swatch_record import BathPassed, SwatchRecord
from zesty_grid.core.plan.bath import BATH_ORDER
from zesty_grid.core.plan.factors import Level
from zesty_grid.core.record.followed import BY_ITSELF
from zesty_grid.core.record.states import StateColour
from zesty_grid.store.colours import colours_of_swatch
from zesty_grid.store.noise import noise_besides
from zesty_grid.store.standing import StandingStudy, standing_study
from zesty_grid.store.swatch_record import record_of
from zesty_grid.store.swatches import home_of, swatch_ids


def came_out_of_study(connection: sqlite3.Connection, standing: StandingStudy) -> list[CameOut]:
    """One for each fibre and recipe of which pieces were read; empty where no recipe is followed."""
    planned = standing.planned
    recipe = standing.plan.factor("recipe")
    if recipe is None:
        return []
    noise = noise_besides(connection, standing)
    found = []
    for cell in planned.cells:
        level = recipe.level(cell.levels.get("recipe", ""))
        codes = [one.code for one in planned.planned if planned.cell(one) == cell.key]
        pieces = [dyed for code in codes if (dyed := _dyed(connection, code)) is not None]
        origin = _dyed(connection, level.of_swatch, level.of_run) if level and level.of_swatch else None
        if level is None or origin is None or not pieces:
            continue
        fibre = planned.level_words(cell.levels).get("fibre", "")
        differs = _differs(connection, standing, level, pieces[0].code)
        found.append(came_out(origin, pieces, noise, fibre, differs))
    return found


def _dyed(connection: sqlite3.Connection, code: str, run: int | None = None) -> Dyed | None:
    """Its colour in a state, else in the last that was read; None: not read."""
    row = swatch_ids(connection, [code]).get(code)
    colours: list[StateColour] = colours_of_swatch(connection, row) if row is not None else []
    own = [one for one in colours if run is None or one.run == run]
    return Dyed(code, own[-1].lab, own[-1].uncertainty_de00) if own else None


def _differs(connection: sqlite3.Connection, standing: StandingStudy, level: Level, code: str) -> list[Differs]:
    of_swatch = level.of_swatch or ""
    home = standing_study(connection, home_of(connection, of_swatch))
    then, now = record_of(connection, home.stored.id, of_swatch), record_of(connection, standing.stored.id, code)
    if then is None or now is None:
        return []
    waters = [
        next((one.name for one in study.shelf.waters if one.key == study.plan.water), "not said")
        for study in (home, standing)
    ]
    found = [Differs(what="Water", first=waters[0], second=waters[1])] if waters[0] != waters[1] else []
    if then.fibre_words != now.fibre_words:
        found.append(Differs(what="Fibre", first=_cloth(then), second=_cloth(now)))
    return [*found, *baths_differ(_baths(then), _baths(now))]


def _cloth(record: SwatchRecord) -> str:
    return record.level_words.get("fibre", "")


def _baths(record: SwatchRecord) -> list[BathPassed]:
    by_itself = tuple(BATH_ORDER[kind] for kind in BY_ITSELF)
    own = [one for one in record.passages if one.in_at and not one.vessel.startswith(by_itself)]
    return sorted(own, key=lambda one: str(one.in_at))
