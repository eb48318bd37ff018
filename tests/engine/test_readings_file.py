"""Moments and numbers of files of readings, as loggers of many countries write them."""

from datetime import UTC, datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bathys.instruments import read_csv, shape_of
from bathys.instruments.csv_file import MOST_FILE_BYTES, text_of
from bathys.shelf import BadCell


def _read(cell: str, zone: str = "UTC", *, day_first: bool = True, number: str = "1.5") -> object:
    text = f"time\tlevel\n{cell}\t{number}\n"
    (row,) = read_csv(text, shape_of(text, day_first), 0, [1], zone)
    return row.why or (row.at, row.value)


NOON = datetime(2026, 5, 7, 12, 0, tzinfo=UTC)


@pytest.mark.counted
@pytest.mark.parametrize(
    ("cell", "zone", "day_first"),
    [
        ("2026-05-07 12:00", "UTC", True),
        ("2026-05-07T12:00:00Z", "Asia/Tokyo", True),  # RFC 3339, as the next three
        ("2026-05-07T14:00:00+02:00", "UTC", True),
        ("2026-05-07T05:30:00-0630", "UTC", True),
        ("2026-05-07T12:00:00.250Z", "UTC", True),
        ("2026/5/7 12:00:00", "UTC", True),
        ("07.05.2026 14:00", "Europe/Berlin", True),
        ("7/5/26 12:00", "UTC", True),
        ("5/7/2026 12:00", "UTC", False),
        ("5/7/2026, 8:00 am", "America/New_York", False),
        ("5/7/2026 5:00 PM", "Asia/Karachi", False),
        ("5/7/2026 12:00 pm", "UTC", False),
        ("1778155200", "Asia/Tokyo", True),
        ("1778155200000", "Asia/Tokyo", True),
    ],
)
def test_a_moment_is_the_same_however_it_is_written(cell: str, zone: str, day_first: bool) -> None:
    assert _read(cell, zone, day_first=day_first) == (NOON, 1.5)


@pytest.mark.counted
@pytest.mark.parametrize(
    ("cell", "why"),
    [
        ("yesterday", "is no time such as 2030-05-17 08:30"),
        ("12:00", "is no time such as"),
        ("2026-13-01 00:00", "is no day or time that exists"),
        ("2026-02-29 00:00", "is no day or time that exists"),
        ("2026-05-07 25:00", "is no day or time that exists"),
        ("31.04.2026 10:00", "is no day or time that exists"),
        ("2026-03-29 02:30", "clocks are put forward"),
    ],
)
def test_a_moment_that_never_was_is_told(cell: str, why: str) -> None:
    told = _read(cell, "Europe/Berlin")
    assert isinstance(told, str)
    assert why in told
    assert told.endswith(".")


@pytest.mark.counted
@pytest.mark.parametrize(
    ("number", "expected"),
    [
        ("-0.5", -0.5),
        ("+3", 3.0),
        ("1e-3", 1e-3),
        ("1,250", 1250.0),
        ("=A1", "is a formula"),
        ("@SUM", "is a formula"),
        ("12 mm", "is no number"),
        ("--", "is no number"),
        ("nan", "is no number"),
    ],
)
def test_a_number_is_one_or_is_told(number: str, expected: float | str) -> None:
    """In a file whose other numbers have points."""
    text = f"time\tlevel\n2026-05-07 11:00\t0.25\n2026-05-07 12:00\t{number}\n"
    last = list(read_csv(text, shape_of(text), 0, [1], "UTC"))[-1]
    if isinstance(expected, str):
        assert expected in last.why
    else:
        assert (last.why, last.value) == ("", expected)


@pytest.mark.parametrize("zone", ["", "Nowhere/Atlantis", "../../etc/passwd", "UTC+2", "\0"])
def test_a_zone_that_is_none_is_told(zone: str) -> None:
    with pytest.raises(BadCell, match="is no time zone; try Europe/Athens or UTC"):
        _read("2026-05-07 12:00", zone)


@pytest.mark.parametrize(
    ("data", "why"),
    [
        (b"", "It needs a first row"),
        (b"time,level\n", "It needs a first row"),
        (b"\n\n\n", "It needs a first row"),
        (("a" + ",a" * 60 + "\n" + "1" + ",1" * 60 + "\n").encode(), "more than 60 columns"),
        (b"x" * (MOST_FILE_BYTES + 1), "larger than 2 MB"),
    ],
)
def test_a_file_that_is_none_is_told(data: bytes, why: str) -> None:
    with pytest.raises(BadCell) as bad:
        shape_of(text_of(data))
    assert why in str(bad.value)


def test_rows_that_lack_cells_or_hold_none_are_passed_over() -> None:
    """A logger that was off writes commas, or nothing; what follows is read all the same."""
    text = (
        "time,level,watts\n2026-05-07 12:00,1.0,\n\n,,\n2026-05-07 12:01\n"
        "2026-05-07 12:02,,18\n2026-05-07 12:03,2.0,19,extra\n"
    )
    rows = list(read_csv(text, shape_of(text), 0, [1, 2], "UTC"))
    assert [(r.row, r.column, r.value) for r in rows if not r.why] == [
        (2, 1, 1.0),
        (6, 2, 18.0),
        (7, 1, 2.0),
        (7, 2, 19.0),
    ]


_zones = st.sampled_from(["UTC", "Europe/Berlin", "America/New_York", "Australia/Adelaide"])
_forms = st.sampled_from(["%Y-%m-%d %H:%M:%S", "%d.%m.%Y %H:%M:%S", "%d/%m/%y %I:%M:%S %p"])


@given(st.datetimes(datetime(2001, 1, 1), datetime(2060, 1, 1)), _zones, _forms)  # noqa: DTZ001
def test_local_times_are_read_back_or_told_to_be_none(at: datetime, zone: str, form: str) -> None:
    """Read in its zone and written there again it is the same; else clocks are put forward."""
    from zoneinfo import ZoneInfo

    local = at.replace(microsecond=0)
    told = _read(local.strftime(form), zone)
    if isinstance(told, str):
        assert "clocks are put forward" in told
        return
    assert isinstance(told, tuple)
    assert told[0].astimezone(ZoneInfo(zone)).replace(tzinfo=None) == local
