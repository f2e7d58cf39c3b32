"""Tables of monitors in many dialects: guessed, put right, and read row by row."""

from __future__ import annotations

from zoneinfo import ZoneInfo

import pytest

from oddkettle.core.estimation.monitor_sample import Sample
from oddkettle.formats.monitor_csv import (
    Mapping,
    NoTable,
    Read,
    guess_mapping,
    read_samples,
    read_table,
)

LONDON = ZoneInfo("Europe/London")
FIRST_S, LAST_S = 1780700400.0, 1781478000.0
SIX_UTC_MS = 1780898400000
"""2026-06-08 06:00 UTC, 07:00 by the trip's clock."""


def guessed(text: str) -> tuple[Mapping, Read]:
    table = read_table(text.encode())
    mapping = guess_mapping(table, LONDON, FIRST_S, LAST_S)
    return mapping, read_samples(table, mapping, LONDON)


def test_a_plain_table_is_read_in_the_trips_own_time() -> None:
    _, read = guessed("time,voltage,current,soc\n2026-06-08 07:00:00,13.2,-3.1,64\n")
    assert read.samples == [Sample(SIX_UTC_MS, None, 13.2, -3.1, 64.0)]
    assert read.bad == []


def test_a_zone_in_the_time_goes_before_the_trips() -> None:
    _, read = guessed("timestamp,volts\n2026-06-08T06:00:00Z,13.2\n")
    assert read.samples[0].at_ms == SIX_UTC_MS


def test_semicolons_bring_decimal_commas() -> None:
    mapping, read = guessed(
        "Datum;Spannung;Strom;SOC %\n08.06.2026 07:00;13,21;-3,15;64,5\n"
        "08.06.2026 07:15;13,20;-3,10;63,6\n"
    )
    assert mapping.decimal_comma
    assert mapping.day_first
    assert read.samples[0] == Sample(SIX_UTC_MS, None, 13.21, -3.15, 64.5)


def test_thousands_marks_are_no_decimals() -> None:
    _, read = guessed('time,volts,discharged Ah\n2026-06-08 07:00,13.2,"1,204.5"\n')
    assert read.samples[0].ah_out == 1204.5


def test_millivolts_and_milliamperes_are_seen_by_name_or_by_size() -> None:
    by_name, read = guessed("time,voltage (mV),current [mA]\n2026-06-08 07:00,13210,-3100\n")
    assert by_name.millivolts
    assert by_name.milliamps
    assert read.samples[0].volts == pytest.approx(13.21)
    assert read.samples[0].amps == pytest.approx(-3.1)
    assert guessed("time,voltage\n2026-06-08 07:00,13210\n")[0].millivolts


def test_a_current_that_is_positive_while_the_level_falls_is_a_discharge() -> None:
    rows = "".join(f"2026-06-08 0{7 + n}:00,{4 + n},{64 - n}\n" for n in range(3))
    mapping, read = guessed(f"time,current,soc\n{rows}")
    assert mapping.discharge_positive
    assert [s.amps for s in read.samples] == [-4.0, -5.0, -6.0]
    charging = "".join(f"2026-06-08 0{7 + n}:00,{4 + n},{64 + n}\n" for n in range(3))
    assert not guessed(f"time,current,soc\n{charging}")[0].discharge_positive


def test_without_a_level_the_name_tells_the_sign() -> None:
    mapping, read = guessed("time,discharge current (A)\n2026-06-08 07:00,4\n")
    assert mapping.discharge_positive
    assert read.samples[0].amps == -4.0


def test_month_before_day_is_seen_by_which_puts_the_rows_on_the_trip() -> None:
    mapping, read = guessed("date/time,volts\n06/08/2026 7:00 AM,13.2\n06/08/2026 1:30 PM,13.1\n")
    assert not mapping.day_first
    assert [s.at_ms - SIX_UTC_MS for s in read.samples] == [0, 6.5 * 3600 * 1000]


def test_date_and_time_in_two_columns_are_joined() -> None:
    mapping, read = guessed("Date,Time,Volts\n2026-06-08,07:00:00,13.2\n")
    assert (mapping.time, mapping.clock) == (0, 1)
    assert read.samples[0].at_ms == SIX_UTC_MS


@pytest.mark.parametrize("epoch", ["1780898400", "1780898400000", "1780898400.0"])
def test_seconds_and_milliseconds_since_1970_are_times(epoch: str) -> None:
    _, read = guessed(f"timestamp,volts\n{epoch},13.2\n")
    assert read.samples[0].at_ms == SIX_UTC_MS


def test_lines_before_the_header_are_passed_over() -> None:
    _, read = guessed("Battery log\nserial;00-17\n\ntime;volts;amps\n2026-06-08 07:00;13.2;1\n")
    assert len(read.samples) == 1


def test_a_ragged_table_gives_what_it_can_and_tells_the_rest_by_line() -> None:
    _, read = guessed(
        "time,volts,amps,soc\n"
        "2026-06-08 07:00,13.2,-3,64\n"
        "2026-06-08 07:15,13.1\n"
        "yesterday,13.1,-3,63\n"
        "2026-06-08 07:45,,,\n"
        "2026-06-08 08:00,13.0,--,180\n"
        "2026-06-08 08:15,13.0,-2,61,extra,cells\n"
        "\n"
    )
    assert [(s.volts, s.amps, s.percent) for s in read.samples] == [
        (13.2, -3.0, 64.0),
        (13.1, None, None),
        (13.0, -2.0, 61.0),
    ]
    assert [line for line, _ in read.bad] == [4, 5, 6]
    assert "is no time" in read.bad[0][1]
    assert "nothing measured" in read.bad[1][1]
    assert "180 %" in read.bad[2][1]


def test_a_mapping_that_is_put_right_is_followed() -> None:
    table = read_table(b"time,one,two\n2026-06-08 07:00,13.2,12.9\n")
    given = Mapping(time=0, volts=2, zone="utc")
    (sample,) = read_samples(table, given, LONDON).samples
    assert (sample.volts, sample.at_ms) == (12.9, SIX_UTC_MS + 3600 * 1000)


def test_counters_out_may_be_written_below_zero() -> None:
    _, read = guessed("time,consumed Ah,charged Ah\n2026-06-08 07:00,-42.5,12\n")
    assert (read.samples[0].ah_out, read.samples[0].ah_in) == (42.5, 12.0)


@pytest.mark.parametrize("encoding", ["utf-8-sig", "utf-16", "latin-1"])
def test_encodings_that_spreadsheets_write_are_read(encoding: str) -> None:
    data = "time;volts;note °\n2026-06-08 07:00;13.2;x\n".encode(encoding)
    table = read_table(data)
    assert len(read_samples(table, guess_mapping(table, LONDON, 0, 2e9), LONDON).samples) == 1


@pytest.mark.parametrize(
    ("data", "text"),
    [
        (b"", "No line names"),
        (b"1,2,3\n4,5,6\n", "No line names"),
        (b"\x89PNG\r\n\x1a\n\x00\x00", "No line names"),
        (b"time,volts\n", "no row"),
        (b"volts,amps\n13,1\n", "No column looks like a time"),
    ],
)
def test_what_is_no_table_is_refused(data: bytes, text: str) -> None:
    with pytest.raises(NoTable, match=text):
        guess_mapping(read_table(data), LONDON, FIRST_S, LAST_S)
