"""How a colour was made, told so that it can be made again: every bath as it was kept, scaled to
another mass of fibre, beside what really happened in it."""

import re
from collections.abc import Mapping, Sequence

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


class RecipeBath(Frozen):
    """`amounts` for the mass that is wanted; `really` what was measured when it was done."""

    title: str
    amounts: tuple[str, ...]
    temperature_c: float | None
    duration_min: int | None
    steps: tuple[str, ...] = ()
    really: str = ""
    cautions: tuple[str, ...] = ()


class Gentleness(Frozen):
    """`hottest_c`, `ph_low` and `ph_high` None: nothing says it. A mordant bath is sour by itself:
    the pH is that of baths whose pH was set or measured."""

    iron: bool
    copper: bool
    hottest_c: float | None
    ph_low: float | None
    ph_high: float | None

    @property
    def is_gentle(self) -> bool:
        """No iron, no copper, no heat, pH 5 to 8."""
        acid = self.ph_low is not None and self.ph_low < GENTLE_PH[0]
        alkaline = self.ph_high is not None and self.ph_high > GENTLE_PH[1]
        hot = self.hottest_c is not None and self.hottest_c > HOT_C
        return not (self.iron or self.copper or hot or acid or alkaline)


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


def scaled_baths(vessels: Sequence[BenchVessel], passed: Mapping[str, BathPassed], mass_g: float) -> list[RecipeBath]:
    """`passed` has what happened, by the name of the vessel."""
    found = []
    for one in vessels:
        vessel, there = one.vessel, passed.get(one.name)
        figures = [_scaled(figure, mass_g, vessel.dry_fibre_g) for figure in one.amounts.figures]
        found.append(
            RecipeBath(
                title=_without_pot(vessel.title),
                amounts=tuple(f"{figure.name}: {amount_words(figure)}" for figure in figures),
                temperature_c=vessel.temperature_c,
                duration_min=vessel.duration_min,
                steps=tuple(_step(step.title, step.detail) for step in one.steps),
                really=_really(there),
                cautions=one.cautions,
            )
        )
    return found


def gentleness(vessels: Sequence[BenchVessel], passed: Mapping[str, BathPassed]) -> Gentleness:
    """Scouring is left out: all cloth is washed hot, or comes ready."""
    own = [one for one in vessels if one.vessel.bath != "scour"]
    stuffs = [figure.name.lower() for one in own for figure in one.amounts.figures]
    warm = [one.vessel.temperature_c for one in own if one.vessel.temperature_c is not None]
    acid = [one.vessel.ph for one in own if one.vessel.ph is not None]
    for one in own:
        there = passed.get(one.name)
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
    )


def stuffs_needed(vessels: Sequence[BenchVessel], shelf: Shelf, mass_g: float) -> list[Needed]:
    """Dye stuffs and substances together, for that mass of fibre."""
    grams: dict[str, float] = {}
    for one in vessels:
        for figure in one.amounts.figures:
            if figure.role in NOT_A_STUFF:
                continue
            scaled = _scaled(figure, mass_g, one.vessel.dry_fibre_g)
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
    return figure.model_copy(
        update={
            "grams": None if figure.grams is None else figure.grams * times,
            "volume_ml": None if figure.volume_ml is None else figure.volume_ml * times,
            # Spoons, counts and litres of extract are of the other mass.
            "spoons": "",
            "spelled": "",
            "words": figure.words if figure.role == "adjuster" else "",
        }
    )


def _step(title: str, detail: str) -> str:
    """Details with figures are of the mass that was dyed then."""
    return f"{title}: {detail}" if detail and not re.search(r"\d", detail) else title


def _without_pot(title: str) -> str:
    return title.split(", pot ")[0]


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
