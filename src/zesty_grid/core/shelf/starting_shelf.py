"""The Shelf that comes with the application. Doses, times and prices are common practice."""

from zesty_grid.core.shelf.items import (
    DyeLot,
    Fibre,
    FibreClass,
    HeatPlace,
    MordantBath,
    MordantRoute,
    Scale,
    ShelfVessel,
    Water,
)
from zesty_grid.core.shelf.light_place import KNOWN_PLACES
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.shelf.starting_substances import SUBSTANCES

EVERY_CLASS: tuple[FibreClass, ...] = ("protein", "cellulose", "regenerated cellulose", "synthetic", "polyamide")
PLANT: tuple[FibreClass, ...] = ("cellulose", "regenerated cellulose")
ANIMAL: tuple[FibreClass, ...] = ("protein", "polyamide")
SULPHATE_REASON = (
    "Alum sulphates bind to the acid and amine groups of protein; plant fibre has few such sites, "
    "so little alum stays. Use aluminium acetate, or tannin first."
)
ACETATE_REASON = "Aluminium acetate is made for plant fibre; on wool and silk plain alum takes as well."
TANNIN_FIRST_REASON = "The tannin is there to hold alum on plant fibre; on wool and silk it only adds its own colour."
BINDER_REASON = "Soya milk holds pigment on plant fibre; protein fibre takes dye without it."


def _alum(
    dose: float,
    temperature_c: float,
    duration_min: int,
    assist_percent: float | None = None,
    substance: str = "potassium alum",
) -> MordantBath:
    return MordantBath(
        kind="mordant",
        substance=substance,
        dose_percent_wof=dose,
        assist="cream of tartar" if assist_percent else None,
        assist_percent_wof=assist_percent,
        temperature_c=temperature_c,
        duration_min=duration_min,
        then="Cool in the bath, then rinse once.",
    )


def _cloth(key: str, name: str, of: FibreClass, g_m2: float, note: str = "") -> Fibre:
    return Fibre(
        key=key,
        name=name,
        fibre_class=of,
        note=note,
        mass_g_m2=g_m2,
        width_cm=140,
        preparation="Scour before mordanting, unless sold ready for dyeing.",
        source="common practice; weigh a measured piece of your own",
    )


FIBRES = (
    _cloth(
        "wool", "Wool", "protein", 200, "Takes dye readily; felts with sudden temperature change, rubbing or boiling."
    ),
    _cloth("superwash-wool", "Superwash wool", "protein", 220, "Takes more dye, and faster, than plain wool."),
    _cloth("alpaca", "Alpaca", "protein", 240),
    _cloth("mohair", "Mohair", "protein", 200),
    _cloth("silk", "Silk", "protein", 60, "Loses its lustre when boiled."),
    _cloth("cotton", "Cotton", "cellulose", 140, "Fewer sites: paler. Needs its own mordant route."),
    _cloth("linen", "Linen", "cellulose", 180),
    _cloth("hemp", "Hemp", "cellulose", 220),
    _cloth("ramie", "Ramie", "cellulose", 150),
    _cloth("viscose", "Viscose", "regenerated cellulose", 130),
    _cloth("lyocell", "Lyocell", "regenerated cellulose", 150),
    _cloth("bamboo-viscose", "Bamboo viscose", "regenerated cellulose", 140),
    _cloth("polyester", "Polyester", "synthetic", 110, "Stains at most; useful as a control."),
    _cloth("acrylic", "Acrylic", "synthetic", 180, "Stains at most."),
    _cloth("nylon", "Nylon", "polyamide", 90),
    Fibre(
        key="wool-yarn",
        name="Wool yarn",
        fibre_class="protein",
        form="yarn",
        mass_g_per_100_m=50,
        note="Mini-skeins; wind them loosely: twisted ones dye unevenly.",
    ),
    Fibre(key="cotton-yarn", name="Cotton yarn", fibre_class="cellulose", form="yarn", mass_g_per_100_m=40),
)

NO_MORDANT = "none"
MORDANT_ROUTES = (
    MordantRoute(key=NO_MORDANT, name="No mordant", suits=EVERY_CLASS, note="The control."),
    MordantRoute(
        key="alum-hot",
        name="Alum, hot",
        suits=ANIMAL,
        baths=(_alum(15, 82, 60),),
        unsuited_reason=SULPHATE_REASON,
        school="classic",
        note="10 to 20 % WOF at 80 to 85 °C, 45 to 60 min.",
    ),
    MordantRoute(
        key="alum-tartar-hot",
        name="Alum and cream of tartar, hot",
        suits=ANIMAL,
        baths=(_alum(10, 82, 45, 7),),
        unsuited_reason=SULPHATE_REASON,
        school="brighter, softer on wool",
        note="Brighter, and softer on wool.",
    ),
    MordantRoute(
        key="alum-cold",
        name="Alum, cold",
        suits=ANIMAL,
        baths=(_alum(15, 20, 2880),),
        unsuited_reason=SULPHATE_REASON,
        school="cold",
        note="One to three days; saves heat, no felting; may give paler yellows.",
    ),
    MordantRoute(
        key="alum-sulphate",
        name="Aluminium sulphate, hot",
        suits=ANIMAL,
        baths=(_alum(15, 82, 60, substance="aluminium sulphate"),),
        unsuited_reason=SULPHATE_REASON,
        school="classic",
        note="Cheaper; no potassium.",
    ),
    MordantRoute(
        key="alum-acetate",
        name="Aluminium acetate",
        suits=PLANT,
        baths=(_alum(7, 45, 90, substance="aluminium acetate"),),
        unsuited_reason=ACETATE_REASON,
        school="acetate",
        note="5 to 8 % WOF, 40 to 50 °C or at room temperature overnight.",
    ),
    MordantRoute(
        key="tannin-alum",
        name="Tannin, then alum",
        suits=PLANT,
        baths=(
            MordantBath(
                kind="tannin",
                substance="tannin",
                dose_percent_wof=9,
                temperature_c=55,
                duration_min=60,
                then="Squeeze; do not rinse.",
            ),
            _alum(15, 55, 60),
        ),
        unsuited_reason=TANNIN_FIRST_REASON,
        school="tannin",
        note="Tannin 8 to 10 %, then alum 15 %; 1 h each, or overnight.",
    ),
    MordantRoute(
        key="tannin",
        name="Tannin only",
        suits=EVERY_CLASS,
        baths=(MordantBath(kind="tannin", substance="tannin", dose_percent_wof=10, temperature_c=80, duration_min=60),),
        note="For prints and iron. Hot for 1 h, or cold overnight.",
    ),
    MordantRoute(
        key="triformate-cold",
        name="Aluminium triformate, cold",
        suits=ANIMAL + PLANT,
        school="one cold route for all",
        baths=(_alum(6.5, 20, 1440, substance="aluminium triformate"),),
        note="5 to 8 % WOF; richer in some hands.",
    ),
    MordantRoute(
        key="iron-mordant",
        name="Iron as mordant",
        suits=EVERY_CLASS,
        baths=(
            MordantBath(
                kind="mordant", substance="iron(II) sulphate", dose_percent_wof=3, temperature_c=70, duration_min=60
            ),
        ),
        note="2 to 6 % WOF; darkens before dyeing; keep apart from alum.",
    ),
    MordantRoute(
        key="soya-milk",
        name="Soya milk binder",
        suits=PLANT,
        school="binder",
        baths=(
            MordantBath(
                kind="binder",
                substance="soya milk",
                dose_percent_wof=None,
                temperature_c=20,
                duration_min=30,
                coats=3,
                dry_min=12 * 60,
                rest_min=3 * 24 * 60,
                then="Spin out; do not rinse.",
            ),
        ),
        unsuited_reason=BINDER_REASON,
        note="Holds pigment; it is not a mordant. Three coats, dried between.",
    ),
    MordantRoute(
        key="iron-liquor",
        name="Home-made iron liquor",
        suits=EVERY_CLASS,
        baths=(
            MordantBath(
                kind="mordant", substance="iron liquor", dose_percent_wof=None, temperature_c=20, duration_min=10
            ),
        ),
        note="Rusty metal in 2 parts water and 1 part vinegar, for weeks. Its strength is "
        "not known: record it as a lot and try it on a strip.",
    ),
)

DYE_LOTS = (
    DyeLot(
        key="fresh-leaves",
        name="Fresh leaves",
        part="leaf",
        state="fresh",
        strength_percent_wof=500,
        note="Up to 1000 % WOF.",
    ),
    DyeLot(
        key="fresh-flowers",
        name="Fresh flowers",
        part="flower",
        state="fresh",
        strength_percent_wof=200,
        note="100 to 300 % WOF.",
    ),
    DyeLot(
        key="dried-flowers",
        name="Dried flowers",
        part="flower",
        state="dried",
        strength_percent_wof=75,
        note="50 to 100 % WOF.",
    ),
    DyeLot(
        key="dried-seeds",
        name="Dried seeds",
        part="seed",
        state="dried",
        strength_percent_wof=200,
        duration_min=90,
        note="Try 1:1 beside 2:1.",
    ),
    DyeLot(
        key="dried-bark",
        name="Dried bark",
        part="bark",
        state="dried",
        strength_percent_wof=150,
        duration_min=90,
        note="100 to 200 % WOF; try 1:1 beside 2:1.",
    ),
    DyeLot(
        key="dry-skins",
        name="Dry skins",
        part="skin",
        state="dried",
        strength_percent_wof=75,
        note="50 to 100 % WOF; ventilate. Keep aired: sealed and damp they mould.",
    ),
    DyeLot(
        key="insect-dye",
        name="Insect dye",
        part="insect",
        state="dried",
        strength_percent_wof=10,
        note="5 to 15 % WOF.",
    ),
    DyeLot(
        key="dye-extract",
        name="Dye extract",
        part="extract",
        state="extract",
        strength_percent_wof=10,
        note="5 to 20 % WOF.",
    ),
)

VESSELS = (
    ShelfVessel(key="pot-5", name="Pot, 5 L", litres=5, count=3),
    ShelfVessel(key="pot-10", name="Pot, 10 L", litres=10, count=2),
    ShelfVessel(key="jar-1", name="Jar, 1 L", litres=1, form="jar", material="glass", count=8),
    ShelfVessel(
        key="iron-pot-3",
        name="Iron pot, 3 L",
        litres=3,
        iron_only=True,
        count=2,
        note="For iron and nothing else: iron spreads.",
    ),
    ShelfVessel(
        key="iron-jar-1", name="Iron jar, 1 L", litres=1, form="jar", material="glass", iron_only=True, count=2
    ),
    ShelfVessel(key="steamer-8", name="Steamer, 8 L", litres=8, form="steamer"),
)
HEAT_PLACES = (
    HeatPlace(key="hotplate", name="Hotplate", power_w=1500, count=2),
    HeatPlace(key="induction", name="Induction ring", power_w=2000, count=1),
)
SCALES = (
    Scale(key="kitchen-scale", name="Kitchen scale", resolution_g=1, capacity_g=5000),
    Scale(key="pocket-scale", name="Pocket scale", resolution_g=0.01, capacity_g=200),
)
WATERS = (
    Water(key="tap", name="Tap water", note="Ask your supplier, or test: it shifts some dyes."),
    Water(key="rain", name="Rain water", ph=5.8, alkalinity_mg_l_caco3=2, hardness_mg_l_caco3=3),
    Water(
        key="hard-tap",
        name="Hard tap water",
        ph=7.6,
        alkalinity_mg_l_caco3=280,
        hardness_mg_l_caco3=320,
        note="A spoon of vinegar in each pot is the usual answer.",
    ),
)

STARTING_SHELF = Shelf(
    fibres=FIBRES,
    mordant_routes=MORDANT_ROUTES,
    dye_lots=DYE_LOTS,
    substances=SUBSTANCES,
    vessels=VESSELS,
    heat_places=HEAT_PLACES,
    scales=SCALES,
    waters=WATERS,
    light_places=KNOWN_PLACES,
)
