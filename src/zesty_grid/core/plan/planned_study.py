"""A study as its plan stands now: cells, swatches in their places, and what has begun."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property

from zesty_grid.core.plan.cells import Cell, cell_key
from zesty_grid.core.plan.controls import all_cells
from zesty_grid.core.plan.factors import FACTOR_ORDER, FactorKind
from zesty_grid.core.plan.giving_ties import give_ties
from zesty_grid.core.plan.placement import LevelArchive, place_swatches, shown_levels
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.swatch_codes import swatch_code
from zesty_grid.core.plan.zones_on_cloth import cloth_key, cloths_of, zone_words
from zesty_grid.core.record.swatch import Levels, NewSwatch, Swatch
from zesty_grid.core.record.taken import NOTHING_TAKEN, Taken
from zesty_grid.core.shelf.shelf import Shelf


@dataclass(frozen=True)
class PlannedStudy:
    """`swatches` are all of the study, also those that the plan no longer has; `guests` are of
    other studies, and take part in a further treatment. `archive` has every level that it had.
    """

    plan: StudyPlan
    shelf: Shelf
    swatches: list[Swatch]
    archive: LevelArchive = field(default_factory=dict)
    taken: Taken = NOTHING_TAKEN
    guests: Mapping[str, Swatch] = field(default_factory=dict)

    @cached_property
    def cells(self) -> list[Cell]:
        return all_cells(self.plan, self.shelf)

    def with_record(self, taken: Taken) -> "PlannedStudy":
        """With another record: who stands where was worked out already."""
        changed = replace(self, taken=taken)
        vars(changed).update({name: value for name, value in vars(self).items() if name != "taken"})
        return changed

    def with_swatches(self, swatches: list[Swatch], guests: Mapping[str, Swatch]) -> "PlannedStudy":
        """With other swatches of the same plan, whose cells were crossed already."""
        changed = replace(self, swatches=swatches, guests=guests)
        vars(changed)["cells"] = self.cells
        return changed

    @cached_property
    def by_code(self) -> dict[str, Swatch]:
        """Every swatch that has to do with this study."""
        return {**self.guests, **{swatch.code: swatch for swatch in self.swatches}}

    @cached_property
    def planned(self) -> list[Swatch]:
        """Swatches that have a place in the plan, in the order of the cells."""
        order = {cell.key: i for i, cell in enumerate(cloths_of(self.cells))}
        return sorted(
            (swatch for swatch in self.swatches if swatch.planned),
            key=lambda s: (order.get(self.planned_cell(s), len(order)), s.replicate, s.serial),
        )

    @cached_property
    def _standing(self) -> dict[str, tuple[Levels, str]]:
        found = {}
        for code, swatch in self.by_code.items():
            levels = shown_levels(self.plan, swatch, self.archive)
            found[code] = (levels, cell_key(levels, swatch.control, swatch.larger))
        own = {swatch.code for swatch in self.swatches}
        for code in self.guests.keys() - own:
            # A guest has no place in this grid: it stands beside it, by itself.
            found[code] = (found[code][0], f"guest={code}")
        return found

    def levels(self, swatch: Swatch) -> Levels:
        """The levels by which a swatch is treated and shown: what it really got counts."""
        return self._standing[swatch.code][0]

    def cell(self, swatch: Swatch) -> str:
        """The key of the cell in which a swatch really stands."""
        return self._standing[swatch.code][1]

    def meant_levels(self, swatch: Swatch) -> Levels:
        """The levels that it was meant to have."""
        if swatch.true_levels is None:
            return self.levels(swatch)
        meant = swatch.model_copy(update={"true_levels": None})
        return shown_levels(self.plan, meant, self.archive)

    def planned_cell(self, swatch: Swatch) -> str:
        """The key of the cell that it was meant for."""
        if swatch.true_levels is None:
            return self.cell(swatch)
        return cell_key(self.meant_levels(swatch), swatch.control, swatch.larger)

    def level_words(self, levels: Mapping[FactorKind, str]) -> dict[str, str]:
        """The label of each level, by factor, in the order in which they act."""
        found: dict[str, str] = {}
        for kind in FACTOR_ORDER:
            if kind in levels:
                level = self.plan.level(kind, levels[kind]) or self.archive.get((kind, levels[kind]))
                found[kind] = level.label if level else levels[kind]
        return found

    @cached_property
    def _zone_cells(self) -> dict[tuple[str, str], str]:
        return {
            (cloth_key(cell), words.lower()): cell.key
            for cell in self.cells
            if (words := zone_words(self.plan, cell.levels))
        }

    def zone_cell(self, swatch: Swatch, zone: str) -> str | None:
        """The cell that a zone of a swatch is, or lies in as a part of it ("Oak leaves, halo"), by
        its name; None: the plan has no such zone."""
        return self.zone_and_part(swatch, zone)[0]

    def zone_and_part(self, swatch: Swatch, zone: str) -> tuple[str | None, str]:
        """As `zone_cell`, and which part of the planned zone it is: "halo"; empty for all of it."""
        words = zone.strip()
        while words:
            found = self._zone_cells.get((self.cell(swatch), words.lower()))
            if found:
                return found, zone.strip()[len(words) :].strip(", ")
            words = words.rpartition(",")[0].strip()
        return None, ""

    def words(self, swatch: Swatch) -> str:
        """A swatch in words: "Wool, Alum, Coreopsis, pH 7"."""
        named = list(self.level_words(self.levels(swatch)).values())
        larger = (p.name for p in self.plan.larger_pieces if p.key == swatch.larger)
        own: str = swatch.control or next(larger, "")
        return ", ".join([*named, own] if own else named)


def archive_of(plans: Iterable[StudyPlan]) -> LevelArchive:
    """Every level of some plans; of two with one key the later counts."""
    return {(factor.kind, level.key): level for plan in plans for factor in plan.factors for level in factor.levels}


def on_paper(plan: StudyPlan, shelf: Shelf) -> PlannedStudy:
    """A plan that is in no data file: nothing of it has begun, and its codes count from 1."""
    archive = archive_of([plan])
    new = place_swatches(plan, all_cells(plan, shelf), [], archive).new
    swatches = [with_code(one, i) for i, one in enumerate(new, 1)]
    ties = give_ties({}, [swatch.code for swatch in swatches], [])
    tied = [one.model_copy(update={"tie": ties[one.code]}) for one in swatches]
    return PlannedStudy(plan, shelf, tied, archive)


def with_code(new: NewSwatch, serial: int) -> Swatch:
    """A new swatch with the code of its serial number; its tie comes later."""
    return Swatch(code=swatch_code(serial), serial=serial, **dict(new))
