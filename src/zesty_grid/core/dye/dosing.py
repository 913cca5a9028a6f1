"""The next dose for a bath's pH, from what its log says: a reading, an addition, a reading."""

from collections.abc import Mapping, Sequence

from zesty_grid.core.dye.watching import PH_OFF, SETTING, is_off
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.entry import BenchEntry
from zesty_grid.core.shelf.ph_substance import PhSubstance
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.ph_bath import Solute
from zesty_grid.core.weigh.ph_dose import NextDose, TwoReadings, next_dose
from zesty_grid.core.weigh.working import grams_words, volume_words

ML_FOR_EACH_G = 100.0


class DoseAdvice(Frozen):
    """What to do next about a bath's pH; `dose` None: `words` say which reading is missing, or
    that nothing is to be given. `substance` and `stock_percent` are how it is measured out."""

    substance: str
    stock_percent: float | None
    given_g: float
    dose: NextDose | None
    words: str


class _Given(Frozen):
    substance: PhSubstance
    name: str
    stock_percent: float | None
    grams: float
    place: int


def dose_advice(
    one: BenchVessel, log: Sequence[BenchEntry], chemistry: Mapping[str, PhSubstance], step: str = "set-ph"
) -> DoseAdvice | None:
    """What to give next; None where the bath has no pH to set, or its step is not one for setting
    it. `chemistry` has what is known of the substances on the Shelf, by key.

    Whatever acid or alkali was put in counts, not only the one that was planned. Raises Refusal
    where the readings cannot both be right.
    """
    ph = one.amounts.ph
    if ph is None or ph.question is None or step not in SETTING:
        return None
    own = [entry for entry in log if entry.vessel == one.name]
    given = _given(own, chemistry)
    read = [(i, entry.ph) for i, entry in enumerate(own) if entry.ph is not None]
    first = max((i for i, _ in read if given and i < given[-1].place), default=-1)
    batch = [each for each in given if each.place > first]
    planned = ph.question.adjust_with
    main = max(batch, key=lambda each: (each.substance == planned, each.grams), default=None)
    figure = ph.figure
    name = main.name if main else figure.name if figure else planned
    stock = main.stock_percent if main else figure.stock_percent if figure else None

    def said(words: str, dose: NextDose | None = None) -> DoseAdvice:
        of_main = (each.grams for each in given if main and each.substance == main.substance)
        return DoseAdvice(substance=name, stock_percent=stock, given_g=sum(of_main), dose=dose, words=words)

    if not read:
        return said("Read the pH before anything is given.")
    newest = read[-1][1]
    settled = not given or read[-1][0] > given[-1].place
    if settled and not is_off(newest, ph.target_ph - PH_OFF, ph.target_ph + PH_OFF):
        return said(f"It is at pH {newest:.1f}: nothing more to give.")
    if main is None:
        half = _measured(ph.grams_first, stock)
        return said(f"Give half: {half} of {name}, and log what you gave.")
    before = [value for i, value in read if i < given[-1].place]
    if not before:
        return said(
            "The pH before it was not read: what the bath buffers is not known. Read now, "
            "give a little, and read again."
        )
    if not settled:
        return said("Stir, wait 15 min, and read again.")
    beside = [each for each in batch if each.substance != main.substance]
    earlier = [each for each in given if each not in batch]
    dose = next_dose(
        TwoReadings(
            question=ph.question.model_copy(
                update={"solutes": (*ph.question.solutes, *_solutes(earlier)), "adjust_with": main.substance}
            ),
            ph_first=before[-1],
            ph_second=newest,
            beside=_solutes(beside),
            grams_given=sum(each.grams for each in batch if each.substance == main.substance),
        )
    )
    measured = f" That is {_measured(dose.grams, stock)}." if stock and dose.grams else ""
    return said(f"{dose.words}{measured}", dose)


def chemistry_of(shelf: Shelf) -> dict[str, PhSubstance]:
    """What is known of the substances on the Shelf, by key and by name."""
    found: dict[str, PhSubstance] = {}
    for substance in shelf.substances:
        if substance.chemistry is not None:
            found[substance.key] = substance.chemistry
            found[substance.name.lower()] = substance.chemistry
    return found


def _solutes(given: Sequence[_Given]) -> tuple[Solute, ...]:
    """What was given, all of one substance together."""
    grams: dict[PhSubstance, float] = {}
    for each in given:
        grams[each.substance] = grams.get(each.substance, 0.0) + each.grams
    return tuple(Solute(substance=substance, grams=all_g) for substance, all_g in grams.items())


def _given(own: Sequence[BenchEntry], chemistry: Mapping[str, PhSubstance]) -> list[_Given]:
    found = []
    for i, entry in enumerate(own):
        added = entry.addition
        if entry.kind != "addition" or added is None or not added.grams:
            continue
        substance = chemistry.get(added.item) or chemistry.get(added.name.lower())
        if added.what == "substance" and substance:
            found.append(
                _Given(
                    substance=substance, name=added.name, grams=added.grams, place=i, stock_percent=added.stock_percent
                )
            )
    return found


def _measured(grams: float, stock_percent: float | None) -> str:
    if stock_percent is None:
        return grams_words(grams)
    volume_ml = grams * ML_FOR_EACH_G / stock_percent
    return f"{volume_words(volume_ml)} of the {stock_percent:g} % stock ({grams_words(grams)})"
