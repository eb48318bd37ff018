"""What is cut, drilled and marked: against brute force, bounds, and the plan it is of."""

import contextlib
import itertools
import json
import math
from collections import Counter
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from bathys.build import (
    BUCKET,
    BadStock,
    HoleChoice,
    HoleRefused,
    Piece,
    alternatives_of,
    bases_of,
    cables_of,
    choose_holes,
    covers_of,
    crowded_holes,
    cut_edges,
    cut_list,
    fitting_counts,
    holes,
    holes_of,
    lined_boxes,
    marks_of,
    pipe_pieces,
    raft_boards,
    readings_of,
    shopping_list,
    stack_of,
    stands_of,
    tote_cuts,
    walls_of,
)
from bathys.build.walls import wall_met
from bathys.cli import main
from bathys.drawing.drilling import drilling_pictures
from bathys.edits import Edit, EditRefused, apply_edits
from bathys.edits.containers import use_container
from bathys.evaluation import evaluate
from bathys.ground import footprint_of, placed
from bathys.kinds import model_named
from bathys.parts.wall_fittings import WALL_FITTINGS
from bathys.plan import Plan, dump_plan, load_plan, physics_hash
from bathys.shelf import Price, PriceList, pipe_item
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


def _fewest_beside(lengths: list[int], offcuts: list[int], stock: int, kerf: int) -> int:
    """So few stock lengths it takes beside offcuts, by trying every way."""

    def place(rest: list[int], free: list[int], bought: list[int]) -> int:
        if not rest:
            return len(bought)
        size, best = rest[0] + kerf, len(lengths) + 1
        for rooms in (free, bought):
            for n in {room: n for n, room in enumerate(rooms) if room >= size}.values():
                rooms[n] -= size
                best = min(best, place(rest[1:], free, bought))
                rooms[n] += size
        new = [*bought, stock + kerf - size]
        return min(best, place(rest[1:], free, new))

    return place(sorted(lengths, reverse=True), [x + kerf for x in offcuts], [])


@settings(max_examples=60, deadline=None)
@given(
    st.lists(st.integers(150, 1000), min_size=1, max_size=6),
    st.lists(st.integers(50, 1500), max_size=3),
    st.integers(0, 5),
)
@example([400, 400, 600], [600, 800], 0)
def test_offcuts_at_hand_are_used_before_anything_is_bought(
    lengths: list[int], offcuts: list[int], kerf: int
) -> None:
    """As few stock lengths as brute force buys beside them; every piece once, none longer than
    what it is cut from."""
    pieces = [Piece(str(n), length / 1000.0) for n, length in enumerate(lengths)]
    found = cut_list(pieces, 1.0, kerf / 1000.0, [x / 1000.0 for x in offcuts])
    assert len(found.stocks) == _fewest_beside(lengths, offcuts, 1000, kerf)
    assert found.is_least
    bars = (*found.offcuts, *found.stocks)
    cut = sorted((p.name, round(1000.0 * p.length)) for s in bars for p in s.pieces)
    assert cut == sorted((str(n), length) for n, length in enumerate(lengths))
    used = sorted(sum(round(1000 * p.length) + kerf for p in s.pieces) for s in found.offcuts)
    rooms = sorted(offcuts)[-len(used) :] if used else []
    assert all(length - kerf <= room for length, room in zip(used, rooms, strict=True))


def test_many_pieces_fill_offcuts_too() -> None:
    """Forty of 0.9 m and ten offcuts of 1.8: twenty of them lie in the offcuts, to the last
    millimetre, and the rest three to a length of 2.7."""
    pieces = [Piece(f"R{n}", 0.9) for n in range(40)]
    found = cut_list(pieces, 2.7, 0.0, [1.8] * 10)
    assert [len(s.pieces) for s in found.offcuts] == [2] * 10
    assert len(found.stocks) == found.least == 7


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


def test_a_published_set_of_rolls_is_cut_from_as_few_as_can_be() -> None:
    """The paper machine's 219 rolls of 13 widths from rolls of 5.6 m, a much published instance of
    the cutting-stock problem with a known optimum of 73 (from memory); longest first takes 82."""
    rolls = {
        1380: 22, 1520: 25, 1560: 12, 1710: 14, 1820: 18, 1880: 18, 1930: 20,
        2000: 10, 2050: 12, 2100: 14, 2140: 16, 2150: 18, 2200: 20,
    }  # fmt: skip
    pieces = [Piece(f"{w}", w / 1000.0) for w, count in rolls.items() for _ in range(count)]
    found = cut_list(pieces, 5.6, 0.0)
    assert len(found.stocks) == found.least == 73
    cut = Counter(round(1000.0 * p.length) for s in found.stocks for p in s.pieces)
    assert cut == rolls


def test_a_stock_that_is_no_longer_than_a_cut_is_refused() -> None:
    with pytest.raises(BadStock, match="longer than a cut"):
        cut_list([Piece("R1", 0.5)], 0.003, 0.003)
    assert cut_list([], 3.0, 0.003).stocks == ()


def _standing(part: Any) -> float:
    """Pipe that a siphon or an outlet is cut from, by its own heights [m]."""
    if part.kind == "bell":
        return float(part.rim_height + part.cap_height)
    if part.kind == "standpipe":
        return float(part.rim_height)
    return float(part.crest_height - part.intake_height) if part.kind == "lift" else 0.0


@pytest.mark.parametrize("path", LAYOUTS, ids=lambda p: p.stem)
def test_every_pipe_hole_and_mark_of_a_layout_is_told_once(path: object) -> None:
    """Pipe as long as the runs are; one hole for each port that a run joins and each way out
    through a wall or floor; marks and bases as the balance and the plan say."""
    plan = load_plan(path.read_bytes())  # type: ignore[attr-defined]
    found = evaluate(plan)
    needs = pipe_pieces(found)
    upright = math.fsum(_standing(part) for part in (*plan.siphons, *plan.outlets))
    assert math.fsum(n.length for n in needs) == pytest.approx(
        math.fsum(r.length for r in found.runs.values()) + upright, abs=0.001 * 2 * len(plan.runs)
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


@pytest.mark.parametrize("path", LAYOUTS, ids=lambda p: p.stem)
def test_no_two_holes_overlap_and_each_is_drawn_once(path: object) -> None:
    """Where nothing is chosen, each has a hole's width round it; a picture has each, measured."""
    plan = load_plan(path.read_bytes())  # type: ignore[attr-defined]
    found = evaluate(plan)
    assert crowded_holes(plan) == ()
    holes = holes_of(found)
    for one, two in itertools.combinations(holes, 2):
        if (one.vessel.id, one.side) == (two.vessel.id, two.side):
            apart = math.hypot(one.across - two.across, one.height - two.height)
            assert apart >= 0.5 * (one.wide + two.wide) + max(one.wide, two.wide) - 1e-6
    for hole in holes:
        assert 0.0 <= hole.across <= walls_of(hole.vessel.shape)[hole.side].width
        assert hole.fitting in hole.vessel.shape.WALL_FITTINGS
    pictures = drilling_pictures(found, "metric")
    assert sum(p.svg.count("<circle") for p in pictures) == len(holes)
    for picture in pictures:
        ElementTree.fromstring(picture.svg)  # noqa: S314 - made here


@settings(max_examples=40, deadline=None)
@given(st.floats(-math.pi, math.pi), st.floats(0.0, 359.0))
def test_a_hole_lies_where_its_run_comes_from(towards: float, turned: float) -> None:
    """The point of the wall that a side and a place in it tell is the one the run goes through: the
    corner from which it is measured, and the way round, of a box and of a round tank."""
    for name, vessel in (("stacked-pair", "B1"), ("stacked-pair", "T1")):
        plan = load_plan((EXAMPLE.parent / f"{name}.json").read_bytes())
        shell = plan.vessel(vessel).shape
        spot = placed(
            apply_edits(
                plan, [Edit(f"vessels.{vessel}.spot", {"x": 3.0, "y": 2.0, "turned": turned})]
            )
        )[vessel]
        x, y = 3.0 + math.cos(towards), 2.0 + math.sin(towards)
        side, across = wall_met(spot, ((3.0, 2.0), (x, y)), is_start=True)
        box_ = footprint_of(shell).bounds
        long, wide = box_[2], box_[3]
        corner, way = {
            "near": ((-long, -wide), (1.0, 0.0)),
            "right": ((long, -wide), (0.0, 1.0)),
            "far": ((long, wide), (-1.0, 0.0)),
            "left": ((-long, wide), (0.0, -1.0)),
        }[side]
        if walls_of(shell)["near"].has_corners:
            met = (corner[0] + across * way[0], corner[1] + across * way[1])
        else:
            begins = math.atan2(corner[1], corner[0])
            angle = begins + across / long
            met = (long * math.cos(angle), wide * math.sin(angle))
        at = math.atan2(met[1], met[0]) + math.radians(turned)
        assert math.cos(at - towards) == pytest.approx(1.0, abs=1e-4)


def test_what_is_chosen_of_a_hole_stays_and_what_cannot_be_is_refused() -> None:
    """A glass tank takes its own fitting only; a place beyond the side is none; flows stay."""
    plan = load_plan((EXAMPLE.parent / "split-flow.json").read_bytes())
    before = evaluate(plan)
    hole = next(h for h in holes_of(before) if not h.is_in_floor)
    after = choose_holes(plan, [HoleChoice(hole, "grommet", "left", 0.3)])
    now = next(
        h
        for h in holes_of(evaluate(after))
        if h.run == after.part(hole.run.id) and h.is_start is hole.is_start
    )
    assert (now.fitting, now.side, now.across, now.is_chosen) == ("grommet", "left", 0.3, True)
    assert physics_hash(after) == physics_hash(plan)
    assert load_plan(dump_plan(after)) == after
    with pytest.raises(HoleRefused, match="wide"):
        choose_holes(plan, [HoleChoice(hole, "grommet", "left", 9.0)])
    with pytest.raises(HoleRefused, match="suits"):
        choose_holes(plan, [HoleChoice(hole, "glass", "left", None)])
    with pytest.raises(HoleRefused, match="side"):
        choose_holes(plan, [HoleChoice(hole, "grommet", "above", None)])


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


def test_a_hole_that_cuts_the_rim_or_the_floor_is_told() -> None:
    """By hand: half of 76.2 mm over 590 mm is 28.1 mm more than a wall of 600 mm, and over 30 mm
    8.1 mm less than its floor; at 500 mm it cuts neither; over the rim there is no hole."""
    plan = load_plan((EXAMPLE.parent / "fish-and-leaves.json").read_bytes())
    told = []
    for height in (0.59, 0.03, 0.5, 0.6):
        moved = apply_edits(plan, [Edit("vessels.S1.ports.filter.height", height)])
        own = [c for c in cut_edges(moved) if c.vessel.id == "S1"]
        told += [(c.run.id, c.is_rim, round(c.by, 4)) for c in own] or [None]
    assert told == [("R10", True, 0.0281), ("R10", False, 0.0081), None, None]


def _totes(*heights: float, upside_down: tuple[int, ...] = ()) -> Plan:
    """A plan of vessels cut from totes, so high, of which nothing else is asked."""
    plan = load_plan((EXAMPLE.parent / "raft-line.json").read_bytes())
    model = model_named("shells", "tote")
    vessels = tuple(
        plan.vessels[0].model_copy(
            update={
                "id": f"B{number}",
                "shape": model(
                    height=tall, cut="upside_down" if number in upside_down else "top_off"
                ),
            }
        )
        for number, tall in enumerate(heights)
    )
    return plan.model_copy(update={"vessels": vessels})


@pytest.mark.parametrize(
    ("heights", "upside_down", "totes", "left"),
    [
        ((0.35, 0.35), (), 1, 0.205),  # two beds of one tote, the middle wasted
        ((0.9, 0.35), (), 2, None),  # a tank leaves no bed
        ((0.55, 0.35), (), 1, 0.005),
        ((0.55, 0.37), (), 2, None),  # together higher than a tote
        ((0.5, 0.42), (), 2, None),  # both must be the foot
        ((0.5, 0.38), (1,), 1, 0.025),
        ((0.3, 0.3), (0, 1), 2, None),  # both are tops
        ((0.3, 0.3, 0.3, 0.3, 0.3), (), 3, None),
    ],
)
def test_beds_are_cut_from_as_few_totes_as_can_be(
    heights: tuple[float, ...], upside_down: tuple[int, ...], totes: int, left: float | None
) -> None:
    """Of 925 mm: a foot and a top of each, 10 mm for each cut; so many are bought. Every vessel is
    cut once."""
    plan = _totes(*heights, upside_down=upside_down)
    cuts = tote_cuts(plan)
    assert len(cuts) == totes
    made = sorted(v.id for c in cuts for v in c.vessels)
    assert made == sorted(v.id for v in plan.vessels[: len(heights)])
    for cut in cuts:
        used = sum(v.shape.height + 0.01 for v in cut.vessels)
        assert cut.left == pytest.approx(max(0.925 - used, 0.0))
        assert cut.top is None or cut.foot is None or used <= 0.925 + 0.011
    if left is not None:
        assert cuts[0].left == pytest.approx(left)


def test_whole_totes_are_bought_for_what_is_cut_from_them() -> None:
    """Not their pieces: a row of tanks and beds of totes."""
    found = evaluate(load_plan((EXAMPLE.parent / "practice/tote-row.json").read_bytes()))
    cuts = tote_cuts(found.plan)
    assert cuts
    needed = {
        x.item.key: (x.needed, set(x.parts))
        for x in shopping_list(found, 3.0).lines
        if x.item.key.startswith("container:tote")
    }
    for key in {f"container:{c.tote.key}" for c in cuts}:
        own = [c for c in cuts if f"container:{c.tote.key}" == key]
        assert needed.pop(key) == (len(own), {v.id for c in own for v in c.vessels})
    assert not needed


def test_boards_and_liner_of_a_timber_box_by_hand() -> None:
    """A box of 2.4 x 1.2 x 0.3 m: a liner of its floor, twice its walls and twice 0.2 m over the
    rim; water of 0.3 m pushes with ρ g h²/2 = 44 kg on each metre of wall."""
    plan = load_plan((EXAMPLE.parent / "raft-line.json").read_bytes())
    made = apply_edits(plan, use_container(plan, "S1", "liner-bed"))
    (box,) = lined_boxes(evaluate(made))
    assert box.boards == ((2, 2.4, 0.3), (2, 1.2, 0.3))
    assert box.liner == pytest.approx((2.4 + 1.0, 1.2 + 1.0))
    assert box.load / 9.80665 == pytest.approx(0.5 * 998.0 * 0.09, rel=2e-3)
    assert lined_boxes(evaluate(plan)) == ()


def test_raft_boards_cover_the_raft_and_carry_its_plants() -> None:
    """Rafts of 4 x 1.2 m: four boards each, none longer than foam is sold; plants as their crop
    stands, 20 on a square metre of leafy greens."""
    plan = load_plan((EXAMPLE.parent / "raft-line.json").read_bytes())
    boards = raft_boards(plan)
    assert [b.vessel.id for b in boards] == ["G1", "G2"]
    for row in boards:
        area = row.vessel.shape.footprint
        assert row.count == 4
        assert max(row.length, row.width) <= 1.25
        assert 0.95 * area <= row.count * row.length * row.width <= area
        if row.vessel.crop is not None:
            assert row.spacing == pytest.approx(1.0 / math.sqrt(20.0))
            assert row.sites * row.spacing**2 <= row.length * row.width


@settings(max_examples=60, deadline=None)
@given(st.integers(20, 1600), st.lists(st.integers(30, 300), min_size=1, max_size=4, unique=True))
def test_a_stand_is_stacked_as_near_as_trying_every_way(height: int, blocks: list[int]) -> None:
    """Never over its height; nothing nearer from below exists, by all that sums of the blocks
    reach."""
    layers, packed = stack_of(height / 1000.0, tuple(b / 1000.0 for b in blocks))
    stacked = sum(round(1000.0 * size) * count for size, count in layers)
    reached = {0}
    for size in blocks:
        reached = {r + n * size for r in reached for n in range((height - r) // size + 1)}
    assert stacked == max(r for r in reached if r <= height)
    assert packed == pytest.approx((height - stacked) / 1000.0)


def test_stands_and_covers_of_a_plan() -> None:
    """Two sizes of block make up a bed's stand; a tank's net laps its rim; what is covered dries
    less."""
    plan = load_plan((EXAMPLE.parent / "split-flow.json").read_bytes())
    assert stands_of(plan) == ()
    plan = apply_edits(plan, [Edit("site.blocks", [0.15, 0.1]), Edit("vessels.T1.cover", "net")])
    for stand in stands_of(plan):
        stacked = math.fsum(size * count for size, count in stand.layers)
        assert stacked + stand.packed == pytest.approx(plan.vessel(stand.vessel).floor_height)
        assert stand.fits == (stand.packed <= 0.02)
    tank = next(c for c in covers_of(plan) if c.vessel.id == "T1")
    round_tank = plan.vessel("T1").shape  # a net over a round tank is as wide as that is
    assert tank.kind == "net"
    assert tank.length == tank.width == pytest.approx(round_tank.diameter + 0.2)
    half = apply_edits(plan, [Edit("vessels.T1.covered", 0.5)])
    less = next(c for c in covers_of(half) if c.vessel.id == "T1")
    assert less.dries == pytest.approx(0.5 * tank.dries)


def test_what_is_bought_instead_saves_what_it_says() -> None:
    """By a balance of its own: with the wider pipe the same flow wants so much less head; a price
    of both pays for itself in the quotient."""
    plan = load_plan((EXAMPLE.parent / "stacked-pair.json").read_bytes())
    found = evaluate(plan)
    pipe, wide = (pipe_item("ASTM D1785 Schedule 40", size) for size in ("1 in", "1 1/4 in"))
    known = {pipe.key: Price(pipe, 2.0), wide.key: Price(wide, 3.5)}
    prices = PriceList("EUR", known)
    row = next(r for r in alternatives_of(found, prices) if r.what == "bore")
    assert row.run == "R1"
    size = {"kind": "standard", "standard": pipe.key.split(":")[1], "nominal": "1 1/4 in"}
    after = evaluate(apply_edits(plan, [Edit("runs.R1.bore", size)]))
    # Where the old pump's curve and the new pipe's meet, the flow is greater: the head that pipe
    # asks for is so much lower at the old flow.
    duty = found.duties["P1"]
    assert after.duties["P1"].flow > duty.flow
    useful = 998.0 * 9.81 * abs(found.runs["R1"].mean_flow) * row.head
    assert row.energy == pytest.approx(useful / duty.efficiency * 8.76, rel=2e-3)
    assert row.costs == pytest.approx(1.5 * found.runs["R1"].length)
    assert row.years == pytest.approx(row.costs / row.saves)
    losses = sum(head for _, head in found.runs["R1"].losses)
    assert 0.0 < row.head < losses


def test_cords_are_measured_from_the_power_point() -> None:
    """By right angles, down to the floor of the vessel from over the highest water, and a loop."""
    plan = load_plan((EXAMPLE.parent / "stacked-pair.json").read_bytes())
    assert cables_of(evaluate(plan)) == {}
    mark = {
        "id": "M1",
        "kind": "power",
        "name": "",
        "x": 1.0,
        "y": 0.5,
        "length": 0.2,
        "width": 0.2,
    }
    ground = {"length": 6.0, "width": 5.0, "outline": [], "marks": [mark]}
    spots = [Edit(f"vessels.{v.id}.spot", {"x": 4.0, "y": 2.5}) for v in plan.vessels]
    found = evaluate(apply_edits(plan, [Edit("ground", ground), *spots]))
    floor = plan.vessel("T1").floor_height
    high = max(r.levels.high for r in found.vessels.values())
    assert cables_of(found)["P1"] == pytest.approx(3.0 + 2.0 + high + 0.3 - floor + 0.5)


def test_a_floor_hole_keeps_clear_of_legs() -> None:
    """Under a bed that stands, a hole near its end is over a leg; on the ground it is not."""
    plan = load_plan((EXAMPLE.parent / "split-flow.json").read_bytes())
    hole = next(h for h in holes_of(evaluate(plan)) if h.is_in_floor)
    near = choose_holes(plan, [HoleChoice(hole, hole.fitting, "", 1.5 * hole.wide + 0.005)])
    assert any(c.hole.run == near.part(hole.run.id) for c in crowded_holes(near))
    far = choose_holes(plan, [HoleChoice(hole, hole.fitting, "", 0.1 + 0.5 * hole.wide + 0.001)])
    assert crowded_holes(far) == ()


@settings(max_examples=40, deadline=None)
@given(st.sampled_from(LAYOUTS), st.floats(0.25, 1.0), st.floats(0.25, 1.0))
def test_what_is_passed_over_has_room_indeed(path: Path, long: float, wide: float) -> None:
    """Of vessels however small: where the quick look finds room, the whole search finds none too
    close, and each told size of a hole is within what it reckons with."""
    plan = load_plan(path.read_bytes())
    for vessel in plan.vessels:
        if vessel.shape.kind == "box":
            at = f"vessels.{vessel.id}.shape"
            sizes = [Edit(f"{at}.length", long), Edit(f"{at}.width", wide)]
            with contextlib.suppress(EditRefused):
                plan = apply_edits(plan, sizes)
    if holes._have_room(plan):
        own = [s for s in placed(plan).values() if s.vessel.within is None]
        told = [Edit(f"vessels.{s.vessel.id}.spot", {"x": s.x, "y": s.y}) for s in own]
        assert crowded_holes(apply_edits(plan, told)) == ()
    pipes = (row for f in WALL_FITTINGS.values() for row in f.holes)
    assert all(hole <= holes._WIDEST * pipe for pipe, hole in pipes)
