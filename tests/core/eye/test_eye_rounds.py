"""The trainer for the eye: its tasks are what they say, and it finds an eye that is known."""

import numpy as np
import pytest
from tests.depth import depth

from zesty_grid.core.eye.judging import Judged, judge, just_noticeable
from zesty_grid.core.eye.tasks import MADE_UP, ROUND, STEPS_DE00, make_round
from zesty_grid.core.fade.grey_scale import def_a05, rating_of
from zesty_grid.core.read.colour_difference import delta_e_2000
from zesty_grid.core.read.colour_space import hex_to_lab, lab_to_hex, lab_to_lch

pytestmark = pytest.mark.slow


def tasks(kind: str, rounds: int = depth(2, 6)):
    return [one for seed in range(rounds) for one in make_round(seed) if one.kind == kind]


def test_a_round_has_every_kind_and_is_the_same_for_the_same_seed():
    made = make_round(7)
    assert [one.kind for one in made] == list(ROUND)
    assert made == make_round(7)
    assert made != make_round(8)


def test_pairs_are_as_far_apart_as_they_say_and_the_right_one_is_right():
    for task in tasks("which"):
        labs = [hex_to_lab(chip.lstrip("#")) for chip in task.chips]
        assert float(delta_e_2000(*labs)) == pytest.approx(task.de00)
        # A screen has 256 steps a channel: up to about half a ΔE00 off what was wanted.
        assert min(abs(task.de00 - step) for step in STEPS_DE00) < 0.6
        right, other = labs[task.right[0]], labs[1 - task.right[0]]
        if task.de00 < 2:
            continue
        if "lighter" in task.asks:
            assert right[0] > other[0]
        elif "yellower" in task.asks:
            assert right[2] > other[2]
        else:
            assert lab_to_lch(right)[1] < lab_to_lch(other)[1]


def test_grades_are_those_of_the_formula():
    """ISO 105-A05, of the colours that are really shown."""
    for task in tasks("grey"):
        labs = [hex_to_lab(chip.lstrip("#")) for chip in task.chips]
        assert rating_of(float(def_a05(*labs))) == task.grade


def test_a_ladder_runs_from_dark_to_light_in_the_order_that_is_right():
    for task in tasks("ladder"):
        lightness = [hex_to_lab(task.chips[place].lstrip("#"))[0] for place in task.right]
        assert sorted(lightness) == lightness
        assert len(set(task.chips)) == 5


def test_the_uneven_piece_and_the_damp_one_lie_where_they_are_said_to():
    for task in tasks("uneven"):
        assert 0 <= task.right[0] < 4
        assert task.blotch not in task.chips
    for task in tasks("damp"):
        dry, damp = (hex_to_lab(task.chips[i].lstrip("#")) for i in (0, task.right[0]))
        assert damp[0] < dry[0] - 3


def test_own_colours_are_used_where_a_screen_can_show_them():
    own = [(60.0, 10.0, 30.0), (99.0, 0.0, 90.0)]
    shown = {chip for seed in range(3) for one in make_round(seed, own) for chip in one.chips}
    assert lab_to_hex(np.array(own[0])) in shown
    assert lab_to_hex(np.array(MADE_UP[5])) not in shown
    assert make_round(1, [own[1]]) == make_round(1)


@pytest.mark.parametrize("threshold", [0.8, 1.6, 3.0])
def test_a_known_eye_is_found_within_the_limits_that_are_said(threshold):
    """An observer by the same published function (Quick 1974): right in 75 % at the threshold."""
    rng = np.random.default_rng(int(10 * threshold))
    inside, found = 0, []
    for _ in range(60):
        de00 = rng.permutation(np.tile(STEPS_DE00, 3))
        chance = 0.5 + 0.5 * (1 - np.exp(-np.log(2) * (de00 / threshold) ** 2))
        middle, low, high = just_noticeable(de00, rng.uniform(size=len(de00)) < chance)
        inside += low <= threshold <= high
        found.append(middle)
    assert np.median(found) == pytest.approx(threshold, rel=0.25)
    assert inside >= 50


def test_a_sharp_eye_and_a_guessing_one_are_told_apart():
    de00 = np.tile(STEPS_DE00, 3)
    sharp = just_noticeable(de00, np.ones(len(de00), dtype=bool))
    guessing = just_noticeable(de00, np.arange(len(de00)) % 2 == 0)
    assert sharp[0] < 0.6
    told = judge([Judged(kind="which", de00=one, right=True) for one in STEPS_DE00])
    assert "You tell two colours apart that are less than" in told.words[0]
    assert guessing[0] > 5
    assert guessing[1] > 2


def test_which_way_ratings_lean_is_said_in_grades():
    mild = [Judged(kind="grey", de00=4, grade="3", said=said) for said in ("3-4", "4", "3-4", "4")]
    result = judge(mild)
    assert result.bias_grades == pytest.approx(0.75)
    assert any("milder than the formula, by 0.8" in words for words in result.words)
    assert judge(mild[:2]).bias_grades is None
    assert result.jnd_de00 is None
    even = [Judged(kind="grey", de00=4, grade="3", said=said) for said in ("3", "3-4", "2-3", "3")]
    assert "You rate fading as the formula does." in judge(even).words
