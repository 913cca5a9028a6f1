"""How a colour was made, told so that it can be made again: every bath as it was kept, scaled to
another mass of fibre, beside what really happened in it."""

import re
from collections.abc import Mapping, Sequence
from typing import Protocol

from zesty_grid.core.dye.swatch_record import BathPassed
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.vessel import HOT_C
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.shelf.items import Stocked
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.bench_papers import amount_words
from zesty_grid.core.weigh.working import Figure, duration_words

GENTLE_PH = (5.0, 8.0)
COPPER = "copper"
NOT_A_STUFF = ("water", "dye liquor", "detergent")


class RecipeStep(Frozen):
    """`caution` stands where its danger is first met."""

    title: str
    detail: str
    temperature_c: float | None
    duration_min: int | None
    caution: str


class RecipeBath(Frozen):
    """A bath as the bench would have it, for the mass that is wanted; `really`: what was measured
    when it was done."""

    title: str
    amounts: tuple[str, ...]
    temperature_c: float | None
    duration_min: int | None
    steps: tuple[RecipeStep, ...] = ()
    really: str = ""
    cautions: tuple[str, ...] = ()


class Gentleness(Frozen):
    """`hottest_c`, `ph_low` and `ph_high` None: nothing says it. A mordant bath is sour by itself:
    the pH is that of baths whose pH was set or measured. `heat_unknown`: of a bath, or of all."""

    iron: bool
    copper: bool
    hottest_c: float | None
    ph_low: float | None
    ph_high: float | None
    heat_unknown: bool = False

    @property
    def is_gentle(self) -> bool:
        """No iron, no copper, no heat, pH 5 to 8."""
        acid = self.ph_low is not None and self.ph_low < GENTLE_PH[0]
        alkaline = self.ph_high is not None and self.ph_high > GENTLE_PH[1]
        hot = self.hottest_c is not None and self.hottest_c > HOT_C
        return not (self.iron or self.copper or hot or self.heat_unknown or acid or alkaline)


class Needed(Frozen):
    """A stuff with what is in hand and what it costs, where the Shelf says so."""

    name: str
    grams: float
    in_hand_g: float | None
    cost: float | None


class Recipe(Frozen):
    """`logged`: the baths are those that were logged; else they are as planned, and said so."""

    code: str
    study: int
    study_name: str
    words: str
    fibre: str
    mass_g: float
    baths: tuple[RecipeBath, ...]
    gentle: Gentleness
    needed: tuple[Needed, ...]
    cost: float | None
    in_hand: bool | None
    logged: bool


def told_baths(bench: Sequence[BenchVessel], passed: Mapping[int, BathPassed]) -> list[RecipeBath]:
    """The vessels of a plan that follows a recipe; `passed` has what happened, by the place of the
    bath in it. Nothing is cautioned of twice."""
    found = []
    said: set[str] = set()

    def once(words: str) -> str:
        fresh = [one for one in re.split(r"(?<=\.) ", words) if one not in said]
        said.update(fresh)
        return " ".join(fresh)

    for one in bench:
        vessel = one.vessel
        cautions = tuple(words for words in map(once, one.cautions) if words)
        found.append(
            RecipeBath(
                title=vessel.title,
                amounts=tuple(f"{figure.name}: {amount_words(figure)}" for figure in one.amounts.figures),
                temperature_c=vessel.temperature_c,
                duration_min=vessel.duration_min,
                steps=tuple(
                    RecipeStep(
                        title=step.title,
                        detail=step.detail,
                        temperature_c=step.temperature_c,
                        duration_min=step.duration_min,
                        caution=once(step.caution),
                    )
                    for step in one.steps
                ),
                really=_really(passed.get(-1 if vessel.place is None else vessel.place)),
                cautions=cautions,
            )
        )
    return found


class Measured(Protocol):
    """What was read in a bath, by hand or by probe: the lowest and the highest."""

    @property
    def temperature_c(self) -> tuple[float, float] | None: ...
    @property
    def ph(self) -> tuple[float, float] | None: ...


def gentleness(vessels: Sequence[BenchVessel], passed: Mapping[str, Measured]) -> Gentleness:
    """By what was planned and what was measured, by the name of the vessel. Scouring is left out:
    all cloth is washed hot, or comes ready."""
    own = [one for one in vessels if one.vessel.bath != "scour"]
    stuffs = [figure.name.lower() for one in own for figure in one.amounts.figures]
    warm = [one.vessel.temperature_c for one in own if one.vessel.temperature_c is not None]
    acid = [one.vessel.ph for one in own if one.vessel.ph is not None]
    unknown = not vessels
    for one in own:
        there = passed.get(one.name)
        unknown = unknown or (one.vessel.temperature_c is None and not (there and there.temperature_c))
        if there and there.temperature_c:
            warm.append(there.temperature_c[1])
        if there and there.ph and one.vessel.bath != "mordant":
            acid += there.ph
    return Gentleness(
        iron=any("iron" in stuff for stuff in stuffs) or any(one.vessel.brings_iron_in for one in own),
        copper=any(COPPER in stuff for stuff in stuffs)
        or any(COPPER in way for one in own for way in one.vessel.pretreatments),
        hottest_c=max(warm, default=None),
        ph_low=min(acid, default=None),
        ph_high=max(acid, default=None),
        heat_unknown=unknown,
    )


def stuffs_needed(vessels: Sequence[BenchVessel], shelf: Shelf, mass_g: float | None = None) -> list[Needed]:
    """Dye stuffs and substances together, for that mass of fibre in each bath; None: as it is."""
    grams: dict[str, float] = {}
    for one in vessels:
        for figure in one.amounts.figures:
            if figure.role in NOT_A_STUFF:
                continue
            scaled = figure if mass_g is None else _scaled(figure, mass_g, one.vessel.dry_fibre_g)
            own = scaled.grams
            if own is None and scaled.volume_ml is not None and scaled.stock_percent:
                own = scaled.volume_ml * scaled.stock_percent / 100
            if own is not None:
                grams[figure.name] = grams.get(figure.name, 0.0) + own
    stocked: dict[str, Stocked] = {one.name.lower(): one for one in (*shelf.dye_lots, *shelf.substances)}
    found = []
    for name, amount in grams.items():
        item = stocked.get(name.lower())
        price = item.price_per_100_g if item else None
        found.append(
            Needed(
                name=name,
                grams=amount,
                in_hand_g=item.amount_in_hand_g if item else None,
                cost=None if price is None else amount * price / 100,
            )
        )
    return found


def cost_of(needed: Sequence[Needed]) -> float | None:
    """Of what has a price; None where nothing has."""
    known = [one.cost for one in needed if one.cost is not None]
    return sum(known) if known else None


def is_in_hand(needed: Sequence[Needed]) -> bool | None:
    """None where the Shelf does not say of anything how much is there."""
    known = [one for one in needed if one.in_hand_g is not None]
    return all((one.in_hand_g or 0) >= one.grams for one in known) if known else None


def _scaled(figure: Figure, mass_g: float, dry_fibre_g: float) -> Figure:
    times = mass_g / dry_fibre_g if dry_fibre_g > 0 else 1.0
    amounts = {"grams": figure.grams, "volume_ml": figure.volume_ml}
    return figure.model_copy(update={name: None if of is None else of * times for name, of in amounts.items()})


def _really(there: BathPassed | None) -> str:
    if there is None or not there.begun:
        return ""
    said = []
    if there.temperature_c:
        low, high = there.temperature_c
        said.append(f"{low:.0f} °C" if high - low < 1 else f"{low:.0f} to {high:.0f} °C")
    if there.ph:
        first, last = there.ph
        said.append(f"pH {first:.1f}" if first == last else f"pH {first:.1f} to {last:.1f}")
    if there.seconds is not None:
        said.append(f"{there.seconds:.0f} s")
    elif there.in_at and there.out_at:
        said.append(f"{duration_words((there.out_at - there.in_at).total_seconds() / 60)} in it")
    if there.heated_again:
        said.append(f"heated again {there.heated_again} times")
    return ", ".join(said)
