"""Pipes: where each run goes in the picture, and its number beside it."""

from collections.abc import Iterator, Mapping
from itertools import islice, pairwise
from math import cos, radians, sin
from typing import Any

from bathys.evaluation import Evaluation
from bathys.plan.model import Plan
from bathys.plan.overflows import BellSiphon, LoopSiphon, SolidsLift, Standpipe
from bathys.plan.pipes import BallValve, Junction, Run, StandardBore
from bathys.plan.pumps import Pump
from bathys.plan.vessel import Vessel
from bathys.units import System, show
from bathys_web.plans.side_view.fittings import place_of
from bathys_web.plans.side_view.frame import Frame
from bathys_web.plans.side_view.scene import Rect, Scene, Stroke, Text
from bathys_web.plans.side_view.uprights import Uprights
from bathys_web.plans.stations import Station

__all__ = ["draw_pipes", "lay_pipes", "write_bores"]

_HOOK = 14.0  # how far a pipe comes over its outlet
_STUB = 10.0
_ASIDE = (8.0, 14.0, 20.0, 27.0, 35.0, 44.0)  # tried, where an end's own place is taken
_THICKEST = 11.0
_BODY, _HANDLE = 5.5, 15.0  # of a valve
_MOST_BORE_PLACES = 7  # tried for a bore; one that fits nowhere is in the list of parts

Point = tuple[float, float]


def draw_pipes(
    frame: Frame, scene: Scene, evaluation: Evaluation, numbers: dict[str, Station],
    ways: Mapping[str, list[Point]],
) -> None:  # fmt: skip
    """Draw every junction and valve, and number the runs."""
    plan = evaluation.plan
    for junction in plan.junctions:
        x, y = _junction_place(frame, plan, junction)
        scene.rects.append(Rect(x - 4.5, y - 4.5, 9, 9, "junction", junction.id))
        scene.number([(x + 13, y - 13), (x - 13, y - 13), (x + 13, y + 13), (x - 13, y + 13),
                      (x, y - 20)], numbers[junction.id])  # fmt: skip
    for run in plan.runs:
        _valve(scene, run, ways[run.id])
    for run in plan.runs:
        scene.number(_beside(ways[run.id]), numbers[run.id])


def write_bores(scene: Scene, plan: Plan, ways: Mapping[str, list[Point]], units: System) -> None:
    """The bore beside each run that has room for it."""
    for run in plan.runs:
        bore = run.bore
        words = bore.nominal if isinstance(bore, StandardBore) else show(
            bore.inside, "length", units)  # fmt: skip
        scene.write(_bore_places(ways[run.id], words), must_be_clear=True)


def _bore_places(way: list[Point], words: str) -> Iterator[Text]:
    for (x, y), upright in islice(_along(way), _MOST_BORE_PLACES):
        if upright:
            yield Text(round(x + 9, 1), round(y + 4, 1), words, "bore-figure")
            yield Text(round(x - 9, 1), round(y + 4, 1), words, "bore-figure", "end")
        else:
            yield Text(round(x, 1), round(y - 8, 1), words, "bore-figure")
            yield Text(round(x, 1), round(y + 16, 1), words, "bore-figure")


def lay_pipes(frame: Frame, scene: Scene, evaluation: Evaluation) -> dict[str, list[Point]]:
    """Draw every run, and let labels avoid it. The way of each comes back."""
    plan = evaluation.plan
    ways = _ways(frame, plan)
    for run in plan.runs:
        _draw(frame, scene, evaluation, run, ways[run.id])
        for (xa, ya), (xb, yb) in pairwise(ways[run.id]):
            scene.avoid((min(xa, xb) - 4, min(ya, yb) - 4, max(xa, xb) + 4, max(ya, yb) + 4))
    return ways


def _ways(frame: Frame, plan: Plan) -> dict[str, list[Point]]:
    """The way of each run; those that have no choice of place first."""
    junctions = {j.id: _junction_place(frame, plan, j) for j in plan.junctions}
    taken = Uprights()
    for part in (*plan.pumps, *plan.siphons, *plan.outlets):
        _stand(frame, plan, part, taken)
    ways: dict[str, list[Point]] = {}
    for run in sorted(plan.runs, key=lambda r: not isinstance(plan.part(r.start), Junction)):
        way = ways[run.id] = _way(frame, plan, run, junctions, taken)
        for (xa, ya), (xb, yb) in pairwise(way):
            if abs(xa - xb) < 1.0:
                taken.add(xa, ya, yb, _half(frame, run))
    return ways


def _stand(frame: Frame, plan: Plan, part: Any, taken: Uprights) -> None:
    """The pipe that stands in a shell: a pump's riser, a siphon, a standpipe."""
    x, y = place_of(frame, plan, part.id)
    floor = plan.vessel(part.stands_in).floor_height
    if isinstance(part, Pump):
        run = plan.run_from(f"{part.id}.out")
        if run is not None:
            taken.add(x, frame.y(plan.elevation(run.end) or floor) - _HOOK, y, _half(frame, run))
    elif isinstance(part, BellSiphon):
        half = max(0.5 * frame.wide(part.bell_bore.inside), 5.0)
        taken.add(x, frame.y(floor + part.rim_height), y, half)
    elif isinstance(part, SolidsLift):
        taken.add(x, y, frame.y(floor + part.intake_height), 0.5 * _THICKEST)
    elif isinstance(part, Standpipe):
        taken.add(x, frame.y(floor + part.rim_height), y, 0.5 * _THICKEST)


def _half(frame: Frame, run: Run) -> float:
    """Half of how wide a run is drawn, its walls counted."""
    return 0.5 * min(max(frame.wide(run.bore.inside), 3.0), _THICKEST) + 1.25


def _junction_place(frame: Frame, plan: Plan, junction: Junction) -> Point:
    if junction.along is not None:
        return frame.x(junction.along), frame.y(junction.height)
    ends = [p.partition(".")[0] for r in plan.runs if junction.id in (r.start, r.end)
            for p in (r.start, r.end) if p != junction.id]  # fmt: skip
    places = []
    for id_ in ends:
        part = plan.part(id_)
        if isinstance(part, Vessel):
            places.append(frame.middle(id_))
        elif not isinstance(part, Junction):
            places.append(place_of(frame, plan, id_)[0])
    x = sum(places) / len(places) if places else frame.x(frame.left)
    return round(x, 1), frame.y(junction.height)


def _start(frame: Frame, plan: Plan, run: Run, junctions: dict[str, Point]) -> Point:
    owner = run.start.partition(".")[0]
    if owner in junctions:
        return junctions[owner]
    if isinstance(plan.part(owner), Vessel):
        height = frame.y(plan.elevation(run.start) or 0.0)
        left, right = frame.edges(owner)
        return (right if _end_x(frame, plan, run, junctions) >= frame.middle(owner) else left,
                height)  # fmt: skip
    x, y = place_of(frame, plan, owner)
    return (x, y - 8) if isinstance(plan.part(owner), Pump) else (x, y)


def _end_x(frame: Frame, plan: Plan, run: Run, junctions: dict[str, Point]) -> float:
    owner = run.end.partition(".")[0]
    return junctions[owner][0] if owner in junctions else frame.middle(owner)


def _end(
    frame: Frame, plan: Plan, run: Run, start: Point, junctions: dict[str, Point], taken: Uprights
) -> Point:
    """The run's end: just inside the wall it comes to first, clear of what stands there already."""
    owner = run.end.partition(".")[0]
    if owner in junctions:
        return junctions[owner]
    left, right = frame.edges(owner)
    y = frame.y(plan.elevation(run.end) or 0.0)
    inside = 0.13 * (right - left)
    if left + 6 < start[0] < right - 6:  # from right above or below
        if isinstance(plan.part(run.start), Junction):
            return start[0], y
        shift = min(0.12 * frame.across, 14.0)
        x = start[0] - shift if start[0] - shift > left + 6 else start[0] + shift
    else:
        x = left + inside if start[0] <= left + 6 else right - inside
    x = round(min(max(x, left + 6), right - 6), 1)
    others = (round(x + side * step, 1) for step in _ASIDE for side in (1.0, -1.0))
    places = [x, *(p for p in others if left + 6 <= p <= right - 6)]
    return taken.first_clear(places, min(start[1], y - _HOOK), y, _half(frame, run)), y


def _way(
    frame: Frame, plan: Plan, run: Run, junctions: dict[str, Point], taken: Uprights
) -> list[Point]:
    start = _start(frame, plan, run, junctions)
    end = _end(frame, plan, run, start, junctions, taken)
    source, target = (plan.part(p.partition(".")[0]) for p in (run.start, run.end))
    (x0, y0), (x1, y1) = start, end
    is_side = isinstance(source, Vessel | SolidsLift)
    if isinstance(target, Vessel) and isinstance(source, Vessel):
        return [start, (x1, y1)] if abs(y1 - y0) < _HOOK else [start, (x1, y0), (x1, y1)]
    if isinstance(source, LoopSiphon):  # down outside the bed, and under it
        under = frame.y(plan.vessel(source.stands_in).floor_height) + _STUB
        bend = min(under, y1) if y1 > y0 else y0
        return [start, (x0, bend), (x1, bend), end]
    if isinstance(target, Junction):
        return _to_junction(start, end, isinstance(source, Pump), is_side)
    if is_side:
        return [start, (x1, y0), end] if y1 >= y0 else [start, (x1, y1)]
    if isinstance(source, Junction):
        over = y1 - _HOOK if y1 < y0 else y0
        return [start, (x1, y0), end] if over == y0 else [start, (x0, over), (x1, over), end]
    if y1 < y0:  # rises: up, across a hand above the outlet, and down into it
        over = y1 - _HOOK
        return [start, (x0, over), (x1, over), end]
    bend = max(y0 + 6, y1 - 16) if abs(x1 - x0) < 40 else y0 + _STUB
    return [start, (x0, bend), (x1, bend), end]


def _to_junction(start: Point, end: Point, from_pump: bool, is_side: bool) -> list[Point]:
    (x0, y0), (x1, y1) = start, end
    if from_pump:
        return [start, (x0, y1), end]
    if is_side:
        return [start, (x1, y0), end]
    if y1 > y0:  # falls from a floor: down, then along to it
        bend = min(y0 + _STUB, y1)
        return [start, (x0, bend), (x1, bend), end] if bend < y1 else [start, (x0, y1), end]
    return [start, (x1, y0), end] if y0 != y1 else [start, end]


def _draw(frame: Frame, scene: Scene, evaluation: Evaluation, run: Run, way: list[Point]) -> None:
    width = 2.0 * _half(frame, run) - 2.5
    flow = evaluation.runs[run.id].flow
    way = way if flow >= 0.0 else way[::-1]
    points = " ".join(f"{round(x, 1)},{round(y, 1)}" for x, y in way)
    scene.strokes.append(Stroke(points, round(width + 2.5, 1), "pipe-wall", run.id))
    scene.strokes.append(Stroke(points, width, "pipe", run.id))
    if abs(flow) > 1e-9:
        scene.strokes.append(Stroke(points, 1.2, "flow", run.id))
        scene.strokes.append(Stroke(_arrow(way, width), 1.4, "arrow", run.id))


def _arrow(way: list[Point], width: float) -> str:
    """A tip in the middle of the longest stretch, the way the water goes."""
    (xa, ya), (xb, yb) = max(
        pairwise(way), key=lambda s: abs(s[1][0] - s[0][0]) + abs(s[1][1] - s[0][1])
    )
    long = max(((xb - xa) ** 2 + (yb - ya) ** 2) ** 0.5, 1e-9)
    dx, dy, half = (xb - xa) / long, (yb - ya) / long, 0.5 * width + 2.5
    x, y = xa + 0.62 * (xb - xa), ya + 0.62 * (yb - ya)
    ends = [(x - half * dx - s * half * dy, y - half * dy + s * half * dx) for s in (1.0, -1.0)]
    (x1, y1), (x2, y2) = ends
    return f"{x1:.1f},{y1:.1f} {x + half * dx:.1f},{y + half * dy:.1f} {x2:.1f},{y2:.1f}"


def _along(way: list[Point]) -> Iterator[tuple[Point, bool]]:
    """Places along a way, the middle of its longest stretch first, and whether it is upright."""
    stretches = sorted(
        pairwise(way), key=lambda s: -abs(s[1][0] - s[0][0]) - abs(s[1][1] - s[0][1])
    )
    for share in (0.5, 0.3, 0.7, 0.15, 0.85):
        for (xa, ya), (xb, yb) in stretches:
            yield (xa + share * (xb - xa), ya + share * (yb - ya)), abs(xb - xa) < abs(yb - ya)


def _beside(way: list[Point]) -> Iterator[Point]:
    for (x, y), upright in _along(way):
        for side in (-15.0, 15.0):
            yield (x + side, y) if upright else (x, y + side)


def _valve(scene: Scene, run: Run, way: list[Point]) -> None:
    """Its body on the pipe and its handle as it is turned: along the pipe open, across it shut. A
    gate valve has a wheel instead."""
    if run.valve is None:
        return
    (x, y), upright = next(_along(way))
    if isinstance(run.valve, BallValve):
        words, (dx, dy) = f"{run.valve.angle:.0f}°", _lever(run.valve.angle, upright)
        handle = [f"{x:.1f},{y:.1f} {x + dx:.1f},{y + dy:.1f}"]
    else:
        words, (dx, dy) = f"{100 * run.valve.opening:.0f}%", _lever(90.0, upright)
        ax, ay = (0.0, 5.0) if upright else (5.0, 0.0)
        handle = [
            f"{x:.1f},{y:.1f} {x + dx:.1f},{y + dy:.1f}",
            f"{x + dx - ax:.1f},{y + dy - ay:.1f} {x + dx + ax:.1f},{y + dy + ay:.1f}",
        ]
    scene.strokes.append(Stroke(_round(x, y), 1.5, "valve-body", run.id))
    scene.strokes += [Stroke(points, 3.0, "valve", run.id) for points in handle]
    scene.keep_clear((x - 6, y - 6, x + 6, y + 6))
    ends_x, ends_y = sorted((x, x + dx)), sorted((y, y + dy))
    scene.keep_clear((ends_x[0] - 2, ends_y[0] - 2, ends_x[1] + 2, ends_y[1] + 2))
    beside = [
        Text(round(x + 13, 1), round(y + 4, 1), words, "mark-figure"),
        Text(round(x - 13, 1), round(y + 4, 1), words, "mark-figure", "end"),
    ]
    over = [
        Text(round(x + aside, 1), round(y + down, 1), words, "mark-figure")
        for down in (-12, 20, -25, 33) for aside in (-8, 4, -20)
    ]  # fmt: skip
    scene.write([*beside, *over] if upright else [*over, *beside])


def _lever(angle: float, upright: bool) -> Point:
    """Where a handle's end is from the valve's middle, turned so far from along the pipe."""
    along, across = cos(radians(angle)), sin(radians(angle))
    return (_HANDLE * across, -_HANDLE * along) if upright else (_HANDLE * along, -_HANDLE * across)


def _round(x: float, y: float) -> str:
    corners = (radians(45.0 * k + 22.5) for k in range(9))
    return " ".join(f"{x + _BODY * cos(a):.1f},{y + _BODY * sin(a):.1f}" for a in corners)
