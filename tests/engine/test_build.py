"""What is cut, drilled and marked: against brute force, bounds, and the plan it is of."""

import itertools
import json
import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.build import (
    BUCKET,
    BadStock,
    Piece,
    bases_of,
    cut_list,
    fitting_counts,
    holes_of,
    marks_of,
    pipe_pieces,
    readings_of,
)
from bathys.cli import main
from bathys.edits import Edit, apply_edits
from bathys.evaluation import evaluate
from bathys.plan import load_plan
from tests.conftest import EXAMPLE

LAYOUTS = sorted(EXAMPLE.parent.glob("*.json"))


def _fewest(lengths: list[int], stock: int, kerf: int) -> int:
    """By trying every way to part the pieces."""
    for bins in range(1, len(lengths) + 1):
        for places in itertools.product(range(bins), repeat=len(lengths)):
            used = [0] * bins
            for length, place in zip(lengths, places, strict=True):
                used[place] += length + kerf
            if all(u <= stock + kerf for u in used):
                return bins
    raise AssertionError("a piece is longer than the stock")


@settings(max_examples=40, deadline=None)
@given(st.lists(st.integers(80, 2900), min_size=1, max_size=6), st.integers(0, 6))
def test_few_pieces_take_the_fewest_stock_lengths(lengths: list[int], kerf: int) -> None:
    """As brute force says; every piece once, to the millimetre, and what is left adds up."""
    pieces = [Piece(str(n), length / 1000.0) for n, length in enumerate(lengths)]
    found = cut_list(pieces, 3.0, kerf / 1000.0)
    assert len(found.stocks) == _fewest(lengths, 3000, kerf)
    assert found.is_least
    assert found.couplers == 0
    cut = sorted((p.name, round(1000.0 * p.length)) for s in found.stocks for p in s.pieces)
    assert cut == sorted((str(n), length) for n, length in enumerate(lengths))
    for stock in found.stocks:
        used = sum(round(1000.0 * p.length) + kerf for p in stock.pieces)
        # The last cut is saved where the stock is used up to its end.
        assert used - kerf <= 3000
        assert round(1000.0 * stock.left) == max(3000 + kerf - used, 0)


def test_longest_first_is_not_good_enough_and_is_mended() -> None:
    """Longest first takes three of 10 for 5, 4, 4, 3, 2 and 2, where two hold them all."""
    pieces = [Piece(str(n), 0.1 * size) for n, size in enumerate((5, 4, 4, 3, 2, 2))]
    found = cut_list(pieces, 1.0, 0.0)
    assert len(found.stocks) == 2
    assert found.is_least
    assert math.fsum(s.left for s in found.stocks) == pytest.approx(0.0)


@settings(max_examples=30, deadline=None)
@given(st.lists(st.floats(0.05, 9.0), min_size=1, max_size=60), st.floats(1.0, 6.0))
def test_many_pieces_keep_their_length_and_tell_how_few_it_could_be(
    lengths: list[float], stock: float
) -> None:
    """Long ones are joined of whole stocks with a coupler each; never fewer than what they hold."""
    found = cut_list([Piece(f"R{n}", x) for n, x in enumerate(lengths)], stock, 0.003)
    cut = math.fsum(p.length for s in found.stocks for p in s.pieces)
    assert math.fsum(lengths) <= cut + 1e-9
    assert cut <= math.fsum(lengths) + 0.001 * (len(lengths) + found.couplers)
    assert found.least <= len(found.stocks) <= 2 * found.least
    assert sum(len(s.pieces) for s in found.stocks) == len(lengths) + found.couplers


def test_a_stock_that_is_no_longer_than_a_cut_is_refused() -> None:
    with pytest.raises(BadStock, match="longer than a cut"):
        cut_list([Piece("R1", 0.5)], 0.003, 0.003)
    assert cut_list([], 3.0, 0.003).stocks == ()


@pytest.mark.parametrize("path", LAYOUTS, ids=lambda p: p.stem)
def test_every_pipe_hole_and_mark_of_a_layout_is_told_once(path: object) -> None:
    """Pipe as long as the runs are; one hole for each port that a run joins and each way out
    through a wall or floor; marks and bases as the balance and the plan say."""
    plan = load_plan(path.read_bytes())  # type: ignore[attr-defined]
    found = evaluate(plan)
    needs = pipe_pieces(found)
    assert math.fsum(n.length for n in needs) == pytest.approx(
        math.fsum(r.length for r in found.runs.values()), abs=0.001 * 2 * len(plan.runs)
    )
    holes = holes_of(found)
    assert len({(h.vessel.id, h.run.id, h.name) for h in holes}) == len(holes)
    ports = {f"{v.id}.{p.name}" for v in plan.vessels for p in v.ports if p.height < v.shape.height}
    joined = {place for r in plan.runs for place in (r.start, r.end)} & ports
    assert {f"{h.vessel.id}.{h.name}" for h in holes} >= joined
    for hole in holes:
        assert hole.over_datum == pytest.approx(hole.vessel.floor_height + hole.height)
        assert hole.pipe > hole.run.bore.inside
    for mark in marks_of(found):
        levels, floor = found.vessels[mark.vessel.id].levels, mark.vessel.floor_height
        assert mark.low == pytest.approx(levels.low - floor)
        assert mark.high >= mark.low
    bases = bases_of(found)
    assert [b.height for b in bases] == sorted(b.height for b in bases)
    assert all((b.dug > 0.0) == b.is_dug_in for b in bases)
    bought = sum(f.count for f in fitting_counts(found))
    assert bought >= sum(f.count for r in plan.runs for f in r.fittings)


def test_digging_a_sump_deeper_is_more_earth_and_moves_its_holes() -> None:
    plan = load_plan((EXAMPLE.parent / "small-settler.json").read_bytes())
    floor = plan.vessel("S1").floor_height
    deeper = apply_edits(plan, [Edit("vessels.S1.floor_height", floor - 0.1)])
    before, after = (
        next(b for b in bases_of(evaluate(p)) if b.vessel.id == "S1") for p in (plan, deeper)
    )
    area = plan.vessel("S1").shape.footprint
    assert after.dug - before.dug >= 0.1 * area
    holes = [
        {h.name: h.over_datum for h in holes_of(evaluate(p)) if h.vessel.id == "S1"}
        for p in (plan, deeper)
    ]
    assert holes[0]
    assert all(holes[1][n] == pytest.approx(z - 0.1) for n, z in holes[0].items())


def test_the_first_days_readings_are_those_of_the_plan() -> None:
    """A bucket by arithmetic, a cycle as the bed's figures say, levels of tank and sump."""
    found = evaluate(load_plan(EXAMPLE.read_bytes()))
    rows = {(r.what, r.part): r for r in readings_of(found)}
    duty = found.duties["P1"]
    (delivery,) = duty.deliveries
    assert rows["bucket", delivery.run].expected == pytest.approx(BUCKET / delivery.flow)
    assert rows["watts", "P1"].expected == duty.power
    cycle = found.beds[0].cycle
    assert cycle.fill_time is not None
    assert cycle.drain_time is not None
    assert rows["cycle", "B1"].expected == pytest.approx(cycle.fill_time + cycle.drain_time)
    tank = found.vessels["T1"]
    floor = tank.vessel.floor_height
    assert rows["cut", "T1"].expected == pytest.approx(tank.levels.at_rest - floor)
    assert rows["low", "T1"].expected < rows["high", "T1"].expected
    assert all(r.low < r.expected < r.high for r in rows.values())


def test_the_command_prints_what_the_page_tells(capsys: pytest.CaptureFixture[str]) -> None:
    """Text and JSON of the raft line; longer stock, fewer lengths; a length that cannot be."""
    path = str(EXAMPLE.parent / "raft-line.json")
    assert main(["build", path]) == 0
    text = capsys.readouterr().out
    assert "in the floor" in text
    assert "R1 level" in text
    counts = []
    for stock in ("3 m", "20 ft"):
        assert main(["build", "--json", "--stock", stock, path]) == 0
        data = json.loads(capsys.readouterr().out)
        counts.append(sum(len(p["stocks"]) for p in data["pipes"] if p["stocks"] is not None))
        assert {h["vessel"] for h in data["holes"]} >= {"T1", "C1", "G1"}
    assert counts[1] < counts[0]
    for wrong in ("20 m", "a stick"):
        with pytest.raises(SystemExit):
            main(["build", "--stock", wrong, path])
