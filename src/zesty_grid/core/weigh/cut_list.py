"""What to cut: pieces of each fibre, how cloth is laid out on its width, metres of yarn."""

from math import ceil, sqrt

from zesty_grid.core.frozen import Frozen
from zesty_grid.core.plan.planned_study import PlannedStudy
from zesty_grid.core.plan.study_plan import PieceUse
from zesty_grid.core.shelf.items import Fibre
from zesty_grid.core.weigh.working import counted, grams_words

EDGE_CM = 1.0
BUY_STEP_CM = 10.0
PIECES_ON_A_SHEET = 24
YARN_SPARE = 1.1
# Where the tie goes; common practice.
TIED: dict[str, str] = {
    "cloth": "Knots on a thread sewn into a corner.",
    "yarn": "Knots on one of the threads that hold the hank: tie it loosely, in a figure of eight, "
    "in four places; do not twist it.",
    "roving": "Knots on a thread laid loosely round it, in a net or a bag: it felts when handled.",
    "garment": "Knots on a thread in a seam or through a buttonhole, away from what is read.",
    "loose": "In a net bag of its own, with the knots on its string.",
}


class FibreCut(Frozen):
    """Swatches of one fibre and mass. Lengths are None where its mass by area or length is unknown.

    A swatch is dyed whole and cut into its pieces afterwards. `cut_from` is the earlier swatch of
    which it is a piece. `tie_words` say where its knots go.
    """

    fibre: str
    name: str
    form: str
    swatches: int
    grams: float
    cut_from: str | None = None
    width_cm: float | None = None
    height_cm: float | None = None
    piece_width_cm: float | None = None
    piece_height_cm: float | None = None
    across: int | None = None
    rows: int | None = None
    cloth_length_cm: float | None = None
    yarn_m_each: float | None = None
    yarn_m: float | None = None
    tie_words: str = ""
    working: str


class CutList(Frozen):
    """What is still to be cut; swatches that have begun are cut already."""

    pieces: tuple[PieceUse, ...]
    fibres: tuple[FibreCut, ...]
    swatches: int
    grams: float
    sheets_as_dyed: int
    sheets_of_pieces: int


def cut_list(study: PlannedStudy) -> CutList:
    """How much of each fibre to cut, laid out with the least cloth."""
    plan = study.plan
    counts: dict[tuple[str, float, str | None], int] = {}
    uncut = [swatch for swatch in study.planned if not swatch.settled]
    for swatch in uncut:
        if swatch.fibre:
            what = (swatch.fibre, swatch.mass_g, swatch.parent)
            counts[what] = counts.get(what, 0) + 1
    kept = sum(1 for piece in plan.pieces if piece != "spare")
    total = len(uncut)
    return CutList(
        pieces=plan.pieces,
        fibres=tuple(
            _fibre_cut(plan.pieces, key, mass_g, parent, count, study.shelf.fibre(key))
            for (key, mass_g, parent), count in counts.items()
        ),
        swatches=total,
        grams=sum(swatch.mass_g for swatch in uncut),
        sheets_as_dyed=ceil(total / PIECES_ON_A_SHEET),
        sheets_of_pieces=ceil(total * kept / PIECES_ON_A_SHEET),
    )


def lay_out(count: int, width_cm: float, a_cm: float, b_cm: float) -> tuple[int, int, float]:
    """Swatches across, rows, and length (cm) of cloth for `count` of a × b, turned if better.

    Raises ValueError where a swatch is wider than the cloth either way.
    """
    tries = []
    for across_cm, along_cm in ((a_cm, b_cm), (b_cm, a_cm)):
        across = int((width_cm + 1e-9) // across_cm)
        if across:
            rows = ceil(count / across)
            tries.append((rows * along_cm, across, rows))
    if not tries:
        raise ValueError("a swatch is wider than the cloth")
    length_cm, across, rows = min(tries)
    return across, rows, length_cm


def swatch_size_cm(mass_g: float, mass_g_m2: float, pieces: int) -> tuple[float, float, int, int]:
    """Width and height (cm) of cloth of so much mass, and its pieces across and down.

    Pieces are as near to square as their number allows.
    """
    area_cm2 = mass_g / mass_g_m2 * 1e4
    across = max(n for n in range(1, pieces + 1) if pieces % n == 0 and n * n <= pieces)
    down = pieces // across
    side = sqrt(area_cm2 / pieces)
    return side * down, side * across, down, across


def _fibre_cut(
    pieces: tuple[PieceUse, ...], key: str, mass_g: float, parent: str | None, count: int, fibre: Fibre | None
) -> FibreCut:
    grams = count * mass_g
    of_parent = f"; cut from {parent}" if parent else ""
    base = FibreCut(
        fibre=key,
        name=fibre.name if fibre else key,
        form=fibre.form if fibre else "cloth",
        swatches=count,
        grams=grams,
        cut_from=parent,
        working=f"{counted(count, 'swatch')} × {mass_g:g} g = {grams_words(grams)}{of_parent}",
    )
    if fibre is None or parent:
        return base
    base = base.model_copy(update={"tie_words": TIED[fibre.form]})
    if fibre.form in ("loose", "roving", "garment"):
        return base
    if fibre.form == "yarn":
        return _yarn(base, mass_g, fibre)
    if fibre.mass_g_m2 is None:
        return base.model_copy(update={"working": f"{base.working}; its g/m² is not on the Shelf: cut by weight"})
    return _cloth(base, mass_g, len(pieces), fibre, fibre.mass_g_m2)


def _yarn(base: FibreCut, mass_g: float, fibre: Fibre) -> FibreCut:
    if fibre.mass_g_per_100_m is None:
        return base
    each_m = mass_g / fibre.mass_g_per_100_m * 100
    return base.model_copy(
        update={
            "yarn_m_each": each_m,
            "yarn_m": each_m * base.swatches * YARN_SPARE,
            "working": f"{mass_g:g} g ÷ {fibre.mass_g_per_100_m:g} g per 100 m = "
            f"{each_m:.1f} m each; × {base.swatches} × {YARN_SPARE:g} to spare",
        }
    )


def _cloth(base: FibreCut, mass_g: float, pieces: int, fibre: Fibre, mass_g_m2: float) -> FibreCut:
    wide, high, down, across_pieces = swatch_size_cm(mass_g, mass_g_m2, pieces)
    sizes = {
        "width_cm": wide,
        "height_cm": high,
        "piece_width_cm": wide / down,
        "piece_height_cm": high / across_pieces,
    }
    said = (
        f"{mass_g:g} g ÷ {mass_g_m2:g} g/m² = {wide:.1f} × {high:.1f} cm, in "
        f"{pieces} pieces of {wide / down:.1f} × {high / across_pieces:.1f} cm"
    )
    if fibre.width_cm is None:
        return base.model_copy(update={**sizes, "working": said})
    try:
        across, rows, length = lay_out(base.swatches, fibre.width_cm - 2 * EDGE_CM, wide, high)
    except ValueError:
        words = f"{said}: wider than the cloth ({fibre.width_cm:g} cm); piece it together"
        return base.model_copy(update={**sizes, "working": words})
    buy = ceil((length + 2 * EDGE_CM) / BUY_STEP_CM) * BUY_STEP_CM
    return base.model_copy(
        update={
            **sizes,
            "across": across,
            "rows": rows,
            "cloth_length_cm": buy,
            "working": f"{said}; {across} across {fibre.width_cm:g} cm, {rows} rows = "
            f"{length:.0f} cm, with edges {buy:.0f} cm",
        }
    )
