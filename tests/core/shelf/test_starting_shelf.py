"""The Shelf to start with, against the numbers of common practice, and what it refuses."""

import pytest
from pydantic import ValidationError
from tests.small_study import small_plan

from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.in_use import uses_of
from zesty_grid.core.shelf.items import BlendPart, DyeLot, Fibre, MixturePart, Substance, Water
from zesty_grid.core.shelf.mixtures import parts_of_lot
from zesty_grid.core.shelf.refused_materials import refuse_materials
from zesty_grid.core.shelf.shelf import Shelf
from zesty_grid.core.shelf.starting_shelf import MORDANT_ROUTES, STARTING_SHELF

# Route, lowest and highest dose in % WOF, lowest and highest °C, shortest and longest time in
# minutes: common practice of the trade, no published source.
ROUTES = [
    ("alum-hot", 10, 20, 80, 85, 45, 60),
    ("alum-tartar-hot", 10, 10, 80, 85, 45, 45),
    ("alum-cold", 10, 20, 15, 25, 24 * 60, 72 * 60),
    ("alum-sulphate", 15, 16, 80, 85, 60, 60),
    ("alum-acetate", 5, 8, 40, 50, 60, 120),
    ("tannin-alum", 8, 10, 50, 60, 60, 60),
    ("tannin", 10, 10, 60, 95, 60, 60),
    ("triformate-cold", 5, 8, 15, 25, 24 * 60, 24 * 60),
    ("iron-mordant", 2, 6, 60, 80, 60, 60),
]


@pytest.mark.parametrize(("key", "low", "high", "cool", "hot", "short", "long"), ROUTES)
def test_routes_stay_within_common_practice(key, low, high, cool, hot, short, long):
    bath = STARTING_SHELF.mordant_route(key).baths[0]
    assert low <= bath.dose_percent_wof <= high
    assert cool <= bath.temperature_c <= hot
    assert short <= bath.duration_min <= long


def test_the_assist_of_alum_and_cream_of_tartar():
    bath = STARTING_SHELF.mordant_route("alum-tartar-hot").baths[0]
    assert (bath.assist, bath.assist_percent_wof) == ("cream of tartar", 7)


def test_sulphates_are_for_protein_and_acetate_for_cellulose():
    for key in ("alum-hot", "alum-tartar-hot", "alum-cold", "alum-sulphate"):
        suits = STARTING_SHELF.mordant_route(key).suits
        assert "protein" in suits
        assert "cellulose" not in suits
    for key in ("alum-acetate", "tannin-alum", "soya-milk"):
        suits = STARTING_SHELF.mordant_route(key).suits
        assert "cellulose" in suits
        assert "protein" not in suits
    both = STARTING_SHELF.mordant_route("triformate-cold").suits
    assert {"protein", "cellulose"} <= set(both)


# Strength in g of dye stuff for 100 g of fibre, lowest and highest: common practice.
STRENGTHS = [
    ("fresh-leaves", 100, 1000),
    ("fresh-flowers", 100, 300),
    ("dried-flowers", 50, 100),
    ("dried-seeds", 200, 200),
    ("dried-bark", 100, 200),
    ("dry-skins", 50, 100),
    ("insect-dye", 5, 15),
    ("dye-extract", 5, 20),
]


@pytest.mark.parametrize(("key", "low", "high"), STRENGTHS)
def test_dye_lots_stay_within_common_practice(key, low, high):
    assert low <= STARTING_SHELF.dye_lot(key).strength_percent_wof <= high


# Grams in a level teaspoon: common practice.
@pytest.mark.parametrize(
    ("name", "grams"),
    [("potassium alum", 5), ("cream of tartar", 3), ("iron(II) sulphate", 5), ("soda ash", 5), ("citric acid", 5)],
)
def test_spoon_weights(name, grams):
    assert STARTING_SHELF.substance_named(name).teaspoon_g == grams


def test_every_item_has_a_source_and_every_substance_of_a_route_is_there():
    for field in Shelf.model_fields:
        for item in getattr(STARTING_SHELF, field):
            assert item.source
    for route in MORDANT_ROUTES:
        for bath in route.baths:
            assert STARTING_SHELF.substance_named(bath.substance)
            assert bath.assist is None or STARTING_SHELF.substance_named(bath.assist)


def test_keys_are_unique_within_their_kind():
    for field in Shelf.model_fields:
        keys = [item.key for item in getattr(STARTING_SHELF, field)]
        assert len(set(keys)) == len(keys)


@pytest.mark.parametrize(
    "name", ["Tin", "stannous chloride", "Chrome mordant", "sodium dichromate", "Lead acetate", "LITHARGE"]
)
def test_chromium_tin_and_lead_are_refused_by_any_of_their_names(name):
    with pytest.raises(Refusal, match="is not planned here"):
        refuse_materials(Substance(key="x", name=name, role="mordant"))


@pytest.mark.parametrize("name", ["Tinted water", "Leadwort roots", "Iron tannate", "Copper"])
def test_names_that_only_sound_alike_are_not_refused(name):
    refuse_materials(DyeLot(key="x", name=name))


def test_blends_and_mixtures_add_up_to_a_hundred():
    half = BlendPart(fibre_class="protein", percent=50)
    blend = Fibre(
        key="x", name="X", fibre_class="protein", blend=(half, BlendPart(fibre_class="cellulose", percent=50))
    )
    assert blend.classes == {"protein", "cellulose"}
    with pytest.raises(ValidationError, match="add up to 100"):
        Fibre(key="x", name="X", fibre_class="protein", blend=(half,))
    with pytest.raises(ValidationError, match="add up to 100"):
        DyeLot(key="x", name="X", mixture=(MixturePart(lot="a", percent=40),))
    with pytest.raises(ValidationError, match="part of itself"):
        DyeLot(key="x", name="X", mixture=(MixturePart(lot="x", percent=100),))


def test_a_mixture_is_taken_apart_and_one_with_a_lost_part_is_not():
    a, b = DyeLot(key="a", name="A"), DyeLot(key="b", name="B")
    parts = (MixturePart(lot="a", percent=30), MixturePart(lot="b", percent=70))
    mixed = DyeLot(key="m", name="M", mixture=parts)
    whole = Shelf(dye_lots=(a, b, mixed))
    assert [(lot.key, grams) for lot, grams in parts_of_lot(mixed, 200, whole)] == [
        ("a", pytest.approx(60)),
        ("b", pytest.approx(140)),
    ]
    assert parts_of_lot(mixed, 200, Shelf(dye_lots=(a, mixed))) == [(mixed, 200)]


def test_the_finest_scale_and_the_first_water_are_taken_unless_one_is_chosen():
    assert STARTING_SHELF.scale(None).resolution_g == 0.01
    assert STARTING_SHELF.scale("kitchen-scale").resolution_g == 1
    assert STARTING_SHELF.scale("gone").resolution_g == 0.01
    assert STARTING_SHELF.water(None).key == "tap"
    retired = tuple(w.model_copy(update={"retired": True}) for w in STARTING_SHELF.waters)
    assert STARTING_SHELF.model_copy(update={"waters": retired}).water(None) is None
    assert Shelf().scale(None) is None


def test_uses_are_found_in_plans_and_in_mixtures():
    plan = StudyPlan.model_validate(small_plan(water="rain", acid="vinegar"))
    mixed = DyeLot(key="m", name="Mixed", mixture=(MixturePart(lot="dried-bark", percent=100),))
    shelf = STARTING_SHELF.model_copy(update={"dye_lots": (*STARTING_SHELF.dye_lots, mixed)})
    assert uses_of("fibre", "wool", [plan], shelf) == ["“Small”"]
    assert uses_of("mordant_route", "alum-hot", [plan], shelf) == ["“Small”"]
    assert uses_of("water", "rain", [plan], shelf) == ["“Small”"]
    assert uses_of("substance", "vinegar", [plan], shelf) == ["“Small”"]
    assert uses_of("dye_lot", "dried-bark", [plan], shelf) == ["Mixed"]
    assert uses_of("fibre", "silk", [plan], shelf) == []
    assert uses_of("vessel", "pot-5", [plan], shelf) == []


@pytest.mark.parametrize("change", [{"ph": 2}, {"alkalinity_mg_l_caco3": -1}, {"hardness": 3}])
def test_water_that_cannot_be_is_refused(change):
    with pytest.raises(ValidationError):
        Water.model_validate({"key": "w", "name": "W"} | change)
