"""What is said at once of a bath's temperature and pH, and the next dose from its log."""

from datetime import timedelta

import pytest
from tests.bench import START, bench_for, entry

from zesty_grid.core.dye.dosing import dose_advice
from zesty_grid.core.dye.watching import Band, BathReading, alarms_of, band_of, readings_by_hand
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.weigh.ph_dose import TwoReadings, next_dose

BENCH = bench_for()
HOT = Band(low_c=74, high_c=84, low_ph=8.7, high_ph=9.3)


def curve(*values: float, every_s: int = 60, ph: float | None = None) -> list[BathReading]:
    return [
        BathReading(at=START + timedelta(seconds=every_s * i), temperature_c=value, ph=ph)
        for i, value in enumerate(values)
    ]


def said(readings, protein=True, may_boil=False, band=HOT, later_s=0):
    now = readings[-1].at + timedelta(seconds=later_s)
    return " ".join(alarms_of(readings, band, protein, may_boil, now))


def test_a_bath_that_keeps_to_its_band_is_left_alone():
    assert said(curve(79, 79.5, 80, 80.2, 80, ph=9.0)) == ""
    assert alarms_of([], HOT, True, False, START) == []


def test_too_hot_and_boiling_are_said_and_a_steamer_may_boil():
    assert "Too hot: 86 °C, at most 84 °C" in said(curve(84, 85, 86))
    assert "It boils" in said(curve(95.5, 97, 98.5))
    assert said(curve(95.5, 97, 98.5), may_boil=True, band=Band()) == ""


def test_wool_is_not_cooled_or_warmed_in_a_hurry():
    # Wool felts at a sudden change; about 1 °C a minute is well: common practice.
    steep = curve(80, 76, 72, 68, 64, 60)
    assert "too steep for wool" in said(steep)
    assert said(steep, protein=False) == ""
    assert said(curve(80, 79, 78.2, 77.1, 76.3)) == ""
    assert "It warms by 4.0 °C a minute" in said(curve(40, 44, 48, 52, 56))
    assert "A jump of 35 °C" in said(curve(70, 35))


def test_ph_out_of_its_band_is_said_with_the_way_back():
    assert "below 8.7: a little alkali" in said(curve(80, 80, ph=8.4))
    assert "above 9.3: a little acid" in said(curve(80, 80, ph=9.6))


def test_old_readings_are_not_news():
    assert said(curve(84, 85, 99), later_s=3600) == ""


def test_the_band_comes_from_the_step():
    dye = BENCH["D2"]
    band = band_of(dye, dye.step("hold"))
    assert band.low_c < dye.vessel.temperature_c < band.high_c
    assert (band.low_ph, band.high_ph) == pytest.approx((8.7, 9.3))
    assert band_of(dye, dye.step("rinse")).low_c is None
    assert band_of(dye, None) == Band()


def test_readings_by_hand_are_those_of_the_vessel():
    log = [
        entry(1, "record", ph=4.5), entry(2, "record", 1, note="only words"),
        entry(3, "record", 2, ph=5, vessel="other"), entry(4, "done", 3),
    ]  # fmt: skip
    assert [one.ph for one in readings_by_hand(log, "v")] == [4.5]


def test_reading_dose_reading_gives_the_next_dose_with_its_range():
    dye = BENCH["D2"]
    where = {"vessel": dye.vessel.key, "step": "set-ph"}
    advice = dose_advice(dye, [])
    assert advice.dose is None
    assert "Read the pH" in advice.words
    log = [entry(1, "record", 0, ph=6.2, **where)]
    assert "Give half" in dose_advice(dye, log).words
    name = dose_advice(dye, log).substance
    log.append(entry(2, "dose", 1, grams=1.0, substance=name, **where))
    assert "read again" in dose_advice(dye, log).words
    log.append(entry(3, "record", 20, ph=7.4, **where))
    advice = dose_advice(dye, log)
    assert advice.given_g == 1.0
    assert advice.dose.least_g < advice.dose.grams < advice.dose.most_g
    assert advice.dose.buffer_mmol_l_ph > 0
    by_itself = next_dose(
        TwoReadings(question=dye.amounts.ph.question, ph_first=6.2, grams_given=1.0, ph_second=7.4)
    )
    assert advice.dose == by_itself


def test_a_bath_that_went_the_wrong_way_is_refused_and_one_without_ph_has_no_dose():
    dye = BENCH["D2"]
    where = {"vessel": dye.vessel.key, "step": "set-ph"}
    name = dose_advice(dye, []).substance
    log = [
        entry(1, "record", 0, ph=7.0, **where),
        entry(2, "dose", 1, grams=1.0, substance=name, **where),
        entry(3, "record", 20, ph=6.0, **where),
    ]
    with pytest.raises(Refusal, match="no step towards"):
        dose_advice(dye, log)
    assert dose_advice(BENCH["M1"], log) is None
