"""Pieces of unlike mass: their own masses, larger pieces in the pots, and the vessels for them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.small_study import planned, small_plan

from zesty_grid.core.plan.filling import VesselKind, fewest_for_unlike
from zesty_grid.core.plan.masses import OwnMass, own_mass_g
from zesty_grid.core.plan.study_plan import StudyPlan
from zesty_grid.core.plan.vessels import vessels_of
from zesty_grid.core.weigh.amounts import weigh_vessel
from zesty_grid.core.weigh.cut_list import cut_list

WOOL_ALUM = {"fibre": "wool", "mordant": "alum-hot", "dye": "dried-flowers", "ph": "ph-4", "iron": "iron-0"}


def study_with(**changes):
    return planned(StudyPlan.model_validate(small_plan(**changes)))


def test_the_mass_that_names_most_counts():
    own = (
        OwnMass(fibre="silk", mass_g=2),
        OwnMass(control="undyed", mass_g=1),
        OwnMass(fibre="silk", control="undyed", mass_g=0.5),
    )
    assert own_mass_g(own, "wool", None, 5) == 5
    assert own_mass_g(own, "silk", None, 5) == 2
    assert own_mass_g(own, "wool", "undyed", 5) == 1
    assert own_mass_g(own, "silk", "undyed", 5) == 0.5


def test_controls_and_fibres_may_weigh_otherwise_and_all_weights_follow():
    study = study_with(own_masses=[{"fibre": "cotton", "mass_g": 9}, {"control": "undyed", "mass_g": 1}])
    masses = {(s.fibre, s.control): s.mass_g for s in study.swatches}
    assert masses["wool", None] == 6
    assert masses["cotton", None] == 9
    assert masses["wool", "undyed"] == 1
    alum = next(vessel for vessel in vessels_of(study) if vessel.name == "M1")
    # Four of wool and four of cotton with alum: 4 × 6 g + 4 × 9 g.
    assert alum.dry_fibre_g == 60
    assert set(alum.fibre_words.split(" = ")[0].split(" + ")) == {"4 swatches × 6 g", "4 swatches × 9 g"}
    weighed = weigh_vessel(study.plan, alum, study.shelf)
    figure = next(f for f in weighed.figures if f.role == "mordant")
    assert figure.grams == pytest.approx(0.15 * 60)
    assert cut_list(study).grams == sum(s.mass_g for s in study.swatches)


def test_a_full_skein_stays_in_the_pot_and_counts_in_weights_and_water():
    skein = {"key": "skein", "name": "Full skein", "mass_g": 100, "levels": WOOL_ALUM}
    plain, with_skein = study_with(), study_with(larger_pieces=[skein])
    code = next(s.code for s in with_skein.swatches if s.larger)

    def bath(study, name):
        return next(vessel for vessel in vessels_of(study) if vessel.name == name)

    for name in ("M1", "D1"):
        before, after = bath(plain, name), bath(with_skein, name)
        assert code in after.swatches
        assert after.dry_fibre_g == before.dry_fibre_g + 100
        assert after.volume_ml == before.volume_ml + 100 * plain.plan.liquor_ratio_ml_per_g
    assert code not in bath(with_skein, "D2").swatches


@given(
    st.lists(st.floats(1, 200), min_size=1, max_size=30),
    st.lists(st.tuples(st.floats(200, 2000), st.integers(1, 3)), min_size=1, max_size=4),
)
def test_unlike_pieces_fit_and_none_is_left_out(volumes, shelf):
    kinds = [VesselKind(f"k{i}", room, count) for i, (room, count) in enumerate(shelf)]
    found = fewest_for_unlike(volumes, kinds)
    room = {kind.key: kind.room_ml for kind in kinds}
    assert sorted(i for _, inside in found for i in inside) == list(range(len(volumes)))
    assert all(sum(volumes[i] for i in inside) <= room[key] * 1.0001 for key, inside in found)
    # No more than twice what the largest vessels alone would need, and one: any vessel but the
    # last of a kind is more than half full, or a piece could have gone into it.
    fewest = -(-sum(volumes) // min(room.values()))
    assert len(found) <= 2 * fewest + 1


def test_a_piece_that_fits_into_nothing_is_said():
    assert fewest_for_unlike([500.0], [VesselKind("jar", 400, 3)]) == []
