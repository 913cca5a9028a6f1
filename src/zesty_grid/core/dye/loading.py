"""Who goes into a vessel: a swatch named by its code, its label or its tie, and the count."""

import re

from zesty_grid.core.dye.bench import BenchVessel
from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.swatch_codes import LABEL_PREFIX, is_swatch_code

_TIE = re.compile(r"[1-4]([·.\-\s][1-4])*")


class Identified(Frozen):
    """`belongs`: it goes into this vessel. `words` say who it is, or why it cannot be said."""

    code: str | None
    belongs: bool
    inside: bool
    words: str


def who_is(
    text: str, vessel: BenchVessel, bench: list[BenchVessel], codes: dict[str, str],
    ties: dict[str, str], inside: list[str],
) -> Identified:  # fmt: skip
    """The swatch that was typed, scanned or read off its knots, beside a vessel.

    `codes` and `ties` go by swatch key; `inside` has the codes that are ticked in. A tie tells
    swatches apart within a vessel only, so it is looked up among those that belong there.
    """
    said = text.strip()
    code = said.upper().removeprefix(LABEL_PREFIX).replace(" ", "")
    by_code = {own: key for key, own in codes.items()}
    if code not in by_code and _TIE.fullmatch(said):
        tie = "·".join(re.findall("[1-4]", said))
        alike = [codes[key] for key in vessel.vessel.swatches if ties.get(key) == tie]
        if not alike:
            return _unknown(f"No swatch of {vessel.vessel.name} has the tie {tie}.")
        # Before their first mordant, pieces of one fibre are alike: any of them will do.
        code = next((one for one in alike if one not in inside), alike[0])
    if code not in by_code:
        return _unknown(_why_unknown(said, code))
    if by_code[code] in vessel.vessel.swatches:
        there = code in inside
        return Identified(code=code, belongs=True, inside=there,
                          words=f"{code} {'is in already' if there else 'goes in'}.")  # fmt: skip
    return Identified(code=code, belongs=False, inside=code in inside,
                      words=f"{code} does not belong in {vessel.vessel.name}: "
                      f"{_where(by_code[code], bench)}. Keep it out.")  # fmt: skip


def _unknown(words: str) -> Identified:
    return Identified(code=None, belongs=False, inside=False, words=words)


def _why_unknown(said: str, code: str) -> str:
    if is_swatch_code(code):
        return f"{code} is a sound code, but of no swatch of this study."
    return f"“{said[:20]}” is no code: one of its characters is wrong. Read it again."


def _where(swatch: str, bench: list[BenchVessel]) -> str:
    names = [one.vessel.name for one in bench if swatch in one.vessel.swatches]
    return f"it goes into {', '.join(names)}" if names else "it goes into no vessel"
