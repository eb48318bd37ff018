"""The log beside the plan: what entries say, what is expected, what is news."""

import itertools
import math
from pathlib import Path

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from bathys.edits import Edit, apply_edits
from bathys.evaluation import Evaluation, evaluate
from bathys.fieldlog import (
    ENTRY_KINDS,
    BadEntry,
    Expected,
    Logged,
    Measured,
    away_days,
    due_jobs,
    ewma_news,
    expected_of,
    fish_bounds_of,
    held_against,
    measured_of,
    read_entry,
    season_of,
    trend_of,
)
from bathys.plan import load_plan
from bathys.routine import jobs_of

EXAMPLES = sorted(Path("examples").glob("*.json"))

MONTGOMERY = (
    9.45, 7.99, 9.29, 11.66, 12.16, 10.18, 8.04, 11.46, 9.20, 10.34, 9.03, 11.47, 10.51, 9.40,
    10.08, 9.37, 10.62, 10.31, 8.52, 10.84, 10.90, 9.33, 12.29, 11.50, 10.60, 11.08, 10.38, 11.62,
    11.31, 10.52,
)  # fmt: skip
"""Montgomery, Introduction to Statistical Quality Control, table 9.1 (from memory)."""


def _found(name: str) -> Evaluation:
    return evaluate(load_plan((Path("examples") / f"{name}.json").read_bytes()))


def test_the_chart_is_that_of_the_textbook() -> None:
    """Its example with λ 0.1 and L 2.7 about 10: the averages of the table, limits that grow to
    10 ± 0.62, and none beyond them before the process has gone up (Montgomery, chapter 9; from
    memory)."""
    points = ewma_news(MONTGOMERY, 10.0, 1.0, weight=0.1, width=2.7)
    assert points[0].value == pytest.approx(9.945)
    assert points[1].value == pytest.approx(9.7495)
    assert points[0].high == pytest.approx(10.27)
    assert points[-1].high == pytest.approx(10.0 + 2.7 * math.sqrt(0.1 / 1.9), abs=1e-3)
    told = {5: 10.1253, 10: 10.0232, 20: 10.0108, 28: 10.5731, 29: 10.6468}
    assert {n: round(points[n - 1].value, 4) for n in told} == told
    assert next(n for n, p in enumerate(points, start=1) if p.is_news) == 29


@given(st.floats(-5.0, 5.0), st.floats(1.0, 100.0), st.lists(st.floats(0.0, 50.0), min_size=3))
def test_a_straight_line_is_found_again(slope: float, start: float, days: list[float]) -> None:
    """What lies on a line has that line; its pace leads where it leads."""
    assume(abs(slope) > 1e-3)
    values = [start + slope * d for d in days]
    trend = trend_of(days, values)
    if trend is None:
        assert max(days) - min(days) < 3.0
        return
    assert trend.first == pytest.approx(start + slope * min(days), abs=1e-6)
    assert trend.last == pytest.approx(start + slope * max(days), abs=1e-6)
    ahead = trend.days_until(trend.last + 7.0 * slope)
    assert ahead == pytest.approx(7.0, rel=1e-3)
    assert trend.days_until(trend.first - 7.0 * slope) is None


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda p: p.stem)
def test_what_is_measured_as_planned_is_as_planned(path: Path) -> None:
    """A bucket filled by the planned flow, a level, a cycle and watts lie within; those half as
    large again do not."""
    found = evaluate(load_plan(path.read_bytes()))
    for kind in ("bucket", "cycle", "level", "watts"):
        for part in ENTRY_KINDS[kind].parts(found):
            expected = expected_of(kind, part, found)
            if expected is None:
                assert kind in ("bucket", "cycle")  # too fast to be timed, or no steady cycle
                continue
            for times, wanted in ((1.0, {"within"}), (2.0, {"at the edge", "outside"})):
                value = times * expected.value
                said = {
                    "bucket": {"volume": 0.01, "times": [0.01 / value] * 3},
                    "cycle": {"period": value},
                    "level": {"below": value},
                    "watts": {"power": value},
                }[kind]
                measured = measured_of(kind, part, said, found)
                assert measured is not None
                if times == 1.0 or expected.value > 4.0 * expected.spread:
                    assert held_against(measured, expected)[1] in wanted


def test_several_buckets_are_surer_than_one() -> None:
    found = _found("split-flow")
    part = next(ENTRY_KINDS["bucket"].parts(found))
    once, often = (
        measured_of("bucket", part, {"volume": 0.01, "times": times}, found)
        for times in ([30.0], [30.0, 29.4, 30.6])
    )
    assert once is not None and often is not None
    assert often.value == pytest.approx(once.value) == 0.01 / 30.0
    assert often.spread < once.spread


@given(st.floats(0.1, 9.0), st.floats(0.1, 9.0), st.floats(0.01, 3.0), st.floats(0.01, 3.0))
def test_two_figures_that_change_places_differ_as_much(
    one: float, two: float, narrow: float, wide: float
) -> None:
    there, verdict = held_against(Measured(one, narrow), Expected(two, wide))
    back, again = held_against(Measured(two, wide), Expected(one, narrow))
    assert there == pytest.approx(-back)
    assert verdict == again


WRONG = (
    ("bucket", {"volume": "10 L", "times": "fast"}, "times"),
    ("bucket", {"volume": "10 L", "times": ""}, "times"),
    ("bucket", {"volume": "2 kg", "times": "30"}, "volume"),
    ("bucket", {"volume": "10 L", "times": " ".join(["30"] * 11)}, "times"),
    ("deaths", {"count": "1.5"}, "count"),
    ("water", {}, "temperature"),
    ("water", {"ph": "71"}, "ph"),
    ("level", {"below": "-4 cm"}, "below"),
    ("note", {"words": " "}, "words"),
)


@pytest.mark.parametrize(("kind", "typed", "field"), WRONG)
def test_what_says_nothing_is_told_beside_its_box(
    kind: str, typed: dict[str, str], field: str
) -> None:
    with pytest.raises(BadEntry) as bad:
        read_entry(ENTRY_KINDS[kind], typed, "metric")
    assert field in bad.value.errors
    assert bad.value.errors[field].endswith((".", "s", "h"))


def test_an_entry_is_read_in_either_units() -> None:
    values = read_entry(ENTRY_KINDS["bucket"], {"volume": "2 gal", "times": "12,5; 13"}, "us")
    assert values["volume"] == pytest.approx(2 * 3.785411784e-3)
    assert values["times"] == [12.5, 13.0]
    some = read_entry(ENTRY_KINDS["water"], {"ph": "7.2", "temperature": "75 °F"}, "us")
    assert set(some) == {"ph", "temperature"}
    assert some["temperature"] == pytest.approx(23.89, abs=0.01)


def test_a_job_is_due_by_when_it_was_done() -> None:
    """One just done is as far off as its interval; one never done counts from when it began."""
    found = _found("fish-and-leaves")
    jobs = {job.key: job.days for job in jobs_of(found)}
    rows = {row.job.key: row for row in due_jobs(found, {"feed": 0.0}, 400.0)}
    assert rows.keys() == jobs.keys()
    assert rows["feed"].left == jobs["feed"]
    assert rows["protection"].left == jobs["protection"] - 400.0
    late = [row.left for row in due_jobs(found, {}, 400.0)]
    assert late == sorted(late)


def test_what_lies_between_two_steps_of_a_kit_is_their_middle_with_its_spread() -> None:
    """(b − a)/√12: the spread of what may lie anywhere between."""
    said = read_entry(ENTRY_KINDS["water"], {"nitrate": "20-40", "ph": "6,8 – 7.2"}, "metric")
    assert said["nitrate"] == pytest.approx(30.0)
    assert said["nitrate_spread"] == pytest.approx(20.0 / math.sqrt(12.0))
    assert said["ph"] == pytest.approx(7.0)
    for wrong in ("40-20", "20-", "20-4000"):
        with pytest.raises(BadEntry):
            read_entry(ENTRY_KINDS["water"], {"nitrate": wrong}, "metric")


@pytest.mark.parametrize(
    ("kind", "typed", "told"),
    [
        ("feed", {"mass": "120"}, "tenth of what these fish weigh when grown.*type 120 g"),
        ("feed", {"spoons": "3"}, "tenth of what these fish weigh"),
        ("netted", {"count": "10", "mass": "4500"}, "three times what such a fish.*type 4500 g"),
        ("caught", {"count": "2", "mass": "900 kg"}, "three times what such a fish weighs.*each.$"),
    ],
)
def test_grams_typed_for_kilograms_are_asked_about(
    kind: str, typed: dict[str, str], told: str
) -> None:
    """The same figures in grams are taken; so is all of fish that the plan has not."""
    found = _found("fish-and-leaves")
    about, fish = ENTRY_KINDS[kind], fish_bounds_of(found.plan, found.plan.fish[0].id)
    with pytest.raises(BadEntry, match=told) as bad:
        read_entry(about, typed, "metric", 20.0, fish)
    assert set(bad.value.errors) <= set(typed)  # beside what was typed
    with pytest.raises(BadEntry) as bad:
        read_entry(about, typed, "us", 20.0, fish)
    assert "grams" not in str(bad.value)
    in_grams = {k: f"{v.split()[0]} g" if k == "mass" else v for k, v in typed.items()}
    assert read_entry(about, in_grams, "metric", 0.02, fish)["mass"] > 0.0
    assert read_entry(about, typed, "metric", 20.0, fish_bounds_of(found.plan, "none"))


def test_feed_is_told_by_spoons_once_one_was_weighed() -> None:
    feed = ENTRY_KINDS["feed"]
    assert read_entry(feed, {"spoons": "3"}, "metric", 0.012)["mass"] == pytest.approx(0.036)
    assert read_entry(feed, {"spoons": "3", "mass": "50 g"}, "metric", 0.012)["mass"] == 0.05
    for typed, spoon, field in (({"spoons": "3"}, None, "spoons"), ({"eaten": "60"}, 0.01, "mass")):
        with pytest.raises(BadEntry) as bad:
            read_entry(feed, typed, "metric", spoon)
        assert list(bad.value.errors) == [field]


def test_every_kind_has_its_fields_and_a_place_in_some_example() -> None:
    """What taps fill are fields of the kind; names are said once; rain is for the open."""
    found = [evaluate(load_plan(path.read_bytes())) for path in EXAMPLES]
    dry = [f for f in found if not f.plan.site.is_rained_on]
    assert dry
    assert not any(list(ENTRY_KINDS["rain"].parts(f)) for f in dry)
    found += [evaluate(apply_edits(found[0].plan, [Edit("site.storm_depth", 0.04)]))]
    for kind in ENTRY_KINDS.values():
        names = [f.name for f in kind.fields]
        assert len(set(names)) == len(names)
        assert {field for _, field in kind.taps} <= set(names)
        assert any(list(kind.parts(f)) for f in found), kind.key


@given(st.integers(0, 30), st.integers(1, 40), st.floats(0.0, 60.0))
def test_while_away_each_job_falls_due_after_its_interval(
    first: int, count: int, since: float
) -> None:
    """What comes every day comes every day; whatever comes twice lies its interval apart; what is
    overdue comes on the first day, unless it is done before."""
    rows = due_jobs(_found("split-flow"), {}, since)
    days = away_days(rows, first, count)
    assert len(days) == count
    for row in rows:
        at = [n for n, jobs in enumerate(days) if row.job in jobs]
        assert [b - a for a, b in itertools.pairwise(at)] == [row.job.days] * (len(at) - 1)
        if row.job.days == 1 and row.left <= first:
            assert at == list(range(count))
        if count >= row.job.days and row.left <= first + count - 1:
            assert at
        if first == 0 and row.left < 0.0:
            assert at[0] == 0


def test_a_season_is_summed_by_hand() -> None:
    """Twenty fish from 100 to 150 g on 1.25 kg of feed, of which 50 g were left: 1.2 kg for 1 kg
    (arithmetic). Feed before the first weighing does not count; what died meanwhile counts half."""
    found = _found("raft-line")
    fish = found.plan.fish[0]
    count = fish.count

    def fed(mass: float, age: float, **more: float) -> Logged:
        return Logged("feed", fish.id, {"mass": mass, **more}, age)

    def netted(mass: float, age: float) -> Logged:
        return Logged("netted", fish.id, {"count": 5, "mass": 5 * mass}, age)

    entries = [
        fed(9.0, 50.0), netted(0.100, 40.0), fed(0.06 * count, 30.0, left=0.0),
        fed(0.01 * count, 20.0, left=0.01 * count), netted(0.150, 10.0), fed(1.0, 5.0),
        Logged("harvest", "B1", {"what": "Basil ", "count": 3, "mass": 0.2, "value": 4.0}, 3.0),
        Logged("harvest", "B1", {"what": "basil", "mass": 0.3}, 2.0),
        Logged("top_up", "S1", {"volume": 0.05}, 1.0),
        Logged("top_up", "S1", {"volume": 0.03}, 1.0),
    ]  # fmt: skip
    season = season_of(entries, found)
    (grown,) = season.grown
    assert grown.conversion == pytest.approx(0.06 * count / (0.05 * count))
    assert (grown.first, grown.last, grown.days) == pytest.approx((0.1, 0.15, 30.0))
    assert season.topped_up == pytest.approx(0.08)
    (basil,) = season.harvests
    assert (basil.what, basil.heads, basil.mass, basil.value) == ("Basil", 3.0, 0.5, 4.0)
    assert season.days == 50.0
    died = season_of([*entries, Logged("deaths", fish.id, {"count": 2}, 20.0)], found).grown[0]
    assert died.conversion == pytest.approx(0.06 * count / (0.05 * (count - 1)))
    near = season_of([netted(0.1, 5.0), netted(0.12, 1.0), fed(1.0, 3.0)], found).grown[0]
    assert near.conversion is None
    assert season_of([], found).feed == 0.0
