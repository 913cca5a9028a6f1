"""The next dose for a bath's pH, from what its log says: a reading, a dose, a reading."""

from zesty_grid.core.dye.bench import BenchVessel
from zesty_grid.core.dye.bench_entry import BenchEntry
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.weigh.ph_dose import NextDose, TwoReadings, next_dose


class DoseAdvice(Frozen):
    """`dose` None: `words` say which reading or dose is missing."""

    substance: str
    given_g: float
    dose: NextDose | None
    words: str


def dose_advice(one: BenchVessel, log: list[BenchEntry]) -> DoseAdvice | None:
    """What to give next; None where the bath has no pH to set. Raises Refusal where the readings
    cannot both be right."""
    ph = one.amounts.ph
    if ph is None or ph.question is None:
        return None
    own = [entry for entry in log if entry.vessel == one.vessel.key]
    substance = ph.figure.name if ph.figure else ph.question.adjust_with
    doses = [entry for entry in own if entry.kind == "dose" and entry.substance == substance]
    given = sum(entry.grams or 0 for entry in doses)
    read = [(entry.at, entry.ph) for entry in own if entry.ph is not None]
    before = [value for at, value in read if doses and at <= doses[0].at]
    after = [value for at, value in read if doses and at > doses[-1].at]

    def missing(words: str) -> DoseAdvice:
        return DoseAdvice(substance=substance, given_g=given, dose=None, words=words)

    if not read:
        return missing("Read the pH before anything is given.")
    if not doses:
        return missing(f"Give half: {ph.grams_first:.2f} g {substance}, and log it as a dose.")
    if not before:
        return missing("The pH before the dose was not read: what the bath buffers is not known.")
    if not after:
        return missing("Stir, wait 15 min, and read again.")
    dose = next_dose(
        TwoReadings(question=ph.question, ph_first=before[-1], grams_given=given,
                    ph_second=after[-1])
    )  # fmt: skip
    return DoseAdvice(substance=substance, given_g=given, dose=dose, words=dose.words)
