"""What is refused of a new entry, and what is asked before it is kept. Nothing else is: anything
may be logged at any time."""

from collections.abc import Collection, Iterable

from zesty_grid.core.record.addition import Addition, far_from_planned
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.entry import AT_A_VESSEL, BenchEntry, NewBenchEntry
from zesty_grid.core.record.log import REHEAT
from zesty_grid.core.refusal import Fault, Refusal


def check_entry(
    entry: NewBenchEntry, vessel: BenchVessel | None, known: Collection[str], log: Iterable[BenchEntry]
) -> None:
    """`vessel` is the one that the entry names, None where it names none that is there; `known`
    the codes of all swatches. Raises Refusal, also to ask: `sure` then answers it."""
    strange = [code for code in entry.swatches if code not in known]
    if strange:
        raise Refusal("no-such-swatch", f"{strange[0]} is no swatch that is known here.", "Read the code again.")
    if vessel is None:
        if entry.vessel:
            raise Refusal(
                "no-such-step",
                f"There is no {entry.vessel} in this study.",
                "The plan has changed since. Choose the vessel, and say it again.",
            )
        if entry.kind in AT_A_VESSEL:
            raise Refusal(
                "no-such-step", "This entry does not say at which vessel.", "Choose the vessel, and say it again."
            )
        return
    reheats = entry.step.startswith(f"{REHEAT}-")
    if entry.step and not reheats and vessel.step(entry.step) is None:
        raise Refusal(
            "no-such-step",
            f"{vessel.name} has no such step.",
            "The plan has changed since. Choose the step, and say it again.",
        )
    every = list(log)
    old = next((before for before in every if before.id == entry.replaces), None)
    if entry.sure or (old and (old.addition, old.swatches) == (entry.addition, entry.swatches)):
        # A correction that leaves both as they were said is not asked about them again.
        return
    if entry.kind == "addition" and entry.addition:
        _ask_about_addition(entry, entry.addition, vessel, every)
    if entry.kind in ("loaded", "pulled"):
        _ask_about_strays(entry, vessel, every)


def question_about(
    added: Addition, vessel: BenchVessel, log: Iterable[BenchEntry], corrects: int | None = None
) -> str | None:
    """What to ask of an addition to a bath; None where it is about what was planned."""
    figures = [f for f in vessel.amounts.figures if f.name.lower() == added.name.lower()]
    planned = sum(f.grams for f in figures if f.grams) if figures else None
    given = sum(
        before.addition.grams or 0.0
        for before in log
        if before.vessel == vessel.name
        and before.addition
        and before.addition.name.lower() == added.name.lower()
        and before.id != corrects
    )
    return far_from_planned(added, planned, given, vessel.vessel.volume_ml)


def _ask_about_addition(entry: NewBenchEntry, added: Addition, vessel: BenchVessel, log: Iterable[BenchEntry]) -> None:
    question = question_about(added, vessel, log, entry.replaces)
    if question:
        raise Refusal(
            "far-from-planned",
            question,
            "Say yes if it is, or put the amount right.",
            (
                Fault(
                    field="addition",
                    given=added.working,
                    allowed="about what is planned",
                    cure="Say yes if it is right.",
                ),
            ),
        )


def _ask_about_strays(entry: NewBenchEntry, vessel: BenchVessel, log: Iterable[BenchEntry]) -> None:
    inside = {
        code for before in log if before.vessel == vessel.name and before.kind == "loaded" for code in before.swatches
    }
    strays = [c for c in entry.swatches if c not in vessel.vessel.swatches and c not in inside]
    if strays:
        named = ", ".join(strays[:4])
        verb = "does" if len(strays) == 1 else "do"
        raise Refusal(
            "wrong-swatch",
            f"{named} {verb} not belong in {vessel.name}.",
            "Keep it out, or say that it went in all the same.",
            (
                Fault(
                    field="swatches",
                    given=named,
                    allowed="those that belong in",
                    cure="Say that it went in all the same.",
                ),
            ),
        )
