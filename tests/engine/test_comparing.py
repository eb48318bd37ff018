"""Fair comparison of two parts: against published worked examples, by hand, and laws."""

import math
from itertools import pairwise
from pathlib import Path

import pytest
from hypothesis import assume, example, given
from hypothesis import strategies as st

from bathys.evaluation import evaluate
from bathys.fieldlog import (
    TRIAL_MEASURES,
    Logged,
    compare,
    conditions_of,
    day_of_reading,
    due_parts,
    replicates_needed,
    samples_of,
    trial_days,
    welch,
)
from bathys.plan import load_plan
from tests.conftest import EXAMPLE

# Extra hours of sleep by two drugs, of ten patients each: "Student", Biometrika 6 (1908).
_ONE = (0.7, -1.6, -0.2, -1.2, -0.1, 3.4, 3.7, 0.8, 0.0, 2.0)
_TWO = (1.9, 0.8, 1.1, 0.1, -0.1, 4.4, 5.5, 1.6, 4.6, 3.4)


def test_welch_agrees_with_the_published_example() -> None:
    """Student's sleep data: t 1.8608, 17.776 degrees of freedom, p 0.07939 (widely printed)."""
    t, freedom, chance = welch(_ONE, _TWO)
    assert t == pytest.approx(1.8608, abs=1e-4)
    assert freedom == pytest.approx(17.776, abs=1e-3)
    assert chance == pytest.approx(0.07939, abs=1e-5)


def test_pairs_agree_with_the_published_example() -> None:
    """The same patients by pairs: t 4.0621 on 9, p 0.002833, the mean of the gaps 0.70 to 2.46."""
    days = range(10, 0, -1)
    found = compare(list(zip(days, _ONE, strict=True)), list(zip(days, _TWO, strict=True)))
    assert found is not None
    assert found.is_paired
    assert found.welch == pytest.approx(0.002833, abs=1e-6)
    assert (found.low, found.high) == (
        pytest.approx(0.7001142, abs=1e-6),
        pytest.approx(2.4598858, abs=1e-6),
    )
    assert found.is_told


def test_dealing_out_anew_agrees_with_counting_by_hand() -> None:
    """Of the 20 ways to deal 1 to 6 into threes, two part the means by 3."""
    found = compare([(9, 1.0), (6, 2.0), (3, 3.0)], [(8, 4.0), (4, 5.0), (0, 6.0)])
    assert found is not None
    assert not found.is_paired
    assert found.permuted == pytest.approx(2 / 20)
    assert found.is_doubted  # by the t test they differ; so few cannot bear it out


_Values = st.lists(st.floats(-100.0, 100.0), min_size=3, max_size=7)


@example([0.0, 0.0, 0.0, 1.0], [1.0, 1.0, 1.0])  # one of them does not vary
@given(_Values, _Values)
def test_turned_round_it_says_the_same(one: list[float], two: list[float]) -> None:
    first, second = ([(3 * n, v) for n, v in enumerate(values)] for values in (one, two))
    there, back = compare(first, second), compare(second, first)
    if there is None or back is None:
        assert there is back is None
        return
    assume(max(abs(v) for v in (*one, *two)) > 1e-3)
    assert there.low == pytest.approx(-back.high, rel=1e-6, abs=1e-9)
    assert there.welch == pytest.approx(back.welch, rel=1e-6, abs=1e-9)
    assert 0.0 < there.permuted <= 1.0
    assert there.low <= there.means[1] - there.means[0] + 1e-9
    assert there.high >= there.means[1] - there.means[0] - 1e-9


def test_too_few_or_all_alike_say_nothing() -> None:
    assert compare([(1, 1.0), (2, 2.0)], [(1, 1.0), (2, 2.0), (3, 3.0)]) is None
    same = [(n, 1.0) for n in range(4)]
    assert compare(same, same) is None


def test_how_many_it_takes() -> None:
    """16 of either for one spread, four times in five: Lehr's rule, n = 16/(δ/σ)²."""
    assert replicates_needed(0.2, 0.2) == math.ceil(15.7)
    assert replicates_needed(0.1, 0.2) == 4
    assert replicates_needed(0.01, 0.5) == 3


def test_what_counts_and_what_ought_to_be_equal() -> None:
    plan = load_plan((Path(EXAMPLE).parent / "fish-and-leaves.json").read_bytes())
    found = evaluate(plan)
    log = [
        Logged("harvest", "B1", {"what": "x", "mass": 2.0, "count": 4.0}, 9.0),
        Logged("harvest", "B1", {"what": "x", "mass": 3.0}, 2.0),
        Logged("harvest", "B2", {"what": "x", "mass": 5.0, "count": 5.0}, 2.0),
        Logged("harvest", "B1", {"what": "x", "mass": 7.0, "count": 7.0}, 90.0),
    ]
    assert samples_of(log, "B1", "harvest", 30.0) == [(9, 2.0), (2, 3.0)]
    assert samples_of(log, "B1", "head", 30.0) == [(9, 0.5)]
    rows = {row.what: row for row in conditions_of((found, "B1"), (found, "B2"))}
    assert rows["Medium"].is_equal
    assert not rows["Water that passes"].is_equal
    raft = {row.what: row for row in conditions_of((found, "B1"), (found, "G1"))}
    assert not raft["Medium"].is_equal
    assert set(TRIAL_MEASURES) == {"harvest", "head", "fish", "eaten"}


def test_a_trial_is_measured_daily_for_a_week_and_then_weekly() -> None:
    """Its days, counted by hand; fish every other week; a harvest when it comes."""
    days = [0, 1, 2, 3, 4, 5, 6, 7, 14, 21, 28]
    for last, following in pairwise(days):
        for age in (last, 0.5 * (last + following), following - 0.01):
            assert (trial_days("eaten", age).last, trial_days("eaten", age).next) == (
                last,
                following,
            )
    assert [day_of_reading("eaten", n) for n in (1, 7, 8, 9, 12)] == [0, 6, 7, 14, 35]
    assert [day_of_reading("fish", n) for n in (1, 2, 5)] == [0, 14, 56]
    assert (trial_days("fish", 13.9).last, trial_days("fish", 14.0).last) == (0, 14)
    assert (trial_days("photo", 8.0).last, trial_days("photo", 8.0).next) == (7, 14)
    for what in ("harvest", "head"):
        assert trial_days(what, 9.0).next is None
        assert day_of_reading(what, 4) is None
        assert due_parts(what, 9.0, [("B1", [])]) == ()


@given(
    st.sampled_from(("eaten", "fish", "photo")),
    st.floats(0.0, 400.0),
    st.lists(st.floats(0.0, 400.0), max_size=6),
)
def test_what_is_done_now_is_due_no_longer(what: str, age: float, ago: list[float]) -> None:
    """Until the next day comes; and to have done more never makes more due."""
    assert due_parts(what, age, [("B1", [*ago, 0.0]), ("B2", [])]) == ("B2",)
    following = trial_days(what, age).next
    assert following is not None
    assert due_parts(what, following, [("B1", [following - age])]) == ("B1",)
    if "B1" in due_parts(what, age, [("B1", ago)]):
        assert "B1" in due_parts(what, age, [("B1", ago[:-1])])
