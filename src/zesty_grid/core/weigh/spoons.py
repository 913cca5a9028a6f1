"""Grams as level spoons: common practice, and rough; a spoon is no scale."""

# Halvings of a level teaspoon; a pinch is a sixteenth. A tablespoon is three teaspoons.
_PARTS = ((0.0625, "a pinch"), (0.125, "⅛ tsp"), (0.25, "¼ tsp"), (0.5, "½ tsp"), (0.75, "¾ tsp"))
TEASPOONS_IN_TABLESPOON = 3
LEAST_TEASPOONS = 0.045


def spoon_words(grams: float, teaspoon_g: float | None) -> str:
    """The nearest whole and simple part of a teaspoon; empty where it is unknown or too little."""
    if not teaspoon_g or grams / teaspoon_g < LEAST_TEASPOONS:
        return ""
    teaspoons = grams / teaspoon_g
    if teaspoons >= 2 * TEASPOONS_IN_TABLESPOON:
        halves = round(2 * teaspoons / TEASPOONS_IN_TABLESPOON)
        return f"{_mixed(halves)} tbsp"
    if teaspoons > 0.875:
        return f"{_mixed(max(2, round(2 * teaspoons)))} tsp"
    return min(_PARTS, key=lambda part: abs(part[0] - teaspoons))[1]


def _mixed(halves: int) -> str:
    whole, half = divmod(halves, 2)
    return f"{whole}{'½' if half else ''}"
