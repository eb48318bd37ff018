"""Trials of a file beside what the engine expects: pipe by hand, siphon, settler, bad rows."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bathys.validity import (
    CHECKED,
    TRIAL_KINDS,
    TrialRow,
    pool,
    read_trials,
    trial_template,
)


def test_a_pipe_is_told_as_by_hand() -> None:
    """Darcy–Weisbach with Swamee–Jain's friction factor (1976) and Crane's K of mouth and end."""
    bore, length, head = 0.032, 2.0, 0.4
    flow = 1e-3
    for _ in range(60):
        speed = flow / (math.pi * bore**2 / 4.0)
        reynolds = speed * bore / 1.004e-6
        friction = 0.25 / math.log10(1.5e-6 / bore / 3.7 + 5.74 / reynolds**0.9) ** 2
        speed = math.sqrt(2 * 9.80665 * head / (friction * length / bore + 1.5))
        flow = speed * math.pi * bore**2 / 4.0
    litres = 3.6e6 * flow
    text = trial_template("drain") + f"32,2,0,400,10,{36000.0 / litres}\n"
    ((row,), wrong) = read_trials("drain", text.encode())
    assert wrong == []
    assert row.measured == pytest.approx(litres)
    assert 0.5 * (row.low + row.high) == pytest.approx(litres, rel=0.02)
    assert row.is_within


def test_a_siphon_that_starts_at_froude_031_is_expected() -> None:
    """V/√(g d) by hand: 25 mm, 0.31."""
    bore = 0.025
    flow = 0.31 * math.sqrt(9.80665 * bore) * math.pi * bore**2 / 4.0 * 3.6e6
    data = f"standpipe_mm;starts_l_h\n25;{flow:.3f}\n25;{3 * flow:.3f}\n".replace(".", ",")
    rows, wrong = read_trials("siphon", ("\ufeff" + data).encode())
    assert wrong == []
    assert rows[0].measured == pytest.approx(0.31, rel=1e-3)
    assert [r.is_within for r in rows] == [True, False]


def test_a_slower_settler_is_expected_to_catch_more() -> None:
    text = trial_template("settler") + "600,500,80,20\n600,5000,80,20\n"
    (slow, fast), _ = read_trials("settler", text.encode())
    assert slow.measured == fast.measured == pytest.approx(80.0)
    assert slow.low > fast.low
    assert 0.0 <= fast.low <= fast.high <= slow.high <= 100.0


@pytest.mark.parametrize(
    ("row", "why"),
    [
        ("a,500,80,20", "is no number"),
        ("600,,80,20", "is no number"),
        ("600,-5,80,20", "cannot be"),
        ("nan,500,80,20", "cannot be"),
        ("=1+1,500,80,20", "formula"),
    ],
)
def test_a_row_that_is_none_is_told(row: str, why: str) -> None:
    rows, wrong = read_trials("settler", (trial_template("settler") + row + "\n").encode())
    assert rows == []
    assert wrong[0].row == 2
    assert why in wrong[0].sentence


@pytest.mark.parametrize("kind", list(TRIAL_KINDS))
def test_a_file_that_is_none_is_told(kind: str) -> None:
    assert read_trials(kind, b"\xff\x00\xfe")[1][0].row == 0
    assert "first row" in read_trials(kind, b"x\n1\n")[1][0].sentence
    assert len(TRIAL_KINDS[kind].how) > 1


def test_what_was_checked_says_against_what() -> None:
    assert all(row.subject and row.against and row.bound for row in CHECKED)


def _trials(*shares: float) -> list[TrialRow]:
    """Each so many times the middle of a band of 12 % to either side."""
    return [TrialRow(n, 100.0 * share, 88.0, 112.0) for n, share in enumerate(shares, start=2)]


def test_people_count_once_and_three_give_an_interval() -> None:
    """Student's interval of 0.9, 1.0 and 1.1: t of 0.975 with two degrees of freedom is 4.303 in
    the printed table, so 1 ± 4.303 × 0.1 / √3."""
    told = pool({"a": _trials(0.8, 1.0), "b": _trials(1.0), "c": _trials(*[1.1] * 50)})
    assert told is not None
    assert (told.trials, told.people) == (53, 3)
    assert told.within == 52
    assert told.ratio == pytest.approx(1.0)
    assert (told.low, told.high) == (
        pytest.approx(1.0 - 4.303 * 0.1 / math.sqrt(3.0), abs=1e-4),
        pytest.approx(1.0 + 4.303 * 0.1 / math.sqrt(3.0), abs=1e-4),
    )
    assert (told.least, told.most) == (pytest.approx(0.88), pytest.approx(1.12))


@pytest.mark.parametrize(
    ("shares", "verdict"),
    [
        ((1.0, 1.0), "unsure"),
        ((0.98, 1.0, 1.02), "agrees"),
        ((1.05, 1.06, 1.07), "aside"),
        ((1.05, 1.06, 1.5), "agrees"),
        ((1.3, 1.31, 1.32), "off"),
        ((0.7, 0.71, 0.72), "off"),
    ],
)
def test_a_band_is_called_wrong_only_beyond_chance(shares: tuple[float, ...], verdict: str) -> None:
    told = pool({str(n): _trials(share) for n, share in enumerate(shares)})
    assert told is not None
    assert told.verdict == verdict


def test_no_trials_say_nothing() -> None:
    assert pool({}) is None
    assert pool({"a": []}) is None


_shares = st.lists(st.floats(0.2, 5.0), min_size=1, max_size=6)


@given(st.lists(_shares, min_size=1, max_size=8), st.floats(0.01, 100.0))
def test_pooling_knows_neither_units_nor_who_repeats(
    people: list[list[float]], unit: float
) -> None:
    """In another unit the ratio is the same; somebody who sends the same trials twice moves
    nothing but the count; and the mean lies between the least and the greatest."""
    own = {str(n): _trials(*shares) for n, shares in enumerate(people)}
    told = pool(own)
    assert told is not None
    scaled = {
        who: [TrialRow(r.row, unit * r.measured, unit * r.low, unit * r.high) for r in rows]
        for who, rows in own.items()
    }
    other = pool(scaled)
    assert other is not None
    assert other.ratio == pytest.approx(told.ratio)
    assert (other.least, other.most) == (pytest.approx(told.least), pytest.approx(told.most))
    twice = pool(own | {"0": [*own["0"], *own["0"]]})
    assert twice is not None
    assert twice.ratio == pytest.approx(told.ratio)
    assert twice.people == told.people == len(people)
    assert twice.trials == told.trials + len(people[0])
    every = [share for shares in people for share in shares]
    assert min(every) - 1e-9 <= told.ratio <= max(every) + 1e-9
    assert (told.low is None) == (len(people) < 3)


@given(st.lists(st.floats(0.9, 1.1), min_size=3, max_size=12))
def test_more_people_who_agree_make_the_interval_narrower(shares: list[float]) -> None:
    """The same answers from twice as many people: the mean stays, its interval shrinks by more
    than the root of two (Student's factor falls too)."""
    once = pool({str(n): _trials(share) for n, share in enumerate(shares)})
    twice = pool({str(n): _trials(share) for n, share in enumerate([*shares, *shares])})
    assert once is not None
    assert twice is not None
    assert twice.ratio == pytest.approx(once.ratio)
    assert once.low is not None
    assert twice.low is not None
    assert twice.ratio - twice.low <= (once.ratio - once.low) / math.sqrt(2.0) + 1e-9


def test_the_least_flow_that_starts_is_expected_alike_at_every_bore() -> None:
    """The Froude number has no size: 15 to 60 mm, each at 0.31, lie alike in the band."""
    rows = [
        f"{bore},{0.31 * math.sqrt(9.80665 * bore / 1e3) * math.pi * (bore / 1e3) ** 2 / 4 * 3.6e6}"
        for bore in (15, 25, 40, 60)
    ]
    trials, wrong = read_trials("siphon", (trial_template("siphon") + "\n".join(rows)).encode())
    assert wrong == []
    assert [t.measured for t in trials] == pytest.approx([0.31] * 4, rel=1e-6)
    assert len({(t.low, t.high) for t in trials}) == 1
