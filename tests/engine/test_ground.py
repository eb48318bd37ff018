"""The ground plan: against lengths and areas by hand, and laws that hold wherever vessels stand."""

import itertools
import json
import math
from pathlib import Path
from xml.etree import ElementTree

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bathys.drawing.ground_plan import draw_ground_plan
from bathys.drawing.isometric import isometric_svg
from bathys.drawing.stations import labels_of
from bathys.edits import Edit, EditRefused, apply_edits, duplicate_part
from bathys.evaluation import evaluate, full_mass
from bathys.ground import (
    best_place,
    conflicts,
    follow_route,
    laid_routes,
    lay,
    lay_route,
    outline_site,
    placed,
    reach_zones,
    site_of,
)
from bathys.ground.placing import footprint_of
from bathys.pipeline import Assessment, assess, assess_moved
from bathys.plan import Plan, dump_plan, load_plan, only_places_differ, physics_hash
from tests.conftest import EXAMPLE

_SVG = "{http://www.w3.org/2000/svg}"
LAYOUTS = sorted(EXAMPLE.parent.glob("**/*.json"))
SETTLER = load_plan((EXAMPLE.parent / "small-settler.json").read_bytes())
SPLIT = load_plan((EXAMPLE.parent / "split-flow.json").read_bytes())


def _row(**spots: tuple[float, float]) -> Plan:
    """The small settler in a row: a tank of 1 m, a barrel of 0.48 m, a sump and a bed."""
    row = {"T1": (1.5, 1.5), "C1": (4.0, 1.5), "S1": (6.5, 1.5), "B1": (9.5, 1.5)} | spots
    edits = [Edit(f"vessels.{v}.spot", {"x": x, "y": y}) for v, (x, y) in row.items()]
    return apply_edits(SETTLER, edits)


@pytest.mark.parametrize("path", LAYOUTS, ids=lambda p: p.stem)
def test_what_is_placed_unasked_stands_clear_and_on_its_site(path: Path) -> None:
    """No vessel in another, all within the site; every run has a way that ends at its vessels; a
    footprint is as large as the shell is at its rim."""
    plan = load_plan(path.read_bytes())
    places = placed(plan)
    _, site = site_of(plan, places)
    own = [p for p in places.values() if p.vessel.within is None]
    for n, one in enumerate(own):
        assert site.contains(one.outline)
        for two in own[n + 1 :]:
            low, high = sorted((one.vessel, two.vessel), key=lambda v: v.floor_height)
            is_over = high.floor_height >= low.floor_height + low.shape.height - 0.01
            stacked = is_over and one.outline.covers(two.outline.centroid)
            assert stacked or one.outline.distance(two.outline) > 0.6
    for spot in places.values():
        area = spot.vessel.shape.footprint
        assert spot.outline.area == pytest.approx(area, rel=0.28)  # corners of totes are round
    routes = laid_routes(plan)
    assert [r.run.id for r in routes] == [r.id for r in plan.runs]
    for route in routes:
        straight = math.dist(route.points[0], route.points[-1])
        assert straight - 1e-9 <= route.length <= math.sqrt(2.0) * straight + 1e-6
    assert not conflicts(plan)  # nothing is told


def test_lengths_and_bends_by_hand() -> None:
    """From the barrel's wall to the sump's, 2.5 m between their middles: less 0.24 m of the barrel
    and half of the sump. Round a corner at right angles it is both sides."""
    plan = _row()
    half = 0.5 * footprint_of(plan.vessel("S1").shape).bounds[2] * 2.0
    outlet = next(r for r in laid_routes(plan) if r.run.id == "R5")
    assert outlet.length == pytest.approx(2.5 - 0.24 - half, abs=2e-3)
    assert outlet.bends == 0
    turned = _row(S1=(6.5, 4.5))
    outlet = next(r for r in laid_routes(turned) if r.run.id == "R5")
    deep = footprint_of(plan.vessel("S1").shape).bounds[3]
    assert outlet.length == pytest.approx(2.5 - 0.24 + 3.0 - deep, abs=2e-3)
    assert outlet.bends == 1


@settings(max_examples=30)
@given(
    st.sampled_from(["S1", "C1", "B1", "B2", "T1", "G1", "F1", "J1", "J2"]),
    st.floats(-20.0, 20.0),
    st.floats(-20.0, 20.0),
    st.floats(0.0, 359.9),
)
def test_what_follows_the_ground_is_as_long_as_its_way(
    part: str, x: float, y: float, turned: float
) -> None:
    """Wherever a vessel or a joint is moved: lengths that follow are those of the ground, to a
    millimetre, those typed stay; nothing else moves; the water's figures come of the lengths alone;
    a plan as a file is the same plan."""
    ids = [r.id for r in SPLIT.runs]
    follows = follow_route(SPLIT, ids[:8], True)
    plan = lay(follows, part, x, y, turned)
    for route in laid_routes(plan):
        before = SPLIT.part(route.run.id).level_length
        if route.run.id in ids[:8]:
            assert route.run.level_length == pytest.approx(route.length, abs=5.1e-4)
        else:
            assert route.run.level_length == before
        assert sum(f.count for f in route.run.fittings) >= 0
    where, was = placed(plan), placed(follows)
    for id_, spot in was.items():
        if id_ != part:
            assert (where[id_].x, where[id_].y) == pytest.approx((spot.x, spot.y), abs=1e-6)
    assert load_plan(dump_plan(plan)) == plan
    back = lay(plan, part, *_place(follows, part))
    assert [r.level_length for r in back.runs] == pytest.approx(
        [r.level_length for r in follows.runs], abs=0.03
    )


def _place(plan: Plan, part: str) -> tuple[float, ...]:
    if part in placed(plan):
        spot = placed(plan)[part]
        return spot.x, spot.y, spot.turned
    ends = [r.points[0] for r in laid_routes(plan) if r.run.start == part]
    return ends[0] if ends else next(r.points[-1] for r in laid_routes(plan) if r.run.end == part)


def test_places_alone_change_no_figure() -> None:
    """Without lengths that follow, the ground plan is where things are drawn."""
    plan = lay(SPLIT, "S1", 3.0, 4.0)
    assert physics_hash(plan) == physics_hash(SPLIT)
    followed = follow_route(plan, [r.id for r in plan.runs], True)
    assert physics_hash(followed) != physics_hash(SPLIT)


def test_a_corner_lengthens_a_run_and_adds_an_elbow() -> None:
    """2.5 m straight; by a corner 1 m aside it is longer, with one more elbow; led straight again
    it is as before."""
    plan = follow_route(_row(), ["R5"], True)
    before = plan.part("R5")
    elbows = sum(f.count for f in before.fittings if f.kind == "elbow_90")
    led = lay_route(plan, "R5", [(5.0, 2.5)])
    after = led.part("R5")
    assert after.level_length > before.level_length + 0.3
    assert sum(f.count for f in after.fittings if f.kind == "elbow_90") == elbows + 1
    again = lay_route(led, "R5", None).part("R5")
    assert again.level_length == before.level_length
    assert again.fittings == before.fittings
    kept = follow_route(led, ["R5"], False)
    assert lay(kept, "S1", 9.0, 5.0).part("R5").level_length == after.level_length


def test_what_is_in_the_way_is_told_with_its_size() -> None:
    """Two boxes 0.3 m in each other, a gap of 0.4 m, a bed against two walls; a tank over a sump
    that is dug in is none."""
    assert not [c for c in conflicts(_row()) if c.what in ("overlap", "aisle", "reach")]
    half = 0.5 * (0.48 + 2.0 * footprint_of(SETTLER.vessel("T1").shape).bounds[2])
    (overlap,) = (c for c in conflicts(_row(C1=(1.5 + half - 0.3, 1.5))) if c.what == "overlap")
    assert (overlap.part, overlap.other) == ("T1", "C1")
    assert overlap.size == pytest.approx(0.3, abs=1e-6)
    (aisle,) = (c for c in conflicts(_row(C1=(1.5 + half + 0.4, 1.5))) if c.what == "aisle")
    assert aisle.size == pytest.approx(0.4, abs=1e-3)
    assert SETTLER.vessel("S1").floor_height < 0.0
    assert not [c for c in conflicts(_row(S1=(1.5, 1.5))) if c.what == "overlap"]


def test_a_high_stand_is_braced_at_its_ends() -> None:
    """Under a long bed 0.5 m up: a pipe along it meets both braces, one across it goes free
    between them, however both are turned together; under one 0.3 m up there is none."""
    box = footprint_of(SETTLER.vessel("B1").shape).bounds
    assert box[2] > box[3]
    for turned, along in ((0.0, False), (90.0, True)):
        for floor in (0.5, 0.3):
            corners = [{"x": x, "y": 1.5, "height": 0.1} for x in (4.6, 9.0)]
            spot = {"x": 6.8, "y": 1.5, "turned": turned}
            edits = [
                Edit("runs.R5.route", {"corners": corners}),
                Edit("vessels.B1.spot", spot),
                Edit("vessels.B1.floor_height", floor),
            ]
            found = conflicts(apply_edits(_row(S1=(9.8, 1.5)), edits))
            met = any((c.what, c.part, c.other) == ("brace", "R5", "B1") for c in found)
            assert met == (not along and floor == 0.5)


def test_a_pipe_goes_between_legs_and_meets_none() -> None:
    """A pipe at 0.1 m under a bed on legs of 0.1 m under each corner: clear in the middle and
    beside it, met along both edges however it is turned, and free where the bed stands lower."""
    corners = [{"x": x, "y": 1.5, "height": 0.1} for x in (4.6, 9.0)]
    led = apply_edits(_row(S1=(9.8, 1.5)), [Edit("runs.R5.route", {"corners": corners})])
    box = footprint_of(led.vessel("B1").shape).bounds

    def met(aside: float, turned: float, floor: float = 0.5) -> bool:
        spot = {"x": 6.8, "y": 1.5 + aside, "turned": turned}
        edits = [Edit("vessels.B1.spot", spot), Edit("vessels.B1.floor_height", floor)]
        found = conflicts(apply_edits(led, edits))
        return any((c.what, c.part, c.other) == ("leg", "R5", "B1") for c in found)

    for turned, half in ((0.0, box[3]), (90.0, box[2])):
        for side in (-1.0, 1.0):
            assert met(side * (half - 0.05), turned)
            assert not met(side * (half - 0.12), turned)
            assert not met(side * (half + 0.02), turned)
        assert not met(0.0, turned)
        assert not met(half - 0.05, turned, floor=0.1)


@pytest.mark.parametrize(
    ("width", "aside", "wanted"),
    [(1.2, 2.0, None), (1.21, 2.0, 1.2), (0.9, 0.05, None), (0.95, 0.05, 0.9)],
)
def test_a_bed_is_reached_from_one_side_or_two(
    width: float, aside: float, wanted: float | None
) -> None:
    """A bed of 3 m by its width, 2 m off all walls or against one of them."""
    shape = {"kind": "box", "length": 3.0, "width": width, "height": 0.3}
    site = {"length": 20.0, "width": aside + width + 3.0}
    plan = apply_edits(
        _row(**{v: (2.0 + 3.0 * n, aside + width + 1.8) for n, v in enumerate(("T1", "C1", "S1"))}),
        [
            Edit("vessels.B1.shape", shape),
            Edit("vessels.B1.spot", {"x": 15.0, "y": aside + 0.5 * width}),
            Edit("ground", site),
        ],
    )
    found = [c for c in conflicts(plan) if c.what == "reach"]
    assert [c.wanted for c in found] == ([] if wanted is None else [wanted])
    assert all(c.size == pytest.approx(width) for c in found)


def test_the_better_place_saves_what_it_says() -> None:
    """A sump far off comes nearer: moved there, the pipe is shorter by that, and no other place of
    a finer grid saves much more."""
    plan = _row(S1=(6.5, 9.0))
    better = best_place(plan, "S1")
    assert better is not None
    moved = lay(plan, "S1", better.x, better.y)
    lengths = [sum(r.length for r in laid_routes(p)) for p in (plan, moved)]
    assert lengths[0] - lengths[1] == pytest.approx(better.saved, abs=0.05)
    assert better.saved > 5.0
    assert not [c for c in conflicts(moved) if c.what == "overlap"]
    assert best_place(moved, "S1") is None


def test_the_picture_is_to_scale_and_shows_the_load() -> None:
    """A metre is as long across as down; a footprint's load is its weight over its area."""
    found = evaluate(_row())
    picture = draw_ground_plan(found)
    foot = next(f for f in picture.feet if f.placed.vessel.id == "B1")
    points = [tuple(map(float, p.split(","))) for p in foot.points.split()]
    long = max(x for x, _ in points) - min(x for x, _ in points)
    deep = max(y for _, y in points) - min(y for _, y in points)
    outline = footprint_of(foot.placed.vessel.shape).bounds
    assert long / picture.per_metre == pytest.approx(outline[2] - outline[0], abs=0.01)
    assert deep / picture.per_metre == pytest.approx(outline[3] - outline[1], abs=0.01)
    mass = full_mass(found, found.vessels["B1"])
    assert foot.load == pytest.approx(mass * 9.80665 / foot.placed.outline.area)
    assert picture.bar_words == "1 m"
    assert draw_ground_plan(found, "us").bar_words.endswith("ft")


def test_what_cannot_be_laid_is_refused_with_a_sentence() -> None:
    for do in (
        lambda: lay(SPLIT, "P1", 1.0, 1.0),
        lambda: lay(SPLIT, "S1", 1e6, 1.0),
        lambda: lay(SPLIT, "S1", math.nan, 1.0),
        lambda: lay_route(SPLIT, "X9", []),
        lambda: lay_route(SPLIT, "R1", [(500.0, 0.0)]),
        lambda: lay_route(SPLIT, "R1", [(1.0, 1.0)] * 41),
    ):
        with pytest.raises(EditRefused):
            do()
    data = json.loads(dump_plan(lay(SPLIT, "S1", 3.0, 4.0)))
    assert all("spot" in p for p in data["parts"] if p["kind"] == "vessel")


@pytest.mark.parametrize("path", LAYOUTS, ids=lambda p: p.stem)
def test_the_picture_of_it_standing_shows_every_vessel_to_one_scale(path: Path) -> None:
    """Read as XML: a rim for each vessel, all points in the picture, each label once; the sides of
    the site are to one scale."""
    plan = load_plan(path.read_bytes())
    picture = ElementTree.fromstring(isometric_svg(evaluate(plan)))  # noqa: S314 - made here
    wide, tall = (float(x) for x in picture.attrib["viewBox"].split()[2:])
    names = [t.text for t in picture.iter(f"{_SVG}text")]
    labels = labels_of(plan)
    assert sorted(n or "" for n in names) == sorted(labels[v.id] for v in plan.vessels)
    rims = [p for p in picture.iter(f"{_SVG}polygon") if p.get("stroke-width") == "1.4"]
    assert len(rims) == len(plan.vessels)
    for shape in picture.iter(f"{_SVG}polygon"):
        for point in shape.attrib["points"].split():
            x, y = map(float, point.split(","))
            assert -0.1 <= x <= wide + 0.1
            assert -0.1 <= y <= tall + 0.1
    site = next(picture.iter(f"{_SVG}polygon")).attrib["points"].split()
    corners = [tuple(map(float, p.split(","))) for p in site]
    ground, _ = site_of(plan, placed(plan))
    sides = sorted({round(math.dist(a, b), 0) for a, b in itertools.pairwise(corners)})
    wanted = sorted({ground.length, ground.width})
    assert sides[-1] / sides[0] == pytest.approx(wanted[-1] / wanted[0], rel=0.01)


def test_a_route_over_a_door_is_longer_by_what_it_goes_up_and_down() -> None:
    """By hand: from 0.55 m on the sump's level up to 2.1 m and down again, over the same corners;
    its ends take what they differ by themselves."""
    run = "R2"
    low = lay_route(_row(), run, [(3.0, 3.0), (5.0, 3.0)])
    high = lay_route(_row(), run, [(3.0, 3.0), (5.0, 3.0)], [2.6, 2.6])
    (flat,) = (r for r in laid_routes(low) if r.run.id == run)
    (over,) = (r for r in laid_routes(high) if r.run.id == run)
    start, end = over.heights[0], over.heights[-1]
    climbs = (2.6 - start) + (2.6 - end)
    assert over.detour == pytest.approx(climbs - abs(end - start))
    assert over.length == pytest.approx(flat.length + over.detour)
    assert over.bends == flat.bends + 2  # up and down, where the ends ask for one of the two
    assert load_plan(dump_plan(high)) == high
    led = follow_route(high, [run], follows=True)
    assert led.part(run).level_length == pytest.approx(over.length, abs=5e-4)


def test_an_outline_is_the_site_and_a_bad_one_is_refused() -> None:
    """An L of 6 m by 4 m without a corner of 2 m by 2 m."""
    corners = [(0.0, 0.0), (6.0, 0.0), (6.0, 2.0), (4.0, 2.0), (4.0, 4.0), (0.0, 4.0)]
    plan = outline_site(_row(), corners)
    assert site_of(plan, placed(plan))[1].area == pytest.approx(20.0)
    with pytest.raises(EditRefused, match="outline"):
        outline_site(_row(), [(0.0, 0.0), (4.0, 4.0), (4.0, 0.0), (0.0, 4.0)])
    back = outline_site(plan, [])
    assert site_of(back, placed(back))[1].area == pytest.approx(24.0)


def test_who_stands_beside_a_bed_reaches_what_is_not_hatched() -> None:
    """A bed alone is reached from both sides; nobody stands in a vessel; what is out of reach lies
    in its bed and grows with its width."""
    zones = reach_zones(_row())
    spots = placed(_row())
    assert all(zones.standing.intersection(s.outline).area < 1e-3 for s in spots.values())
    assert all(bed.beyond.is_empty for bed in zones.beds)
    areas = []
    for width in (1.3, 1.6, 2.4):
        wide = apply_edits(_row(), [Edit("vessels.B1.shape.width", width)])
        wide = apply_edits(wide, [Edit("vessels.B1.shape.length", 2.6)])
        (bed,) = (b for b in reach_zones(wide).beds if b.vessel == "B1")
        assert placed(wide)["B1"].outline.buffer(1e-6).covers(bed.beyond)
        areas.append(bed.beyond.area)
    assert 0.0 < areas[0] < areas[1] < areas[2]


def test_a_second_vessel_is_not_put_where_the_first_stands() -> None:
    """A copy of what was placed by hand finds a place of its own, and its pipes a way."""
    plan = lay_route(_row(), "R1", [(3.0, 3.0)])
    edits, new = duplicate_part(plan, "B1")
    after = apply_edits(plan, edits)
    assert after.vessel(new).spot is None
    assert [r.id for r in after.runs if r.route is not None] == ["R1"]
    assert not [c for c in conflicts(after) if new in (c.part, c.other) and c.what == "overlap"]


def _told(found: Assessment) -> list[object]:
    """Everything that is said of a plan: findings with what they put forward, and figures."""
    said = [(f.id, f.severity, f.place, f.sentence, f.hint, f.figures) for f in found.findings]
    return [said, [(f.key, f.value) for f in (*found.figures, *found.details, *found.headlines)]]


@pytest.mark.parametrize("path", LAYOUTS, ids=lambda p: p.stem)
def test_after_a_move_on_the_ground_the_water_stands_and_findings_are_those_of_a_new_look(
    path: Path,
) -> None:
    """What is kept from before a move is what comes out anew, with every change put forward; a
    pipe that is as long as its way on the ground is no move alone."""
    plan = load_plan(path.read_bytes())
    before, one = assess(plan), plan.vessels[0].id
    place = placed(plan)[one]
    moved = lay(plan, one, place.x + 0.7, place.y + 0.4, 30.0)
    moved = lay_route(moved, moved.runs[0].id, [(0.3, 0.4)])
    assert moved != plan
    if not only_places_differ(plan, moved):
        assert physics_hash(plan) != physics_hash(moved)
        return
    anew, kept = assess(moved), assess_moved(before, moved)
    assert _told(kept) == _told(anew)
    for one_way, other_way in zip(kept.findings, anew.findings, strict=True):
        assert one_way.list_offers() == other_way.list_offers()
    followed = follow_route(moved, [moved.runs[0].id], True)
    wider = apply_edits(plan, [Edit("name", plan.name + " B")])
    assert not only_places_differ(plan, followed)
    assert not only_places_differ(plan, wider)
