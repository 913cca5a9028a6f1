"""What is said at once of a bath's temperature and pH, and the next dose from its log."""

from datetime import timedelta

import pytest
from tests.bench import START, bench_for, entry

from zesty_grid.core.dye.dosing import chemistry_of, dose_advice
from zesty_grid.core.dye.watching import Band, BathReading, alarms_of, band_of, readings_by_hand
from zesty_grid.core.record.addition import Addition, worked_out
from zesty_grid.core.refusal import Refusal
from zesty_grid.core.shelf.starting_shelf import STARTING_SHELF
from zesty_grid.core.weigh.ph_dose import TwoReadings, next_dose

BENCH = bench_for()
CHEMISTRY = chemistry_of(STARTING_SHELF)
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
    kept = HOT.model_copy(update={"keeps_ph": True})
    assert "below 8.7: a little alkali" in said(curve(80, 80, ph=8.4), band=kept)
    assert "above 9.3: a little acid" in said(curve(80, 80, ph=9.6), band=kept)
    # Within the rounding of what is read nothing is advised.
    assert said(curve(80, 80, ph=8.66), band=kept) == ""
    assert said(curve(80, 80, ph=9.34), band=kept) == ""


def test_a_falling_ph_is_no_fault_where_it_should_fall():
    """At cooling and rinsing the liquor goes back to the water's own pH: what a dyer waits for."""
    dye = BENCH["D2"]
    for step in ("cool", "rinse", "dry"):
        assert alarms_of(curve(30, 30, ph=7.0), band_of(dye, dye.step(step)), True, False, START) == []
    in_hold = band_of(dye, dye.step("hold"))
    assert "a little alkali" in said(curve(79, 79, ph=7.0), band=in_hold)
    setting = band_of(dye, dye.step("set-ph"))
    assert (setting.low_ph, setting.high_ph) == pytest.approx((8.7, 9.3))
    assert said(curve(30, 30, ph=7.0), band=setting) == ""


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
        entry(1, "record", ph=4.5),
        entry(2, "record", 1, note="only words"),
        entry(3, "record", 2, ph=5, vessel="other"),
        entry(4, "done", 3),
    ]
    assert [one.ph for one in readings_by_hand(log, "v")] == [4.5]


def added(number: int, at_min: float, item: str, grams: float):
    addition = {"what": "substance", "item": item, "amount": grams, "unit": "g"}
    filled = worked_out(Addition.model_validate(addition), STARTING_SHELF)
    return entry(number, "addition", at_min, vessel="D2", step="set-ph", addition=filled)


def read(number: int, at_min: float, ph: float):
    return entry(number, "record", at_min, vessel="D2", step="set-ph", ph=ph)


def advise(*log, step="set-ph"):
    return dose_advice(BENCH["D2"], list(log), CHEMISTRY, step)


def test_reading_dose_reading_gives_the_next_dose_with_its_range():
    assert advise().dose is None
    assert "Read the pH" in advise().words
    first = read(1, 0, 6.2)
    assert "Give half" in advise(first).words
    dose = added(2, 1, "soda-ash", 1.0)
    assert "read again" in advise(first, dose).words
    said = advise(first, dose, read(3, 20, 7.4))
    assert said.given_g == 1.0
    assert said.dose.least_g < said.dose.grams < said.dose.most_g
    assert said.dose.buffer_mmol_l_ph > 0
    by_itself = next_dose(
        TwoReadings(question=BENCH["D2"].amounts.ph.question, ph_first=6.2, grams_given=1.0, ph_second=7.4)
    )
    assert said.dose == by_itself


def test_whatever_alkali_went_in_is_reckoned_with():
    """Washing soda is Na2CO3·10H2O (286.1 g/mol), soda ash Na2CO3 (106.0 g/mol): 2.7 times as much
    of the one does the same as the other."""
    ash = advise(read(1, 0, 6.2), added(2, 1, "soda-ash", 1.0), read(3, 20, 7.4))
    soda = advise(read(1, 0, 6.2), added(2, 1, "washing-soda", 286.1 / 106.0), read(3, 20, 7.4))
    assert soda.dose.buffer_mmol_l_ph == pytest.approx(ash.dose.buffer_mmol_l_ph, rel=1e-3)
    assert soda.dose.grams == pytest.approx(ash.dose.grams * 286.1 / 106.0, rel=1e-3)
    mixed = advise(
        read(1, 0, 6.2),
        added(2, 1, "soda-ash", 0.6),
        added(3, 2, "washing-soda", 0.4 * 286.1 / 106.0),
        read(4, 20, 7.4),
    )
    assert mixed.dose.grams == pytest.approx(ash.dose.grams, rel=1e-3)


def test_in_its_band_or_in_another_step_nothing_is_advised():
    assert advise(read(1, 0, 8.9)).words == "It is at pH 8.9: nothing more to give."
    assert advise(read(1, 0, 6.2), added(2, 1, "washing-soda", 1.0), read(3, 9, 9.1)).dose is None
    for step in ("cool", "rinse", "fill", "dry"):
        assert advise(read(1, 0, 7.0), step=step) is None


def test_a_bath_that_went_the_wrong_way_is_refused_and_one_without_ph_has_no_dose():
    log = [read(1, 0, 7.0), added(2, 1, "washing-soda", 1.0), read(3, 20, 6.0)]
    with pytest.raises(Refusal, match="no step towards"):
        advise(*log)
    assert dose_advice(BENCH["M1"], log, CHEMISTRY) is None
