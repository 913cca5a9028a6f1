"""How long a colour lives, in a sentence."""

from zesty_grid.core.fade.life import YearsTo

MONTHS, DAYS = 12, 365


def life_words(place: str, years: YearsTo) -> str:
    """Until the change is plain."""
    return f"In “{place}” it changes plainly (ΔE00 2) after {years_words(years)}."


def years_words(years: YearsTo) -> str:
    """2 months (1 to 4); in days where it is less than two months."""
    base = years.middle if years.middle is not None else years.low
    if base is None:
        return "longer than can be said"
    times, unit = (1, "years") if base >= 2 else (MONTHS, "months") if base * MONTHS >= 2 else (DAYS, "days")

    def said(value: float | None) -> str:
        return "?" if value is None else f"{value * times:.2g}" if value * times < 100 else f"{value * times:.0f}"

    if years.middle is None:
        return f"more than {said(years.low)} {unit}"
    beyond = ", beyond what was tried" if years.beyond else ""
    until = "or more" if years.high is None else f"to {said(years.high)}"
    return f"about {said(years.middle)} {unit} ({said(years.low)} {until}{beyond})"
