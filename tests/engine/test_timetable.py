"""What goes by the clock in a week."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bathys.evaluation.timetable import WEEK, week_of
from bathys.pipeline import assess
from bathys.plan import load_plan, plan_from_data
from tests.conftest import EXAMPLE
from tests.plan_files import lists_of

HOUR, DAY = 3600.0, 86400.0
PRACTICE = EXAMPLE.parent / "practice"


def test_a_week_of_clocks_valves_and_hands() -> None:
    """By hand: 16 hours a day in quarters of an hour is 28 h a week, at 0.95 cubed of its watts;
    a flush of two minutes on Sunday; a can every second day at 8:00."""
    found = assess(load_plan((PRACTICE / "brick-terrace.json").read_bytes())).evaluation
    rows = {t.part: t for t in week_of(found)}
    pump, flush = rows["P2"], rows["R20"]
    assert pump.hours == pytest.approx(28.0)
    assert pump.energy == pytest.approx(28.0 * found.duties["P2"].power / 1000.0)
    assert pump.is_dense
    assert len(pump.stretches) == 7
    assert flush.stretches == ((6 * DAY + 7 * HOUR, 6 * DAY + 7 * HOUR + 120.0),)
    assert flush.hours == pytest.approx(120.0 / HOUR)
    yard = assess(load_plan((PRACTICE / "coopers-yard.json").read_bytes())).evaluation
    rows = {t.part: t for t in week_of(yard)}
    assert [a / DAY for a, _ in rows["W1"].stretches] == pytest.approx(
        [k + 8 / 24 for k in (0, 2, 4, 6)]
    )
    tank = yard.plan.vessel("T1")
    assert rows["Z1"].volume == pytest.approx(0.1 * tank.shape.holds(tank.water_depth or 0.0))


@given(on=st.floats(30.0, 50_000.0), off=st.floats(30.0, 50_000.0))
def test_stretches_lie_in_the_week_one_after_the_other(on: float, off: float) -> None:
    """Law: in order, apart, within the week; unless they run into one another, they add up to the
    hours told, but for the turn that the week's end cuts."""
    document = lists_of(EXAMPLE)
    document["pumps"][0]["switch"] = {"kind": "timer", "on": on, "off": off}
    (row,) = week_of(assess(plan_from_data(document)).evaluation)
    ends = [t for span in row.stretches for t in span]
    assert ends == sorted(ends)
    assert ends[0] >= 0.0
    assert ends[-1] <= WEEK
    assert all(b[0] > a[1] for a, b in pairwise(row.stretches))
    if not row.is_dense:
        total = sum(b - a for a, b in row.stretches)
        assert abs(total - row.hours * HOUR) <= on + 1.0
