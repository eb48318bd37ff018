"""What is typed to be done to a plan on its way, and what of it cannot be."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bathys.plan import load_plan
from bathys.wording.scenarios import MOST_RAIN, BadScenarioStep, seconds, step_of
from tests.conftest import EXAMPLE

SPLIT = load_plan((Path(EXAMPLE).parent / "split-flow.json").read_bytes())


@pytest.mark.parametrize(
    ("typed", "expected"),
    [
        ("3:10", 11400.0),
        ("0:00", 0.0),
        ("100:05", 360300.0),
        ("2h", 7200.0),
        ("1.5 h", 5400.0),
        ("90min", 5400.0),
        ("30s", 30.0),
        (" 2d ", 172800.0),
        ("0.25d", 21600.0),
    ],
)
def test_a_time_is_read_as_it_is_said(typed: str, expected: float) -> None:
    assert seconds(typed) == expected


@pytest.mark.parametrize(
    "typed", ["", "soon", "3", "3:1", "-1h", "1h30", "1 week", "1:2:3", "2e3s"]
)
def test_what_is_no_time_is_told_with_examples(typed: str) -> None:
    with pytest.raises(BadScenarioStep, match="is no time; write 3:10, 2h, 90min"):
        seconds(typed)


@given(st.integers(0, 999), st.integers(0, 59))
def test_hours_and_minutes_are_those_of_the_clock(hours: int, minutes: int) -> None:
    assert seconds(f"{hours}:{minutes:02d}") == 3600.0 * hours + 60.0 * minutes


@pytest.mark.counted
@pytest.mark.parametrize(
    ("typed", "kind", "place", "time"),
    [
        ("block:R2", "block", "R2", 0.0),
        ("block:R2@1:30", "block", "R2", 5400.0),
        ("dead:P1@2h", "dead", "P1", 7200.0),
        ("idle:X1", "idle", "X1", 0.0),
        ("stuck:X2@10min", "stuck", "X2", 600.0),
        ("turn:R5:30", "turn", "R5", 0.0),
        ("rain:50mm", "rain", "", 3600.0),
        ("rain:2in@0:00", "rain", "", 0.0),
        ("plug:2h", "plug", "", 0.0),
        ("plug:2h@1d", "plug", "", 86400.0),
    ],
)
def test_each_thing_that_can_be_done_is_understood(
    typed: str, kind: str, place: str, time: float
) -> None:
    step = step_of(SPLIT, typed)
    assert (step.kind, step.place, step.time) == (kind, place, time)


@pytest.mark.counted
@pytest.mark.parametrize(
    ("typed", "why"),
    [
        ("", "not understood"),
        ("flood:R1", "not understood"),
        ("block", "not understood"),
        ("block:P1", "There is R1"),
        ("dead:R1", "There is P1"),
        ("idle:B1", "There is X1"),
        ("turn:R5:wide", "cannot be read"),
        ("turn:R5:2 kg", "this box wants an angle"),
        ("rain:much", "cannot be read"),
        ("rain:3 m", "up to a metre of rain"),
        ("rain:-5mm", "up to a metre of rain"),
        ("block:R2@soon", "is no time"),
        ("block:R2@40d", "month"),
        ("plug:soon", "is no time"),
    ],
)
def test_what_cannot_be_is_told_in_a_sentence(typed: str, why: str) -> None:
    """And where a part is meant that is not there, those that are stand in it."""
    with pytest.raises(BadScenarioStep) as bad:
        step_of(SPLIT, typed)
    assert why in str(bad.value)
    assert str(bad.value).endswith(".")


@given(st.text(max_size=20))
def test_whatever_is_typed_is_a_step_or_a_sentence(typed: str) -> None:
    """Nothing else comes out of it; a step names a part of the plan, or none."""
    try:
        step = step_of(SPLIT, typed)
    except BadScenarioStep as bad:
        assert str(bad)
        return
    assert step.time >= 0.0
    assert not step.place or step.place in SPLIT.names


@given(st.floats(0.0, 1000.0 * MOST_RAIN))
def test_rain_is_as_deep_as_it_is_typed(millimetres: float) -> None:
    step = step_of(SPLIT, f"rain:{millimetres:.3f} mm")
    assert step.amount == pytest.approx(1e-3 * millimetres, abs=1e-6)
