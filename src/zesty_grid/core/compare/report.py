"""A study told to others: the question, what was done, what came out, and how sure it is."""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

from zesty_grid.core.compare.coloured import Coloured
from zesty_grid.core.compare.compared import Compared
from zesty_grid.core.compare.real_numbers import NumberEffect
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.factor_words import FACTOR_WORDS
from zesty_grid.core.plan.grid import Grid
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.read.measurement import Lab
from zesty_grid.core.weigh.working import counted

MOST_LOG_LINES = 40
METHODS = (
    "Colour was read from photographs beside a chart of known values, or by an instrument, as "
    "L*a*b* under D50 and the 2° observer; differences are CIEDE2000 (ISO/CIE 11664-6).",
    "Levels are compared wherever all else is the same. A difference is called real where less than 4 in 100 as large "
    "would come from noise alone if the same were dyed again: from swatch to swatch, vessel to vessel and day to day, "
    "as repeats have shown, beginning from usual values. What a factor does differently with others is no noise.",
    "“The same” means within 1 ΔE00, 95 times in 100. Ranges of effects hold 95 in 100; ± after a colour is its "
    "standard uncertainty.",
    "Fading is rated by ISO 105-A05 under D50 and 2°, where the standard asks for D65 and 10°.",
)


class ReportCell(Frozen):
    lab: Lab | None
    hex: str
    caption: str


class ReportGrid(Frozen):
    columns: tuple[str, ...]
    rows: tuple[tuple[str, tuple[ReportCell, ...]], ...]


class ReportTable(Frozen):
    head: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]


class ReportSection(Frozen):
    heading: str
    paragraphs: tuple[str, ...] = ()
    grid: ReportGrid | None = None
    table: ReportTable | None = None


class Report(Frozen):
    title: str
    made_on: str
    sections: tuple[ReportSection, ...]
    labs: tuple[Lab, ...]


class TrialTold(NamedTuple):
    name: str
    stage: str
    lines: Sequence[tuple[str, str, str, str]]
    effects: Sequence[NumberEffect]


class Told(NamedTuple):
    """What a report is made from. `newest` has the newest colour of each swatch, `words` name
    levels, `log` are lines of the bench log, the oldest first."""

    plan: StudyPlan
    grid: Grid
    newest: Mapping[str, Coloured]
    compared: Compared | None
    words: Mapping[str, str]
    trials: Sequence[TrialTold]
    facts: Mapping[str, str]
    log: Sequence[tuple[str, str, str]]
    made_on: str


def report_of(told: Told) -> Report:
    plan = told.plan
    return Report(
        title=plan.name,
        made_on=told.made_on,
        labs=tuple(p.lab for p in told.newest.values()),
        sections=tuple(
            section
            for section in (
                ReportSection(heading="The question", paragraphs=(plan.question or "No question was written down.",)),
                _design(told),
                _grid(told),
                _effects(told),
                _fading(told),
                _numbers(told),
                _log(told),
                ReportSection(heading="Methods and uncertainties", paragraphs=METHODS),
            )
            if section is not None
        ),
    )


def _design(told: Told) -> ReportSection:
    lines = []
    for factor in told.plan.factors:
        levels = ", ".join(level.label for level in factor.levels)
        lines.append(f"{FACTOR_WORDS[factor.kind]}: {levels}.")
    repeats = told.plan.replicates
    shared = "in vessels of their own" if told.plan.replicate_vessels == "apart" else "in one pot"
    lines.append(
        f"{counted(len(told.newest), 'swatch')} read."
        + (f" {repeats} of each, {shared}." if repeats > 1 else " One of each.")
    )
    lines += [f"{name}: {value}." for name, value in told.facts.items()]
    return ReportSection(heading="What was crossed, and how it was done", paragraphs=tuple(lines))


def _grid(told: Told) -> ReportSection:
    grid = told.grid
    names = {(factor.kind, level.key): level.label for factor in grid.factors for level in factor.levels}
    place = {(factor.kind, level.key): i for factor in grid.factors for i, level in enumerate(factor.levels)}
    axes = [*grid.rows, *grid.columns]
    there = [cell for cell in grid.cells if not cell.added and cell.included]
    there.sort(key=lambda cell: [place.get((k, cell.levels.get(k, "")), -1) for k in axes])
    rows: dict[tuple[str, ...], dict[tuple[str, ...], ReportCell]] = {}
    columns: dict[tuple[str, ...], None] = {}
    across = sorted(there, key=lambda cell: [place.get((k, cell.levels.get(k, "")), -1) for k in grid.columns])
    for cell in across:
        columns.setdefault(tuple(names.get((k, cell.levels.get(k, "")), "") for k in grid.columns))
    for cell in there:
        row = tuple(names.get((k, cell.levels.get(k, "")), "") for k in grid.rows)
        column = tuple(names.get((k, cell.levels.get(k, "")), "") for k in grid.columns)
        read = [told.newest[code] for code in cell.swatches if code in told.newest]
        first = read[0] if read else None
        rows.setdefault(row, {})[column] = ReportCell(
            lab=first.lab if first else None, hex=first.hex if first else "", caption=" ".join(cell.swatches[:2])
        )
    empty = ReportCell(lab=None, hex="", caption="")
    return ReportSection(
        heading="The grid in colour",
        grid=ReportGrid(
            columns=tuple(", ".join(filter(None, one)) for one in columns),
            rows=tuple(
                (", ".join(filter(None, row)), tuple(own.get(c, empty) for c in columns)) for row, own in rows.items()
            ),
        ),
    )


def _effects(told: Told) -> ReportSection | None:
    if told.compared is None:
        return None
    rows = []
    for one in told.compared.effects:
        first, second = (told.words.get(f"{one.factor}={level}", level) for level in (one.from_level, one.to_level))
        rows.append(
            (
                f"{second} against {first}",
                f"{one.de00:.1f}",
                "" if one.p is None else f"{one.low_de00:.1f} to {one.high_de00:.1f}",
                one.verdicts.pieces,
                one.verdicts.again,
                one.verdicts.rule,
            )
        )
    return ReportSection(
        heading="What is real",
        paragraphs=told.compared.words,
        table=ReportTable(
            head=("effect", "ΔE00", "95 in 100", "these pieces", "dyed again", "as a rule"), rows=tuple(rows)
        ),
    )


def _fading(told: Told) -> ReportSection | None:
    if not told.trials:
        return None
    paragraphs, rows = [], []
    for trial in told.trials:
        real = [one for one in trial.effects if one.verdict == "different"]
        said = "; ".join(
            f"{told.words.get(f'{one.factor}={one.to_level}', one.to_level)} changes by "
            f"{one.change:+.1f} against "
            f"{told.words.get(f'{one.factor}={one.from_level}', one.from_level)}"
            for one in real
        )
        paragraphs.append(f"{trial.name}, at {trial.stage}. {said or 'No effect that is certain'}.")
        rows += [(trial.name, *line) for line in trial.lines]
    return ReportSection(
        heading="Fading",
        paragraphs=tuple(paragraphs),
        table=ReportTable(head=("trial", "swatch", "stage", "ΔE00", "rating"), rows=tuple(rows)),
    )


def _numbers(told: Told) -> ReportSection:
    rows = tuple(
        (
            one.code,
            one.words,
            one.state,
            *(f"{value:.1f}" for value in one.lab),
            f"{one.uncertainty_de00:.1f}",
            one.colour_words,
        )
        for one in told.newest.values()
    )
    return ReportSection(
        heading="Every swatch",
        table=ReportTable(head=("code", "recipe", "state", "L*", "a*", "b*", "±ΔE00", "colour"), rows=rows),
    )


def _log(told: Told) -> ReportSection | None:
    if not told.log:
        return None
    return ReportSection(
        heading="From the bench log",
        table=ReportTable(head=("when", "vessel", "what"), rows=tuple(told.log[:MOST_LOG_LINES])),
    )
