"""One extraction shared by all vessels that take the same dye, and how much each gets."""

from collections.abc import Iterable, Mapping

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.dye_bath import WAYS
from zesty_grid.core.plan.vessels import Vessel
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.amounts import VesselAmounts, lot_of
from zesty_grid.core.weigh.working import Figure, grams_words, volume_words

# The strongest bath is half extract; the rest of the water is added in the vessel.
EXTRACT_SHARE = 0.5
# A share that was put by is enough for a bath that needs no more than this above it.
ENOUGH = 1.005


class ExtractShare(Frozen):
    """What goes into the vessel of that name; `moment` where it tops the bath up later."""

    vessel: str
    grams: float
    volume_ml: float
    working: str
    moment: str = ""


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


class Liquor(Frozen):
    """An extract that has begun: its vessel, what it is of, and whose shares are in it."""

    name: str
    key: str
    strength_g_ml: float
    grams_for: dict[tuple[str, str], float]


class Drawn(Frozen):
    """The amounts of each vessel with what it draws, the extracts still to be made, and for each
    vessel that draws from one that has begun, the name of that one."""

    amounts: tuple[VesselAmounts, ...]
    extractions: tuple[Extraction, ...]
    from_begun: dict[str, str]


def draw_extracts(
    vessels: list[Vessel], amounts: list[VesselAmounts], shelf: Shelf, liquors: Iterable[Liquor]
) -> Drawn:
    """By dye lot, way of extracting and run; pots of different strength draw different volumes.

    What was put by for a vessel in an extract that has begun is drawn from that; all else is
    extracted anew.
    """
    begun = list(liquors)
    needed: dict[tuple[str, str, int], list[tuple[Vessel, Figure]]] = {}
    shares: dict[tuple[str, str], ExtractShare] = {}
    from_begun: dict[str, str] = {}
    for vessel, own in zip(vessels, amounts, strict=True):
        apart = vessel.process in ("bundle-print", "sun-jar") or vessel.extraction == "sun"
        for figure in own.figures:
            if figure.role != "dye stuff" or not figure.grams or apart:
                continue
            lot = next((one.key for one in shelf.dye_lots if one.name == figure.name), "")
            key = (lot, vessel.extraction or "hot", vessel.replicate or 1)
            liquor = _put_by(begun, vessel, extraction_key(*key), figure)
            if liquor is None:
                needed.setdefault(key, []).append((vessel, figure))
                continue
            shares[vessel.name, figure.moment] = _share_of(liquor, vessel, figure)
            from_begun[vessel.name] = liquor.name
    extractions = [_extraction(key, there, shelf) for key, there in needed.items()]
    shares |= {(share.vessel, share.moment): share for one in extractions for share in one.shares}
    drawn = (_with_extract(own, shares) for own in amounts)
    return Drawn(amounts=tuple(drawn), extractions=tuple(extractions), from_begun=from_begun)


def extraction_key(dye: str, way: str, run: int) -> str:
    return f"{dye}:{way}:{run}"


def _put_by(begun: list[Liquor], vessel: Vessel, key: str, figure: Figure) -> Liquor | None:
    for liquor in begun:
        there_g = liquor.grams_for.get((vessel.name, figure.moment), 0.0)
        if liquor.key == key and (figure.grams or 0.0) <= there_g * ENOUGH:
            return liquor
    return None


def _share_of(liquor: Liquor, vessel: Vessel, figure: Figure) -> ExtractShare:
    grams = figure.grams or 0.0
    volume_ml = grams / liquor.strength_g_ml
    return ExtractShare(
        vessel=vessel.name, grams=grams, volume_ml=volume_ml, moment=figure.moment,
        working=f"put by in {liquor.name}: {grams_words(grams)} ÷ "
        f"{1000 * liquor.strength_g_ml:.1f} g/L = {volume_words(volume_ml)}",
    )  # fmt: skip


def _with_extract(
    own: VesselAmounts, shares: Mapping[tuple[str, str], ExtractShare]
) -> VesselAmounts:
    """The amounts of a vessel that draws its dye from a shared extract, and so less water; what
    tops it up later comes on top."""
    first = shares.get((own.vessel, ""))

    def drawn(figure: Figure) -> Figure:
        share = shares.get((own.vessel, figure.moment))
        if figure.role == "dye stuff" and share is not None:
            words = f"{volume_words(share.volume_ml)} of the extract"
            working = f"{figure.working}; {share.working}"
            return figure.model_copy(
                update={"volume_ml": share.volume_ml, "words": words, "working": working}
            )
        if figure.role == "water" and figure.volume_ml is not None and first is not None:
            left_ml = figure.volume_ml - first.volume_ml
            working = (
                f"{figure.working}; less {volume_words(first.volume_ml)} of extract = "
                f"{volume_words(left_ml)}"
            )
            return figure.model_copy(update={"volume_ml": left_ml, "working": working})
        return figure

    return own.model_copy(update={"figures": tuple(drawn(figure) for figure in own.figures)})


def _extraction(
    key: tuple[str, str, int], there: list[tuple[Vessel, Figure]], shelf: Shelf
) -> Extraction:
    lot_key, way_key, run = key
    way = WAYS[("extraction", way_key)]
    lot = shelf.dye_lot(lot_key) or lot_of(there[0][0], shelf)
    wanted = [(vessel, figure.moment, figure.grams or 0.0) for vessel, figure in there]
    grams = sum(own for _, _, own in wanted)
    # One liquor of one strength: what the strongest bath needs sets it, weaker ones draw less.
    strength_g_ml = max(own / (vessel.volume_ml * EXTRACT_SHARE) for vessel, _, own in wanted)
    water_ml = grams / strength_g_ml
    shares = tuple(
        ExtractShare(
            vessel=vessel.name, grams=own, volume_ml=own / strength_g_ml, moment=moment,
            working=f"{grams_words(own)} of {grams_words(grams)} × {volume_words(water_ml)} = "
            f"{volume_words(own / strength_g_ml)}",
        )
        for vessel, moment, own in wanted
    )  # fmt: skip
    minutes = max(way.duration_min, lot.duration_min) if way_key == "hot" else way.duration_min
    return Extraction(
        key=extraction_key(*key),
        name=lot.name if run == 1 else f"{lot.name}, run {run}",
        way=way.name.lower(),
        grams=grams,
        water_ml=water_ml,
        temperature_c=lot.temperature_c if way.temperature_c is None else way.temperature_c,
        duration_min=minutes,
        note=f"{way.note} Make it up to {volume_words(water_ml)} again before you share it out.",
        shares=shares,
    )
