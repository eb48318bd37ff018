"""Pipes with their valves and sizes, and each run's number beside it."""

from collections.abc import Iterator, Mapping
from itertools import islice, pairwise
from math import cos, radians, sin

from bathys.drawing.frame import Frame
from bathys.drawing.pipe_routes import Point, half_of, junction_place, ways_of
from bathys.drawing.scene import Rect, Scene, Stroke, Text
from bathys.drawing.stations import Station
from bathys.evaluation import Evaluation
from bathys.plan.model import Plan
from bathys.plan.pipes import Run
from bathys.units import System, show

__all__ = ["draw_pipes", "lay_pipes", "write_bores"]

_BODY, _HANDLE = 5.5, 15.0  # of a valve
_MOST_BORE_PLACES = 7  # tried for a bore; one that fits nowhere is in the list of parts


def draw_pipes(
    frame: Frame,
    scene: Scene,
    evaluation: Evaluation,
    numbers: dict[str, Station],
    ways: Mapping[str, list[Point]],
) -> None:
    """Draw every junction and valve, and number the runs.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    evaluation : Evaluation
        The numbers of a plan
    numbers : dict of str to Station
        The number of each part in the picture
    ways : mapping of str to list of Point
        Corner points of each run, by its id
    """
    plan = evaluation.plan
    for junction in plan.junctions:
        x, y = junction_place(frame, plan, junction)
        look = "junction outfall" if plan.is_outfall(junction.id) else "junction"
        scene.rects.append(Rect(x - 4.5, y - 4.5, 9, 9, look, junction.id))
        scene.number(
            [(x + 13, y - 13), (x - 13, y - 13), (x + 13, y + 13), (x - 13, y + 13), (x, y - 20)],
            numbers[junction.id],
        )
    for run in plan.runs:
        _valve(scene, run, ways[run.id])
        _in_line(scene, run, ways[run.id])
        _end(scene, run, ways[run.id])
        _filter(scene, run, ways[run.id])
    for run in plan.runs:
        scene.number(_beside(ways[run.id]), numbers[run.id])


def write_bores(scene: Scene, plan: Plan, ways: Mapping[str, list[Point]], units: System) -> None:
    """The bore beside each run that has room for it.

    Parameters
    ----------
    scene : Scene
        The picture
    plan : Plan
        The plan
    ways : mapping of str to list of Point
        Corner points of each run, by its id
    units : System
        The reader's units
    """
    for run in plan.runs:
        size = run.bore.size
        words = show(run.bore.inside, "length", units) if size is None else size.nominal
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
    """Draw every run, and let labels avoid it. The way of each comes back.

    Parameters
    ----------
    frame : Frame
        Where the plan lies in the picture
    scene : Scene
        The picture
    evaluation : Evaluation
        The numbers of a plan

    Returns
    -------
    dict of str to list of Point
        Corner points of each run, by its id
    """
    plan = evaluation.plan
    ways = ways_of(frame, plan)
    for run in plan.runs:
        _draw(frame, scene, evaluation, run, ways[run.id])
        for (xa, ya), (xb, yb) in pairwise(ways[run.id]):
            scene.avoid((min(xa, xb) - 4, min(ya, yb) - 4, max(xa, xb) + 4, max(ya, yb) + 4))
    return ways


def _draw(frame: Frame, scene: Scene, evaluation: Evaluation, run: Run, way: list[Point]) -> None:
    width = 2.0 * half_of(frame, run) - 2.5
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
    (x, y), upright = next(_along(way)) if run.valve_at is None else _at(way, run, run.valve_at)
    words, (dx, dy) = run.valve.mark, _lever(run.valve.turned, upright)
    handle = [f"{x:.1f},{y:.1f} {x + dx:.1f},{y + dy:.1f}"]
    if not run.valve.HAS_LEVER:
        ax, ay = (0.0, 5.0) if upright else (5.0, 0.0)
        handle.append(f"{x + dx - ax:.1f},{y + dy - ay:.1f} {x + dx + ax:.1f},{y + dy + ay:.1f}")
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
        for down in (-12, 20, -25, 33)
        for aside in (-8, 4, -20)
    ]
    scene.write([*beside, *over] if upright else [*over, *beside])


def _in_line(scene: Scene, run: Run, way: list[Point]) -> None:
    """A bar across the pipe for each kind of piece that is marked, one after the other."""
    free = islice(_along(way), 1, None)
    for piece in run.fittings:
        if piece.at is None and not piece.IS_DRAWN:
            continue
        found = next(free, None) if piece.at is None else _at(way, run, piece.at)
        if found is None:
            continue
        (x, y), upright = found
        dx, dy = (_BODY, 0.0) if upright else (0.0, _BODY)
        points = f"{x - dx:.1f},{y - dy:.1f} {x + dx:.1f},{y + dy:.1f}"
        scene.strokes.append(Stroke(points, 2.5, f"mark in-line {piece.kind}", run.id))
        scene.keep_clear((x - 6, y - 6, x + 6, y + 6))


def _at(way: list[Point], run: Run, metres: float) -> tuple[Point, bool]:
    """The place so many metres of pipe from where a run begins, and whether it is upright there: at
    the same share of the way drawn."""
    spans = [
        (abs(xb - xa) + abs(yb - ya), a, b)
        for a, b in pairwise(way)
        for (xa, ya), (xb, yb) in [(a, b)]
    ]
    left = min(metres / max(run.level_length, metres, 1e-9), 1.0) * sum(s for s, _, _ in spans)
    for long, (xa, ya), (xb, yb) in spans:
        if left <= long and long > 0.0:
            share = left / long
            return (xa + share * (xb - xa), ya + share * (yb - ya)), abs(xb - xa) < abs(yb - ya)
        left -= long
    return way[-1], False


def _end(scene: Scene, run: Run, way: list[Point]) -> None:
    """What it ends in, at its end."""
    if run.ends_in is None:
        return
    x, y = way[-1]
    points = " ".join(f"{x + dx:.1f},{y + dy:.1f}" for dx, dy in run.ends_in.MARK)
    scene.strokes.append(Stroke(points, 2.0, "mark", run.id))
    scene.keep_clear((x - 12, y - 9, x + 12, y + 12))


def _filter(scene: Scene, run: Run, way: list[Point]) -> None:
    """A filter where it stands: before the run, on its longest stretch, or at its end."""
    if run.filter is None:
        return
    ends = {"before": way[0], "behind": way[-1]}
    x, y = ends.get(run.filter.STANDS) or next(islice(_along(way), 2, None))[0]
    points = " ".join(f"{x + dx:.1f},{y + dy:.1f}" for dx, dy in run.filter.MARK)
    scene.strokes.append(Stroke(points, 1.8, "filter", run.id))
    scene.keep_clear((x - 11, y - 11, x + 11, y + 19))


def _lever(angle: float, upright: bool) -> Point:
    """Where a handle's end is from the valve's middle, turned so far from along the pipe."""
    along, across = cos(radians(angle)), sin(radians(angle))
    return (_HANDLE * across, -_HANDLE * along) if upright else (_HANDLE * along, -_HANDLE * across)


def _round(x: float, y: float) -> str:
    corners = (radians(45.0 * k + 22.5) for k in range(9))
    return " ".join(f"{x + _BODY * cos(a):.1f},{y + _BODY * sin(a):.1f}" for a in corners)
