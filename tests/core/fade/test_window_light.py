"""The dose of light in a window, against pvlib's references, handbooks and a working by hand."""

from datetime import date, datetime, timedelta

import numpy as np
import pandas as pd
import pytest
from pvlib import solarposition
from pydantic import ValidationError

from zesty_grid.core.fade.light_record import Lamp, LightSample, agreement_words, lamp_dose, logged_dose, metered_dose
from zesty_grid.core.fade.window import Window, WindowStay, glass_at, open_sky, seen_through_pane
from zesty_grid.core.fade.window_light import dose_in_window, illuminance_lx
from zesty_grid.core.refusal import Refusal
from zesty_grid.standins.light_logger import Weather, log_window

pytestmark = pytest.mark.slow

FLAT = Window(tilt_deg=0, glass="none")
JUNE, DECEMBER = date(2026, 6, 21), date(2026, 12, 21)


def stay(start=JUNE, end=None, window=None, **other):
    place = {"latitude": 50, "longitude": 8} | other
    return WindowStay(start=start, end=end or start, window=window or Window(), **place)


def test_the_sun_stands_where_the_solar_position_algorithm_says():
    # Reda and Andreas (2004), the worked example of the report: 17 Oct 2003, 12:30:30 at UTC−7.
    at = pd.DatetimeIndex([pd.Timestamp("2003-10-17 12:30:30", tz="Etc/GMT+7")])
    found = solarposition.get_solarposition(at, 39.742476, -105.1786, 1830.14, pressure=82000, temperature=11).iloc[0]
    assert found["apparent_zenith"] == pytest.approx(50.11162, abs=1e-3)
    assert found["azimuth"] == pytest.approx(194.34024, abs=1e-3)


# IES and CIBSE handbooks, clear-sky noon on the ground at 50° N; ranges from memory.
@pytest.mark.parametrize(("day", "low", "high"), [(JUNE, 95e3, 105e3), (DECEMBER, 25e3, 35e3)])
def test_clear_noon_at_50_north_lies_in_the_handbooks_range(day, low, high):
    assert low <= illuminance_lx(stay(day, window=FLAT, sky="clear", latitude=50.0)).max() <= high


def by_hand_mlxh(faces_south: bool) -> float:
    """A clear year on an upright single pane at 50° N, by the daylight formulas of the IES handbook
    (from memory): the beam 127.5 klx · exp(−0.21 m), the sky on the ground 0.8 + 15.5 √sin h klx,
    half of it on a wall, the ground 20 %; the sun by Cooper (1969)."""
    day, hour = np.meshgrid(np.arange(1, 366), np.arange(0, 24, 0.25), indexing="ij")
    declination = np.radians(23.45 * np.sin(2 * np.pi * (284 + day) / 365))
    turn, lat = np.radians(15 * (hour - 12)), np.radians(50)
    sin_h = np.sin(lat) * np.sin(declination) + np.cos(lat) * np.cos(declination) * np.cos(turn)
    up = sin_h > 0.02
    s = np.where(up, sin_h, 1)
    beam = np.where(up, 127.5 * np.exp(-0.21 / s), 0)
    south = np.sin(lat) * np.cos(declination) * np.cos(turn) - np.cos(lat) * np.sin(declination)
    cosine = np.clip(south if faces_south else -south, 0, 1)
    angle = np.degrees(np.arccos(cosine))
    glass = 0.89 * np.where(angle < 60, 1, np.clip(1 - ((angle - 60) / 30) ** 2, 0, 1))
    sky = np.where(up, 0.8 + 15.5 * np.sqrt(s), 0)
    diffuse = 0.82 * (sky / 2 + 0.2 * (beam * s + sky) / 2)
    return float((beam * cosine * glass + diffuse).sum() * 0.25 / 1e3)


@pytest.mark.parametrize("faces_south", [True, False])
def test_a_clear_year_in_a_window_agrees_with_a_working_by_hand(faces_south):
    window = Window(faces_deg=180 if faces_south else 0)
    year = stay(date(2026, 1, 1), date(2026, 12, 31), window, sky="clear")
    found = dose_in_window(year)
    hand = by_hand_mlxh(faces_south) * 1e6
    assert found.dose_lxh == pytest.approx(hand, rel=0.25)
    assert found.low_lxh <= hand <= found.high_lxh
    assert len(found.days) == 365
    assert sum(day.dose_lxh for day in found.days) == pytest.approx(found.dose_lxh)


def test_what_takes_light_takes_dose():
    def dose(window, **other):
        return dose_in_window(stay(end=JUNE + timedelta(6), window=window, **other)).dose_lxh

    none, single, double = (dose(Window(glass=g)) for g in ("none", "single", "double"))
    assert none > single > double
    assert dose(Window(curtain=True)) == pytest.approx(single / 2)
    winter = {"start": DECEMBER, "end": DECEMBER}
    shaded = dose_in_window(stay(**winter, window=Window(horizon_deg=25)))
    assert shaded.direct_lxh == 0
    assert shaded.dose_lxh < 0.4 * dose_in_window(stay(**winter)).dose_lxh
    assert dose(Window(distance_m=2)) < 0.3 * single
    overcast, mixed, clear = (dose(Window(), sky=s) for s in ("overcast", "mixed", "clear"))
    assert overcast < mixed < clear
    assert dose(Window(), sky="mixed", sun_share=(0.9,)) > mixed
    assert dose(Window(faces_deg=0)) < single


def test_a_south_window_may_get_more_at_noon_in_winter_than_in_june():
    """Common knowledge of the trade: in winter the sun stands low before a south window."""
    south = Window(faces_deg=180)
    winter = illuminance_lx(stay(date(2026, 2, 21), window=south, sky="clear")).max()
    assert winter > illuminance_lx(stay(JUNE, window=south, sky="clear")).max()


def test_glass_falls_off_beyond_60_degrees_and_is_as_published_at_right_angles():
    at = glass_at(Window(glass="single"), np.array([0.0, 40, 60, 80, 90]))
    assert at[0] == pytest.approx(0.89)
    assert at[1] > 0.97 * at[0]
    assert at[2] > 0.9 * at[0]
    assert at[3] < 0.7 * at[0]
    assert at[4] == pytest.approx(0, abs=1e-6)


def test_views_of_the_sky_are_as_geometry_has_them():
    # Upright, everything above h: (π/2 − h − sin h cos h) / (π/2), integrated by hand.
    h = np.radians(30)
    hand = (np.pi / 2 - h - np.sin(h) * np.cos(h)) / (np.pi / 2)
    assert open_sky(90, 30) == pytest.approx(hand, abs=0.01)
    assert open_sky(0, 30) == pytest.approx(np.cos(h) ** 2, abs=0.01)
    assert open_sky(90, 0) == 1
    # A pane as far away as it is wide and high: four times 0.0554 (Howell's catalogue, B-3).
    assert seen_through_pane(Window(distance_m=1, width_m=2, height_m=2)) == pytest.approx(0.5541, abs=1e-3)


def test_where_the_sun_does_not_rise_there_is_no_dose_and_that_is_said():
    night = dose_in_window(stay(DECEMBER, DECEMBER + timedelta(3), latitude=78))
    assert night.dose_lxh == 0
    assert "does not rise" in night.warnings[0]
    north = dose_in_window(stay(DECEMBER, window=Window(faces_deg=0)))
    assert any("never reaches" in words for words in north.warnings)
    south_of_the_line = dose_in_window(stay(DECEMBER, window=Window(faces_deg=0), latitude=-35))
    assert south_of_the_line.direct_lxh > 0


@pytest.mark.parametrize(
    "wrong",
    [
        {"end": date(2026, 6, 1)},
        {"end": date(2036, 6, 1)},
        {"latitude": 91},
        {"sun_share": (0.5, 0.4)},
        {"sun_share": (1.5,)},
    ],
)
def test_what_is_no_stay_is_refused(wrong):
    with pytest.raises(ValidationError):
        stay(**wrong)


@pytest.mark.parametrize("seed", range(6))
def test_a_logger_in_the_same_window_lies_within_the_stated_range(seed):
    hung = stay(date(2026, 5, 1), date(2026, 5, 28), sky="mixed")
    samples = log_window(hung, Weather(sun_share=0.5, seed=seed))
    found = logged_dose(samples, datetime(2026, 5, 1), datetime(2026, 5, 28, 23, 59)).dose
    model = dose_in_window(hung)
    assert model.low_lxh <= found.dose_lxh <= model.high_lxh
    assert "agree" in agreement_words(("the window", model), ("the logger", found))


def test_gaps_are_named_and_filled_from_the_same_hours_of_other_days():
    hung = stay(date(2026, 5, 1), date(2026, 5, 10), sky="clear")
    samples = log_window(hung, Weather(sun_share=1.0, seed=1))
    start, end = datetime(2026, 5, 1), datetime(2026, 5, 10, 23, 59)
    whole = logged_dose(samples, start, end)
    assert whole.gaps == ()
    hole = (datetime(2026, 5, 4, 10), datetime(2026, 5, 5, 15))
    torn = logged_dose([one for one in samples if not hole[0] < one.at < hole[1]], start, end)
    (gap,) = torn.gaps
    assert (gap.start, gap.end) == (
        pytest.approx(hole[0], abs=timedelta(minutes=11)),
        pytest.approx(hole[1], abs=timedelta(minutes=11)),
    )
    assert torn.dose.dose_lxh == pytest.approx(whole.dose.dose_lxh, rel=0.03)
    width = whole.dose.high_lxh - whole.dose.low_lxh
    assert torn.dose.high_lxh - torn.dose.low_lxh > 1.1 * width
    assert "4 May 09:55" in torn.dose.warnings[0]
    with pytest.raises(Refusal, match="says nothing"):
        logged_dose(samples, datetime(2027, 1, 1), datetime(2027, 1, 2))


def test_steady_light_is_hours_times_lux():
    samples = [LightSample(at=datetime(2026, 5, 1) + timedelta(minutes=10 * n), lux=500) for n in range(6 * 48 + 1)]
    found = logged_dose(samples, datetime(2026, 5, 1), datetime(2026, 5, 3))
    assert found.dose.dose_lxh == pytest.approx(24_000)
    assert [round(day.dose_lxh) for day in found.dose.days] == [12_000, 12_000, 0]
    lamp = lamp_dose(Lamp(lux=1000, hours_a_day=8), [JUNE, DECEMBER])
    assert lamp.dose_lxh == 16_000


def test_looks_at_a_light_meter_scale_the_clear_sky():
    hung = stay(date(2026, 5, 1), date(2026, 5, 10), sky="mixed")
    clear = dose_in_window(hung.model_copy(update={"sky": "clear"}))
    noon = datetime(2026, 5, 3, 12)
    there = illuminance_lx(stay(noon.date()))[0, 72]
    half = metered_dose([LightSample(at=noon, lux=there / 2)], hung)
    assert half.dose_lxh == pytest.approx(clear.dose_lxh / 2)
    several = [LightSample(at=noon + timedelta(hours=h), lux=there / 2) for h in (-1, 0, 1, 24, 25)]
    wide = np.log(half.high_lxh / half.low_lxh)
    many = metered_dose(several, hung)
    assert np.log(many.high_lxh / many.low_lxh) < wide
    with pytest.raises(Refusal, match="daylight"):
        metered_dose([LightSample(at=datetime(2026, 5, 3, 1), lux=0)], hung)
