"""Ratings by ISO 105-A05 and the arithmetic of trials."""

import numpy as np
import pytest
from pydantic import ValidationError
from tests.cloth_spectra import NM, dyed

from zesty_grid.core.fade.fade_points import StageReading, StageSpectrum, fade_points, with_standard_ratings
from zesty_grid.core.fade.grey_scale import GRADES, grey_scale_change, rating_of
from zesty_grid.core.fade.trial import TrialPlan
from zesty_grid.core.fade.trial_state import trial_state
from zesty_grid.core.read.difference_uncertainty import Seen
from zesty_grid.core.read.kubelka_munk import absorption_over_scattering, reflectance_of
from zesty_grid.core.read.spectra import spectrum_lab


# ISO 105-A05, limits of the grey-scale ratings; numbers from memory.
@pytest.mark.parametrize(
    ("limit", "below", "at"),
    [
        (0.40, "5", "4-5"),
        (1.25, "4-5", "4"),
        (2.10, "4", "3-4"),
        (2.95, "3-4", "3"),
        (4.10, "3", "2-3"),
        (5.80, "2-3", "2"),
        (8.20, "2", "1-2"),
        (11.60, "1-2", "1"),
    ],
)
def test_rating_at_and_around_each_limit(limit, below, at):
    assert rating_of(limit - 0.001) == below
    assert rating_of(limit) == at
    assert rating_of(limit + 0.001) == at


def test_no_change_is_rated_5_and_negative_differences_are_refused():
    assert grey_scale_change(np.array([50.0, 20, 20]), np.array([50.0, 20, 20])).rating == "5"
    with pytest.raises(ValueError, match="negative"):
        rating_of(-0.1)


# ISO 105-A02: CIELAB differences of the grey-scale pairs, from memory. For greys, ΔEF is ΔL*, so
# each pair must be rated as the step that it defines.
@pytest.mark.parametrize(
    ("difference", "rating"),
    [(0, "5"), (0.8, "4-5"), (1.7, "4"), (2.5, "3-4"), (3.4, "3"), (4.8, "2-3"), (6.8, "2"), (9.6, "1-2"), (13.6, "1")],
)
def test_the_grey_scale_rates_itself(difference, rating):
    grey = grey_scale_change(np.array([50.0, 0, 0]), np.array([50.0 + difference, 0, 0]))
    assert grey.def_a05 == pytest.approx(difference)
    assert grey.rating == rating


def test_chroma_and_hue_are_weighed_down_for_strong_colours():
    # By hand from the formula: CM 50, hM 90, so x is 40 and D is 0; ΔC 4 / (1 + 1²) = 2.
    found = grey_scale_change(np.array([60.0, 0, 48]), np.array([60.0, 0, 52]))
    assert found.def_a05 == pytest.approx(2.0, abs=1e-6)
    # Blue, hM 280, CM 50: D = 4 · 50 / 100 = 2, taken off ΔC and off ΔH alike:
    # √((2 / 2)² + (−2 / 1.25)²) = 1.8868.
    turn = np.array([0, np.cos(np.radians(280)), np.sin(np.radians(280))])
    blue = grey_scale_change(turn * 48 + [60, 0, 0], turn * 52 + [60, 0, 0])
    assert blue.def_a05 == pytest.approx(1.8868, abs=1e-4)


def test_hue_across_the_red_axis_does_not_jump():
    found = grey_scale_change(np.array([50.0, 30, -1]), np.array([50.0, 30, 1]))
    # ΔH is 2 and its weight 1 / (1 + 0.3²): by hand, a little under 1.84.
    assert found.def_a05 == pytest.approx(2 / 1.09, abs=0.02)


def trial(**changes) -> TrialPlan:
    plan = {
        "kind": "light",
        "name": "Window",
        "swatches": ["AAAA", "CCCC"],
        "stages": [{"label": "2 days", "days": 2, "dose_lxh": 2e5}, {"label": "8 days", "days": 8, "dose_lxh": 8e5}],
    }
    return TrialPlan.model_validate(plan | changes)


def found(plan, readings):
    """Fade points with the doses as they were planned."""
    doses = {one.index: one.dose for one in trial_state(plan, (), {}, {}).stages}
    return fade_points(plan, readings, doses)


def reading(piece, stage, lab, swatch="AAAA", photo=1):
    seen = Seen(lab=lab, photo=photo, capture=1, camera="A")
    return StageReading(swatch=swatch, piece=piece, stage=stage, seen=seen)


def test_a_zone_is_held_against_the_dark_zone_of_its_name():
    petal, leaf, mean = (50, 40, 10), (55, -20, 20), (70, 5, 15)
    readings = [
        reading("dark", 0, mean),
        reading("dark", 0, petal).model_copy(update={"zone": "Petal"}),
        reading("dark", 0, leaf).model_copy(update={"zone": "leaf"}),
        reading("light", 1, petal).model_copy(update={"zone": "petal"}),
        reading("light", 1, (65, -15, 20)).model_copy(update={"zone": "leaf"}),
        # Nobody read it dark: there is nothing to hold it against.
        reading("light", 1, (20, 0, 0)).model_copy(update={"zone": "line"}),
    ]
    points = {one.zone: one for one in found(trial(), readings)}
    assert set(points) == {"petal", "leaf"}
    assert points["petal"].difference.de00 == pytest.approx(0, abs=1e-9)
    assert points["leaf"].difference.de00 > 5


def test_each_exposed_piece_is_held_against_the_dark_piece_of_its_stage():
    readings = [
        reading("whole", None, (60, 10, 10)),
        reading("dark", 1, (61, 10, 10)),
        reading("light", 0, (62, 9, 10)),
        reading("light", 1, (70, 5, 10)),
        reading("wash", 1, (0, 0, 0)),
        reading("light", 1, (70, 5, 10), swatch="CCCC"),
    ]
    first, second = found(trial(), readings)
    assert (first.stage, first.dark_lab, first.dark_from_same_stage) == (0, (60, 10, 10), False)
    assert (second.stage, second.dark_lab, second.dark_from_same_stage) == (1, (61, 10, 10), True)
    assert second.dose == 8e5
    assert second.uncertainty_de00 > second.limit_de00 / 2 > 0.4
    assert second.distinguishable
    assert second.difference.dl == pytest.approx(9)


def test_several_readings_of_one_piece_at_one_stage_count_by_their_mean():
    readings = [
        reading("dark", 0, (60, 10, 10)),
        reading("light", 0, (65, 9, 10)),
        reading("light", 0, (67, 9, 10), photo=2),
    ]
    assert [p.exposed_lab for p in found(trial(), readings)] == [(66, 9, 10)]


def test_a_change_that_cannot_be_told_may_be_none_and_its_rating_is_a_range():
    same = [reading("dark", 0, (60, 10, 10)), reading("light", 0, (60.3, 10, 10))]
    (point,) = found(trial(), same)
    assert not point.distinguishable
    assert point.rating_words.startswith("5 to ")
    plain = [reading("dark", 0, (60, 10, 10)), reading("light", 0, (90, 1, 1))]
    (point,) = found(trial(), plain)
    assert point.distinguishable
    assert (point.rating, point.rating_words) == ("1", "1")


@pytest.mark.parametrize("doses", [(0,), (2e5, 2e5), (3e5, 1e5)])
def test_doses_must_grow(doses):
    with pytest.raises(ValidationError, match="must grow"):
        trial(stages=[{"label": f"{d}", "dose_lxh": d} for d in doses])


def test_fading_is_counted_for_each_trial_by_its_own_dose():
    stages = [{"label": f"{n}", "washes": n} for n in (1, 3)]
    wash = trial(kind="wash", stages=stages)
    readings = [
        reading("whole", None, (60, 10, 10)),
        reading("wash", 0, (61, 10, 10)),
        reading("wash", 1, (64, 9, 9)),
        reading("light", 1, (90, 0, 0)),
    ]
    points = found(wash, readings)
    assert [p.dose for p in points] == [1, 3]
    assert points[1].difference.de00 > points[0].difference.de00
    assert [p.rating for p in points] == ["4-5", "2-3"]


def test_an_exposed_piece_without_any_dark_one_gives_nothing():
    assert found(trial(), [reading("light", 0, (60, 1, 1))]) == []
    later = [reading("light", 0, (60, 1, 1)), reading("dark", 1, (60, 1, 1))]
    assert found(trial(), later) == []


def test_under_d65_and_10_degrees_ratings_move_by_half_a_step_at_most():
    """ISO 105-A05 asks for D65 and 10°. On simulated dyes that lose a part of their K/S."""
    rng = np.random.default_rng(1)
    white = 0.82 - 0.1 * np.exp(-(NM - 380) / 60)
    bare = absorption_over_scattering(white)
    moved = []
    for _ in range(150):
        dye = np.maximum(absorption_over_scattering(dyed(rng)) - bare, 0)
        left = rng.uniform(0.15, 0.97)
        rated = []
        for light, observer in (("D50", "2"), ("D65", "10")):
            dark, faded = (
                np.array(spectrum_lab(NM, reflectance_of(bare + k * dye), light, observer)) for k in (1, left)
            )
            rated.append(GRADES.index(grey_scale_change(dark, faded).rating))
        moved.append(abs(rated[1] - rated[0]))
    assert max(moved) <= 1
    assert np.mean(moved) < 0.06


def test_where_an_instrument_gave_spectra_the_standard_rating_is_told_too():
    plan = trial()
    readings = [reading("dark", 0, (60, 10, 10)), reading("light", 0, (66, 9, 9))]
    points = found(plan, readings)
    flat = tuple(float(v) for v in 0.28 + 0 * NM)
    paler = tuple(float(v) for v in 0.36 + 0 * NM)
    spectra = [StageSpectrum("AAAA", "dark", 0, tuple(NM), flat), StageSpectrum("AAAA", "light", 0, tuple(NM), paler)]
    (told,) = with_standard_ratings(points, spectra, "light")
    # By hand: greys of Y 0.28 and 0.36 are L* 59.9 and 66.5; a difference of 6.6 is rated 2.
    assert told.standard_rating == "2"
    assert with_standard_ratings(points, spectra[:1], "light")[0].standard_rating is None
