"""One extraction shared by all vessels that take the same dye, and how much each gets."""

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.baths import WAYS
from zesty_grid.core.plan.vessels import Vessel
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.amounts import VesselAmounts, lot_of
from zesty_grid.core.weigh.working import Figure, grams_words, volume_words

# The strongest bath is half extract; the rest of the water is added in the vessel.
EXTRACT_SHARE = 0.5


class ExtractShare(Frozen):
    vessel: str
    name: str
    grams: float
    volume_ml: float
    working: str


class Extraction(Frozen):
    """Dye stuff and water for one extract; `shares` say how many mL go to each vessel."""

    key: str
    name: str
    way: str
    grams: float
    water_ml: float
    temperature_c: float | None
    duration_min: int
    note: str
    shares: tuple[ExtractShare, ...]


def extractions_of(
    vessels: list[Vessel], amounts: list[VesselAmounts], shelf: Shelf
) -> list[Extraction]:
    """By dye lot, way of extracting and run; pots of different strength draw different volumes."""
    drawn: dict[tuple[str, str, int], list[tuple[Vessel, float]]] = {}
    for vessel, own in zip(vessels, amounts, strict=True):
        apart = vessel.process in ("bundle-print", "sun-jar") or vessel.extraction == "sun"
        for figure in own.figures:
            if figure.role == "dye stuff" and figure.grams and not apart:
                key = (vessel.dye or "", vessel.extraction or "hot", vessel.replicate or 1)
                drawn.setdefault(key, []).append((vessel, figure.grams))
    return [_extraction(key, there, shelf) for key, there in drawn.items()]


def with_extract(own: VesselAmounts, share: ExtractShare) -> VesselAmounts:
    """The amounts of a vessel that draws its dye from a shared extract, and so less water."""

    def drawn(figure: Figure) -> Figure:
        if figure.role == "dye stuff":
            words = f"{volume_words(share.volume_ml)} of the extract"
            working = f"{figure.working}; {share.working}"
            return figure.model_copy(
                update={"volume_ml": share.volume_ml, "words": words, "working": working}
            )
        if figure.role == "water" and figure.volume_ml is not None:
            left_ml = figure.volume_ml - share.volume_ml
            working = (
                f"{figure.working}; less {volume_words(share.volume_ml)} of extract = "
                f"{volume_words(left_ml)}"
            )
            return figure.model_copy(update={"volume_ml": left_ml, "working": working})
        return figure

    return own.model_copy(update={"figures": tuple(drawn(figure) for figure in own.figures)})


def _extraction(
    key: tuple[str, str, int], there: list[tuple[Vessel, float]], shelf: Shelf
) -> Extraction:
    dye, way_key, run = key
    way = WAYS[("extraction", way_key)]
    lot = lot_of(there[0][0], shelf)
    grams = sum(own for _, own in there)
    # One liquor of one strength: what the strongest bath needs sets it, weaker ones draw less.
    strength_g_ml = max(own / (vessel.volume_ml * EXTRACT_SHARE) for vessel, own in there)
    water_ml = grams / strength_g_ml
    shares = tuple(
        ExtractShare(
            vessel=vessel.key, name=vessel.name, grams=own, volume_ml=own / strength_g_ml,
            working=f"{grams_words(own)} of {grams_words(grams)} × {volume_words(water_ml)} = "
            f"{volume_words(own / strength_g_ml)}",
        )
        for vessel, own in there
    )  # fmt: skip
    minutes = max(way.duration_min, lot.duration_min) if way_key == "hot" else way.duration_min
    return Extraction(
        key=f"{dye}:{way_key}:{run}",
        name=lot.name if run == 1 else f"{lot.name}, run {run}",
        way=way.name.lower(),
        grams=grams,
        water_ml=water_ml,
        temperature_c=lot.temperature_c if way.temperature_c is None else way.temperature_c,
        duration_min=minutes,
        note=f"{way.note} Make it up to {volume_words(water_ml)} again before you share it out.",
        shares=shares,
    )
