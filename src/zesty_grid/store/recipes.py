"""Recipes of swatches from the record: the baths that they were in, as they were kept."""

import sqlite3
from collections.abc import Sequence
from datetime import datetime
from typing import NamedTuple

from zesty_grid.core.compare.recipe import (
    Gentleness,
    Recipe,
    cost_of,
    gentleness,
    is_in_hand,
    stuffs_needed,
    told_baths,
)
from zesty_grid.core.dye.bench import bench_of
from zesty_grid.core.plan.factors import Level
from zesty_grid.core.plan.following import RecipeOf, following_plan, recipe_level, with_cell
from zesty_grid.core.plan.planned_study import on_paper
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.record.entry import BenchEntry
from zesty_grid.core.record.followed import BY_ITSELF, PassedThrough, followed_baths, read_in
from zesty_grid.core.record.states import bath_of
from zesty_grid.core.record.taken import NOTHING_TAKEN
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.dye import save_protocol, standing_entries
from zesty_grid.store.keeping import create_study, name_planned
from zesty_grid.store.plan import NotFound, keep_recipes
from zesty_grid.store.runs import StoredRun, runs_of_swatch
from zesty_grid.store.standing import StandingStudy, standing_study
from zesty_grid.store.states import passages_of_swatch, pause_ended_at
from zesty_grid.store.swatch_record import record_of
from zesty_grid.store.swatches import home_of, swatch_ids

NAME_ROOM = 120


class Way(NamedTuple):
    """What a recipe goes through, on which fibre; `recipe` None: it was in no bath."""

    passed: list[PassedThrough]
    standing: StandingStudy
    fibre: Level
    recipe: Level | None


class RecipeBook:
    """Reads each study once for as many recipes as are asked for."""

    def __init__(self, connection: sqlite3.Connection) -> None:
        self.connection = connection
        self._studies: dict[int, StandingStudy] = {}

    def gentleness(self, of: RecipeOf) -> Gentleness:
        """With what was said at the bench, without probes: quick, for a search over many."""
        passed = self._way(of).passed
        return gentleness([one.one for one in passed], {one.one.name: read_in(one.log) for one in passed})

    def quick(self, of: RecipeOf, mass_g: float) -> tuple[float | None, bool | None]:
        """The cost, and whether all of it is in hand."""
        way = self._way(of)
        needed = stuffs_needed([one.one for one in way.passed], way.standing.shelf, mass_g)
        return cost_of(needed), is_in_hand(needed)

    def recipe(self, code: str, mass_g: float, run: int | None = None) -> Recipe:
        """Up to a state, or with all baths that it was in: as the bench would have it for that
        mass. Raises NotFound for an unknown code."""
        way = self._way(RecipeOf(code=code, run=run))
        vessels = [one.one for one in way.passed]
        standing = way.standing
        study = standing.stored.id
        record = record_of(self.connection, study, code)
        if record is None:
            raise NotFound("swatch")
        # Two studies may each have a vessel of that name: the bath is known by what it was.
        really = {
            one.name: there
            for one in vessels
            for there in record.passages
            if there.vessel == one.name and there.title == one.vessel.title
        }
        swatch = standing.planned.by_code[code]
        recipe = way.recipe
        plan = following_plan(f"As {code}", standing.plan, [(way.fibre, recipe)], mass_g) if recipe else None
        bench = bench_of(on_paper(plan, standing.shelf), standing.protocol) if plan else []
        own = [one.name for one in vessels if one.vessel.bath not in BY_ITSELF]
        needed = stuffs_needed([one for one in bench if one.vessel.bath != "extract"], standing.shelf)
        fibre = standing.shelf.fibre(swatch.fibre)
        return Recipe(
            code=code,
            study=study,
            study_name=standing.plan.name,
            words=standing.planned.words(swatch),
            fibre=fibre.name if fibre else swatch.fibre,
            mass_g=mass_g,
            baths=tuple(told_baths(bench, {i: really[name] for i, name in enumerate(own) if name in really})),
            gentle=gentleness(vessels, really),
            needed=tuple(needed),
            cost=cost_of(needed),
            in_hand=is_in_hand(needed),
            logged=any(one.begun for one in vessels),
        )

    def follow(self, wanted: Sequence[RecipeOf], mass_g: float, pieces: int, fibres: Sequence[str] = ()) -> int:
        """A new study of so much fibre by each recipe, on its own fibre or on others; its number.
        Raises NotFound for an unknown code, and Refusal where a swatch was in no bath."""
        plan, like = self._following(wanted, mass_g, pieces, fibres)
        made = create_study(self.connection, plan, "follows recipes")
        # Its baths are to be those of that day, whatever has become of the Shelf since.
        keep_recipes(self.connection, made, like.shelf)
        save_protocol(self.connection, made, like.protocol.model_copy(update={"finish_by": None}))
        name_planned(self.connection, made)
        return made

    def pots(self, wanted: Sequence[RecipeOf], mass_g: float) -> int:
        """How many vessels it would take to follow them, without scouring."""
        plan, like = self._following(wanted, mass_g, 1, ())
        return len(vessels_of(on_paper(plan, like.shelf)))

    def bath_keys(self, of: RecipeOf) -> frozenset[str]:
        """What names the baths of a recipe: those of one name are shared. None: it was in no bath."""
        recipe = self._way(of).recipe
        return frozenset(bath.key for bath in recipe.baths) if recipe else frozenset()

    def _following(
        self, wanted: Sequence[RecipeOf], mass_g: float, pieces: int, fibres: Sequence[str]
    ) -> tuple[StudyPlan, StandingStudy]:
        """The plan, and the study whose Shelf and times it takes: that of the first."""
        levels, names, like = [], [], None
        for of in wanted:
            way = self._way(of)
            like = like or way.standing
            if way.recipe is None:
                cure = "Choose a dyed swatch."
                raise Refusal("no-recipe", f"{of.code or of.cell} was in no bath: there is nothing to follow.", cure)
            shelf = way.standing.shelf
            others = [Level(key=key, label=item.name) for key in fibres if (item := shelf.fibre(key))]
            levels += [(each, way.recipe) for each in (others or [way.fibre])]
            names.append(of.code or "foretold")
        if like is None:
            raise Refusal("no-recipe", "No swatch is named.", "Choose a swatch.")
        return following_plan(f"{mass_g:g} g as {' '.join(names)}"[:NAME_ROOM], like.plan, levels, mass_g, pieces), like

    def _way(self, of: RecipeOf) -> Way:
        if of.code is None:
            return self._way_of_cell(of)
        passed, study = self._passed(of.code, of.run)
        standing = self._study(study)
        swatch = standing.planned.by_code[of.code]
        return _way(of, passed, standing, swatch.fibre, standing.planned.words(swatch), of.code)

    def _way_of_cell(self, of: RecipeOf) -> Way:
        """Of a cell that was not dyed: as its study would have it."""
        standing = self._study(of.study or 0)
        study = on_paper(with_cell(standing.plan, of.cell or ""), standing.shelf)
        swatch = next((one for one in study.planned if study.cell(one) == of.cell), None)
        if swatch is None:
            raise NotFound("cell")
        bench = [one for one in bench_of(study, standing.protocol) if swatch.code in one.vessel.swatches]
        passed = [PassedThrough(one, None, ()) for one in bench]
        return _way(of, passed, standing, swatch.fibre, study.words(swatch), swatch.code)

    def _study(self, study: int) -> StandingStudy:
        if study not in self._studies:
            self._studies[study] = standing_study(self.connection, study)
        return self._studies[study]

    def _passed(self, code: str, run: int | None) -> tuple[list[PassedThrough], int]:
        """The baths behind a swatch in the order in which it was in them, and its home."""
        known = swatch_ids(self.connection, [code])
        if code not in known:
            raise NotFound("swatch")
        study = home_of(self.connection, code)
        runs = runs_of_swatch(self.connection, known[code])
        passages = passages_of_swatch(self.connection, known[code])
        was_in = sorted((one for one in runs if one.id in passages), key=lambda one: passages[one.id].in_at)
        if was_in and run is not None:
            was_in = _up_to(was_in, bath_of(run)) if run else []
        if passages:
            until = pause_ended_at(self.connection, known[code], run or 0)
            return [
                PassedThrough(one.vessel, passages[one.id].in_at, self._log(one, until if one is was_in[-1] else None))
                for one in was_in
            ], study
        # Nobody logged a bath: what is known is how it was planned.
        standing = self._study(study)
        ahead = [one for one in standing.bench if code in one.vessel.swatches]
        if not ahead:
            # Entered when it was dyed already: as its levels say.
            before = bench_of(standing.planned.with_record(NOTHING_TAKEN), standing.protocol)
            ahead = [one for one in before if code in one.vessel.swatches]
        return [PassedThrough(one, None, ()) for one in ahead if one.vessel.bath != "extract"], study

    def _log(self, run: StoredRun, until: datetime | None) -> list[BenchEntry]:
        log = standing_entries(self.connection, run.study_id, run.name, kinds=("addition", "reheat", "record"))
        return [entry for entry in log if until is None or entry.at < until]


def _way(of: RecipeOf, passed: list[PassedThrough], standing: StandingStudy, fibre: str, words: str, code: str) -> Way:
    item = standing.shelf.fibre(fibre)
    baths = followed_baths(passed, code)
    recipe = recipe_level(of, words, baths) if baths else None
    return Way(passed, standing, Level(key=fibre, label=item.name if item else fibre), recipe)


def _up_to(runs: list[StoredRun], last: int) -> list[StoredRun]:
    for number, one in enumerate(runs):
        if one.id == last:
            return runs[: number + 1]
    return runs
