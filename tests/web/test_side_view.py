"""What the side view draws, whatever the plan."""

import copy
import json
from itertools import pairwise
from pathlib import Path
from typing import Any
from unittest.mock import Mock

import numpy as np
import pytest
from django.http import QueryDict
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.drawing import Scene, draw_side_view
from bathys.drawing.stations import stations_of
from bathys.drawing.vertical_lanes import VerticalLanes
from bathys.evaluation import falls_of
from bathys.pipeline import assess
from bathys.plan import Plan, plan_from_data
from bathys.simulation import always
from bathys_web.computing.asking import Answer
from bathys_web.computing.kinds import kind_of
from bathys_web.plans.benches import BENCHES, BenchRequest
from bathys_web.plans.benches.level_diagram import draw_stairs
from bathys_web.plans.offer_context import OfferContext
from tests.conftest import EXAMPLE
from tests.plan_files import lists_of

UNITS = ("metric", "us")


def _scene(document: dict[str, Any], units: Any = "metric") -> Scene:
    plan = plan_from_data(document)
    return draw_side_view(assess(plan).evaluation, stations_of(plan), units)


def _box_of(text: Any) -> tuple[float, float, float, float]:
    """About where the words of a text lie: 7 a letter wide, 12 high."""
    wide = 7.0 * len(text.words)
    left = text.x - wide if text.anchor == "end" else text.x
    return left, text.y - 10, left + wide, text.y + 2


def _overlap(one: tuple[float, ...], two: tuple[float, ...]) -> bool:
    return one[0] < two[2] and two[0] < one[2] and one[1] < two[3] and two[1] < one[3]


def _layouts(document: dict[str, Any]) -> list[dict[str, Any]]:
    """The demo, a tall one, a buried one, a tiny one and one that is not worked out."""
    tall, buried, tiny, bare = (copy.deepcopy(document) for _ in range(4))
    tall["vessels"][1]["floor_height"] = 4.0
    for vessel in buried["vessels"]:
        vessel["floor_height"] -= 0.7
    for vessel in tiny["vessels"]:
        vessel["shape"]["length"] *= 0.35
    tiny["vessels"][1]["along"] = 0.05
    bare["pumps"], bare["runs"] = [], bare["runs"][1:]
    return [document, tall, buried, tiny, bare]


@pytest.mark.parametrize("units", UNITS)
def test_labels_stay_apart_and_within_the_picture(document: dict[str, Any], units: str) -> None:
    """In every layout; badges too."""
    for layout in _layouts(document):
        scene = _scene(layout, units)
        boxes = [_box_of(t) for t in scene.texts]
        for i, box in enumerate(boxes):
            assert box[0] >= -2.0, scene.texts[i]
            assert box[3] <= scene.height, scene.texts[i]
            assert box[1] >= 0.0, scene.texts[i]
            for k, other in enumerate(boxes[:i]):
                assert not _overlap(box, other), (scene.texts[i], scene.texts[k])
        for badge in scene.badges:
            assert 9.0 <= badge.y <= scene.height - 9.0, badge
            for other_badge in scene.badges:
                apart = abs(badge.x - other_badge.x) + abs(badge.y - other_badge.y)
                assert badge is other_badge or apart > 19.0, (badge, other_badge)


@settings(max_examples=30)
@given(floor=st.floats(0.8, 3.0), depth=st.floats(0.3, 0.68))
def test_heights_are_to_one_scale(floor: float, depth: float) -> None:
    """The bed's floor lies as far over the ground as it is high, on the scale of its own shell,
    and the water as deep."""
    document = lists_of(EXAMPLE)
    document["vessels"][1]["floor_height"] = floor
    document["vessels"][0]["water_depth"] = depth
    plan = plan_from_data(document)
    evaluation = assess(plan).evaluation
    scene = draw_side_view(evaluation, stations_of(plan), "metric")
    shells = {r.part: r for r in scene.rects if r.look == "inside"}
    scale = shells["B1"].height / 0.35
    assert shells["T1"].height == pytest.approx(0.75 * scale, abs=0.2)
    assert shells["T1"].width == pytest.approx(1.15 * scale, abs=0.4)
    bed_floor = shells["B1"].y + shells["B1"].height
    assert scene.ground - bed_floor == pytest.approx(floor * scale, rel=2e-3)
    low = next(r for r in scene.rects if r.look == "water-low" and r.part == "T1")
    level = evaluation.levels["T1"].low
    assert low.height == pytest.approx(level * scale, abs=0.3)


def test_every_part_has_one_badge_in_the_order_of_the_water(document: dict[str, Any]) -> None:
    """The numbering of the picture is that of the lists."""
    plan = plan_from_data(document)
    stations = stations_of(plan)
    assert [s.id for s in stations] == ["P1", "R1", "B1", "S1", "R2", "T1"]
    badges = sorted(b.station.number for b in _scene(document).badges)
    assert badges == [1, 2, 3, 4, 5, 6]


def test_the_picture_is_told_in_words(document: dict[str, Any]) -> None:
    """For those who cannot see it."""
    words = _scene(document).summary
    assert "Fish tank: floor 0 mm over yard slab, water from 532 mm to 619 mm deep." in words


class _AtOnce(OfferContext):
    """A desk whose answers are there at once."""

    def computed(self, kind: str, plan: Plan, words: Any = None) -> Answer:
        return Answer("done", result=kind_of(kind).compute(plan, words or {}, always))


def _bench(document: dict[str, Any], bench: str, asked: str = "", units: Any = "metric") -> Any:
    found = assess(plan_from_data(document))
    return BENCHES[bench].page(BenchRequest(Mock(), found, QueryDict(asked), units, _AtOnce("")))


def test_the_pump_bench_crosses_its_lines_where_the_pump_settles(document: dict[str, Any]) -> None:
    """The bar is 100 wide; the duty lies on both lines, in the units shown; older pipes pass
    less."""
    for units in UNITS:
        page = _bench(document, "pump", units=units)
        assert sum(b.width for b in page["ways"][0]["bars"]) == pytest.approx(100.0, abs=0.1)
        plot = json.loads(page["plot"])
        pump, *asks = plot["curves"]
        for curve, spot in zip(asks, plot["spots"], strict=True):
            for line in (pump, curve):
                on = np.interp(spot["x"], line["xs"], line["ys"])
                assert spot["y"] == pytest.approx(on, rel=0.02)
        assert [s["x"] for s in plot["spots"]] == sorted(s["x"] for s in plot["spots"])[::-1]


@pytest.mark.django_db
def test_the_siphon_bench_draws_a_cycle_only_where_there_is_one(document: dict[str, Any]) -> None:
    """And cuts the siphon open to one scale."""
    page = _bench(document, "siphon", units="us")
    cycle = json.loads(page["plot"])["curves"][0]
    assert cycle["xs"] == sorted(cycle["xs"])
    assert max(cycle["ys"]) == pytest.approx(page["cut"] and 10.9, abs=0.4)  # 277 mm in inches
    document["runs"][0]["valve"]["angle"] = 90.0
    still = _bench(document, "siphon")
    assert still.get("plot", "") == ""


@pytest.mark.django_db
def test_claims_stand_on_each_other_in_the_sump(document: dict[str, Any]) -> None:
    """Bands from the floor up without a gap, and every fall told."""
    page = _bench(document, "levels")
    picture = page["sumps"][0]["picture"]
    foot = picture.floor
    for band in picture.bands:
        assert band.top + band.tall == pytest.approx(foot, abs=1.5)
        foot = band.top
    assert [(r["run"].id, r["is_lift"]) for r in page["falls"]] == [("R1", True), ("R2", False)]


@pytest.mark.parametrize("path", sorted(EXAMPLE.parent.glob("**/*.json")), ids=lambda p: p.stem)
def test_no_pipe_stands_on_another(path: Path) -> None:
    """Upright stretches of two runs are apart, but where both come down to one junction."""
    plan = plan_from_data(lists_of(path))
    scene = draw_side_view(assess(plan).evaluation, stations_of(plan), "metric")
    ends = {r.id: {p.partition(".")[0] for p in (r.start, r.end)} for r in plan.runs}
    junctions = {j.id for j in plan.junctions}
    uprights: list[tuple[str, float, float, float, float]] = []
    for stroke in scene.strokes:
        if stroke.look != "pipe-wall" or stroke.part not in ends:
            continue
        points = [tuple(map(float, p.split(","))) for p in stroke.points.split()]
        uprights += [
            (stroke.part, xa, min(ya, yb), max(ya, yb), 0.5 * stroke.width)
            for (xa, ya), (xb, yb) in pairwise(points)
            if abs(xa - xb) < 1.0
        ]
    assert uprights
    for i, (run, x, top, foot, half) in enumerate(uprights):
        for other, x2, top2, foot2, half2 in uprights[:i]:
            beside = min(foot, foot2) - max(top, top2) > 1.0 and abs(x - x2) < half + half2
            assert not beside or ends[run] & ends[other] & junctions or run == other, (run, other)


@pytest.mark.parametrize("units", UNITS)
@pytest.mark.parametrize("path", sorted(EXAMPLE.parent.glob("**/*.json")), ids=lambda p: p.stem)
def test_the_stairs_go_down_and_every_step_is_told_clear_of_the_lines(
    path: Path, units: str
) -> None:
    """The highest vessel first; each drawn step with its figure, none over a shell, another figure
    or a line of a step."""
    found = assess(plan_from_data(lists_of(path))).evaluation
    falls = falls_of(found)
    scene = draw_stairs(found, falls, units)
    told = [t for t in scene.texts if t.look == "axis"]
    ways = [s for s in scene.strokes if s.look in ("fall-step", "lift-step")]
    assert len(told) == len(ways) // 2  # each step has its way and the tip of its arrow
    shells = [r for r in scene.rects if r.look == "inside"]
    surfaces = [found.levels[r.part].high for r in shells]
    assert surfaces == sorted(surfaces, reverse=True)
    for i, text in enumerate(told):
        box = _box_of(text)
        assert box[0] >= 0.0, text
        assert box[2] <= scene.width, text
        assert not any(_overlap(box, _box_of(other)) for other in told[:i]), text
        for rect in shells:
            shell = (rect.x, rect.y, rect.x + rect.width, rect.y + rect.height)
            assert not _overlap(box, shell), text
        for way in ways:
            points = [tuple(map(float, p.split(","))) for p in way.points.split()]
            for (xa, ya), (xb, yb) in pairwise(points):
                line = (min(xa, xb), min(ya, yb), max(xa, xb), max(ya, yb))
                assert not _overlap(box, line), (text, line)


def test_every_part_stands_in_a_table_with_what_the_picture_shows(document: dict[str, Any]) -> None:
    """In the order of the water: where pipes lead, bores, heights, how far a valve is turned."""
    parts = _bench(document, "figures")["parts"]
    assert [r["station"].number for r in parts] == [1, 2, 3, 4, 5, 6]
    built = {r["station"].id: dict(r["built"]) for r in parts}
    assert built["R1"]["From"] == "Pump (P1)"
    assert built["R1"]["To"] == "Grow bed (B1)"
    assert built["R1"]["Bore"] == "1 in"
    assert built["R1"]["Valve handle"] == "25°"
    assert built["B1"]["Floor height"] == "1100 mm"
    assert built["S1"]["Standpipe height"] == "270 mm"


@settings(max_examples=60)
@given(
    stands=st.lists(
        st.tuples(st.integers(0, 200), st.integers(0, 100), st.integers(0, 100), st.integers(1, 8)),
        max_size=12,
    ),
    places=st.lists(st.integers(0, 200), min_size=1, max_size=8),
    span=st.tuples(st.integers(0, 100), st.integers(0, 100)),
    half=st.integers(1, 8),
)
def test_a_pipe_takes_the_first_place_that_is_clear(
    stands: list[tuple[int, int, int, int]], places: list[int], span: tuple[int, int], half: int
) -> None:
    """One of those it may have; the first clear of all that stand beside it, else the roomiest."""
    taken = VerticalLanes()
    for x, one, other, wide in stands:
        taken.add(x, one, other, wide)
    top, foot = sorted(span)
    found = taken.first_clear(places, top, foot, half)
    rooms = [taken.room(x, top, foot, half) for x in places]
    clear = [x for x, room in zip(places, rooms, strict=True) if room >= 0.0]
    assert found == (clear[0] if clear else places[rooms.index(max(rooms))])
    for x, one, other, wide in stands:
        if clear and min(one, other) < foot and top < max(one, other):
            assert abs(found - x) >= half + wide
