"""Files of light loggers, whatever their columns are called."""

from datetime import datetime

import pytest

from zesty_grid.core.refusal import Refusal
from zesty_grid.formats.light_log import read_light_log
from zesty_grid.formats.towns import find_towns


@pytest.mark.parametrize(
    ("text", "first", "lux", "watts"),
    [
        (
            "Time,Lux\n2026-06-05 12:00:00,1200\n2026-06-05 12:10:00,1300\n",
            datetime(2026, 6, 5, 12),
            [1200, 1300],
            False,
        ),
        (
            "No.;Datum;Zeit;Beleuchtungsstärke (lx)\n1;05.06.2026;12:00:00;1200,5\n2;05.06.2026;12:10:00;1300,0\n",
            datetime(2026, 6, 5, 12),
            [1200.5, 1300],
            False,
        ),
        (
            "Logger 12\nSerial 99\n\ntimestamp\tilluminance klx\n2026-06-05T12:00:00Z\t1.2\n"
            "2026-06-05T12:10:00Z\t1.3\n",
            datetime(2026, 6, 5, 12),
            [1200, 1300],
            False,
        ),
        (
            "#,Date Time,Temp,Solar irradiance W/m2\n1,06/25/2026 12:00:00,21.5,10\n2,06/25/2026 12:10:00,21.5,20\n",
            datetime(2026, 6, 25, 12),
            [1100, 2200],
            True,
        ),
        (
            "date,time,temp C,light\n05/06/2026,12:00,20,500\n25/06/2026,12:00,20,600\n",
            datetime(2026, 6, 5, 12),
            [500, 600],
            False,
        ),
    ],
)
def test_times_and_light_are_found(text, first, lux, watts):
    found = read_light_log(text.encode())
    assert found.samples[0].at == first
    assert [one.lux for one in found.samples] == pytest.approx(lux)
    assert found.watts is watts
    assert str(len(lux)) in found.notes[0]


def test_lines_that_say_nothing_are_left_out_and_counted():
    text = "time,lux\n2026-06-05 12:00,100\n2026-06-05 12:10,\nerror,\n2026-06-05 12:20,120\n"
    found = read_light_log(text.encode("utf-16"))
    assert len(found.samples) == 2
    assert "2 lines" in found.notes[-1]


@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"\x00\xff\x00",
        b"a,b\n1,2\n",
        b"time,lux\n2026-06-05 12:00,5\n",
        b"name,colour\nx,red\n",
        b"time,lux\nnever,none\nnever,none\n",
    ],
)
def test_what_is_no_log_is_refused_in_words(data):
    with pytest.raises(Refusal) as refused:
        read_light_log(data)
    assert refused.value.cure


def test_towns_are_found_by_their_first_letters_the_largest_first():
    vienna = find_towns("vienna")[0]
    assert (vienna.country, round(vienna.latitude), round(vienna.longitude)) == ("Austria", 48, 16)
    assert find_towns("zurich")[0].country == "Switzerland"
    assert {one.country for one in find_towns("paris, fr")} == {"France"}
    assert find_towns("x") == []
    assert find_towns("qqqq") == []
