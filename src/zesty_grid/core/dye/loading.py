"""Who goes into a vessel: a swatch named by its code, its label or its tie."""

import re
from collections.abc import Collection, Iterable

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.swatch_codes import LABEL_PREFIX, is_swatch_code, on_label
from zesty_grid.core.record.bench_vessel import BenchVessel
from zesty_grid.core.record.placing import TruePlace, true_place
from zesty_grid.core.record.swatch import Swatch

_TIE = re.compile(r"[1-4]([·.\-\s][1-4])*")


class Identified(Frozen):
    """`belongs`: it goes into this vessel. `words` say who it is, or why it cannot be said.

    `counts_as`: what a swatch that does not belong here is, or would be, by having gone in.
    """

    code: str | None
    belongs: bool
    inside: bool
    words: str
    counts_as: TruePlace | None = None


def who_is(
    text: str, vessel: BenchVessel, bench: Iterable[BenchVessel], study: PlannedStudy, inside: Collection[str]
) -> Identified:
    """The swatch that was typed, scanned or read off its knots, beside a vessel.

    `inside` has the codes that are ticked in.
    """
    said = text.strip()
    code: str | None = said.upper().removeprefix(LABEL_PREFIX).replace(" ", "")
    belongs = vessel.vessel.swatches
    if code not in study.by_code:
        code = next((one for one in study.by_code if on_label(one) == code), code)
    if code not in study.by_code and _TIE.fullmatch(said):
        tie = "·".join(re.findall("[1-4]", said))
        code = _with_tie(tie, belongs, study, inside)
        if code is None:
            return _unknown(f"No swatch of this study has the tie {tie}.")
    if code is None or code not in study.by_code:
        return _unknown(_why_unknown(said, code or ""))
    there = code in inside
    counts_as = None if code in belongs else _counts_as(study, code, vessel)
    if code in belongs or there:
        return Identified(
            code=code,
            belongs=True,
            inside=there,
            counts_as=counts_as,
            words=f"{code} {'is in already' if there else 'goes in'}.",
        )
    return Identified(
        code=code,
        belongs=False,
        inside=False,
        counts_as=counts_as,
        words=f"{code} does not belong in {vessel.name}: {_where(code, bench)}. Keep it out.",
    )


def _with_tie(tie: str, belongs: Collection[str], study: PlannedStudy, inside: Collection[str]) -> str | None:
    """Of those that go in here, one that is not in yet; else whoever has the tie."""
    here = [code for code in belongs if _tie(study.by_code.get(code)) == tie]
    if here:
        return next((code for code in here if code not in inside), here[0])
    return next((code for code, swatch in study.by_code.items() if swatch.tie == tie), None)


def _tie(swatch: Swatch | None) -> str:
    return swatch.tie if swatch else ""


def _counts_as(study: PlannedStudy, code: str, vessel: BenchVessel) -> TruePlace | None:
    if not vessel.settles:
        return None
    return true_place(study, study.by_code[code], vessel)


def _unknown(words: str) -> Identified:
    return Identified(code=None, belongs=False, inside=False, words=words)


def _why_unknown(said: str, code: str) -> str:
    if is_swatch_code(code):
        return f"{code} is a sound code, but of no swatch of this study."
    return f"“{said[:20]}” is no code: one of its characters is wrong. Read it again."


def _where(code: str, bench: Iterable[BenchVessel]) -> str:
    names = [one.name for one in bench if code in one.vessel.swatches]
    return f"it goes into {', '.join(names)}" if names else "it goes into no vessel"
