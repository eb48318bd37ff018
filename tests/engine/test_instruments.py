"""Instruments: quiet while all is well, an alarm for each failure that is seen, and its cause."""

import itertools
import math
from datetime import UTC, datetime
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bathys.evaluation import Evaluation, evaluate
from bathys.instruments import (
    ALARMS,
    CHANNEL_KINDS,
    Band,
    Cause,
    Channel,
    RigFault,
    Series,
    Signature,
    SimulatedRig,
    alarms_of,
    bands_of,
    causes_of,
    missing_water,
    noticed_after,
    read_csv,
    shape_of,
    signatures_of,
    unit_labels,
    unit_named,
    usual_channels,
    usual_readings,
)
from bathys.plan import load_plan
from bathys.scenarios.failures import Failure
from bathys.scenarios.periodic_state import PeriodicState, find_periodic_state
from tests.conftest import EXAMPLE

pytestmark = pytest.mark.uncounted

_BEGIN = 20_000 * 86400.0
_HOUR = 3600.0
_AN_HOUR = 65.0 * 60.0  # by when what is seen at all has been seen [s]


class _Watched:
    """A layout with its usual instruments, and what failures look like on them."""

    def __init__(self, name: str) -> None:
        self.plan = load_plan((Path(EXAMPLE).parent / f"{name}.json").read_bytes())
        self.found: Evaluation = evaluate(self.plan)
        self.periodic: PeriodicState = find_periodic_state(self.plan)
        self.channels = usual_channels(self.found)
        self.bands = bands_of(self.found, self.periodic, self.channels)
        self.signatures: tuple[Signature, ...] = signatures_of(
            self.found, self.periodic, self.channels
        )
        self.usual = usual_readings(self.found, self.periodic, self.channels)

    def causes(self, told: dict[str, Series], since: float, now: float) -> tuple[Cause, ...]:
        return causes_of(self.signatures, self.channels, self.bands, self.usual, told, since, now)


@pytest.fixture(scope="module")
def watched() -> _Watched:
    return _Watched("fish-and-leaves")


def _series(rig: SimulatedRig, begin: float, end: float, every: float) -> dict[str, Series]:
    told: dict[str, list[tuple[float, float]]] = {}
    for row in rig.readings(begin, end, every):
        told.setdefault(row.channel, []).append((row.time, row.value))
    return {
        key: Series(np.array([t for t, _ in rows]), np.array([v for _, v in rows]))
        for key, rows in told.items()
    }


@pytest.mark.parametrize(("name", "days"), [("fish-and-leaves", 30), ("raft-line", 6)])
def test_quiet_days_raise_no_alarm(name: str, days: int) -> None:
    """With a worn pump, gauges that are off, noise, odd readings, silence and a drifting clock.

    The raft line's sump falls by 70 mm until it is topped up."""
    watched = _Watched(name)
    rig = SimulatedRig(watched.plan, watched.channels, seed=5)
    told = _series(rig, _BEGIN, _BEGIN + days * 86400.0, 120.0)
    added = [(t.time, t.volume) for t in rig.top_ups(_BEGIN, _BEGIN + days * 86400.0)]
    assert len(added) == days // 2
    names: set[str] = set()
    for now in np.arange(_BEGIN + 86400.0, _BEGIN + days * 86400.0, 1800.0):
        names |= {
            a.name
            for a in alarms_of(
                watched.channels,
                watched.bands,
                {k: s.within(now - 86400.0, now) for k, s in told.items()},
                float(now),
                dries=rig.dries,
                added=added,
            )
        }
    assert names == set()


def test_one_odd_reading_alarms_nobody_though_it_is_the_latest(watched: _Watched) -> None:
    """The mean of a level takes it in before the next reading tells that it was odd."""
    rig = SimulatedRig(watched.plan, watched.channels, seed=4)
    now = _BEGIN + 86400.0
    told = _series(rig, now - 13.0 * _HOUR, now, 60.0)
    for channel in watched.channels:
        series = told[channel.key]
        for odd in (0.0, 9.0 * float(series.values[-1]) + 9.0):
            values = np.concatenate([series.values[:-1], [odd]])
            read = {**told, channel.key: Series(series.times, values)}
            assert not alarms_of(watched.channels, watched.bands, read, now, dries=rig.dries)


def test_each_failure_is_seen_within_an_hour_and_its_cause_is_among_three(
    watched: _Watched,
) -> None:
    """Failures that these instruments cannot see are told beforehand, and only they are missed.

    Where it fails in a bed's cycle, how worn the pump is and how far the gauges are off, the
    simulated failures do not know."""
    expected = noticed_after(watched.signatures, watched.channels, watched.bands, watched.usual)
    unseen = {f for f, after in expected.items() if after is None}
    assert {(f.kind, f.place) for f in unseen} == {("shut", "R7"), ("half_blocked", "R10")}
    at, right, at_first = _BEGIN + 86400.0, 0, 0
    seen = [f for f in expected if f not in unseen]
    for failure in seen:
        ends = at + 3.0 * _HOUR
        rig = SimulatedRig(watched.plan, watched.channels, 3, (RigFault(failure, at, ends),))
        told = _series(rig, at - 13.0 * _HOUR, ends, 60.0)
        added = [(t.time, t.volume) for t in rig.top_ups(at - 13.0 * _HOUR, at)]
        first, since = math.inf, at
        for now in np.arange(at - 3600.0, at + _AN_HOUR, 240.0):
            read = {k: s.within(now - 86400.0, now) for k, s in told.items()}
            on = alarms_of(
                watched.channels, watched.bands, read, float(now), dries=rig.dries, added=added
            )
            if on:
                first, since = float(now), min(a.since for a in on)
                break
        assert at < first < at + _AN_HOUR, failure
        named = []
        for now in np.arange(first, first + 1201.0, 400.0):
            read = {k: s.within(now - 86400.0, now) for k, s in told.items()}
            causes = watched.causes(read, since, float(now))
            if causes:
                named.append(failure in [c.failure for c in causes])
        right += bool(named) and named[-1]
        at_first += bool(named) and named[0]
    assert right >= 0.8 * len(seen)
    assert at_first >= 0.8 * len(seen)


def test_nothing_failed_has_no_cause(watched: _Watched) -> None:
    rig = SimulatedRig(watched.plan, watched.channels, seed=9)
    told = _series(rig, _BEGIN, _BEGIN + 6.0 * _HOUR, 60.0)
    now = _BEGIN + 6.0 * _HOUR
    assert watched.causes(told, now - 1800.0, now) == ()


def test_the_same_seed_sends_the_same_and_another_does_not(watched: _Watched) -> None:
    one, again, other = (
        list(SimulatedRig(watched.plan, watched.channels, s).readings(_BEGIN, _BEGIN + 600.0))
        for s in (1, 1, 2)
    )
    assert one == again != other


_TANK = Channel("level-T", "level", "T")
_STILL_BAND = Band(0.48, 0.52, 0.012, area=2.0)


def _flat(value: float, hours: float = 14.0) -> tuple[np.ndarray, np.ndarray]:
    times = np.arange(0.0, hours * _HOUR, 60.0)
    return times, np.full(len(times), value)


@given(rate=st.floats(0.02, 0.3))
def test_missing_water_is_what_the_levels_fell(rate: float) -> None:
    """Area times fall, by hand; within the shortest time in which it is beyond doubt."""
    times, levels = _flat(0.5)
    falls = levels - rate * np.maximum(times - 12.0 * _HOUR, 0.0) / _HOUR
    told = {"level-T": Series(times, falls)}
    found = missing_water([_TANK], {"level-T": _STILL_BAND}, told, 14.0 * _HOUR)
    assert found is not None
    assert found.within in (1800.0, 7200.0)
    fell = rate * (min(found.within, 2.0 * _HOUR) / _HOUR)
    mean = rate * 600.0 / _HOUR  # levels are means over ten minutes
    assert found.volume == pytest.approx(-2.0 * fell, abs=2.0 * mean)


def test_water_that_dries_or_was_let_out_is_not_missing() -> None:
    times, levels = _flat(0.5, 26.0)
    dries = 2.0 * 0.02 / 43200.0  # 20 mm in half a day, off 2 m²
    slowly = {"level-T": Series(times, levels - 0.02 * times / 43200.0)}
    bands = {"level-T": _STILL_BAND}
    assert missing_water([_TANK], bands, slowly, 26.0 * _HOUR, dries) is None
    assert missing_water([_TANK], bands, slowly, 26.0 * _HOUR) is not None
    let_out = {"level-T": Series(times, np.where(times > 25.0 * _HOUR, 0.45, 0.5))}
    assert missing_water([_TANK], bands, let_out, 26.0 * _HOUR) is not None
    told = [(25.0 * _HOUR, -0.1)]
    assert missing_water([_TANK], bands, let_out, 26.0 * _HOUR, added=told) is None


@given(told=st.floats(-1500.0, 1500.0), lasts=st.floats(0.0, 600.0), volume=st.floats(0.02, 0.1))
def test_water_put_in_is_neither_missing_nor_come_by_itself(
    told: float, lasts: float, volume: float
) -> None:
    """Somebody writes it down up to half an hour before it begins or after it ends."""
    times = np.arange(0.0, 14.0 * _HOUR, 60.0)
    begins = 13.0 * _HOUR
    levels = 0.5 + volume / 2.0 * np.clip((times - begins) / max(lasts, 1.0), 0.0, 1.0)
    added = [(begins + lasts / 2.0 + told, volume)]
    for now in np.arange(12.6 * _HOUR, 14.0 * _HOUR, 120.0):
        entered = [(at, v) for at, v in added if at <= now or told <= 0.0]
        read = {"level-T": Series(times, levels).within(0.0, float(now))}
        found = missing_water([_TANK], {"level-T": _STILL_BAND}, read, float(now), added=entered)
        assert found is None or (found.volume > 0.0 and not entered)


def test_an_alarm_does_not_flicker_at_its_bound() -> None:
    times = np.arange(0.0, 6.0 * _HOUR, 60.0)
    wobble = 0.52 + 0.001 * np.sin(times / 400.0) + np.where(times < 1.0 * _HOUR, -0.02, 0.001)
    told = {"level-T": Series(times, wobble)}
    is_open: set[str] = set()
    states = []
    for now in np.arange(_HOUR, 6.0 * _HOUR, 60.0):
        on = alarms_of(
            [_TANK],
            {"level-T": _STILL_BAND},
            {k: s.within(0.0, now) for k, s in told.items()},
            float(now),
            is_open=is_open,
        )
        is_open = {a.name for a in on if a.kind == "high"}
        states.append(bool(is_open))
    assert states[-1]
    assert sum(a != b for a, b in itertools.pairwise(states)) == 1


@given(
    at=st.integers(1, 58),
    odd=st.floats(-1e3, 1e3),
    rise=st.floats(0.0, 1.0),
)
def test_one_odd_reading_is_gone_and_a_slope_stays(at: int, odd: float, rise: float) -> None:
    times = np.arange(60.0)
    values = rise * times
    spoilt = values.copy()
    spoilt[at] = odd
    smooth = Series(times, spoilt).without_spikes()
    assert np.all(np.abs(smooth.values[1:-1] - values[1:-1]) <= rise + 1e-9)
    assert np.array_equal(Series(times, values).without_spikes().values, values)


def test_silence_nothing_and_too_little_are_told_or_left_alone() -> None:
    bands = {"level-T": _STILL_BAND}
    assert alarms_of([_TANK], bands, {}, 0.0) == ()
    nothing = Series(np.array([]), np.array([]))
    assert alarms_of([_TANK], bands, {"level-T": nothing}, 0.0) == ()
    one = Series(np.array([0.0]), np.array([9.0]))
    assert [a.kind for a in alarms_of([_TANK], bands, {"level-T": one}, 60.0)] == []
    assert [a.kind for a in alarms_of([_TANK], bands, {"level-T": one}, 2000.0)] == ["silent"]
    seldom = Series(np.arange(0.0, 1e5, 3600.0), np.full(28, 0.5))
    assert alarms_of([_TANK], bands, {"level-T": seldom}, 1e5 + 600.0) == ()


@pytest.mark.parametrize("kind", list(CHANNEL_KINDS))
def test_a_kind_has_units_bounds_and_parts(kind: str, watched: _Watched) -> None:
    about = CHANNEL_KINDS[kind]
    assert about.least < about.most
    assert about.spread > 0.0
    labels = unit_labels(kind)
    assert labels[0] == about.usual
    assert all(unit_named(kind, label).factor > 0.0 for label in labels)
    assert set(about.parts(watched.found)) <= set(watched.plan.names)


def test_a_float_contact_and_a_gauge_at_the_rim_read_the_same_water(watched: _Watched) -> None:
    sump = watched.plan.vessel("S1")
    level, below = (Channel(k, k, "S1") for k in ("level", "below"))
    under, over = (Channel(k, "contact", "S1", m) for k, m in (("under", 0.1), ("over", 0.5)))
    bands = bands_of(watched.found, watched.periodic, [level, below, under, over])
    assert bands["below"].low == pytest.approx(sump.shape.height - bands["level"].high)
    assert bands["below"].high == pytest.approx(sump.shape.height - bands["level"].low)
    assert (bands["under"].low, bands["over"].high) == (1.0, 0.0)
    dead = Failure("shut", "R2")
    rig = SimulatedRig(watched.plan, [level, below], 1, (RigFault(dead, _BEGIN, _BEGIN + _HOUR),))
    assert rig.plan.pumps[0].wear < watched.plan.pumps[0].wear


@pytest.mark.parametrize("kind", list(ALARMS))
def test_an_alarm_says_what_to_do(kind: str) -> None:
    about = ALARMS[kind]
    assert about.act.endswith(".")
    assert about.hold >= 0.0
    assert ("{part:words}" in about.title) == (kind not in ("leak", "gain"))


def _csv(*lines: str) -> str:
    return "\r\n".join(lines) + "\r\n"


@pytest.mark.parametrize(
    ("first", "day_first", "sure", "comma"),
    [
        ("2026-05-17 08:30;1,5", True, True, True),
        ("17.05.2026 08:30;1,5", True, True, True),
        ("05/17/2026 8:30 am,1.5", False, True, False),
        ("05/06/2026 08:30\t1.5", True, False, False),
        ("1778999400,1.5", True, True, False),
    ],
)
def test_a_file_tells_how_it_is_written(
    first: str, day_first: bool, sure: bool, comma: bool
) -> None:
    mark = next(m for m in ";\t," if m in first)
    shape = shape_of(_csv(f"time{mark}level", first))
    assert (shape.is_day_first, shape.is_order_sure) == (day_first, sure)
    assert (shape.times, shape.is_comma, shape.count) == (0, comma, 1)
    (row,) = read_csv(_csv(f"time{mark}level", first), shape, 0, [1], "UTC")
    assert row.why == ""
    assert row.value == pytest.approx(1.5)


@pytest.mark.parametrize("other", ["99.99.2026 08:31;2", "0.13.2026 08:31;2", "12/31/2026 08:31;2"])
def test_a_day_that_is_none_does_not_turn_the_others_round(other: str) -> None:
    """Nor is the order sure where one row says this and another that."""
    both = ["13.12.2026 08:32;3"] if other.startswith("12/31") else []
    shape = shape_of(_csv("time;level", "01.12.2026 08:30;1", other, *both))
    assert (shape.is_day_first, shape.is_order_sure) == (True, False)


@given(
    st.lists(
        st.tuples(
            st.datetimes(datetime(2020, 1, 1), datetime(2035, 1, 1)),  # noqa: DTZ001
            st.floats(-1e6, 1e6),
        ),
        min_size=1,
        max_size=20,
    ),
    st.sampled_from([";", "\t"]),
    st.booleans(),
)
def test_what_is_written_is_read_again(
    rows: list[tuple[datetime, float]], mark: str, comma: bool
) -> None:
    """Whatever the country: times to the second in UTC, numbers to six figures."""
    numbers = [f"{value:.6f}" for _, value in rows]
    lines = [
        f"{at:%Y-%m-%dT%H:%M:%S}Z{mark}{number.replace('.', ',') if comma else number}"
        for (at, _), number in zip(rows, numbers, strict=True)
    ]
    text = _csv(f"when{mark}level", *lines)
    read = list(read_csv(text, shape_of(text), 0, [1], "Asia/Tokyo"))
    assert [r.why for r in read] == [""] * len(rows)
    assert [r.value for r in read] == pytest.approx([float(n) for n in numbers])
    assert [r.at for r in read] == [at.replace(microsecond=0, tzinfo=UTC) for at, _ in rows]


def test_an_hour_that_comes_twice_is_read_twice_and_one_that_never_was_is_refused() -> None:
    """Clocks of Berlin in 2026: forward on 29 March at 2:00, back on 25 October at 3:00."""
    back = [f"25.10.2026 {h:02d}:{m:02d};1" for h, m in ((2, 0), (2, 30), (2, 0), (2, 30), (3, 0))]
    text = _csv("time;level", *back)
    read = list(read_csv(text, shape_of(text), 0, [1], "Europe/Berlin"))
    assert [r.at for r in read] == [
        datetime(2026, 10, 25, hour, minute, tzinfo=UTC)
        for hour, minute in ((0, 0), (0, 30), (1, 0), (1, 30), (2, 0))
    ]
    text = _csv("time;level", "29.03.2026 02:30;1", "29.03.2026 03:30;=1+1", "x;1", "")
    whys = [r.why for r in read_csv(text, shape_of(text), 0, [1], "Europe/Berlin")]
    assert "clocks are put forward" in whys[0]
    assert "formula" in whys[1]
    assert "no time such as" in whys[2]


def test_two_gauges_at_one_vessel_tell_its_water_once() -> None:
    times, levels = _flat(0.5)
    falls = Series(times, levels - 0.2 * np.maximum(times - 12.0 * _HOUR, 0.0) / _HOUR)
    again = Channel("again", "level", "T")
    bands = {"level-T": _STILL_BAND, "again": _STILL_BAND}
    told = {"level-T": falls, "again": falls}
    one = missing_water([_TANK], bands, told, 14.0 * _HOUR)
    two = missing_water([_TANK, again], bands, told, 14.0 * _HOUR)
    assert one == two
    assert one is not None
