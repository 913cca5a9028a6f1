"""One extraction shared by all vessels that take the same dye, and how much each gets."""

from collections.abc import Iterable, Mapping
from hashlib import sha256

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.dye_bath import WAYS
from zesty_grid.core.plan.extraction_recipe import ExtractionRecipe
from zesty_grid.core.plan.vessel import Vessel
from zesty_grid.core.shelf.items import DyeLot
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.weigh.amounts import VesselAmounts, lot_of
from zesty_grid.core.weigh.dye_stuff import spelled_out
from zesty_grid.core.weigh.working import Figure, grams_words, volume_words

# The strongest bath is half extract; the rest of the water is added in the vessel.
EXTRACT_SHARE = 0.5
# A share that was put by is enough for a bath that needs no more than this above it.
ENOUGH = 1.005
PRINTS_AND_JARS = ("bundle-print", "sun-jar")
COLD_WAYS_C = {"sun": 30.0}


class ExtractShare(Frozen):
    """What goes into the vessel of that name; `moment` where it tops the bath up later.
    `drawn_after` so many rounds, where the rest of the extract goes on."""

    vessel: str
    grams: float
    volume_ml: float
    working: str
    moment: str = ""
    drawn_after: int | None = None


class Extraction(Frozen):
    """Dye stuff and water for one extract; `shares` say how many mL go to each vessel.

    `dye`, `extraction` and `run` say of what, which way, and for which run; `spelled` what a
    mixture is made of.
    """

    key: str
    name: str
    way: str
    grams: float
    water_ml: float
    temperature_c: float | None
    duration_min: int
    note: str
    shares: tuple[ExtractShare, ...]
    dye: str = ""
    extraction: str = ""
    recipe: ExtractionRecipe | None = None
    spelled: str = ""


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
    needed: dict[str, list[tuple[Vessel, Figure]]] = {}
    shares: dict[tuple[str, str], ExtractShare] = {}
    from_begun: dict[str, str] = {}
    for vessel, own in zip(vessels, amounts, strict=True):
        in_bath = vessel.recipe is not None and vessel.recipe.kept == "in the bath"
        apart = in_bath or vessel.process in PRINTS_AND_JARS or vessel.extraction == "sun"
        for figure in own.figures:
            if figure.role != "dye stuff" or not figure.grams or apart:
                continue
            lot = next((one for one in shelf.dye_lots if one.name == figure.name), None)
            if lot is None:
                continue
            key = _key_of(vessel, lot.key)
            liquor = _put_by(begun, vessel, key, figure)
            if liquor is None and lot.goes_straight_in:
                continue
            if liquor is None:
                needed.setdefault(key, []).append((vessel, figure))
                continue
            shares[vessel.name, figure.moment] = _share_of(liquor, vessel, figure)
            from_begun[vessel.name] = liquor.name
    extractions = [_extraction(key, there, shelf) for key, there in needed.items()]
    shares |= {(share.vessel, share.moment): share for one in extractions for share in one.shares}
    drawn = (_with_extract(own, shares) for own in amounts)
    return Drawn(amounts=tuple(drawn), extractions=tuple(extractions), from_begun=from_begun)


def _key_of(vessel: Vessel, dye: str) -> str:
    """Vessels with the same key draw from one extract."""
    way, run = vessel.extraction or "hot", vessel.replicate or 1
    recipe = vessel.recipe
    if recipe is None:
        return f"{dye}:{way}:{run}"
    if recipe.drawn_after is not None:
        # Levels that differ only in when they are drawn off: one pot.
        way = f"drawn-{sha256(recipe.pot.encode()).hexdigest()[:8]}"
    own = f":{vessel.name}" if recipe.kept == "apart" else ""
    return f"{dye}:{way}:{run}{own}"


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
        vessel=vessel.name,
        grams=grams,
        volume_ml=volume_ml,
        moment=figure.moment,
        working=f"put by in {liquor.name}: {grams_words(grams)} ÷ "
        f"{1000 * liquor.strength_g_ml:.1f} g/L = {volume_words(volume_ml)}",
    )


def _with_extract(own: VesselAmounts, shares: Mapping[tuple[str, str], ExtractShare]) -> VesselAmounts:
    """The amounts of a vessel that draws its dye from a shared extract, and so less water; what
    tops it up later comes on top."""
    first = shares.get((own.vessel, ""))

    def drawn(figure: Figure) -> Figure:
        share = shares.get((own.vessel, figure.moment))
        if figure.role == "dye stuff" and share is not None:
            words = f"{volume_words(share.volume_ml)} of the extract"
            working = f"{figure.working}; {share.working}"
            return figure.model_copy(update={"volume_ml": share.volume_ml, "words": words, "working": working})
        if figure.role == "water" and figure.volume_ml is not None and first is not None:
            left_ml = figure.volume_ml - first.volume_ml
            working = f"{figure.working}; less {volume_words(first.volume_ml)} of extract = {volume_words(left_ml)}"
            return figure.model_copy(update={"volume_ml": left_ml, "working": working})
        return figure

    return own.model_copy(update={"figures": tuple(drawn(figure) for figure in own.figures)})


def _extraction(key: str, there: list[tuple[Vessel, Figure]], shelf: Shelf) -> Extraction:
    first = there[0][0]
    way_key, run = first.extraction or "hot", first.replicate or 1
    lot = next((o for o in shelf.dye_lots if o.name == there[0][1].name), lot_of(first, shelf))
    recipe = first.recipe or usual_recipe(way_key, lot)
    wanted = [(vessel, figure.moment, figure.grams or 0.0) for vessel, figure in there]
    grams = sum(own for _, _, own in wanted)
    # One liquor of one strength: what the strongest bath needs sets it, weaker ones draw less.
    strength_g_ml = max(own / (vessel.volume_ml * EXTRACT_SHARE) for vessel, _, own in wanted)
    water_ml = grams / strength_g_ml
    shares = tuple(
        ExtractShare(
            vessel=vessel.name,
            grams=own,
            volume_ml=own / strength_g_ml,
            moment=moment,
            drawn_after=vessel.recipe.drawn_after if vessel.recipe else None,
            working=f"{grams_words(own)} of {grams_words(grams)} × {volume_words(water_ml)} = "
            f"{volume_words(own / strength_g_ml)}",
        )
        for vessel, moment, own in wanted
    )
    apart = f", for {first.name}" if recipe.kept == "apart" else ""
    return Extraction(
        key=key,
        name=(lot.name if run == 1 else f"{lot.name}, run {run}") + apart,
        way=WAYS[("extraction", way_key)].name.lower() if way_key in COLD_WAYS_C else recipe.words,
        grams=grams,
        water_ml=water_ml,
        temperature_c=recipe.temperature_c if recipe.is_hot else COLD_WAYS_C.get(way_key, 20.0),
        duration_min=recipe.duration_min,
        note=f"{_note(way_key, first.recipe)} Make it up to {volume_words(water_ml)} again before you share it out.",
        shares=shares,
        dye=lot.key,
        extraction=way_key,
        recipe=recipe,
        spelled=spelled_out(lot, grams, shelf),
    )


def usual_recipe(way: str, lot: DyeLot) -> ExtractionRecipe:
    """The recipe of a plain way of extracting: with the heat and the time that the lot has."""
    if way == "hot":
        return ExtractionRecipe(temperature_c=lot.temperature_c, heat_min=lot.duration_min)
    if way == "repeated":
        return ExtractionRecipe(temperature_c=lot.temperature_c, rounds=3, daily=True)
    return ExtractionRecipe(heat_min=WAYS[("extraction", way)].duration_min)


def _note(way: str, own: ExtractionRecipe | None) -> str:
    return "" if own else WAYS[("extraction", way)].note
