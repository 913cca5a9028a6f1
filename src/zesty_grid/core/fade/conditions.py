"""Conditions of washing and of other wettings, by name.

Source: ISO 105-C06 (A1S, B2S, C2S), ISO 105-X12 for rubbing, ISO 105-E04 for sweat; all from
memory. A gentle wash at home is common practice, and counted apart from these.
"""

from typing import Annotated, Literal

from pydantic import Field

from zesty_grid.core.frozen import Frozen

Drying = Literal["flat", "hung", "tumbled", "not noted"]


class Conditions(Frozen):
    """What is done once at each count: a wash, a rubbing, a wetting."""

    name: Annotated[str, Field(min_length=1, max_length=60)]
    temperature_c: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] | None = None
    minutes: Annotated[float, Field(ge=0, le=1440, allow_inf_nan=False)] | None = None
    ph: Annotated[float, Field(ge=0, le=14, allow_inf_nan=False)] | None = None
    soap: Annotated[str, Field(max_length=60)] = ""
    by: Literal["hand", "machine", "apparatus"] = "hand"
    dried: Drying = "flat"
    note: Annotated[str, Field(max_length=200)] = ""


KNOWN_CONDITIONS = {
    "wash": (
        Conditions(name="Gentle hand wash", temperature_c=30, minutes=10, soap="neutral soap"),
        Conditions(name="Home wash, wool cycle", temperature_c=30, minutes=35, by="machine", soap="neutral detergent"),
        Conditions(
            name="ISO 105-C06 A1S",
            temperature_c=40,
            minutes=30,
            by="apparatus",
            soap="reference detergent",
            note="10 steel balls",
        ),
        Conditions(
            name="ISO 105-C06 B2S",
            temperature_c=50,
            minutes=30,
            by="apparatus",
            soap="reference detergent with perborate",
            note="25 steel balls",
        ),
        Conditions(
            name="ISO 105-C06 C2S",
            temperature_c=60,
            minutes=30,
            by="apparatus",
            soap="reference detergent with perborate",
            note="25 steel balls",
        ),
    ),
    "rub": (
        Conditions(name="ISO 105-X12, dry", note="ten strokes, 9 N"),
        Conditions(name="ISO 105-X12, wet", note="ten strokes, 9 N; cloth wetted with its weight"),
    ),
    "sweat": (
        Conditions(name="ISO 105-E04, acid", ph=5.5, temperature_c=37, minutes=240),
        Conditions(name="ISO 105-E04, alkaline", ph=8.0, temperature_c=37, minutes=240),
    ),
    "light": (),
    "store": (Conditions(name="Dark drawer", note="wrapped in acid-free tissue"),),
}
