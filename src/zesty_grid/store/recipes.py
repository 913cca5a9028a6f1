"""Recipes of swatches from the record: the baths that they were in, as they were kept."""

import sqlite3
from collections.abc import Sequence

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
from zesty_grid.core.plan.following import RecipeOf, following_plan, recipe_level
from zesty_grid.core.plan.planned_study import on_paper
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.entry import BenchEntry
from zesty_grid.core.record.followed import BY_ITSELF, PassedThrough, followed_baths, read_in
from zesty_grid.core.record.taken import NOTHING_TAKEN
from zesty_grid.core.refusal import Refusal
from zesty_grid.store.dye import save_protocol, standing_entries
from zesty_grid.store.keeping import create_study, name_planned
from zesty_grid.store.plan import NotFound, keep_recipes
from zesty_grid.store.runs import StoredRun, runs_of_swatch
from zesty_grid.store.standing import StandingStudy, standing_study
from zesty_grid.store.states import passages_of_swatch
from zesty_grid.store.swatch_record import record_of
from zesty_grid.store.swatches import home_of, swatch_ids

NAME_ROOM = 120


class RecipeBook:
    """Reads each study once for as many recipes as are asked for."""

    def __init__(self, connection: sqlite3.Connection) -> None:
        self.connection = connection
        self._studies: dict[int, StandingStudy] = {}

    def gentleness(self, code: str, run: int | None = None) -> Gentleness:
        """With what was said at the bench, without probes: quick, for a search over many."""
        passed, _ = self._passed(code, run)
        return gentleness([one.one for one in passed], {one.one.name: read_in(one.log) for one in passed})

    def quick(self, code: str, mass_g: float, run: int | None = None) -> tuple[float | None, bool | None]:
        """The cost, and whether all of it is in hand."""
        vessels, study = self._vessels(code, run)
        needed = stuffs_needed(vessels, self._study(study).shelf, mass_g)
        return cost_of(needed), is_in_hand(needed)

    def recipe(self, code: str, mass_g: float, run: int | None = None) -> Recipe:
        """Up to a state, or with all baths that it was in: as the bench would have it for that
        mass. Raises NotFound for an unknown code."""
        passed, study = self._passed(code, run)
        vessels = [one.one for one in passed]
        standing = self._study(study)
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
        plan = self._plan(code, passed, standing, mass_g, run)
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

    def bath_keys(self, code: str, run: int | None = None) -> frozenset[str]:
        """What names the baths of a recipe: those of one name are shared. None: it was in no bath."""
        return frozenset(one.key for one in followed_baths(self._passed(code, run)[0], code))

    def _following(
        self, wanted: Sequence[RecipeOf], mass_g: float, pieces: int, fibres: Sequence[str]
    ) -> tuple[StudyPlan, StandingStudy]:
        """The plan, and the study whose Shelf and times it takes: that of the first."""
        levels, like = [], None
        for one in wanted:
            passed, study = self._passed(one.code, one.run)
            standing = self._study(study)
            like = like or standing
            fibre, recipe = self._levels(one.code, passed, standing, one.run)
            if recipe is None:
                raise Refusal(
                    "no-recipe", f"{one.code} was in no bath: there is nothing to follow.", "Choose a dyed swatch."
                )
            others = [Level(key=key, label=item.name) for key in fibres if (item := standing.shelf.fibre(key))]
            levels += [(each, recipe) for each in (others or [fibre])]
        if like is None:
            raise Refusal("no-recipe", "No swatch is named.", "Choose a swatch.")
        name = f"{mass_g:g} g as {' '.join(one.code for one in wanted)}"[:NAME_ROOM]
        return following_plan(name, like.plan, levels, mass_g, pieces), like

    def _plan(
        self, code: str, passed: list[PassedThrough], standing: StandingStudy, mass_g: float, run: int | None
    ) -> StudyPlan | None:
        fibre, recipe = self._levels(code, passed, standing, run)
        return following_plan(f"As {code}", standing.plan, [(fibre, recipe)], mass_g) if recipe else None

    def _levels(
        self, code: str, passed: list[PassedThrough], standing: StandingStudy, run: int | None
    ) -> tuple[Level, Level | None]:
        """Its fibre and its recipe; None where it was in no bath."""
        swatch = standing.planned.by_code[code]
        fibre = standing.shelf.fibre(swatch.fibre)
        baths = followed_baths(passed, code)
        recipe = recipe_level(code, standing.planned.words(swatch), baths, run) if baths else None
        return Level(key=swatch.fibre, label=fibre.name if fibre else swatch.fibre), recipe

    def _study(self, study: int) -> StandingStudy:
        if study not in self._studies:
            self._studies[study] = standing_study(self.connection, study)
        return self._studies[study]

    def _vessels(self, code: str, run: int | None) -> tuple[list[BenchVessel], int]:
        passed, study = self._passed(code, run)
        return [one.one for one in passed], study

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
            was_in = _up_to(was_in, run) if run else []
        if passages:
            return [
                PassedThrough(one.vessel, passages[one.id].in_at, self._log(one.study_id, one.name)) for one in was_in
            ], study
        # Nobody logged a bath: what is known is how it was planned.
        standing = self._study(study)
        ahead = [one for one in standing.bench if code in one.vessel.swatches]
        if not ahead:
            # Entered when it was dyed already: as its levels say.
            before = bench_of(standing.planned.with_record(NOTHING_TAKEN), standing.protocol)
            ahead = [one for one in before if code in one.vessel.swatches]
        return [PassedThrough(one, None, ()) for one in ahead if one.vessel.bath != "extract"], study

    def _log(self, study: int, vessel: str) -> list[BenchEntry]:
        return standing_entries(self.connection, study, vessel, kinds=("addition", "reheat", "record"))


def _up_to(runs: list[StoredRun], last: int) -> list[StoredRun]:
    for number, one in enumerate(runs):
        if one.id == last:
            return runs[: number + 1]
    return runs
