"""A piece that went another way than planned: the levels that it really has by where it was."""

from collections.abc import Iterable, Mapping

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.entry import BenchEntry
from zesty_grid.core.record.swatch import Levels, Swatch


class TruePlace(Frozen):
    """What a stray swatch is offered: its levels by the bath that it was in, and in words only
    what differs ("golden root, not red")."""

    swatch: str
    levels: Levels
    words: str


def true_place(study: PlannedStudy, swatch: Swatch, one: BenchVessel) -> TruePlace:
    """The levels of a swatch that was in a vessel where it did not belong."""
    meant = study.meant_levels(swatch)
    changed = {kind: level for kind, level in one.settles.items() if meant.get(kind) not in (None, level)}
    changed |= _no_iron(study, swatch, one)
    labels_meant, labels_true = study.level_words(meant), study.level_words(changed)
    words = ", ".join(f"{labels_true[kind]}, not {labels_meant[kind]}" for kind in changed)
    return TruePlace(swatch=swatch.code, levels=meant | changed, words=words or "the same levels as planned")


def true_levels_of(log: Iterable[BenchEntry]) -> dict[str, Levels]:
    """By swatch, from the standing log: the newest that was said counts."""
    return {
        entry.swatches[0]: entry.levels for entry in log if entry.kind == "placed" and entry.swatches and entry.levels
    }


def undecided(strays: Iterable[str], said: Mapping[str, Levels]) -> frozenset[str]:
    """Stray swatches of which nobody has said yet as what they count."""
    return frozenset(code for code in strays if code not in said)


def _no_iron(study: PlannedStudy, swatch: Swatch, one: BenchVessel) -> Levels:
    """Iron that was to be in its dye bath, and was not in the one that it went into."""
    if one.vessel.bath != "dye" or one.vessel.brings_iron_in:
        return {}
    iron = study.plan.factor("iron")
    level = study.plan.level("iron", study.meant_levels(swatch).get("iron"))
    if iron is None or level is None or level.route != "pot":
        return {}
    none = next((each for each in iron.levels if not each.value), None)
    return {"iron": none.key} if none else {}
