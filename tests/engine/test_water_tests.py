"""How far bacteria have come by a row of water tests."""

import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bathys.fieldlog import CycledStage, WaterTest, cycled_by_tests
from bathys.quality.cycling import CLEAR, cycled

figures = st.one_of(st.none(), st.floats(0.0, 40.0))
tests = st.builds(WaterTest, st.integers(-400, 0).map(float), figures, figures, figures)


@pytest.mark.parametrize("temperature", [16.0, 22.0, 28.0])
@pytest.mark.parametrize("helped", [False, True])
def test_a_simulated_start_is_called_done_when_it_is(temperature: float, helped: bool) -> None:
    """Tested each day, each stage comes in its turn; done is not told before the water is clear,
    and at most three days after the simulation calls it ready."""
    course = cycled(temperature, inoculated=helped, days=90.0)
    told: list[WaterTest] = []
    stages: list[CycledStage] = []
    for day, *figures in zip(course.days, course.tan, course.nitrite, course.nitrate, strict=True):
        if told and day - told[-1].day < 1.0:
            continue
        told.append(WaterTest(float(day), *map(float, figures)))
        stages.append(cycled_by_tests(told).stage)
    seen = list(dict.fromkeys(stages))
    order = ["begun", "ammonia", "nitrite", "nearly", "cycled"]
    if "cycled" in seen:
        at = seen.index("cycled")
        assert [s for s in order if s in seen[: at + 1]] == sorted(
            set(seen[: at + 1]), key=order.index
        )
        first = told[stages.index("cycled")].day
        assert course.ready is not None
        assert course.ready - 1.0 <= first <= course.ready + 3.0
    else:
        assert course.ready is None or course.ready > 85.0


def test_low_figures_from_the_first_day_tell_nothing() -> None:
    """Fresh water is low in all of them; nitrate tells that something was turned over."""
    low = [WaterTest(float(day), 0.0, 0.0, 0.0) for day in range(30)]
    assert cycled_by_tests(low).stage == "begun"
    assert cycled_by_tests(low).since is None
    eaten = [WaterTest(float(day), 0.1, 0.1, 20.0) for day in range(3)]
    assert cycled_by_tests(eaten).stage == "cycled"
    assert cycled_by_tests(eaten[:1]).stage == "nearly"


def test_what_is_high_again_is_told_apart_from_a_start() -> None:
    rows = [(3.0, 0.0), (0.2, 4.0), (0.1, 0.1), (0.1, 0.1), (2.0, 0.1), (0.1, 0.1)]
    told = [WaterTest(2.0 * n, a, i) for n, (a, i) in enumerate(rows)]
    stages = [cycled_by_tests(told[: n + 1]).stage for n in range(len(told))]
    assert stages == ["ammonia", "nitrite", "nearly", "cycled", "upset", "nearly"]
    assert cycled_by_tests(told[:5]).since == 8.0


@given(st.lists(tests, max_size=12), st.randoms())
def test_the_order_of_tests_and_those_that_lack_one_of_both_tell_nothing(
    rows: list[WaterTest], dice: random.Random
) -> None:
    """By day it is the same however they are handed in; a test without ammonia or nitrite changes
    nothing; and it is never called done while the last that counts is high."""
    rows = list({row.day: row for row in rows}.values())
    mixed = rows[:]
    dice.shuffle(mixed)
    told = cycled_by_tests(rows)
    assert cycled_by_tests(mixed) == told
    whole = [row for row in rows if row.is_clear is not None]
    assert cycled_by_tests(whole) == told
    if whole:
        last = max(whole, key=lambda row: row.day)
        high = max(last.ammonia or 0.0, last.nitrite or 0.0) > CLEAR
        assert (told.stage in ("ammonia", "nitrite", "upset")) == high
    else:
        assert told.stage == "begun"
