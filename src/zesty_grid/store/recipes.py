"""Recipes of swatches from the record: the baths that they were in, as they were kept."""

import sqlite3

from zesty_grid.core.compare.recipe import (
    Gentleness,
    Recipe,
    cost_of,
    gentleness,
    is_in_hand,
    scaled_baths,
    stuffs_needed,
)
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.store.plan import NotFound
from zesty_grid.store.runs import StoredRun, runs_of_swatch
from zesty_grid.store.standing import StandingStudy, standing_study
from zesty_grid.store.states import passages_of_swatch
from zesty_grid.store.swatch_record import record_of
from zesty_grid.store.swatches import home_of, swatch_ids


class RecipeBook:
    """Reads each study once for as many recipes as are asked for."""

    def __init__(self, connection: sqlite3.Connection) -> None:
        self.connection = connection
        self._studies: dict[int, StandingStudy] = {}

    def gentleness(self, code: str, run: int | None = None) -> Gentleness:
        """Without what was measured: quick, for a search over many."""
        vessels, _ = self._vessels(code, run)
        return gentleness(vessels, {})

    def quick(self, code: str, mass_g: float, run: int | None = None) -> tuple[float | None, bool | None]:
        """The cost, and whether all of it is in hand."""
        vessels, study = self._vessels(code, run)
        needed = stuffs_needed(vessels, self._study(study).shelf, mass_g)
        return cost_of(needed), is_in_hand(needed)

    def recipe(self, code: str, mass_g: float, run: int | None = None) -> Recipe:
        """Up to a state, or with all baths that it was in. Raises NotFound for an unknown code."""
        vessels, study = self._vessels(code, run)
        standing = self._study(study)
        record = record_of(self.connection, study, code)
        if record is None:
            raise NotFound("swatch")
        # Two studies may each have a vessel of that name: the bath is known by what it was.
        passed = {
            one.name: there
            for one in vessels
            for there in record.passages
            if there.vessel == one.name and there.title == one.vessel.title
        }
        swatch = standing.planned.by_code[code]
        fibre = standing.shelf.fibre(swatch.fibre)
        needed = stuffs_needed(vessels, standing.shelf, mass_g)
        return Recipe(
            code=code,
            study=study,
            study_name=standing.plan.name,
            words=standing.planned.words(swatch),
            fibre=fibre.name if fibre else swatch.fibre,
            mass_g=mass_g,
            baths=tuple(scaled_baths(vessels, passed, mass_g)),
            gentle=gentleness(vessels, passed),
            needed=tuple(needed),
            cost=cost_of(needed),
            in_hand=is_in_hand(needed),
            logged=any(one.begun for one in vessels),
        )

    def _study(self, study: int) -> StandingStudy:
        if study not in self._studies:
            self._studies[study] = standing_study(self.connection, study)
        return self._studies[study]

    def _vessels(self, code: str, run: int | None) -> tuple[list[BenchVessel], int]:
        """The baths behind a swatch in the order in which it was in them, and its home."""
        known = swatch_ids(self.connection, [code])
        if code not in known:
            raise NotFound("swatch")
        study = home_of(self.connection, code)
        runs = runs_of_swatch(self.connection, known[code])
        passages = passages_of_swatch(self.connection, known[code])
        was_in = sorted((one for one in runs if one.id in passages), key=lambda one: passages[one.id].in_at)
        if was_in and run is not None:
            return [one.vessel for one in (_up_to(was_in, run) if run else [])], study
        if was_in:
            return [one.vessel for one in was_in], study
        # Nobody logged a bath: what is known is how it was planned.
        ahead = [one for one in self._study(study).bench if code in one.vessel.swatches]
        return [one for one in ahead if one.vessel.bath != "extract"], study


def _up_to(runs: list[StoredRun], last: int) -> list[StoredRun]:
    for number, one in enumerate(runs):
        if one.id == last:
            return runs[: number + 1]
    return runs
