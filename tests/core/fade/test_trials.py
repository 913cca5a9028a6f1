"""Trials: stages as planned and as they really were, what lasts, proposals, and cards."""

from datetime import date, datetime, timedelta

import numpy as np
import pytest
from pydantic import ValidationError

from zesty_grid.core.fade.fade_points import FadePoint, StageReading, fade_points, stain_points
from zesty_grid.core.fade.lasting import trial_fading
from zesty_grid.core.fade.lasting_effects import lasting_by_factor
from zesty_grid.core.fade.life import aged, life_in_place, yearly_light
from zesty_grid.core.fade.light_record import Lamp, LightSample
from zesty_grid.core.fade.mounting_card import CARD_MM, lay_out_cards
from zesty_grid.core.fade.stage_advice import advise_stages
from zesty_grid.core.fade.swatch_fading import swatches_fading
from zesty_grid.core.fade.trial import MULTIFIBRE, StagePlan, TrialPlan, WoolBeside
from zesty_grid.core.fade.trial_choice import Candidate, propose_swatches
from zesty_grid.core.fade.trial_entry import (
    LampLight,
    LightSaid,
    LoggerLight,
    StageAdded,
    StageDone,
    StageLeftOut,
    Turned,
    WindowLight,
)
from zesty_grid.core.fade.trial_paths import changes_by_swatch, paths_of_trial, work_ahead
from zesty_grid.core.fade.trial_state import trial_state
from zesty_grid.core.fade.window import Window
from zesty_grid.core.read.difference_uncertainty import Seen
from zesty_grid.core.shelf.light_place import KNOWN_PLACES, LightPlace

START = date(2026, 6, 1)
LAMP = LightSaid(sources=(LampLight(lamp=Lamp(lux=10_000, hours_a_day=10)),))


def doubling(count: int) -> list[dict[str, object]]:
    """Each stage at twice the one before (common practice)."""
    return [{"label": f"{2**n} days", "days": 2**n} for n in range(count)]


def plan(**changes) -> TrialPlan:
    usual = {"kind": "light", "name": "Lamp", "swatches": ["AAAA", "CCCC"], "starts_on": START, "stages": doubling(5)}
    return TrialPlan.model_validate(usual | changes)


def test_stages_are_geometric_and_due_by_their_days():
    state = trial_state(plan(), [LAMP], {}, {})
    assert [stage.plan.days for stage in state.stages] == [1, 2, 4, 8, 16]
    assert [stage.due_on for stage in state.stages] == [START + timedelta(days=d) for d in (1, 2, 4, 8, 16)]


def test_a_stage_in_store_counts_the_days_that_it_really_lay():
    store = plan(kind="store", stages=[{"label": "1 day", "days": 1}, {"label": "30 days", "days": 30}])
    state = trial_state(store, [], {0: START + timedelta(2)}, {})
    assert [stage.dose.dose for stage in state.stages] == [2, 30]


def test_a_late_stage_has_the_dose_that_it_really_had():
    read_on = {0: START + timedelta(1), 1: START + timedelta(5)}
    state = trial_state(plan(), [LAMP], read_on, {})
    # By hand: 10 h at 10 klx a day, for one day, and for five instead of two.
    assert [stage.dose.dose for stage in state.stages[:2]] == [100_000, 500_000]
    assert state.stages[1].dose.low < 500_000 < state.stages[1].dose.high
    noted = trial_state(plan(), [LAMP, StageDone(stage=1, on=START + timedelta(3))], read_on, {})
    assert noted.stages[1].dose.dose == 300_000
    assert state.stages[2].dose is None


def test_a_log_in_watts_leaves_the_dose_more_open_than_one_in_lux():
    start = datetime(2026, 6, 1)
    samples = [LightSample(at=start + timedelta(hours=n), lux=500) for n in range(49)]
    widths = []
    for watts in (False, True):
        light = LightSaid(sources=(LoggerLight(log=1, watts=watts),))
        state = trial_state(plan(), [light], {0: START + timedelta(1)}, {1: samples})
        dose = state.stages[0].dose
        widths.append(dose.high - dose.low)
    assert widths[1] > 1.5 * widths[0]


def test_stages_are_left_out_and_added_and_what_is_read_stays():
    entries = [
        LAMP,
        StageLeftOut(stage=3),
        StageLeftOut(stage=0),
        Turned(on=START),
        StageAdded(stage=StagePlan(label="12 days", days=12)),
    ]
    state = trial_state(plan(), entries, {0: START + timedelta(1)}, {})
    assert [stage.left_out for stage in state.stages] == [False, False, False, True, False, False]
    assert state.stages[5].due_on == START + timedelta(12)
    assert state.turned_on == (START,)
    again = trial_state(plan(), [*entries, StageLeftOut(stage=3, left_out=False)], {}, {})
    assert not again.stages[3].left_out


def test_a_stage_by_dose_is_due_when_the_window_has_given_it():
    window = LightSaid(sources=(WindowLight(latitude=50, longitude=8, sky="clear"),))
    stages = [StagePlan(label="1 Mlx·h", dose_lxh=1e6), StagePlan(label="2", dose_lxh=2e6)]
    state = trial_state(plan(stages=stages), [window], {}, {})
    first, second = (stage.due_on for stage in state.stages)
    assert START < first < second < START + timedelta(14)
    assert trial_state(plan(stages=stages), [], {}, {}).stages[0].dose.source == "as planned"


@pytest.mark.parametrize(
    "wrong",
    [
        {"kind": "wash", "mount": "half covered"},
        {"neighbours": ["cotton"]},
        {"stages": [{"label": "x"}]},
        {"wools": [{"number": 9, "cloth": "x"}]},
        {"wools": [{"number": 1, "cloth": "x"}, {"number": 1, "cloth": "y"}]},
    ],
)
def test_what_is_no_trial_is_refused(wrong):
    with pytest.raises(ValidationError):
        plan(**wrong)


def seen(piece, stage, lab, zone="", swatch="AAAA"):
    return StageReading(
        swatch=swatch, piece=piece, stage=stage, zone=zone, seen=Seen(lab=lab, photo=stage or 0, capture=1, camera="A")
    )


def test_each_step_of_a_strip_has_the_light_since_it_was_uncovered():
    strip = plan(mount="strip", stages=doubling(3))
    read_on = {n: START + timedelta(2**n) for n in range(3)}
    doses = {s.index: s.dose for s in trial_state(strip, [LAMP], read_on, {}).stages}
    readings = [seen("dark", 2, (50, 30, 20))]
    readings += [seen("light", 2, (50 + n, 30, 20), f"step {n}") for n in (1, 2, 3)]
    found = {p.zone: p.dose for p in fade_points(strip, readings, doses)}
    # All four days; less the first day; less the first two.
    assert found == {"step 1": 400_000, "step 2": 300_000, "step 3": 200_000}


def test_a_piece_that_lay_the_other_way_round_is_found():
    halves = plan(mount="half covered")
    dark, faded = (40, 35, 20), (60, 15, 12)
    readings = [seen("whole", None, dark), seen("dark", 0, faded), seen("light", 0, dark)]
    (point,) = fade_points(halves, readings, {0: None})
    assert point.turned_round
    assert changes_by_swatch([point]) == {}
    right = [seen("whole", None, dark), seen("dark", 0, dark), seen("light", 0, faded)]
    assert not fade_points(halves, right, {0: None})[0].turned_round
    # A change of 5 L* is plainly more than reading leaves open in one camera and light.
    little = (45, 35, 20)
    turned = [seen("whole", None, dark), seen("dark", 0, little), seen("light", 0, dark)]
    assert fade_points(halves, turned, {0: None})[0].turned_round


def test_neighbours_are_rated_against_their_clean_selves():
    clean = [seen("neighbour", None, (92, 0, 2), fibre, "CCCC") for fibre in MULTIFIBRE]
    after = [seen("neighbour", 0, (92, 0, 2), "polyester"), seen("neighbour", 0, (75, 0, 2), "wool")]
    found = {one.neighbour: one for one in stain_points([*clean, *after])}
    assert found["wool"].rating == "2"  # ISO 105-A03: a difference of 16.9 is step 2, from memory
    assert not found["polyester"].distinguishable
    assert found["polyester"].rating == "5"
    assert stain_points(after) == []


def point(swatch, stage, dose, lab, dark=(45, 40, 20)) -> FadePoint:
    (found,) = fade_points(
        plan(swatches=[swatch]),
        [seen("dark", stage, dark, swatch=swatch), seen("light", stage, lab, swatch=swatch)],
        {},
    )
    return found.model_copy(update={"dose": dose})


def fading(swatch, size, stages=4):
    doses = [1e5 * 2**n for n in range(stages)]
    way = np.array([40, -38, -10]) * size
    return [
        point(swatch, n, d, tuple(np.array([45, 40, 20]) + way * (1 - np.exp(-2 * d / doses[-1]))))
        for n, d in enumerate(doses)
    ]


def test_swatches_come_from_what_lasts_best_and_real_gaps_are_told_from_chance():
    points = [*fading("FAST", 0.5), *fading("SLOW", 0.04), *fading("SAME", 0.045)]
    paths = paths_of_trial(points, dict.fromkeys(("FAST", "SLOW", "SAME"), "dye"))
    found = trial_fading("light", points, paths)
    order = [one.swatch for one in found.order]
    assert order[-1] == "FAST"
    assert set(order[:2]) == {"SLOW", "SAME"}
    assert [gap.real for gap in found.gaps] == [False, True]
    told = swatches_fading("light", points, paths, order, uv=True)
    fast = told[-1]
    assert fast.at_last.de00 == found.order[-1].de00
    assert fast.thresholds["plain"].dose < 3e5
    assert fast.curve[-1].beyond
    assert not fast.curve[1].beyond
    assert fast.fastness.words == "below 1"
    lasts = told[0]
    assert lasts.thresholds["rating_2"].dose is None


def test_swatches_of_one_dye_lend_each_other_the_shape_of_their_fading():
    doses = 1e5 * 2.0 ** np.arange(4)
    alone, shared = {}, {}
    for group in (alone, shared):
        names = ["AAAA", "CCCC", "EEEE", "FFFF"]
        points = [p for n, name in enumerate(names) for p in fading(name, 0.3 + 0.05 * n)]
        groups = {name: "one" if group is shared else name for name in names}
        group.update(paths_of_trial(points, groups))
    far = 2 * doses[-1]

    def width(paths):
        low, high = np.percentile(np.linalg.norm(paths.change(np.array([far]))[:, 0], axis=1), [5, 95])
        return high - low

    assert width(shared["AAAA"]) < width(alone["AAAA"])


def test_no_colour_fades_past_white_cloth_however_far_one_looks():
    points = fading("FAST", 0.9)
    paths = paths_of_trial(points, {})
    (old,) = aged(paths, 1e12)
    assert old.too_far
    assert old.lab[0] <= 95
    assert max(abs(old.lab[1]), abs(old.lab[2])) < 60
    (today,) = aged(paths, 0)
    assert today.de00 == 0
    assert today.hex == today.hex_today


def test_years_in_a_place_are_the_dose_over_its_yearly_light():
    points = fading("FAST", 0.5)
    paths = paths_of_trial(points, {})
    museum = next(one for one in KNOWN_PLACES if one.key == "museum")
    # A gallery: 50 lx for 3000 h is 0.15 Mlx·h a year (CIE 157, from memory).
    assert yearly_light(museum).dose_lxh == pytest.approx(0.15e6)
    life = life_in_place(museum, paths, trial_uv=True)
    plain = paths["FAST"].thresholds["plain"]
    years = life.years["FAST"]["plain"]
    assert years.middle == pytest.approx(plain.dose / 0.15e6)
    assert years.low < years.middle < years.high
    # The place's own range widens the limits.
    assert years.high / years.middle > plain.high / plain.dose
    assert "ultraviolet" in life.warnings[0]
    shady = LightPlace(key="x", name="X", window=Window(faces_deg=0, glass="uv-filter"))
    assert (
        1e6
        < yearly_light(shady).dose_lxh
        < yearly_light(shady.model_copy(update={"window": Window(faces_deg=180)})).dose_lxh
    )


def test_which_factor_makes_it_last_is_told_with_its_error():
    rng = np.random.default_rng(3)
    levels, changes = {}, {}
    for n in range(24):
        own = {"dye": "berry" if n % 2 else "bark", "fibre": ["wool", "silk", "linen"][n % 3]}
        levels[f"S{n}"] = own
        changes[f"S{n}"] = (9.0 if own["dye"] == "berry" else 2.0) + rng.normal(0, 0.8)
    dye, fibre = lasting_by_factor(changes, levels, {})
    assert dye.words == "bark lasts better than berry."
    assert dye.levels[1].change_de00 == pytest.approx(9, abs=0.6)
    assert fibre.words == "No difference that can be told."
    assert lasting_by_factor({"S0": 1.0}, levels, {}) == []
    # The same, by ordinary least squares of an independent package.
    sm = pytest.importorskip("statsmodels.formula.api")
    frame = {
        "y": list(changes.values()),
        "dye": [levels[s]["dye"] for s in changes],
        "fibre": [levels[s]["fibre"] for s in changes],
    }
    pd = pytest.importorskip("pandas")
    fit = sm.ols("y ~ dye + fibre", pd.DataFrame(frame)).fit()
    apart = dye.levels[1].change_de00 - dye.levels[0].change_de00
    assert apart == pytest.approx(fit.params["dye[T.berry]"], abs=1e-6)


def test_a_proposal_holds_every_level_before_it_repeats_one():
    grid = [
        Candidate(f"{d}{m}{i}", {"dye": d, "mordant": m, "iron": i}, False) for d in "abc" for m in "xy" for i in "01"
    ]
    found = propose_swatches([*grid, Candidate("ctrl", {"fibre": "w"}, True)], 5)
    chosen = [one for one in grid if one.swatch in found.swatches]
    assert {one.levels["dye"] for one in chosen} == set("abc")
    assert {one.levels["mordant"] for one in chosen} == set("xy")
    assert len(set(found.swatches)) == 5
    few = propose_swatches(grid, 1)
    assert few.levels_covered < few.levels
    assert "not among them" in few.words


def test_a_stage_that_says_nothing_new_is_proposed_to_be_left_out():
    still = [point("SLOW", n, 1e5 * 2**n, (45.1, 40, 20)) for n in range(4)]
    paths = paths_of_trial(still, {})
    read_on = {n: START + timedelta(2**n) for n in range(3)}
    state = trial_state(plan(), [LAMP], read_on, {})
    advice = advise_stages(plan(), state, paths)
    assert advice[0].stage == 3
    assert "can be left out" in advice[0].words
    fast = fading("FAST", 0.8)[:3]
    paths = paths_of_trial(fast, {})
    added = [one for one in advise_stages(plan(), state, paths) if one.add]
    assert added
    assert 4 < added[0].add.days < 16
    assert advise_stages(plan(), state, {}) == []


def test_cards_hold_every_piece_once_shuffled_by_the_seed_within_the_frame():
    codes = [f"{n:04d}" for n in range(30)]
    wools = [WoolBeside(number=n, cloth=f"w{n}") for n in (1, 2)]
    one = plan(swatches=codes, mount="half covered", wools=wools)
    cards = lay_out_cards(one)
    names = [place.swatch for card in cards for place in card.places]
    assert sorted(names) == sorted([*codes, "blue wool 1", "blue wool 2"])
    assert names[2:] != codes
    assert lay_out_cards(one) == cards
    assert lay_out_cards(one.model_copy(update={"seed": 2})) != cards
    for card in cards:
        for place in card.places:
            assert place.x_mm + place.w_mm <= CARD_MM[0]
            assert place.y_mm + place.h_mm <= CARD_MM[1]
            assert place.lines_mm == (place.w_mm / 2,)
        for i, a in enumerate(card.places):
            for b in card.places[i + 1 :]:
                assert abs(a.x_mm - b.x_mm) >= a.w_mm or abs(a.y_mm - b.y_mm) >= a.h_mm


def test_work_goes_on_where_it_stopped_and_is_kept():
    points = [*fading("AHEA", 0.31), *fading("AHEB", 0.17)]
    groups = {"AHEA": "dye", "AHEB": "dye"}
    told, after = [], 0
    while not told or told[-1].done < told[-1].of:
        told.append(work_ahead(points, groups, after, lambda: False))
        after = told[-1].done
    # Each of two swatches alone, then beside the other.
    assert [one.done for one in told] == [1, 2, 3, 4]
    assert work_ahead([], {}, 0, lambda: True).of == 0
    paths = paths_of_trial(points, groups)
    assert paths["AHEA"] is paths_of_trial(points, groups)["AHEA"]
