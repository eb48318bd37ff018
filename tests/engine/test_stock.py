"""How many fish there are now, by plan and log."""

import random
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bathys.evaluation import evaluate
from bathys.fieldlog import ENTRY_KINDS, Logged, season_of, stock_of
from bathys.plan import load_plan
from tests.conftest import EXAMPLE

FOUND = evaluate(load_plan((Path(EXAMPLE).parent / "fish-and-leaves.json").read_bytes()))
FISH = FOUND.plan.fish[0]

_ages = st.floats(0.0, 400.0)
_counts = st.integers(1, 500)
entries = st.one_of(
    st.builds(
        lambda kind, count, age: Logged(kind, FISH.id, {"count": count}, age),
        st.sampled_from(["came", "deaths", "moved", "brood"]),
        _counts,
        _ages,
    ),
    st.builds(
        lambda count, each, age: Logged(
            "netted", FISH.id, {"count": count, "mass": count * each}, age
        ),
        _counts,
        st.floats(0.001, 2.0),
        _ages,
    ),
    st.builds(lambda age: Logged("deaths", "another", {"count": 7}, age), _ages),
)


@given(st.lists(entries, max_size=15), st.randoms())
def test_fish_are_counted_whatever_the_order(rows: list[Logged], dice: random.Random) -> None:
    """What came less what died and went, and never fewer than none; others' fish do not count."""
    (now,) = stock_of(rows, FOUND)
    own = {
        kind: sum(e.values["count"] for e in rows if e.kind == kind and e.part == FISH.id)
        for kind in ("came", "deaths", "moved")
    }
    assert (now.came, now.died, now.moved) == (own["came"], own["deaths"], own["moved"])
    assert now.count == max(FISH.count + own["came"] - own["deaths"] - own["moved"], 0)
    assert now.mass == pytest.approx(now.count * now.each)
    assert now.is_changed == any(own.values())
    distinct = list({(e.kind, e.age): e for e in rows}.values())
    mixed = distinct[:]
    dice.shuffle(mixed)
    assert stock_of(mixed, FOUND) == stock_of(distinct, FOUND)


def test_the_last_weighing_tells_the_mass_and_before_it_the_plan() -> None:
    (planned,) = stock_of([], FOUND)
    assert (planned.count, planned.each) == (FISH.count, FISH.mean_mass)
    assert not planned.is_weighed
    assert planned.fry is None
    rows = [
        Logged("netted", FISH.id, {"count": 10, "mass": 2.0}, 30.0),
        Logged("netted", FISH.id, {"count": 5, "mass": 2.0}, 2.0),
        Logged("brood", FISH.id, {"what": "eggs", "count": 300}, 9.0),
        Logged("brood", FISH.id, {"what": "fry", "count": 120}, 3.0),
    ]
    (now,) = stock_of(rows, FOUND)
    assert now.each == pytest.approx(0.4)
    assert now.is_weighed
    assert now.fry == 120


def test_fish_that_came_between_two_weighings_count_half() -> None:
    """As those that died do: 0.05 kg each of all, and of half of those that came (arithmetic)."""
    rows = [
        Logged("netted", FISH.id, {"count": 10, "mass": 1.0}, 40.0),
        Logged("netted", FISH.id, {"count": 10, "mass": 1.5}, 10.0),
        Logged("feed", FISH.id, {"mass": 3.0}, 20.0),
        Logged("came", FISH.id, {"count": 20}, 25.0),
    ]
    (grown,) = season_of(rows, FOUND).grown
    assert grown.conversion == pytest.approx(3.0 / (0.05 * (FISH.count + 10)))


@pytest.mark.parametrize("kind", ["came", "moved", "brood"])
def test_what_is_entered_of_fish_is_entered_at_fish(kind: str) -> None:
    about = ENTRY_KINDS[kind]
    assert list(about.parts(FOUND)) == [c.id for c in FOUND.plan.fish]
    assert about.group == "Fish"
    assert about.how


def test_more_deaths_than_fish_leave_none() -> None:
    """A log that counts wrongly comes to no fish and no mass, not to fewer than none."""
    rows = [Logged("deaths", FISH.id, {"count": FISH.count + 5}, 1.0)]
    (now,) = stock_of(rows, FOUND)
    assert (now.count, now.mass, now.died) == (0, 0.0, FISH.count + 5)


def test_every_cohort_has_its_own_count() -> None:
    """Those of a plan with several stand in its order."""
    path = next(
        p
        for p in sorted(Path(EXAMPLE).parent.glob("**/*.json"))
        if len(load_plan(p.read_bytes()).fish) > 1
    )
    found = evaluate(load_plan(path.read_bytes()))
    last = found.plan.fish[-1]
    told = stock_of([Logged("came", last.id, {"count": 3}, 1.0)], found)
    assert [row.cohort for row in told] == [c.id for c in found.plan.fish]
    assert [row.came for row in told] == [0] * (len(told) - 1) + [3]
