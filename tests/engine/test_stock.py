"""How many fish there are now, by plan and log."""

import random
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bathys.edits import apply_edits
from bathys.evaluation import evaluate
from bathys.fieldlog import ENTRY_KINDS, Logged, rotas_kept, season_of, stock_edits, stock_of
from bathys.fieldlog.stock import count_at
from bathys.plan import load_plan
from bathys.quality.sowing import rotas_of
from tests.conftest import EXAMPLE

FOUND = evaluate(load_plan((Path(EXAMPLE).parent / "fish-and-leaves.json").read_bytes()))
FISH = FOUND.plan.fish[0]

_ages = st.floats(0.0, 400.0)
_counts = st.integers(1, 500)
entries = st.one_of(
    st.builds(
        lambda kind, count, age: Logged(kind, FISH.id, {"count": count}, age),
        st.sampled_from(["came", "deaths", "moved", "caught", "brood"]),
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
        for kind in ("came", "deaths", "moved", "caught")
    }
    assert (now.came, now.died, now.moved, now.caught) == tuple(own.values())
    assert now.count == max(FISH.count + 2 * own["came"] - sum(own.values()), 0)
    assert now.mass == pytest.approx(now.count * now.each)
    assert now.is_changed == any(own.values())
    assert count_at([e for e in rows if e.part == FISH.id], FISH.count, 0.0) == now.count
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


@pytest.mark.parametrize("kind", ["came", "moved", "brood", "counted", "graded", "caught"])
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


@given(st.lists(entries, max_size=12), st.integers(0, 900), st.floats(1.0, 300.0))
def test_a_count_puts_right_whatever_was_entered_before(
    rows: list[Logged], count: int, age: float
) -> None:
    """Only what came and went since then is told; before it, fish are counted backwards from it."""
    counted = Logged("counted", FISH.id, {"count": count}, age)
    (now,) = stock_of([*rows, counted], FOUND)
    (since,) = stock_of([counted, *(e for e in rows if e.age < age)], FOUND)
    assert (now.count, now.counted) == (since.count, count)
    own = [e for e in (*rows, counted) if e.part == FISH.id]
    assert count_at(own, FISH.count, age) == count
    before = [e for e in own if e.kind in ("came", "deaths", "moved", "caught")]
    a_day_before = count - sum(
        e.values["count"] * (1 if e.kind == "came" else -1)
        for e in before
        if age <= e.age < age + 1.0
    )
    assert count_at(own, FISH.count, age + 1.0) == max(a_day_before, 0)


def test_the_plan_takes_the_fish_of_today_and_has_nothing_more_to_take() -> None:
    """Number and weight; so few that none are left stay as they are, since a plan has no cohort of
    none."""
    rows = [
        Logged("netted", FISH.id, {"count": 5, "mass": 1.05}, 3.0),
        Logged("deaths", FISH.id, {"count": 4}, 2.0),
        Logged("caught", FISH.id, {"count": 6, "mass": 1.2}, 1.0),
    ]
    stock = stock_of(rows, FOUND)
    taken = evaluate(apply_edits(FOUND.plan, stock_edits(stock)))
    (fish,) = taken.plan.fish
    assert (fish.count, fish.mean_mass) == (FISH.count - 10, pytest.approx(0.21))
    (now,) = stock_of([*rows, Logged("counted", FISH.id, {"count": fish.count}, 0.0)], taken)
    assert not now.differs
    assert stock_edits([now]) == ()
    gone = stock_of([Logged("deaths", FISH.id, {"count": FISH.count}, 1.0)], FOUND)
    assert stock_edits(gone) == ()


def test_fish_that_were_caught_are_a_harvest() -> None:
    """By what they are called, with what they weighed and were worth."""
    rows = [
        Logged("caught", FISH.id, {"count": 3, "mass": 1.5, "value": 12.0}, 4.0),
        Logged("caught", FISH.id, {"count": 2}, 1.0),
    ]
    season = season_of(rows, FOUND)
    (cut,) = season.harvests
    assert (cut.what, cut.heads, cut.mass, cut.value) == (FISH.name, 5.0, 1.5, 12.0)
    assert season.grown[0].caught == 5


def test_a_rota_is_held_against_what_was_sown_and_cut() -> None:
    """Four weeks of it, once anything was sown before; few seeds leave places empty."""
    first = max(rotas_of(FOUND), key=lambda r: r.harvested).vessel

    def sown(count: int, age: float) -> Logged:
        return Logged("sown", first.id, {"what": "basil", "count": count}, age)

    assert rotas_kept([sown(500, 20.0)], FOUND) == ()
    cut = Logged("harvest", first.id, {"what": "basil", "count": 40, "mass": 2.0}, 5.0)
    old = Logged("harvest", first.id, {"what": "basil", "count": 900}, 60.0)
    (kept,) = rotas_kept([sown(10, 60.0), sown(7, 27.0), sown(5, 3.0), cut, old], FOUND)
    assert (kept.vessel, kept.sown, kept.harvested) == (first.id, 12.0, 40.0)
    crop = first.crop
    a_week = crop.grows.sites * crop.planted * first.shape.footprint / crop.grows.weeks_in_bed
    assert kept.plants == pytest.approx(4.0 * a_week)
    assert kept.leaves_gaps == (0.7 * 4.0 * a_week > 12.0)
    (full,) = rotas_kept([sown(10, 60.0), sown(100_000, 3.0)], FOUND)
    assert not full.leaves_gaps
