"""Zones of a cloth are known again by colour and place; what is like none of them has no name."""

from zesty_grid.core.read.measurement import CellMeasurement, ZoneMeasurement
from zesty_grid.core.read.uncertainty import UncertaintyParts
from zesty_grid.core.read.zone_names import is_named, known_zone, names_by_likeness

PARTS = UncertaintyParts(chart_de00=0.5, light_de00=0.1, evenness_de00=0.1)


def zone(number: int, lab: tuple[float, float, float], x: float, y: float) -> ZoneMeasurement:
    square = ((x, y), (x + 20, y), (x + 20, y + 20), (x, y + 20))
    return ZoneMeasurement(
        zone=str(number),
        share=0.3,
        lab=lab,
        hex="#888888",
        colour_words="",
        levelness_de00=0.2,
        uncertainty_de00=0.6,
        parts=PARTS,
        outline_px=square,
    )


def cell(*zones: ZoneMeasurement) -> CellMeasurement:
    return CellMeasurement(cell="A1", status="measured", zones=zones)


FRESH = cell(zone(1, (80, 0, 20), 0, 0), zone(2, (40, 30, 20), 80, 0), zone(3, (60, -20, 20), 0, 80))
KNOWN = [known_zone(name, FRESH, FRESH.zones[i]) for i, name in enumerate(("ground", "petal", "leaf"))]


def test_faded_zones_of_a_larger_photo_in_another_order_have_their_names():
    # Twice as large, moved, and paler: the order of zones is by size, which may change.
    later = cell(zone(1, (66, -9, 17), 300, 460), zone(2, (82, 0, 15), 300, 300), zone(3, (56, 16, 14), 460, 300))
    assert names_by_likeness(later, KNOWN) == {"1": "leaf", "2": "ground", "3": "petal"}


def test_each_name_is_given_once_and_a_stranger_has_none():
    strange = cell(*FRESH.zones, zone(4, (20, 0, -40), 80, 80))
    assert names_by_likeness(strange, KNOWN) == {"1": "ground", "2": "petal", "3": "leaf"}
    assert names_by_likeness(FRESH, []) == {}


def test_a_number_is_no_name():
    assert is_named("halo of the leaf")
    assert not is_named("zone 2")
    assert not is_named("")
