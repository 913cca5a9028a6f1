"""The Shelf that comes with the application. Doses and times are common practice."""

from zesty_grid.core.shelf.items import DyeLot, Fibre, FibreClass, MordantBath, MordantRoute, Shelf

EVERY_CLASS: tuple[FibreClass, ...] = (
    "protein", "cellulose", "regenerated cellulose", "synthetic", "polyamide",
)  # fmt: skip
PLANT: tuple[FibreClass, ...] = ("cellulose", "regenerated cellulose")
ANIMAL: tuple[FibreClass, ...] = ("protein", "polyamide")
SULPHATE_REASON = (
    "Alum sulphates bind to the acid and amine groups of protein; plant fibre has few such sites, "
    "so little alum stays. Use aluminium acetate, or tannin first."
)
ACETATE_REASON = (
    "Aluminium acetate is made for plant fibre; on wool and silk plain alum takes as well."
)
TANNIN_FIRST_REASON = (
    "The tannin is there to hold alum on plant fibre; on wool and silk it only adds its own colour."
)


def _alum(
    dose: float, temperature_c: float, duration_min: int, assist_percent: float | None = None,
    substance: str = "potassium alum",
) -> MordantBath:  # fmt: skip
    return MordantBath(
        kind="mordant", substance=substance, dose_percent_wof=dose,
        assist="cream of tartar" if assist_percent else None, assist_percent_wof=assist_percent,
        temperature_c=temperature_c, duration_min=duration_min,
        then="Cool in the bath, then rinse once.",
    )  # fmt: skip


FIBRES = (
    Fibre(key="wool", name="Wool", fibre_class="protein",
          note="Takes dye readily; felts with sudden temperature change, rubbing or boiling."),
    Fibre(key="superwash-wool", name="Superwash wool", fibre_class="protein",
          note="Takes more dye, and faster, than plain wool."),
    Fibre(key="alpaca", name="Alpaca", fibre_class="protein"),
    Fibre(key="mohair", name="Mohair", fibre_class="protein"),
    Fibre(key="silk", name="Silk", fibre_class="protein", note="Loses its lustre when boiled."),
    Fibre(key="cotton", name="Cotton", fibre_class="cellulose",
          note="Fewer sites: paler. Needs its own mordant route."),
    Fibre(key="linen", name="Linen", fibre_class="cellulose"),
    Fibre(key="hemp", name="Hemp", fibre_class="cellulose"),
    Fibre(key="ramie", name="Ramie", fibre_class="cellulose"),
    Fibre(key="viscose", name="Viscose", fibre_class="regenerated cellulose"),
    Fibre(key="lyocell", name="Lyocell", fibre_class="regenerated cellulose"),
    Fibre(key="polyester", name="Polyester", fibre_class="synthetic",
          note="Stains at most; useful as a control."),
    Fibre(key="nylon", name="Nylon", fibre_class="polyamide"),
)  # fmt: skip

NO_MORDANT = "none"
MORDANT_ROUTES = (
    MordantRoute(key=NO_MORDANT, name="No mordant", suits=EVERY_CLASS, note="The control."),
    MordantRoute(key="alum-hot", name="Alum, hot", suits=ANIMAL, baths=(_alum(15, 82, 60),),
                 unsuited_reason=SULPHATE_REASON, note="Classic: 10 to 20 % WOF at 80 to 85 °C."),
    MordantRoute(key="alum-tartar-hot", name="Alum and cream of tartar, hot", suits=ANIMAL,
                 baths=(_alum(10, 82, 45, 7),), unsuited_reason=SULPHATE_REASON,
                 note="Brighter, and softer on wool."),
    MordantRoute(key="alum-cold", name="Alum, cold", suits=ANIMAL, baths=(_alum(15, 20, 2880),),
                 unsuited_reason=SULPHATE_REASON, note="One to three days; no felting."),
    MordantRoute(key="alum-sulphate", name="Aluminium sulphate, hot", suits=ANIMAL,
                 baths=(_alum(15, 82, 60, substance="aluminium sulphate"),),
                 unsuited_reason=SULPHATE_REASON, note="Cheaper; no potassium."),
    MordantRoute(key="alum-acetate", name="Aluminium acetate", suits=PLANT,
                 baths=(_alum(7, 45, 90, substance="aluminium acetate"),),
                 unsuited_reason=ACETATE_REASON, note="Acetate school: 5 to 8 % WOF."),
    MordantRoute(key="tannin-alum", name="Tannin, then alum", suits=PLANT,
                 baths=(
                     MordantBath(kind="tannin", substance="tannin", dose_percent_wof=9,
                                 temperature_c=55, duration_min=60, then="Squeeze; do not rinse."),
                     _alum(15, 55, 60),
                 ), unsuited_reason=TANNIN_FIRST_REASON, note="Tannin school."),
    MordantRoute(key="tannin", name="Tannin only", suits=EVERY_CLASS,
                 baths=(MordantBath(kind="tannin", substance="tannin", dose_percent_wof=10,
                                    temperature_c=80, duration_min=60),),
                 note="For prints and iron."),
    MordantRoute(key="triformate-cold", name="Aluminium triformate, cold",
                 suits=ANIMAL + PLANT,
                 baths=(_alum(6.5, 20, 1440, substance="aluminium triformate"),),
                 note="One cold route for all."),
    MordantRoute(key="iron-mordant", name="Iron as mordant", suits=EVERY_CLASS,
                 baths=(MordantBath(kind="mordant", substance="iron(II) sulphate",
                                    dose_percent_wof=3, temperature_c=70, duration_min=60),),
                 note="Darkens before dyeing; keep apart from alum."),
)  # fmt: skip

DYE_LOTS = (
    DyeLot(key="fresh-leaves", name="Fresh leaves", part="leaf", state="fresh",
           strength_percent_wof=500, note="Up to 1000 % WOF."),
    DyeLot(key="dried-flowers", name="Dried flowers", part="flower", state="dried",
           strength_percent_wof=75, note="50 to 100 % WOF."),
    DyeLot(key="dried-bark", name="Dried bark", part="bark", state="dried",
           strength_percent_wof=150, duration_min=90, note="100 to 200 % WOF; try 1:1 beside 2:1."),
    DyeLot(key="dry-skins", name="Dry skins", part="skin", state="dried",
           strength_percent_wof=75, note="50 to 100 % WOF; ventilate."),
    DyeLot(key="dye-extract", name="Dye extract", part="extract", state="extract",
           strength_percent_wof=10, note="5 to 20 % WOF."),
)  # fmt: skip

STARTING_SHELF = Shelf(fibres=FIBRES, mordant_routes=MORDANT_ROUTES, dye_lots=DYE_LOTS)
REFUSED_MATERIALS = {
    "chromium": "Chromium salts can cause cancer, and their waste poisons water.",
    "tin": "Tin salts burn skin, make fibre brittle, and their waste harms water.",
    "lead": "Lead is poisonous in any amount, and builds up in the body.",
}
